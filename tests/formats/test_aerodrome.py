"""METAR and TAF in the forms of ICAO Annex 3, made up from general knowledge."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from zealous_lark.core.forecast import Hour
from zealous_lark.core.readings import Precipitation
from zealous_lark.formats.aerodrome import read_metar, read_taf
from zealous_lark.formats.errors import BadFileError

NEAR = datetime(2026, 9, 27, 7, tzinfo=UTC)
KT = 1852 / 3600


def seen(text: str) -> Hour:
    (hour,) = read_metar(text, NEAR).hours
    return hour


def test_a_whole_report() -> None:
    read = read_metar("METAR EEXX 270650Z 24008G18KT 200V280 9999 FEW020 SCT045 06/04 Q1013 NOSIG=", NEAR)
    assert read.source == "METAR EEXX"
    assert read.issued_at == datetime(2026, 9, 27, 6, 50, tzinfo=UTC)
    assert read.end - read.begin == timedelta(hours=1)
    (hour,) = read.hours
    (wind,) = hour.winds
    assert (wind.height_m, wind.direction_deg) == (10, 240)
    assert wind.speed_ms == pytest.approx(8 * KT)
    assert wind.gust_ms == pytest.approx(18 * KT)
    assert (hour.temperature_c, hour.dew_point_c, hour.visibility_m) == (6, 4, 10_000)
    assert hour.falls is Precipitation.NONE
    assert (hour.cloud_base_m, hour.cloud_pct) == (None, 45)


@pytest.mark.parametrize(
    ("wind", "speed", "gust", "direction"),
    [
        ("25005MPS", 5.0, None, 250),
        ("25005G11MPS", 5.0, 11.0, 250),
        ("00000KT", 0.0, None, 0),
        ("VRB02KT", 2 * KT, None, 0),
        ("36010KT", 10 * KT, None, 0),
        ("270P49MPS", 49.0, 49 * 1.25, 270),
    ],
)
def test_winds(wind: str, speed: float, gust: float | None, direction: float) -> None:
    (level,) = seen(f"EEXX 270650Z {wind} CAVOK 06/04 Q1013").winds
    assert level.speed_ms == pytest.approx(speed)
    assert level.gust_ms == (None if gust is None else pytest.approx(gust))
    assert level.direction_deg == direction


def test_cavok_and_degrees_below_nought() -> None:
    hour = seen("UUXX 270930Z 25005MPS CAVOK M09/M13 Q1030")
    assert (hour.temperature_c, hour.dew_point_c) == (-9, -13)
    assert (hour.visibility_m, hour.cloud_pct, hour.falls) == (10_000, 0, Precipitation.NONE)


def test_fog_with_a_vertical_visibility() -> None:
    hour = seen("SPECI EEXX 270650Z VRB02KT 0300 R08/0450N FG VV001 M01/M01 Q1020")
    assert (hour.visibility_m, hour.falls, hour.cloud_pct) == (300, Precipitation.FOG, 100)
    assert hour.cloud_base_m == pytest.approx(30.48)


@pytest.mark.parametrize(
    ("groups", "falls"),
    [
        ("-RA", Precipitation.LIGHT),
        ("-SN", Precipitation.LIGHT),
        ("DZ", Precipitation.LIGHT),
        ("RA", Precipitation.HEAVY),
        ("+SHRA", Precipitation.HEAVY),
        ("TSRA", Precipitation.HEAVY),
        ("FZFG", Precipitation.FOG),
        ("-RA FG", Precipitation.FOG),
        ("MIFG", Precipitation.NONE),  # shallow, below two metres
        ("VCSH", Precipitation.NONE),
        ("BR", Precipitation.NONE),
    ],
)
def test_what_falls(groups: str, falls: Precipitation) -> None:
    assert seen(f"EEXX 270650Z 24008KT 4000 {groups} BKN012 06/04 Q1013").falls is falls


def test_statute_miles_and_a_broken_cloud() -> None:
    hour = seen("METAR KXXX 271853Z AUTO 31012G20KT 1 1/2SM -RA BKN012 OVC020 08/06 A2992 RMK AO2 SLP123")
    assert hour.visibility_m == pytest.approx(1.5 * 1609.344)
    assert hour.cloud_base_m == pytest.approx(1200 * 0.3048)


def test_a_trend_is_no_weather_of_now() -> None:
    hour = seen("EEXX 270650Z 20004KT 9999 SCT030 18/16 Q1008 TEMPO 3000 +SHRA")
    assert hour.falls is Precipitation.NONE
    assert hour.visibility_m == 10_000


def test_the_day_is_that_nearest_to_now() -> None:
    new_year = datetime(2027, 1, 1, 0, 20, tzinfo=UTC)
    assert read_metar("EEXX 312350Z 24008KT CAVOK 06/04 Q1013", new_year).issued_at == datetime(
        2026, 12, 31, 23, 50, tzinfo=UTC
    )


@pytest.mark.parametrize(
    ("text", "group"),
    [
        ("METAR EEXX 270650Z 24O08KT 9999 FEW020 06/04 Q1013", "24O08KT (group 3, from letter 20)"),
        ("METAR EEXX 270650Z 24008KT 9999 FEW02 06/04 Q1013", "FEW02 (group 5, from letter 33)"),
        ("METAR EEXX 270650Z 24008KT 9999 FEW020 06-04 Q1013", "06-04 (group 6, from letter 40)"),
        ("METAR EE1 270650Z 24008KT 9999 06/04 Q1013", "EE1 (group 1, from letter 7)"),
        ("METAR EEXX 2706Z 24008KT 9999 06/04 Q1013", "2706Z (group 2, from letter 12)"),
        ("METAR EEXX 450650Z 24008KT 9999 06/04 Q1013", "450650Z"),
        ("METAR EEXX 270650Z NIL", "METAR EEXX 270650Z NIL"),
        ("METAR EEXX 270650Z /////KT //// ///// Q////", "METAR EEXX 270650Z /////KT //// ///// Q////"),
        ("", "nothing"),
    ],
)
def test_a_broken_report_is_refused_with_the_place_of_the_fault(text: str, group: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read_metar(text, NEAR)
    assert refused.value.given == group


TAF = (
    "TAF EEXX 270500Z 2706/2806 24008KT 9999 SCT030 BECMG 2710/2712 28015G28KT TEMPO 2712/2718 4000 -SHRA BKN014 "
    "PROB30 TEMPO 2803/2806 0400 FG TX12/2712Z TNM01/2803Z"
)


def at(day: int, hour: int) -> datetime:
    return datetime(2026, 9, day, hour, tzinfo=UTC)


def test_a_taf_hour_by_hour() -> None:
    read = read_taf(TAF, NEAR)
    assert read.issued_at == at(27, 5)
    assert (read.begin, read.end, len(read.hours)) == (at(27, 6), at(28, 6), 25)
    hours = {h.at: h for h in read.hours}
    assert hours[at(27, 9)].winds[0].speed_ms == pytest.approx(8 * KT)
    # While it becomes windier the stronger wind counts, and after it for good.
    for when in (at(27, 10), at(27, 12), at(28, 6)):
        assert hours[when].winds[0].gust_ms == pytest.approx(28 * KT)
    assert (hours[at(27, 13)].falls, hours[at(27, 13)].visibility_m) == (Precipitation.LIGHT, 4000)
    assert hours[at(27, 13)].cloud_base_m == pytest.approx(1400 * 0.3048)
    # What is over for good is gone; what is only probable counts too.
    assert (hours[at(27, 18)].falls, hours[at(27, 18)].visibility_m) == (Precipitation.NONE, 10_000)
    assert hours[at(28, 3)].falls is Precipitation.FOG
    assert all(h.temperature_c is None for h in read.hours)


def test_from_a_minute_on_all_is_new() -> None:
    read = read_taf("TAF AMD EEXX 270500Z 2706/2724 18005MPS CAVOK FM271215 30010G16MPS 6000 RA OVC010", NEAR)
    hours = {h.at: h for h in read.hours}
    assert read.end == at(28, 0)
    assert (hours[at(27, 12)].winds[0].speed_ms, hours[at(27, 12)].falls) == (5, Precipitation.NONE)
    assert (hours[at(27, 13)].winds[0].speed_ms, hours[at(27, 13)].falls) == (10, Precipitation.HEAVY)
    # Between the two the worse of both is reckoned with.
    between = read.at(datetime(2026, 9, 27, 12, 30, tzinfo=UTC))
    assert between is not None
    assert between.falls is Precipitation.HEAVY


@pytest.mark.parametrize(
    ("text", "group"),
    [
        ("TAF EEXX 270500Z 2706/2806 24008KT 9999 XXX", "XXX (group 6, from letter 41)"),
        ("TAF EEXX 270500Z 2706-2806 24008KT 9999", "2706-2806 (group 3, from letter 18)"),
        ("TAF EEXX", "TAF EEXX"),
    ],
)
def test_a_broken_taf_is_refused_with_the_place_of_the_fault(text: str, group: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read_taf(text, NEAR)
    assert refused.value.given == group

"""Forecasts as tables."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_csv import Chosen, read_forecast_csv, read_forecast_head

NOW = datetime(2026, 9, 26, 18, tzinfo=UTC)


def test_rows_become_hours_with_levels() -> None:
    read = read_forecast_csv(
        b"time,height_m,speed_kmh,gust_kmh,direction_deg,temperature_f,visibility_km,rain_mmh,kp\n"
        b"2026-09-27T07:00+03:00,100,36,54,250,,,,\n"
        b"2026-09-27T06:00+03:00,10,18,36,240,41,5,0.2,3\n"
        b"\n"
        b"2026-09-27T06:00+03:00,100,28.8,,245,,,,\n",
        "mine.csv",
        NOW,
    )
    assert (read.source, read.issued_at) == ("Table mine.csv", NOW)
    first, second = read.hours
    assert first.at == datetime(2026, 9, 27, 3, tzinfo=UTC)
    low, high = first.winds
    assert (low.height_m, low.direction_deg) == (10, 240)
    assert (low.speed_ms, low.gust_ms) == (pytest.approx(5), pytest.approx(10))
    assert (high.height_m, high.speed_ms, high.gust_ms) == (100, pytest.approx(8), None)
    assert first.temperature_c == pytest.approx(5)
    assert (first.visibility_m, first.rain_mmh, first.kp) == (5000, 0.2, 3)
    assert [w.height_m for w in second.winds] == [100]


def test_semicolons_with_decimal_commas() -> None:
    read = read_forecast_csv("time;temperature_c\n2026-09-27T06:00Z;6,5\n".encode("utf-8-sig"), "x", NOW)
    assert read.hours[0].temperature_c == 6.5


HEAD = b"time,height_m,speed_ms,gust_ms,direction_deg\n"


@pytest.mark.parametrize(
    ("data", "given"),
    [
        (b"time,speed\n", "row 1, column 2: speed"),
        (b"time,time\n", "row 1: time twice"),
        (b"height_m\n10\n", "no column time"),
        (HEAD, "no rows"),
        (HEAD + b"2026-09-27T06:00,10,3,,240\n", "row 2, time: 2026-09-27T06:00"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,240\n2026-09-27T07:00Z,10,abc,,240\n", "row 3, speed_ms: abc"),
        (HEAD + b"2026-09-27T06:00Z,10,-3,,240\n", "row 2, speed_ms: -3"),
        (HEAD + b"2026-09-27T06:00Z,10,nan,,240\n", "row 2, speed_ms: nan"),
        (HEAD + b"2026-09-27T06:00Z,10,3,2,240\n", "row 2: a gust under the mean speed"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,\n", "row 2: a wind speed without direction_deg"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,240,7\n", "row 2: 6 values"),
        (b"\xff\xfe", "bytes after row 0 that are not UTF-8"),
    ],
)
def test_a_fault_is_named_by_row_and_column(data: bytes, given: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read_forecast_csv(data, "x", NOW)
    assert refused.value.given == given


OTHERS = b"""Date;Wind speed 10m (kt);Wind direction;Gusts [km/h];Temperature (C);Comment
2026-09-27 06:00;10;240;36,5;6,5;fine
2026-09-27 07:00;12;250;;7;
"""


def test_a_table_of_other_names_is_guessed_and_read_by_the_pilots_word() -> None:
    head = read_forecast_head(OTHERS)
    assert not head.known
    assert head.guess == Chosen(
        {
            "Date": "time_utc", "Wind speed 10m (kt)": "speed_kn", "Wind direction": "direction_deg",
            "Gusts [km/h]": "gust_kmh", "Temperature (C)": "temperature_c",
        },
        10,
    )  # fmt: skip
    first, second = read_forecast_csv(OTHERS, "a.csv", NOW, head.guess).hours
    assert first.at == datetime(2026, 9, 27, 6, tzinfo=UTC)
    (wind,) = first.winds
    assert (wind.height_m, wind.direction_deg) == (10, 240)
    assert wind.speed_ms == pytest.approx(10 * 1852 / 3600)
    assert wind.gust_ms == pytest.approx(36.5 / 3.6)
    assert (first.temperature_c, second.temperature_c, second.winds[0].gust_ms) == (6.5, 7, None)
    assert read_forecast_head(HEAD + b"2026-09-27T06:00Z,10,3,4,240\n").known


def test_a_unit_that_is_not_known_is_not_taken_for_another() -> None:
    head = read_forecast_head(b"time,Wind (furlong/d),Rain (mm),Wind direction\n2026-09-27T06:00Z,3,2,240\n")
    assert head.guess.columns == {"time": "time", "Wind direction": "direction_deg"}


@pytest.mark.parametrize(
    ("chosen", "given"),
    [
        (Chosen({"Day": "time_utc"}), "column 'Day'"),
        (Chosen({"Date": "time_utc", "Gusts [km/h]": "gust_furlongs"}), "as 'gust_furlongs'"),
        (Chosen({"Date": "time_utc", "Gusts [km/h]": "speed_ms", "Wind direction": "speed_ms"}), "two columns as"),
        (Chosen({"Gusts [km/h]": "speed_ms"}), "no column for the time"),
        (Chosen({"Date": "time"}), "row 2, time: 2026-09-27 06:00"),
        (Chosen({"Date": "time_utc", "Wind speed 10m (kt)": "speed_kn", "Wind direction": "direction_deg"}),
         "a wind speed without height_m"),
    ],
)  # fmt: skip
def test_a_choice_that_cannot_be_is_refused_by_name(chosen: Chosen, given: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read_forecast_csv(OTHERS, "a.csv", NOW, chosen)
    assert given in refused.value.given

"""Weather at a moment out of a forecast."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import changed, find, forecast, measured
from zealous_lark.core.checks import Status
from zealous_lark.core.fixes import fixes
from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.readings import Figure, Precipitation, Provenance
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import judge

BEGIN = datetime(2026, 9, 27, 4, tzinfo=UTC)


def made(*hours: Hour, issued: datetime = BEGIN) -> Forecast:
    return Forecast("Made", issued, hours)


def hour(n: float, **values: object) -> Hour:
    return Hour(at=BEGIN + timedelta(hours=n), **values)  # type: ignore[arg-type]


def test_between_two_hours() -> None:
    found = made(
        hour(0, winds=(forecast(4, 350, 6),), temperature_c=4.0, kp=2.0, visibility_m=9000.0, rain_mmh=0.0),
        hour(2, winds=(forecast(4, 10, 10),), temperature_c=8.0, kp=5.0, visibility_m=2000.0, rain_mmh=3.0),
    ).at(BEGIN + timedelta(hours=1))
    assert found is not None
    assert found.winds[0].speed_ms == pytest.approx(4)
    assert found.winds[0].direction_deg % 360 == pytest.approx(0, abs=1e-9)  # through north, not through south
    assert found.winds[0].gust_ms == pytest.approx(8)
    assert found.temperature_c == 6
    # What may harm is the worse of both.
    assert (found.kp, found.visibility_m, found.falls) == (5, 2000, Precipitation.HEAVY)


def test_it_says_nothing_outside_and_in_long_gaps() -> None:
    source = made(hour(0, temperature_c=4.0), hour(1, temperature_c=5.0), hour(5, temperature_c=9.0))
    for n, known in ((-0.1, False), (0, True), (0.5, True), (1, True), (1.5, False), (5, True), (5.1, False)):
        assert (source.at(BEGIN + timedelta(hours=n)) is not None) == known, n


def test_what_is_not_said_stays(situation: Situation) -> None:
    base = changed(
        situation,
        weather__winds=(measured(2),),
        weather__provenance=(Provenance(Figure.KP, "Elsewhere", None), Provenance(Figure.WINDS, "Hand", None)),
    ).weather
    weather = made(hour(0, winds=(forecast(5),), temperature_c=1.0)).weather_at(BEGIN, base)
    assert weather is not None
    assert weather.winds == (forecast(5),)
    assert (weather.temperature_c, weather.dew_point_c) == (1.0, base.dew_point_c)
    sources = {p.figure: (p.source, p.as_of) for p in weather.provenance}
    assert sources == {
        Figure.KP: ("Elsewhere", None), Figure.WINDS: ("Made", BEGIN), Figure.TEMPERATURE: ("Made", BEGIN),
    }  # fmt: skip


@pytest.mark.parametrize(
    ("rain", "visibility", "falls"),
    [
        (0.0, 20_000, Precipitation.NONE),
        (0.05, 20_000, Precipitation.NONE),
        (0.1, 20_000, Precipitation.LIGHT),
        (2.5, 20_000, Precipitation.HEAVY),  # AMS glossary, from memory: light up to 2.5 mm/h
        (0.0, 999, Precipitation.FOG),  # WMO, from memory: fog under 1 km
        (0.0, 1000, Precipitation.NONE),
        (None, None, None),
    ],
)
def test_what_falls(rain: float | None, visibility: float | None, falls: Precipitation | None) -> None:
    assert hour(0, rain_mmh=rain, visibility_m=visibility).falls is falls


@given(st.floats(0, 6), st.floats(0, 30), st.floats(0, 30), st.floats(0, 360), st.floats(0, 360))
def test_a_wind_between_lies_between(n: float, a: float, b: float, from_a: float, from_b: float) -> None:
    source = made(hour(0, winds=(forecast(a, from_a, a + 2),)), hour(3, winds=(forecast(b, from_b, b + 4),)),
                  hour(6, winds=(forecast(a, from_a, a + 2),)))  # fmt: skip
    found = source.at(BEGIN + timedelta(hours=n))
    assert found is not None
    (wind,) = found.winds
    assert min(a, b) - 1e-9 <= wind.speed_ms <= max(a, b) + 1e-9
    assert wind.gust_ms is not None
    assert wind.gust_ms >= wind.speed_ms
    assert 0 <= wind.direction_deg <= 360


def test_old_weather_is_unknown_after_the_pilots_limit(situation: Situation) -> None:
    issued = situation.takeoff_at - timedelta(hours=20)
    dated = changed(situation, weather__as_of=issued)

    def age(hours: float, limit: float = 12) -> Status:
        now = issued + timedelta(hours=hours)
        return find(changed(dated, judged_at=now, minimums__weather_age_h=limit), "weather.age").status

    assert (age(3), age(12), age(12.1), age(12.1, 24)) == (Status.PASS, Status.PASS, Status.UNKNOWN, Status.PASS)
    assert judge(changed(dated, judged_at=issued + timedelta(hours=13))).verdict == "unknown"
    # A flight that is over is judged as it was then, however long ago that is.
    assert find(changed(dated, judged_at=issued + timedelta(days=300), minimums__weather_age_h=24),
                "weather.age").value == pytest.approx(20)  # fmt: skip


def test_each_figure_has_its_own_age(situation: Situation) -> None:
    now = situation.takeoff_at
    s = changed(
        situation,
        judged_at=now,
        weather__as_of=now - timedelta(hours=1),
        weather__provenance=(Provenance(Figure.WINDS, "Old service", now - timedelta(hours=30)),),
    )
    found = find(s, "weather.age")
    assert found.sentence.startswith("Wind: 30 h old")
    assert "Wind: 30.0 h old, Old service" in found.working
    assert "Temperature: 1.0 h old, as entered" in found.working


def test_a_reported_cloud_base_counts_where_it_is_lower(situation: Situation) -> None:
    assert find(changed(situation, weather__cloud_base_m=100.0), "weather.cloud_base").limit == 100
    assert find(changed(situation, weather__cloud_base_m=900.0), "weather.cloud_base").limit == 250
    alone = changed(situation, weather__cloud_base_m=100.0, weather__dew_point_c=None)
    assert find(alone, "weather.cloud_base").limit == 100


def test_waiting_is_a_lever_when_the_forecast_calms_down(situation: Situation) -> None:
    at = situation.takeoff_at

    def then(n: int, speed: float) -> Hour:
        return Hour(at=at + timedelta(hours=n), winds=(forecast(speed, 240, speed * 1.4),), temperature_c=9.0)

    calming = Forecast("Made", at, (then(0, 14.0), then(1, 14.0), then(2, 2.0), then(5, 2.0)))
    windy = changed(situation, forecast=calming).moved_to(at)
    judgement = judge(windy)
    check = next(j.check for j in judgement.judged if j.check.id == "wind.steady")
    waits = [x for x in fixes(judgement, check) if x.changes[0][0] == "takeoff_at"]
    assert [x.sentence for x in waits] == ["Wait until 27 Sep, 09:45."]
    moved = windy.moved_to(waits[0].changes[0][1])
    assert find(moved, "wind.steady").status is Status.PASS
    assert moved.weather.winds[0].speed_ms < 4

"""Laws of whole verdicts: nothing jumps from launch to stay; what makes a flight harder never makes it look better."""

from __future__ import annotations

import os
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.make import changed
from tests.plans.table import ROWS, Row, plan_of
from zealous_lark.core.checks.base import SEVERITY, Status
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import LostLink, Situation, SpeedMode
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import Judgement, Verdict, judge
from zealous_lark.plan import situation_of

TRIES = int(os.environ.get("LARK_TRIES", "60"))
"""`make soak` tries more."""

CALM = situation_of(plan_of(Row("calm", {}, "launch", "", "")))
SMALL = situation_of(plan_of(Row("small", {"settings.rth_altitude_m": 35}, "launch", "", "", dunlin=True)))

MAY_JUMP = frozenset({"rules.height", "return.ceiling", "rules.mass"})
"""What the law or a part's rating fixes exactly: the legal height and the masses. All else has care between."""


def _weather(s: Situation, **values: Any) -> Situation:
    return replace(s, weather=replace(s.weather, **values))


def _first_wind(s: Situation, **values: Any) -> Situation:
    first, *rest = s.weather.winds
    return _weather(s, winds=(replace(first, **values), *rest))


def _first_thing(s: Situation, **values: Any) -> Situation:
    first, *rest = s.site.obstacles
    return changed(s, site__obstacles=(replace(first, **values), *rest))


SLIDERS: dict[str, tuple[float, float, float, Any]] = {
    "distance": (5, 400, 5, lambda s, v: changed(s, flight__distance_m=v)),
    "height": (5, 110, 1, lambda s, v: changed(s, flight__height_m=v)),
    "bearing": (0, 355, 1, lambda s, v: changed(s, flight__bearing_deg=v)),
    "station": (0, 25, 0.5, lambda s, v: changed(s, flight__station_min=v)),
    "return height": (5, 115, 1, lambda s, v: changed(s, settings__rth_altitude_m=v)),
    "charge": (40, 99, 1, lambda s, v: changed(s, pack__charge_pct=v)),
    "battery temperature": (-10, 55, 1, lambda s, v: changed(s, pack__temperature_c=v)),
    "air temperature": (-12, 42, 0.5, lambda s, v: _weather(s, temperature_c=v, dew_point_c=min(s_dew(s), v - 1))),
    "dew point": (-10, 14, 0.1, lambda s, v: _weather(s, dew_point_c=v)),
    "visibility": (200, 8000, 50, lambda s, v: _weather(s, visibility_m=v)),
    "wind": (0, 14, 0.1, lambda s, v: _first_wind(s, speed_ms=v, gust_ms=v + 2)),
    "gusts": (6, 16, 0.1, lambda s, v: _first_wind(s, gust_ms=v)),
    "wind direction": (0, 359, 1, lambda s, v: _first_wind(s, direction_deg=v)),
    "top of what stands there": (0, 115, 0.5, lambda s, v: _first_thing(s, height_m=v)),
    "distance of what stands there": (2, 300, 0.5, lambda s, v: _first_thing(s, distance_m=v)),
    "bearing of what stands there": (0, 359, 1, lambda s, v: _first_thing(s, bearing_deg=v)),
    "depth of what stands there": (0, 60, 0.5, lambda s, v: _first_thing(s, depth_m=v)),
    "elevation": (0, 4000, 50, lambda s, v: changed(s, site__elevation_m=v)),
    "Kp": (0, 8, 0.3, lambda s, v: _weather(s, kp=v)),
}


def s_dew(s: Situation) -> float:
    return s.weather.dew_point_c if s.weather.dew_point_c is not None else 0.0


@st.composite
def situations(draw: st.DrawFn) -> Situation:
    """Calm days with a few things that stand there, some wind and some settings."""
    s = draw(st.sampled_from((CALM, SMALL)))
    things = tuple(
        Obstacle(
            draw(st.sampled_from(list(ObstacleKind))),
            draw(st.floats(0.5, 60)),
            draw(st.floats(2, 250)),
            draw(st.floats(0, 359)),
            draw(st.floats(0, 30)),
        )
        for _ in range(draw(st.integers(1, 2)))
    )
    levels = [WindLevel(10, draw(st.floats(0, 6)), draw(st.floats(0, 359)), WindSource.FORECAST, None)]
    if draw(st.booleans()):
        levels.append(WindLevel(60, draw(st.floats(0, 8)), draw(st.floats(0, 359)), WindSource.FORECAST, None))
    return changed(
        s,
        site__obstacles=things,
        weather__winds=tuple(levels),
        flight__distance_m=draw(st.floats(10, 200)),
        flight__height_m=draw(st.floats(15, 80)),
        flight__bearing_deg=draw(st.floats(0, 359)),
        flight__outbound_mode=draw(st.sampled_from([SpeedMode.SLOW, SpeedMode.NORMAL, SpeedMode.FAST])),
        settings__rth_altitude_m=draw(st.sampled_from([25.0, 40.0, 60.0, 75.0])),
        settings__lost_link=draw(st.sampled_from([LostLink.RETURN, LostLink.HOVER])),
    )


def failing(judgement: Judgement) -> set[str]:
    return {j.check.id for j in judgement.judged if j.finding.status is Status.FAIL}


@pytest.mark.parametrize("slider", SLIDERS)
@settings(max_examples=TRIES)
@given(st.data())
def test_no_verdict_jumps_from_launch_to_stay_in_one_step(slider: str, data: st.DataObject) -> None:
    low, high, step, put = SLIDERS[slider]
    s = data.draw(situations())
    value = low + step * data.draw(st.integers(0, int((high - low) / step) - 1))
    try:
        one, other = judge(put(s, value)), judge(put(s, value + step))
    except ValueError:
        return
    verdicts = {one.verdict, other.verdict}
    if verdicts == {Verdict.LAUNCH, Verdict.STAY}:
        worse = one if one.verdict is Verdict.STAY else other
        assert failing(worse) <= MAY_JUMP, (slider, value, [
            (j.check.id, j.finding.sentence(METRIC)) for j in worse.judged if j.finding.status is Status.FAIL
        ])  # fmt: skip


def worst_of(s: Situation, *prefixes: str) -> int:
    return max((SEVERITY[j.finding.status] for j in judge(s).judged if j.check.id.startswith(prefixes)), default=0)


@settings(max_examples=TRIES)
@given(situations(), st.floats(0.1, 4))
def test_more_headwind_home_never_betters_the_wind(s: Situation, more: float) -> None:
    home = (s.flight.bearing_deg + 180) % 360
    one = changed(s, weather__winds=(WindLevel(10, 2, home, WindSource.FORECAST, 4),))
    other = changed(s, weather__winds=(WindLevel(10, 2 + more, home, WindSource.FORECAST, 4 + more),))
    assert worst_of(other, "wind.") >= worst_of(one, "wind.")


@settings(max_examples=TRIES)
@given(situations(), st.floats(40, 100), st.floats(0, 30))
def test_less_charge_never_betters_the_battery(s: Situation, charge: float, less: float) -> None:
    one, other = (changed(s, pack__charge_pct=c) for c in (charge, charge - less))
    assert worst_of(other, "battery.charge", "battery.budget", "battery.reach") >= worst_of(
        one, "battery.charge", "battery.budget", "battery.reach"
    )


@settings(max_examples=TRIES)
@given(situations(), st.floats(0, 80), st.floats(0, 80))
def test_more_payload_never_betters_mass_or_battery(s: Situation, payload: float, more: float) -> None:
    one, other = (changed(s, aircraft__payload_g=p) for p in (payload, payload + more))
    for prefix in ("rules.mass", "battery.budget", "battery.reach"):
        assert worst_of(other, prefix) >= worst_of(one, prefix)


@settings(max_examples=TRIES)
@given(situations(), situations())
def test_one_more_thing_that_stands_there_never_clears_the_way(s: Situation, more: Situation) -> None:
    fuller = changed(s, site__obstacles=(*s.site.obstacles, *more.site.obstacles))
    assert worst_of(fuller, "clear.") >= worst_of(s, "clear.")
    wasteful = judge(s).assessment.return_height
    # A return height that was too high by so much may be right for what stands there now.
    if s.settings.rth_altitude_m <= (wasteful.recommended_m or 0) + 30:
        assert worst_of(fuller, "return.clearance") >= worst_of(s, "return.clearance")


def test_the_table_covers_two_things_at_once() -> None:
    """Half of the table of whole plans is about at least two things at once."""
    assert len(ROWS) >= 60
    assert sum(len(row.changes) >= 2 for row in ROWS) >= len(ROWS) / 2
    assert len({row.name for row in ROWS}) == len(ROWS)

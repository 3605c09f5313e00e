"""Laws that hold for any plan."""

import re
from dataclasses import replace
from pathlib import Path

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.make import EXAMPLES, changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.situation import Situation, SpeedMode, Surroundings
from zealous_lark.core.units import METRES_PER_FOOT, METRIC, PER_MS, LengthUnit, SpeedUnit, TemperatureUnit, Units
from zealous_lark.core.verdict import Judgement, judge
from zealous_lark.plan import read_plan, situation_of

BASE = situation_of(read_plan(Path(EXAMPLES / "example-plan.json").read_text()))


@st.composite
def situations(draw: st.DrawFn) -> Situation:
    """Flights of the example's aircraft in any wind, over any ground, with any obstacles."""
    number = lambda low, high: draw(st.floats(low, high))  # noqa: E731
    obstacles = draw(
        st.lists(
            st.builds(
                Obstacle,
                st.sampled_from(list(ObstacleKind)),
                st.floats(1, 120),
                st.floats(1, 1000),
                st.floats(0, 359),
                st.floats(0, 300),
            ),
            max_size=4,
        )
    )
    speed = number(0, 14)
    s = wind(BASE, forecast(speed, number(0, 359), draw(st.none() | st.just(speed + number(0, 6)))))
    return changed(
        s,
        site__surroundings=draw(st.sampled_from(list(Surroundings))),
        site__obstacles=tuple(obstacles),
        site__over_water=draw(st.booleans()),
        flight__bearing_deg=number(0, 359),
        flight__distance_m=number(0, 3000),
        flight__height_m=number(0, 130),
        flight__station_min=number(0, 20),
        flight__outbound_mode=draw(st.sampled_from([SpeedMode.SLOW, SpeedMode.NORMAL, SpeedMode.FAST])),
        flight__return_mode=draw(st.sampled_from(list(SpeedMode))),
        settings__rth_altitude_m=number(0, 130),
        pack__charge_pct=number(30, 100),
        weather__temperature_c=number(-15, 35),
    )


def reach(situation: Situation, bearing: float) -> float:
    flyer = Assessment(situation).flyer
    assert flyer is not None
    return flyer.reach(bearing).distance_m[0]


@given(situations())
def test_upwind_first_reaches_at_least_as_far_when_the_return_is_slower(s: Situation) -> None:
    # At one height for both legs, so that both meet the same wind.
    s = changed(s, settings__rth_altitude_m=s.flight.height_m)
    aircraft, flight = s.aircraft, s.flight
    assume(aircraft.airspeed_ms(flight.return_mode) <= aircraft.airspeed_ms(flight.outbound_mode))
    upwind = s.weather.winds[0].direction_deg
    out = Assessment(s).flyer
    assert out is not None
    # A slow return can outrun an outbound leg that makes no headway; that reaches nowhere either way.
    assume(out.speed_out_ms(upwind) > 0)
    assert reach(s, upwind) >= reach(s, upwind + 180) - 1e-6


@given(situations(), st.floats(0, 40), st.floats(0, 40))
def test_more_reserve_never_gives_more_reach(s: Situation, one: float, other: float) -> None:
    low, high = sorted((one, other))
    assert reach(changed(s, minimums__reserve_pct=high), 77) <= reach(changed(s, minimums__reserve_pct=low), 77)


@given(situations(), st.floats(0, 3))
def test_more_wind_never_reaches_further_downwind(s: Situation, more: float) -> None:
    """With the wind behind on the flight out, more of it only shortens the way that comes home."""
    level = s.weather.winds[0]
    stronger = wind(s, replace(level, speed_ms=level.speed_ms + more, gust_ms=None))
    s = changed(stronger, weather__winds=(replace(level, gust_ms=None),), flight__station_min=0.0)
    stronger = changed(stronger, flight__station_min=0.0)
    same = changed(s, settings__rth_altitude_m=s.flight.height_m)
    assume(s.aircraft.airspeed_ms(s.flight.return_mode) <= s.aircraft.airspeed_ms(s.flight.outbound_mode))
    downwind = level.direction_deg + 180
    after = changed(stronger, settings__rth_altitude_m=s.flight.height_m)
    assert reach(after, downwind) <= reach(same, downwind) + 1e-6


def facts(judgement: Judgement) -> list[tuple[str, str, float | None, float | None]]:
    """Everything judged, rounded past the last digits of sines and cosines."""
    by_id = sorted(judgement.judged, key=lambda j: j.check.id)
    return [
        (
            j.check.id,
            j.finding.status,
            None if j.finding.value is None else round(j.finding.value, 6),
            None if j.finding.used is None else round(j.finding.used, 6),
        )
        for j in by_id
    ]


@given(situations(), st.sampled_from([15.0, 30.0, 90.0, 128.0, 256.0]))
def test_turning_wind_bearing_and_obstacles_together_changes_nothing(s: Situation, turn: float) -> None:
    # Whole degrees turn without rounding, so that nothing slips over the edge of a corridor.
    s = changed(
        s,
        flight__bearing_deg=float(round(s.flight.bearing_deg)),
        weather__winds=tuple(replace(w, direction_deg=float(round(w.direction_deg))) for w in s.weather.winds),
        site__obstacles=tuple(replace(o, bearing_deg=float(round(o.bearing_deg))) for o in s.site.obstacles),
    )
    turned = changed(
        s,
        flight__bearing_deg=(s.flight.bearing_deg + turn) % 360,
        weather__winds=tuple(replace(w, direction_deg=(w.direction_deg + turn) % 360) for w in s.weather.winds),
        site__obstacles=tuple(replace(o, bearing_deg=(o.bearing_deg + turn) % 360) for o in s.site.obstacles),
    )
    for (name, status, value, used), (_, status2, value2, used2) in zip(
        facts(judge(s)), facts(judge(turned)), strict=True
    ):
        if name == "sight.glare":
            continue  # the sun stays where it is
        assert status == status2, name
        assert (value is None) == (value2 is None)
        assert value is None or abs(value - (value2 or 0)) < 1e-3
        assert used is None or abs(used - (used2 or 0)) < 1e-3


IMPERIAL = Units(SpeedUnit.MPH, LengthUnit.FT, TemperatureUnit.F)
NUMBER = re.compile(r"(−?[\d,]+(?:\.\d+)?) (m/s|mph|ft|m)\b")


@given(situations())
def test_metric_and_imperial_say_the_same(s: Situation) -> None:
    """Sentences whose numbers are the same lengths and speeds."""
    for judged in judge(s).judged:
        found = judged.finding
        ours, theirs = NUMBER.findall(found.sentence(METRIC)), NUMBER.findall(found.sentence(IMPERIAL))
        assert len(ours) == len(theirs)
        for (si, unit), (other, foreign) in zip(ours, theirs, strict=True):
            a = float(si.replace("−", "-").replace(",", ""))
            b = float(other.replace("−", "-").replace(",", ""))
            assert (unit, foreign) in {("m/s", "mph"), ("m", "ft")}
            back = b / PER_MS[SpeedUnit.MPH] if foreign == "mph" else b * METRES_PER_FOOT
            assert abs(a - back) <= (0.08 if foreign == "mph" else 0.7)

"""Rules of thumb of the trade as whole judgements. All common practice, no published source."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_laws import situations
from tests.make import changed, find, forecast, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.verdict import Verdict, judge

ORDER = [Status.PASS, Status.CARE, Status.UNKNOWN, Status.FAIL]


def test_between_hundred_metre_buildings_the_return_height_is_110(situation: Situation) -> None:
    town = changed(situation, site__obstacles=(Obstacle(ObstacleKind.BUILDING, 100, 80, 200),))
    assert Assessment(town).return_height.recommended_m == 110
    assert find(changed(town, settings__rth_altitude_m=104.0), "return.clearance").status is Status.FAIL


def test_six_satellites_keep_it_on_the_ground(situation: Situation) -> None:
    assert judge(changed(situation, settings__satellites=6)).verdict is Verdict.STAY


def test_a_second_flight_on_half_a_pack_stays_down(situation: Situation) -> None:
    half = judge(changed(situation, pack__charge_pct=50.0))
    assert half.verdict is Verdict.STAY
    assert half.tightest.check.id == "battery.charge"


def test_a_cold_pack_flies_shorter_and_a_warm_one_in_the_pocket_longer(situation: Situation) -> None:
    def minutes(pack_c: float) -> float:
        """Longest stay on station that keeps the reserve."""
        frost = changed(situation, weather__temperature_c=0.0, weather__dew_point_c=-6.0, pack__temperature_c=pack_c)
        low, high = 0.0, 60.0
        for _ in range(30):
            middle = (low + high) / 2
            left = Assessment(changed(frost, flight__station_min=middle)).trip
            assert left is not None
            low, high = (middle, high) if (left.landing_pct or 0) >= 30 else (low, middle)
        return low

    assert minutes(20) - minutes(0) == pytest.approx(2.4, abs=0.6)


def test_an_offshore_wind_asks_to_think_twice(situation: Situation) -> None:
    """The wind blows from the land behind the pilot out along the way."""
    lake = changed(situation, site__over_water=True, flight__bearing_deg=60.0, flight__distance_m=120.0)
    assert find(wind(lake, forecast(2.2)), "wind.offshore").status is Status.CARE
    onshore = changed(lake, flight__bearing_deg=240.0)
    assert find(wind(onshore, forecast(2.2)), "wind.offshore").status is Status.PASS


def test_the_hand_meter_hides_what_the_trees_keep_off(situation: Situation) -> None:
    """Calm below the tree line, strong above: sheltered, the meter alone leaves everything open."""
    glade = changed(situation, site__sheltered=True)
    assert judge(wind(glade, measured(0.5))).verdict is Verdict.UNKNOWN
    assert judge(wind(glade, measured(0.5), measured(9, height=30))).verdict is Verdict.STAY


def test_thirty_into_twenty_as_a_whole_flight(situation: Situation) -> None:
    """At 20 of wind an aircraft of 30 comes home at 10, in any unit; here tenths of them in m/s."""
    s = changed(situation, flight__bearing_deg=60.0, aircraft__rth_speed_ms=3.0 * 3, settings__rth_altitude_m=40.0)
    at_40 = float(Assessment(wind(s, forecast(1))).wind.speed_ms(40))  # type: ignore[union-attr]
    windy = wind(s, forecast(6 / at_40))
    assert find(windy, "wind.return").value == pytest.approx(3.0)


def test_the_usual_ceiling_over_an_empty_shore_costs_charge(situation: Situation) -> None:
    """50 m of climb cost charge that may be missed: too high is care, not a pass."""
    shore = changed(situation, site__obstacles=(), settings__rth_altitude_m=60.0)
    assert find(shore, "return.clearance").status is Status.CARE
    low, high = (Assessment(changed(shore, settings__rth_altitude_m=h)).trip for h in (20.0, 60.0))
    assert low is not None
    assert high is not None
    assert (low.landing_pct or 0) > (high.landing_pct or 0)


def test_fast_mode_comes_home_where_automatic_return_does_not(situation: Situation) -> None:
    far = wind(changed(situation, flight__bearing_deg=60.0, flight__distance_m=130.0), forecast(5.6))
    assert find(far, "wind.return").status is Status.FAIL
    fast = changed(far, flight__return_mode=SpeedMode.FAST)
    assert find(fast, "wind.return").status is Status.PASS


@given(situations(), st.floats(0, 4))
def test_more_wind_never_makes_the_wind_checks_better(s: Situation, more: float) -> None:
    """Steady and gust always; the way home where the wind blows against it."""
    level = replace(s.weather.winds[0], gust_ms=None)
    s = changed(s, weather__winds=(level,), flight__bearing_deg=(level.direction_deg + 180) % 360)
    stronger = wind(s, replace(level, speed_ms=level.speed_ms + more))
    for check_id in ("wind.steady", "wind.gust", "wind.return", "wind.first_leg"):
        before, after = find(s, check_id), find(stronger, check_id)
        assert ORDER.index(after.status) >= ORDER.index(before.status), check_id
        assert (after.used or 0) >= (before.used or 0) - 1e-9, check_id


@given(situations(), st.floats(0.5, 40), st.floats(5, 60))
def test_one_more_obstacle_never_lowers_the_return_height(s: Situation, nearer: float, height: float) -> None:
    more = Obstacle(ObstacleKind.MAST, height, min(nearer, s.flight.distance_m), 10)
    taller = changed(s, site__obstacles=(*s.site.obstacles, more))
    assert Assessment(taller).return_height.lowest_m >= Assessment(s).return_height.lowest_m
    assert Assessment(taller).signal.margin_db <= Assessment(s).signal.margin_db + 1e-9


@given(situations())
def test_the_verdict_is_that_of_the_worst_that_counts(s: Situation) -> None:
    judgement = judge(s)
    worst = max((j.finding.status for j in judgement.judged if j.finding.matters), key=ORDER.index)
    verdicts = dict(zip(ORDER, (Verdict.LAUNCH, Verdict.CARE, Verdict.UNKNOWN, Verdict.STAY), strict=True))
    assert judgement.verdict is verdicts[worst]
    assert judgement.tightest.finding.status is worst

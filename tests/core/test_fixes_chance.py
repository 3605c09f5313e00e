"""Levers that are offered work; chances agree with a plainer reckoning."""

import math
from statistics import NormalDist

import pytest
from hypothesis import HealthCheck, given, settings

from tests.core.test_laws import situations
from tests.make import changed, forecast, wind
from zealous_lark.core import fixes as fix_module
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status, all_checks
from zealous_lark.core.fixes import Fix, fixes
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.verdict import Verdict, judge

RANK = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.UNKNOWN: 2, Verdict.STAY: 3}


def offered(situation: Situation, check_id: str) -> tuple[Fix, ...]:
    return fixes(judge(situation), next(c for c in all_checks() if c.id == check_id))


def pulled(situation: Situation, fix: Fix) -> Situation:
    for key, value in fix.changes:
        situation = fix_module.changed(situation, key, value)
    return situation


@pytest.mark.slow
@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(situations())
def test_a_lever_that_is_offered_always_works(s: Situation) -> None:
    """Its check passes, the verdict is the one shown and no worse, and what gets worse is named."""
    before = judge(s)
    was = {j.check.id: j.finding.status for j in before.judged}
    order = [Status.PASS, Status.CARE, Status.UNKNOWN, Status.FAIL]
    for judged in before.judged:
        for fix in fixes(before, judged.check):
            after = judge(pulled(s, fix))
            now = {j.check.id: j.finding.status for j in after.judged}
            assert now[judged.check.id] is Status.PASS
            assert after.verdict is fix.verdict
            assert RANK[after.verdict] <= RANK[before.verdict]
            worse = {j.check.label for j in after.judged if order.index(now[j.check.id]) > order.index(was[j.check.id])}
            assert set(fix.worsens) == worse
            assert all(label.lower() in fix.sentence for label in worse)


def test_nearer_is_offered_when_it_is_too_far_and_not_a_metre_more(situation: Situation) -> None:
    (near,) = offered(situation, "sight.distance")
    assert near.changes == (("flight.distance_m", 130),)
    assert near.sentence == "Stay within 130 m."


def test_turning_into_the_wind_is_offered_when_it_does_not_come_home(situation: Situation) -> None:
    slow = wind(changed(situation, flight__bearing_deg=60.0, flight__return_mode=SpeedMode.SLOW), forecast(3.6))
    keys = {fix.changes[0][0] for fix in offered(slow, "wind.return")}
    assert {"flight.bearing_deg", "flight.return_mode"} <= keys


def test_the_return_height_is_raised_just_enough(situation: Situation) -> None:
    low = changed(situation, settings__rth_altitude_m=15.0)
    assert offered(low, "return.clearance")[0].changes == (("settings.rth_altitude_m", 35),)


def test_waiting_is_not_offered_without_a_forecast(situation: Situation) -> None:
    """Of a later time nothing is known then, also where the sun alone would be enough."""
    early = changed(situation, takeoff_at=situation.takeoff_at.replace(hour=6, minute=0))
    assert offered(early, "sight.daylight") == ()


def test_a_pair_is_sought_when_no_single_change_clears_it(situation: Situation) -> None:
    """Too much wind at 40 m, for the working and for the return height: both must come down."""
    s = wind(changed(situation, site__obstacles=()), forecast(3.7))
    found = offered(s, "wind.steady")
    assert found
    assert {key for key, _ in found[0].changes} == {"flight.height_m", "settings.rth_altitude_m"}


def test_nothing_is_offered_where_nothing_helps(situation: Situation) -> None:
    gale = wind(situation, forecast(20))
    assert offered(gale, "wind.gust") == ()
    assert offered(situation, "wind.gust") == ()
    sheltered = changed(situation, site__sheltered=True, weather__winds=())
    assert offered(sheltered, "wind.steady") == ()


def test_a_lever_never_closes_another_door(situation: Situation) -> None:
    """Flying under the wind with a return height under the trees is no way out."""
    trees = (Obstacle(ObstacleKind.TREES, 30, 50, 0),)
    s = wind(changed(situation, site__obstacles=trees), forecast(4.2))
    assert offered(s, "wind.steady") == ()


def test_chance_agrees_with_the_analytic_form_where_there_is_one(situation: Situation) -> None:
    """In still air only consumption and reading vary: the sum of two normal spreads."""
    calm = wind(changed(situation, pack__charge_pct=70.0, minimums__reserve_pct=40.0), forecast(0))
    a = Assessment(calm)
    assert a.trip is not None
    assert a.chance is not None
    spent = 100 * (a.trip.spent_wh or 0) / a.trip.usable_wh
    left = NormalDist(70 - spent, math.hypot(0.08 * spent, 3))
    assert a.chance.above_reserve == pytest.approx(1 - left.cdf(40), abs=0.025)
    assert a.chance.landing_low_pct == pytest.approx(left.inv_cdf(0.05), abs=0.5)
    assert a.chance.landing_high_pct == pytest.approx(left.inv_cdf(0.95), abs=0.5)


def test_without_any_spread_the_chance_is_certain(situation: Situation) -> None:
    sure = {f"minimums__{name}": 0.0 for name in
            ("wind_spread_pct", "measured_spread_pct", "consumption_spread_pct", "charge_spread_points")}  # fmt: skip
    a = Assessment(changed(situation, **sure))
    assert a.chance is not None
    assert a.trip is not None
    assert (a.chance.above_reserve, a.chance.above_forced) == (1, 1)
    assert a.chance.landing_low_pct == pytest.approx(a.trip.landing_pct)


def test_the_chance_is_the_same_every_time_and_wind_counts(situation: Situation) -> None:
    downwind = wind(changed(situation, flight__bearing_deg=60.0, flight__distance_m=900.0), forecast(4.6))
    one, two = Assessment(downwind).chance, Assessment(downwind).chance
    assert one == two
    assert one is not None
    unsure = Assessment(changed(downwind, minimums__wind_spread_pct=40.0)).chance
    assert unsure is not None
    assert unsure.above_reserve < one.above_reserve


def test_no_chance_without_a_way_home(situation: Situation) -> None:
    assert Assessment(wind(changed(situation, flight__bearing_deg=60.0), forecast(9))).chance is None

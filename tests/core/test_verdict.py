"""Verdict and tightest."""

import pytest

from tests.make import changed, forecast, measured, wind
from zealous_lark.core.checks import Status
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import Verdict, judge


def test_worst_status_decides(situation: Situation) -> None:
    near = wind(changed(situation, flight__distance_m=130.0, aircraft__mass_g=240.0), forecast(2))
    assert judge(near).verdict is Verdict.LAUNCH
    assert judge(situation).verdict is Verdict.CARE
    assert judge(changed(situation, settings__rth_altitude_m=10.0)).verdict is Verdict.STAY


def test_the_tightest_shows_also_when_all_pass(situation: Situation) -> None:
    near = judge(wind(changed(situation, flight__distance_m=130.0, aircraft__mass_g=230.0), forecast(2)))
    assert near.tightest.check.id == "sight.distance"
    assert near.tightest.finding.status is Status.PASS


def test_unknown_keeps_from_launching_but_a_fail_is_a_fail(situation: Situation) -> None:
    sheltered = wind(changed(situation, site__sheltered=True), measured(1))
    assert judge(sheltered).verdict is Verdict.UNKNOWN
    assert judge(sheltered).tightest.check.id == "wind.steady"
    assert judge(changed(sheltered, pack__charge_pct=20.0)).verdict is Verdict.STAY


def test_a_cause_is_named_before_what_follows_from_it(situation: Situation) -> None:
    against = wind(changed(situation, flight__bearing_deg=60.0), forecast(5.2))
    judged = judge(against)
    failing = [j.check.id for j in judged.judged if j.finding.status is Status.FAIL]
    assert judged.tightest.finding.follows is None
    assert "wind.return" in failing
    blown = judge(wind(changed(situation, flight__bearing_deg=60.0), forecast(9)))
    order = [j.check.id for j in blown.judged if j.finding.status is Status.FAIL]
    assert order.index("wind.return") < order.index("battery.budget")


def test_within_a_status_the_longest_bar_comes_first(situation: Situation) -> None:
    passing = [j.finding.used or 0 for j in judge(situation).judged if j.finding.status is Status.PASS]
    assert passing == sorted(passing, reverse=True)


def test_indoors_leaves_out_wind_and_reach(situation: Situation) -> None:
    inside = {j.check.id for j in judge(changed(situation, site__indoors=True)).judged}
    outside = {j.check.id for j in judge(situation).judged}
    assert inside < outside
    assert outside - inside == {
        "clear.takeoff",
        "clear.outbound",
        "clear.station",
        "clear.descent",
        "return.clearance",
        "return.ceiling",
        "rules.zone",
        "rules.people",
        "settings.limits",
        "wind.steady",
        "wind.gust",
        "wind.outbound",
        "wind.return",
        "wind.first_leg",
        "wind.shear",
        "battery.reach",
        "signal.satellites",
        "signal.compass",
        "sight.daylight",
        "sight.glare",
        "weather.precipitation",
        "weather.cloud_base",
        "weather.icing",
        "weather.geomagnetic",
    }


def test_water_brings_its_own_checks(situation: Situation) -> None:
    wet = {j.check.id for j in judge(changed(situation, site__over_water=True)).judged}
    assert wet - {j.check.id for j in judge(situation).judged} == {
        "wind.offshore",
        "water.distance",
        "water.sensors",
    }


def test_what_only_the_powered_aircraft_can_tell_is_asked_and_does_not_count(situation: Situation) -> None:
    """They are asked and counted as not checked; telling one of them never makes the verdict worse."""
    home = judge(changed(situation, settings__satellites=None, settings__home_point_set=None))
    assert home.verdict is judge(situation).verdict
    assert [q.check.id for q in home.questions] == [
        "rules.people", "rules.zone", "signal.compass", "signal.home_point", "signal.satellites",
    ]  # fmt: skip
    assert judge(changed(situation, settings__satellites=None)).verdict is home.verdict


def test_what_is_true_of_every_flight_is_not_what_to_watch(situation: Situation) -> None:
    """A payload past the step is there on every flight; the wind near its limit is what to watch today."""
    near = judge(changed(situation, flight__distance_m=100.0, aircraft__payload_g=10.0))
    assert near.tightest.check.id == "wind.steady"
    careful = [j.check.id for j in near.judged if j.finding.status is Status.CARE]
    assert careful[-1] == "rules.mass"


@pytest.mark.parametrize("height", [5.0, 25.0])
def test_calm_at_the_ground_strong_above_the_trees(situation: Situation, height: float) -> None:
    """Common practice: it can be calm below the tree line and strong at 15 to 30 m."""
    levels = (measured(0.5, height=2), forecast(9, height=30))
    assert judge(wind(changed(situation, flight__height_m=height), *levels)).verdict is Verdict.STAY

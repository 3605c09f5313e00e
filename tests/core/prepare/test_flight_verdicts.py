"""Planned flights judged whole: what the packing alone does not see."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.prepare.test_filming import NEAR, TOWER, outing
from tests.make import changed, find, forecast, wind
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.prepare.filming import judge_filming, plan_filming
from zealous_lark.core.prepare.flight_verdicts import FlightVerdict, judge_flight
from zealous_lark.core.prepare.subjects import Outing, Shot, to_subject
from zealous_lark.core.situation import Pack, Situation
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import Verdict, judge


def quiet(situation: Situation) -> Situation:
    return changed(wind(situation, forecast(2)), site__obstacles=(), settings__rth_altitude_m=40.0)


def judged(made: Outing) -> FlightVerdict:
    plan = plan_filming(made)
    assert plan is not None
    return judge_flight(made, plan.flights[0])


def test_a_flight_to_one_subject_has_the_verdict_of_that_flight(situation: Situation) -> None:
    made = outing(quiet(situation), NEAR)
    alone = replace(to_subject(made.situation, NEAR), aimed=True, pack=made.packs[0].pack)
    found = judged(made)
    assert found.verdict is judge(alone).verdict
    assert found.subjects[0].sentence == judge(alone).tightest.finding.sentence(METRIC)


def test_a_subject_out_of_sight_is_said_with_what_would_bring_it_in(situation: Situation) -> None:
    """The charge is enough; nobody could see it there."""
    far = Shot("far", 240, 310, 40, 2)
    made = outing(quiet(situation), far)
    plan = plan_filming(made)
    assert plan is not None
    assert plan.holds
    found = judge_flight(made, plan.flights[0])
    assert found.verdict is Verdict.STAY
    (at,) = found.subjects
    assert at.label == "Sight"
    assert at.helps is not None
    assert at.helps.startswith("Start within 138 m")
    assert find(to_subject(made.situation, replace(far, distance_m=130)), "sight.distance").status == "pass"


def test_the_worst_subject_decides_and_each_is_told(situation: Situation) -> None:
    made = outing(quiet(situation), NEAR, Shot("far", 200, 310, 30, 2))
    hand = judge_filming(made, [(0, [0, 1])])
    assert hand is not None
    found = judge_flight(made, hand.flights[0])
    assert found.verdict is Verdict.STAY
    assert [x.shot for x in found.subjects] == [0, 1]
    assert found.subjects[0].verdict is not Verdict.STAY
    assert found.subjects[1].label == "Sight"


def test_what_stands_on_the_way_to_a_subject_counts_and_is_climbed_over(situation: Situation) -> None:
    wall = changed(quiet(situation), site__obstacles=(Obstacle(ObstacleKind.BUILDING, 32, 40, 200),))
    found = judged(outing(wall, NEAR))
    assert found.verdict is Verdict.STAY
    assert found.subjects[0].helps is not None
    assert "Climb to" in found.subjects[0].helps


def test_dusk_falls_on_the_second_flight(situation: Situation) -> None:
    """Each flight is judged at the time at which it begins."""
    evening = changed(quiet(situation), takeoff_at=situation.takeoff_at.replace(hour=18, minute=15))
    made = outing(evening, replace(NEAR, minutes=15), replace(NEAR, minutes=15), replace(NEAR, minutes=15), packs=(
        Pack(100, 95, 18), Pack(100, 95, 18), Pack(100, 95, 18)))  # fmt: skip
    hand = judge_filming(made, [(0, [0]), (1, [1]), (2, [2])])
    assert hand is not None
    labels = [judge_flight(made, f).subjects[0].label for f in hand.flights]
    assert labels[0] != "Daylight"
    assert labels[-1] == "Daylight"


@pytest.mark.parametrize("charge", [40.0, 100.0])
def test_a_flight_that_does_not_keep_the_reserve_stays_down(situation: Situation, charge: float) -> None:
    made = outing(quiet(situation), replace(TOWER, distance_m=100), packs=(Pack(charge, 95, 18),))
    hand = judge_filming(made, [(0, [0])])
    assert hand is not None
    found = judge_flight(made, hand.flights[0])
    assert (found.verdict is Verdict.STAY) is (charge < 60)

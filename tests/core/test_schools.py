"""The schools that change more than a number: what each makes of one flight. All common practice."""

import math

import pytest

from tests.make import changed, find, forecast, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.minimums import (
    CompassRule,
    LandingRule,
    LostLinkRule,
    Minimums,
    SightRule,
    StrongWindRule,
    WindAloft,
)
from zealous_lark.core.schools import QUESTIONS
from zealous_lark.core.situation import LostLink, Platform, PlatformKind, Situation, Surroundings
from zealous_lark.core.verdict import judge


def test_the_first_school_of_each_question_is_the_default() -> None:
    for question in QUESTIONS:
        assert [school.chosen(Minimums()) for school in question.schools].index(True) == 0, question.id
        assert sum(school.chosen(Minimums()) for school in question.schools) == 1, question.id


def ids(situation: Situation) -> set[str]:
    return {j.check.id for j in judge(situation).judged}


@pytest.mark.parametrize(
    ("rule", "aloft"),
    [
        # Open ground: log law with 0.03 m from 2 m to 30.48 m.
        (WindAloft.PROFILE, 5 * math.log(30.48 / 0.03) / math.log(2 / 0.03)),
        (WindAloft.DOUBLING, 10.0),
        (WindAloft.LARGER, 10.0),
    ],
)
def test_a_hand_meters_reading_is_carried_up_by_the_chosen_rule(
    situation: Situation, rule: WindAloft, aloft: float
) -> None:
    s = changed(wind(situation, measured(5)), site__surroundings=Surroundings.OPEN, minimums__wind_aloft=rule)
    over = Assessment(s).wind
    assert over is not None
    assert float(over.speed_ms(30.48)) == pytest.approx(aloft, rel=1e-3)


def test_over_rougher_ground_than_the_doubling_rules_the_larger_is_the_profiles(situation: Situation) -> None:
    s = changed(wind(situation, measured(3)), site__surroundings=Surroundings.CLOSED)
    by = {
        rule: float(Assessment(changed(s, minimums__wind_aloft=rule)).wind.speed_ms(40))  # type: ignore[union-attr]
        for rule in WindAloft
    }
    assert by[WindAloft.LARGER] == by[WindAloft.PROFILE] > by[WindAloft.DOUBLING]


def test_the_rule_leaves_a_forecast_alone(situation: Situation) -> None:
    before = Assessment(situation).wind_return
    assert Assessment(changed(situation, minimums__wind_aloft=WindAloft.DOUBLING)).wind_return == before


def test_a_fixed_turn_back_says_what_it_would_land_with(situation: Situation) -> None:
    assert "battery.turn_back" not in ids(situation)
    trip = Assessment(situation).trip
    assert trip is not None
    assert trip.turn_back_pct is not None
    s = changed(situation, minimums__turn_back_pct=60.0)
    found = find(s, "battery.turn_back")
    assert found.status is Status.PASS  # it leaves with 73 %
    assert f"lands with {60 - (trip.turn_back_pct - 30):.0f}%" in found.working[0]
    early = find(changed(s, flight__station_min=12), "battery.turn_back")
    assert early.status is Status.CARE
    assert "you turn back at 60%" in early.sentence


def test_a_fixed_turn_back_that_is_too_late_is_said_so(situation: Situation) -> None:
    far = changed(wind(situation, forecast(5, 60)), flight__distance_m=2400, minimums__turn_back_pct=50.0)
    found = find(far, "battery.turn_back")
    assert "too late" in found.sentence
    assert found.status in (Status.CARE, Status.FAIL)
    assert (found.used or 0) > 1


def test_other_schools_turn_backs_stand_beside_the_computed_one(situation: Situation) -> None:
    working = " ".join(find(situation, "battery.budget").working)
    assert "Turn back by 34%; by a fixed rule: at 60% it lands with 56%, at 50% it lands with 46%" in working


def test_one_return_height_for_every_place_warns_where_it_does_not_serve(situation: Situation) -> None:
    low = changed(situation, minimums__rth_fixed_m=25.0)
    assert "fixed 25 m is too low here" in find(low, "return.clearance").sentence
    high = changed(situation, minimums__rth_fixed_m=100.0, settings__rth_altitude_m=100.0)
    found = find(high, "return.clearance")
    assert found.status is Status.PASS
    assert "points more than the lowest" in found.sentence
    assert find(changed(situation, settings__rth_altitude_m=100.0), "return.clearance").status is Status.CARE
    assert Assessment(low).return_height.recommended_m == 35
    assert Assessment(high).return_height.recommended_m == 100


def test_lost_link_by_the_site_or_always_the_same(situation: Situation) -> None:
    hovering = changed(situation, settings__lost_link=LostLink.HOVER)
    assert find(hovering, "return.lost_link").status is Status.CARE
    always = changed(hovering, minimums__lost_link=LostLinkRule.HOVER)
    assert find(always, "return.lost_link").status is Status.PASS
    indoors = changed(situation, site__indoors=True, minimums__lost_link=LostLinkRule.RETURN)
    assert find(indoors, "return.lost_link").status is Status.FAIL


def test_caught_far_out_each_school_has_its_own_way_home(situation: Situation) -> None:
    s = wind(situation, forecast(6, 60))
    by_hand = find(s, "wind.return").sentence
    assert "fly home in fast mode at 34 m" in by_hand, "the lowest height that clears"
    automatic = find(changed(s, minimums__strong_wind=StrongWindRule.AUTOMATIC), "wind.return").sentence
    assert "return to home" in automatic
    assert "at 40 m" in automatic


def test_sight_by_each_school(situation: Situation) -> None:
    def limit(**minimums: object) -> float:
        return Assessment(changed(situation, **minimums)).sight.limit_m

    assert limit() == pytest.approx(137.7, abs=0.1)
    assert limit(minimums__sight_rule=SightRule.OWN, minimums__sight_own_m=180.0) == 180
    assert limit(minimums__sight_rule=SightRule.OBSERVER) == 1500
    fog = changed(situation, weather__visibility_m=400.0, minimums__sight_rule=SightRule.OWN)
    assert Assessment(fog).sight.limit_m == 120


@pytest.mark.parametrize(
    ("height", "trusting", "status"),
    [
        (3.0, False, Status.PASS),
        (2.9, False, Status.CARE),
        (2.9, True, Status.PASS),
        (0.5, True, Status.PASS),
        (0.4, True, Status.FAIL),
        (0.4, False, Status.FAIL),
    ],
)
def test_low_over_water(situation: Situation, height: float, trusting: bool, status: Status) -> None:
    s = changed(situation, site__over_water=True, flight__height_m=height, minimums__trust_water_sensors=trusting)
    assert find(s, "water.sensors").status is status
    assert "water.sensors" not in ids(situation)


@pytest.mark.parametrize(("gust", "status"), [(4.79, Status.PASS), (4.81, Status.CARE), (6.01, Status.FAIL)])
def test_landing_in_the_hand(situation: Situation, gust: float, status: Status) -> None:
    s = changed(wind(situation, measured(1, gust=gust, height=2)), minimums__landing=LandingRule.HAND)
    assert find(s, "wind.hand_landing").status is status
    assert "wind.hand_landing" not in ids(situation)


def test_the_compass_is_asked_for_by_the_pilots_own_rule(situation: Situation) -> None:
    open_one = find(situation, "signal.compass")
    assert open_one.status is Status.UNKNOWN
    assert not open_one.matters
    assert "if it needs it" in (open_one.question or "")
    always = find(changed(situation, minimums__compass=CompassRule.ALWAYS), "signal.compass")
    assert "as you always do" in (always.question or "")
    assert "signal.compass" not in ids(changed(situation, minimums__compass=CompassRule.WHEN_ASKED))
    assert find(changed(situation, settings__compass_checked=True), "signal.compass").status is Status.PASS
    assert find(changed(situation, settings__compass_checked=False), "signal.compass").status is Status.CARE
    on_board = changed(situation, site__platform=Platform(PlatformKind.BOAT))
    assert "Never calibrate on a boat" in (find(on_board, "signal.compass").question or "")

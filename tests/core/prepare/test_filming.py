"""Subjects into flights: the same arithmetic as a single flight's, and what is said when something does not fit."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from tests.make import changed, find, forecast, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.prepare.filming import judge_filming, plan_filming
from zealous_lark.core.prepare.subjects import Outing, Shot, ShotPack, WantedLight, costs
from zealous_lark.core.situation import Pack, Situation

TOWER = Shot("tower", 240, 260, 40, 6)
MEADOW = Shot("meadow", 60, 160, 40, 4)
NEAR = Shot("near", 200, 60, 30, 3)
FULL = Pack(100, 95, 18)


def outing(situation: Situation, *shots: Shot, packs: tuple[Pack, ...] = (FULL, FULL), hours: float = 2) -> Outing:
    named = tuple(ShotPack("ABCDEFG"[n], p) for n, p in enumerate(packs))
    return Outing(Assessment(situation), shots, named, hours * 3600, 240)


def test_one_subject_costs_what_the_same_flight_costs(situation: Situation) -> None:
    made = outing(situation, TOWER)
    plan = plan_filming(made)
    assert plan is not None
    flight = replace(situation.flight, bearing_deg=240, distance_m=260, height_m=40, station_min=6)
    trip = Assessment(replace(situation, flight=flight, pack=FULL)).trip
    assert trip is not None
    assert trip.landing_pct is not None
    (filmed,) = plan.flights
    assert filmed.landing_pct == pytest.approx(trip.landing_pct)
    assert (filmed.lands_at - filmed.begins_at).total_seconds() == pytest.approx(sum(x.seconds for x in trip.legs))
    assert [s.what for s in filmed.steps] == ["out", "film", "home"]
    assert filmed.steps[-1].charge_after_pct == filmed.landing_pct


def test_two_subjects_go_on_one_pack_and_save_a_way_home(situation: Situation) -> None:
    plan = plan_filming(outing(situation, TOWER, NEAR))
    assert plan is not None
    assert plan.holds
    (flight,) = plan.flights
    assert set(flight.order) == {0, 1}
    alone = [plan_filming(outing(situation, s)) for s in (TOWER, NEAR)]
    spent = sum(100 - a.flights[0].landing_pct for a in alone if a is not None)
    assert 100 - flight.landing_pct < spent
    assert all(f.landing_pct >= plan.reserve_pct for f in plan.flights)


def test_a_hop_to_where_one_is_costs_nothing_and_a_lower_one_costs_the_way_down(situation: Situation) -> None:
    low = replace(TOWER, height_m=10)
    found = costs(outing(situation, TOWER, TOWER, low))
    assert found is not None
    assert found.hop_wh[0][1] == 0
    assert found.hop_s[0][1] == 0
    flyer = Assessment(situation).flyer
    assert flyer is not None
    down_s = 30 / situation.aircraft.descent_ms
    assert found.hop_s[0][2] == pytest.approx(down_s)
    assert found.hop_wh[0][2] == pytest.approx(flyer.power.hover_w * down_s / 3600)


def test_into_the_wind_first_is_what_the_check_says(situation: Situation) -> None:
    windy = wind(situation, forecast(5, 240, 7))
    found = costs(outing(windy, TOWER, MEADOW))
    assert found is not None
    for shot, downwind in zip((TOWER, MEADOW), found.downwind, strict=True):
        leg = changed(
            windy, flight__bearing_deg=shot.bearing_deg, flight__distance_m=shot.distance_m,
            flight__height_m=shot.height_m,
        )  # fmt: skip
        assert (find(leg, "wind.first_leg").status is Status.CARE) == downwind
    assert found.downwind == (False, True)
    plan = plan_filming(outing(windy, MEADOW, TOWER))
    assert plan is not None
    assert plan.flights[0].order[0] == 1, "the upwind one is first"


def test_the_unknown_wind_leaves_everything_open(situation: Situation) -> None:
    assert plan_filming(outing(changed(wind(situation, measured(3)), site__sheltered=True), TOWER)) is None


def test_what_is_too_long_says_how_long_would_fit(situation: Situation) -> None:
    plan = plan_filming(outing(situation, replace(TOWER, minutes=40)))
    assert plan is not None
    (left,) = plan.left_out
    assert "more charge than your fullest battery" in left.why
    minutes = float(next(w for w in left.ways if "instead of" in w).split(" min")[0])
    assert plan_filming(outing(situation, replace(TOWER, minutes=minutes))).holds  # type: ignore[union-attr]
    assert not plan_filming(outing(situation, replace(TOWER, minutes=minutes + 0.5))).holds  # type: ignore[union-attr]


def test_a_part_used_pack_starts_no_flight_and_a_fuller_one_is_asked_for(situation: Situation) -> None:
    plan = plan_filming(outing(situation, TOWER, packs=(Pack(55, 95, 18),)))
    assert plan is not None
    assert plan.flights == ()
    (way,) = [w for w in plan.left_out[0].ways if "or more" in w]
    need = float(way.split(" at ")[1].split("%")[0])
    assert plan_filming(outing(situation, TOWER, packs=(Pack(need, 95, 18),))).holds  # type: ignore[union-attr]
    assert not plan_filming(outing(situation, TOWER, packs=(Pack(need - 1.5, 95, 18),))).holds  # type: ignore[union-attr]


def test_one_more_pack_is_offered_only_where_it_helps(situation: Situation) -> None:
    long = [replace(TOWER, name=f"t{n}", minutes=12) for n in range(3)]
    plan = plan_filming(outing(situation, *long, packs=(FULL, FULL)))
    assert plan is not None
    assert len(plan.left_out) == 1
    assert any("One more battery" in w for w in plan.left_out[0].ways)
    assert plan_filming(outing(situation, *long, packs=(FULL, FULL, FULL))).holds  # type: ignore[union-attr]


def test_too_much_wind_for_the_way_home_says_so(situation: Situation) -> None:
    plan = plan_filming(outing(wind(situation, forecast(9, 240, 10)), MEADOW))
    assert plan is not None
    assert "headway" in plan.left_out[0].why


def test_golden_light_is_waited_for_and_lost(situation: Situation) -> None:
    # Sunrise at the bog on 26 September is at 04:12 UTC (astral, as in the light tests); golden hour to about 05:00.
    early = replace(situation, takeoff_at=datetime(2026, 9, 26, 3, 50, tzinfo=UTC))
    golden = replace(NEAR, light=WantedLight.GOLDEN)
    plan = plan_filming(outing(early, golden))
    assert plan is not None
    assert plan.holds
    (flight,) = plan.flights
    assert flight.begins_at > early.takeoff_at
    for at in (flight.begins_at, flight.lands_at):
        assert -0.9 < Assessment(early).sun_at(at).elevation_deg < 6.1
    noon = replace(situation, takeoff_at=datetime(2026, 9, 26, 9, tzinfo=UTC))
    late = plan_filming(outing(noon, golden))
    assert late is not None
    assert "golden hour" in late.left_out[0].why
    assert "Starting at" in late.left_out[0].ways[0]


def test_flights_set_by_hand_are_judged_as_they_are(situation: Situation) -> None:
    made = outing(situation, TOWER, MEADOW, NEAR, packs=(FULL, FULL, Pack(50, 95, 18)))
    best = plan_filming(made)
    assert best is not None
    same = judge_filming(made, [(f.pack, f.order) for f in best.flights])
    assert same is not None
    assert same.flights == best.flights

    twice = judge_filming(made, [(0, [0]), (0, [1])])
    assert twice is not None
    assert not twice.holds
    assert any("flown already" in fault for fault in twice.flights[1].faults)
    assert [x.shot for x in twice.left_out] == [2]

    half = judge_filming(made, [(2, [2])])
    assert half is not None
    assert any("starts no flight" in fault for fault in half.flights[0].faults)

    everything = judge_filming(replace(made, shots=(replace(TOWER, minutes=20), MEADOW, NEAR)), [(0, [0, 1, 2])])
    assert everything is not None
    assert any("you keep 30%" in fault for fault in everything.flights[0].faults)


def test_over_water_ten_points_more_are_kept(situation: Situation) -> None:
    wet = changed(situation, site__over_water=True)
    assert outing(wet, TOWER).reserve_pct == situation.reserve_pct + 10


def test_the_session_ends(situation: Situation) -> None:
    plan = plan_filming(outing(situation, TOWER, hours=0.1))
    assert plan is not None
    assert plan.left_out[0].why == "The session is too short for it."
    minutes = float(plan.left_out[0].ways[0].split()[1])
    assert plan_filming(outing(situation, TOWER, hours=minutes / 60)).holds  # type: ignore[union-attr]

"""A flight step by step: as the trip model where nothing goes wrong, its energy, and what each act does."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from tests.cases.test_drawing import OWN
from zealous_lark.cases.homeward import Scene, draw_flight, kind_of
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.homeward import flying
from zealous_lark.core.homeward.acts import Act, Doing, End
from zealous_lark.core.homeward.flown import flown
from zealous_lark.core.homeward.flying import PAD_M, Acts, Flights
from zealous_lark.core.homeward.mishap import Kind, Mishap
from zealous_lark.core.homeward.sheet import Band, Ground, Sheet
from zealous_lark.core.homeward.state import Ended
from zealous_lark.core.leg_costs import LANDING_S

CALM = [(0.0, 0.0, 0.0)]
NOTHING = Mishap(Kind.NONE)


def scene_of(kind: Kind) -> Scene:
    return draw_flight(next(seed for seed in range(1, 200) if kind_of(seed) is kind), OWN)


@pytest.fixture(scope="module")
def scene() -> Scene:
    return scene_of(Kind.NONE)


def ended(sheet: Sheet, mishap: Mishap, acts: Acts, normals=CALM) -> Ended:  # type: ignore[no-untyped-def]
    return Flights(sheet, mishap, normals, [acts]).to_the_end()[0]


@pytest.mark.parametrize("seed", range(1, 13))
def test_the_plan_flown_lands_with_what_the_trip_model_says(seed: int) -> None:
    """Within a point with gusts, and within a third of one in air without."""
    scene = draw_flight(seed, OWN)
    planned = scene.sheet.trip.landing_pct
    acts = [(scene.turn_s, Act.TURN_BACK)]
    calm = ended(scene.sheet, NOTHING, acts)
    gusty = ended(scene.sheet, NOTHING, acts, scene.normals)
    assert calm.end is gusty.end is End.HOME
    assert calm.charge_pct == pytest.approx(planned, abs=0.35)
    assert gusty.charge_pct == pytest.approx(planned, abs=1.0)
    seconds = sum(leg.seconds for leg in scene.sheet.trip.legs)
    assert calm.at_s == pytest.approx(seconds, abs=6)


def test_energy_is_conserved_over_steps(scene: Scene) -> None:
    flights = Flights(scene.sheet, NOTHING, scene.normals, [[(scene.turn_s, Act.TURN_BACK)]])
    spent = 0.0
    while not flights.over:
        before = float(flights.state.wh[0])
        flights.step()
        spent += float(flights.state.power_w[0]) * flying.STEP_S / 3600
        assert float(flights.state.wh[0]) - before == pytest.approx(float(flights.state.power_w[0]) / 7200, abs=1e-12)
    assert float(flights.state.wh[0]) == pytest.approx(spent, rel=1e-12)
    full, usable = scene.sheet.situation.pack.charge_pct, scene.sheet.trip.usable_wh
    assert flights.ended()[0].charge_pct == pytest.approx(full - 100 * spent / usable, abs=1e-9)


def test_half_steps_come_to_the_same(scene: Scene, monkeypatch: pytest.MonkeyPatch) -> None:
    acts = [(scene.turn_s, Act.TURN_BACK)]
    whole = ended(scene.sheet, NOTHING, acts)
    monkeypatch.setattr(flying, "STEP_S", 0.25)
    half = ended(scene.sheet, NOTHING, acts)
    assert half.charge_pct == pytest.approx(whole.charge_pct, abs=0.15)


def test_flights_side_by_side_are_the_same_as_one_by_one(scene: Scene) -> None:
    several: list[Acts] = [
        [(scene.turn_s, Act.TURN_BACK)],
        [(200.0, Act.FAST), (200.0, Act.BY_HAND)],
        [(150.0, Act.LAND)],
    ]
    together = Flights(scene.sheet, NOTHING, scene.normals, several).to_the_end()
    alone = [ended(scene.sheet, NOTHING, acts, scene.normals) for acts in several]
    assert together == alone
    assert [e.end for e in together][:2] == [End.HOME, End.HOME]


def at(scene: Scene, mishap: Mishap, acts: Acts, at_s: float) -> Flights:
    flights = Flights(scene.sheet, mishap, CALM, [acts])
    while flights.at_s < at_s:
        flights.step()
    return flights


def test_acts(scene: Scene) -> None:
    s = scene.sheet.situation
    far = s.flight.distance_m
    t = scene.turn_s - 5
    there = at(scene, NOTHING, [], t)
    assert there.state.doing[0] == Doing.STATION
    assert math.hypot(there.state.x[0], there.state.y[0]) == pytest.approx(far, abs=3.1)
    up = at(scene, NOTHING, [(t - 20, Act.CLIMB)], t)
    assert up.state.z[0] - there.state.z[0] == pytest.approx(15, abs=0.1)
    down = at(scene, NOTHING, [(t - 20, Act.LOWER), (t - 20, Act.LOWER)], t)
    assert there.state.z[0] - down.state.z[0] == pytest.approx(30, abs=0.1)
    fast, hand = (
        at(scene, NOTHING, [*more, (t - 10, Act.BY_HAND)], t) for more in ([(t - 10, Act.FAST)], [])
    )  # fmt: skip
    assert fast.state.airspeed_ms[0] == pytest.approx(s.aircraft.fast_ms)
    assert hand.state.airspeed_ms[0] == pytest.approx(s.aircraft.normal_ms)
    waits = at(scene, NOTHING, [(t - 10, Act.BY_HAND), (t - 5, Act.WAIT)], t)
    assert waits.state.doing[0] == Doing.HOLD
    assert waits.state.ground_ms[0] < 0.5


def test_the_automatic_return_keeps_its_height_and_speed_and_can_be_left(scene: Scene) -> None:
    t = scene.turn_s
    rth = scene.sheet.situation.return_height_m
    acts = [(t - 60, Act.LOWER), (t - 16, Act.RETURN_HOME), (t - 12, Act.LOWER), (t - 12, Act.FAST)]
    home = at(scene, NOTHING, acts, t - 5)
    assert home.state.z[0] == pytest.approx(rth, abs=0.6)
    assert home.state.airspeed_ms[0] == pytest.approx(scene.sheet.situation.aircraft.rth_speed_ms)
    left = at(scene, NOTHING, [*acts, (t - 5, Act.BY_HAND), (t - 5, Act.LOWER)], t)
    assert left.state.z[0] == pytest.approx(rth - 15, abs=0.6)
    assert left.state.airspeed_ms[0] == pytest.approx(scene.sheet.situation.aircraft.fast_ms)


def test_a_wind_beyond_the_airspeed_carries_it_away(scene: Scene) -> None:
    strong = Mishap(Kind.HEADWIND, at_s=scene.begins_s, wind_factor=1.0)
    sheet = replace(scene.sheet, east_ms=np.full_like(scene.sheet.east_ms, 12.0), north_ms=0 * scene.sheet.north_ms)
    flights = Flights(sheet, strong, CALM, [[]])
    flights.state.z[:] = 50.0
    flights.state.doing[:] = Doing.HOLD
    flights.state.target_m[:] = 50.0
    for _ in range(20):
        flights.step()
    normal = scene.sheet.situation.aircraft.normal_ms
    assert flights.state.x[0] == pytest.approx(10 * (12 - normal), rel=0.01)
    assert flights.state.airspeed_ms[0] == pytest.approx(normal)


def test_control_lost_begins_the_setting_after_seven_seconds_and_words_do_not_reach_it() -> None:
    scene = scene_of(Kind.LINK)
    begins = scene.mishap.at_s
    lost = Mishap(Kind.LINK, begins, noise_db=60.0)
    t = begins + 30
    settings = scene.sheet.situation.settings
    flights = at(scene, lost, [(begins + 2, Act.LAND)], t)
    expected = Doing.RETURN_HOME if settings.lost_link == "return" else Doing.HOLD
    assert flights.state.doing[0] == expected
    walked = at(scene, lost, [(begins + 2, Act.WALK), (begins + 28, Act.LAND)], t)
    assert walked.state.doing[0] == Doing.DOWN


def test_low_battery_lands_it_where_it_is_and_ground_decides(scene: Scene) -> None:
    left = ended(scene.sheet, NOTHING, [])
    assert left.end in (End.AWAY, End.TREES, End.WATER)
    assert left.charge_pct < 15
    for ground, end in ((Ground.OPEN, End.AWAY), (Ground.TREES, End.TREES), (Ground.WATER, End.WATER)):
        sheet = replace(scene.sheet, bands=(Band(30.0, math.inf, ground),))
        assert ended(sheet, NOTHING, [(scene.begins_s, Act.LAND)]).end is end


def test_too_low_over_trees_hits_them(scene: Scene) -> None:
    t = scene.begins_s + 5
    assert scene.sheet.stands
    down = [(t, Act.LOWER)] * 4
    assert ended(scene.sheet, NOTHING, [*down, (t + 20, Act.BY_HAND)]).end is End.HIT
    assert ended(scene.sheet, NOTHING, [(t + 20, Act.BY_HAND)]).end is End.HOME


def test_somebody_on_the_pad(scene: Scene) -> None:
    pad = Mishap(Kind.PAD, at_s=scene.begins_s, pad_for_s=400.0)
    assert ended(scene.sheet, pad, [(scene.begins_s, Act.BY_HAND)]).end is End.HURT
    waited = [(scene.begins_s, Act.BY_HAND), (scene.begins_s + 25, Act.WAIT), (scene.begins_s + 402, Act.BY_HAND)]
    assert ended(scene.sheet, pad, waited).end is End.HOME


def test_who_leaves_while_it_lands_on_them_is_hurt(scene: Scene) -> None:
    """It touches down some seconds before the landing is over: whoever stands there then is hit."""
    acts = [(scene.begins_s, Act.BY_HAND)]
    home = ended(scene.sheet, NOTHING, acts)
    down_s = home.at_s - LANDING_S
    leaves = Mishap(Kind.PAD, at_s=scene.begins_s, pad_for_s=down_s - scene.begins_s + 5)
    assert ended(scene.sheet, leaves, acts).end is End.HURT
    gone = Mishap(Kind.PAD, at_s=scene.begins_s, pad_for_s=down_s - scene.begins_s - 5)
    assert ended(scene.sheet, gone, acts).end is End.HOME


def test_the_forecast_is_the_wind_of_the_checks(scene: Scene) -> None:
    height = scene.plan.flight.height_m
    wind = Assessment(scene.sheet.situation).wind_planned
    assert wind is not None
    assert scene.sheet.forecast(height) == pytest.approx((wind.speed_ms, wind.direction_deg), abs=1e-3)


def test_a_bird_strikes_what_stays_and_leaves_what_climbs(scene: Scene) -> None:
    bird = Mishap(Kind.BIRD, at_s=scene.turn_s - 120, bird=True)
    stays = ended(scene.sheet, bird, [])
    assert stays.end is End.STRUCK
    assert stays.at_s == pytest.approx(scene.turn_s - 120 + 12, abs=1)
    t = scene.turn_s - 115
    leaves = [(t, Act.CLIMB), (t + 3, Act.FAST), (t + 3, Act.BY_HAND)]
    assert ended(scene.sheet, bird, leaves).end is End.HOME


def test_fog_ices_what_stays_in_it(scene: Scene) -> None:
    fog = Mishap(Kind.FOG, at_s=scene.begins_s, fog_rise_ms=2.0)
    assert ended(scene.sheet, fog, []).end is End.ICED
    assert ended(scene.sheet, fog, [(scene.begins_s + 2, Act.FAST), (scene.begins_s + 2, Act.BY_HAND)]).end is End.HOME


def test_from_a_drifting_boat_only_by_hand_is_home() -> None:
    scene = scene_of(Kind.BOAT)
    by_hand = ended(scene.sheet, scene.mishap, [(scene.turn_s, Act.BY_HAND)])
    returns = ended(scene.sheet, scene.mishap, [(scene.turn_s, Act.RETURN_HOME)])
    assert (by_hand.end, returns.end) == (End.HOME, End.WATER)
    assert by_hand.from_home_m < PAD_M < returns.from_home_m


def test_a_flight_in_the_air_has_no_end(scene: Scene) -> None:
    with pytest.raises(ValueError, match="in the air"):
        Flights(scene.sheet, NOTHING, CALM, [[]]).ended()


def test_the_record_is_the_flight(scene: Scene) -> None:
    acts = [(scene.turn_s, Act.TURN_BACK)]
    track = flown(scene.sheet, scene.mishap, scene.normals, acts)
    assert track.ended == ended(scene.sheet, scene.mishap, acts, scene.normals)
    assert [m.at_s for m in track.moments[:3]] == [1, 2, 3]
    charges = [m.charge_pct for m in track.moments]
    assert charges == sorted(charges, reverse=True)
    assert max(math.hypot(m.x, m.y) for m in track.moments) == pytest.approx(
        scene.plan.flight.distance_m, abs=4
    )  # fmt: skip

"""What would bring a subject in that is left out: every way that is offered is tried here, and works."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.make import EXAMPLES, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.prepare.filming import FilmingPlan, judge_filming, plan_filming
from zealous_lark.core.prepare.subjects import Outing, Shot, ShotPack, WantedLight
from zealous_lark.core.situation import Pack, Situation
from zealous_lark.plan import read_plan, situation_of

FULL = Pack(100, 95, 18)
EXAMPLE = situation_of(read_plan((EXAMPLES / "example-plan.json").read_text()))


def outing(situation: Situation, shots: tuple[Shot, ...], packs: tuple[Pack, ...], minutes: float = 120) -> Outing:
    named = tuple(ShotPack("ABCDEFG"[n], p) for n, p in enumerate(packs))
    return Outing(Assessment(situation), shots, named, minutes * 60, 240)


def planned(made: Outing) -> FilmingPlan:
    found = plan_filming(made)
    assert found is not None
    return found


def brought_in(made: Outing, shot: int, way: str) -> Outing:
    """An outing after a way that was offered for a subject was taken at its word."""
    if found := re.match(r"([\d.]+) min of filming instead", way):
        shots = [replace(s, minutes=float(found[1])) if n == shot else s for n, s in enumerate(made.shots)]
        return replace(made, shots=tuple(shots))
    if found := re.match(r"At (\d+) m there's less wind", way):
        shots = [replace(s, height_m=float(found[1])) if n == shot else s for n, s in enumerate(made.shots)]
        return replace(made, shots=tuple(shots))
    if found := re.match(r"Battery (\w) at (\d+)% or more", way):
        return with_pack(made, found[1], charge_pct=float(found[2]))
    if found := re.match(r"Battery (\w) full and kept warm at (\d+) °C", way):
        return with_pack(made, found[1], charge_pct=100.0, temperature_c=float(found[2]))
    if way.startswith("One more battery like your fullest"):
        fullest = max(range(len(made.packs)), key=made.budget_wh)
        return replace(made, packs=(*made.packs, replace(made.packs[fullest], label="more")))
    if found := re.match(r"Stay (\d+) min on site", way):
        return replace(made, session_s=float(found[1]) * 60)
    found = re.match(r"Starting at (\d\d):(\d\d)", way)
    assert found, f"a way of a new kind: {way}"
    before = made.situation.takeoff_at
    at = before.replace(hour=int(found[1]), minute=int(found[2]))
    moved = replace(made.situation, takeoff_at=at if at > before else at + timedelta(days=1))
    return replace(made, assessment=Assessment(moved))


def with_pack(made: Outing, label: str, **values: float) -> Outing:
    packs = [replace(p, pack=replace(p.pack, **values)) if p.label == label else p for p in made.packs]
    return replace(made, packs=tuple(packs))


any_shot = st.builds(
    Shot,
    name=st.just("subject"),
    bearing_deg=st.floats(0, 359),
    distance_m=st.floats(20, 900),
    height_m=st.floats(15, 110),
    minutes=st.floats(1, 45),
    light=st.sampled_from([WantedLight.ANY, WantedLight.ANY, WantedLight.GOLDEN]),
)
usual_shot = st.builds(
    Shot, st.just("subject"), st.floats(0, 359), st.floats(50, 250), st.floats(20, 60), st.floats(7, 13)
)
packs = st.lists(
    st.builds(Pack, st.floats(20, 100), st.floats(70, 100), st.floats(-10, 30)), min_size=1, max_size=3
).map(tuple)


@settings(max_examples=250)
@given(any_shot, packs, st.floats(2, 10), st.floats(5, 200))
def test_every_way_that_is_offered_for_a_subject_alone_films_it(
    shot: Shot, packs: tuple[Pack, ...], wind_ms: float, minutes: float
) -> None:
    made = outing(wind(EXAMPLE, forecast(wind_ms, 240, 1.4 * wind_ms)), (shot,), packs, minutes)
    for left in planned(made).left_out:
        assert left.why.endswith(".")
        for way in left.ways:
            assert planned(brought_in(made, left.shot, way)).holds, way


@settings(max_examples=60)
@given(st.lists(usual_shot, min_size=2, max_size=4).map(tuple), st.integers(1, 3), st.floats(20, 60))
def test_one_more_pack_or_a_longer_stay_films_what_the_others_left_no_room_for(
    shots: tuple[Shot, ...], count: int, minutes: float
) -> None:
    made = outing(wind(EXAMPLE, forecast(3, 240, 4)), shots, (FULL,) * count, minutes)
    for left in planned(made).left_out:
        if "used up by the others" not in left.why:
            continue
        for way in left.ways:
            after = planned(brought_in(made, left.shot, way))
            assert left.shot not in [x.shot for x in after.left_out], way


@pytest.mark.parametrize(
    ("shot", "packs", "wind_ms", "why", "way"),
    [
        (Shot("high", 240, 200, 110, 3), (FULL,), 8.6, "headway", "less wind"),
        (Shot("far", 240, 300, 40, 9), (Pack(60, 95, 18),), 3, "fullest battery", "or more would do it"),
        (Shot("cold", 240, 200, 40, 17.5), (Pack(100, 95, -8),), 3, "fullest battery", "kept warm at 25 °C"),
        (Shot("none", 240, 200, 40, 3), (), 3, "No battery can be taken", None),
    ],
)
def test_each_reason_comes_with_its_way(
    shot: Shot, packs: tuple[Pack, ...], wind_ms: float, why: str, way: str | None
) -> None:
    made = outing(wind(EXAMPLE, forecast(wind_ms, 240, wind_ms + 1)), (shot,), packs)
    (left,) = planned(made).left_out
    assert why in left.why
    if way is None:
        assert left.ways == ()
    else:
        offered = next(w for w in left.ways if way in w)
        assert planned(brought_in(made, 0, offered)).holds


def test_what_is_wrong_with_flights_set_by_hand_is_said_flight_by_flight() -> None:
    near, upwind = Shot("near", 60, 120, 40, 4), Shot("upwind", 240, 400, 90, 4)
    calm = wind(EXAMPLE, forecast(3, 240, 4))
    short = judge_filming(outing(calm, (near,), (FULL,), minutes=2), [(0, [0])])
    assert short is not None
    assert short.flights[0].faults == ("It would land after the session ends.",)

    storm = judge_filming(outing(wind(EXAMPLE, forecast(13, 240, 15)), (upwind,), (FULL,)), [(0, [0])])
    assert storm is not None
    assert "A leg makes no headway against the wind." in storm.flights[0].faults
    assert storm.flights[0].steps == ()
    assert not storm.holds

    noon = replace(calm, takeoff_at=calm.takeoff_at.replace(hour=9))
    lit = replace(near, light=WantedLight.GOLDEN)
    dull = judge_filming(outing(noon, (lit, near), (FULL,)), [(0, [0, 1])])
    assert dull is not None
    assert dull.flights[0].faults == ("The light is not there from take-off to landing: near (golden hour).",)

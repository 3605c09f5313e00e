"""Flights to bring home: the same by seed, within limits before, and each can be brought home."""

from __future__ import annotations

import math
import os
from collections import Counter

import pytest

from tests.cases.test_drawing import OWN
from zealous_lark.cases.homeward import Scene, draw_flight, kind_of
from zealous_lark.core.homeward.acts import Act, End
from zealous_lark.core.homeward.flying import Flights
from zealous_lark.core.homeward.mishap import Kind
from zealous_lark.core.homeward.sheet import Ground
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.plan import situation_of

SEEDS = range(1, 1 + int(os.environ.get("LARK_FLIGHTS", "10")))
"""Which flights are looked at; `make soak` looks at twenty."""


@pytest.fixture(scope="module")
def scenes() -> list[Scene]:
    return [draw_flight(seed, OWN) for seed in SEEDS]


def test_a_seed_is_the_same_flight(scenes: list[Scene]) -> None:
    again = draw_flight(7, OWN)
    assert again == scenes[6]
    assert again.normals == scenes[6].normals
    assert scenes[0] != scenes[1]


def test_all_kinds_come_about_as_often() -> None:
    found = Counter(kind_of(seed) for seed in range(1, 901))
    assert set(found) == set(Kind)
    assert min(found.values()) > 60


def test_the_plan_is_within_limits_and_would_land_with_the_reserve(scenes: list[Scene]) -> None:
    for scene in scenes:
        situation = situation_of(scene.plan)
        assert judge(situation).verdict in (Verdict.LAUNCH, Verdict.CARE)
        landing = scene.sheet.trip.landing_pct
        assert landing is not None
        assert landing >= situation.reserve_pct + 4.9
        assert scene.begins_s < scene.turn_s


def test_nothing_has_gone_wrong_when_the_pilot_takes_over_but_for_the_boat(scenes: list[Scene]) -> None:
    for scene in scenes:
        if scene.mishap.kind not in (Kind.NONE, Kind.BOAT):
            assert scene.begins_s < scene.mishap.at_s


def test_what_is_on_the_way_is_between_pilot_and_far_point(scenes: list[Scene]) -> None:
    over = [scene for scene in scenes if scene.sheet.stands]
    assert len(over) >= len(scenes) / 2
    for scene in over:
        far = scene.plan.flight.distance_m
        for stands in scene.sheet.stands:
            assert all(15 < math.hypot(*end) < far for end in stands.ends)
            assert stands.top_m + 5 < scene.plan.flight.height_m


def test_each_has_what_it_is_about(scenes: list[Scene]) -> None:
    for scene in scenes:
        m = scene.mishap
        about = {
            Kind.NONE: m.grown(1e4) == 1 and m.drain == m.wind_factor == 1,
            Kind.HEADWIND: m.wind_factor > 1,
            Kind.DRAIN: m.drain > 1.3 and m.drop_points > 0,
            Kind.PICTURE: m.picture_lost,
            Kind.LINK: m.noise_db > 10,
            Kind.FOG: m.fog_top_m(m.at_s + 300) >= scene.plan.flight.height_m,
            Kind.BIRD: m.bird,
            Kind.PAD: m.pad_for_s >= 120,
            Kind.BOAT: m.drifts and scene.sheet.ground(100.0) is Ground.WATER,
        }
        assert about[m.kind], m


def test_a_pilot_who_only_flies_the_plan_is_not_always_home(scenes: list[Scene]) -> None:
    ends = [
        Flights(s.sheet, s.mishap, s.normals, [[(s.turn_s, Act.TURN_BACK)]]).to_the_end()[0].end for s in scenes
    ]  # fmt: skip
    assert 0.25 * len(ends) <= sum(end is not End.HOME for end in ends) <= 0.75 * len(ends)

"""Camera moves, zones, people, airfields, and heights found from afar."""

import math
from datetime import date, timedelta

import numpy as np
import pytest
from shapely.geometry import Point, Polygon, box

from tests.make import at, changed, drawn, feature, find, made_terrain
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.heights import height_by_angle_m, height_by_shadow_m
from zealous_lark.core.moves import path
from zealous_lark.core.place import HeightReference, Restriction, Zone
from zealous_lark.core.situation import Move, MoveKind, Situation
from zealous_lark.core.verdict import judge


def bare(situation: Situation) -> Situation:
    return changed(situation, site__obstacles=(), flight__distance_m=200.0)


def move(situation: Situation, kind: MoveKind, **more: float) -> Move:
    lon, lat = at(situation, 240, 100)
    sizes = {"height_m": 30.0, "size_m": 20.0, "length_m": 60.0, "climb_m": 0.0, **more}
    return Move(kind, lat, lon, **sizes)


def planned(situation: Situation, *moves: Move, **more: object) -> Situation:
    return changed(situation, flight__moves=moves, **more)


def test_an_orbit_is_a_circle_and_costs_its_length(situation: Situation) -> None:
    m = move(situation, MoveKind.ORBIT, turns=2)
    x, y, z = path(m, Frame(situation.site.latitude, situation.site.longitude))
    cx, cy = 100 * math.sin(math.radians(240)), 100 * math.cos(math.radians(240))
    assert np.hypot(x - cx, y - cy) == pytest.approx(20)
    assert np.all(z == 30)
    swept = Assessment(planned(drawn(bare(situation)), m)).moves[0]
    assert swept.seconds == pytest.approx(2 * 2 * math.pi * 20 / 4, rel=0.01)


@pytest.mark.parametrize(
    ("kind", "more", "first", "last"),
    [
        (MoveKind.PULL_AWAY, {"climb_m": 30.0, "bearing_deg": 60.0}, (80, 30), (20, 60)),
        (MoveKind.RISE, {"climb_m": 30.0, "bearing_deg": 60.0}, (80, 30), (80, 60)),
        (MoveKind.STRAIGHT, {"bearing_deg": 60.0}, (130, 30), (70, 30)),
        (MoveKind.TOP_DOWN, {"climb_m": 50.0}, (100, 30), (100, 80)),
    ],
)
def test_where_a_move_begins_and_ends(
    situation: Situation, kind: MoveKind, more: dict[str, float], first: tuple[float, float], last: tuple[float, float]
) -> None:
    """Towards 060° is towards the pilot: distances from the pilot shrink by hand-counted amounts."""
    x, y, z = path(move(situation, kind, **more), Frame(situation.site.latitude, situation.site.longitude))
    far = np.hypot(x, y)
    assert (far[0], z[0]) == pytest.approx(first, abs=0.01)
    assert (far[-1], z[-1]) == pytest.approx(last, abs=0.01)


def test_a_climb_costs_more_than_the_same_way_level(situation: Situation) -> None:
    s = drawn(bare(situation))
    level = Assessment(planned(s, move(situation, MoveKind.STRAIGHT))).moves[0]
    climbing = Assessment(planned(s, move(situation, MoveKind.STRAIGHT, climb_m=30))).moves[0]
    assert climbing.wh > level.wh
    assert climbing.seconds > level.seconds


@pytest.mark.parametrize(
    ("height", "status"), [(17.9, Status.FAIL), (20.9, Status.FAIL), (21.1, Status.CARE), (28.1, Status.PASS)]
)
def test_a_move_beside_trees(situation: Situation, height: float, status: Status) -> None:
    """Trees of 18 m beside the orbit, within the ten metres that a position may be off."""
    tree = feature("obstacle", Point(at(situation, 240, 125)), kind="trees", height_m=18, name="pine")
    s = planned(drawn(bare(situation), tree), move(situation, MoveKind.ORBIT, height_m=height))
    found = find(s, "land.moves")
    assert found.status is status
    assert "pine" in found.sentence
    clear = drawn(bare(situation), feature("obstacle", Point(at(situation, 240, 135)), kind="trees", height_m=18))
    assert find(planned(clear, move(situation, MoveKind.ORBIT, height_m=height)), "land.moves").status is Status.PASS


def test_a_move_over_people_past_sight_and_through_the_ceiling(situation: Situation) -> None:
    crowd = feature("people", Point(at(situation, 240, 100)).buffer(0.0002), name="visitors")
    s = drawn(bare(situation), crowd)
    assert "of people" in find(planned(s, move(situation, MoveKind.ORBIT)), "land.moves").sentence
    empty = drawn(bare(situation))
    high = find(planned(empty, move(situation, MoveKind.TOP_DOWN, climb_m=95)), "land.moves")
    assert high.status is Status.FAIL
    assert "120 m is the most" in high.sentence
    far = find(planned(empty, move(situation, MoveKind.STRAIGHT, length_m=200, bearing_deg=240)), "land.moves")
    assert far.status is Status.CARE
    assert "sight ends at 138 m" in far.sentence


def test_moves_longer_than_the_time_on_station_are_said(situation: Situation) -> None:
    s = planned(drawn(bare(situation)), move(situation, MoveKind.ORBIT, turns=9), flight__station_min=3.0)
    found = find(s, "land.moves")
    assert found.status is Status.CARE
    assert "only those are counted" in found.sentence


def zone(situation: Situation, near: float, far: float, **more: object) -> Zone:
    ring = [at(situation, b, d) for b, d in ((230, near), (250, near), (250, far), (230, far))]
    values = {"restriction": Restriction.PROHIBITED, "upper_m": 120.0, "authority": "Somebody", **more}
    return Zone("Reserve", Polygon(ring), **values)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("near", "more", "status"),
    [
        (100, {}, Status.FAIL),
        (195, {}, Status.FAIL),
        (300, {}, Status.CARE),
        (705, {}, Status.CARE),
        (740, {}, Status.PASS),
        (100, {"lower_m": 41.0}, Status.CARE),
        (100, {"lower_m": 39.0}, Status.FAIL),
        (100, {"lower_m": 60.0, "upper_m": None}, Status.CARE),
        (100, {"restriction": Restriction.CONDITIONAL}, Status.FAIL),
        (100, {"restriction": Restriction.INFORMATION}, Status.CARE),
        (300, {"restriction": Restriction.INFORMATION}, Status.PASS),
        (100, {"lower_m": 81.0, "lower_from": HeightReference.SEA_LEVEL}, Status.FAIL),  # 39 m above a pad at 42 m
        (100, {"lower_m": 83.0, "lower_from": HeightReference.SEA_LEVEL}, Status.CARE),
    ],
)
def test_zones(situation: Situation, near: float, more: dict[str, object], status: Status) -> None:
    found = find(drawn(bare(situation), zones=(zone(situation, near, near + 300, **more),)), "rules.zone")
    assert found.status is status
    if status is not Status.PASS:
        assert "Reserve" in found.sentence


def test_a_zone_over_falling_ground_begins_as_much_lower(situation: Situation) -> None:
    """41 m over ground that lies 30 m below the take-off is 11 m above it: the flight at 40 m is inside."""
    over = zone(situation, 100, 300, lower_m=41.0)
    assert find(drawn(bare(situation), zones=(over,)), "rules.zone").status is Status.CARE
    east, north = math.sin(math.radians(240)), math.cos(math.radians(240))
    fall = made_terrain(situation, lambda x, y: 42 - np.clip(0.3 * (x * east + y * north), 0, 30))
    assert find(drawn(bare(situation), zones=(over,), terrain=fall), "rules.zone").status is Status.FAIL


def test_a_zone_counts_only_while_it_is_in_force(situation: Situation) -> None:
    lift_off = situation.takeoff_at
    for begins, ends, status in (
        (lift_off + timedelta(hours=2), None, Status.PASS),
        (None, lift_off - timedelta(hours=1), Status.PASS),
        (lift_off - timedelta(hours=1), lift_off + timedelta(minutes=1), Status.FAIL),
    ):
        s = drawn(bare(situation), zones=(zone(situation, 100, 300, begins=begins, ends=ends),))
        assert find(s, "rules.zone").status is status


def test_a_hole_in_a_zone_is_not_in_it(situation: Situation) -> None:
    lon, lat = situation.site.longitude, situation.site.latitude
    around = box(lon - 0.1, lat - 0.05, lon + 0.1, lat + 0.05)
    clearing = box(lon - 0.03, lat - 0.015, lon + 0.03, lat + 0.015)
    ring = Zone("Ring", around.difference(clearing), Restriction.PROHIBITED, upper_m=500.0)
    assert find(drawn(bare(situation), zones=(ring,)), "rules.zone").status is Status.PASS
    full = Zone("Full", around, Restriction.PROHIBITED, upper_m=500.0)
    assert find(drawn(bare(situation), zones=(full,)), "rules.zone").status is Status.FAIL


def test_no_zones_known_is_a_question_and_counted_as_not_checked(situation: Situation) -> None:
    unasked = drawn(bare(situation), looked_at=None)
    found = find(unasked, "rules.zone")
    assert found.status is Status.UNKNOWN
    assert not found.matters
    assert found.question
    assert judge(unasked).verdict is judge(drawn(bare(situation))).verdict
    assert find(drawn(bare(situation)), "rules.zone").status is Status.PASS
    assert find(situation, "rules.zone").status is Status.UNKNOWN, "also where no place is drawn"
    looked = changed(situation, site__zones_looked_at=date(2026, 9, 20), site__people_looked_at=date(2026, 9, 26))
    assert "20 Sep 2026" in find(looked, "rules.zone").sentence
    assert "26 Sep 2026" in find(looked, "rules.people").sentence


@pytest.mark.parametrize(("distance", "status"), [(4000, Status.FAIL), (5300, Status.CARE), (6500, Status.PASS)])
def test_airfields_by_their_own_and_by_the_rules_distance(
    situation: Situation, distance: float, status: Status
) -> None:
    field = feature("airfield", Point(at(situation, 60, distance)), name="Strip")
    by_rule = changed(drawn(bare(situation), field), minimums__airfield_m=5000.0)
    assert find(by_rule, "rules.zone").status is status
    assert find(drawn(bare(situation), field), "rules.zone").status is Status.PASS


@pytest.mark.parametrize(
    ("rule", "distance", "status"),
    [
        (None, 41.0, Status.PASS),
        (None, 39.0, Status.CARE),
        (50.0, 61.0, Status.PASS),
        (50.0, 51.0, Status.CARE),
        (50.0, 49.0, Status.FAIL),
        (None, 0.0, Status.FAIL),
    ],
)
def test_people_beside_the_way(situation: Situation, rule: float | None, distance: float, status: Status) -> None:
    """At 40 m up people want to be 40 m away, or what the rules say; the way is ten metres wide."""
    s = changed(bare(situation), minimums__people_m=rule)
    lon, lat = at(situation, 240, 100)
    beside = at(changed(s, site__latitude=lat, site__longitude=lon), 330, distance + 10)
    found = find(drawn(s, feature("people", Point(beside), name="walkers")), "rules.people")
    assert found.status is status
    assert "walkers" in found.sentence


def test_heights_from_afar() -> None:
    """Plane trigonometry by hand: 50 m away at 20° stands 18.2 m over the eye; a shadow of 20 m under 30° is 11.5 m."""
    assert height_by_angle_m(50, 20) == pytest.approx(18.2 + 1.6, abs=0.01)
    assert height_by_shadow_m(20, 30) == pytest.approx(11.547, abs=0.001)
    for wrong in (-1, 90):
        with pytest.raises(ValueError, match="angle"):
            height_by_angle_m(50, wrong)
    with pytest.raises(ValueError, match="sun"):
        height_by_shadow_m(20, 2)


def test_half_a_metre_over_the_tree_is_beside_it_and_not_into_it(situation: Situation) -> None:
    tree = feature("obstacle", Point(at(situation, 240, 125)), kind="trees", height_m=18, name="pine")
    for height, goes in ((18.5, "goes within"), (17.5, "goes into")):
        s = planned(drawn(bare(situation), tree), move(situation, MoveKind.ORBIT, height_m=height))
        assert goes in find(s, "land.moves").sentence

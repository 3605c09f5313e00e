"""A place around a take-off point: what lies along a bearing, what the way home must clear, how far it reaches."""

import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon

from tests.core.test_laws import BASE
from tests.make import at, changed, drawn, feature, find, made_terrain, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.light import Sun
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.section import section
from zealous_lark.core.situation import Situation
from zealous_lark.core.survey import LightSide, light_side, survey
from zealous_lark.core.takeoffs import suggest
from zealous_lark.core.trip import ReachLimit
from zealous_lark.core.units import LengthUnit, Units


def bare(situation: Situation) -> Situation:
    return changed(situation, site__obstacles=())


def mast(situation: Situation, bearing: float, distance: float, height: float = 24) -> object:
    return feature("obstacle", Point(at(situation, bearing, distance)), kind="mast", height_m=height, name="tower")


def wood(situation: Situation, height: float = 18, near: float = 60, far: float = 90) -> object:
    ring = [at(situation, b, d) for b, d in ((225, near), (255, near), (250, far), (230, far))]
    return feature("obstacle", Polygon(ring), kind="trees", height_m=height, name="pines")


def cone(height: float, distance: float, radius: float, bearing: float = 50):  # type: ignore[no-untyped-def]
    cx, cy = distance * math.sin(math.radians(bearing)), distance * math.cos(math.radians(bearing))
    return lambda x, y: 42 + np.maximum(0, height * (1 - np.hypot(x - cx, y - cy) / radius))


def plane(slope: float, bearing: float, least: float = -math.inf):  # type: ignore[no-untyped-def]
    """Ground that rises towards a bearing, through 42 m at the take-off point, no lower than `least` below it."""
    east, north = math.sin(math.radians(bearing)), math.cos(math.radians(bearing))
    return lambda x, y: 42 + np.maximum(slope * (x * east + y * north), least)


def test_the_section_of_a_cone_is_its_exact_profile(situation: Situation) -> None:
    """Through its top the profile of a cone is two straight lines; a cell of 5 m may cut its tip by 0.4 m."""
    s = drawn(bare(situation), terrain=made_terrain(situation, cone(40, 400, 200), cell=5, half=800))
    cut = section(Assessment(s), 50, 700)
    exact = np.maximum(0, 40 * (1 - np.abs(cut.distance_m - 400) / 200))
    assert np.abs(cut.ground_m - exact).max() < 0.45
    away = np.abs(np.abs(cut.distance_m - 400) - 100) < 80  # off the tip and the foot, where it is straight
    assert np.abs(cut.ground_m - exact)[away].max() < 0.03
    assert cut.legal_m == pytest.approx(cut.ground_m + 120)


def test_the_return_height_rises_by_the_ground(situation: Situation) -> None:
    """35 m of ground at 420 m, and 10 m over it: 45 by hand; nearer than its foot, the floor of 20."""
    s = drawn(bare(situation), terrain=made_terrain(situation, lambda x, y: np.minimum(cone(80, 420, 100)(x, y), 77)))
    near = changed(s, flight__bearing_deg=50.0, flight__distance_m=300.0)
    far = changed(s, flight__bearing_deg=50.0, flight__distance_m=440.0)
    assert Assessment(near).return_height.lowest_m == 20
    assert Assessment(far).return_height.lowest_m == pytest.approx(45, abs=0.6)
    assert find(far, "return.clearance").status is Status.CARE
    assert find(changed(far, settings__rth_altitude_m=35.0), "return.clearance").status is Status.FAIL
    assert "the ground needs 45 m" in find(changed(far, settings__rth_altitude_m=36.0), "return.clearance").sentence


def test_trees_on_a_slope_are_counted_from_the_ground_they_stand_on(situation: Situation) -> None:
    rise = made_terrain(situation, plane(0.2, 100))
    tree = feature("obstacle", Point(at(situation, 100, 100)), kind="trees", height_m=15)
    s = changed(drawn(bare(situation), tree, terrain=rise), flight__distance_m=101.0)
    assert Assessment(s).return_height.lowest_m == pytest.approx(20 + 15 + 10, abs=0.3)


def test_of_a_wood_only_what_is_within_the_distance_counts(situation: Situation) -> None:
    rise = made_terrain(situation, lambda x, y: 42 + 0.2 * np.hypot(x, y))
    s = drawn(bare(situation), wood(situation, near=60, far=300), terrain=rise)  # type: ignore[arg-type]
    by = [Assessment(changed(s, flight__distance_m=d)).return_height.lowest_m for d in (50.0, 100.0, 200.0)]
    assert by[0] == pytest.approx(max(20, 10 + 10), abs=0.6)
    assert by[1] == pytest.approx(100 * 0.2 + 18 + 10, abs=2.5)  # to the ten metres of the points it is made of
    assert by[2] == pytest.approx(200 * 0.2 + 18 + 10, abs=2.5)


def test_wires_count_at_the_height_of_their_poles_all_along(situation: Situation) -> None:
    line = LineString([at(situation, 10, 300), at(situation, 90, 300)])
    wires = feature("obstacle", line, kind="wires", height_m=30)
    nearest = 300 * math.cos(math.radians(40))  # halfway between the poles, hand-checked
    assert (
        Assessment(changed(drawn(bare(situation), wires), flight__distance_m=nearest - 1)).return_height.lowest_m == 20
    )
    found = Assessment(changed(drawn(bare(situation), wires), flight__distance_m=nearest + 1)).return_height
    assert found.lowest_m == 40
    assert found.governing is not None
    assert found.governing.bearing_deg == pytest.approx(50, abs=0.1)


def test_ground_that_falls_away_takes_its_fall_off_the_legal_height(situation: Situation) -> None:
    """From a hill 50 m up, 80 m above the pad is 130 m above the valley."""
    hill = made_terrain(situation, plane(-0.5, 240, least=-50))
    s = changed(drawn(bare(situation), terrain=hill), settings__rth_altitude_m=80.0, flight__distance_m=260.0)
    height = find(s, "rules.height")
    assert (height.status, round(height.value or 0)) == (Status.FAIL, 130)
    assert Assessment(s).return_height.highest_m == pytest.approx(70, abs=0.5)
    assert find(changed(s, settings__rth_altitude_m=60.0), "rules.height").status is Status.CARE
    level = changed(drawn(bare(situation)), settings__rth_altitude_m=80.0)
    assert find(level, "rules.height").status is Status.PASS


@pytest.mark.parametrize(("where", "status"), [("beside", Status.UNKNOWN), ("beyond", Status.PASS)])
def test_a_hole_in_the_terrain_is_unknown_not_zero(situation: Situation, where: str, status: Status) -> None:
    inner, outer = (100, 200) if where == "beside" else (400, 600)

    def holed(x, y):  # type: ignore[no-untyped-def]
        far = np.hypot(x, y)
        return np.where((far > inner) & (far < outer), np.nan, 42.0)

    s = drawn(bare(situation), terrain=made_terrain(situation, holed))
    found = find(s, "return.clearance")
    assert found.status is status
    way = find(s, "clear.outbound")
    assert way.status is status
    if status is Status.UNKNOWN:
        assert found.question
        assert "not known" in way.sentence


def test_the_way_out_at_just_over_and_just_under(situation: Situation) -> None:
    s = drawn(bare(situation), mast(situation, 240, 100, 30))  # type: ignore[arg-type]
    by = {h: find(changed(s, flight__height_m=h), "clear.outbound").status for h in (29.0, 34.9, 35.0, 39.9, 40.0)}
    assert by == {29.0: Status.FAIL, 34.9: Status.FAIL, 35.0: Status.CARE, 39.9: Status.CARE, 40.0: Status.PASS}
    aside = drawn(bare(situation), mast(situation, 250, 100, 30))  # type: ignore[arg-type]
    # 17 m off the line: out of the room of 10 m, but it may stand 10 m nearer than it is drawn.
    assert find(changed(aside, flight__height_m=20.0), "clear.outbound").status is Status.CARE
    further = drawn(bare(situation), mast(situation, 255, 100, 30))  # type: ignore[arg-type]
    assert find(changed(further, flight__height_m=20.0), "clear.outbound").status is Status.PASS


def test_reach_ends_where_the_way_home_does_not_clear(situation: Situation) -> None:
    s = drawn(bare(situation), mast(situation, 60, 300, 60))  # type: ignore[arg-type]
    flyer = Assessment(s).flyer
    assert flyer is not None
    reach = flyer.reach([60.0, 70.0])
    assert reach.limited_by == (ReachLimit.GROUND, ReachLimit.CHARGE)
    assert reach.distance_m[0] == pytest.approx(290, abs=6)  # ten metres off the mast, to the five of the samples
    said = find(changed(s, flight__bearing_deg=60.0, flight__distance_m=400.0), "battery.reach")
    assert said.status is Status.PASS, "what stands there sets no charge to zero"
    beyond = changed(s, flight__bearing_deg=60.0, flight__distance_m=400.0)
    assert find(beyond, "return.clearance").status is Status.FAIL
    high = Assessment(changed(s, settings__rth_altitude_m=70.0)).flyer
    assert high is not None
    assert high.reach([60.0]).limited_by == (ReachLimit.CHARGE,)


def test_a_hill_cuts_the_signal(situation: Situation) -> None:
    ridge = made_terrain(situation, lambda x, y: 42 + 60 * np.exp(-((np.hypot(x, y) - 300) ** 2) / 800))
    behind = changed(drawn(bare(situation), terrain=ridge), flight__distance_m=600.0, flight__height_m=20.0)
    before = changed(behind, flight__distance_m=200.0)
    assert Assessment(before).signal.obstruction_db == pytest.approx(0, abs=0.5)
    found = Assessment(behind).signal
    assert found.obstruction_db > 20
    assert found.obstacle is not None
    assert (found.obstacle.kind, found.obstacle.name) == (ObstacleKind.TERRAIN, "ground")
    contour = survey(Assessment(behind), 800)
    assert contour is not None
    assert np.all((contour.signal_m > 250) & (contour.signal_m < 360))


def test_a_drawn_wood_loses_what_the_same_wood_in_numbers_loses(situation: Situation) -> None:
    """The plan's own obstacle of 30 m of trees at 60 m, and one drawn so: within a decibel."""
    numbers = Assessment(changed(situation, site__obstacles=situation.site.obstacles[:1])).signal.obstruction_db
    ring = [at(situation, b, d) for b, d in ((220, 60), (260, 60), (258, 80), (222, 80))]
    pines = feature("obstacle", Polygon(ring), kind="trees", height_m=18)
    assert Assessment(drawn(bare(situation), pines)).signal.obstruction_db == pytest.approx(numbers, abs=1)


def test_water_on_the_way_out_makes_it_a_flight_over_water(situation: Situation) -> None:
    pool = feature("water", Polygon([at(situation, b, d) for b, d in ((230, 100), (250, 100), (250, 150), (230, 150))]))
    s = drawn(bare(situation), pool)
    assert s.over_water
    assert s.reserve_pct == 40
    assert find(s, "water.distance").value == pytest.approx(49.2, abs=0.2)  # (150 - 100)·cos 10°, by hand
    said = changed(drawn(bare(situation)), site__over_water=True)
    assert find(said, "water.distance").value == 260
    assert not changed(s, flight__distance_m=90.0).over_water
    assert not changed(s, flight__bearing_deg=20.0).over_water


def test_light_on_a_subject() -> None:
    sun = Sun(azimuth_deg=100, elevation_deg=8)
    assert light_side(sun, 100) is LightSide.BACK
    assert light_side(sun, 190) is LightSide.SIDE
    assert light_side(sun, 280) is LightSide.FRONT
    assert light_side(Sun(100, -3), 100) is LightSide.NONE


def test_steep_ground_is_no_place_to_land(situation: Situation) -> None:
    slope = made_terrain(situation, lambda x, _y: 42 + np.maximum(0, x) * 0.4)
    flat = feature("landing", Point(at(situation, 270, 100)), id="flat")
    steep = feature("landing", Point(at(situation, 90, 100)), id="steep")
    found = survey(Assessment(drawn(bare(situation), flat, steep, terrain=slope)), 300)
    assert found is not None
    assert [w.feature.id for w in found.ways_down] == ["flat"]
    assert 30 < (found.ways_down[0].charge_pct or 0) < 73.5


def test_a_take_off_point_is_found_clear_of_wires_people_and_water(situation: Situation) -> None:
    line = LineString([at(situation, 0, 400), at(situation, 180, 400)])
    wires = feature("obstacle", line, kind="wires", height_m=11)
    people = feature("people", Point(at(situation, 270, 150)))
    lake = feature("water", Polygon([at(situation, b, d) for b, d in ((180, 60), (120, 400), (200, 500))]))
    s = drawn(bare(situation), wires, people, lake)
    found = suggest(s)
    assert 1 <= len(found) <= 3
    for suggestion in found:
        point = Point(suggestion.longitude, suggestion.latitude)
        land = suggestion.situation.land
        assert land is not None
        assert min(d.shape.distance(Point(0, 0)) for d in land.obstacles) >= 29.9
        assert all(d.shape.distance(Point(0, 0)) >= 49.9 for d in land.drawn if d.feature.role.value == "people")
        assert not lake.geometry.contains(point)
        assert len(suggestion.reasons) >= 4
    feet = suggest(s, Units(length_unit=LengthUnit.FT))
    assert [x.verdict for x in feet] == [x.verdict for x in found]
    assert all(re.match(r"[\d,]+ ft to the far point", x.reasons[0]) for x in feet)
    assert not any(re.search(r"\d m\b", reason) for x in feet for reason in x.reasons)


def test_with_nothing_known_of_the_wind_the_land_still_speaks(situation: Situation) -> None:
    s = wind(changed(drawn(bare(situation), mast(situation, 240, 100, 60)), site__sheltered=True), measured(1))  # type: ignore[arg-type]
    assert find(s, "clear.outbound").status is Status.FAIL
    assert find(s, "return.clearance").status is Status.FAIL


@settings(max_examples=40, deadline=None)
@given(st.floats(0, 359), st.floats(20, 600), st.floats(1, 80), st.floats(0, 359))
def test_something_more_that_stands_there_never_helps(
    bearing: float, distance: float, height: float, towards: float
) -> None:
    """Laws: an obstacle never lowers the return height, lengthens the reach or strengthens the signal."""
    s = changed(drawn(bare(BASE)), flight__bearing_deg=towards)
    t = changed(drawn(bare(BASE), mast(BASE, bearing, distance, height)), flight__bearing_deg=towards)  # type: ignore[arg-type]
    a, b = Assessment(s), Assessment(t)
    assert b.return_height.lowest_m >= a.return_height.lowest_m
    assert b.signal.margin_db <= a.signal.margin_db + 1e-9
    assert a.reach_on_bearing is not None
    assert b.reach_on_bearing is not None
    assert b.reach_on_bearing.distance_m[0] <= a.reach_on_bearing.distance_m[0]


def test_a_line_of_two_taps_on_one_spot_stands_there(situation: Situation) -> None:
    spot = at(situation, 240, 60)
    s = drawn(situation, feature("obstacle", LineString([spot, spot]), kind="mast", height_m=30))
    point = drawn(situation, feature("obstacle", Point(spot), kind="mast", height_m=30))
    assert find(s, "clear.outbound") == find(point, "clear.outbound")


@pytest.mark.parametrize(("set_to", "ends"), [(40.0, True), (46.0, False)])
def test_the_reach_ends_where_the_margin_over_what_stands_there_is_missing(
    situation: Situation, set_to: float, ends: bool
) -> None:
    """Over 35 m of building ten more are wanted: 40 m do not clear it, 46 m do."""
    house = Polygon([at(situation, b, d) for b, d in ((236, 150), (244, 150), (244, 170), (236, 170))])
    s = drawn(situation, feature("obstacle", house, kind="building", height_m=35))
    flyer = Assessment(changed(s, settings__rth_altitude_m=set_to, flight__distance_m=60.0)).flyer
    assert flyer is not None
    reach = flyer.reach(240.0)
    assert (reach.limited_by[0] is ReachLimit.GROUND) is ends
    assert (reach.distance_m[0] < 150) is ends

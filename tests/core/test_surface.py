"""A surface model: what only it knows stands in the way of every part of a flight, and measures what is drawn."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray
from shapely.geometry import LineString, Point, Polygon

from tests import make
from tests.core.test_laws import BASE
from tests.make import Read, at, changed, drawn, feature, made_terrain, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.measured import measured as measured_heights
from zealous_lark.core.place import Feature
from zealous_lark.core.section import section
from zealous_lark.core.situation import Situation
from zealous_lark.core.surface import SURFACE_NAME
from zealous_lark.core.takeoffs import suggest

Grid = NDArray[np.float64]


def find(check: str, situation: Situation) -> Read:
    return make.find(situation, check)


def level(x: Grid, _y: Grid) -> Grid:
    return np.full(x.shape, 42.0)


def block(east: float, north: float, half: float, height: float):  # type: ignore[no-untyped-def]
    """Level ground at 42 m with one square block."""
    return lambda x, y: 42.0 + height * ((np.abs(x - east) <= half) & (np.abs(y - north) <= half))


def there(situation: Situation, surface, *features: Feature, cell: float = 5) -> Situation:  # type: ignore[no-untyped-def]
    """A flight 300 m to the north at 15 m over level ground, with what a surface model shows."""
    bare = changed(
        situation, site__obstacles=(), flight__bearing_deg=0, flight__distance_m=300, flight__height_m=15,
        settings__rth_altitude_m=22,
    )  # fmt: skip
    return drawn(
        bare, *features, terrain=made_terrain(bare, level, cell=10, half=800),
        surface=made_terrain(bare, surface, cell=cell, half=600),
    )  # fmt: skip


IN_THE_WAY = block(0, 150, 10, 18)


@pytest.mark.parametrize("check", ["clear.outbound", "return.clearance"])
def test_what_only_the_surface_knows_stands_in_the_way(situation: Situation, check: str) -> None:
    low = find(check, there(situation, IN_THE_WAY))
    assert low.status is Status.FAIL
    assert SURFACE_NAME in low.sentence
    high = changed(there(situation, IN_THE_WAY), flight__height_m=40, settings__rth_altitude_m=40)
    assert find(check, high).status is Status.PASS
    assert find(check, there(situation, level)).status is Status.PASS


def test_no_top_slips_between_the_samples(situation: Situation) -> None:
    """A single cell anywhere in the corridor, however it falls between rays and strips, is found."""
    for east in (-7.5, -2.5, 2.5, 7.5):
        for north in (52.5, 97.5, 151.5, 246.0):
            s = there(situation, block(east, north, 2.4, 30))
            assert find("clear.outbound", s).status is Status.FAIL, (east, north)
            assert find("return.clearance", s).status is Status.FAIL, (east, north)


def test_far_beside_the_way_is_not_in_it(situation: Situation) -> None:
    s = there(situation, block(60, 150, 10, 30))
    assert find("clear.outbound", s).status is Status.PASS


def test_the_far_point_the_take_off_and_the_way_down_are_looked_at(situation: Situation) -> None:
    assert find("clear.station", there(situation, block(0, 300, 10, 18))).status is Status.FAIL
    under = there(situation, block(0, 0, 10, 18))
    assert find("clear.takeoff", under).status is Status.FAIL
    assert find("clear.descent", under).status is not Status.PASS


def test_a_meter_in_the_lee_of_it_says_nothing_good(situation: Situation) -> None:
    calm = wind(there(situation, block(-40, 0, 15, 20)), measured(1.0, 270))
    assert find("wind.return", calm).status is Status.UNKNOWN
    assert find("wind.return", wind(there(situation, level), measured(1.0, 270))).status is not Status.UNKNOWN


def test_the_radio_path_is_shaded_by_it_as_by_a_building_of_that_size(situation: Situation) -> None:
    far = {"flight__distance_m": 300, "flight__height_m": 10}
    known_alone = Assessment(changed(there(situation, IN_THE_WAY), **far)).signal
    ring = [at(situation, math.degrees(math.atan2(x, y)), math.hypot(x, y)) for x, y in
            ((-10, 140), (10, 140), (10, 160), (-10, 160))]  # fmt: skip
    house = feature("obstacle", Polygon(ring), kind="building", height_m=18)
    by_hand = Assessment(changed(there(situation, level, house), **far)).signal
    clear = Assessment(changed(there(situation, level), **far)).signal
    assert known_alone.margin_db == pytest.approx(by_hand.margin_db, abs=1.5)
    assert known_alone.margin_db < clear.margin_db - 5
    # In a wood that is drawn it measures the trees, which let some through.
    wood = feature("obstacle", Polygon(ring), kind="trees", height_m=10)
    assert Assessment(changed(there(situation, IN_THE_WAY, wood), **far)).signal.margin_db > known_alone.margin_db


def test_what_is_level_with_the_ground_or_under_it_is_nothing(situation: Situation) -> None:
    for noise in (-3.0, 0.0, 1.9):
        s = there(situation, lambda x, _y, noise=noise: np.full(x.shape, 42.0 + noise))
        assert s.land is not None
        assert s.land.surface is not None
        assert (s.land.surface.over_ground(np.arange(10.0), np.arange(10.0)) == 0).all()
        assert find("clear.outbound", s).status is Status.PASS


def test_without_the_ground_it_counts_for_nothing(situation: Situation) -> None:
    s = there(situation, IN_THE_WAY)
    assert s.land is not None
    bare = changed(s, land=None)
    alone = drawn(bare, surface=s.land.place.surface)
    assert alone.land is not None
    assert alone.land.surface is None


def test_the_section_shows_what_it_uses(situation: Situation) -> None:
    cut = section(Assessment(there(situation, IN_THE_WAY)), 0, 300)
    stands = cut.distance_m[~np.isnan(cut.surface_m)]
    assert 130 <= stands.min() <= 145
    assert 155 <= stands.max() <= 170
    assert np.nanmax(cut.surface_m) == pytest.approx(18, abs=0.1)


def test_no_take_off_is_offered_under_a_roof(situation: Situation) -> None:
    s = there(situation, lambda x, _y: 42.0 + 12.0 * (x < -20))
    assert s.land is not None
    assert s.land.surface is not None
    for found in suggest(s):
        x, y = s.land.frame.to_xy(found.latitude, found.longitude)
        assert float(s.land.surface.over_ground(x, y)) == 0


def test_three_heights_checked_by_hand(situation: Situation) -> None:
    """A wood of 18 m with a gap and one taller tree, a house of 6 m, a mast of 31 m drawn two metres off."""

    def surface(x: Grid, y: Grid) -> Grid:
        wood = 18.0 * ((np.abs(x - 100) <= 40) & (np.abs(y - 100) <= 40) & ~((np.abs(x - 100) <= 8) & (y > 100)))
        wood = np.where((np.abs(x - 72.5) < 2.5) & (np.abs(y - 72.5) < 2.5), 27.0, wood)
        house = 6.0 * ((np.abs(x + 100) <= 10) & (np.abs(y - 50) <= 10))
        mast = 31.0 * ((np.abs(x - 2.5) <= 2.5) & (np.abs(y + 97.5) <= 2.5))
        return np.asarray(42.0 + wood + house + mast)

    def ring(east: float, north: float, half: float) -> Polygon:
        corners = ((-half, -half), (half, -half), (half, half), (-half, half))
        spots = ((east + a, north + b) for a, b in corners)
        return Polygon([at(situation, math.degrees(math.atan2(x, y)), math.hypot(x, y)) for x, y in spots])

    features = [
        feature("obstacle", ring(100, 100, 40), kind="trees", height_m=12, id="wood"),
        feature("obstacle", ring(-100, 50, 10), kind="building", height_m=3, id="house"),
        feature("obstacle", Point(at(situation, 178.8, 96)), kind="mast", height_m=10, id="mast"),
        feature("obstacle", LineString([at(situation, 90, 60), at(situation, 90, 140)]), kind="wires", height_m=11,
                id="wires"),
        feature("obstacle", ring(-200, -200, 10), kind="trees", height_m=9, id="felled"),
    ]  # fmt: skip
    s = there(situation, surface, *features)
    assert s.land is not None
    found = {m.id: m for m in measured_heights(s.land)}
    assert set(found) == {"wood", "house", "mast"}, "wires cannot be seen, and of what was felled nothing stands"
    assert found["wood"].measured_m == pytest.approx(18, abs=0.1), "one tall tree is not the wood"
    assert found["house"].measured_m == pytest.approx(6, abs=0.1)
    assert found["mast"].measured_m == pytest.approx(31, abs=0.1)
    assert found["wood"].drawn_m == 12


@pytest.mark.slow
@given(height=st.floats(5, 60), more=st.floats(0.5, 30))
def test_what_is_higher_never_makes_a_verdict_better(height: float, more: float) -> None:
    rank = {Status.PASS: 0, Status.CARE: 1, Status.UNKNOWN: 2, Status.FAIL: 3}
    for check in ("clear.outbound", "return.clearance", "signal.margin"):
        lower, higher = (find(check, there(BASE, block(0, 150, 10, h))) for h in (height, height + more))
        assert rank[higher.status] >= rank[lower.status]

"""Lines and bands of the world of obstacles, against a geometry library."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Point

from zealous_lark.core import world

NUMBERS = st.integers(-50, 50).map(float)
POINTS = st.tuples(NUMBERS, NUMBERS)


@given(POINTS, POINTS, POINTS, POINTS)
def test_how_far_two_lines_are_apart_and_where(a: world.Point, b: world.Point, c: world.Point, d: world.Point) -> None:
    """The distance is the library's, and it is met at the place along the first line that is told."""
    distance, along = world._apart(a, b, c, d)
    one, other = LineString([a, b]), LineString([c, d])
    assert distance == pytest.approx(one.distance(other), abs=1e-9)
    assert 0 <= along <= math.dist(a, b) + 1e-9
    # The library takes a line of no length for no line.
    met = one.interpolate(along) if one.length else Point(a)
    assert met.distance(other) == pytest.approx(distance, abs=1e-6)


@given(POINTS, POINTS, st.sampled_from([0.0, 5.0, 12.0]))
def test_a_band_is_a_way_with_both_its_sides(a: world.Point, b: world.Point, room: float) -> None:
    x, y = (np.ravel(v) for v in world._band(a, b, room))
    way = LineString([a, b]) if a != b else Point(a)
    apart = np.array([way.distance(Point(p)) for p in zip(x, y, strict=True)])
    if a == b:
        assert apart.max() == pytest.approx(room)
        return
    assert set(np.round(apart, 6)) == {0.0, room}
    on = np.array([LineString([a, b]).project(Point(p)) for p in zip(x, y, strict=True)])
    assert (on.min(), on.max()) == pytest.approx((0, way.length), abs=1e-6)
    steps = np.diff(np.unique(np.round(on, 6)))
    assert steps.max() <= 5 + 1e-6
    if room:
        # As many on the left as on the right.
        side = np.sign(np.round((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]), 6))
        assert (side > 0).sum() == (side < 0).sum() == (side == 0).sum()

"""Geodesy against geographiclib, an independent implementation of Karney's geodesics."""

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from zealous_lark.core.geodesy import Frame, bearing_and_distance, destination, polar, xy
from zealous_lark.core.place import flattened

LINES = [
    (58.62, 25.08, 58.6225, 25.0843),  # a few hundred metres
    (58.62, 25.08, 59.4, 24.7),  # a hundred kilometres
    (-16.8, 179.99, -16.8, -179.99),  # across the antimeridian
    (89.99, 10.0, 89.995, -170.0),  # over the pole
    (-33.9, 18.4, 51.5, -0.1),  # half the world
]


@pytest.mark.parametrize("line", LINES)
def test_bearing_and_distance(line: tuple[float, float, float, float]) -> None:
    reference = Geodesic.WGS84.Inverse(*line)
    bearing, distance = bearing_and_distance(*line)
    assert distance == pytest.approx(reference["s12"], abs=1e-4)
    assert np.cos(np.radians(bearing - reference["azi1"])) == pytest.approx(1, abs=1e-12)


@pytest.mark.parametrize("line", LINES)
def test_destination(line: tuple[float, float, float, float]) -> None:
    reference = Geodesic.WGS84.Direct(line[0], line[1], 47.0, 1234.5)
    lat, lon = destination(line[0], line[1], 47.0, 1234.5)
    assert lat == pytest.approx(reference["lat2"], abs=1e-10)
    assert (lon - reference["lon2"] + 180) % 360 - 180 == pytest.approx(0, abs=1e-8)


@given(
    st.floats(-85, 85), st.floats(-180, 180), st.floats(0, 359.9), st.floats(0.1, 5000),
)  # fmt: skip
def test_a_frame_gives_back_what_it_was_given(lat: float, lon: float, bearing: float, distance: float) -> None:
    frame = Frame(lat, lon)
    x, y = xy(bearing, distance)
    back = frame.to_xy(*frame.to_geographic(x, y))
    assert np.hypot(back[0] - x, back[1] - y) < 1e-4
    assert polar(x, y)[1] == pytest.approx(distance)


@pytest.mark.parametrize(("lat", "lon"), [(58.62, 25.08), (-16.8, 179.999), (79.0, 15.0), (0.0, 0.0)])
def test_between_frames_a_few_kilometres_apart_points_stay_where_they_are(lat: float, lon: float) -> None:
    """Turned by the convergence of the meridians: true to 5 mm two kilometres away."""
    here, there = Frame(lat, lon), Frame(*destination(lat, lon, 73, 1500))
    x, y = xy(np.array([0.0, 90, 200, 310]), np.array([2000.0, 500, 1500, 1900]))
    exact = there.to_xy(*here.to_geographic(x, y))
    found = here.into(there)(x, y)
    assert np.abs(np.array(exact) - np.array(found)).max() < 5e-3


def test_a_shape_across_the_antimeridian_comes_out_whole() -> None:
    frame = Frame(-16.8, 179.999)
    square = Polygon([(179.99, -16.81), (-179.99, -16.81), (-179.99, -16.79), (179.99, -16.79)])
    flat = flattened(square, frame)
    assert flat.is_valid
    width = Geodesic.WGS84.Inverse(-16.8, 179.99, -16.8, -179.99)["s12"]
    height = Geodesic.WGS84.Inverse(-16.81, 180, -16.79, 180)["s12"]
    assert flat.area == pytest.approx(width * height, rel=1e-3)
    assert flat.contains(flattened(Polygon([(180, -16.8), (-179.999, -16.8), (-179.999, -16.799)]), frame))


def test_a_long_edge_follows_its_parallel() -> None:
    """A border along 59° N over two degrees bulges 440 m from the straight line; RFC 7946 has it on the parallel."""
    frame = Frame(59.0, 25.0)
    border = flattened(Polygon([(24, 59), (26, 59), (26, 60), (24, 60)]), frame)
    assert border.distance(flattened(Polygon([(25, 58.99), (25.001, 58.99), (25, 58.9999)]), frame)) == pytest.approx(
        Geodesic.WGS84.Inverse(58.9999, 25, 59, 25)["s12"], abs=1
    )

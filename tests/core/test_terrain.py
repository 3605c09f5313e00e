"""Terrain: sampling against rasterio's own, shade, slope, voids."""

import math

import numpy as np
import pytest
from rasterio.enums import Resampling
from rasterio.io import MemoryFile
from rasterio.transform import from_origin
from rasterio.vrt import WarpedVRT

from tests.make import made_terrain
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.situation import Situation
from zealous_lark.core.terrain import Terrain


def grid(heights: list[list[float]], cell: float = 10) -> Terrain:
    rows = len(heights)
    return Terrain("grid", Frame(58.62, 25.08), cell, 0, rows * cell, np.array(heights, dtype=np.float32))


def test_between_the_centres_of_four_cells_it_is_linear() -> None:
    t = grid([[10, 20], [30, 40]])
    assert t.sample(5, 15) == 10
    assert t.sample(15, 5) == 40
    assert t.sample(10, 10) == 25
    assert t.sample(10, 15) == 15


def test_outside_and_beside_a_void_it_is_unknown() -> None:
    t = grid([[10, math.nan, 10], [10, 10, 10], [10, 10, 10]])
    assert np.isnan(t.sample(4.9, 15))
    assert np.isnan(t.sample(10, 20))
    assert t.sample(15, 10) == 10
    assert t.void_share == pytest.approx(1 / 9)


def test_sampling_is_that_of_rasterio() -> None:
    """GDAL's bilinear resampling at points half a cell off, by a warp onto a shifted grid."""
    rng = np.random.default_rng(7)
    heights = rng.uniform(0, 100, (30, 40)).astype(np.float32)
    t = Terrain("random", Frame(58.62, 25.08), 10, 0, 300, heights)
    crs = "EPSG:3301"
    with MemoryFile() as memory:
        with memory.open(driver="GTiff", width=40, height=30, count=1, dtype="float32", crs=crs,
                         transform=from_origin(0, 300, 10, 10)) as tiff:  # fmt: skip
            tiff.write(heights, 1)
        with memory.open() as source, WarpedVRT(
            source, crs=crs, resampling=Resampling.bilinear, tolerance=1e-4, transform=from_origin(23, 287, 10, 10),
            width=30, height=20, XSCALE=1, YSCALE=1,
        ) as shifted:  # fmt: skip
            reference = shifted.read(1)
    x = 23 + (np.arange(30) + 0.5) * 10
    y = 287 - (np.arange(20) + 0.5) * 10
    assert np.abs(t.sample(x[None, :], y[:, None]) - reference).max() < 1e-3


def test_slope_of_a_plane(situation: Situation) -> None:
    t = made_terrain(situation, lambda x, y: 50 + 0.2 * x - 0.1 * y)
    assert t.slope_deg(100, -200) == pytest.approx(math.degrees(math.atan(math.hypot(0.2, 0.1))), abs=1e-3)
    assert np.isnan(t.slope_deg(99_999, 0))


def test_a_slope_towards_the_light_is_lit(situation: Situation) -> None:
    """Horn 1981: a plane square to the light has shade one; one that leans away is dark."""
    towards = made_terrain(situation, lambda x, _y: -x, half=200)  # falls to the east: faces east
    shade = towards.hillshade(azimuth_deg=90, elevation_deg=45, stretch=1)
    assert shade[10, 10] == pytest.approx(1, abs=1e-6)
    assert towards.hillshade(azimuth_deg=270, elevation_deg=45, stretch=1)[10, 10] == pytest.approx(0, abs=1e-6)
    flat = made_terrain(situation, lambda x, _y: 0 * x, half=200)
    assert flat.hillshade(elevation_deg=30)[5, 5] == pytest.approx(0.5)

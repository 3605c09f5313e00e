"""An invented surface model of the Sarvik bog: the ground with its trees, roofs and masts, as a laser sees it.

`python -m zealous_lark.demo.surface examples/sarvik-surface.tif` writes it again.
"""

from __future__ import annotations

import math
import sys
from pathlib import Path

import numpy as np
import shapely
from shapely.geometry import Polygon

from zealous_lark.core.geodesy import Frame, destination
from zealous_lark.core.terrain import Terrain
from zealous_lark.demo.places import BOG_AT, bog_terrain
from zealous_lark.formats.raster import write_geotiff

CELL_M, HALF_M = 2.5, 600.0
_SEED = 20_261_127

_WOODS = (
    (((220, 60), (250, 60), (247, 82), (222, 84)), 18.0),
    (((18, 470), (50, 372), (82, 480), (76, 560), (50, 468), (24, 560)), 16.0),
    (((195, 300), (205, 620), (240, 700), (262, 520), (250, 330), (225, 290)), 21.0),
)
"""Outlines by bearing [°] and distance [m], and the height of their tops [m]."""
_CLEARING = ((222, 430), (225, 520), (235, 520), (234, 430))
_ROOFS = (
    (((222, 158), (225, 158), (225, 152), (222, 152)), 3.5),
    (((116, 160), (118, 172), (113, 174), (111, 162)), 7.0),
)
_ALONE = ((240, 262, 24.0), (330, 62, 9.0), (255, 74, 27.0))
"""What stands alone: the lookout tower, a tree, and a dead spruce above the pines that nobody drew."""


def _shape(spots: tuple[tuple[float, float], ...], frame: Frame) -> Polygon:
    points = (destination(*BOG_AT, bearing, distance) for bearing, distance in spots)
    return Polygon([tuple(float(v) for v in frame.to_xy(lat, lon)) for lat, lon in points])


def surface() -> Terrain:
    """Heights above sea level [m] with everything that stands on the ground; a band of it was never flown over."""
    frame, chance = Frame(*BOG_AT), np.random.default_rng(_SEED)
    n = int(2 * HALF_M / CELL_M)
    axis = -HALF_M + (np.arange(n) + 0.5) * CELL_M
    x, y = np.meshgrid(axis, axis[::-1])
    ground = bog_terrain().sample(x, y)
    stands = np.zeros(x.shape)
    clearing = shapely.contains_xy(_shape(_CLEARING, frame), x, y)
    for outline, height in _WOODS:
        inside = shapely.contains_xy(_shape(outline, frame), x, y) & ~clearing
        # Crowns are not all alike, and between them one sees down a little.
        stands[inside] = height * (1 - 0.25 * chance.random(int(inside.sum())) ** 2)
    for outline, height in _ROOFS:
        stands[shapely.contains_xy(_shape(outline, frame), x, y)] = height
    for bearing, distance, height in _ALONE:
        east, north = distance * math.sin(math.radians(bearing)), distance * math.cos(math.radians(bearing))
        stands[np.hypot(x - east, y - north) < 2.5] = height
    noise = 0.1 * chance.standard_normal(x.shape)
    heights = (ground + stands + noise).astype(np.float32)
    heights[(x > 540) & (y > 300)] = np.nan
    return Terrain("Sarvik bog, surface, synthetic", frame, CELL_M, -HALF_M, HALF_M, np.round(heights, 1))


if __name__ == "__main__":
    Path(sys.argv[1]).write_bytes(write_geotiff(surface()))

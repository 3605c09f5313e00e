"""An invented picture of the Sarvik bog from above, in the Estonian grid: woods, pools, the road, roofs and the esker.

`python -m zealous_lark.demo.picture examples/sarvik-picture.tif` writes it again.
"""

from __future__ import annotations

import math
import sys
from datetime import date
from pathlib import Path

import numpy as np
import shapely
from numpy.typing import NDArray
from pyproj import Transformer
from rasterio.io import MemoryFile
from rasterio.transform import from_origin
from shapely.geometry import LineString, Polygon

from zealous_lark.core.geodesy import Frame, destination
from zealous_lark.core.place import Role
from zealous_lark.demo.places import BOG_AT, bog, bog_terrain
from zealous_lark.demo.surface import surface

CRS = "EPSG:3301"
PIXEL_M, HALF_M = 1.0, 450.0
_SEED = 20_261_128
_ROAD = ((100, 95), (128, 300), (150, 620), (158, 1200))
_BOG, _WOOD, _WATER, _ROAD_GREY, _ROOF = (146, 132, 84), (52, 74, 44), (38, 52, 62), (150, 146, 140), (132, 70, 58)


def picture() -> tuple[NDArray[np.uint8], tuple[float, float]]:
    """Red, green and blue, shape (3, rows, columns), and the east and north of its upper left corner [m]."""
    to_grid = Transformer.from_crs("EPSG:4326", CRS, always_xy=True)
    to_earth = Transformer.from_crs(CRS, "EPSG:4326", always_xy=True)
    east, north = (round(v) for v in to_grid.transform(BOG_AT[1], BOG_AT[0]))
    n = int(2 * HALF_M / PIXEL_M)
    axis = -HALF_M + (np.arange(n) + 0.5) * PIXEL_M
    e, nn = np.meshgrid(east + axis, north + axis[::-1])
    lon, lat = to_earth.transform(e, nn)
    frame, chance = Frame(*BOG_AT), np.random.default_rng(_SEED)
    x, y = frame.to_xy(lat, lon)
    ground, tops = bog_terrain(), surface()
    stands = np.nan_to_num(tops.cell(x, y) - ground.sample(x, y)) > 2
    colours = np.empty((*x.shape, 3))
    hummocks = 10 * np.sin(x / 9) * np.sin(y / 11) + 9 * chance.standard_normal(x.shape)
    colours[:] = _BOG
    colours += (hummocks + 0.6 * (ground.sample(x, y) - 42))[..., None]
    for feature in bog(date(2026, 1, 1)).features:
        if feature.role is Role.WATER:
            ring = [tuple(float(v) for v in frame.to_xy(p[1], p[0])) for p in feature.coordinates]
            colours[shapely.contains_xy(Polygon(ring), x, y)] = _WATER
    road = [tuple(float(v) for v in frame.to_xy(*destination(*BOG_AT, b, d))) for b, d in _ROAD]
    colours[shapely.contains_xy(LineString(road).buffer(3.5), x, y)] = _ROAD_GREY
    shade = 14 * chance.standard_normal(x.shape)
    colours[stands] = np.array(_WOOD) + shade[stands][:, None]
    houses = stands & (np.hypot(x - 165 * math.sin(2), y - 165 * math.cos(2)) < 12)
    colours[houses] = _ROOF
    return np.moveaxis(np.clip(colours, 0, 255).astype(np.uint8), -1, 0), (east - HALF_M, north + HALF_M)


def write() -> bytes:
    """The picture as a GeoTIFF."""
    bands, (west, north) = picture()
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=bands.shape[2], height=bands.shape[1], count=3, dtype="uint8", crs=CRS,
            transform=from_origin(west, north, PIXEL_M, PIXEL_M), compress="jpeg", photometric="ycbcr", tiled=True,
            jpeg_quality=80,
        ) as tiff:  # fmt: skip
            tiff.write(bands)
        return bytes(memory.read())


if __name__ == "__main__":
    Path(sys.argv[1]).write_bytes(write())

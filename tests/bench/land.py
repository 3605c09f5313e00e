"""The land's figures: a terrain of a thousand cells a side, against the same done point by point in plain Python."""

from __future__ import annotations

import math
import statistics
import sys
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from rasterio.crs import CRS
from rasterio.io import MemoryFile
from rasterio.transform import from_origin

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.land import Land
from zealous_lark.core.place import Place
from zealous_lark.core.section import section
from zealous_lark.core.situation import Situation
from zealous_lark.core.terrain import Terrain
from zealous_lark.formats.raster import hillshade_png, read_terrain
from zealous_lark.plan.place import pack_terrain, unpack_terrain

CELLS, CELL_M = 1000, 5.0
Timed = Callable[[Callable[[], object]], float]


def thousand() -> Terrain:
    """Rolling ground, a thousand cells of five metres a side."""
    half = CELLS * CELL_M / 2
    axis = -half + (np.arange(CELLS) + 0.5) * CELL_M
    x, y = np.meshgrid(axis, axis[::-1])
    heights = 100 + 15 * np.sin(x / 260) * np.cos(y / 310) + 3 * np.sin(x / 41)
    return Terrain("rolling", Frame(58.62, 25.08), CELL_M, -half, half, heights.astype(np.float32))


def geotiff(terrain: Terrain) -> bytes:
    """The same in a national projection, as it would come in."""
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff",
            width=CELLS,
            height=CELLS,
            count=1,
            dtype="float32",
            crs=CRS.from_epsg(4326),
            transform=from_origin(25.0366, 58.6424, 0.0000868, 0.0000448),
        ) as file:
            file.write(terrain.heights, 1)
        return bytes(memory.read())  # fmt: skip


def plain_profile(terrain: Terrain, bearing: float, upto: float) -> list[float]:
    """The ground along a bearing, one point at a time."""
    found, heights = [], terrain.heights
    east, north = math.sin(math.radians(bearing)), math.cos(math.radians(bearing))
    for n in range(int(upto / 5) + 1):
        column = (n * 5 * east - terrain.west_m) / terrain.cell_m - 0.5
        row = (terrain.north_m - n * 5 * north) / terrain.cell_m - 0.5
        c, r = int(column), int(row)
        fx, fy = column - c, row - r
        top = float(heights[r, c]) * (1 - fx) + float(heights[r, c + 1]) * fx
        bottom = float(heights[r + 1, c]) * (1 - fx) + float(heights[r + 1, c + 1]) * fx
        found.append(top * (1 - fy) + bottom * fy)
    return found


def tops(situation: Situation) -> list[float]:
    """The lowest return height for flights of every length up to the edge of the terrain, ten metres apart."""
    return [
        Assessment(replace(situation, flight=replace(situation.flight, distance_m=float(d)))).return_height.lowest_m
        for d in range(10, 2500, 10)
    ]


def figures(situation: Situation, timed: Timed) -> None:
    """Print the land's figures. Each is of a land that nothing has been asked of before."""
    terrain = thousand()
    place = Place("bench", (), (), None, terrain)
    bare = replace(situation, site=replace(situation.site, obstacles=()))

    def fresh() -> Situation:
        return replace(bare, land=Land(place, 58.62, 25.08, 100))

    raw, (header, grid) = geotiff(terrain), pack_terrain(terrain)
    rows: list[tuple[str, Callable[[], object], int]] = [
        ("terrain of 1000 × 1000 cells out of a GeoTIFF, reprojected",
         lambda: read_terrain(raw, "a.tif", 58.62, 25.08), 5),
        ("the same out of the store", lambda: unpack_terrain(header, grid), 20),
        ("its shade as a PNG", lambda: hillshade_png(replace(terrain)), 5),
        ("one section of 1.5 km", lambda: section(Assessment(fresh()), 50, 1500), 40),
        ("the return height over the whole reach area", lambda: tops(fresh()), 20),
        ("the reach curve with terrain, 72 bearings", lambda: Assessment(fresh()).reach, 20),
    ]  # fmt: skip
    for name, work, rounds in rows:
        work()
        ms = statistics.median(timed(work) for _ in range(rounds))
        sys.stdout.write(f"{name:<62} median {ms:8.2f} ms\n")

    def rays() -> object:
        return Land(place, 58.62, 25.08, 100).rays(list(np.arange(0, 360, 5.0)), 1500)

    def plain() -> object:
        return [plain_profile(terrain, b, 1500) for b in range(0, 360, 5)]

    fast = np.array([r.ground_m + 0 for r in Land(place, 58.62, 25.08, 100).rays([50.0], 1500)])[0]
    base = plain_profile(terrain, 50, 1500)
    worst = float(np.abs(fast - (np.array(base) - base[0])).max())
    assert worst < 1e-2, f"the two ways differ by {worst} m"
    pairs = [(timed(rays), timed(plain)) for _ in range(10)]
    a, b = (statistics.median(x) for x in zip(*pairs, strict=True))
    sys.stdout.write(f"{'72 profiles of 1.5 km, NumPy and point by point':<62} median {a:8.2f} ms and {b:8.2f} ms\n")
    sys.stdout.write(f"point by point over NumPy {b / a:.1f} (they agree within {worst:.0e} m)\n")

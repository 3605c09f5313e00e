"""The invented picture of the Sarvik bog as an archive of map tiles.

`python -m zealous_lark.demo.tiles examples/sarvik-tiles.mbtiles` writes it again.
"""

from __future__ import annotations

import sqlite3
import sys
from contextlib import closing
from pathlib import Path

import rasterio
from rasterio.io import MemoryFile
from rasterio.shutil import copy
from rasterio.vrt import WarpedVRT

from zealous_lark.demo.picture import write

COARSER = [2, 4, 8]
"""Overviews beside the finest zoom."""


def write_tiles(target: Path, picture: bytes) -> None:
    """Write the archive of a picture (GeoTIFF): finest zoom 17, four zooms in all."""
    with MemoryFile(picture) as memory, memory.open() as source, WarpedVRT(source, crs="EPSG:3857") as flat:
        copy(flat, target, driver="MBTiles", TILE_FORMAT="JPEG", QUALITY=60, ZOOM_LEVEL_STRATEGY="UPPER")  # fmt: skip
    with rasterio.open(target, "r+") as made:
        made.build_overviews(COARSER)
    with closing(sqlite3.connect(target)) as db, db:
        db.execute("UPDATE metadata SET value = 'Sarvik bog from above' WHERE name = 'name'")
        db.execute("INSERT INTO metadata VALUES ('attribution', 'Invented for Lark')")


if __name__ == "__main__":
    write_tiles(Path(sys.argv[1]), write())

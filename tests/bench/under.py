"""What lies under and over the ground: a large surface model brought in, and tiles served out of a map archive."""

from __future__ import annotations

import io
import statistics
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
import rasterio
from rasterio.io import MemoryFile
from rasterio.transform import from_origin

from tests.bench.memory import most_mb
from tests.make import EXAMPLES
from zealous_lark.demo.places import BOG_AT
from zealous_lark.formats import bounded, readers
from zealous_lark.services import tiles
from zealous_lark.store import Database
from zealous_lark.web import create_app

Timed = Callable[[Callable[[], object]], float]
SIDE = 4_000
TILES = 512
FRAME = f"+proj=aeqd +lat_0={BOG_AT[0]} +lon_0={BOG_AT[1]} +datum=WGS84 +units=m"


def surface_file(side: int = SIDE) -> bytes:
    """Tree tops over rolling ground, a cell a metre, as a GeoTIFF."""
    chance = np.random.default_rng(7)
    y, x = np.mgrid[0:side, 0:side]
    heights = (50 + 8 * np.sin(x / 300) + 20 * chance.random((side, side)) ** 4 + y / 900).astype(np.float32)
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=side, height=side, count=1, dtype="float32", crs=FRAME, tiled=True,
            transform=from_origin(-side / 2, side / 2, 1, 1),
        ) as out:  # fmt: skip
            out.write(heights, 1)
        return bytes(memory.read())


def figures(timed: Timed) -> None:
    """Print the figures."""
    out = sys.stdout.write
    data = surface_file()

    def whole() -> object:
        return bounded.read(bounded.OF_A_PLACE, readers.read_surface, data, "surface.tif", *BOG_AT)

    def plain() -> object:
        with rasterio.open(io.BytesIO(data)) as source:
            return source.read(1).max()

    whole()
    pairs = [(timed(whole), timed(plain)) for _ in range(3)]
    ours, theirs = (statistics.median(column) for column in zip(*pairs, strict=True))
    used = bounded.read(bounded.OF_A_PLACE, most_mb, readers.read_surface, data, "surface.tif", *BOG_AT)
    out(f"{f'surface model of {SIDE:,} × {SIDE:,} cut to a place':<58} median {ours:7.0f} ms\n")
    out(f"{'the library reading its cells alone':<58} median {theirs:7.0f} ms\n")
    out(f"cut over read {ours / theirs:.2f}; most memory of the reader {used:.0f} MB\n")

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        database.migrate()
        app = create_app(database)
        kept = tiles.add_archive(database, [(EXAMPLES / "sarvik-tiles.mbtiles").read_bytes()], "sarvik-tiles.mbtiles")
        at = kept.archive
        column = int((at.west + 180) / 360 * 2**at.max_zoom) + 2
        rows = [
            row for row in range(2**at.max_zoom)[2**at.max_zoom // 4 : 2**at.max_zoom // 3]
            if tiles.tile_of(database, kept.digest, at.max_zoom, column, row)
        ]  # fmt: skip
        client = app.test_client()

        def served() -> None:
            for n in range(TILES):
                answer = client.get(f"/api/maps/{kept.digest}/{at.max_zoom}/{column}/{rows[n % len(rows)]}")
                assert answer.status_code == 200

        def health() -> None:
            for _ in range(TILES):
                client.get("/api/health")

        pairs = [(timed(served), timed(health)) for _ in range(3)]
        ours, theirs = (statistics.median(column) for column in zip(*pairs, strict=True))
        out(f"{f'{TILES} tiles served':<58} median {ours:7.0f} ms\n")
        out(f"as often as that the shortest answer there is: {theirs:.0f} ms; tiles over it {ours / theirs:.2f}\n")
        database.close()

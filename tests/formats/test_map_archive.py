"""Map archives: every tile where another reader has it, and nothing kept of one that is damaged or hostile."""

from __future__ import annotations

import gzip
import sqlite3
import struct
from contextlib import closing
from pathlib import Path

import numpy as np
import pytest
import rasterio
from pmtiles.tile import Compression, TileType, zxy_to_tileid
from pmtiles.writer import write
from rasterio.windows import Window

from tests.make import EXAMPLES
from zealous_lark.formats import bounded, map_archive
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.map_archive import about, kind_of, make_over, tile

TILES = EXAMPLES / "sarvik-tiles.mbtiles"
PNG = b"\x89PNG\r\n\x1a\n" + bytes(60)
EMPTY = "CREATE TABLE metadata (name TEXT, value TEXT); "
TABLE = EMPTY + "CREATE TABLE tiles (zoom_level INTEGER, tile_column INTEGER, tile_row INTEGER, tile_data BLOB);"


def made_over(source: Path, target: Path) -> Path:
    bounded.read(bounded.OF_A_MAP_ARCHIVE, make_over, str(source), source.name, str(target), into=target.parent)
    return target


def mbtiles(path: Path, script: str, *rows: tuple[object, ...]) -> Path:
    with closing(sqlite3.connect(path)) as db, db:
        db.executescript(script)
        db.executemany("INSERT INTO tiles VALUES (?, ?, ?, ?)", rows) if rows else None
    return path


def test_the_tiles_are_where_gdal_has_them(tmp_path: Path) -> None:
    """The middle of the archive as GDAL reads it is the tile that is served for it, picture for picture."""
    kept = made_over(TILES, tmp_path / "kept")
    found = about(kept)
    assert (found.name, found.attribution) == ("Sarvik bog from above", "Invented for Lark")
    with closing(sqlite3.connect(TILES)) as db:
        assert found.count == db.execute("SELECT COUNT(*) FROM tiles").fetchone()[0]
    with rasterio.open(TILES) as gdal:
        side = 40_075_016.6855785 / 2**found.max_zoom
        column = int((gdal.bounds.left + gdal.bounds.right + 40_075_016.6855785) / 2 // side)
        row = int((40_075_016.6855785 - gdal.bounds.bottom - gdal.bounds.top) / 2 // side)
        west, north = column * side - 20_037_508.34, 20_037_508.34 - row * side
        found_at = ~gdal.transform @ (west, north)
        wanted = gdal.read([1, 2, 3], window=Window(*(round(v) for v in found_at), 256, 256))
    served = tile(kept, found.max_zoom, column, row)
    assert served is not None
    with rasterio.MemoryFile(served) as memory, memory.open() as picture:
        assert np.abs(picture.read([1, 2, 3]).astype(int) - wanted).mean() < 1
    with closing(sqlite3.connect(kept)) as db:
        assert db.execute("SELECT value FROM metadata WHERE name = 'format'").fetchone() == ("jpg",)
    assert found.south < 58.62 < found.north
    assert found.west < 25.08 < found.east


def test_both_kinds_of_archive_hold_the_same(tmp_path: Path) -> None:
    first = made_over(TILES, tmp_path / "first")
    with closing(sqlite3.connect(first)) as db:
        rows = db.execute("SELECT zoom_level, tile_column, tile_row, tile_data FROM tiles").fetchall()
    packed = tmp_path / "a.pmtiles"
    with write(str(packed)) as out:
        numbered = sorted((zxy_to_tileid(z, x, 2**z - 1 - y), data) for z, x, y, data in rows)
        for number, data in numbered:
            out.write_tile(number, data)
        out.finalize(
            {"tile_type": TileType.JPEG, "tile_compression": Compression.NONE}, {"name": "Packed", "attribution": "Us"}
        )
    second = made_over(packed, tmp_path / "second")
    assert about(second).name == "Packed"
    assert about(second).count == len(rows)
    assert {(z, x, y): tile(second, z, x, 2**z - 1 - y) for z, x, y, _ in rows} == {
        (z, x, y): data for z, x, y, data in rows
    }


def test_an_archive_that_keeps_each_picture_once_is_read(tmp_path: Path) -> None:
    """Most archives have `tiles` as a view of a map and its images; the view is not run, the tables are read."""
    mapped = EMPTY + (
        "CREATE TABLE map (zoom_level INTEGER, tile_column INTEGER, tile_row INTEGER, tile_id TEXT);"
        "CREATE TABLE images (tile_data BLOB, tile_id TEXT PRIMARY KEY);"
        "CREATE VIEW tiles AS SELECT zoom_level, tile_column, tile_row, tile_data"
        " FROM map JOIN images ON images.tile_id = map.tile_id;"
    )
    path = mbtiles(tmp_path / "a.mbtiles", mapped)
    with closing(sqlite3.connect(path)) as db, db:
        db.executemany("INSERT INTO map VALUES (3, ?, 1, 'sea')", [(n,) for n in range(8)])
        db.execute("INSERT INTO images VALUES (?, 'sea')", (PNG,))
    kept = made_over(path, tmp_path / "kept")
    assert about(kept).count == 8
    assert tile(kept, 3, 5, 6) == PNG
    again = made_over(kept, tmp_path / "again")
    assert about(again).count == 8


def test_pictures_beyond_the_size_of_the_file_are_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Whatever way of reading gives more than the file can hold."""
    path = mbtiles(tmp_path / "a.mbtiles", TABLE, (3, 1, 1, PNG))
    many = [(3, n, 1, PNG + bytes([n]) * 3000) for n in range(8)]
    monkeypatch.setattr(map_archive, "_of_mbtiles", lambda _: (iter(many), {}, len(many)))
    making = make_over(str(path), path.name, str(tmp_path / "kept"))
    with pytest.raises(BadFileError, match="more than the file"):
        list(making)


def test_there_is_no_tile_outside_of_the_archive(tmp_path: Path) -> None:
    kept = made_over(TILES, tmp_path / "kept")
    assert [tile(kept, *at) for at in ((17, 0, 0), (17, -1, 0), (17, 2**70, 2**70), (99, 1, 1))] == [None] * 4


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "neither"),
        (b"PK\x03\x04" + bytes(100), "neither"),
        (b"PMTiles\x03" + bytes(200), "directories that are not compressed"),
        (b"PMTiles\x03" + b"\xff" * 200, "damaged archive"),
        (b"SQLite format 3\x00" + bytes(4000), "without map tiles"),
    ],
)
def test_what_is_no_archive_is_refused(tmp_path: Path, data: bytes, said: str) -> None:
    path = tmp_path / "junk"
    path.write_bytes(data)
    with pytest.raises(BadFileError, match=said):
        made_over(path, tmp_path / "kept")


@pytest.mark.parametrize(
    ("script", "rows", "said"),
    [
        (EMPTY + "CREATE TABLE other (a);", [], "without map tiles"),
        (TABLE, [], "without a tile"),
        (TABLE, [(3, 1, 1, b"\x1f\x8bvector")], "no pictures"),
        (TABLE, [(3, 1, 1, "text")], "no pictures"),
        (TABLE, [(3, 8, 1, PNG)], "numbered 3/8/1"),
        (TABLE, [(40, 8, 1, PNG)], "numbered 40/8/1"),
        (TABLE, [("x", 8, 1, PNG)], "numbered 'x'/8/1"),
        (TABLE, [(3, 1, 1, PNG + bytes(2_050_000))], "2,050,068 bytes"),
        (
            EMPTY + "CREATE VIEW tiles AS WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n)"
            " SELECT 17 AS zoom_level, i / 99999 AS tile_column, i % 99999 AS tile_row,"
            " x'89504E470D0A1A0A' || randomblob(1900000) AS tile_data FROM n;",
            [],
            "without a table of tiles",
        ),
        (
            EMPTY + "CREATE VIEW tiles AS SELECT 3 AS zoom_level, 1 AS tile_column, 1 AS tile_row,"
            " load_extension('/tmp/a') AS tile_data;",
            [],
            "without a table of tiles",
        ),
        (
            EMPTY + "CREATE TABLE tiles (zoom_level, tile_column, tile_row,"
            " tile_data AS (x'89504E470D0A1A0A' || zeroblob(1900000)));"
            " INSERT INTO tiles VALUES (3, 1, 1);",
            [],
            "without a table of tiles",
        ),
    ],
)  # fmt: skip
def test_what_a_database_does_not_hold_as_tiles_is_refused(
    tmp_path: Path, script: str, rows: list[tuple[object, ...]], said: str
) -> None:
    with pytest.raises(BadFileError, match=said):
        made_over(mbtiles(tmp_path / "a.mbtiles", script, *rows), tmp_path / "kept")


def test_directories_that_point_at_each_other_end(tmp_path: Path) -> None:
    """A leaf directory that names itself as its leaf, and a run of more tiles than there is room for."""

    def varints(*numbers: int) -> bytes:
        out = b""
        for n in numbers:
            while n > 127:
                out, n = out + bytes([n & 127 | 128]), n >> 7
            out += bytes([n])
        return out

    def archive(directory: bytes, leaves: int) -> Path:
        packed = gzip.compress(directory)
        header = b"PMTiles\x03" + struct.pack(
            "<11Q6B", 127, len(packed), 0, 0, leaves, 0, 127, 4000, 1, 1, 1, 0, 2, 1, 2, 0, 22
        )
        path = tmp_path / "a.pmtiles"
        path.write_bytes(header.ljust(127, b"\0") + packed + PNG + bytes(4000))
        return path

    itself = gzip.compress(varints(1, 0, 0, 50, 1))
    with pytest.raises(BadFileError, match=r"damaged archive|nested too deeply"):
        made_over(archive(varints(1, 0, 0, len(itself), 1), 127), tmp_path / "kept")
    with pytest.raises(BadFileError, match=r"more than 300,000 tiles|no pictures|damaged"):
        made_over(archive(varints(1, 0, 10**12, 60, 1), 0), tmp_path / "run")


def test_pictures_are_told_by_their_first_bytes() -> None:
    assert [kind_of(b) for b in (PNG, b"\xff\xd8\xff\xe0", b"RIFF\0\0\0\0WEBP", b"<svg/>", b"")] == [
        "image/png", "image/jpeg", "image/webp", None, None,
    ]  # fmt: skip

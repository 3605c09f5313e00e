"""Archives of map tiles as pictures: MBTiles and PMTiles in, made over into a plain MBTiles of Lark's own.

What a stranger's archive holds is read once, in a process of its own (`bounded`): its views, its directories within
directories, its counts. What is kept has two tables and one view that are always the same, so that a tile is served
with one plain look-up.

References
----------
.. [1] MBTiles 1.3: tables `metadata` and `tiles`, rows counted from the south (TMS); from memory.
.. [2] PMTiles 3: a header of 127 bytes, directories, tiles along a Hilbert curve; read by its own package; from memory.
"""

from __future__ import annotations

import hashlib
import math
import mmap
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from pmtiles.reader import Reader, traverse
from pmtiles.tile import Compression

from zealous_lark.formats.errors import BadFileError

MOST_TILES = 300_000
MOST_TILE_BYTES = 2_000_000
DEEPEST_ZOOM = 22
_MOST_TEXT = 300
_ALLOWED = "a map archive of pictures: MBTiles or PMTiles with tiles in PNG, JPEG or WebP"
_KINDS = {b"\x89PNG\r\n\x1a\n": "image/png", b"\xff\xd8\xff": "image/jpeg"}
_FORMS = {"image/png": "png", "image/jpeg": "jpg", "image/webp": "webp"}
_SCHEMA = """
CREATE TABLE metadata (name TEXT PRIMARY KEY, value TEXT);
CREATE TABLE images (digest BLOB PRIMARY KEY, tile_data BLOB NOT NULL) WITHOUT ROWID;
CREATE TABLE map (zoom_level INTEGER, tile_column INTEGER, tile_row INTEGER, digest BLOB NOT NULL,
    PRIMARY KEY (zoom_level, tile_column, tile_row)) WITHOUT ROWID;
CREATE VIEW tiles AS SELECT zoom_level, tile_column, tile_row, tile_data FROM map JOIN images USING (digest);
"""
_BOX = "SELECT zoom_level, MIN(tile_column), MIN(tile_row), MAX(tile_column), MAX(tile_row) FROM map"

Tile = tuple[int, int, int, bytes]
"""Zoom, column from the west, row from the south, picture."""


@dataclass(frozen=True, slots=True)
class MapArchive:
    """What an archive is: name, whose it is, zooms, number of tiles, and the box [°] that its finest zoom covers."""

    name: str
    attribution: str
    min_zoom: int
    max_zoom: int
    count: int
    south: float
    west: float
    north: float
    east: float


def kind_of(picture: bytes) -> str | None:
    """The media type of a tile, by its first bytes; None for what is no picture."""
    if picture[:4] == b"RIFF" and picture[8:12] == b"WEBP":
        return "image/webp"
    return next((kind for begin, kind in _KINDS.items() if picture.startswith(begin)), None)


def make_over(source: str, name: str, target: str) -> Iterator[float]:
    """Write the tiles of an archive (a file) into a new plain one; yields the share done. Raises BadFileError."""
    with Path(source).open("rb") as opened:
        begins = opened.read(16)
    if begins.startswith(b"PMTiles"):
        tiles, said, count = _of_pmtiles(source)
    elif begins == b"SQLite format 3\x00":
        tiles, said, count = _of_mbtiles(source)
    else:
        raise BadFileError(f"{name[:80]!r}, which is neither by its first bytes", _ALLOWED)
    if count > MOST_TILES:
        raise BadFileError(f"{count:,} tiles", f"at most {MOST_TILES:,}: cut it to where you fly")
    with closing(sqlite3.connect(target)) as db, db:
        db.executescript(_SCHEMA)
        written, form, held = 0, "", 0
        most = Path(source).stat().st_size
        for z, x, y, picture in tiles:
            _check(z, x, y, picture)
            digest = hashlib.sha256(picture).digest()
            # Each picture is kept once, so that all of them together fit into the file that they come from.
            held += len(picture) * db.execute("INSERT OR IGNORE INTO images VALUES (?, ?)", (digest, picture)).rowcount
            if held > most:
                raise BadFileError(f"pictures that are more than the file of {most:,} bytes", _ALLOWED)
            db.execute("INSERT OR REPLACE INTO map VALUES (?, ?, ?, ?)", (z, x, y, digest))
            written += 1
            form = form or _FORMS[kind_of(picture) or ""]
            if written > MOST_TILES:
                raise BadFileError(f"more than {MOST_TILES:,} tiles", "fewer: cut it to where you fly")
            if written % 500 == 0:
                yield min(written / max(count, 1), 1.0)
        if written == 0:
            raise BadFileError("an archive without a tile", _ALLOWED)
        title = str(said.get("name") or Path(name).stem)[:_MOST_TEXT]
        texts = {"name": title, "attribution": str(said.get("attribution") or "")[:_MOST_TEXT], "format": form}
        db.executemany("INSERT INTO metadata VALUES (?, ?)", texts.items())


def _check(z: int, x: int, y: int, picture: bytes) -> None:
    whole = all(isinstance(v, int) for v in (z, x, y))
    if not (whole and 0 <= z <= DEEPEST_ZOOM and 0 <= x < 2**z and 0 <= y < 2**z):
        raise BadFileError(
            f"a tile numbered {z!r}/{x!r}/{y!r}"[:100], f"whole numbers within a zoom of 0 to {DEEPEST_ZOOM}"
        )
    if not isinstance(picture, bytes) or kind_of(picture) is None:
        raise BadFileError("tiles that are no pictures (vector tiles are not read)", _ALLOWED)
    if len(picture) > MOST_TILE_BYTES:
        raise BadFileError(f"a tile of {len(picture):,} bytes", f"tiles of at most {MOST_TILE_BYTES:,} bytes")


def _of_mbtiles(source: str) -> tuple[Iterator[Tile], dict[str, Any], int]:
    db = sqlite3.connect(f"file:{Path(source).resolve().as_posix()}?mode=ro&immutable=1", uri=True)
    db.execute("PRAGMA trusted_schema = OFF")
    db.execute("PRAGMA automatic_index = OFF")
    db.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, MOST_TILE_BYTES + 100_000)
    db.set_authorizer(_reads_tables_alone)
    try:
        counted, query = _query_of(db)
        said = dict(db.execute("SELECT name, value FROM metadata LIMIT 100")) if _columns(db, "metadata") else {}
        count = int(db.execute(f"SELECT COUNT(*) FROM {counted}").fetchone()[0])
    except (sqlite3.Error, ValueError) as error:
        raise BadFileError(f"a database without map tiles in it ({error})"[:160], _ALLOWED) from None
    return _rows(db, query), said, count


def _reads_tables_alone(action: int, _what: str | None, _more: str | None, _db: str | None, within: str | None) -> int:
    """Let nothing of a stranger's run: no view, no trigger, no query that calls itself, nothing that writes."""
    harmless = (sqlite3.SQLITE_SELECT, sqlite3.SQLITE_READ, sqlite3.SQLITE_FUNCTION, sqlite3.SQLITE_PRAGMA)
    return sqlite3.SQLITE_OK if within is None and action in harmless else sqlite3.SQLITE_DENY


def _columns(db: sqlite3.Connection, table: str) -> set[str]:
    """The columns of a plain table; none for a view, for a table that is computed, and for what is not there."""
    plain = "SELECT 1 FROM sqlite_master WHERE type = 'table' AND rootpage > 0 AND name = ?"
    if db.execute(plain, (table,)).fetchone() is None:
        return set()
    columns = db.execute(f"PRAGMA table_xinfo({table})").fetchall()
    return {row[1] for row in columns} if all(row[6] == 0 for row in columns) else set()


def _query_of(db: sqlite3.Connection) -> tuple[str, str]:
    """The table that has a row for each tile, and the query for them: tiles in one table, or each picture once."""
    place = {"zoom_level", "tile_column", "tile_row"}
    if _columns(db, "tiles") >= place | {"tile_data"}:
        return "tiles", "SELECT zoom_level, tile_column, tile_row, tile_data FROM tiles"
    for key in ("tile_id", "digest"):
        if _columns(db, "map") >= place | {key} and _columns(db, "images") >= {key, "tile_data"}:
            return "map", (
                "SELECT zoom_level, tile_column, tile_row, tile_data FROM map "
                f"CROSS JOIN images ON images.{key} = map.{key}"
            )
    raise BadFileError("a database without a table of tiles, or of a map and its images", _ALLOWED)


def _rows(db: sqlite3.Connection, query: str) -> Iterator[Tile]:
    try:
        yield from db.execute(query)
    except sqlite3.Error as error:
        raise BadFileError(f"a damaged archive ({error})"[:160], "a whole one") from None
    finally:
        db.close()


def _of_pmtiles(source: str) -> tuple[Iterator[Tile], dict[str, Any], int]:
    with Path(source).open("rb") as opened:
        mapped = mmap.mmap(opened.fileno(), 0, access=mmap.ACCESS_READ)

    def bytes_at(offset: int, length: int) -> bytes:
        if offset + length > len(mapped) or length > 16_000_000:
            raise BadFileError("an archive that points outside of itself", "a whole one")
        return mapped[offset : offset + length]

    reader = Reader(bytes_at)
    try:
        header = reader.header()
        said = reader.metadata() if header["metadata_length"] else {}
    except BadFileError:
        raise
    except Exception as error:  # the package raises whatever its bytes lead it to
        raise BadFileError(f"a damaged archive ({type(error).__name__})", "a whole PMTiles of version 3") from None
    if header["internal_compression"] is not Compression.GZIP:
        raise BadFileError("directories that are not compressed by gzip", "a PMTiles with gzip, which is the usual one")
    if header["tile_compression"] not in (Compression.NONE, Compression.UNKNOWN):
        raise BadFileError("tiles that are compressed once more", _ALLOWED)
    return _walked(bytes_at, header), said if isinstance(said, dict) else {}, header["addressed_tiles_count"]


def _walked(bytes_at: Any, header: Any) -> Iterator[Tile]:
    try:
        for (z, x, y), picture in traverse(bytes_at, header, header["root_offset"], header["root_length"]):
            yield z, x, 2**z - 1 - y, picture
    except BadFileError:
        raise
    except Exception as error:
        raise BadFileError(f"a damaged archive ({type(error).__name__})", "a whole PMTiles of version 3") from None


def about(path: Path) -> MapArchive:
    """What an archive that was made over is. Raises BadFileError for a file that is none."""
    try:
        with closing(_opened(path)) as db:
            said = dict(db.execute("SELECT name, value FROM metadata"))
            boxes = db.execute(f"{_BOX} GROUP BY zoom_level ORDER BY zoom_level").fetchall()
            count = int(db.execute("SELECT COUNT(*) FROM map").fetchone()[0])
    except sqlite3.Error as error:
        raise BadFileError(
            f"a map archive that cannot be read ({error})"[:160], "one that was brought in here"
        ) from None
    if not boxes:
        raise BadFileError("a map archive without a tile", "one that was brought in here")
    finest, west, south, east, north = boxes[-1]
    return MapArchive(
        name=said.get("name", ""), attribution=said.get("attribution", ""), min_zoom=boxes[0][0], max_zoom=finest,
        count=count, south=_latitude(south, finest), west=360 * west / 2**finest - 180,
        north=_latitude(north + 1, finest), east=360 * (east + 1) / 2**finest - 180,
    )  # fmt: skip


def _latitude(row: int, zoom: int) -> float:
    """Latitude [°] of the lower edge of a row counted from the south; spherical Mercator."""
    return math.degrees(math.atan(math.sinh(math.pi * (2 * row / 2**zoom - 1))))


def _opened(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"file:{path.resolve().as_posix()}?mode=ro&immutable=1", uri=True)


def tile(path: Path, zoom: int, column: int, row: int) -> bytes | None:
    """One tile, its row counted from the north as on web maps; None where there is none."""
    if not (0 <= zoom <= DEEPEST_ZOOM and 0 <= column < 2**zoom and 0 <= row < 2**zoom):
        return None
    with closing(_opened(path)) as db:
        found = db.execute(
            "SELECT tile_data FROM tiles WHERE zoom_level = ? AND tile_column = ? AND tile_row = ?",
            (zoom, column, 2**zoom - 1 - row),
        ).fetchone()
    return None if found is None else bytes(found[0])

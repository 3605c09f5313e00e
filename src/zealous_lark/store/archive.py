"""Everything as one archive: a ZIP of JSON tables and files, which restores into an empty Lark.

What comes in is built up in a database of its own first, at the revision that the archive was written with, brought
up to date and checked; only then does it take the place of the empty one, whole.
"""

from __future__ import annotations

import hashlib
import io
import json
import sqlite3
import tempfile
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import closing
from datetime import datetime
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine

from zealous_lark.store import backup
from zealous_lark.store.database import FILE_NAME, Database

FORMAT, VERSION = "zealous-lark.archive", 1
MAX_PACKED, MAX_UNPACKED = 1_000_000_000, 2_000_000_000
MAX_TABLE = 100_000_000
MAX_FILES = 200_000
_MANIFEST = "archive.json"
_ALLOWED = "an archive that Lark wrote"
_PIECE = 1 << 20


class BadArchiveError(Exception):
    """An archive that is refused: what was found, and what is allowed."""

    def __init__(self, given: str, allowed: str = _ALLOWED) -> None:
        super().__init__(f"it has {given}; it needs {allowed}")
        self.given, self.allowed = given, allowed


class NotEmptyError(Exception):
    """The Lark to restore into has something in it."""


def _tables(db: sqlite3.Connection) -> list[str]:
    """The tables in an order in which rows can be put in: what others point to comes first."""
    names = [
        row[0]
        for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
        if row[0] != "alembic_version"
    ]
    needs = {n: {r[2] for r in db.execute(f'PRAGMA foreign_key_list("{n}")')} - {n} for n in names}
    ordered: list[str] = []
    while needs:
        ready = sorted(n for n, of in needs.items() if of <= set(ordered))
        ordered += ready
        needs = {n: of for n, of in needs.items() if n not in ready}
    return ordered


def _columns(db: sqlite3.Connection, table: str) -> list[str]:
    return [row[1] for row in db.execute(f'PRAGMA table_info("{table}")')]


def _entry(name: str, now: datetime) -> zipfile.ZipInfo:
    """A file of the archive with the archive's own time, so that the same Lark gives the same bytes."""
    return zipfile.ZipInfo(name, now.timetuple()[:6])


def write_archive(database: Database, now: datetime) -> bytes:
    """Everything that a Lark has, as it is at one moment."""
    out = io.BytesIO()
    with (
        tempfile.TemporaryDirectory() as folder,
        closing(sqlite3.connect(database.folder / FILE_NAME)) as live,
        closing(sqlite3.connect(Path(folder) / FILE_NAME)) as db,
        zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive,
    ):
        live.backup(db)
        revision = db.execute("SELECT version_num FROM alembic_version").fetchone()[0]
        digests: dict[str, str] = {}
        for table in _tables(db):
            columns = _columns(db, table)
            rows = []
            for row in db.execute(f'SELECT * FROM "{table}"'):
                values: list[Any] = []
                for value in row:
                    if isinstance(value, bytes):
                        digest = hashlib.sha256(value).hexdigest()
                        name = f"files/{digest}.bin"
                        if name not in digests:
                            archive.writestr(_entry(name, now), value, zipfile.ZIP_DEFLATED)
                            digests[name] = digest
                        values.append({"file": digest})
                    else:
                        values.append(value)
                rows.append(values)
            name = f"tables/{table}.json"
            text = json.dumps({"columns": columns, "rows": rows}, ensure_ascii=False).encode()
            archive.writestr(_entry(name, now), text, zipfile.ZIP_DEFLATED)
            digests[name] = hashlib.sha256(text).hexdigest()
        manifest = {
            "format": FORMAT, "version": VERSION, "revision": revision, "made_at": now.isoformat(), "sha256": digests
        }  # fmt: skip
        archive.writestr(_entry(_MANIFEST, now), json.dumps(manifest, indent=1), zipfile.ZIP_DEFLATED)
    return out.getvalue()


class _Contents:
    """The files of an archive, read with a limit on all of them together."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self.archive = archive
        self.left = MAX_UNPACKED
        names = archive.namelist()
        if len(names) > MAX_FILES or len(names) != len(set(names)):
            raise BadArchiveError(f"an archive of {len(names)} files, or with two of one name")

    def pieces(self, name: str) -> Iterator[bytes]:
        """A file, a piece at a time. The size that the archive states may be a lie; what is read is what counts."""
        if self.archive.getinfo(name).compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
            raise BadArchiveError("an archive packed in an unusual way")
        with self.archive.open(name) as file:
            while piece := file.read(_PIECE):
                self.left -= len(piece)
                if self.left < 0:
                    raise BadArchiveError(
                        f"an archive that unpacks to more than {MAX_UNPACKED:,} bytes", "a smaller one"
                    )
                yield piece

    def read(self, name: str) -> bytes:
        """A file, whole."""
        found = io.BytesIO()
        for piece in self.pieces(name):
            found.write(piece)
            if found.tell() > MAX_TABLE:
                raise BadArchiveError(f"{name} of more than {MAX_TABLE:,} bytes", "a smaller one")
        return found.getvalue()


def _manifest(contents: _Contents) -> dict[str, Any]:
    names = set(contents.archive.namelist())
    if _MANIFEST not in names:
        raise BadArchiveError(f"an archive without {_MANIFEST}")
    manifest = _json(contents.read(_MANIFEST), _MANIFEST)
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise BadArchiveError("an archive of another kind")
    if manifest.get("version") != VERSION:
        raise BadArchiveError(f"version {manifest.get('version')!r}", f"version {VERSION}")
    if manifest.get("revision") not in backup.known_revisions():
        raise BadArchiveError(f"tables of revision {manifest.get('revision')!r}", "those of this Lark or an older one")
    digests = manifest.get("sha256")
    if not isinstance(digests, dict) or set(digests) != names - {_MANIFEST}:
        raise BadArchiveError("files that its list does not have, or the other way round")
    return manifest


def _json(data: bytes, name: str) -> Any:
    try:
        return json.loads(data)
    except (ValueError, RecursionError):
        raise BadArchiveError(f"{name} that is not JSON") from None


def _check(contents: _Contents, digests: dict[str, Any]) -> None:
    """Hold every file against its digest, a piece at a time: all of them together may be more than fits."""
    for name, digest in digests.items():
        kind, _, rest = name.partition("/")
        plain = rest.replace("_", "").removesuffix(".json").removesuffix(".bin")
        if kind not in ("tables", "files") or not plain.isalnum() or not name.isascii():
            raise BadArchiveError(f"a file named {name[:80]!r}")
        found = hashlib.sha256()
        for piece in contents.pieces(name):
            found.update(piece)
        if found.hexdigest() != digest:
            raise BadArchiveError(f"{name}, which is damaged")
    contents.left = MAX_UNPACKED  # each is read once more


def _rows(table: str, contents: _Contents, names: set[str], known: list[str]) -> Iterator[list[Any]]:
    document = _json(contents.read(f"tables/{table}.json"), table)
    if not isinstance(document, dict) or not isinstance(document.get("rows"), list):
        raise BadArchiveError(f"table {table} without rows")
    columns = document.get("columns")
    if columns != known:
        raise BadArchiveError(f"table {table} with columns {columns!r}"[:200], ", ".join(known))
    for row in document["rows"]:
        if not isinstance(row, list) or len(row) != len(columns):
            raise BadArchiveError(f"a row of table {table} of another length")
        values: list[Any] = []
        for value in row:
            if isinstance(value, dict):
                name = f"files/{value.get('file')}.bin"
                if name not in names:
                    raise BadArchiveError(f"table {table} with a file that is not there")
                values.append(contents.read(name))
            elif value is None or isinstance(value, str | int | float):
                values.append(value)
            else:
                raise BadArchiveError(f"table {table} with a value of no kind")
        yield values


def _migrate(path: Path, revision: str) -> None:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    engine = create_engine(f"sqlite:///{path}")
    try:
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, revision)
    finally:
        engine.dispose()


def build(packed: Path, folder: Path) -> None:
    """A data folder with what an archive holds, up to date and sound. Raises BadArchiveError."""
    if packed.stat().st_size > MAX_PACKED:
        raise BadArchiveError(f"{packed.stat().st_size:,} bytes", f"{MAX_PACKED:,} at most")
    try:
        with zipfile.ZipFile(packed) as archive:
            contents = _Contents(archive)
            manifest = _manifest(contents)
            _check(contents, manifest["sha256"])
            _fill(folder / FILE_NAME, contents, manifest)
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError, OSError, KeyError) as error:
        raise BadArchiveError(f"a file that cannot be opened ({error})") from None


def _fill(path: Path, contents: _Contents, manifest: dict[str, Any]) -> None:
    files = set(manifest["sha256"])
    _migrate(path, manifest["revision"])
    try:
        with closing(sqlite3.connect(path)) as db:
            tables = _tables(db)
            given = {n.removeprefix("tables/").removesuffix(".json") for n in files if n.startswith("tables/")}
            if given != set(tables):
                raise BadArchiveError(
                    f"tables {', '.join(sorted(given ^ set(tables)))[:200]}, which do not belong or lack"
                )
            db.execute("PRAGMA foreign_keys=ON")
            for table in tables:
                columns = _columns(db, table)
                marks = ",".join("?" * len(columns))
                db.executemany(f'INSERT INTO "{table}" VALUES ({marks})', _rows(table, contents, files, columns))
            db.commit()
    except (sqlite3.Error, OverflowError) as error:
        raise BadArchiveError(f"rows that do not fit together ({error})") from None
    _migrate(path, "head")
    try:
        backup.check(path)
    except backup.BadBackupError as error:
        raise BadArchiveError(str(error)) from None


_OF_ITS_OWN = {"requests", "verdicts"}
"""What Lark writes by itself, and again: nothing that anybody set."""


def has(database: Database) -> list[str]:
    """The tables with something that a pilot set, by name: none in an empty Lark."""
    with closing(sqlite3.connect(database.folder / FILE_NAME)) as db:
        there = [
            t for t in _tables(db) if t not in _OF_ITS_OWN and db.execute(f'SELECT 1 FROM "{t}" LIMIT 1').fetchone()
        ]
        # An address of tiles that was taken back leaves an empty fact.
        said = db.execute("SELECT 1 FROM facts WHERE value != '' AND name != 'order' LIMIT 1").fetchone()
        return [t for t in there if t != "facts" or said]


def is_empty(database: Database) -> bool:
    """Whether nothing was set in a Lark yet, the minimums neither."""
    return not has(database)


def take_over(database: Database, built: Path) -> None:
    """Put a database that was built in place of an empty one. Raises NotEmptyError."""
    if not is_empty(database):
        raise NotEmptyError
    database.close()
    live = database.folder / FILE_NAME
    with closing(sqlite3.connect(built / FILE_NAME)) as source, closing(sqlite3.connect(live)) as target:
        source.backup(target)

"""Dated backups of the database, by SQLite's own backup, and restoring one after a check."""

from __future__ import annotations

import sqlite3
import tempfile
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import inspect
from sqlalchemy.exc import SQLAlchemyError

from zealous_lark.store.claim import claimed
from zealous_lark.store.database import FILE_NAME, Database
from zealous_lark.store.models import Base
from zealous_lark.store.rows import read_all

KEPT = 14
_FOLDER = "backups"


class BadBackupError(Exception):
    """A file that cannot be restored, and why."""


@dataclass(frozen=True, slots=True)
class Backup:
    """A backup: its file, and when it was made by the file's name."""

    path: Path
    made: str


def known_revisions() -> set[str]:
    """The revisions of the tables that this Lark can bring up to date."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    return {r.revision for r in ScriptDirectory.from_config(config).walk_revisions()}


def list_backups(folder: Path) -> list[Backup]:
    """The backups of a data folder, the latest first."""
    found = sorted((folder / _FOLDER).glob("lark-*.db"), reverse=True)
    return [Backup(p, p.stem.removeprefix("lark-")) for p in found]


def back_up(folder: Path, now: datetime, *, spare: Path | None = None) -> Path:
    """Back up the database of a data folder, and keep the latest of them, and the one to be spared.

    Raises BadBackupError where what was copied is not sound.
    """
    target = _free(folder / _FOLDER, now)
    target.parent.mkdir(exist_ok=True)
    half = target.with_suffix(".part")
    try:
        with closing(sqlite3.connect(folder / FILE_NAME)) as source, closing(sqlite3.connect(half)) as copy:
            source.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")  # a file that stands alone
        check(half)  # a backup that cannot be restored is none
        half.rename(target)
    finally:
        half.unlink(missing_ok=True)
    for old in list_backups(folder)[KEPT:]:
        if spare is None or not old.path.samefile(spare):
            old.path.unlink()
    return target


def _free(folder: Path, now: datetime) -> Path:
    """A name for a backup that none has yet: a second later where one was made in this second."""
    while (target := folder / f"lark-{now:%Y-%m-%dT%H%M%S}.db").exists():
        now += timedelta(seconds=1)
    return target


def due(folder: Path, now: datetime) -> bool:
    """Whether there is no backup of this day yet."""
    found = list_backups(folder)
    return not found or not found[0].made.startswith(f"{now:%Y-%m-%d}")


def back_up_before_migrating(folder: Path, now: datetime) -> Path | None:
    """Back up a database whose tables or documents are of an older version; None where there is nothing to do."""
    live = folder / FILE_NAME
    if not live.is_file():
        return None
    with closing(_read_only(live)) as db:
        try:
            revision = db.execute("SELECT version_num FROM alembic_version").fetchone()
        except sqlite3.DatabaseError:
            return None
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    newest = ScriptDirectory.from_config(config).get_current_head()
    return None if revision is None or revision[0] == newest else back_up(folder, now)


def check(path: Path) -> None:
    """Whether a file can be restored. Raises BadBackupError saying why not."""
    if not path.is_file():
        raise BadBackupError(f"{path} is not there")
    try:
        with closing(_read_only(path)) as db:
            sound = db.execute("PRAGMA integrity_check").fetchone()[0]
            if sound != "ok":
                raise BadBackupError(f"{path} is damaged: {sound}")
            if db.execute("PRAGMA foreign_key_check").fetchone() is not None:
                raise BadBackupError(f"{path} is damaged: it has records whose links lead nowhere. Use another backup")
            revision = db.execute("SELECT version_num FROM alembic_version").fetchone()
    except sqlite3.DatabaseError as error:
        raise BadBackupError(f"{path} is no database of Lark's ({error})") from None
    if revision is None or revision[0] not in known_revisions():
        raise BadBackupError(f"{path} was written by a newer Lark")


def rehearse(path: Path) -> None:
    """Bring a copy of a backup up to date and read every row of it. Raises BadBackupError where that fails."""
    check(path)
    with tempfile.TemporaryDirectory() as folder:
        with closing(_read_only(path)) as source, closing(sqlite3.connect(Path(folder) / FILE_NAME)) as target:
            source.backup(target)
        built = Database(Path(folder))
        try:
            built.migrate()
            there = inspect(built.engine)
            for table in Base.metadata.sorted_tables:
                lacking = {c.name for c in table.columns} - {c["name"] for c in there.get_columns(table.name)}
                if lacking:
                    raise BadBackupError(f"{path} is damaged: it lacks {table.name}.{min(lacking)}")
            with built.transaction() as s:
                read_all(s)
        except (SQLAlchemyError, ValueError, LookupError) as error:
            raise BadBackupError(f"{path} is damaged: {str(error)[:200]}") from None
        finally:
            built.close()


def restore(folder: Path, path: Path, now: datetime) -> Path | None:
    """Put a backup in place of the database, after a rehearsal; what was there is backed up first.

    Returns that backup; None where there was nothing. What is too damaged to be backed up is put aside as it is.
    Raises BadBackupError, and has then changed nothing, and InUseError.
    """
    live = folder / FILE_NAME
    if live.is_file() and path.is_file() and path.samefile(live):
        raise BadBackupError(f"{path} is the database itself")
    rehearse(path)
    with claimed(folder, alone=True):
        return _restore(folder, path, now)


def _put_aside(folder: Path, now: datetime) -> Path:
    """The database and its log as they are, for somebody who may still get something out of them."""
    aside = _free(folder / _FOLDER, now).with_suffix(".damaged")
    aside.mkdir(parents=True)
    for suffix in ("", "-wal", "-shm"):
        if (file := folder / f"{FILE_NAME}{suffix}").is_file():
            file.rename(aside / file.name)
    return aside


def _restore(folder: Path, path: Path, now: datetime) -> Path | None:
    live, half = folder / FILE_NAME, folder / f"{FILE_NAME}.part"
    half.unlink(missing_ok=True)
    try:
        # Whole beside the live one first: where there is no room for it, that one stays as it is. Read only, as a file
        # that is not there must not become an empty database, and that the pilot's.
        with closing(_read_only(path)) as source, closing(sqlite3.connect(half)) as target:
            source.backup(target)
            target.execute("PRAGMA journal_mode=DELETE")
        before = _kept_before(folder, path, now)
        for suffix in ("-wal", "-shm"):
            (folder / f"{FILE_NAME}{suffix}").unlink(missing_ok=True)
        half.replace(live)
    finally:
        half.unlink(missing_ok=True)
    return before


def _kept_before(folder: Path, path: Path, now: datetime) -> Path | None:
    """What was there, backed up, or put aside where it is too damaged for that; None where there was nothing."""
    if not (folder / FILE_NAME).is_file():
        return None
    try:
        # The oldest backup would make room for the new one, just as it is wanted.
        return back_up(folder, now, spare=path)
    except sqlite3.OperationalError:
        raise  # a full disk or a lock says nothing of the data
    except (BadBackupError, sqlite3.DatabaseError):
        return _put_aside(folder, now)


def _read_only(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)

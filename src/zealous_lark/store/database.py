"""The database file: where it is, how it is opened, how it is brought up to date."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from pathlib import Path
from time import thread_time
from typing import Any

from alembic import command
from alembic.config import Config
from platformdirs import user_data_path
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker

from zealous_lark.store.holding import doing
from zealous_lark.store.models import FactRow
from zealous_lark.store.trouble import DataGoneError

FILE_NAME = "lark.db"


def data_folder() -> Path:
    """The user's data folder for Lark: `LARK_DATA` if set, else the platform's usual place."""
    named = os.environ.get("LARK_DATA")
    return Path(named) if named else user_data_path("zealous-lark", appauthor=False)


def _on_connect(connection: Any, _record: Any) -> None:
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    # FULL, not NORMAL: a saved change must outlive a power cut, not only a killed process.
    cursor.execute("PRAGMA synchronous=FULL")
    cursor.execute("PRAGMA foreign_keys=ON")
    cursor.execute("PRAGMA busy_timeout=5000")
    cursor.close()


class LongWriteError(Exception):
    """A transaction that writes took longer than is allowed; every other save waited meanwhile."""


keeps_others_waiting: ContextVar[bool] = ContextVar("keeps others waiting", default=False)
"""Whether this thread has written and not committed yet; known where `longest_write_s` is set."""
_WRITES_SINCE, _CHANGES = "writes since", "changes"
_READS = ("SELECT", "BEGIN DEFERRED", "PRAGMA", "WITH")


def _writes(statement: str) -> bool:
    return not statement.lstrip().upper().startswith(_READS)


def _note_first_write(connection: Any, _cursor: Any, statement: str, *_more: Any) -> None:
    """Note when a connection begins to keep others from writing, by its thread's processor time [s]."""
    if _writes(statement):
        connection.info.setdefault(_WRITES_SINCE, thread_time())
        keeps_others_waiting.set(True)


def _note_end(connection: Connection) -> None:
    connection.info.pop(_WRITES_SINCE, None)
    keeps_others_waiting.set(False)


def is_overtaken(error: DBAPIError) -> bool:
    """Whether a transaction that read first could not write, because somebody else wrote meanwhile or does now."""
    return getattr(error.orig, "sqlite_errorname", "").startswith("SQLITE_BUSY")


class Database:
    """One SQLite file with a write-ahead log. Sessions are opened in `transaction` and nowhere else.

    longest_write_s: of a processor's time in a transaction that writes [s]; longer ones are refused. Set in tests.
    """

    longest_write_s: float | None = None
    changes = 0
    """How often this process may have changed something, to tell an answer from before from one after."""
    writer = ""
    """What this process was the last to write for."""

    def __init__(self, folder: Path | None = None) -> None:
        """Open the database in a folder, which is made if missing. Call `migrate` before use."""
        self.folder = data_folder() if folder is None else folder
        self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        self.engine: Engine = create_engine(f"sqlite:///{self.folder / FILE_NAME}")
        event.listen(self.engine, "connect", _on_connect)
        event.listen(self.engine, "commit", self._count)
        event.listen(self.engine, "before_cursor_execute", self._note_writer)
        if self.longest_write_s is not None:
            event.listen(self.engine, "before_cursor_execute", _note_first_write)
            for end in ("commit", "rollback"):
                event.listen(self.engine, end, _note_end)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)
        # What was there when it was opened: SQLite goes on writing into a file that was moved or deleted.
        self._here: dict[Path, int] = {}
        self._open: ContextVar[OrmSession | None] = ContextVar("open unit of work", default=None)

    def migrate(self) -> None:
        """Bring the tables up to date; does nothing when they are."""
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self.engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")

    @contextmanager
    def transaction(self) -> Iterator[OrmSession]:
        """A unit of work: committed whole at the end, rolled back whole on any error; part of the one around it."""
        outer = self._open.get()
        if outer is not None:
            yield outer
            return
        self._check_that_it_is_here()
        with self._sessions.begin() as session:
            token = self._open.set(session)
            try:
                yield session
                self._check_that_it_was_short(session)
            finally:
                self._open.reset(token)

    def _check_that_it_was_short(self, session: OrmSession) -> None:
        if self.longest_write_s is None:
            return
        session.flush()
        since_s = session.connection().info.pop(_WRITES_SINCE, None)
        if since_s is not None and (took_s := thread_time() - since_s) > self.longest_write_s:
            raise LongWriteError(f"{1000 * took_s:.0f} ms of a processor while every other save waits")

    def _count(self, connection: Connection) -> None:
        # Of each connection: changes that it made since it was opened.
        made = connection.connection.dbapi_connection.total_changes  # type: ignore[union-attr]
        if made != connection.info.get(_CHANGES, 0):
            connection.info[_CHANGES] = made
            self.changes += 1

    def _note_writer(self, _connection: Any, _cursor: Any, statement: str, *_more: Any) -> None:
        if _writes(statement):
            self.writer = doing.get()

    def _check_that_it_is_here(self) -> None:
        """Raises DataGoneError where the file, or its write-ahead log, is no longer the one that was opened."""
        if self.engine.pool.checkedin() + self.engine.pool.checkedout() == 0:  # type: ignore[attr-defined]
            self._here = {}
            return
        for path in (self.folder / FILE_NAME, self.folder / f"{FILE_NAME}-wal"):
            # Another thread may have made the log, and noted it, between the look and the comparison: look twice.
            if not (self._is_the_one(path) or self._is_the_one(path)):
                raise DataGoneError(str(path))

    def _is_the_one(self, path: Path) -> bool:
        try:
            there = path.stat().st_ino
        except FileNotFoundError:
            there = 0
        if there and path not in self._here:
            self._here[path] = there
            return True
        return self._here.get(path, 0) == there

    @contextmanager
    def writing(self, *, at_once: bool = True) -> Iterator[OrmSession]:
        """A unit of work that nobody else writes beside: what is read in it still holds when it writes.

        at_once: others wait from its beginning on; else they wait from its first change on, and that one fails
        (`is_overtaken`) where somebody wrote since it began to read.
        """
        with self.transaction() as session:
            connection = session.connection()
            # The driver begins a transaction at the first change only, which is too late for what was read before.
            if not connection.connection.dbapi_connection.in_transaction:  # type: ignore[union-attr]
                connection.exec_driver_sql("BEGIN IMMEDIATE" if at_once else "BEGIN DEFERRED")
            yield session

    def fact(self, name: str) -> str | None:
        """What the application remembers under a name."""
        with self.transaction() as s:
            row = s.get(FactRow, name)
            return None if row is None else row.value

    def remember(self, name: str, value: str) -> None:
        """Remember something under a name, instead of what was there."""
        with self.transaction() as s:
            s.merge(FactRow(name=name, value=value))

    def scrub(self) -> None:
        """Rewrite the file, so that nothing deleted remains in it."""
        with self.engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            connection.exec_driver_sql("VACUUM")
            connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()
        self._here = {}

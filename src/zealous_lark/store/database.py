"""The database file: where it is, how it is opened, how it is brought up to date."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from platformdirs import user_data_path
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker

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


class Database:
    """One SQLite file with a write-ahead log. Sessions are opened in `transaction` and nowhere else."""

    def __init__(self, folder: Path | None = None) -> None:
        """Open the database in a folder, which is made if missing. Call `migrate` before use."""
        self.folder = data_folder() if folder is None else folder
        self.folder.mkdir(parents=True, exist_ok=True)
        self.engine: Engine = create_engine(f"sqlite:///{self.folder / FILE_NAME}")
        event.listen(self.engine, "connect", _on_connect)
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
            finally:
                self._open.reset(token)

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
    def writing(self) -> Iterator[OrmSession]:
        """A unit of work that nobody else writes beside: what is read in it still holds when it writes."""
        with self.transaction() as session:
            connection = session.connection()
            # The driver begins a transaction at the first change only, which is too late for what was read before.
            if not connection.connection.dbapi_connection.in_transaction:  # type: ignore[union-attr]
                connection.exec_driver_sql("BEGIN IMMEDIATE")
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

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()
        self._here = {}

"""Backups and archives from the command line: done, refused with 64 and nothing changed."""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from tests.conftest import NOW
from zealous_lark.demo.load import load_demo
from zealous_lark.services import logbook
from zealous_lark.store import Database
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.flights import Filter


def lark(folder: Path, *words: str, given: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-c", "from zealous_lark.cli import main; main()", *words],
        env={**os.environ, "LARK_DATA": str(folder)}, input=given, capture_output=True, text=True, check=False,
    )  # fmt: skip


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A data folder with the demo's sessions and flights in it."""
    made = Database(tmp_path / "own")
    made.migrate()
    load_demo(made, NOW)
    made.close()
    return tmp_path / "own"


def count(folder: Path, table: str = "flights") -> int:
    with sqlite3.connect(folder / FILE_NAME) as raw:
        found: int = raw.execute(f"SELECT count(*) FROM {table} WHERE deleted_at IS NULL").fetchone()[0]
    return found


def test_back_up_lose_something_and_restore(folder: Path) -> None:
    done = lark(folder, "backup")
    assert done.returncode == 0
    path = done.stdout.split()[-1]
    assert path in lark(folder, "backups").stdout
    db = Database(folder)
    logbook.set_deleted(db, logbook.page(db, Filter()).flights[0].uid, NOW)
    db.close()
    assert count(folder) == 35
    asked = lark(folder, "restore", path, given="n\n")
    assert asked.returncode == 130
    assert count(folder) == 35
    done = lark(folder, "restore", path, "--yes")
    assert "checked: OK" in done.stdout
    assert "Your previous data was backed up to" in done.stdout
    assert count(folder) == 36
    assert len(lark(folder, "backups").stdout.splitlines()) == 2


def test_an_archive_moves_to_another_machine(folder: Path, tmp_path: Path) -> None:
    path = tmp_path / "all.zip"
    assert lark(folder, "archive", str(path)).returncode == 0
    assert not list(tmp_path.glob("*.part"))
    other = tmp_path / "other"
    assert lark(other, "unarchive", str(path)).returncode == 0
    assert count(other) == count(folder)
    assert count(other, "sessions") == count(folder, "sessions")
    again = lark(other, "unarchive", str(path))
    assert again.returncode == 64
    assert "an empty one" in again.stderr


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("backup",), "there is no data"),
        (("archive", "out.zip"), "there is no data"),
        (("restore", "nothing.db", "--yes"), "is not there"),
        (("unarchive", "nothing.zip"), "No such file"),
    ],
)
def test_what_cannot_be_done_says_so(tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    done = lark(tmp_path / "empty", *words)
    assert done.returncode == 64
    assert says in done.stderr


def test_rubbish_is_no_archive_and_no_backup(folder: Path, tmp_path: Path) -> None:
    rubbish = tmp_path / "rubbish"
    rubbish.write_bytes(b"x" * 5000)
    for command in ("restore", "unarchive"):
        done = lark(folder if command == "restore" else tmp_path / "new", command, str(rubbish))
        assert done.returncode == 64
        assert "nothing was changed" in done.stderr
    assert count(folder) == 36


def test_serving_makes_the_backup_of_the_day(folder: Path) -> None:
    running = subprocess.Popen(
        [sys.executable, "-c", "from zealous_lark.cli import main; main()", "serve", "--port", "0"],
        env={**os.environ, "LARK_DATA": str(folder)}, stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    try:
        assert running.stdout is not None
        assert "Lark is ready" in running.stdout.readline()
    finally:
        running.kill()
        running.wait()
    assert len(list((folder / "backups").glob("lark-*.db"))) == 1

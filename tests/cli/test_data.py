"""Backups and archives from the command line: done, refused with 64 and nothing changed."""

from __future__ import annotations

import shutil
import sqlite3
import subprocess
from pathlib import Path

import pytest

from tests.conftest import NOW
from tests.lark import lark as run
from tests.lark import start
from zealous_lark.services import logbook
from zealous_lark.store import Database
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.flights import Filter


def lark(folder: Path, *words: str, given: str = "") -> subprocess.CompletedProcess[str]:
    return run(*words, folder=folder, given=given)


@pytest.fixture
def folder(tmp_path: Path, kept_data: Path) -> Path:
    """A data folder with the demo's sessions and flights in it."""
    shutil.copytree(kept_data / "demo", tmp_path / "own")
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
    running, said = start(folder, "serve", "--port", "0")
    running.kill()
    running.join()
    assert "Lark is ready" in said
    assert len(list((folder / "backups").glob("lark-*.db"))) == 1

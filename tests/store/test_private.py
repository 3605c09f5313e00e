"""Only the pilot's own account reads the data; keys of services are in no database."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from datetime import UTC, datetime
from pathlib import Path

import pytest

from tests.lark import end, lark, start
from zealous_lark.plan.source import SourcePart
from zealous_lark.services import archive, sources
from zealous_lark.store import Database
from zealous_lark.store import sources as stored
from zealous_lark.store.access import FILE_NAME
from zealous_lark.store.backup import back_up
from zealous_lark.store.keys import ServiceKeys
from zealous_lark.store.private import Repaired, make_private

SECRET = "s3cret-of-the-service"
URL = "https://service.example"
NOW = datetime(2026, 9, 26, 18, 0, tzinfo=UTC)


def open_to_others(folder: Path) -> list[str]:
    return [p.name for p in (folder, *folder.rglob("*")) if p.stat().st_mode & 0o077]


def test_a_new_folder_is_the_owners_alone(tmp_path: Path) -> None:
    folder = tmp_path / "new"
    process, _ = start(folder, "serve", "--port", "0")
    assert (folder / "lark.db").is_file()
    assert open_to_others(folder) == []
    end(process)
    lark("backup", folder=folder)
    lark("archive", str(tmp_path / "all.zip"), folder=folder)
    assert open_to_others(folder) == []
    assert (tmp_path / "all.zip").stat().st_mode & 0o077 == 0


def test_an_open_folder_is_closed_at_the_start(tmp_path: Path, database: Database) -> None:
    (database.folder / "maps").mkdir()
    (database.folder / "maps" / "one.mbtiles").write_bytes(b"")
    for path in (database.folder, *database.folder.rglob("*")):
        path.chmod(0o755 if path.is_dir() else 0o644)
    log = tmp_path / "log"
    process, _ = start(database.folder, "serve", "--port", "0", log=log)
    assert "Others on this computer could read" in log.read_text()
    assert open_to_others(database.folder) == []
    end(process)
    assert make_private(database.folder) == Repaired(0, 0)


def test_a_file_system_without_rights_is_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "a").write_text("")
    (tmp_path / "a").chmod(0o644)
    monkeypatch.setattr(Path, "chmod", lambda *_: None)
    assert make_private(tmp_path / "a") == Repaired(0, 1)


def test_links_are_left_alone(tmp_path: Path) -> None:
    outside = tmp_path / "outside"
    outside.write_text("")
    outside.chmod(0o644)
    (tmp_path / "data").mkdir(mode=0o700)
    (tmp_path / "data" / "link").symlink_to(outside)
    make_private(tmp_path / "data")
    assert outside.stat().st_mode & 0o077 == 0o044


def source(key: str = SECRET) -> SourcePart:
    return SourcePart(url=URL, name="A", collection="a", key=key)


def test_a_key_is_in_no_database_backup_or_archive(database: Database) -> None:
    sources.add(database, source())
    assert sources.own(database)[0].source.key == SECRET
    archived = archive.write(database, NOW)
    copy = back_up(database.folder, NOW)
    for data in ((database.folder / "lark.db").read_bytes(), copy.read_bytes(), archived):
        assert SECRET.encode() not in data
    other = Database(database.folder / "other")
    other.migrate()
    archive.restore(other, archived, NOW)
    assert sources.without_keys(other) == ["A"]
    other.close()


def test_a_key_of_an_earlier_lark_is_moved(database: Database) -> None:
    with database.writing() as s:
        stored.add(s, source().model_dump_json())
    assert sources.move_keys(database) == 1
    assert sources.own(database)[0].source.key == SECRET
    database.close()
    assert all(SECRET.encode() not in p.read_bytes() for p in database.folder.glob("lark.db*"))


def test_a_key_belongs_to_one_address(tmp_path: Path) -> None:
    keys = ServiceKeys(tmp_path)
    keys.put(1, URL, SECRET)
    assert ServiceKeys(tmp_path).of(1, URL) == SECRET
    assert ServiceKeys(tmp_path).of(1, "https://elsewhere.example") == ""
    keys.put(1, URL, "")
    assert ServiceKeys(tmp_path).of(1, URL) == ""


def test_a_key_store_is_used_where_there_is_one(tmp_path: Path) -> None:
    store: dict[str, str] = {}

    def ask(asked: Mapping[str, object]) -> object:
        if asked["do"] == "get":
            return store.get(str(asked["name"]))
        store[str(asked["name"])] = str(asked["text"])
        return True

    ServiceKeys(tmp_path, ask).put(1, URL, SECRET)
    assert SECRET not in (tmp_path / FILE_NAME).read_text()
    assert ServiceKeys(tmp_path, ask).of(1, URL) == SECRET
    assert json.loads(store[str(tmp_path.resolve())]) == {"1": [URL, SECRET]}


def test_without_a_key_store_the_access_file_has_it(tmp_path: Path) -> None:
    def ask(_asked: Mapping[str, object]) -> object:
        raise OSError("none")

    ServiceKeys(tmp_path, ask).put(1, URL, SECRET)
    kept = tmp_path / FILE_NAME
    assert SECRET in kept.read_text()
    assert kept.stat().st_mode & 0o077 == 0


def test_no_key_goes_out_with_the_list(database: Database) -> None:
    sources.add(database, source())
    with sqlite3.connect(database.folder / "lark.db") as db:
        assert json.loads(db.execute("SELECT document FROM sources").fetchone()[0])["key"] == ""

"""Backups and the archive: the same afterwards, or refused whole."""

from __future__ import annotations

import hashlib
import io
import json
import random
import shutil
import sqlite3
import zipfile
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import NOW
from tests.core.postflight.make_tracks import there_and_back
from tests.flying import fly
from tests.formats.hostile import METAR
from tests.formats.test_track_files import as_gpx
from zealous_lark.formats.errors import BadFileError
from zealous_lark.services import (
    answers,
    archive,
    decisions,
    kit,
    learning,
    logbook,
    minimums,
    sessions,
    tracks,
    weather,
)
from zealous_lark.services.answers import Said
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store import Database, PilotsWord, backup
from zealous_lark.store import archive as stored_archive
from zealous_lark.store import minimums as stored_minimums
from zealous_lark.store.answers import Word
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.flights import Filter
from zealous_lark.store.models import FactRow

HERE = datetime(2026, 9, 26, 21, 0)


@pytest.fixture(scope="session")
def full_data(kept_data: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder, made once and only ever copied: the demo with flights, a track, an edit and something learned."""
    folder = tmp_path_factory.mktemp("full") / "data"
    shutil.copytree(kept_data / "demo", folder)
    demo = Database(folder)
    begun = NOW - timedelta(hours=3)
    for n in range(6):
        fly(demo, 1, begun - timedelta(days=n), 1.2)
    uid = fly(demo, 2 if logbook_has_home(demo, 2) else 1, begun, 1.2)
    for _ in tracks.attach(demo, uid, as_gpx(there_and_back(), begun), {}, "a.gpx", NOW):
        pass
    offer = next(o for o in learning.offers(demo, NOW) if o.offered)
    learning.take(demo, offer.kind, offer.target, "", NOW)
    answers.answer(demo, 1, answers.KIT_LIST, Said("props", Word.DONE), NOW)
    minimums.change(demo, minimums.current(demo), NOW, may_end_first_flights=False)
    decided = sessions.open_session(demo, 1, NOW)
    decisions.record_decision(
        demo, 1, word=PilotsWord.WAIT, note="wind", revision=decided.session.revision, now=NOW, said={}
    )
    weather.read_text(demo, "metar", METAR.decode(), "", decided.plan, NOW)
    demo.close()
    return folder


@pytest.fixture
def full(tmp_path: Path, full_data: Path) -> Iterator[Database]:
    shutil.copytree(full_data, tmp_path / "data")
    db = Database(tmp_path / "data")
    yield db
    db.close()


def logbook_has_home(db: Database, session: int) -> bool:
    return sessions.open_session(db, session, NOW).result.energy is not None


def everything(db: Database) -> dict[str, list[Any]]:
    """Every row of every table."""
    with sqlite3.connect(db.folder / FILE_NAME) as raw:
        names = [r[0] for r in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name")]
        return {n: sorted(raw.execute(f'SELECT * FROM "{n}"').fetchall(), key=repr) for n in names}


def empty(tmp_path: Path) -> Database:
    made = Database(tmp_path / "other")
    made.migrate()
    return made


def test_the_archive_restores_the_same_into_an_empty_lark(full: Database, tmp_path: Path) -> None:
    data = archive.write(full, NOW)
    other = empty(tmp_path)
    told: list[float] = []
    archive.restore(other, data, NOW, told.append)
    assert told == sorted(told)
    assert len(told) > 3, "how far it is, is told step by step"
    assert 0 < told[0] < told[-1] <= 1
    assert everything(other) == everything(full)
    assert len(everything(other)["flights"]) == len(everything(full)["flights"]) > 7
    assert [k.name for k in kit.items(other)] == [k.name for k in kit.items(full)]
    tracked = {f.uid: tracks.track_of(other, f.uid) for f in logbook.page(other, Filter()).flights}
    uid = next(uid for uid, kept in tracked.items() if kept is not None and kept.name == "a.gpx")
    assert len(tracks.points_of(other, uid).track.time_s) == len(there_and_back().time_s)
    assert archive.write(other, NOW) == data
    with pytest.raises(NotAllowedError, match="something in it"):
        archive.restore(other, data, NOW)
    other.close()


def remade(data: bytes, change: Callable[[dict[str, bytes]], None], relist: bool = True) -> bytes:
    """An archive with its files changed, and its list made to fit."""
    with zipfile.ZipFile(io.BytesIO(data)) as old:
        files = {n: old.read(n) for n in old.namelist()}
    change(files)
    if relist and "archive.json" in files:
        manifest = json.loads(files["archive.json"])
        names = [n for n in files if n != "archive.json"]
        manifest["sha256"] = {n: hashlib.sha256(files[n]).hexdigest() for n in names}
        files["archive.json"] = json.dumps(manifest).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for name, content in files.items():
            new.writestr(name, content)
    return out.getvalue()


def manifest_with(**values: Any) -> Callable[[dict[str, bytes]], None]:
    def change(files: dict[str, bytes]) -> None:
        files["archive.json"] = json.dumps({**json.loads(files["archive.json"]), **values}).encode()

    return change


def table_with(table: str, change: Callable[[dict[str, Any]], None]) -> Callable[[dict[str, bytes]], None]:
    def changed(files: dict[str, bytes]) -> None:
        document = json.loads(files[f"tables/{table}.json"])
        change(document)
        files[f"tables/{table}.json"] = json.dumps(document).encode()

    return changed


def put(name: str, content: bytes) -> Callable[[dict[str, bytes]], None]:
    return lambda files: files.update({name: content})


def spoil(column: str, value: str) -> Callable[[dict[str, Any]], None]:
    def change(document: dict[str, Any]) -> None:
        document["rows"][0][document["columns"].index(column)] = value

    return change


HOSTILE: dict[str, tuple[Callable[[dict[str, bytes]], None], bool, str]] = {
    "climbs out": (put("../../evil.json", b"{}"), True, "a file named"),
    "absolute": (put("/etc/passwd", b"x"), True, "a file named"),
    "climbs inside": (put("tables/../../x.json", b"{}"), True, "a file named"),
    "another version": (manifest_with(version=2), True, "version 2"),
    "newer tables": (manifest_with(revision="9999"), True, "revision '9999'"),
    "another kind": (manifest_with(format="zip"), True, "another kind"),
    "no list": (lambda f: f.pop("archive.json") and None, True, "without archive.json"),
    "damaged": (put("tables/facts.json", b"{}"), False, "damaged"),
    "a table too many": (put("tables/users.json", b'{"columns": [], "rows": []}'), True, "users"),
    "a table too few": (lambda f: f.pop("tables/places.json") and None, True, "places"),
    "not json": (put("tables/facts.json", b"\xff{"), True, "not JSON"),
    "other columns": (table_with("facts", lambda d: d["columns"].append("x")), True, "table facts with columns"),
    "a short row": (table_with("facts", lambda d: d["rows"].append([1])), True, "another length"),
    "a nested value": (table_with("facts", lambda d: d["rows"].append(["a", [1]])), True, "of no kind"),
    "a missing file": (table_with("facts", lambda d: d["rows"].append(["a", {"file": "00"}])), True, "not there"),
    "rows of nothing": (
        table_with("upkeep", lambda d: d["rows"].append([999, 999, "{}", "2026-01-01", None])), True, "fit together",
    ),
    "a word of no kind": (table_with("answers", spoil("word", "maybe")), True, "cannot be read"),
    "a number of no kind": (table_with("sessions", spoil("revision", "x")), True, "cannot be read"),
    "a time of no kind": (table_with("decisions", spoil("decided_at", "yesterday")), True, "cannot be read"),
    "a result of no kind": (table_with("decisions", spoil("result", "{}")), True, "cannot be read"),
    "a walkround of no kind": (table_with("decisions", spoil("walkround", '{"a": 1}')), True, "cannot be read"),
    "upkeep of no kind": (table_with("upkeep", spoil("document", "[]")), True, "cannot be read"),
    "minimums of no kind": (table_with("minimums", spoil("settings", '{"x": 1}')), True, "cannot be read"),
    "a forecast of no kind": (table_with("reports", spoil("document", "{}")), True, "cannot be read"),
    "a plan of no kind": (table_with("sessions", spoil("plan", '{"format": "x"}')), True, "cannot be read"),
}  # fmt: skip


@pytest.mark.parametrize("what", HOSTILE)
def test_a_hostile_archive_is_refused_whole(full: Database, tmp_path: Path, what: str) -> None:
    change, relist, words = HOSTILE[what]
    data = remade(archive.write(full, NOW), change, relist)
    other = empty(tmp_path)
    before = everything(other)
    with pytest.raises(BadFileError) as refused:
        archive.restore(other, data, NOW)
    assert words in refused.value.given
    assert everything(other) == before
    assert not list(tmp_path.glob("**/evil*"))
    other.close()


def test_an_archive_with_one_bit_turned_is_refused_or_the_same(demo: Database, tmp_path: Path) -> None:
    data = archive.write(demo, NOW)
    rng = random.Random(5)
    refused = 0
    for n in range(60):
        spoiled = bytearray(data)
        spoiled[rng.randrange(len(data))] ^= 1 << rng.randrange(8)
        built = tmp_path / str(n)
        built.mkdir()
        try:
            packed = built / "a.zip"
            packed.write_bytes(spoiled)
            stored_archive.build(packed, built)
        except stored_archive.BadArchiveError:
            refused += 1
    assert refused > 50


@pytest.mark.parametrize("what", ["minimums", "reports", "facts"])
def test_an_archive_overwrites_nothing_that_was_set(full: Database, tmp_path: Path, what: str) -> None:
    """Not only sessions and gear: minimums that were set on the new machine before the archive came are kept."""
    other = empty(tmp_path)
    with other.writing() as s:
        if what == "minimums":
            stored_minimums.add(s, '{"set": "here"}', NOW)
        elif what == "reports":
            s.connection().exec_driver_sql(
                "INSERT INTO reports (source, latitude, longitude, fetched_at, document, raw) "
                "VALUES ('here', 58, 25, '2026-01-01', '{}', '')"
            )
        else:
            s.add(FactRow(name="tile address", value="https://tiles.example/{z}/{x}/{y}"))
    with pytest.raises(NotAllowedError, match=rf"something in it \({what}\)"):
        archive.restore(other, archive.write(full, NOW), NOW)
    assert stored_archive.has(other) == [what]
    other.close()


def test_a_bomb_and_rubbish_are_refused(
    full: Database, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # fmt: skip
    other = empty(tmp_path)
    data = archive.write(full, NOW)
    for cut in (b"", b"PK", data[: len(data) // 2], b"\x00" * 1000):
        with pytest.raises(BadFileError):
            archive.restore(other, cut, NOW)
    monkeypatch.setattr(stored_archive, "MAX_UNPACKED", 3_000_000)
    bomb = remade(data, put("files/00.bin", b"\0" * 4_000_000))
    assert len(bomb) < len(data) + 10_000
    packed, built = tmp_path / "bomb.zip", tmp_path / "built"
    packed.write_bytes(bomb)
    built.mkdir()
    with pytest.raises(stored_archive.BadArchiveError, match="unpacks to more"):
        stored_archive.build(packed, built)
    assert stored_archive.is_empty(other)
    other.close()


def test_a_backup_restores_and_what_was_there_is_kept(full: Database) -> None:
    folder = full.folder
    assert backup.due(folder, HERE)
    made = backup.back_up(folder, HERE)
    assert not backup.due(folder, HERE + timedelta(hours=2))
    assert backup.due(folder, HERE + timedelta(days=1))
    before = everything(full)
    uid = logbook.page(full, Filter()).flights[0].uid
    logbook.set_deleted(full, uid, NOW)
    changed = everything(full)
    full.close()
    kept = backup.restore(folder, made, HERE + timedelta(hours=3))
    assert everything(full) == before
    assert kept is not None
    backup.restore(folder, kept, HERE + timedelta(hours=4))
    assert everything(full) == changed


def test_only_the_latest_backups_are_kept(full: Database) -> None:
    for n in range(backup.KEPT + 3):
        backup.back_up(full.folder, HERE + timedelta(days=n))
    found = backup.list_backups(full.folder)
    assert len(found) == backup.KEPT
    assert found[0].made > found[-1].made


def test_the_oldest_backup_restores_though_a_new_one_takes_its_place(full: Database) -> None:
    oldest = backup.back_up(full.folder, HERE)
    then = everything(full)
    sessions.delete_session(full, 1, NOW)
    for day in range(1, backup.KEPT):
        backup.back_up(full.folder, HERE + timedelta(days=day))
    assert len(backup.list_backups(full.folder)) == backup.KEPT
    full.close()
    before = backup.restore(full.folder, oldest, HERE + timedelta(days=30))
    assert everything(full) == then
    assert oldest.is_file()
    # What was there before stands in a backup of its own.
    assert before is not None
    with sqlite3.connect(before) as raw:
        assert raw.execute("SELECT deleted_at IS NULL FROM sessions WHERE id = 1").fetchone() == (0,)


def test_backups_of_one_second_do_not_overwrite_each_other(full: Database) -> None:
    first = backup.back_up(full.folder, HERE)
    sessions.delete_session(full, 1, NOW)
    second = backup.back_up(full.folder, HERE)
    assert first != second
    assert [b.path for b in backup.list_backups(full.folder)] == [second, first]
    full.close()
    # Restored in the very second in which it was made, it is still itself.
    backup.restore(full.folder, first, HERE)
    with sqlite3.connect(full.folder / FILE_NAME) as raw:
        assert raw.execute("SELECT deleted_at IS NULL FROM sessions WHERE id = 1").fetchone() == (1,)


def test_a_backup_under_a_name_with_signs_is_restored_and_one_that_is_gone_wipes_nothing(
    full: Database, tmp_path: Path
) -> None:
    then = everything(full)
    odd = tmp_path / "a copy #1 ?mode=rw 100%.db"
    odd.write_bytes(backup.back_up(full.folder, HERE).read_bytes())
    full.close()
    backup.restore(full.folder, odd, HERE + timedelta(days=1))
    assert everything(full) == then
    odd.unlink()
    with pytest.raises(backup.BadBackupError, match="is not there"):
        backup.restore(full.folder, odd, HERE + timedelta(days=2))
    assert everything(full) == then
    assert not odd.exists()


def test_a_damaged_backup_changes_nothing(full: Database, tmp_path: Path) -> None:
    made = backup.back_up(full.folder, HERE)
    before = everything(full)
    raw = bytearray(made.read_bytes())
    for at in range(8192, len(raw), 4096):
        raw[at : at + 200] = b"\xff" * 200
    spoiled, rubbish, foreign = tmp_path / "spoiled.db", tmp_path / "rubbish.db", tmp_path / "foreign.db"
    spoiled.write_bytes(raw)
    rubbish.write_bytes(b"not a database at all" * 100)
    sqlite3.connect(foreign).execute("CREATE TABLE t (a)").connection.close()
    for path in (spoiled, rubbish, foreign, tmp_path / "nothing.db"):
        with pytest.raises(backup.BadBackupError):
            backup.restore(full.folder, path, HERE)
    with sqlite3.connect(made) as newer:
        newer.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(backup.BadBackupError, match="newer Lark"):
        backup.restore(full.folder, made, HERE)
    assert everything(full) == before

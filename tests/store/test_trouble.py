"""When the disk, the file or another program is in the way: one sentence that says what to do, and nothing is lost."""

from __future__ import annotations

import os
import re
import shutil
import signal
import sqlite3
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

import httpx
import pytest
from sqlalchemy import event

from tests.conftest import NOW
from tests.lark import end, start
from tests.lark import lark as run
from tests.make import EXAMPLES
from tests.store.test_store import at_revision, copied
from tests.web.test_kit import PACK
from zealous_lark.services import kit as kit_service
from zealous_lark.services import sessions
from zealous_lark.store import Database, backup
from zealous_lark.store.claim import claimed
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.trouble import DataGoneError, InUseError
from zealous_lark.web import create_app

REVISIONS = [f"{n:04d}" for n in range(1, 9)]


def lark(folder: Path, *words: str) -> subprocess.CompletedProcess[str]:
    return run(*words, folder=folder)


@contextmanager
def running(folder: Path, *words: str, log: Path | None = None) -> Iterator[tuple[BaseProcess, str]]:
    """`lark` in a process of its own, and its address."""
    process, said = start(folder, *words, "--port", "0", log=log)
    try:
        yield process, said.split(" on ")[1].split()[0]
    finally:
        process.kill()
        process.join()


@pytest.fixture
def own(tmp_path: Path, kept_data: Path) -> Path:
    """A data folder with something in it."""
    shutil.copytree(kept_data / "demo", tmp_path / "own")
    return tmp_path / "own"


def titles(folder: Path) -> list[str]:
    with closing(sqlite3.connect(folder / FILE_NAME)) as db:
        return [row[0] for row in db.execute("SELECT title FROM sessions ORDER BY id")]


def test_a_full_disk_is_said_and_what_was_there_stays(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    before = client.get("/api/sessions").json

    @event.listens_for(demo.engine, "checkout")
    def no_more_pages(connection: sqlite3.Connection, *_: object) -> None:
        pages = connection.execute("PRAGMA page_count").fetchone()[0]
        connection.execute(f"PRAGMA max_page_count = {pages}")

    for _ in range(200):
        answer = client.post("/api/sessions/1/duplicate")
        if answer.status_code != 201:
            break
    assert answer.status_code == 503
    assert "no room left" in answer.json["message"]
    event.remove(demo.engine, "checkout", no_more_pages)
    assert client.get("/api/sessions").json["total"] >= before["total"]
    assert client.get("/api/health").status_code == 200


@pytest.mark.parametrize("which", [FILE_NAME, f"{FILE_NAME}-wal"])
@pytest.mark.parametrize("instead", [False, True])
def test_data_that_are_gone_or_replaced_while_lark_runs_are_noticed(demo: Database, which: str, instead: bool) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    assert client.get("/api/sessions").status_code == 200
    file = demo.folder / which
    kept = file.read_bytes()
    file.rename(file.with_suffix(".moved"))
    if instead:
        file.write_bytes(kept)
    answer = client.get("/api/sessions")
    assert answer.status_code == 503
    assert "moved, replaced or deleted" in answer.json["message"]
    assert "lark backups" in answer.json["message"]
    # The page opens all the same, and asks: that answer is what it shows.
    assert client.get("/sessions/1/plan").mimetype == client.get("/sessions").mimetype != "application/json"
    with pytest.raises(DataGoneError):
        sessions.delete_session(demo, 1, NOW)


_HOLD = """
import sqlite3, sys
db = sqlite3.connect(sys.argv[1], isolation_level=None)
db.execute("BEGIN IMMEDIATE")
print("held", flush=True)
sys.stdin.read()
db.execute("ROLLBACK")
"""


@pytest.mark.skipif(not Path("/proc/locks").is_file(), reason="this system doesn't say who holds a file")
def test_a_locked_database_is_waited_for_and_its_holder_named(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    other = subprocess.Popen(
        [sys.executable, "-c", _HOLD, demo.folder / FILE_NAME], stdin=subprocess.PIPE, stdout=subprocess.PIPE
    )
    assert other.stdout is not None
    assert other.stdout.readline() == b"held\n"
    answer = client.delete("/api/sessions/1")
    other.communicate()
    assert answer.status_code == 503
    assert re.match(rf"python\S* \(process {other.pid}\) is holding the data", answer.json["message"])
    assert client.delete("/api/sessions/1").status_code == 204


def test_lark_says_what_of_its_own_it_waited_for(demo: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    held, done = threading.Event(), threading.Event()
    plain = kit_service.add

    def slowly(*given: Any) -> Any:
        added = plain(*given)
        held.set()
        assert done.wait(60)
        return added

    monkeypatch.setattr(kit_service, "add", slowly)
    slow = threading.Thread(target=client.post, args=("/api/kit",), kwargs={"json": {"item": PACK}})
    slow.start()
    assert held.wait(60)
    answer = client.delete("/api/sessions/1")
    done.set()
    slow.join()
    assert answer.status_code == 503
    assert "Lark is still saving something else (" in answer.json["message"]
    assert client.delete("/api/sessions/1").status_code == 204


@pytest.mark.parametrize("damage", ["header", "middle", "text"])
def test_a_damaged_database_gets_one_sentence_and_a_backup_gets_lark_going(own: Path, damage: str) -> None:
    kept = backup.back_up(own, NOW)
    was = titles(own)
    raw = bytearray((own / FILE_NAME).read_bytes())
    if damage == "text":
        raw[:] = b"this is no database at all" * 1000
    else:
        at = 0 if damage == "header" else 4096
        raw[at : at + 8000] = os.urandom(8000)
    (own / FILE_NAME).write_bytes(raw)
    done = lark(own, "serve", "--port", "0")
    assert done.returncode == 74, done.stderr
    assert "damaged" in done.stderr
    assert "lark restore" in done.stderr
    assert "Traceback" not in done.stderr
    assert (own / FILE_NAME).read_bytes() == bytes(raw)
    restored = lark(own, "restore", str(kept), "--yes")
    assert restored.returncode == 0, restored.stderr
    assert titles(own) == was
    assert [p for p in (own / "backups").glob("*.damaged") if (p / FILE_NAME).read_bytes() == bytes(raw)]


def test_a_restore_without_room_leaves_the_data_where_they_are(own: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Neither is a full disk taken for damage, nor is what was there put aside for it."""
    kept = backup.back_up(own, NOW)
    was = (own / FILE_NAME).read_bytes()

    def full(*_: object, **__: object) -> Path:
        raise sqlite3.OperationalError("database or disk is full")

    monkeypatch.setattr(backup, "back_up", full)
    with pytest.raises(sqlite3.OperationalError):
        backup.restore(own, kept, NOW)
    assert (own / FILE_NAME).read_bytes() == was
    assert not list((own / "backups").glob("*.damaged"))
    assert not (own / f"{FILE_NAME}.part").exists()


def test_a_folder_that_cannot_be_written_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    done = lark(tmp_path / "file" / "data", "serve", "--port", "0")
    assert done.returncode == 74
    assert "cannot write in" in done.stderr
    assert "LARK_DATA" in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_what_would_destroy_the_data_is_refused(own: Path, tmp_path: Path) -> None:
    was = (own / FILE_NAME).read_bytes()
    for words, says in (
        (("archive", str(own / FILE_NAME)), "is there already"),
        (("archive", str(own / FILE_NAME), "--overwrite"), "is there already"),
        (("restore", str(own / FILE_NAME), "--yes"), "is the database itself"),
    ):
        done = lark(own, *words)
        assert (done.returncode, says in done.stderr) == (64, True), done.stderr
    empty = tmp_path / "empty.db"
    with closing(sqlite3.connect(empty)) as db:
        db.execute("CREATE TABLE alembic_version (version_num TEXT)")
        db.execute("INSERT INTO alembic_version VALUES ('0008')")
        db.commit()
    done = lark(own, "restore", str(empty), "--yes")
    assert done.returncode == 64
    assert "damaged" in done.stderr
    assert (own / FILE_NAME).read_bytes() == was
    target = tmp_path / "all.zip"
    assert lark(own, "archive", str(target)).returncode == 0
    assert lark(own, "archive", str(target)).returncode == 64
    assert lark(own, "archive", str(target), "--overwrite").returncode == 0


def test_nothing_is_replaced_under_a_running_lark_which_ends_in_order(own: Path) -> None:
    kept = backup.back_up(own, NOW)
    with running(own, "serve") as (process, address):
        for words in (("restore", str(kept), "--yes"), ("unarchive", str(kept))):
            done = lark(own, *words)
            assert done.returncode == 74, done.stderr
            assert "Lark is running" in done.stderr
        assert httpx.delete(f"{address}/api/sessions/1").status_code == 204
        assert (own / f"{FILE_NAME}-wal").is_file()
        assert end(process) == 0
        assert not (own / f"{FILE_NAME}-wal").exists()
    with closing(sqlite3.connect(own / FILE_NAME)) as db:
        assert db.execute("SELECT deleted_at IS NOT NULL FROM sessions WHERE id = 1").fetchone() == (1,)


def test_the_demo_is_not_reset_under_a_running_one_and_begins_again_after_a_kill(tmp_path: Path) -> None:
    code = "import os, time, zealous_lark.demo.load as l; l.load_flights = lambda *a: os.kill(os.getpid(), 9);"
    words = "import sys; sys.argv = ['lark', 'demo', '--unwatched']; from zealous_lark.cli import main; main()"
    env = {**os.environ, "LARK_DATA": str(tmp_path)}
    killed = subprocess.run([sys.executable, "-c", code + words], env=env, check=False, timeout=120)
    assert killed.returncode == -signal.SIGKILL
    with running(tmp_path, "demo") as (_, address):
        assert httpx.get(f"{address}/api/sessions").json()["total"] > 5
        done = lark(tmp_path, "demo", "--reset", "--port", "0")
        assert done.returncode == 74
        assert "Lark is running" in done.stderr
        assert httpx.get(f"{address}/api/sessions").json()["total"] > 5


def test_a_claim_of_a_killed_process_is_none(tmp_path: Path) -> None:
    code = (
        "import sys, time; from pathlib import Path; from zealous_lark.store.claim import claimed\n"
        "with claimed(Path(sys.argv[1]), alone=False):\n    print('held', flush=True); time.sleep(60)"
    )
    with subprocess.Popen([sys.executable, "-c", code, str(tmp_path)], stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout is not None
        assert process.stdout.readline() == "held\n"
        with pytest.raises(InUseError), claimed(tmp_path, alone=True):
            pass
        with claimed(tmp_path, alone=False):
            process.kill()
            process.wait()
    with claimed(tmp_path, alone=True):
        pass


@pytest.mark.parametrize("revision", REVISIONS)
def test_a_backup_of_each_older_lark_restores_and_its_pages_open(
    tmp_path: Path, kept_data: Path, revision: str
) -> None:
    """Restore rehearsed: the tables as they were then, with what of today's rows they could hold."""
    old = tmp_path / "old"
    at_revision(old, revision)
    copied(kept_data / "demo", old)
    with closing(sqlite3.connect(old / FILE_NAME)) as raw:
        if raw.execute("SELECT 1 FROM sqlite_master WHERE name = 'places'").fetchone() is None:
            raw.execute("UPDATE sessions SET plan = json_set(plan, '$.site.place', NULL)")
            no_update = raw.execute("SELECT sql FROM sqlite_master WHERE name = 'decisions_no_update'").fetchone()[0]
            raw.execute("DROP TRIGGER decisions_no_update")
            raw.execute("UPDATE decisions SET plan = json_set(plan, '$.place', NULL)")
            raw.execute(no_update)
            raw.commit()
    folder = tmp_path / "own"
    backup.restore(folder, old / FILE_NAME, NOW)
    db = Database(folder)
    db.migrate()
    client = create_app(db, clock=lambda: NOW).test_client()
    listed = client.get("/api/sessions").json["sessions"]
    assert len(listed) > 5
    for session in listed:
        for page in ("", "/airborne", "/decisions", "/pocket.html", "/after", "/plan.json", "/on-site", "/outing"):
            answer = client.get(f"/api/sessions/{session['id']}{page}")
            assert answer.status_code in (200, 404), (page, answer.json)
            if page not in ("/on-site", "/outing"):
                assert answer.status_code == 200, (page, answer.json)
    for page in ("/api/minimums", "/api/kit", "/api/places", "/api/flights", "/api/learning", "/api/logbook/summary"):
        assert client.get(page).status_code == 200, page
    db.close()


@pytest.mark.parametrize("looks", [[True], [False, True], [False, False]])
def test_what_another_thread_just_made_is_not_taken_for_another_file(
    demo: Database, monkeypatch: pytest.MonkeyPatch, looks: list[bool]
) -> None:
    sessions.plans(demo)  # a connection is open now
    said = iter([True, *looks])  # of the file itself, then of its log
    monkeypatch.setattr(Database, "_is_the_one", lambda _self, _path: next(said))
    if looks[-1]:
        with demo.transaction():
            assert list(said) == []  # each look was asked for
    else:
        with pytest.raises(DataGoneError), demo.transaction():
            pass


def test_a_clock_that_jumped_back_costs_no_backup(own: Path) -> None:
    later = backup.back_up(own, NOW.replace(year=2030))
    now = backup.back_up(own, NOW)
    assert {b.path for b in backup.list_backups(own)} == {later, now}
    assert backup.back_up(own, NOW) not in (later, now)


def test_a_backup_that_is_not_sound_is_not_kept(own: Path) -> None:
    with closing(sqlite3.connect(own / FILE_NAME)) as db:
        db.execute("PRAGMA foreign_keys=OFF")
        db.execute("INSERT INTO upkeep (kit_id, document, created_at) VALUES (999, '{}', '2026-01-01')")
        db.commit()
    with pytest.raises(backup.BadBackupError, match="links lead nowhere"):
        backup.back_up(own, NOW)
    assert backup.list_backups(own) == []
    assert not list((own / "backups").glob("*.part"))


def test_the_log_of_the_demo_names_no_place(tmp_path: Path) -> None:
    """Not even where weather is asked for: libraries write whole addresses into theirs."""
    with running(tmp_path, "demo", "--log-level", "info", log=tmp_path / "log") as (_, address):
        plan = httpx.get(f"{address}/api/sessions/1").json()["plan"]
        sources = httpx.get(f"{address}/api/weather/sources").json()["sources"]
        fetched = httpx.post(
            f"{address}/api/weather/fetch", json={"source": sources[0]["key"], "plan": plan}, timeout=30
        )
        assert fetched.status_code < 500, fetched.text
    said = (tmp_path / "log").read_text()
    assert "GET /api/sessions/1 200" in said
    assert str(plan["site"]["latitude"]) not in said
    assert "latitude" not in said


def test_a_terrain_that_is_lost_leaves_its_ground_unknown_and_every_page_open(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    on_terrain = next(
        s["id"]
        for s in client.get("/api/sessions").json["sessions"]
        if client.get(f"/api/sessions/{s['id']}").json["result"]["verdict"] == "launch"
    )
    with closing(sqlite3.connect(demo.folder / FILE_NAME)) as raw:
        raw.execute("DELETE FROM terrains")
        raw.commit()
    again = Database(demo.folder)
    client = create_app(again, clock=lambda: NOW).test_client()
    for page in ("", "/airborne", "/decisions", "/pocket.html", "/after", "/plan.json"):
        assert client.get(f"/api/sessions/{on_terrain}{page}").status_code == 200, page
    opened = client.get(f"/api/sessions/{on_terrain}").json
    there = client.get(f"/api/places/{opened['plan']['site']['place']}").json
    assert there["terrain"]["void_share"] == 1
    found = opened["result"]
    assert found["verdict"] == "unknown"
    ground = next(c for c in found["checks"] if c["id"] == "return.clearance")
    assert ground["status"] == "unknown"
    again.close()


def test_a_surface_model_that_is_lost_is_unknown_and_not_nothing(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    opened = client.get("/api/places/1").json
    sent = client.post(
        f"/api/places/1/surface?name=s.tif&revision={opened['revision']}",
        data=(EXAMPLES / "sarvik-surface.tif").read_bytes(),
        headers={"Content-Type": "application/octet-stream"},
    )
    assert sent.status_code == 200, sent.json
    assert client.get("/api/sessions/1").json["result"]["verdict"] == "launch"
    with closing(sqlite3.connect(demo.folder / FILE_NAME)) as raw:
        raw.execute("DELETE FROM terrains WHERE sha256 = ?", (sent.json["place"]["surface"]["sha256"],))
        raw.commit()
    again = Database(demo.folder)
    found = create_app(again, clock=lambda: NOW).test_client().get("/api/sessions/1").json["result"]
    assert found["verdict"] == "unknown"
    again.close()

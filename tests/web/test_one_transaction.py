"""A request is kept whole or not at all."""

from __future__ import annotations

import threading
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.flying import event, fly, number, send
from zealous_lark.store import Database, learned
from zealous_lark.store import kit as stored_kit


def kept(folder: Path) -> list[tuple[Any, ...]]:
    """Every row of every table, by a connection of its own."""
    db = Database(folder)
    try:
        with db.engine.connect() as c:
            names = [n for (n,) in c.exec_driver_sql("SELECT name FROM sqlite_master WHERE type = 'table'")]
            return [(n, *row) for n in sorted(names) for row in c.exec_driver_sql(f"SELECT * FROM {n}")]
    finally:
        db.close()


def broken(*_args: object, **_more: object) -> None:
    raise OSError("the disk is full")


def test_an_offer_that_cannot_be_kept_changes_no_session_and_no_aircraft(
    demo_client: FlaskClient, demo: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Kit, sessions and what was taken are three tables; the last one fails."""
    session = demo_client.get("/api/sessions").json["sessions"][-1]["id"]
    for day in range(1, 8):
        fly(demo, session, NOW - timedelta(days=day), factor=1.3)
    offer = next(o for o in demo_client.get("/api/learning").json["offers"] if o["offered"])
    before = kept(demo.folder)
    body = {"kind": offer["kind"], "target": offer["target"]}
    with monkeypatch.context() as m:
        m.setattr(learned, "add", broken)
        assert demo_client.post("/api/learning", json=body).status_code == 500
    assert kept(demo.folder) == before
    assert demo_client.post("/api/learning", json=body).status_code == 200
    assert kept(demo.folder) != before


def test_a_landing_that_cannot_be_counted_is_not_half_kept(
    demo_client: FlaskClient, demo: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = demo_client.get("/api/sessions").json["sessions"][0]["id"]
    events = [event("takeoff", 0, NOW, 98.0), event("landed", 600, NOW, 50.0)]
    uid = number()
    before = kept(demo.folder)
    with monkeypatch.context() as m:
        m.setattr(stored_kit, "add_entry", broken)
        assert send(demo_client, uid, session, events).status_code == 500
    assert kept(demo.folder) == before
    assert send(demo_client, uid, session, events).json["new"] == 2


def test_a_refused_request_keeps_nothing(demo_client: FlaskClient, demo: Database) -> None:
    before = kept(demo.folder)
    body = {"title": "Nowhere", "takeoff_at": "2026-09-27T08:00:00+00:00", "start_from": 1, "at_place": 99}
    assert demo_client.post("/api/sessions", json=body).status_code in (404, 422)
    assert kept(demo.folder) == before


def test_what_was_read_still_holds_when_it_is_written(database: Database) -> None:
    """Two hundred counts from four threads with connections of their own, none lost."""

    def count() -> None:
        db = Database(database.folder)
        for _ in range(50):
            with db.writing():
                db.remember("count", str(int(db.fact("count") or 0) + 1))
        db.close()

    threads = [threading.Thread(target=count) for _ in range(4)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert database.fact("count") == "200"

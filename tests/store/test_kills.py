"""Two hundred kills: what was acknowledged is there afterwards, once, and the database is sound."""

from __future__ import annotations

import os
import random
import signal
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

from tests.conftest import NOW
from zealous_lark.desk.demo import load_demo
from zealous_lark.store import Database
from zealous_lark.store.database import FILE_NAME

KILLS = 200

# A device that sends readings for ever, each of them twice, and an import that runs beside it. What the desk has
# acknowledged is written to standard output at once.
DEVICE = """
import sys
from datetime import datetime, timedelta
from pathlib import Path
from zealous_lark.desk.flights import take_in
from zealous_lark.desk.logbook import add
from zealous_lark.plan.flight import EventKind, EventPart, FlightEntry
from zealous_lark.store import Database

folder, flight, first, now = Path(sys.argv[1]), sys.argv[2], int(sys.argv[3]), datetime.fromisoformat(sys.argv[4])
db = Database(folder)
print("ready", flush=True)
n = first
while True:
    kind, value = (EventKind.TAKEOFF, 98.0) if n == 0 else (EventKind.READING, 50.0)
    uid = f"{flight}-{n:06d}"
    e = EventPart(uid=uid, kind=kind, at_s=float(n), at=now + timedelta(seconds=n), value=value)
    done = take_in(db, flight, 1, None, [e], now)
    print("kept", uid, flush=True)
    take_in(db, flight, 1, None, [e], now)
    if n % 7 == 3:
        made = add(db, FlightEntry(started_at=now, aircraft="Dunlin", note="from a file"), now)
        print("kept", made.uid, flush=True)
    n += 1
"""


def test_two_hundred_kills_lose_and_double_nothing(tmp_path: Path) -> None:
    db = Database(tmp_path)
    db.migrate()
    load_demo(db, NOW)
    db.close()
    rng = random.Random(5)
    said: set[str] = set()
    flight, kills = "device-flight-1", 0
    device = subprocess.Popen(
        [sys.executable, "-c", _LOOP, str(tmp_path), flight, NOW.isoformat(), DEVICE], stdout=subprocess.PIPE, text=True
    )
    assert device.stdout is not None
    try:
        while kills < KILLS:
            wanted, seen, pid = rng.randrange(1, 6), 0, 0
            for line in device.stdout:
                word, _, what = line.strip().partition(" ")
                if word == "child":
                    pid = int(what)
                elif word == "kept":
                    said.add(what)
                    seen += 1
                if pid and seen >= wanted and word != "gone":
                    os.kill(pid, signal.SIGKILL)
                if word == "gone":
                    break
            assert seen, "the device kept nothing"
            kills += 1
            with closing(sqlite3.connect(tmp_path / FILE_NAME)) as raw:
                assert raw.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    finally:
        device.kill()
        device.wait()
    with closing(sqlite3.connect(tmp_path / FILE_NAME)) as raw:
        events = [r[0] for r in raw.execute("SELECT uid FROM flight_events")]
        flights = [r[0] for r in raw.execute("SELECT uid FROM flights")]
        assert raw.execute("PRAGMA foreign_key_check").fetchone() is None
    assert len(set(events)) == len(events) > KILLS
    assert said <= {*events, *flights}
    # What was kept without being said can be one at each kill at the most.
    assert len({*events, *flights}) - len(said) <= 2 * KILLS + len(flights)
    assert flights.count(flight) == 1


# Forks a device again and again from one warm process: starting Python two hundred times would only cost time.
_LOOP = """
import os, sys, sqlite3
folder, flight, now, code = sys.argv[1:5]
import zealous_lark.desk.flights, zealous_lark.desk.logbook  # warm
first = 0
while True:
    child = os.fork()
    if child == 0:
        sys.argv = ["device", folder, flight, str(first), now]
        exec(compile(code, "device", "exec"), {"__name__": "__main__"})
    print("child", child, flush=True)
    os.waitpid(child, 0)
    db = sqlite3.connect(folder + "/lark.db")
    top = db.execute("SELECT count(*) FROM flight_events").fetchone()[0]
    db.close()
    first = max(top - 1, 0)
    print("gone", flush=True)
"""

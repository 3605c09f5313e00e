"""A device that is killed again and again while it sends readings, each of them twice."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

from tests.conftest import NOW
from zealous_lark.demo.load import load_demo
from zealous_lark.store import Database
from zealous_lark.store.database import FILE_NAME

# A device that sends readings for ever, each of them twice, and an import that runs beside it. What a service has
# acknowledged is written to a pipe of its own at once.
DEVICE = """
import os, sys
from datetime import datetime, timedelta
from pathlib import Path
from zealous_lark.services.flights import take_in
from zealous_lark.services.logbook import add
from zealous_lark.plan.flight import EventKind, EventPart, FlightEntry
from zealous_lark.store import Database

folder, flight, first, now = Path(sys.argv[1]), sys.argv[2], int(sys.argv[3]), datetime.fromisoformat(sys.argv[4])
db = Database(folder)
n = first
while True:
    kind, value = (EventKind.TAKEOFF, 98.0) if n == 0 else (EventKind.READING, 50.0)
    uid = f"{flight}-{n:06d}"
    e = EventPart(uid=uid, kind=kind, at_s=float(n), at=now + timedelta(seconds=n), value=value)
    done = take_in(db, flight, 1, None, [e], now)
    os.write(out, (uid + "\\n").encode())
    take_in(db, flight, 1, None, [e], now)
    if n % 7 == 3:
        made = add(db, FlightEntry(started_at=now, aircraft="Dunlin", note="from a file"), now)
        os.write(out, (made.uid + "\\n").encode())
    n += 1
"""

# Forks a device again and again from one warm process: starting Python each time would only cost time. Each device
# writes into a pipe of its own, and only this process writes to standard output, so that no line is ever torn.
LOOP = """
import os, random, signal, sqlite3, sys
folder, flight, now, kills, code = sys.argv[1:6]
import zealous_lark.services.flights, zealous_lark.services.logbook  # warm
rng = random.Random(5)
first = 0
for _ in range(int(kills)):
    reading, out = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reading)
        sys.argv = ["device", folder, flight, str(first), now]
        exec(compile(code, "device", "exec"), {"__name__": "__main__", "out": out})
    os.close(out)
    wanted, heard = rng.randrange(1, 6), b""
    while heard.count(b"\\n") < wanted:
        more = os.read(reading, 4096)
        if not more:
            break
        heard += more
    os.kill(child, signal.SIGKILL)
    while more := os.read(reading, 4096):
        heard += more
    os.close(reading)
    os.waitpid(child, 0)
    db = sqlite3.connect(folder + "/lark.db")
    sound = db.execute("PRAGMA integrity_check").fetchone()[0]
    top = db.execute("SELECT count(*) FROM flight_events").fetchone()[0]
    db.close()
    first = max(top - 1, 0)
    whole = heard[: heard.rfind(b"\\n") + 1].decode().split()
    print(sound, *whole, flush=True)
"""


def killed(folder: Path, kills: int, limit_s: float) -> None:
    """Kill a device `kills` times; what was acknowledged is there afterwards, once, and the database is sound."""
    db = Database(folder)
    db.migrate()
    load_demo(db, NOW)
    db.close()
    flight = "device-flight-1"
    done = subprocess.run(
        [sys.executable, "-c", LOOP, str(folder), flight, NOW.isoformat(), str(kills), DEVICE],
        stdout=subprocess.PIPE, text=True, timeout=limit_s, check=True,
    )  # fmt: skip
    lines = [line.split() for line in done.stdout.splitlines()]
    assert len(lines) == kills
    assert all(line[0] == "ok" and len(line) > 1 for line in lines)
    said = {uid for line in lines for uid in line[1:]}
    with closing(sqlite3.connect(folder / FILE_NAME)) as raw:
        events = [r[0] for r in raw.execute("SELECT uid FROM flight_events")]
        flights = [r[0] for r in raw.execute("SELECT uid FROM flights")]
        assert raw.execute("PRAGMA foreign_key_check").fetchone() is None
    assert len(set(events)) == len(events) > kills
    assert said <= {*events, *flights}
    # What was kept without being said can be one at each kill at the most.
    assert len({*events, *flights}) - len(said) <= 2 * kills + len(flights)
    assert flights.count(flight) == 1

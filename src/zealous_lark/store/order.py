"""The order in which things happened, whatever the wall clock says: one number, given in the transaction that writes.

It counts microseconds and never goes back. While the machine runs it follows the time since the machine was started,
which nobody sets; over a start of the machine it follows the wall clock where that went forward, and stays where it was
where that went back.
"""

from __future__ import annotations

import json
import time
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

from sqlalchemy import func, select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import AnswerRow, FactRow

SECOND = 1_000_000
_NAME = "order"


@dataclass(frozen=True, slots=True)
class Pulse:
    """Time since the machine was started [s], sleep included, and which start that was."""

    boot: str
    uptime_s: float


def pulse() -> Pulse:
    """The machine's pulse now."""
    clock = getattr(time, "CLOCK_BOOTTIME", None)  # of Linux: it goes on while the machine sleeps
    return Pulse(_boot(), time.monotonic() if clock is None else time.clock_gettime(clock))


@cache
def _boot() -> str:
    try:
        return Path("/proc/sys/kernel/random/boot_id").read_text().strip()
    except OSError:
        return f"process {time.time_ns()}"  # each start of Lark counts as one of the machine


def tick(s: OrmSession) -> int:
    """The next number in the order [µs], greater than any before; call it in a transaction that writes."""
    now, wall = pulse(), datetime.now(UTC).timestamp()
    row = s.get(FactRow, _NAME)
    if row is None:
        # Answers of an earlier Lark have the order of their times; it goes on after the latest of them.
        latest = s.scalar(select(func.max(AnswerRow.order))) or 0
        last = max(int(wall * SECOND), latest + 1)
    else:
        before = json.loads(row.value)
        same = before["boot"] == now.boot
        passed = now.uptime_s - before["uptime_s"] if same else wall - before["wall"]
        last = before["last"] + max(int(passed * SECOND), 1)
    value = json.dumps({"last": last, "boot": now.boot, "uptime_s": now.uptime_s, "wall": wall})
    s.merge(FactRow(name=_NAME, value=value))
    s.flush()
    return last

"""Who holds the data, when a save had to wait too long.

References
----------
.. [1] SQLite, "WAL-mode File Format": the lock to write is byte 120 of the file of shared memory; checked here by a
   lock of our own, as `/proc/locks` shows it.
.. [2] proc(5), /proc/locks.
"""

from __future__ import annotations

import os
from contextlib import suppress
from contextvars import ContextVar
from pathlib import Path

_SHARED, _WRITE_LOCK = "lark.db-shm", 120

doing: ContextVar[str] = ContextVar("doing", default="")
"""What this thread does, in the words that the API's document has for it."""


def who_holds(folder: Path) -> str | None:
    """The program that holds the data of a folder to write, with its number; "" for this one; None: nobody knows."""
    with suppress(OSError, ValueError, IndexError):
        shared = (folder / _SHARED).stat().st_ino
        for line in Path("/proc/locks").read_text().splitlines():
            # 1: POSIX  ADVISORY  WRITE 17016 fe:00:2146531 120 120
            _, _, _, kind, pid, where, begin, end = line.replace(" -> ", " ").split()
            if kind == "WRITE" and where.endswith(f":{shared}") and _covers(begin, end):
                if int(pid) == os.getpid():
                    return ""
                return f"{Path(f'/proc/{int(pid)}/comm').read_text().strip()} (process {int(pid)})"
    return None


def _covers(begin: str, end: str) -> bool:
    return int(begin) <= _WRITE_LOCK and (end == "EOF" or int(end) >= _WRITE_LOCK)

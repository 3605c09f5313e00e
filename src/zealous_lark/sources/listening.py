"""Listening to a device: a thread that reads, the latest of what it said, and how long ago that was."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

SILENT_S = 3.0
"""Without a word for so long it is silent [s]: its last values are no longer taken as now."""


@dataclass(frozen=True, slots=True)
class Heard:
    """How a device is heard: seconds since its last word (None: never), packets that were dropped as not its own."""

    since_s: float | None
    dropped: int

    @property
    def silent(self) -> bool:
        return self.since_s is None or self.since_s > SILENT_S


class Listener:
    """Reads bytes in a thread of its own, again and again, and never writes any."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._lock = threading.Lock()
        self._closed = threading.Event()
        self._last: float | None = None
        self._dropped = 0

    def _start(self) -> None:
        threading.Thread(target=self._run, daemon=True).start()

    def _run(self) -> None:
        raise NotImplementedError

    def _word(self) -> None:
        self._last = self._clock()

    def heard(self) -> Heard:
        """How it is heard now."""
        with self._lock:
            return Heard(None if self._last is None else self._clock() - self._last, self._dropped)

    def close(self) -> None:
        """Stop listening."""
        self._closed.set()

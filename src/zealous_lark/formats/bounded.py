"""Reading a stranger's file in a process of its own, with a limit of time and of memory.

The libraries that read rasters, archives and XML cannot be stopped from inside, and one file of a few hundred bytes can
claim all that a machine has. What reads here is forked from a clean process that has the readers imported
(`reader_process`), and is gone afterwards, whatever it did. Where a system cannot fork, a file is read in this process
and nothing is limited; where it cannot limit memory, time still is.
"""

from __future__ import annotations

import inspect
import logging
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Generator
from contextlib import suppress
from dataclasses import dataclass
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from zealous_lark.formats.errors import BadFileError

log = logging.getLogger(__name__)
T = TypeVar("T")

_NAME_BYTES = 200  # as in `reader_process`, which is not imported here: it brings every reader
_WAITED = 3
"""On a busy machine a reader waits for its turn: what is counted is the time it ran, and so many times that in all."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What a reader may take: seconds of a processor [s], and memory over what is there before it reads [MB]."""

    seconds: int
    megabytes: int = 400


OF_A_PLACE = Limits(3)
OF_MAP_DATA = Limits(60, 800)
"""A whole country has to be looked through for the few things near one point."""
OF_A_MAP_ARCHIVE = Limits(120)
OF_A_FLIGHT = Limits(20)
OF_AN_ARCHIVE = Limits(20)


class _Forks:
    """The clean process that readers are forked from; begun when it is first needed, gone when this process is."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._control: socket.socket | None = None
        self._process: subprocess.Popen[bytes] | None = None
        self._of = 0

    def connection(self, module: str) -> Connection:
        """A connection to a reader that was just forked, with the module imported that it reads with."""
        with self._lock:
            # A process that was itself forked must not talk over its parent's.
            if self._of != os.getpid() or self._process is None or self._process.poll() is not None:
                self._begin()
            assert self._control is not None
            ours, theirs = socket.socketpair()
            with theirs:
                socket.send_fds(self._control, [module.encode().ljust(_NAME_BYTES)], [theirs.fileno()])
            return Connection(ours.detach())

    def _begin(self) -> None:
        ours, theirs = socket.socketpair()
        with theirs:
            self._process = subprocess.Popen(
                [sys.executable, "-m", "zealous_lark.formats.reader_process", str(theirs.fileno())],
                pass_fds=[theirs.fileno()],
                stdin=subprocess.DEVNULL,
                start_new_session=True,  # what is typed at a terminal to end this process is not for it
                env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
            )
        self._control, self._of = ours, os.getpid()


_FORKS = _Forks()


def read(limits: Limits, reader: Callable[..., T], *given: Any) -> T:
    """What a reader makes of what it is given, which goes to another process and back.

    Raises BadFileError, also for a file that takes too long or too much, or that a library breaks on.
    """
    reading = read_on(limits, reader, *given)
    while True:
        try:
            next(reading)
        except StopIteration as end:
            made: T = end.value
            return made


def read_on(limits: Limits, reader: Callable[..., Any], *given: Any) -> Generator[float, None, Any]:
    """The same for a reader that yields the share that is done; who stops asking ends it. Raises BadFileError."""
    if not hasattr(os, "fork"):
        made = reader(*given)
        return (yield from made) if inspect.isgenerator(made) else made
    ours = _FORKS.connection(reader.__module__)
    pid, ended = 0, False
    try:
        ours.send((limits.seconds, limits.megabytes, reader, given))
        pid = ours.recv()  # begun: what it took to get there is not the file's
        until = time.monotonic() + _WAITED * limits.seconds
        while True:
            kind, *said = _heard(ours, until, limits)
            if kind == "done":
                yield said[0]
                continue
            ended = kind != "too much"
            if kind == "made":
                return said[0]
            if kind == "fault":
                log.error("a reader broke on a file: %s", said[0])
                raise BadFileError(f"a file that cannot be read ({said[0][:120]})", "a whole file of that kind")
            raise BadFileError(*said)
    finally:
        ours.close()
        if pid and not ended:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)


def _heard(ours: Connection, until: float, limits: Limits) -> tuple[Any, ...]:
    # At the end of it: ended by the system at its limit of time, or by a library that went wrong.
    with suppress(EOFError, OSError):
        if ours.poll(max(until - time.monotonic(), 0)):
            heard: tuple[Any, ...] = ours.recv()
            return heard
    return (
        "too much",
        f"a file that cannot be read within {limits.seconds} seconds and {limits.megabytes} MB",
        "a smaller one, or one without so much that is nested or empty in it",
    )

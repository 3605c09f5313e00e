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
import tempfile
import threading
import time
from collections.abc import Callable, Generator
from contextlib import suppress
from contextvars import ContextVar
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar

from zealous_lark.formats.errors import BadFileError

log = logging.getLogger(__name__)
T = TypeVar("T")

_NAME_BYTES = 200  # as in `reader_process`, which is not imported here: it brings every reader
_WAITED = 3
"""On a busy machine a reader waits for its turn: what is counted is the time it ran, and so many times that in all."""


_LOOK_S = 0.5
"""Interval for checking the asker's connection and the size of what the reader has written [s]."""

asker_is_gone: ContextVar[Callable[[], bool]] = ContextVar("asker_is_gone", default=lambda: False)
"""Whether whoever asked for the reading still waits for it. The web sets it for each request."""


@dataclass(frozen=True, slots=True)
class Room:
    """What a reader may write: bytes for each byte that came, on top of some, up to a most; and files."""

    per_byte: float = 1.0
    least_bytes: int = 1_000_000
    most_bytes: int = 1_000_000_000
    files: int = 8

    def bytes_for(self, came: int) -> int:
        """How much may be written for an upload of a size [bytes]."""
        return min(self.most_bytes, round(self.per_byte * came) + self.least_bytes)


@dataclass(frozen=True, slots=True)
class Limits:
    """What a reader may take: seconds of a processor [s], memory over what is there before it reads [MB], and room."""

    seconds: int
    megabytes: int = 400
    room: Room = Room()
    """By itself for a copy of what came, which some libraries read from a file alone."""


OF_A_PLACE = Limits(3)
OF_MAP_DATA = Limits(60, 800)
"""A whole country has to be looked through for the few things near one point."""
OF_A_MAP_ARCHIVE = Limits(120, room=Room(2, 64_000_000))
"""The same pictures in another file: each once, and some bytes for each tile."""
OF_A_FLIGHT = Limits(20)
OF_AN_ARCHIVE = Limits(20, room=Room(40, 64_000_000, 4_000_000_000))
"""Tables of text shrink to a twentieth when they are packed, and are written twice: to the database and its journal."""


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


def read(limits: Limits, reader: Callable[..., T], *given: Any, into: Path | None = None) -> T:
    """What a reader makes of what it is given, which goes to another process and back.

    into: the folder that it writes into and that is its own. Raises BadFileError, also for a file that takes too long
    or too much, or that a library breaks on.
    """
    reading = read_on(limits, reader, *given, into=into)
    while True:
        try:
            next(reading)
        except StopIteration as end:
            made: T = end.value
            return made


def read_on(
    limits: Limits, reader: Callable[..., Any], *given: Any, into: Path | None = None
) -> Generator[float, None, Any]:
    """The same for a reader that yields the share that is done; who stops asking ends it. Raises BadFileError."""
    if not hasattr(os, "fork"):
        made = reader(*given)
        return (yield from made) if inspect.isgenerator(made) else made
    with tempfile.TemporaryDirectory(dir=into, ignore_cleanup_errors=True) as scratch:
        return (yield from _read_on(limits, reader, given, Path(scratch), into or Path(scratch)))


def _read_on(
    limits: Limits, reader: Callable[..., Any], given: tuple[Any, ...], scratch: Path, folder: Path
) -> Generator[float, None, Any]:
    came = sum(len(g) if isinstance(g, bytes) else 0 for g in given)
    came += sum(path.stat().st_size for path in folder.rglob("*") if path.is_file())
    most = limits.room.bytes_for(came)
    ours = _FORKS.connection(reader.__module__)
    pid, ended = 0, False
    try:
        ours.send((limits.seconds, limits.megabytes, most, str(scratch), reader, given))
        pid = ours.recv()  # begun: what it took to get there is not the file's
        until = time.monotonic() + _WAITED * limits.seconds
        while True:
            kind, *said = _heard(ours, until, lambda: _refused(limits, most, folder))
            if kind == "done":
                yield said[0]
                continue
            ended = kind != "too much"
            if kind == "made":
                return said[0]
            if kind == "fault":
                log.error("a reader broke on a file: %s", said[0])
                raise BadFileError(f"a file that cannot be read ({said[0][:120]})", "a whole file of that kind")
            raise BadFileError(*(said or _too_much(limits, most)))
    finally:
        ours.close()
        if pid and not ended:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)


def _heard(ours: Connection, until: float, refused: Callable[[], tuple[str, str] | None]) -> tuple[Any, ...]:
    # At the end of it: ended by the system at its limit of time, or by a library that went wrong.
    with suppress(EOFError, OSError):
        while (left := until - time.monotonic()) > 0:
            if ours.poll(min(left, _LOOK_S)):
                heard: tuple[Any, ...] = ours.recv()
                return heard
            if (why := refused()) is not None:
                return ("too much", *why)
    return ("too much",)


def _refused(limits: Limits, most: int, folder: Path) -> tuple[str, str] | None:
    """Why a reader is not waited for any longer; None to go on."""
    if asker_is_gone.get()():
        return "a file whose sender has gone", "one that is waited for"
    sizes = []
    for path in folder.rglob("*"):
        with suppress(OSError):  # gone meanwhile, as a journal is
            sizes.append(path.stat().st_size if path.is_file() else 0)
    return _too_much(limits, most) if len(sizes) > limits.room.files or sum(sizes) > most else None


def _too_much(limits: Limits, most: int) -> tuple[str, str]:
    return (
        f"a file that cannot be read within {limits.seconds} seconds, {limits.megabytes} MB"
        f" and {most // 1_000_000} MB written",
        "a smaller one, or one without so much that is nested or empty in it",
    )

"""Reading a stranger's file in a process of its own, with a limit of time and of memory.

The libraries that read rasters, archives and XML cannot be stopped from inside, and one file of a few hundred bytes can
claim all that a machine has. What reads here is forked from a clean process that has the readers imported, and is gone
afterwards, whatever it did. Works on Linux and macOS; where memory cannot be limited, time still is.
"""

from __future__ import annotations

import inspect
import logging
import math
import multiprocessing
import resource
import time
from collections.abc import Callable, Generator, Iterator
from contextlib import suppress
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar

from zealous_lark.formats.errors import BadFileError

log = logging.getLogger(__name__)
T = TypeVar("T")

_FORKS = multiprocessing.get_context("forkserver")
_FORKS.set_forkserver_preload(["__main__", "zealous_lark.formats.readers"])
_MEGABYTE = 1_000_000
_WAITED = 3
"""On a busy machine a reader waits for its turn: what is counted is the time it ran, and so many times that in all."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What a reader may take: seconds of a processor [s], and memory over what is there before it reads [MB]."""

    seconds: int
    megabytes: int = 400


OF_A_PLACE = Limits(3)
OF_A_FLIGHT = Limits(20)
OF_AN_ARCHIVE = Limits(20)


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
    ours, theirs = _FORKS.Pipe()
    process = _FORKS.Process(target=_reading, args=(theirs, limits), daemon=True)
    process.start()
    theirs.close()
    try:
        with ours:
            ours.send((reader, given))
            ours.recv()  # begun: what it took to get there is not the file's
            until = time.monotonic() + _WAITED * limits.seconds
            while True:
                kind, *said = _heard(ours, until, limits)
                if kind == "done":
                    yield said[0]
                elif kind == "made":
                    return said[0]
                elif kind == "refused":
                    raise BadFileError(*said)
                else:
                    log.error("a reader broke on a file: %s", said[0])
                    raise BadFileError(f"a file that cannot be read ({said[0][:120]})", "a whole file of that kind")
    finally:
        process.kill()
        process.join()
        process.close()


def _heard(ours: Connection, until: float, limits: Limits) -> tuple[Any, ...]:
    try:
        if ours.poll(max(until - time.monotonic(), 0)):
            heard: tuple[Any, ...] = ours.recv()
            return heard
    except (EOFError, OSError):
        # It was ended, by the system at its limit of time or by a library that went wrong.
        pass
    return (
        "refused",
        f"a file that cannot be read within {limits.seconds} seconds and {limits.megabytes} MB",
        "a smaller one, or one without so much that is nested or empty in it",
    )


def _reading(theirs: Connection, limits: Limits) -> None:
    """In the other process."""
    reader, given = theirs.recv()
    theirs.send("begun")
    used = resource.getrusage(resource.RUSAGE_SELF)  # by what it took to get here
    seconds = math.ceil(used.ru_utime + used.ru_stime) + limits.seconds
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    with suppress(OSError, ValueError):
        pages = int(Path("/proc/self/statm").read_text().split()[0])
        most = pages * resource.getpagesize() + limits.megabytes * _MEGABYTE
        resource.setrlimit(resource.RLIMIT_AS, (most, most))
    said: tuple[Any, ...]
    try:
        made = reader(*given)
        if inspect.isgenerator(made):
            made = _to_the_end(made, theirs)
        said = ("made", made)
    except BadFileError as error:
        said = ("refused", error.given, error.allowed)
    except (MemoryError, RecursionError):
        said = (
            "refused",
            f"a file that needs more than {limits.megabytes} MB to be read, or is nested too deeply",
            "a smaller one, or one without so much that is nested or empty in it",
        )
    except Exception as error:
        said = ("fault", f"{type(error).__name__}: {error}")
    theirs.send(said)


def _to_the_end(reading: Iterator[Any], theirs: Connection) -> Any:
    while True:
        try:
            theirs.send(("done", next(reading)))
        except StopIteration as end:
            return end.value

"""The process that readers of files are forked from: `python -m zealous_lark.formats.reader_process SOCKET`.

It has every reader imported and never reads itself. For each name of a module and connection that come over its socket
it imports that module, once, and forks; the child takes its limits, reads one file and is gone. It ends when who began
it does.
"""

from __future__ import annotations

import inspect
import math
import os
import resource
import signal
import socket
import sys
import tempfile
from collections.abc import Iterator
from contextlib import suppress
from importlib import import_module
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from zealous_lark.formats import readers  # noqa: F401  so that no child has to
from zealous_lark.formats.errors import BadFileError

_MEGABYTE = 1_000_000
_NAME_BYTES = 200
"""A module's name is sent filled up with blanks, so that two of them are never read as one."""


def main(descriptor: int) -> None:
    """Fork a reader for each connection that comes over a socket, until it is closed."""
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for a child
    with socket.socket(fileno=descriptor) as control:
        while True:
            asked, connections, *_ = socket.recv_fds(control, _NAME_BYTES, 1)
            if not asked:
                return
            with suppress(ImportError):  # the child says so, when it is sent what it cannot find
                import_module(asked.decode().strip())
            if os.fork() == 0:
                control.close()
                with suppress(EOFError, OSError):  # who asked has gone
                    _read(Connection(connections[0]))
                os._exit(0)
            for connection in connections:
                os.close(connection)


def _read(theirs: Connection) -> None:
    seconds, megabytes, written, scratch, reader, given = theirs.recv()
    theirs.send(os.getpid())
    _limit(seconds, megabytes, written)
    tempfile.tempdir = os.environ["TMPDIR"] = scratch  # who asked clears it away, however this ends
    said: tuple[Any, ...]
    try:
        made = reader(*given)
        said = ("made", _to_the_end(made, theirs) if inspect.isgenerator(made) else made)
    except BadFileError as error:
        said = ("refused", error.given, error.allowed)
    except (MemoryError, RecursionError):
        said = (
            "refused",
            f"a file that needs more than {megabytes} MB to be read, or is nested too deeply",
            "a smaller one, or one without so much that is nested or empty in it",
        )
    except (EOFError, OSError):
        raise
    except Exception as error:
        said = ("fault", f"{type(error).__name__}: {error}")
    theirs.send(said)


def _limit(seconds: int, megabytes: int, written: int) -> None:
    """Limit this process from here on: what it took to get here does not count.

    written: of each file [bytes]; who asked counts them together.
    """
    used = resource.getrusage(resource.RUSAGE_SELF)
    most_s = math.ceil(used.ru_utime + used.ru_stime) + seconds
    resource.setrlimit(resource.RLIMIT_CPU, (most_s, most_s))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (written, written))
    with suppress(OSError, ValueError):
        pages = int(Path("/proc/self/statm").read_text().split()[0])
        most = pages * resource.getpagesize() + megabytes * _MEGABYTE
        resource.setrlimit(resource.RLIMIT_AS, (most, most))


def _to_the_end(reading: Iterator[Any], theirs: Connection) -> Any:
    while True:
        try:
            theirs.send(("done", next(reading)))
        except StopIteration as end:
            return end.value


if __name__ == "__main__":
    main(int(sys.argv[1]))

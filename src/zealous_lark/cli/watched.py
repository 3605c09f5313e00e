"""The server in a process of its own that is watched: when it dies, another one answers in its place.

The watching process holds the sockets, so that whoever asks meanwhile waits and is not refused; it computes nothing.
Servers are forked from one that has everything imported. A server ends with whoever watches it.
"""

from __future__ import annotations

import multiprocessing
import os
import signal
import socket
import threading
import time
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from datetime import datetime
from multiprocessing.connection import Connection, wait
from multiprocessing.forkserver import ensure_running
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any, Protocol

import click

from zealous_lark.cli.status import FAULT
from zealous_lark.cli.wish import Wish

DEATHS = "deaths.txt"
"""File in the data folder that records each death: time, signal and stack trace. It holds no user data."""
MOST_DEATHS, WITHIN_S = 3, 60.0
_LONGEST = 200_000
_IMPORTED = ("zealous_lark.cli.server",)


class Watcher(Protocol):
    """What a server may ask of who watches it."""

    def ask(self, what: str, *given: Any) -> Any:
        """Do something that has to outlive the server."""
        ...


class Here:
    """The same for a server that nobody watches, and for the watcher's own side."""

    def __init__(self, doing: Mapping[str, Callable[..., Any]]) -> None:
        self._doing = doing

    def ask(self, what: str, *given: Any) -> Any:
        """Do it."""
        return self._doing[what](*given)


class Wire:
    """The same for a watched server. What it asks for goes over one connection, a question at a time."""

    def __init__(self, connection: Connection) -> None:
        self._connection, self._lock = connection, threading.Lock()

    def ask(self, what: str, *given: Any) -> Any:
        """Have it done. Raises OSError where nobody watches any more."""
        with self._lock:
            self._connection.send((what, given))
            try:
                return self._connection.recv()
            except EOFError:
                raise ConnectionResetError("nobody watches any more") from None


def can_watch() -> bool:
    """Whether this system can hand sockets to a forked process."""
    return "forkserver" in multiprocessing.get_all_start_methods()


class Held:
    """Sockets that are held open from one server to the next."""

    def __init__(self, listening: list[socket.socket]) -> None:
        self.listening = listening
        self.field: socket.socket | None = None

    def hold_field(self, given: socket.socket | None) -> None:
        """Hold what listens on the local network; None when it is closed."""
        if self.field is not None:
            self.field.close()
        self.field = given


def prepare() -> None:
    """Begin to import everything in the process that servers are forked from, while something else is done."""
    forks = multiprocessing.get_context("forkserver")
    forks.set_forkserver_preload(list(_IMPORTED))
    ensure_running()


def watch(wish: Wish, held: Held, doing: Mapping[str, Callable[..., Any]]) -> None:
    """Serve until it is ended, whatever a server dies of. Call `prepare` before.

    doing: what a server may ask for. Raises SystemExit with the status of a server that ended by itself, and
    ServerDiesError when servers die one after the other.
    """
    forks = multiprocessing.get_context("forkserver")
    own, deaths = Here({**doing, "hold_field": held.hold_field}), list[float]()
    with _ending() as ending:
        while True:
            ours, theirs = forks.Pipe()
            process = forks.Process(
                target=_in_child, args=(wish, held.listening, held.field, theirs, bool(deaths)), name="lark"
            )
            process.start()
            theirs.close()
            ending.of = process
            _answer(ours, process, own)
            code = process.exitcode or 0
            if code > 0:
                raise SystemExit(code)
            if code == 0 or ending.asked:
                return
            deaths = [*(at for at in deaths if time.monotonic() - at < WITHIN_S), time.monotonic()]
            note = _noted(wish.folder, -code)
            if len(deaths) >= MOST_DEATHS:
                raise ServerDiesError(f"Lark's server died {MOST_DEATHS} times within a minute, and is not begun again")
            click.echo(f"Lark’s server died ({_named(-code)}) and was started again. {note}", err=True)


class ServerDiesError(click.ClickException):
    """Servers die as soon as they are begun."""

    exit_code = FAULT


class _Ending:
    """Whether the end was asked for, and which server has to hear of it."""

    def __init__(self) -> None:
        self.asked, self.of = False, None  # type: bool, BaseProcess | None

    def __call__(self, *_: object) -> None:
        self.asked = True
        if self.of is not None and self.of.pid is not None:
            with suppress(ProcessLookupError):
                os.kill(self.of.pid, signal.SIGTERM)


@contextmanager
def _ending() -> Iterator[_Ending]:
    ending = _Ending()
    before = {number: signal.signal(number, ending) for number in (signal.SIGTERM, signal.SIGINT)}
    try:
        yield ending
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)


def _answer(ours: Connection, process: BaseProcess, own: Here) -> None:
    """Do what a server asks for, until it has ended."""
    asking: list[Any] = [ours]
    while True:
        ready = wait([*asking, process.sentinel])
        if ours in ready:
            try:
                what, given = ours.recv()
                ours.send(own.ask(what, *given))
            except (EOFError, OSError):
                asking = []
        elif process.sentinel in ready:
            ours.close()
            process.join()
            return


def _named(number: int) -> str:
    try:
        return signal.Signals(number).name
    except ValueError:
        return f"signal {number}"


def _noted(folder: Path, number: int) -> str:
    """Write down that a server died, after what it wrote itself; where, in a sentence."""
    path = folder / DEATHS
    try:
        with path.open("a") as file:
            file.write(f"{datetime.now().astimezone():%Y-%m-%d %H:%M:%S %z} died by {_named(number)}\n\n")
        if path.stat().st_size > _LONGEST:
            path.write_bytes(path.read_bytes()[-_LONGEST // 2 :])
    except OSError as error:
        return f"Where, could not be written down ({error.strerror})."
    return f"Nothing that was saved is lost. Where it died is in {path}."


def _in_child(
    wish: Wish, sockets: list[socket.socket], field: socket.socket | None, wire: Connection, again: bool
) -> None:
    # A key that ends what runs in a terminal is for who watches, who then says so.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_end_with_parent, daemon=True).start()
    from zealous_lark.cli.server import serve_in_child

    serve_in_child(wish, sockets, field, Wire(wire), again=again)


def _end_with_parent() -> None:
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
        os.kill(os.getpid(), signal.SIGTERM)

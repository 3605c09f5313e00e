"""`lark` for a test: a real process, to be spoken to and killed, but forked from one that has everything imported."""

from __future__ import annotations

import multiprocessing
import os
import signal
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path

import zealous_lark.cli.server
import zealous_lark.cli.stand_ins
import zealous_lark.demo.load
import zealous_lark.formats.readers
import zealous_lark.plan
import zealous_lark.web  # noqa: F401
from zealous_lark.cli import main

_FORKS = multiprocessing.get_context("forkserver")
_FORKS.set_forkserver_preload([__name__])
ENDED_BY_TIME_S = 120


def _lark(folder: str | None, words: list[str]) -> None:
    if folder is not None:
        os.environ["LARK_DATA"] = folder
    sys.argv = ["lark", *words]
    main()


def _serve(folder: str, words: list[str], said: Connection, log: str) -> None:
    sys.stdout = os.fdopen(os.dup(said.fileno()), "w", buffering=1)
    if log:
        os.dup2(os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND), 2)
    _lark(folder, words)


def _run(folder: str | None, words: list[str], given: str, said: str, complained: str) -> None:
    os.dup2(os.open(given, os.O_RDONLY), 0)
    os.dup2(os.open(said, os.O_WRONLY), 1)
    os.dup2(os.open(complained, os.O_WRONLY), 2)
    # The begun process was given a closed one.
    sys.stdin = os.fdopen(0, "r", encoding="utf-8")
    _lark(folder, words)


def lark(*words: str, folder: Path | None = None, given: str | bytes = b"") -> subprocess.CompletedProcess[str]:
    """A command that ends by itself, with what it said and its exit status. given: what is typed into it."""
    with tempfile.TemporaryDirectory() as kept:
        paths = [Path(kept) / name for name in ("in", "out", "err")]
        for path, content in zip(paths, (given, b"", b""), strict=True):
            path.write_bytes(content.encode() if isinstance(content, str) else content)
        data = None if folder is None else str(folder)
        process = _FORKS.Process(target=_run, args=(data, list(words), *map(str, paths)))
        process.start()
        process.join(ENDED_BY_TIME_S)
        assert process.exitcode is not None, f"lark {' '.join(words)} did not end"
        out, err = (path.read_bytes().decode() for path in paths[1:])
        return subprocess.CompletedProcess(words, process.exitcode, out, err)


def start(folder: Path, *words: str, log: Path | None = None) -> tuple[BaseProcess, str]:
    """`lark` on a data folder, and the first line that it says; empty if it says none. log: where its log goes.

    What serves does so in this one process, so that a test kills the server and not only who watches it.
    """
    if words[0] in ("serve", "demo"):
        words = (*words, "--unwatched")
    heard, said = multiprocessing.Pipe(duplex=False)
    process = _FORKS.Process(
        target=_serve, args=(str(folder), list(words), said, "" if log is None else str(log)), daemon=True
    )
    process.start()
    said.close()
    with os.fdopen(os.dup(heard.fileno())) as lines:
        return process, lines.readline()


def end(process: BaseProcess) -> int | None:
    """End it in order, as a service is ended, and return its exit status."""
    assert process.pid is not None
    os.kill(process.pid, signal.SIGTERM)
    process.join(30)
    return process.exitcode


class Watched:
    """`lark serve` or `lark demo` as a pilot starts it: watched, in processes of its own."""

    def __init__(self, folder: Path, *words: str, most_deaths: int = 1_000, err: Path | None = None) -> None:
        code = (
            "import sys; from zealous_lark.cli import main, watched; "
            f"watched.MOST_DEATHS = {most_deaths}; sys.argv = {['lark', *words]!r}; main()"
        )
        here = {**os.environ, "LARK_DATA": str(folder), "PYTHONDONTWRITEBYTECODE": ""}
        with open(err or os.devnull, "ab") as complaints:
            self.process = subprocess.Popen(
                [sys.executable, "-c", code], env=here, stdout=subprocess.PIPE, stderr=complaints, text=True
            )
        assert self.process.stdout is not None
        self.said = self.process.stdout.readline()

    @property
    def url(self) -> str:
        return self.said.split(" on ")[1].split()[0]

    @property
    def server(self) -> int | None:
        """The process that answers: forked by the one that the watching one forks from. None between two of them."""
        parents = {}
        for stat in Path("/proc").glob("[0-9]*/stat"):
            with suppress(OSError):
                fields = stat.read_text().rpartition(")")[2].split()
                if fields[0] != "Z":
                    parents[int(stat.parent.name)] = int(fields[1])
        return next((pid for pid, of in parents.items() if parents.get(of) == self.process.pid), None)

    def kill_server(self, number: int = signal.SIGKILL) -> int:
        """Kill it without warning; which one it was."""
        while (pid := self.server) is None:
            time.sleep(0.01)
        os.kill(pid, number)
        return pid

    def end(self) -> int:
        """End all of it in order; the exit status."""
        self.process.terminate()
        return self.process.wait(60)

"""A server process for a test: real, to be killed, but forked from one that has everything imported already."""

from __future__ import annotations

import multiprocessing
import os
import sys
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path

import waitress.server  # noqa: F401  what serving imports only when it begins

import zealous_lark.demo.load
import zealous_lark.web  # noqa: F401
from zealous_lark.cli import main

_FORKS = multiprocessing.get_context("forkserver")
_FORKS.set_forkserver_preload([__name__])


def _serve(folder: str, words: list[str], said: Connection) -> None:
    os.environ["LARK_DATA"] = folder
    sys.argv = ["lark", *words]
    sys.stdout = os.fdopen(os.dup(said.fileno()), "w", buffering=1)
    main()


def start(folder: Path, *words: str) -> tuple[BaseProcess, str]:
    """`lark` on a data folder in a process of its own, and the first line that it says; empty if it says none."""
    heard, said = multiprocessing.Pipe(duplex=False)
    process = _FORKS.Process(target=_serve, args=(str(folder), list(words), said), daemon=True)
    process.start()
    said.close()
    with os.fdopen(os.dup(heard.fileno())) as lines:
        return process, lines.readline()

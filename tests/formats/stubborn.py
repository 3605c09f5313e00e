"""Readers that do what a library may do on a bad day. On their own, so that the process that runs them is quick."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Generator
from pathlib import Path

import numpy as np


def for_ever() -> None:
    while True:
        pass


def greedy(megabytes: int) -> int:
    return int(np.ones(megabytes * 125_000).sum())


def ended() -> None:
    os._exit(3)


def broken() -> None:
    raise KeyError("not thought of")


def counting(upto: int) -> Generator[float, None, str]:
    for n in range(upto):
        yield (n + 1) / upto
    return "counted"


def writing(folder: str, files: int, megabytes: int) -> str:
    """Write a number of files of a size [MB]; loop forever if they exceed 5 MB together."""
    for n in range(files):
        with (Path(folder) / str(n)).open("wb") as file:
            for _ in range(megabytes):
                file.write(bytes(1_000_000))
    if files * megabytes > 5:
        for_ever()
    return "written"


def leaving_a_file() -> None:
    """Write into its folder for a while, and never clear up."""
    (Path(tempfile.gettempdir()) / "left").write_bytes(b"left")
    for_ever()

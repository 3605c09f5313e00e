"""Readers that do what a library may do on a bad day. On their own, so that the process that runs them is quick."""

from __future__ import annotations

import os
from collections.abc import Generator

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

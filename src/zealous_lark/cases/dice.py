"""Draws by seed that come out alike on every machine."""

from __future__ import annotations

import random
from collections.abc import Sequence
from typing import TypeVar

T = TypeVar("T")


class Dice:
    """Only what Python promises to keep from version to version is used: the Mersenne Twister's `random()`."""

    def __init__(self, *seed: object) -> None:
        self._rng = random.Random("/".join(map(str, seed)))

    def share(self) -> float:
        """From 0 up to, but not, 1."""
        return self._rng.random()

    def between(self, low: float, high: float) -> float:
        """A number from low up to high."""
        return low + (high - low) * self.share()

    def stepped(self, low: float, high: float, step: float) -> float:
        """One of low, low + step, … high."""
        return low + step * int(self.share() * (int((high - low) / step + 1e-9) + 1))

    def one(self, of: Sequence[T]) -> T:
        """One of several."""
        return of[int(self.share() * len(of))]

    def some(self, of: Sequence[T], count: int) -> list[T]:
        """So many different ones of several, in a drawn order."""
        left = list(of)
        found: list[T] = []
        while left and len(found) < count:
            found.append(left.pop(int(self.share() * len(left))))
        return found

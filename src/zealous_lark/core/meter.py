"""A reading from a hand wind meter: the mean of what it said for a while, and the greatest of it as the gust."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

WINDOW_S = 30.0
"""A reading is the mean of so long [s]; common practice for a hand meter."""


@dataclass(frozen=True, slots=True)
class Sample:
    """What the meter said once: speed [m/s], where it comes from [°]."""

    speed_ms: float
    direction_deg: float


@dataclass(frozen=True, slots=True)
class MeterReading:
    """Mean speed [m/s], direction of the mean wind vector [°], greatest speed [m/s], how many samples."""

    speed_ms: float
    direction_deg: float
    gust_ms: float
    samples: int


def reading_of(samples: Sequence[Sample]) -> MeterReading | None:
    """The reading of samples, the latest last; None without any.

    >>> reading_of([Sample(4, 350), Sample(4, 10)])
    MeterReading(speed_ms=4.0, direction_deg=0.0, gust_ms=4, samples=2)
    """
    if not samples:
        return None
    east = sum(s.speed_ms * math.sin(math.radians(s.direction_deg)) for s in samples)
    north = sum(s.speed_ms * math.cos(math.radians(s.direction_deg)) for s in samples)
    mean = sum(s.speed_ms for s in samples) / len(samples)
    # Winds that cancel each other have no mean direction: then the last one is told.
    steady = math.hypot(east, north) > 1e-9
    direction = math.degrees(math.atan2(east, north)) % 360 if steady else samples[-1].direction_deg
    return MeterReading(mean, round(direction, 9) % 360, max(s.speed_ms for s in samples), len(samples))

"""Cold gear comes in: when it may leave its closed bag without water condensing on it, and what a wet flight needs."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import timedelta

from zealous_lark.core.weather import dew_point_c

TIME_CONSTANT = timedelta(minutes=40)
"""Of gear warming inside its bag; common practice."""
DRYING = timedelta(hours=24)
"""After rain, snow or spray, before the next flight; common practice."""


@dataclass(frozen=True, slots=True)
class WarmUp:
    """dew_point_c: of the room. wait: how long the bag stays shut; zero when it may be opened at once."""

    dew_point_c: float
    wait: timedelta


def warm_up(room_c: float, humidity_pct: float, gear_c: float) -> WarmUp:
    """How long gear of a temperature [°C] stays in its bag in a room [°C, %].

    It warms as τ·ln((Troom − Tgear)/(Troom − Tdew)) until it is at the room's dew point.

    >>> round(warm_up(21, 45, -8).wait.total_seconds() / 60)
    34
    """
    dew = dew_point_c(room_c, humidity_pct)
    if gear_c >= dew or room_c <= dew:
        return WarmUp(dew, timedelta(0))
    return WarmUp(dew, TIME_CONSTANT * math.log((room_c - gear_c) / (room_c - dew)))

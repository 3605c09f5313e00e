"""Forecasts held against what came: what each said some time before a flight, less the wind that the flight met."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import mean

import numpy as np

from zealous_lark.core.forecast import Forecast
from zealous_lark.core.forecasts import wind_at
from zealous_lark.core.postflight.radio_loss import middle, weights_of
from zealous_lark.core.situation import Situation

LEAST = 3
"""Fewer flights than this say nothing about a forecast."""
LEAST_TO_RAISE = 5
"""Fewer flights than this raise no forecast's wind."""
WORTH_MS = 0.5
"""A wind is met no better than this [m/s]; less off is right [practice]."""


@dataclass(frozen=True, slots=True)
class Held:
    """What one source said so many hours before a flight, at its height [m/s]; off_ms: over what was met.

    key: of the source; source: its name.
    """

    key: str
    source: str
    lead_h: int
    issued_at: datetime
    speed_ms: float
    off_ms: float


@dataclass(frozen=True, slots=True)
class HeldOver:
    """How far a source is off at a place, so many hours before: over all flights there that met a known wind.

    off_ms: the mean of said less met; size_ms: the mean of how far, either way.
    """

    source: str
    place: str
    lead_h: int
    count: int
    off_ms: float
    size_ms: float


def said_ms(flown: Situation, forecast: Forecast, height_m: float) -> float | None:
    """The wind [m/s] that a forecast by the hour had for a flight at a height [m]; None where it has none for it."""
    if len(forecast.hours) < 2:
        return None
    hour = forecast.at(flown.takeoff_at)
    there = flown.in_forecast(forecast)
    # Without winds of its own the forecast would be credited with the plan's.
    wind = wind_at(there, height_m) if there is not None and hour is not None and hour.winds else None
    return None if wind is None else wind.speed_ms


def held_over(flights: Iterable[tuple[str, Iterable[Held]]]) -> tuple[HeldOver, ...]:
    """Over flights, each with its place: the places by name, in each its sources, the longest lead first."""
    off: dict[tuple[str, str, int], list[float]] = defaultdict(list)
    for place, each in flights:
        for held in each:
            off[place, held.source, -held.lead_h].append(held.off_ms)
    return tuple(
        HeldOver(source, place, -lead, len(found), mean(found), mean(map(abs, found)))
        for (place, source, lead), found in sorted(off.items())
        if len(found) >= LEAST
    )


@dataclass(frozen=True, slots=True)
class Off:
    """How far a source was off before one flight, over the leads that are held [m/s], and how long ago."""

    flight: str
    off_ms: float
    age: timedelta


@dataclass(frozen=True, slots=True)
class MoreWind:
    """What a source's wind is raised by at a place [m/s], with a half-width that holds it 19 times in 20."""

    value: float
    pm: float
    flights: tuple[str, ...]


def more_wind(offs: Sequence[Off]) -> MoreWind | None:
    """What a source says too little at a place: the middle of how far it was off, fresh flights weighing more.

    Nothing is ever taken off a forecast: one that says too much leaves more in hand, and is raised by 0. None for
    fewer than five flights.
    """
    if len(offs) < LEAST_TO_RAISE:
        return None
    off, pm = middle(np.array([o.off_ms for o in offs]), weights_of([o.age for o in offs]))
    return MoreWind(max(-off, 0.0), max(pm, WORTH_MS), tuple(o.flight for o in offs))

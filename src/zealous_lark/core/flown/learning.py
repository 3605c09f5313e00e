"""What the logbook teaches: consumption per aircraft, health per pack, signal per place.

Every flight says how much more charge it cost than was planned. The middle of many is taken, not the mean, so that
one bad flight moves nothing; fresh flights weigh more than old ones. Nothing is changed here: it is an offer.

References
----------
.. [1] Weighted median and its interval from the binomial order statistics; for small numbers of flights the interval
   is that of a sign test. (From memory.)
.. [2] Kish, L. (1965). Survey Sampling, the effective sample size (Σw)²/Σw². (From memory.)
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

HALF_LIFE = timedelta(days=120)
"""A flight of that age weighs half as much as one of today."""
LEAST_FLIGHTS = 5
LEAST_SPENT_POINTS = 15.0
"""Flights that used less charge say little: the reading's own error is too large a part of it."""
WORTH_IT = 0.03
WIND_AGREES_MS = 2.0
"""Met further from what was planned with, the wind explains the cost, and no flight teaches more [practice]."""
_MAD = 1.4826
_WIDTH = 1.96


@dataclass(frozen=True, slots=True)
class Spent:
    """What one flight cost: charge planned and actual [points], and its age.

    wind_off_ms: wind met less wind planned with [m/s]; None where it was not measured, and then taken as planned.
    """

    flight: str
    planned_pct: float
    actual_pct: float
    age: timedelta
    pack: str = ""
    wind_off_ms: float | None = None


@dataclass(frozen=True, slots=True)
class Factor:
    """A learned factor with a half-width that holds it 19 times in 20, and the flights it rests on.

    set_aside: how many flights met another wind than they were planned with.
    """

    value: float
    pm: float
    flights: tuple[str, ...]
    set_aside: int = 0


def _weights(ages: Sequence[timedelta]) -> Floats:
    return np.array([0.5 ** (max(age, timedelta(0)) / HALF_LIFE) for age in ages])


def weighted_median(values: Floats, weights: Floats) -> float:
    """The value with half of the weight on each side [1]_."""
    order = np.argsort(values)
    v, w = values[order], weights[order]
    upto = np.cumsum(w) - w / 2
    return float(np.interp(w.sum() / 2, upto, v))


def middle(values: Floats, weights: Floats) -> tuple[float, float]:
    """Weighted median and the half-width of its interval, from the spread around it and the effective number [2]_."""
    centre = weighted_median(values, weights)
    spread = _MAD * weighted_median(np.abs(values - centre), weights)
    effective = float(weights.sum() ** 2 / (weights**2).sum())
    # A median scatters √(π/2) times as much as a mean.
    return centre, _WIDTH * math.sqrt(math.pi / 2) * spread / math.sqrt(max(effective - 1, 1.0))


def _telling(flights: Sequence[Spent]) -> tuple[list[Spent], int]:
    """The flights that say something of aircraft and pack, and how many the wind spoke for."""
    told = [f for f in flights if f.planned_pct >= LEAST_SPENT_POINTS]
    calm = [f for f in told if f.wind_off_ms is None or abs(f.wind_off_ms) <= WIND_AGREES_MS]
    return calm, len(told) - len(calm)


def consumption(flights: Sequence[Spent]) -> Factor | None:
    """Actual over planned charge of an aircraft's flights; None while too few say enough."""
    told, aside = _telling(flights)
    if len(told) < LEAST_FLIGHTS:
        return None
    ratios = np.array([f.actual_pct / f.planned_pct for f in told])
    value, pm = middle(ratios, _weights([f.age for f in told]))
    return Factor(value, pm, tuple(f.flight for f in told), aside)


def health(flights: Sequence[Spent], pack: str, health_pct: float) -> Factor | None:
    """Health of one pack [%]: that with which its flights cost as much more as the aircraft's other packs do.

    A tired pack loses more points for the same energy. What all packs share is the aircraft's, and is left out.
    None while too few flights say enough, or no other pack is there to compare with.
    """
    own, aside = _telling([f for f in flights if f.pack == pack])
    others, _ = _telling([f for f in flights if f.pack != pack])
    if len(own) < LEAST_FLIGHTS or len(others) < LEAST_FLIGHTS:
        return None
    mine, mine_pm = middle(np.array([f.actual_pct / f.planned_pct for f in own]), _weights([f.age for f in own]))
    rest, rest_pm = middle(np.array([f.actual_pct / f.planned_pct for f in others]), _weights([f.age for f in others]))
    value = health_pct * rest / mine
    return Factor(value, value * math.hypot(mine_pm / mine, rest_pm / rest), tuple(f.flight for f in own), aside)


def differs(factor: Factor, now: float, worth: float = WORTH_IT) -> bool:
    """Whether a learned value is surely another than the one in use, and far enough away to matter."""
    return abs(factor.value - now) > max(factor.pm, worth * now)


@dataclass(frozen=True, slots=True)
class BrokeUp:
    """Where a picture broke up: how far out [m], and the margin that the model gave there [dB]."""

    flight: str
    distance_m: float
    margin_db: float
    age: timedelta


def radio_loss(marks: Sequence[BrokeUp], picture_db: float, loss_now_db: float) -> Factor | None:
    """Loss at a place beyond the model's [dB]: what the model's margin had over the one that a picture needs.

    loss_now_db: what the place has already, and the margins were computed with. The middle of the marks; one mark
    is an offer too, as losing the picture is no chance, with a half-width of 6 dB. None without a mark that
    says more than the model.
    """
    told = [m for m in marks if m.margin_db > picture_db]
    if not told:
        return None
    over = np.array([m.margin_db - picture_db for m in told])
    value, pm = middle(over, _weights([m.age for m in told]))
    least = 6.0 if len(told) < 3 else 2.0
    return Factor(loss_now_db + value, max(pm, least), tuple(m.flight for m in told))

"""What flights teach of consumption: an aircraft's factor and its batteries' health, estimated together.

A battery of three quarters of its health loses charge as fast as an aircraft that draws a third more: each flight
tells only the quotient factor/health. What sets the level is what is known of a battery from elsewhere: its own
capacity test, its cycles, and that none gives more than it was made with.

    ln(quotient of flight i) = φ(aircraft) − η(battery) + drift(age) + ε,   η = ln(health) ≤ 0

References
----------
.. [1] Gelman, A. et al. Bayesian Data Analysis: hierarchical linear models, mixtures by expectation and maximisation,
   Gibbs sampling of truncated normals. (From memory.)
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import dataclass
from datetime import timedelta
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

LEAST_FLIGHTS = 5
LEAST_SPENT_POINTS = 15.0
"""Flights that used less charge say little: the reading's own error is too large a part of it."""
WORTH_IT = 0.03
WIND_AGREES_MS = 2.0
"""Met further from what was planned with, the wind explains the cost, and no flight teaches more [practice]."""
MOST_FLIGHTS = 200
UNTOLD = 0.03
"""A level that is known no better than this share is said to be unknown."""

SCATTER, SCATTER_FLIGHTS = 0.05, 4.0
"""What flights of one aircraft and battery differ by, taken for so many flights before any was looked at [practice]:
five that happen to agree know no more than five can."""
READING_PCT = 0.6
"""Scatter of a difference of two charges read in whole percent, which an aircraft's gauge makes a little worse."""
FACTOR_SD = 0.2
NEW_CYCLES_SD, SD_PER_CYCLE, FALL_PER_CYCLE = 0.02, 0.0003, 0.0005
"""Health falls by a twentieth in a hundred cycles, more or less; a new battery is within 2 % of full [practice]."""
UNKNOWN_MEAN, UNKNOWN_SD = -0.05, 0.08
TEST_SD, SHOWN_SD = 0.02, 0.04
DEARER_SHARE, DEARER_FLIGHTS, DEARER_LEAST, DEARER_MOST = 0.1, 10.0, 0.08, 0.45
"""Some flights cost more for reasons of their own (hovering long, another wind), hardly any less: a tenth, taken as
seen in so many flights before any was looked at [practice]."""
SLOPE_SD = 0.5
DRIFT_SURE = 2.0
"""So many standard errors from none, a drift counts: taken for one in vain, it only widens what is told."""
SHORTEST_DRIFT = 0.05
_ROUNDS, _DRAWS, _WARM_UP = 40, 3000, 300


@dataclass(frozen=True, slots=True)
class Cost:
    """What one flight cost.

    quotient: charge spent over what the spec sheet alone and a battery of full health would have: factor/health.
    spent_pct [points of charge]; age. wind_off_ms: wind met less wind planned with [m/s]; None: not measured.
    """

    flight: str
    aircraft: int
    battery: int
    quotient: float
    spent_pct: float
    age: timedelta
    wind_off_ms: float | None = None


@dataclass(frozen=True, slots=True)
class BatteryKnown:
    """What is known of a battery without flying: cycles (None: nobody counted), health [%] by a test of its own, and as
    an aircraft or a charger showed it."""

    cycles: int | None = None
    tested_pct: float | None = None
    shown_pct: float | None = None

    @property
    def prior(self) -> tuple[float, float]:
        """Mean and standard deviation of ln(health)."""
        if self.tested_pct is not None:
            return min(math.log(self.tested_pct / 100), 0.0), TEST_SD
        if self.shown_pct is not None:
            return min(math.log(self.shown_pct / 100), 0.0), SHOWN_SD
        if self.cycles is None:
            return UNKNOWN_MEAN, UNKNOWN_SD
        fallen = min(FALL_PER_CYCLE * self.cycles, 0.5)
        return math.log(1 - fallen), NEW_CYCLES_SD + SD_PER_CYCLE * self.cycles


@dataclass(frozen=True, slots=True)
class Estimate:
    """A value with the half-width of an interval that holds it 19 times in 20, and the flights of its own."""

    value: float
    pm: float
    flights: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Drain:
    """What flights that hang together say of aircraft (factor), batteries (health [%]) and both (factor/health).

    set_aside: how many flights met another wind than they were planned with. level_known: whether what is the
    aircraft's is told from what is the batteries'. drifts: whether it changes with time, so that fresh flights count.
    """

    factor: dict[int, Estimate]
    health: dict[int, Estimate]
    quotient: dict[tuple[int, int], Estimate]
    flights: tuple[str, ...]
    set_aside: int
    level_known: bool
    drifts: bool

    def cautious_factor(self, aircraft: int) -> float:
        """The factor to plan with: a quarter of the interval of what it makes with its batteries to the dear side."""
        wide = [e.pm / e.value for (a, _), e in self.quotient.items() if a == aircraft]
        return self.factor[aircraft].value * (1 + 0.25 * float(np.mean(wide)))


def hanging_together(costs: Sequence[Cost]) -> list[list[Cost]]:
    """Flights in groups that share no aircraft and no battery."""
    groups: list[tuple[set[tuple[str, int]], list[Cost]]] = []
    for c in costs:
        keys = {("aircraft", c.aircraft), ("battery", c.battery)}
        members = [c]
        apart = []
        for known, flown in groups:
            if known & keys:
                keys |= known
                members = flown + members
            else:
                apart.append((known, flown))
        groups = [*apart, (keys, members)]
    return [members for _, members in groups]


def drain_of(costs: Sequence[Cost], known: Mapping[int, BatteryKnown]) -> Drain | None:
    """What a group of flights teaches; None while too few say enough. known: of batteries, by their number."""
    telling = [c for c in costs if c.spent_pct >= LEAST_SPENT_POINTS and c.quotient > 0]
    calm = [c for c in telling if c.wind_off_ms is None or abs(c.wind_off_ms) <= WIND_AGREES_MS]
    calm = sorted(calm, key=lambda c: c.age)[:MOST_FLIGHTS]
    if len(calm) < LEAST_FLIGHTS:
        return None
    model = _Model(calm, known)
    draws, drifts = model.draws()
    n = len(model.aircraft)

    def estimate(log: Floats, scale: float, flights: tuple[str, ...]) -> Estimate:
        low, high = np.quantile(log, [0.025, 0.975])
        middle = float(log.mean())
        wide = max(math.exp(high) - math.exp(middle), math.exp(middle) - math.exp(low))
        return Estimate(scale * math.exp(middle), scale * wide, flights)

    def of(aircraft: int | None = None, battery: int | None = None) -> tuple[str, ...]:
        return tuple(
            c.flight for c in calm if aircraft in (None, c.aircraft) and battery in (None, c.battery)
        )  # fmt: skip

    factor = {a: estimate(draws[:, i], 1.0, of(a)) for i, a in enumerate(model.aircraft)}
    health = {b: estimate(draws[:, n + j], 100.0, of(battery=b)) for j, b in enumerate(model.batteries)}
    quotient = {
        (a, b): estimate(
            draws[:, model.aircraft.index(a)] - draws[:, n + model.batteries.index(b)], 1.0, of(a, b)
        )
        for a, b in sorted({(c.aircraft, c.battery) for c in calm})
    }  # fmt: skip
    level_known = all(e.pm <= 2 * UNTOLD * e.value for e in factor.values())
    return Drain(factor, health, quotient, of(), len(telling) - len(calm), level_known, drifts)


class _Model:
    """The flights of a group as a linear model with Gaussian priors."""

    def __init__(self, costs: Sequence[Cost], known: Mapping[int, BatteryKnown]) -> None:
        self.aircraft = sorted({c.aircraft for c in costs})
        self.batteries = sorted({c.battery for c in costs})
        self.y = np.log([c.quotient for c in costs])
        self.age = np.array([max(c.age / timedelta(days=365), 0.0) for c in costs])
        self.reading = np.array([READING_PCT / c.spent_pct for c in costs])
        a, n = len(self.aircraft), len(costs)
        self.x = np.zeros((n, a + len(self.batteries)))
        for i, c in enumerate(costs):
            self.x[i, self.aircraft.index(c.aircraft)] = 1.0
            self.x[i, a + self.batteries.index(c.battery)] = -1.0
        priors = [known.get(b, BatteryKnown()).prior for b in self.batteries]
        self.mean = np.array([0.0] * a + [m for m, _ in priors])
        self.precision = np.diag([FACTOR_SD**-2] * a + [sd**-2 for _, sd in priors])
        self.bounded = np.arange(a + len(self.batteries)) >= a

    def draws(self) -> tuple[Floats, bool]:
        """Draws of all factors and healths, as logarithms, (draws, parameters); and whether a drift is in them."""
        walk = np.zeros((len(self.y), len(self.y)))
        _, square, clean = self._fit(walk)
        per_year, drifts = self._drift(walk)
        if drifts:
            # A steady change, and a walk that gets half as far: what is old says less of today.
            self._add_slope()
            span = max(float(np.ptp(self.age)), 1e-6)
            walk = (per_year / 2) ** 2 * span * np.minimum(self.age[:, None], self.age)
            _, square, clean = self._fit(walk)
        # Few flights know their own scatter badly: Student's t as a wider normal, a fifth for the weights (tried).
        free = SCATTER_FLIGHTS + float(clean.sum()) - 1
        wide = (1.2 + 1.55 / free) ** 2 if free > 1 else 4.0
        inverse = np.linalg.inv(np.diag(wide * (square + self.reading**2) / clean) + walk)
        precision = self.x.T @ inverse @ self.x + self.precision
        middle = np.linalg.solve(precision, self.x.T @ inverse @ self.y + self.precision @ self.mean)
        return self._truncated(middle, precision), drifts

    def _add_slope(self) -> None:
        """One more parameter: the change of all costs with their age [a year]."""
        self.x = np.column_stack([self.x, self.age])
        self.mean, self.bounded = np.append(self.mean, 0.0), np.append(self.bounded, False)
        precision = np.zeros((len(self.mean), len(self.mean)))
        precision[:-1, :-1], precision[-1, -1] = self.precision, SLOPE_SD**-2
        self.precision = precision

    def _fit(self, walk: Floats) -> tuple[Floats, float, Floats]:
        """Parameters, the variance of a clean flight, and how clean each flight is, 0 to 1 [1]_."""
        n = len(self.y)
        clean, square, at, dear = np.ones(n), SCATTER**2, self.mean, DEARER_SHARE
        dearer = np.linspace(DEARER_LEAST, DEARER_MOST, 12)
        for _ in range(_ROUNDS):
            inverse = np.linalg.inv(np.diag((square + self.reading**2) / clean) + walk)
            precision = self.x.T @ inverse @ self.x + self.precision
            at = np.linalg.solve(precision, self.x.T @ inverse @ self.y + self.precision @ self.mean)
            at[self.bounded] = np.minimum(at[self.bounded], 0.0)
            off = self.y - self.x @ at
            off = off - walk @ inverse @ off
            spread = np.sqrt(square + self.reading**2)
            here = np.exp(-0.5 * (off / spread) ** 2)
            there = np.exp(-0.5 * ((off[:, None] - dearer) / spread[:, None]) ** 2).mean(axis=1)
            wild = 0.02 * np.exp(-0.5 * (off / 0.5) ** 2) * spread / 0.5
            good = (1 - dear) * here
            clean = np.clip(good / (good + dear * there + wild), 1e-4, 1)
            dear = (DEARER_FLIGHTS * DEARER_SHARE + float((1 - clean).sum())) / (DEARER_FLIGHTS + n)
            over = np.maximum(off**2 - self.reading**2, 0.0)
            square = (SCATTER_FLIGHTS * SCATTER**2 + float(clean @ over)) / (SCATTER_FLIGHTS + float(clean.sum()))
        return at, square, clean

    def _drift(self, walk: Floats) -> tuple[float, bool]:
        """Change of all costs with their age [a year], and whether it is surely one: from a fit that has it in it."""
        if len(self.y) < 2 * LEAST_FLIGHTS or float(np.ptp(self.age)) < SHORTEST_DRIFT:
            return 0.0, False
        sloping = copy(self)
        sloping._add_slope()
        at, square, clean = sloping._fit(walk)
        weight = clean / (square + self.reading**2)
        precision = sloping.x.T @ (weight[:, None] * sloping.x) + sloping.precision
        error = math.sqrt(float(np.linalg.inv(precision)[-1, -1]))
        return float(at[-1]), abs(float(at[-1])) > DRIFT_SURE * error

    def _truncated(self, middle: Floats, precision: Floats) -> Floats:
        """Draws of a normal whose healths stay at or under full, by Gibbs, from a fixed seed [1]_."""
        rng = np.random.default_rng(20)
        normal = NormalDist()
        at = middle.copy()
        at[self.bounded] = np.minimum(at[self.bounded], -1e-6)
        found = np.empty((_DRAWS, len(middle)))
        uniform = rng.uniform(1e-9, 1 - 1e-9, (_DRAWS + _WARM_UP, len(middle)))
        for k in range(_DRAWS + _WARM_UP):
            for j in range(len(middle)):
                rest = float(precision[j] @ (at - middle)) - precision[j, j] * (at[j] - middle[j])
                centre, sd = middle[j] - rest / precision[j, j], precision[j, j] ** -0.5
                top = normal.cdf((0.0 - centre) / sd) if self.bounded[j] else 1.0
                share = min(max(float(uniform[k, j]) * top, 1e-12), 1 - 1e-12)
                at[j] = centre + sd * normal.inv_cdf(share)
                if self.bounded[j]:
                    at[j] = min(at[j], 0.0)
            if k >= _WARM_UP:
                found[k - _WARM_UP] = at
        return found


def differs(value: float, pm: float, now: float, worth: float = WORTH_IT) -> bool:
    """Whether a learned value is surely another than the one in use, and far enough away to matter."""
    return abs(value - now) > max(pm, worth * now)

"""The eye: up to which distance a pilot sees which way the aircraft points.

An aircraft is shown as small as it looks at a distance, pointing one of four ways; the distance follows the answers by
a weighted up-down staircase [1]_, which settles where three in four are right whatever the eye is like. What is
found, with its interval, comes from the likelihood of all answers over a grid of thresholds and slopes [2]_.

References
----------
.. [1] Kaernbach, Simple adaptive testing with the weighted up-down method, Perception & Psychophysics 49 (1991).
   Quoted from memory.
.. [2] Kontsevich & Tyler, Bayesian adaptive estimation of psychometric slope and threshold, Vision Research 39 (1999):
   the grid and its posterior, not their placing of trials. Quoted from memory.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.sight import attitude_distance_m

Floats = NDArray[np.float64]

TRIALS = 60
SEEN = 0.75
"""Of four ways three in four are right at the threshold."""
GUESS, LAPSE = 0.25, 0.02
"""A guess among four is right so often; a slip of the finger is wrong so often, the latter assumed."""
FIRST_STEP, STEP = 0.28, 0.08
"""How far the distance steps out after a right answer, as a logarithm: until the first wrong one, and after it."""
NEAREST_M, DRAWN_PX = 5.0, 8.0
"""The nearest that is shown [m], and the fewest pixels that an aircraft takes to be drawn: then the screen ends it."""
INTERVAL = 0.97


class Way(StrEnum):
    """Where the nose points, as the pilot sees it."""

    AWAY = "away"
    TOWARDS = "towards"
    LEFT = "left"
    RIGHT = "right"


@dataclass(frozen=True, slots=True)
class Trial:
    """One answer: at which distance it was shown [m], and whether it was right."""

    distance_m: float
    right: bool


@dataclass(frozen=True, slots=True)
class Eye:
    """The distance at which three in four are right [m], its interval, and what may be taken for a line of sight.

    own_m: the near end of the interval, never more than the formula for the aircraft's size gives, in whole metres.
    """

    seen_m: float
    low_m: float
    high_m: float
    formula_m: float

    @property
    def own_m(self) -> float:
        return float(math.floor(min(self.low_m, self.formula_m)))


def drawn_mm(size_m: float, distance_m: float, viewing_mm: float) -> float:
    """How long an aircraft is drawn [mm], so that from the viewing distance [mm] it is as small as at a distance [m].

    >>> round(drawn_mm(0.36, 120, 600), 2)
    1.8
    """
    return size_m * viewing_mm / distance_m


def arc_minutes(size_m: float, distance_m: float) -> float:
    """The angle that an aircraft's size [m] takes at a distance [m], in arc minutes.

    >>> round(arc_minutes(0.36, 138), 2)
    8.97
    """
    return math.degrees(2 * math.atan(size_m / (2 * distance_m))) * 60


def farthest_m(size_m: float, viewing_mm: float, px_per_mm: float) -> float:
    """The farthest that a screen of so many pixels a millimetre can draw [m], seen from a distance [mm]."""
    return size_m * viewing_mm * px_per_mm / DRAWN_PX


def next_distance(trials: Sequence[Trial], size_m: float, most_m: float) -> float:
    """The distance [m] of the next trial, from half of the formula's on.

    A right answer steps out, a wrong one three times as far in: at rest where three in four are right.
    """
    distance = attitude_distance_m(size_m) / 2
    step = FIRST_STEP
    for trial in trials:
        if not trial.right:
            step = STEP
        distance *= math.exp(step if trial.right else -SEEN / (1 - SEEN) * step)
        distance = min(max(distance, NEAREST_M), most_m)
    return min(max(distance, NEAREST_M), most_m)


def right_share(distance_m: Floats, seen_m: Floats, slope: Floats) -> Floats:
    """The share of right answers at distances [m], for thresholds [m] and slopes; shapes broadcast.

    A logistic of the logarithm of the distance between the share of a guess and that of slips.
    """
    at_threshold = (SEEN - GUESS) / (1 - GUESS - LAPSE)
    shift = math.log(1 / at_threshold - 1)
    odds = slope * np.log(distance_m / seen_m) + shift
    return np.asarray(GUESS + (1 - GUESS - LAPSE) / (1 + np.exp(odds)))


_SLOPES = np.geomspace(2.0, 25.0, 14)
_SPREAD = 4.0
"""Thresholds from so much less than the formula gives to so much more are looked at, each as likely at first."""


def eye(trials: Sequence[Trial], size_m: float) -> Eye:
    """What the answers tell of a pilot's eye. Raises ValueError without any."""
    if not trials:
        raise ValueError("no answer has been given yet")
    formula = attitude_distance_m(size_m)
    seen = formula * np.geomspace(1 / (2 * _SPREAD), _SPREAD, 240)
    grid_seen, grid_slope = seen[:, None, None], _SLOPES[None, :, None]
    share = right_share(np.array([t.distance_m for t in trials]), grid_seen, grid_slope)
    right = np.array([t.right for t in trials])
    logs = np.where(right, np.log(share), np.log1p(-share)).sum(axis=2)
    weight = np.exp(logs - logs.max()).sum(axis=1)
    below = np.cumsum(weight) / weight.sum()
    low, middle, high = np.interp([(1 - INTERVAL) / 2, 0.5, (1 + INTERVAL) / 2], below, seen)
    return Eye(float(middle), float(low), float(high), formula)

"""What a place teaches of the radio: the loss that the model does not know, from where the picture broke up.

The middle of many is taken, not the mean, so that one bad mark moves nothing; fresh marks weigh more than old ones.

References
----------
.. [1] Weighted median; for small numbers its interval is that of a sign test. (From memory.)
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
"""A mark of that age weighs half as much as one of today."""
_MAD = 1.4826
_WIDTH = 1.96


@dataclass(frozen=True, slots=True)
class Loss:
    """A loss [dB] with a half-width that holds it 19 times in 20, and the flights it rests on."""

    value: float
    pm: float
    flights: tuple[str, ...]


def weights_of(ages: Sequence[timedelta]) -> Floats:
    """What flights of some ages weigh, one of today 1."""
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


@dataclass(frozen=True, slots=True)
class BrokeUp:
    """Where a picture broke up: how far out [m], and the margin that the model gave there [dB]."""

    flight: str
    distance_m: float
    margin_db: float
    age: timedelta


def radio_loss(marks: Sequence[BrokeUp], picture_db: float, loss_now_db: float) -> Loss | None:
    """Loss at a place beyond the model's [dB]: what the model's margin had over the one that a picture needs.

    loss_now_db: what the place has already, and the margins were computed with. The middle of the marks; one mark
    is an offer too, as losing the picture is no chance, with a half-width of 6 dB. None without a mark that
    says more than the model.
    """
    told = [m for m in marks if m.margin_db > picture_db]
    if not told:
        return None
    over = np.array([m.margin_db - picture_db for m in told])
    value, pm = middle(over, weights_of([m.age for m in told]))
    least = 6.0 if len(told) < 3 else 2.0
    return Loss(loss_now_db + value, max(pm, least), tuple(m.flight for m in told))

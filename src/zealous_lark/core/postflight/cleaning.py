"""What in a track cannot have been flown: positions and heights that a receiver made up before it had a fix, or lost.

Points are cut wherever going from one to the next would have been too fast; of the parts, those that can be flown one
after the other and have the most points are the flight. So a spike goes, and a wrong beginning of any length shorter
than the flight, without a rule for each.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

FASTEST_MS = 45.0
"""No camera drone goes faster over the ground, wind behind it and all [practice]."""
FASTEST_CLIMB_MS = 15.0
"""Nor does it climb or dive faster [practice]."""
SLACK_M, SLACK_HEIGHT_M = 20.0, 10.0
"""What a position or a height may wander without anything having moved [practice]."""
MOST_PARTS = 3000
"""With more breaks than this the whole is noise: which of it was flown nobody can say, and nothing is left out."""


def flyable(time_s: Floats, places: Floats, fastest_ms: float, slack_m: float) -> Bools:
    """Which points (n,) can have been flown, of places (n, d) [m] at times [s].

    The heaviest chain of unbroken parts, each of which can be reached from the one before it.
    """
    n = len(time_s)
    step = np.linalg.norm(np.diff(places, axis=0), axis=1)
    breaks = np.flatnonzero(step > fastest_ms * np.diff(time_s) + slack_m) + 1
    if not breaks.size or len(breaks) >= MOST_PARTS:
        return np.ones(n, dtype=bool)
    begins = np.concatenate([[0], breaks])
    ends = np.concatenate([breaks, [n]])
    weight = (ends - begins).astype(float)
    before = np.full(len(begins), -1)
    for k in range(1, len(begins)):
        last = ends[:k] - 1
        apart = np.linalg.norm(places[begins[k]] - places[last], axis=1)
        reached = apart <= fastest_ms * (time_s[begins[k]] - time_s[last]) + slack_m
        if reached.any():
            best = int(np.where(reached, weight[:k], -1.0).argmax())
            before[k], weight[k] = best, weight[k] + weight[best]
    keep = np.zeros(n, dtype=bool)
    at = int(weight.argmax())
    while at >= 0:
        keep[begins[at] : ends[at]] = True
        at = int(before[at])
    return keep


def good_heights(time_s: Floats, height_m: Floats) -> Floats:
    """Heights [m] with NaN for those that cannot have been flown; (n,) both, NaN stays."""
    known = np.flatnonzero(np.isfinite(height_m))
    found = np.array(height_m, dtype=float)
    if known.size > 1:
        good = flyable(time_s[known], found[known, None], FASTEST_CLIMB_MS, SLACK_HEIGHT_M)
        found[known[~good]] = np.nan
    return found

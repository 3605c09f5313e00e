"""The wind that a track shows: from its ground velocities, else from the lean, else from the charge."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.postflight.wind_circle import SLOWEST_MS, CircleWind, NoWind, Pieces, wind_of
from zealous_lark.core.postflight.wind_effort import airspeed_of_lean, wind_by_charge, wind_by_lean
from zealous_lark.core.power import PowerModel

Floats = NDArray[np.float64]

PIECE_S = 5.0
"""Steady flight is looked for in pieces of so many seconds."""
STEADY_SHARE, STEADY_MS = 0.15, 0.4
"""A piece is steady when the velocity in its two halves differs by less than this share of its speed, or this."""
LONGEST_STEP_S = 6.0
"""Between points further apart in time nobody knows how it flew: no piece reaches over that."""
GAP_S = 30.0
"""A longer time without a point is no flight."""
MOST_MARKS = 2000
"""Sums of power are made in so many steps at most."""


def covered(time: Floats, marks: Floats) -> NDArray[np.bool_]:
    """Which spans between neighbouring marks have points close enough together in time all along."""
    found = np.ones(len(marks) - 1, dtype=bool)
    for at in np.flatnonzero(np.diff(time) > LONGEST_STEP_S):
        found &= ~((marks[1:] > time[at]) & (marks[:-1] < time[at + 1]))
    return found


def _steady(time: Floats, x: Floats, y: Floats, slowest_ms: float) -> Pieces:
    """The pieces that keep speed and course, at least that fast."""
    if time[-1] < 3 * PIECE_S:
        return Pieces(np.empty(0), np.empty(0), np.empty(0))
    half = PIECE_S / 2
    marks = np.arange(0.0, time[-1], half)
    has_points = covered(time, marks)
    vx, vy = (np.diff(np.interp(marks, time, v)) / half for v in (x, y))
    pairs = len(vx) // 2 * 2
    a, b = slice(0, pairs, 2), slice(1, pairs, 2)
    mx, my = (vx[a] + vx[b]) / 2, (vy[a] + vy[b]) / 2
    speed = np.hypot(mx, my)
    keeps = np.hypot(vx[b] - vx[a], vy[b] - vy[a]) < np.maximum(STEADY_SHARE * speed, STEADY_MS)
    good = keeps & (speed >= slowest_ms) & has_points[a] & has_points[b]
    return Pieces(marks[a][good] + half, mx[good], my[good])


def _longest_unbroken(time: Floats) -> slice:
    """The longest part without a gap."""
    edges = np.concatenate([[0], np.flatnonzero(np.diff(time) > GAP_S) + 1, [len(time)]])
    spans = [slice(int(a), int(b)) for a, b in pairwise(edges)]
    return max(spans, key=lambda s: time[s.stop - 1] - time[s.start])


def wind_of_track(
    time: Floats, x: Floats, y: Floats, height: Floats, charge: Floats, tilt: Floats | None, model: PowerModel | None
) -> CircleWind | NoWind:
    """Wind from a track, (n,) each: time [s], east and north [m], height [m], charge [%], lean [°] (NaN: not logged).

    model: of the aircraft that flew, None where nobody knows it: then neither lean nor charge say anything.
    """
    found = wind_of(_steady(time, x, y, SLOWEST_MS))
    if isinstance(found, CircleWind) or model is None:
        return found
    for effort in (_by_lean(time, x, y, tilt, model), _by_charge(time, x, y, height, charge, model)):
        if isinstance(effort, CircleWind):
            return effort
    return found


def _by_lean(time: Floats, x: Floats, y: Floats, tilt: Floats | None, model: PowerModel) -> CircleWind | NoWind | None:
    """From the lean; None where it is not logged."""
    if tilt is None or not np.isfinite(tilt).any():
        return None
    pieces = _steady(time, x, y, 0.0)
    logged = np.isfinite(tilt)
    piece_of = np.floor(time[logged] / PIECE_S).astype(int)
    size = int(piece_of.max()) + 2
    count = np.bincount(piece_of, minlength=size)
    mean = np.bincount(piece_of, tilt[logged], minlength=size) / np.maximum(count, 1)
    at = np.minimum(np.floor(pieces.time_s / PIECE_S).astype(int), size - 1)
    has = count[at] > 0
    known = Pieces(pieces.time_s[has], pieces.east_ms[has], pieces.north_ms[has])
    return wind_by_lean(known, airspeed_of_lean(model, mean[at][has]))


def _by_charge(
    time: Floats, x: Floats, y: Floats, height: Floats, charge: Floats, model: PowerModel
) -> CircleWind | NoWind | None:
    """From the charge that headings cost, over the longest part without a gap; None where none is told."""
    part = _longest_unbroken(time)
    told = np.flatnonzero(np.isfinite(charge[part])) + part.start
    begin, end = float(time[part.start]), float(time[part.stop - 1])
    if len(told) < 2 or end - begin <= PIECE_S:
        return None
    marks = np.arange(begin, end, max(1.0, (end - begin) / MOST_MARKS))
    wide = PIECE_S / 2

    def rate(of: Floats) -> Floats:
        return np.asarray(np.interp(marks + wide, time, of) - np.interp(marks - wide, time, of)) / PIECE_S

    read = np.full(len(marks), np.nan)
    read[np.clip(np.searchsorted(marks, time[told]), 0, len(marks) - 1)] = charge[told]
    climb = rate(np.where(np.isfinite(height), height, 0.0))
    return wind_by_charge(marks, rate(x), rate(y), climb, read, model)

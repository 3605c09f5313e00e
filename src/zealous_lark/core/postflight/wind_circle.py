"""Wind from ground velocities: with the airspeed held they lie on a circle around the wind.

An aircraft that holds its ground speed flies on a circle too, around nothing: that circle says nothing of the wind,
and looks like a calm. Where the ground speed is the same all round, no wind is told from it.

References
----------
.. [1] Kåsa, I. (1976). A circle fitting procedure and its error analysis. IEEE Trans. Instrum. Meas. 25. (From memory.)
.. [2] Huber, P. J. (1964). Robust estimation of a location parameter. Ann. Math. Statist. 35. (From memory.)
.. [3] Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance components. Biometrics
   Bulletin 2. (From memory.)
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

LEAST_SAMPLES = 10
WIDEST_GAP_DEG = 130.0
"""The widest gap between neighbouring headings that is still enough; with more, the circle is a guess."""
WIDEST_MS = 2.5
SLOWEST_MS = 2.5
"""Slower pieces have no heading worth the name [m/s]."""
SAME_SHARE = 0.08
"""Ground speeds that lean this little to one side, of their mean, may be held: a controller is that good [practice]."""
BAND_SHARE = 0.03
"""Ground speeds that differ by less than this share, up or down, are one speed that is held [practice]."""
FLAT_EXCESS = 0.12
"""By so much more of all pieces than the circle explains share one speed where some of them held it [practice]."""
GUST_MEMORY_S = 8.0
"""A gust is forgotten to a third in so many seconds [practice]: pieces closer together tell less than their number."""
FEW_HEADINGS = 6
"""With so few headings or less (a box has four) any speeds fit some circle, one that is held on two of them too."""
_HEADING_DEG = 30.0
_HUBER = 1.5
_ROUNDS = 30


class ToldFrom(StrEnum):
    """What a wind was told from: ground velocities, the lean, or the charge that headings cost."""

    CIRCLE = "circle"
    LEAN = "lean"
    CHARGE = "charge"


@dataclass(frozen=True, slots=True)
class CircleWind:
    """Wind that a track shows, with the half-widths of a joint interval that holds it 19 times in 20.

    speed_ms, direction_deg (from where), airspeed_ms; samples: steady pieces that it rests on; how: from what.
    """

    speed_ms: float
    speed_pm_ms: float
    direction_deg: float
    direction_pm_deg: float
    airspeed_ms: float
    samples: int
    how: ToldFrom = ToldFrom.CIRCLE


@dataclass(frozen=True, slots=True)
class NoWind:
    """Why a track says nothing of the wind. ground_speed_held_ms: the one that it kept all round, where it did."""

    why: str
    ground_speed_held_ms: float | None = None


@dataclass(frozen=True, slots=True)
class Pieces:
    """Steady pieces of flight: their times [s] and mean ground velocities [m/s]. Shape (n,) each."""

    time_s: Floats
    east_ms: Floats
    north_ms: Floats


def told(cx: float, cy: float, joint_ms: float, airspeed_ms: float, samples: int, how: ToldFrom) -> CircleWind:
    """A wind by its components [m/s] (towards east and north) and the radius of the joint interval [m/s]."""
    speed = math.hypot(cx, cy)
    turn = 180.0 if joint_ms >= speed else math.degrees(math.asin(joint_ms / speed))
    return CircleWind(speed, joint_ms, math.degrees(math.atan2(-cx, -cy)) % 360, turn, airspeed_ms, samples, how)


def too_wide(joint_ms: float) -> NoWind:
    """Nothing, as the pieces scatter: the interval would have this half-width [m/s]."""
    return NoWind(f"The pieces scatter too much: the wind would be ±{joint_ms:.1f} m/s.")


def joint_ms(jacobian: Floats, weight: Floats, left: Floats, common: Floats) -> float:
    """Radius [m/s] of the joint 95 % interval of the first two parameters of a weighted fit.

    jacobian: (n, p). left: what the fit leaves, (n,). common: correlation of the errors, (n, n): what lasts makes the
    number of samples smaller than their count, for the scatter as for its degrees of freedom [3]_.
    """
    root = np.sqrt(weight)
    a, r = root[:, None] * jacobian, root * left
    c = root[:, None] * common * root[None, :]
    inverse = np.linalg.inv(a.T @ a)
    mc = c - a @ (inverse @ (a.T @ c))
    trace = float(np.trace(mc))
    free = max(trace**2 / float((mc * mc.T).sum()), 1.0)
    # Huber's weights underrate the scatter a little, a stick that wanders is no gust: 1.3 makes up for both (tried).
    variance = 1.3**2 * float(r @ r) / trace
    covariance = variance * (inverse @ (a.T @ c @ a) @ inverse)[:2, :2]
    widest = math.sqrt(float(np.linalg.eigvalsh(covariance)[-1]))
    return widest * math.sqrt(free * (0.05 ** (-2 / free) - 1))


def lasting(time_s: Floats, ux: Floats, uy: Floats) -> Floats:
    """Correlation (n, n) of what gusts do along the headings (unit vectors) of pieces at times [s]."""
    return np.exp(-np.abs(time_s[:, None] - time_s) / GUST_MEMORY_S) * (np.outer(ux, ux) + np.outer(uy, uy))


def largest_gap_deg(east: Floats, north: Floats) -> float:
    """The widest gap [°] between neighbouring directions of vectors; 360 where there is none."""
    if not len(east):
        return 360.0
    headings = np.sort(np.degrees(np.arctan2(east, north)) % 360)
    return float(np.max(np.diff(np.append(headings, headings[0] + 360))))


def gap_words(gap_deg: float) -> str:
    """Why headings with this gap between them [°] tell no wind."""
    return f"Headings leave a gap of {gap_deg:.0f}°; fly all round, at most {WIDEST_GAP_DEG:.0f}° may be missing."


def _share_of_one_speed(speed: Floats) -> tuple[float, float]:
    """The largest share of speeds within `BAND_SHARE` of one of them, and that one [m/s]."""
    near = np.abs(speed[:, None] - speed) <= BAND_SHARE * speed[:, None]
    at = int(near.sum(axis=1).argmax())
    return float(near[at].mean()), float(speed[at])


def _top_is_shared(course_deg: Floats, speed: Floats) -> bool:
    """Whether the greatest ground speed was flown on two or more of few headings: then it may have been commanded."""
    sector = np.round(course_deg / _HEADING_DEG).astype(int) % round(360 / _HEADING_DEG)
    found = np.array([np.median(speed[sector == k]) for k in np.unique(sector)])
    return len(found) <= FEW_HEADINGS and int((found >= (1 - BAND_SHARE) * found.max()).sum()) > 1


def _held(pieces: Pieces, cx: float, cy: float, radius: float, scatter: float) -> float | None:
    """The ground speed [m/s] that was held, all round or on the headings where the wind left room for it; or None.

    On a circle around the wind the ground speed changes with every heading. Where more pieces share one speed than the
    circle (with its scatter) lets them, that speed was commanded.
    """
    speed = np.hypot(pieces.east_ms, pieces.north_ms)
    share, value = _share_of_one_speed(speed)
    course = np.degrees(np.arctan2(pieces.east_ms, pieces.north_ms))
    if math.hypot(cx, cy) < SAME_SHARE * radius or _top_is_shared(course, speed):
        return value
    ux, uy = pieces.east_ms / speed, pieces.north_ms / speed
    along = cx * ux + cy * uy
    across2 = np.minimum((cx * uy - cy * ux) ** 2, radius**2)
    on_circle = along + np.sqrt(radius**2 - across2)
    noise = np.random.default_rng(0).normal(0, scatter, (8, len(speed)))
    by_circle = np.mean([_share_of_one_speed(np.maximum(on_circle + n, 0.1))[0] for n in noise])
    return value if share > by_circle + FLAT_EXCESS else None


def wind_of(pieces: Pieces) -> CircleWind | NoWind:
    """Wind from mean ground velocities of steady flight in one mode.

    A geometric fit from Kåsa's start [1]_, pieces that do not lie on the circle weighed down [2]_. The interval is
    the joint one of both components, from the scatter that is left and from how long gusts last.
    """
    e, s = pieces.east_ms, pieces.north_ms
    n = len(e)
    if n < LEAST_SAMPLES:
        return NoWind(f"{n} steady pieces of flight; {LEAST_SAMPLES} are needed.")
    rows = np.column_stack([2 * e, 2 * s, np.ones(n)])
    solved, *_ = np.linalg.lstsq(rows, e**2 + s**2, rcond=None)
    cx, cy = float(solved[0]), float(solved[1])
    radius = math.sqrt(max(float(solved[2]) + cx**2 + cy**2, 1e-6))
    weight, jacobian, left, scale = np.ones(n), np.empty((n, 3)), np.zeros(n), 0.0
    for _ in range(_ROUNDS):
        dx, dy = e - cx, s - cy
        apart = np.maximum(np.hypot(dx, dy), 1e-9)
        left = apart - radius
        scale = max(1.4826 * float(np.median(np.abs(left - np.median(left)))), 1e-6)
        weight = np.minimum(1.0, _HUBER * scale / np.maximum(np.abs(left), 1e-12))
        jacobian[:, 0], jacobian[:, 1], jacobian[:, 2] = -dx / apart, -dy / apart, -1.0
        normal = jacobian.T @ (weight[:, None] * jacobian)
        if np.linalg.cond(normal) > 1e8:
            return NoWind("All steady stretches had about the same heading.")
        step = np.linalg.solve(normal, -jacobian.T @ (weight * left))
        cx, cy, radius = cx + float(step[0]), cy + float(step[1]), radius + float(step[2])
        if float(np.abs(step).max()) < 1e-6:
            break
    gap = largest_gap_deg(e - cx, s - cy)
    if gap > WIDEST_GAP_DEG:
        return NoWind(gap_words(gap))
    held = _held(pieces, cx, cy, abs(radius), scale)
    if held is not None:
        return NoWind(
            "The ground speed was the same on many headings: it was held, or the air was calm. "
            "The track cannot tell which.",
            held,
        )
    joint = joint_ms(jacobian, weight, left, lasting(pieces.time_s, -jacobian[:, 0], -jacobian[:, 1]))
    if not joint <= WIDEST_MS:
        return too_wide(joint)
    return told(cx, cy, joint, float(radius), n, ToldFrom.CIRCLE)

"""Wind from a track: ground velocities lie on a circle around the wind, with the airspeed as radius.

Needs steady flight in enough different headings; where they do not go round far enough nothing is said.

References
----------
.. [1] Kåsa, I. (1976). A circle fitting procedure and its error analysis. IEEE Trans. Instrum. Meas. 25. (From memory.)
.. [2] Huber, P. J. (1964). Robust estimation of a location parameter. Ann. Math. Statist. 35. (From memory.)
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

LEAST_SAMPLES = 10
WIDEST_GAP_DEG = 130.0
"""The widest gap between neighbouring headings that is still enough; with more, the circle is a guess."""
WIDEST_MS = 2.5
_HUBER = 1.5
_ROUNDS = 30


@dataclass(frozen=True, slots=True)
class CircleWind:
    """Wind that a track shows, with the half-widths of a joint interval that holds it 19 times in 20.

    speed_ms, direction_deg (from where), airspeed_ms; samples: steady pieces that it rests on.
    """

    speed_ms: float
    speed_pm_ms: float
    direction_deg: float
    direction_pm_deg: float
    airspeed_ms: float
    samples: int


@dataclass(frozen=True, slots=True)
class NoWind:
    """Why a track says nothing of the wind."""

    why: str


def wind_of(east_ms: Floats, north_ms: Floats) -> CircleWind | NoWind:
    """Wind from independent mean ground velocities [m/s], shape (n,) each, of steady flight in one mode.

    A geometric fit from Kåsa's start [1]_, pieces that do not lie on the circle weighed down [2]_. The interval is
    the joint one of both components, from the scatter that is left, with Fisher's F for few samples.
    """
    n = len(east_ms)
    if n < LEAST_SAMPLES:
        return NoWind(f"{n} steady pieces of flight; {LEAST_SAMPLES} are needed.")
    e, s = np.asarray(east_ms, dtype=float), np.asarray(north_ms, dtype=float)
    rows = np.column_stack([2 * e, 2 * s, np.ones(n)])
    solved, *_ = np.linalg.lstsq(rows, e**2 + s**2, rcond=None)
    cx, cy = float(solved[0]), float(solved[1])
    radius = math.sqrt(max(float(solved[2]) + cx**2 + cy**2, 1e-6))
    weight = np.ones(n)
    jacobian = np.empty((n, 3))
    left = np.zeros(n)
    for _ in range(_ROUNDS):
        dx, dy = e - cx, s - cy
        apart = np.maximum(np.hypot(dx, dy), 1e-9)
        left = apart - radius
        scale = max(1.4826 * float(np.median(np.abs(left - np.median(left)))), 1e-6)
        weight = np.minimum(1.0, _HUBER * scale / np.maximum(np.abs(left), 1e-12))
        jacobian[:, 0], jacobian[:, 1], jacobian[:, 2] = -dx / apart, -dy / apart, -1.0
        normal = jacobian.T @ (weight[:, None] * jacobian)
        if np.linalg.cond(normal) > 1e8:
            return NoWind("All pieces went about the same way.")
        step = np.linalg.solve(normal, -jacobian.T @ (weight * left))
        cx, cy, radius = cx + float(step[0]), cy + float(step[1]), radius + float(step[2])
        if float(np.abs(step).max()) < 1e-6:
            break
    headings = np.sort(np.degrees(np.arctan2(e - cx, s - cy)) % 360)
    gap = float(np.max(np.diff(np.append(headings, headings[0] + 360))))
    if gap > WIDEST_GAP_DEG:
        return NoWind(
            f"Headings leave a gap of {gap:.0f}°; fly all round, at most {WIDEST_GAP_DEG:.0f}° may be missing."
        )
    effective = float(weight.sum())
    free = max(effective - 3, 1.0)
    # Under Huber's weights the scatter of the clean pieces is a little underrated; 1.1 makes up for it.
    variance = 1.1**2 * float((weight * left**2).sum()) / free
    normal = jacobian.T @ (weight[:, None] * jacobian)
    covariance = variance * np.linalg.inv(normal)[:2, :2]
    widest = math.sqrt(float(np.linalg.eigvalsh(covariance)[-1]))
    joint = widest * math.sqrt(free * (0.05 ** (-2 / free) - 1))
    if joint > WIDEST_MS:
        return NoWind(f"The pieces scatter too much: the wind would be ±{joint:.1f} m/s.")
    speed = math.hypot(cx, cy)
    turn = 180.0 if joint >= speed else math.degrees(math.asin(joint / speed))
    return CircleWind(speed, joint, math.degrees(math.atan2(-cx, -cy)) % 360, turn, float(radius), n)

"""Wind from the effort that headings cost: the lean, or the charge, of an aircraft that holds its ground speed.

Both follow from the airspeed. Going the same ground speed all round, it leans more and draws more against the wind.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.postflight.wind_circle import (
    LEAST_SAMPLES,
    SLOWEST_MS,
    WIDEST_GAP_DEG,
    WIDEST_MS,
    CircleWind,
    NoWind,
    Pieces,
    ToldFrom,
    gap_words,
    largest_gap_deg,
    lasting,
    told,
    too_wide,
)
from zealous_lark.core.power import PowerModel

Floats = NDArray[np.float64]

LEAN_SCALE_SD = 0.1
"""How far an aircraft's airspeed at a lean may be off that of its spec sheet, as a share [practice]."""
LEVEL_M2_S2 = 3.0
"""Square of the airspeed at a lean of half a degree: nothing stands or measures more level than that [practice]."""
LAW_SHARE = 0.08
"""The law of lean itself is no better than this share of the airspeed [practice]; the interval holds it."""
READING_SD_PCT = 0.29
"""Scatter of a charge that is told in whole percent: 1/√12."""
STRONGEST_MS = 15.0
MOST_PIECES = 500
_STEP_MS, _HUBER = 0.5, 1.5


def airspeed_of_lean(model: PowerModel, tilt_deg: Floats) -> Floats:
    """Airspeed [m/s] held at a lean [°]: drag is the weight times the tangent of it."""
    tangent = np.tan(np.radians(np.clip(tilt_deg, 0.0, 80.0)))
    return np.sqrt(model.weight_n * tangent / model.drag_ns2_m2)


def _net() -> tuple[Floats, Floats]:
    """Winds to try: components [m/s] on a square net inside `STRONGEST_MS`."""
    line = np.arange(-STRONGEST_MS, STRONGEST_MS + _STEP_MS / 2, _STEP_MS)
    x, y = (a.ravel() for a in np.meshgrid(line, line))
    inside = np.hypot(x, y) <= STRONGEST_MS
    return x[inside], y[inside]


@dataclass(frozen=True, slots=True)
class _Fit:
    """How well each wind of the net fits: the sum of squares over the variance of one independent error, (winds,).

    free: degrees of freedom left. law_ms: what the law itself may be wrong by [m/s].
    """

    misfit: Floats
    free: float
    law_ms: float = 0.0


def _best(fit: _Fit, ground_east: Floats, ground_north: Floats, samples: int, how: ToldFrom) -> CircleWind | NoWind:
    """The wind of the net that fits best, with all around it that fit about as well (by Fisher's F for two)."""
    moving = np.hypot(ground_east, ground_north) > SLOWEST_MS
    gap = largest_gap_deg(ground_east[moving], ground_north[moving])
    if gap > WIDEST_GAP_DEG:  # there and back on one line, a wind from the left costs what one from the right does
        return NoWind(gap_words(gap))
    gx, gy = _net()
    best = int(fit.misfit.argmin())
    within = fit.misfit <= fit.misfit[best] + fit.free * (0.05 ** (-2 / fit.free) - 1)
    radius = float(np.hypot(gx[within] - gx[best], gy[within] - gy[best]).max()) + _STEP_MS / 2
    radius = math.hypot(radius, fit.law_ms)
    if not radius <= WIDEST_MS:
        return too_wide(radius)
    airspeed = float(np.hypot(ground_east - gx[best], ground_north - gy[best]).mean())
    return told(float(gx[best]), float(gy[best]), radius, airspeed, samples, how)


def wind_by_lean(pieces: Pieces, airspeed_ms: Floats) -> CircleWind | NoWind:
    """Wind from ground velocities and the airspeed [m/s] that the lean says for each piece, (n,).

    For every wind of a net the squares of the airspeeds, which go with the tangent of the lean, are compared with those
    of the lean, their scale free within `LEAN_SCALE_SD`. Pieces in the hover count too. At one ground speed v all
    round, a wind w and one of v²/w differ by nothing but that scale: where it does not part them, both are inside.
    """
    n = len(airspeed_ms)
    if n < LEAST_SAMPLES:
        return NoWind(f"{n} steady pieces of flight with a tilt; {LEAST_SAMPLES} are needed.")
    thin = slice(None, None, -(-n // MOST_PIECES))
    e, s, leaned = pieces.east_ms[thin], pieces.north_ms[thin], airspeed_ms[thin] ** 2
    gx, gy = _net()
    straight = (e - gx[:, None]) ** 2 + (s - gy[:, None]) ** 2
    known = (1 / (2 * LEAN_SCALE_SD)) ** 2
    sd, design, expected, misfit = 0.5, 1.0, leaned, np.empty(len(gx))
    for _ in range(5):
        # What scatters is the lean: by gusts, which also lengthen the airspeed on the whole, and near level.
        scatter = np.sqrt(LEVEL_M2_S2**2 + 4 * sd**2 * expected)
        weight, calmed = 1 / (scatter**2 * design), leaned - 2 * sd**2
        scale = (straight @ (weight * calmed) + known) / (straight**2 @ weight + known)
        left = (calmed - scale[:, None] * straight) / scatter
        tail = np.abs(left) > _HUBER
        square = np.where(tail, 2 * _HUBER * np.abs(left) - _HUBER**2, left**2)
        misfit = square.sum(axis=1) / design + known * np.log(np.maximum(scale, 1e-3)) ** 2
        best = int(misfit.argmin())
        expected = scale[best] * straight[best] + 2 * sd**2
        sd = float(np.clip(sd * 1.4826 * np.median(np.abs(left[best])), 0.1, 3.0))
        along = np.sqrt(straight[best]) + 1e-9
        common = lasting(pieces.time_s[thin], (e - gx[best]) / along, (s - gy[best]) / along)
        design = float(np.abs(common).sum(axis=1).mean())
    free = max(len(e) / design - 3, 1.0)
    law = LAW_SHARE * float(airspeed_ms.mean())
    return _best(_Fit(misfit, free, law), e, s, n, ToldFrom.LEAN)


def wind_by_charge(
    time_s: Floats, east_ms: Floats, north_ms: Floats, climb_ms: Floats, charge_pct: Floats, model: PowerModel
) -> CircleWind | NoWind:
    """Wind for which the charge fell as it did, from ground velocities and climb [m/s] at even times [s], (n,).

    charge_pct: NaN where none was told. For every wind of a net the power is summed up and laid through the readings by
    a line, so that neither health nor consumption matter; told is the wind that fits best, with all that fit about as
    well around it.
    """
    known = np.flatnonzero(np.isfinite(charge_pct))
    # A percentage is read where it changes: in between it says nothing new.
    known = known[np.concatenate([[True], np.diff(charge_pct[known]) != 0])] if known.size else known
    n = len(known)
    if n < LEAST_SAMPLES:
        return NoWind(f"{n} readings of the charge; {LEAST_SAMPLES} are needed.")
    gx, gy = _net()
    step_s = float(time_s[1] - time_s[0])
    lift = np.where(climb_ms > 0.3, np.maximum(climb_ms, 0.0), 0.0)
    read = charge_pct[known]
    misfit = np.empty(len(gx))
    residuals = np.empty((len(gx), n))
    for k, (wx, wy) in enumerate(zip(gx.tolist(), gy.tolist(), strict=True)):
        power = model.path_w(np.hypot(east_ms - wx, north_ms - wy), lift)
        used = np.cumsum(power)[known] * step_s
        centred, fell = used - used.mean(), read - read.mean()
        slope = float(centred @ fell) / float(centred @ centred)
        residuals[k] = fell - slope * centred
        misfit[k] = float(residuals[k] @ residuals[k])
    best = int(misfit.argmin())
    r = residuals[best]
    rho = float(np.clip((r[1:] @ r[:-1]) / max(float(r @ r), 1e-9), 0.0, 0.9))
    free = max((n * (1 - rho) / (1 + rho)) - 4, 1.0)
    variance = max(float(misfit[best]) / max(n - 4, 1), READING_SD_PCT**2) * (1 + rho) / (1 - rho)
    return _best(_Fit(misfit / variance, free), east_ms, north_ms, n, ToldFrom.CHARGE)

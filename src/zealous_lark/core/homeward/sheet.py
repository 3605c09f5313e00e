"""What a flight is flown by, looked up from tables: wind by height, power, the radio's shade, what stands there.

The tables are those of a situation: the same wind, power, battery and radio models that its checks have.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import ArrayLike, NDArray

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import xy
from zealous_lark.core.homeward.turbulence import GUST_SIGMAS
from zealous_lark.core.power import PowerModel
from zealous_lark.core.radio import HAND_HEIGHT_M, leaves_share, noise_db, open_range_m, shade_on
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import Trip

Floats = NDArray[np.float64]

HEIGHT_STEP_M = 5.0
TOP_M = 160.0
WAY_STEP_M = 25.0
AIRSPEED_STEP_MS = 0.25
_FASTEST_MS = 40.0
ROOM_M = 5.0
"""What comes so near to something that stands there, below its top, hits it [m]."""


class Ground(StrEnum):
    """What is under the aircraft: only the open is landed on unharmed."""

    OPEN = "open"
    TREES = "trees"
    WATER = "water"


@dataclass(frozen=True, slots=True)
class Band:
    """Ground from one distance of the pilot to another [m]; beyond all bands it is open."""

    from_m: float
    to_m: float
    ground: Ground


@dataclass(frozen=True, slots=True)
class Stands:
    """Something that stands there: the ends of its footprint [m east and north], its top [m]."""

    ends: tuple[tuple[float, float], tuple[float, float]]
    top_m: float


@dataclass(frozen=True, eq=False)
class Sheet:
    """Tables of a flight. Heights are above the take-off point; the ground is flat.

    east_ms, north_ms, sigma_ms: where the wind goes, and one standard deviation of its gusts, by height. power_w: in
    level flight, by airspeed. loss_db: what stands in the radio's way, by distance and height. margin_1m_db: what the
    link has to spare at one metre in the open.
    """

    situation: Situation
    trip: Trip
    power: PowerModel
    east_ms: Floats
    north_ms: Floats
    sigma_ms: Floats
    power_w: Floats
    loss_db: Floats
    margin_1m_db: float
    stands: tuple[Stands, ...]
    bands: tuple[Band, ...]

    def wind(self, height_m: Floats) -> tuple[Floats, Floats, Floats]:
        """Wind [m/s towards east and north] and standard deviation of its gusts [m/s] at heights [m], same shape."""
        i, f = _at(height_m, HEIGHT_STEP_M, self.east_ms.size)
        return _between(self.east_ms, i, f), _between(self.north_ms, i, f), _between(self.sigma_ms, i, f)

    def forecast(self, height_m: float) -> tuple[float, float]:
        """Wind speed [m/s] and the direction that it comes from [°] at a height [m], before anything goes wrong."""
        east, north, _ = (float(x[0]) for x in self.wind(np.array([height_m])))
        return math.hypot(east, north), math.degrees(math.atan2(-east, -north)) % 360

    def cruise_w(self, airspeed_ms: Floats) -> Floats:
        """Power in level flight [W] at airspeeds [m/s], same shape."""
        return _between(self.power_w, *_at(airspeed_ms, AIRSPEED_STEP_MS, self.power_w.size))

    def shade_db(self, distance_m: Floats, height_m: Floats) -> Floats:
        """Loss [dB] behind what stands on the flight's bearing, to distances and heights [m], same shape."""
        i, f = _at(distance_m, WAY_STEP_M, self.loss_db.shape[0])
        j, g = _at(height_m, HEIGHT_STEP_M, self.loss_db.shape[1])
        low = self.loss_db[i, j] * (1 - g) + self.loss_db[i, j + 1] * g
        high = self.loss_db[i + 1, j] * (1 - g) + self.loss_db[i + 1, j + 1] * g
        return np.asarray(low * (1 - f) + high * f)

    def ground(self, distance_m: float) -> Ground:
        """What is on the ground at a distance from the home point [m]."""
        return next((b.ground for b in self.bands if b.from_m <= distance_m < b.to_m), Ground.OPEN)


def _at(value: Floats, step: float, size: int) -> tuple[NDArray[np.intp], Floats]:
    scaled = np.minimum(np.maximum(value / step, 0.0), size - 1.001)
    index = scaled.astype(np.intp)
    return index, scaled - index


def _between(table: Floats, index: NDArray[np.intp], share: Floats) -> Floats:
    low = table[index]
    return np.asarray(low + share * (table[index + 1] - low))


def sheet_of(a: Assessment, bands: tuple[Band, ...] = ()) -> Sheet:
    """The tables of a situation. Raises ValueError where its wind is not known or it is indoors."""
    s = a.situation
    if a.flyer is None or a.wind is None or a.trip is None:
        raise ValueError("a flight is flown in a wind that is known, outdoors")
    heights = np.arange(0.0, TOP_M + HEIGHT_STEP_M, HEIGHT_STEP_M)
    speed, gust = a.wind.speed_and_gust_ms(np.maximum(heights, 1.0))
    away = np.radians(a.wind.direction_deg(np.maximum(heights, 1.0)) + 180)
    return Sheet(
        situation=s,
        trip=a.trip,
        power=a.flyer.power,
        east_ms=_told(speed * np.sin(away)),
        north_ms=_told(speed * np.cos(away)),
        sigma_ms=_told((gust - speed) / GUST_SIGMAS),
        power_w=_told(a.flyer.power.cruise_w(np.arange(0.0, _FASTEST_MS, AIRSPEED_STEP_MS))),
        loss_db=_losses(s, heights),
        margin_1m_db=20 * math.log10(open_range_m(s)) - noise_db(s.site, s.aircraft.link.band_ghz),
        stands=tuple(Stands(solid.ends, solid.top_m) for solid in a.world.typed if solid.ends is not None),
        bands=bands,
    )


def _losses(s: Situation, heights: Floats) -> Floats:
    far = np.arange(0.0, 2 * s.flight.distance_m + 4 * WAY_STEP_M, WAY_STEP_M)
    shade = shade_on(s.site, s.land, s.flight.bearing_deg, float(far[-1]))
    way, height = (grid.ravel() for grid in np.meshgrid(np.maximum(far, 1.0), np.maximum(heights, HAND_HEIGHT_M),
                                                        indexing="ij"))  # fmt: skip
    loss = shade.loss_db(way, height, s.aircraft.link.band_ghz, leaves_share(s.site))
    return _told(loss.reshape(far.size, heights.size))


def _told(table: Floats) -> Floats:
    """As finely as it is sent to a device, so that both fly by the same numbers."""
    return np.round(table, 4)


def far_end(s: Situation) -> tuple[float, float]:
    """Where the flight turns [m east and north]."""
    x, y = xy(s.flight.bearing_deg, s.flight.distance_m)
    return float(x), float(y)


def apart_m(x: ArrayLike, y: ArrayLike, stands: Stands) -> Floats:
    """Distances of points [m] from something's footprint [m], same shape."""
    (ax, ay), (bx, by) = stands.ends
    dx, dy = bx - ax, by - ay
    length2 = dx * dx + dy * dy
    px, py = np.asarray(x, dtype=float) - ax, np.asarray(y, dtype=float) - ay
    along = np.zeros_like(px) if length2 == 0 else np.minimum(np.maximum((px * dx + py * dy) / length2, 0.0), 1.0)
    return np.asarray(np.hypot(px - along * dx, py - along * dy))

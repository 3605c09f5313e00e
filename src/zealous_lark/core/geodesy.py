"""Where things are: distances and bearings on the ellipsoid, and flat frames around a point.

Lines are geodesics of WGS 84, computed by PROJ and held against geographiclib in the
tests (to a tenth of a millimetre).

References
----------
.. [1] Karney, C. F. F. (2013). Algorithms for geodesics. J. Geodesy 87, 43-55.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import ArrayLike, NDArray

if TYPE_CHECKING:
    from pyproj import Geod

Floats = NDArray[np.float64]


@cache
def _wgs84() -> Geod:
    """The ellipsoid; its library is loaded where something is really measured, which most commands never do."""
    from pyproj import Geod

    return Geod(ellps="WGS84")


def bearing_and_distance(lat1: float, lon1: float, lat2: float, lon2: float) -> tuple[float, float]:
    """Bearing at the first point [°, 0 to 360] and length [m] of the geodesic to the second [1]_.

    >>> bearing, distance = bearing_and_distance(0, 0, 0, 1)
    >>> round(bearing, 3), round(distance)
    (90.0, 111319)
    """
    azimuth, _, distance = _wgs84().inv(lon1, lat1, lon2, lat2)
    return azimuth % 360, distance


def destination(lat: float, lon: float, bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """Latitude and longitude [°] a distance [m] away along a bearing [°] [1]_."""
    lon2, lat2, _ = _wgs84().fwd(lon, lat, bearing_deg, distance_m)
    return lat2, lon2


def xy(bearing_deg: ArrayLike, distance_m: ArrayLike) -> tuple[Floats, Floats]:
    """East and north [m] of points given by bearing [°] and distance [m]."""
    angle, distance = np.radians(bearing_deg), np.asarray(distance_m, dtype=float)
    return np.asarray(distance * np.sin(angle)), np.asarray(distance * np.cos(angle))


def polar(x: ArrayLike, y: ArrayLike) -> tuple[Floats, Floats]:
    """Bearing [°, 0 to 360] and distance [m] of points given east and north [m]."""
    e, n = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
    return np.asarray(np.degrees(np.arctan2(e, n)) % 360), np.asarray(np.hypot(e, n))


@dataclass(frozen=True, slots=True)
class Frame:
    """A flat frame around a point: azimuthal equidistant, x east and y north [m].

    Distances and bearings from the origin are exact; two kilometres from it, lengths
    across are true to a few hundredths of a millimetre in a metre.
    """

    latitude: float
    longitude: float

    def to_xy(self, latitude: ArrayLike, longitude: ArrayLike) -> tuple[Floats, Floats]:
        """East and north [m] of points [°], same shape. The antimeridian is no border."""
        lat, lon = np.broadcast_arrays(np.asarray(latitude, dtype=float), np.asarray(longitude, dtype=float))
        azimuth, _, distance = _wgs84().inv(
            np.full(lat.shape, self.longitude), np.full(lat.shape, self.latitude), lon, lat
        )
        return xy(azimuth, distance)

    def to_geographic(self, x: ArrayLike, y: ArrayLike) -> tuple[Floats, Floats]:
        """Latitude and longitude [°] of points [m], same shape."""
        azimuth, distance = polar(*np.broadcast_arrays(x, y))
        lon, lat, _ = _wgs84().fwd(
            np.full(azimuth.shape, self.longitude), np.full(azimuth.shape, self.latitude), azimuth, distance
        )
        return np.asarray(lat), np.asarray(lon)

    def into(self, other: Frame) -> Shift:
        """How this frame's points stand in another one a few kilometres away."""
        x0, y0 = other.to_xy(self.latitude, self.longitude)
        # Both norths differ by the convergence of the meridians, found from a point due north of here.
        x1, y1 = other.to_xy(*destination(self.latitude, self.longitude, 0, 1000))
        return Shift(float(x0), float(y0), math.atan2(float(x1 - x0), float(y1 - y0)))


@dataclass(frozen=True, slots=True)
class Shift:
    """From one flat frame into another: turned clockwise [rad] and moved [m]."""

    x_m: float
    y_m: float
    turn_rad: float

    def __call__(self, x: ArrayLike, y: ArrayLike) -> tuple[Floats, Floats]:
        """The other frame's coordinates [m], same shape."""
        e, n = np.broadcast_arrays(np.asarray(x, dtype=float), np.asarray(y, dtype=float))
        cos, sin = math.cos(self.turn_rad), math.sin(self.turn_rad)
        return np.asarray(self.x_m + e * cos + n * sin), np.asarray(self.y_m - e * sin + n * cos)

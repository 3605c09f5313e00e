"""Synthetic tracks in a known wind."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.flown.track import Track
from zealous_lark.core.geodesy import Frame

HOME = (58.62, 25.08)
NOISE_M = 0.4


def flown(
    rng: np.random.Generator,
    wind_ms: float,
    wind_from_deg: float,
    headings_deg: NDArray[np.float64],
    airspeed_ms: float = 8.0,
    piece_s: float = 20.0,
    noise_m: float = NOISE_M,
    gust_ms: float = 0.3,
) -> Track:
    """A track of pieces of steady heading in a wind with gusts, a point a second, positions with noise."""
    heading = np.radians(np.repeat(headings_deg, int(piece_s)))
    n = len(heading)
    angle = np.radians(wind_from_deg + 180)
    gust = rng.normal(0, gust_ms, (2, n))
    east = airspeed_ms * np.sin(heading) + wind_ms * np.sin(angle) + gust[0]
    north = airspeed_ms * np.cos(heading) + wind_ms * np.cos(angle) + gust[1]
    x = np.concatenate([[0.0], np.cumsum(east)]) + rng.normal(0, noise_m, n + 1)
    y = np.concatenate([[0.0], np.cumsum(north)]) + rng.normal(0, noise_m, n + 1)
    lat, lon = Frame(*HOME).to_geographic(x, y)
    time = np.arange(n + 1, dtype=float)
    nothing = np.full(n + 1, np.nan)
    return Track(time, lat, lon, np.full(n + 1, 40.0), nothing)


def there_and_back(
    bearing_deg: float = 240.0, distance_m: float = 300.0, height_m: float = 40.0, return_m: float = 50.0,
    station_s: float = 60.0,
) -> Track:  # fmt: skip
    """Up, straight out, a while there, up to the return height, home, down; the charge falls evenly from 98 to 62."""
    there = 10.0 + distance_m / 5
    legs = [
        (0.0, 0.0), (10.0, height_m), (there, height_m), (there + station_s, height_m),
        (there + station_s + 5, return_m), (there + station_s + 5 + distance_m / 10, return_m),
        (there + station_s + 25 + distance_m / 10, 0.0),
    ]  # fmt: skip
    away = [0.0, 0.0, distance_m, distance_m, distance_m, 0.0, 0.0]
    times = np.arange(0.0, legs[-1][0] + 0.5, 1.0)
    d = np.interp(times, [t for t, _ in legs], away)
    h = np.interp(times, [t for t, _ in legs], [z for _, z in legs])
    angle = np.radians(bearing_deg)
    lat, lon = Frame(*HOME).to_geographic(d * np.sin(angle), d * np.cos(angle))
    return Track(times, lat, lon, h, np.linspace(98, 62, len(times)))

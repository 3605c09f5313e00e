"""What a track says: how far, how high, how fast, its legs, the wind it met, the charge it cost.

Positions become east and north of the take-off point; everything else is arithmetic on arrays, so that a hundred
thousand points take a moment.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.flown.wind_circle import CircleWind, NoWind, wind_of
from zealous_lark.core.geodesy import Frame

Floats = NDArray[np.float64]

PIECE_S = 5.0
"""Steady flight is looked for in pieces of so many seconds."""
STEADY_SHARE = 0.15
"""A piece is steady when the velocity in its two halves differs by less than this share of its speed."""
SLOWEST_MS, FASTEST_MS = 2.5, 45.0
WANDER_M = 3.0
"""A position wanders by less than this while an aircraft stands still [practice]; that is no way flown."""
GOING_MS = 1.0
"""An aircraft goes out or home when its distance changes faster than this over `AROUND_S` before and after."""
AROUND_S = 5.0
WORKING_SHARE = 0.5
"""Where it stays or turns beyond this share of the farthest, it is on station; nearer, it is on its way."""
DRAWN_POINTS = 1500
_RETURN_SHARE = 0.6


@dataclass(frozen=True, slots=True)
class Track:
    """Points in order of time. time_s: since the first; height_m: above the first where the file gives one;
    charge_pct: where it gives one. NaN for what a point lacks. Shape (n,) each."""

    time_s: Floats
    latitude: Floats
    longitude: Floats
    height_m: Floats
    charge_pct: Floats


@dataclass(frozen=True, slots=True)
class TrackLeg:
    """A part of one kind: out, station, home. Times [s], farthest distance [m], mean ground speed [m/s]."""

    name: str
    from_s: float
    to_s: float
    length_m: float
    speed_ms: float


@dataclass(frozen=True, slots=True)
class TrackFacts:
    """What a track says; None for what it does not hold.

    return_height_m: flown on the way home (the median). pct_per_100m: charge lost for 100 m of way.
    """

    points: int
    seconds: float
    length_m: float
    farthest_m: float
    farthest_bearing_deg: float
    highest_m: float | None
    fastest_ms: float
    legs: tuple[TrackLeg, ...]
    wind: CircleWind | NoWind
    return_height_m: float | None
    charge_from_pct: float | None
    charge_to_pct: float | None
    pct_per_100m: float | None


@dataclass(frozen=True, slots=True)
class DrawnTrack:
    """A track thinned for drawing: east, north and height [m] of the take-off point, seconds, charge [%].

    latitude, longitude: the take-off point [°], so that the track can stand on a map.
    """

    latitude: float
    longitude: float
    east_m: tuple[float, ...]
    north_m: tuple[float, ...]
    distance_m: tuple[float, ...]
    height_m: tuple[float | None, ...]
    time_s: tuple[float, ...]
    charge_pct: tuple[float | None, ...]


def _flat(track: Track) -> tuple[Floats, Floats]:
    return Frame(float(track.latitude[0]), float(track.longitude[0])).to_xy(track.latitude, track.longitude)


def _pieces(time: Floats, x: Floats, y: Floats) -> tuple[Floats, Floats]:
    """Mean ground velocities [m/s] of the steady pieces: those that keep speed and course, and move."""
    if time[-1] < 3 * PIECE_S:
        return np.empty(0), np.empty(0)
    marks = np.arange(0.0, time[-1], PIECE_S / 2)
    px, py = np.interp(marks, time, x), np.interp(marks, time, y)
    vx, vy = np.diff(px) / (PIECE_S / 2), np.diff(py) / (PIECE_S / 2)
    pairs = len(vx) // 2 * 2
    ax, ay, bx, by = vx[0:pairs:2], vy[0:pairs:2], vx[1:pairs:2], vy[1:pairs:2]
    mx, my = (ax + bx) / 2, (ay + by) / 2
    speed = np.hypot(mx, my)
    steady = (np.hypot(bx - ax, by - ay) < np.maximum(STEADY_SHARE * speed, 0.4)) & (speed > SLOWEST_MS)
    return mx[steady], my[steady]


def _way(x: Floats, y: Floats) -> Floats:
    """Way flown up to each point [m], counted from where it was last seen to have moved on."""
    done, ax, ay = 0.0, float(x[0]), float(y[0])
    found = []
    for px, py in zip(x.tolist(), y.tolist(), strict=True):
        moved = math.hypot(px - ax, py - ay)
        if moved > WANDER_M:
            done, ax, ay = done + moved, px, py
        found.append(done)
    return np.array(found)


def _legs(time: Floats, away: Floats, along: Floats) -> tuple[TrackLeg, ...]:
    """Out until it first stays or turns far out, home from when it last did; what lies between is the station.

    A long look that stands still is part of no way, wherever beyond half of the farthest it is.
    """
    farthest = float(away.max())
    if farthest < 5:
        return ()
    before, after = np.interp(time - AROUND_S, time, away), np.interp(time + AROUND_S, time, away)
    going = (after - before) / np.minimum(2 * AROUND_S, np.maximum(time[-1] - time[0], 1.0))
    beyond = away > WORKING_SHARE * farthest
    far = int(away.argmax())
    stays = np.flatnonzero(beyond & (going < GOING_MS))
    leaves = np.flatnonzero(beyond & (going > -GOING_MS))
    first = min(int(stays[0]), far) if stays.size else far
    last = max(int(leaves[-1]), far) if leaves.size else far
    found = []
    for name, a, b in (("out", 0, first), ("station", first, last), ("home", last, len(time) - 1)):
        seconds = float(time[b] - time[a])
        if seconds > 0:
            length = float(along[b] - along[a])
            found.append(TrackLeg(name, float(time[a]), float(time[b]), length, length / seconds))
    return tuple(found)


def facts_of(track: Track) -> TrackFacts:
    """What a track of two or more points says."""
    time = track.time_s
    x, y = _flat(track)
    along = _way(x, y)
    away = np.hypot(x, y)
    # A second or more, so that one slip of the position is no speed.
    marks = np.arange(0.0, max(float(time[-1]), 2.0), 2.0)
    mx, my = np.interp(marks, time, x), np.interp(marks, time, y)
    smooth = np.hypot(np.diff(mx), np.diff(my)) / 2.0
    far = int(away.argmax())
    high = track.height_m[np.isfinite(track.height_m)]
    legs = _legs(time, away, along)
    home = next((leg for leg in legs if leg.name == "home"), None)
    return_height = None
    if home is not None and high.size:
        part = (time >= home.from_s) & (time <= home.to_s) & (away > (1 - _RETURN_SHARE) * away[far])
        heights = track.height_m[part & np.isfinite(track.height_m)]
        return_height = float(np.median(heights)) if heights.size else None
    known = np.flatnonzero(np.isfinite(track.charge_pct))
    first = last = per_100m = None
    if known.size >= 2:
        first, last = float(track.charge_pct[known[0]]), float(track.charge_pct[known[-1]])
        length = float(along[known[-1]] - along[known[0]])
        per_100m = 100 * (first - last) / length if length > 50 else None
    return TrackFacts(
        points=len(time),
        seconds=float(time[-1]),
        length_m=float(along[-1]),
        farthest_m=float(away[far]),
        farthest_bearing_deg=float(np.degrees(np.arctan2(x[far], y[far])) % 360),
        highest_m=float(high.max()) if high.size else None,
        fastest_ms=float(smooth.max()) if smooth.size else 0.0,
        legs=legs,
        wind=wind_of(*_pieces(time, x, y)),
        return_height_m=return_height,
        charge_from_pct=first,
        charge_to_pct=last,
        pct_per_100m=per_100m,
    )


def drawn(track: Track, points: int = DRAWN_POINTS) -> DrawnTrack:
    """A track with at most about so many points, evenly in time, with the farthest and highest kept."""
    n = len(track.time_s)
    x, y = _flat(track)
    away = np.hypot(x, y)
    keep = set(np.linspace(0, n - 1, min(points, n)).round().astype(int).tolist())
    keep.add(int(away.argmax()))
    if np.isfinite(track.height_m).any():
        keep.add(int(np.nanargmax(track.height_m)))
    at = np.array(sorted(keep))

    def optional(values: Floats) -> tuple[float | None, ...]:
        return tuple(None if np.isnan(v) else round(float(v), 1) for v in values[at])

    return DrawnTrack(
        latitude=float(track.latitude[0]),
        longitude=float(track.longitude[0]),
        east_m=tuple(np.round(x[at], 1).tolist()),
        north_m=tuple(np.round(y[at], 1).tolist()),
        distance_m=tuple(np.round(away[at], 1).tolist()),
        height_m=optional(track.height_m),
        time_s=tuple(np.round(track.time_s[at], 1).tolist()),
        charge_pct=optional(track.charge_pct),
    )

"""What a track says: how far, how high, how fast, its legs, the wind it met, the charge it cost.

Positions become east and north of the take-off point; everything else is arithmetic on arrays, so that a hundred
thousand points take a moment.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.postflight.cleaning import FASTEST_MS, SLACK_M, flyable, good_heights
from zealous_lark.core.postflight.track_wind import GAP_S, covered, wind_of_track
from zealous_lark.core.postflight.wind_circle import CircleWind, NoWind
from zealous_lark.core.power import PowerModel

Floats = NDArray[np.float64]

WANDER_M = 3.0
"""A position wanders by less than this while an aircraft stands still [practice]; that is no way flown."""
AT_THE_PAD_M, AT_THE_PAD_SHARE = 6.0, 0.02
"""Nearer than this to the take-off point, or than this share of the farthest, it is still or again there [practice]."""
GOING_MS = 1.0
"""An aircraft goes out or home when its distance changes faster than this over `AROUND_S` before and after."""
AROUND_S = 5.0
SPEED_S = 2.0
"""A speed is that over so many seconds, so that one slip of the position is none."""
WORKING_SHARE = 0.5
"""Where it stays or turns beyond this share of the farthest, it is on station; nearer, it is on its way."""
DRAWN_POINTS = 1500
_RETURN_SHARE = 0.6


@dataclass(frozen=True, slots=True)
class Track:
    """Points in order of time. time_s: since the first; height_m: above the first where the file gives one;
    charge_pct, tilt_deg: where it gives one. NaN for what a point lacks. Shape (n,) each.

    positions_left_out, heights_left_out: how many of the file could not have been flown.
    """

    time_s: Floats
    latitude: Floats
    longitude: Floats
    height_m: Floats
    charge_pct: Floats
    tilt_deg: Floats | None = None
    positions_left_out: int = 0
    heights_left_out: int = 0


def cleaned(track: Track) -> tuple[Track, float]:
    """A track without the positions and heights that cannot have been flown, heights above the first that can.

    With it the seconds that went from its beginning.
    """
    middle = len(track.time_s) // 2  # the first point may be on the other side of the world
    frame = Frame(float(track.latitude[middle]), float(track.longitude[middle]))
    keep = flyable(
        track.time_s, np.column_stack(frame.to_xy(track.latitude, track.longitude)), FASTEST_MS, SLACK_M
    )  # fmt: skip
    time = track.time_s[keep]
    heights = track.height_m[keep]
    good = good_heights(time, heights)
    known = good[np.isfinite(good)]
    left = Track(
        time - time[0],
        track.latitude[keep],
        track.longitude[keep],
        good - known[0] if known.size else good,
        track.charge_pct[keep],
        None if track.tilt_deg is None else track.tilt_deg[keep],
        int((~keep).sum()),
        int((np.isfinite(heights) & ~np.isfinite(good)).sum()),
    )
    return left, float(time[0] - track.time_s[0])


@dataclass(frozen=True, slots=True)
class TrackLeg:
    """A part of one kind: climb, out, station, home, descent. Times [s], way [m], ground speed while it moved [m/s]."""

    name: str
    from_s: float
    to_s: float
    length_m: float
    speed_ms: float


@dataclass(frozen=True, slots=True)
class TrackFacts:
    """What a track says; None for what it does not hold.

    return_height_m: flown on the way home (the median). pct_per_100m: charge lost for 100 m of way.
    gap_s: time without a point, in gaps of over half a minute, which `seconds` does not count.
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
    gap_s: float = 0.0
    positions_left_out: int = 0
    heights_left_out: int = 0


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


def _legs(time: Floats, x: Floats, y: Floats, along: Floats) -> tuple[TrackLeg, ...]:
    """Up, out until it first stays or turns far out, home from when it last did, and down; between is the station.

    A long look that stands still is part of no way, wherever beyond half of the farthest it is; nor is what was done
    over the take-off point, before it left and after it was back.
    """
    away = np.hypot(x, y)
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
    there = away <= min(max(AT_THE_PAD_M, AT_THE_PAD_SHARE * farthest), WORKING_SHARE * farthest)
    at_first, at_last = np.flatnonzero(there[: first + 1]), np.flatnonzero(there[last:])
    left = int(at_first[-1]) if at_first.size else 0
    back = last + int(at_last[0]) if at_last.size else len(time) - 1
    marks = (0, left, first, last, back, len(time) - 1)
    found = []
    for name, a, b in zip(("climb", "out", "station", "home", "descent"), marks[:-1], marks[1:], strict=True):
        if time[b] > time[a]:
            part = slice(a, b + 1)
            length, speed = float(along[b] - along[a]), _while_moving(time[part], x[part], y[part])
            found.append(TrackLeg(name, float(time[a]), float(time[b]), length, speed))
    return tuple(found)


def _while_moving(time: Floats, x: Floats, y: Floats) -> float:
    """Mean ground speed [m/s] of the pieces of two seconds in which it moved; 0 where it never did."""
    marks = np.append(np.arange(time[0], time[-1], SPEED_S), time[-1])
    step = np.diff(marks)
    moved = np.hypot(np.diff(np.interp(marks, time, x)), np.diff(np.interp(marks, time, y)))
    moving = (moved > GOING_MS * step) & covered(time, marks)
    return float(moved[moving].sum() / step[moving].sum()) if moving.any() else 0.0


def facts_of(track: Track, model: PowerModel | None = None) -> TrackFacts:
    """What a track of two or more points says; model: of the aircraft that flew it, where that is known."""
    time = track.time_s
    x, y = _flat(track)
    along = _way(x, y)
    away = np.hypot(x, y)
    step = np.diff(time)
    gap_s = float(step[step > GAP_S].sum())
    marks = np.arange(0.0, max(float(time[-1]), SPEED_S), SPEED_S)
    mx, my = np.interp(marks, time, x), np.interp(marks, time, y)
    smooth = np.hypot(np.diff(mx), np.diff(my)) / SPEED_S
    far = int(away.argmax())
    high = track.height_m[np.isfinite(track.height_m)]
    legs = _legs(time, x, y, along)
    known = np.flatnonzero(np.isfinite(track.charge_pct))
    first = last = per_100m = None
    if known.size >= 2:
        first, last = float(track.charge_pct[known[0]]), float(track.charge_pct[known[-1]])
        length = float(along[known[-1]] - along[known[0]])
        per_100m = 100 * (first - last) / length if length > 50 else None
    return TrackFacts(
        points=len(time),
        seconds=float(time[-1]) - gap_s,
        length_m=float(along[-1]),
        farthest_m=float(away[far]),
        farthest_bearing_deg=float(np.degrees(np.arctan2(x[far], y[far])) % 360),
        highest_m=float(high.max()) if high.size else None,
        fastest_ms=float(smooth.max()) if smooth.size else 0.0,
        legs=legs,
        wind=wind_of_track(time, x, y, track.height_m, track.charge_pct, track.tilt_deg, model),
        return_height_m=_return_height(time, away, track.height_m, legs),
        charge_from_pct=first,
        charge_to_pct=last,
        pct_per_100m=per_100m,
        gap_s=gap_s,
        positions_left_out=track.positions_left_out,
        heights_left_out=track.heights_left_out,
    )


def _return_height(time: Floats, away: Floats, height: Floats, legs: tuple[TrackLeg, ...]) -> float | None:
    """The median height [m] of the farther part of the way home."""
    home = next((leg for leg in legs if leg.name == "home"), None)
    if home is None:
        return None
    part = (time >= home.from_s) & (time <= home.to_s) & (away > (1 - _RETURN_SHARE) * away.max())
    heights = height[part & np.isfinite(height)]
    return float(np.median(heights)) if heights.size else None


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

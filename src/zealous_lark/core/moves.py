"""Planned moves: automatic shots with the shape they sweep, their time and their charge.

They fly sideways, backwards and upwards, where nothing on the aircraft looks: the whole
swept shape has to be clear before anybody presses the button.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.geodesy import Frame, xy
from zealous_lark.core.land import LATERAL_M, Land
from zealous_lark.core.place import Role
from zealous_lark.core.power import PowerModel
from zealous_lark.core.situation import Move, MoveKind
from zealous_lark.core.world import Solid

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Swept:
    """What a move sweeps and costs.

    x, y, z: points along it, east, north and above the take-off point [m]. seconds, wh: as flown in
    the wind. gap_m: least height over what stands under it or beside it, NaN over unknown ground.
    nearest_people_m, farthest_m: from people's areas, and from the pilot. highest_agl_m: over the ground.
    meets: what sets the gap.
    """

    move: Move
    x: Floats
    y: Floats
    z: Floats
    seconds: float
    wh: float
    gap_m: float
    meets: str
    nearest_people_m: float
    farthest_m: float
    highest_agl_m: float

    @property
    def shape(self) -> BaseGeometry:
        """Its outline on the ground, widened by what a position may be off."""
        points = np.column_stack([self.x, self.y])
        line = LineString(points) if np.ptp(points, axis=0).max() > 0.01 else Point(points[0])
        return line.buffer(LATERAL_M)


_STEP_M = 3.0


def path(move: Move, frame: Frame) -> tuple[Floats, Floats, Floats]:
    """East, north and height [m] along a move, three metres apart or closer."""
    sx, sy = (float(v) for v in frame.to_xy(move.latitude, move.longitude))
    if move.kind is MoveKind.ORBIT:
        round_m = 2 * math.pi * move.size_m
        turned = np.linspace(0, 360 * move.turns, max(13, math.ceil(round_m * move.turns / _STEP_M)))
        dx, dy = xy(move.bearing_deg + turned, move.size_m)
        return sx + dx, sy + dy, move.height_m + move.climb_m * turned / max(360 * move.turns, 1e-9)
    first, length = {
        MoveKind.TOP_DOWN: (0.0, 0.0),
        MoveKind.RISE: (move.size_m, 0.0),
        MoveKind.PULL_AWAY: (move.size_m, move.length_m),
        MoveKind.STRAIGHT: (-move.length_m / 2, move.length_m),
    }[move.kind]
    east, north = (float(v) for v in xy(move.bearing_deg, 1.0))
    last = first + length
    return _between(
        (sx + first * east, sy + first * north, move.height_m),
        (sx + last * east, sy + last * north, move.height_m + move.climb_m),
    )


def _between(a: tuple[float, float, float], b: tuple[float, float, float]) -> tuple[Floats, Floats, Floats]:
    n = max(2, math.ceil(math.dist(a, b) / _STEP_M) + 1)
    t = np.linspace(0, 1, n)
    x, y, z = (p + (q - p) * t for p, q in zip(a, b, strict=True))
    return x, y, z


def cost(
    x: Floats, y: Floats, z: Floats, speed_ms: float, power: PowerModel, wind: tuple[float, float]
) -> tuple[float, float]:
    """Seconds and energy [Wh] of a path at a ground speed [m/s]; wind: speed [m/s] and direction it comes from [°]."""
    dx, dy, dz = np.diff(x), np.diff(y), np.diff(z)
    length = np.sqrt(dx**2 + dy**2 + dz**2)
    seconds = length / speed_ms
    safe = np.where(seconds > 0, seconds, 1.0)
    # The air moves towards where the wind goes; airspeed is ground speed less that.
    towards = math.radians(wind[1] + 180)
    vx, vy = dx / safe - wind[0] * math.sin(towards), dy / safe - wind[0] * math.cos(towards)
    climbing = np.maximum(dz / safe, 0.0)
    watts = power.path_w(np.hypot(vx, vy), climbing)
    return float(seconds.sum()), float((watts * seconds).sum() / 3600)


def sweep(move: Move, land: Land, power: PowerModel, wind: tuple[float, float], typed: tuple[Solid, ...] = ()) -> Swept:
    """A move over a place, in a wind; typed: what the plan names beside what is drawn."""
    x, y, z = path(move, land.frame)
    seconds, wh = cost(x, y, z, move.speed_ms, power, wind)
    ground, drawn_top, drawn_names = _under(move, land)
    top, names = drawn_top.copy(), list(drawn_names)
    for solid in typed:
        for i in np.flatnonzero(~(solid.top_m <= top)):
            if solid.apart_m((float(x[i]), float(y[i]))) <= LATERAL_M:
                top[i], names[i] = solid.top_m, f"the {solid.called}"
    gaps = z - top
    worst = int(np.argmin(np.where(np.isnan(gaps), -np.inf, gaps)))
    line = Swept(move, x, y, z, 0, 0, 0, "", 0, 0, 0).shape
    people = [d.shape.distance(line) for d in land.of(Role.PEOPLE)]
    return Swept(
        move=move,
        x=x,
        y=y,
        z=z,
        seconds=seconds,
        wh=wh,
        gap_m=float(gaps[worst]),
        meets=names[worst],
        nearest_people_m=min(people, default=math.inf),
        farthest_m=float(np.sqrt(x**2 + y**2 + z**2).max()),
        highest_agl_m=float(np.nanmax(z - ground)) if not np.isnan(ground).all() else float(z.max()),
    )


@lru_cache(maxsize=64)
def _under(move: Move, land: Land) -> tuple[Floats, Floats, tuple[str, ...]]:
    """Ground, highest thing [m] and its name under and beside each point of a move."""
    x, y, _ = path(move, land.frame)
    ground = land.ground_at(x, y)
    top, names = ground.copy(), ["the ground"] * len(x)
    for drawn in land.obstacles:
        feature = drawn.feature
        inside = drawn.wide.contains(x, y)
        for i in np.flatnonzero(inside & ~(ground + feature.height_m <= top)):
            top[i] = ground[i] + feature.height_m
            names[i] = feature.name or str(feature.kind)
    return ground, top, tuple(names)

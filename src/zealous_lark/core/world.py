"""One world of obstacles: what is typed, seen on the look-round, drawn, and the ground itself.

Checks, fixes, moves, take-off suggestions and the section ask here what stands where; the radio path asks the
plan's own list and the rays of the place for the same things. Metres east and north of the take-off point; tops
are above it.

Assumptions
-----------
=====================  ==================================================================
drawn                  over a map or terrain, a few metres off: 10 m of spread at the least, as all
typed, seen            paced: 10 % of the distance and 5° off, so it widens with distance
typed wires            100 m either way, square to their bearing; a wall from the ground up
typed depth            along the bearing, away from the pilot
=====================  ==================================================================

All of it is common practice, no published source.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString
from shapely.geometry import Point as ShapelyPoint

from zealous_lark.core.geodesy import polar, xy
from zealous_lark.core.land import Land
from zealous_lark.core.obstacles import Known, Obstacle, ObstacleKind
from zealous_lark.core.surface import SURFACE_NAME

Point = tuple[float, float]

WIRES_HALF_M = 100.0
"""Typed wires run so far either way from their nearest point [m]."""
LEAST_SPREAD_M = 10.0
"""Everything may stand so far off where it is said to [m]."""
EDGE_M = 1e-6
"""Distances are told apart no finer than this [m], so that a turned world is judged alike."""
SPREAD_SHARE = 0.1
"""What is paced may be off by this share of its distance; 5° of bearing are less."""
UPWIND_DEG = 45.0
"""What stands so far off the wind's own direction still shelters [°]."""
SHELTER_HEIGHTS = 10.0
"""Trees and walls shelter a meter up to this many of their heights downwind."""
STRIP_M = 2.5
GROUND = "the ground"


@dataclass(frozen=True, eq=False)
class Solid:
    """Something that stands there: its kind, its name in a sentence, its top, and how far off it may be [m].

    ends: a typed one's footprint as a line, and obstacle: as it was typed; None for what is drawn and for the ground.
    height_assumed: whether nobody has said how high it is.
    """

    kind: ObstacleKind
    called: str
    known: Known
    top_m: float
    spread_m: float
    ends: tuple[Point, Point] | None = None
    obstacle: Obstacle | None = None
    height_assumed: bool = False

    @property
    def how_known(self) -> str:
        """How well it is known, in words."""
        if self.called == SURFACE_NAME:
            return "as its file has it"
        return f"{self.known}, its height assumed" if self.height_assumed else str(self.known)

    def apart_m(self, point: Point) -> float:
        """Distance of a point from a typed one [m]."""
        assert self.ends is not None
        return _to_segment(point, *self.ends)[0]


@dataclass(frozen=True, slots=True)
class Near:
    """A solid beside a way: its distance from the way, its top there [m], and how far along the way it comes [m].

    loosely: only within the room if it stands elsewhere than it is said to.
    """

    solid: Solid
    distance_m: float
    top_m: float
    along_m: float
    loosely: bool


def typed(obstacle: Obstacle) -> Solid:
    """What the plan names, as a solid."""
    b = math.radians(obstacle.bearing_deg)
    east, north = math.sin(b), math.cos(b)
    x, y = obstacle.distance_m * east, obstacle.distance_m * north
    if obstacle.kind is ObstacleKind.WIRES:
        ends = (
            (x - WIRES_HALF_M * north, y + WIRES_HALF_M * east),
            (x + WIRES_HALF_M * north, y - WIRES_HALF_M * east),
        )
    else:
        far = obstacle.distance_m + obstacle.depth_m
        ends = ((x, y), (far * east, far * north))
    paced = 0.0 if obstacle.known is Known.DRAWN else SPREAD_SHARE * obstacle.distance_m
    spread = max(LEAST_SPREAD_M, paced)
    return Solid(
        obstacle.kind, obstacle.called, obstacle.known, obstacle.height_m, spread, ends=ends, obstacle=obstacle
    )


@dataclass(frozen=True, eq=False)
class World:
    """Everything that stands around a take-off point. land: what is drawn, None where nothing is.

    One and the same in every weather and at every time, so that what was looked up once is known: see `world_of`.
    """

    named: tuple[Obstacle, ...]
    land: Land | None

    @cached_property
    def typed(self) -> tuple[Solid, ...]:
        return tuple(typed(o) for o in self.named if o.height_m > 0)

    def beside(self, a: Point, b: Point, room_m: float) -> list[Near]:
        """What comes within a room [m] of the way from a to b, or may, as it is not known well; nearest first.

        Where the terrain is known, the ground that rises over the take-off point is one of them, and the highest thing
        of the surface model.
        """
        return list(_beside(self, a, b, room_m))

    def typed_beside(self, a: Point, b: Point, room: float) -> Iterator[Near]:
        """As `beside`, of what the plan names alone."""
        for solid in self.typed:
            assert solid.ends is not None
            distance, along = _apart(a, b, *solid.ends)
            if distance <= room + solid.spread_m + EDGE_M:
                yield Near(solid, distance, solid.top_m, along, distance > room + EDGE_M)

    def drawn_beside(self, a: Point, b: Point, room: float) -> Iterator[Near]:
        """As `beside`, of what is drawn alone."""
        land = self.land
        if land is None or not land.obstacles:
            return
        way = LineString([a, b]) if a != b else ShapelyPoint(a)
        distances = shapely.distance(land.obstacle_shapes, way)
        for i in np.flatnonzero(distances <= room + LEAST_SPREAD_M):
            drawn, distance = land.obstacles[i], float(distances[i])
            top = land.top_near(int(i), way, room + LEAST_SPREAD_M)
            kind = drawn.feature.kind or ObstacleKind.BUILDING
            at = shapely.shortest_line(way, drawn.shape).coords[0]
            feature = drawn.feature
            solid = Solid(kind, feature.name or str(kind), Known.DRAWN, top, LEAST_SPREAD_M,
                          height_assumed=feature.height_assumed)  # fmt: skip
            yield Near(solid, distance, top, math.dist(a, at), distance > room)

    def ground_beside(self, a: Point, b: Point, room: float) -> Iterator[Near]:
        """As `beside`, of the ground alone."""
        land = self.land
        if land is None or not land.has_terrain:
            return
        x, y = _band(a, b, room)
        heights = land.ground_at(x, y)
        if np.isnan(heights).all():
            return
        i = int(np.nanargmax(heights))
        top = float(heights.flat[i])
        if top > 0:
            solid = Solid(ObstacleKind.TERRAIN, GROUND, Known.DRAWN, top, 0.0)
            yield Near(solid, 0.0, top, math.dist(a, (float(x.flat[i]), float(y.flat[i]))), False)

    def surface_beside(self, a: Point, b: Point, room: float) -> Iterator[Near]:
        """As `beside`, of what the surface model shows."""
        land = self.land
        if land is None or land.surface is None:
            return
        x, y = _strip(a, b, room)
        for around in (False, True):
            over = land.surface.over_ground(x, y, around=around)
            if not (over > 0).any():
                continue
            tops = np.where(over > 0, over + land.ground_at(x, y), -np.inf)
            i = int(np.argmax(tops))
            at = float(x.flat[i]), float(y.flat[i])
            apart, along = _apart(a, b, at, at)
            # Half a cell further away it may be within the room, and may not.
            spread = LEAST_SPREAD_M if around else 0.0
            solid = Solid(ObstacleKind.TREES, SURFACE_NAME, Known.DRAWN, float(tops.flat[i]), spread)
            yield Near(solid, apart, solid.top_m, along, around)

    def unknown_ground(self, a: Point, b: Point) -> float:
        """Share of the ground along a way that the terrain does not know, 0 to 1; 0 without a terrain."""
        return 0.0 if self.land is None or not self.land.has_terrain else _unknown_ground(self.land, a, b)

    def around(self, distance_m: float) -> tuple[Obstacle, ...]:
        """What a return from anywhere within a distance [m] may meet: the typed, the highest drawn, the ground."""
        named = tuple(o for o in self.named if o.distance_m <= distance_m)
        return named if self.land is None else (*named, *self.land.highest_within(distance_m))

    def seen_from(self, x: float, y: float) -> tuple[Obstacle, ...]:
        """What the plan names, as it stands from another take-off point [m]; tops are kept."""
        moved = []
        for o in self.named:
            ox, oy = (float(v) for v in xy(o.bearing_deg, o.distance_m))
            bearing, distance = (float(v) for v in polar(ox - x, oy - y))
            moved.append(replace(o, bearing_deg=bearing, distance_m=distance))
        return tuple(moved)

    def shelter_top_m(self, towards_deg: float) -> float:
        """Height [m] under which a meter at the take-off point stands in the lee, in wind from a direction [°]."""
        rows = [
            (o.height_m, o.distance_m, o.bearing_deg)
            for o in self.named
            if o.kind in (ObstacleKind.TREES, ObstacleKind.BUILDING)
        ]
        tops = [
            top
            for top, distance, bearing in rows
            if distance <= SHELTER_HEIGHTS * top and abs((bearing - towards_deg + 180) % 360 - 180) <= UPWIND_DEG
        ]
        if self.land is not None:
            tops.append(self.land.lee_top_m(towards_deg, SHELTER_HEIGHTS, UPWIND_DEG))
            if self.land.surface is not None:
                tops.append(self.land.surface.lee_top_m(towards_deg, SHELTER_HEIGHTS, UPWIND_DEG))
        return max(tops, default=0.0)


@lru_cache(maxsize=64)
def world_of(named: tuple[Obstacle, ...], land: Land | None) -> World:
    """The world of what a plan names and what is drawn: the same one for the same things."""
    return World(named, land)


@lru_cache(maxsize=2048)
def _beside(world: World, a: Point, b: Point, room: float) -> tuple[Near, ...]:
    found = [
        *world.typed_beside(a, b, room),
        *world.drawn_beside(a, b, room),
        *world.surface_beside(a, b, room),
        *world.ground_beside(a, b, room),
    ]
    return tuple(sorted(found, key=lambda n: n.distance_m))


@lru_cache(maxsize=2048)
def _unknown_ground(land: Land, a: Point, b: Point) -> float:
    return float(np.isnan(land.ground_at(*_band(a, b, 0.0))).mean())


def _apart(a: Point, b: Point, c: Point, d: Point) -> tuple[float, float]:
    """Least distance between two segments, and how far along the first one it is."""
    ux, uy, vx, vy = b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]
    length, cross = math.hypot(ux, uy), ux * vy - uy * vx
    if abs(cross) > 1e-9:
        t = ((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / cross
        s = ((c[0] - a[0]) * uy - (c[1] - a[1]) * ux) / cross
        if 0 <= t <= 1 and 0 <= s <= 1:
            return 0.0, t * length
    ends = [(_to_segment(a, c, d)[0], 0.0), (_to_segment(b, c, d)[0], length)]
    ends += [(distance, t * length) for distance, t in (_to_segment(c, a, b), _to_segment(d, a, b))]
    return min(ends)


def _to_segment(p: Point, a: Point, b: Point) -> tuple[float, float]:
    """Distance of a point from a segment, and where on it, 0 to 1."""
    ux, uy = b[0] - a[0], b[1] - a[1]
    square = ux * ux + uy * uy
    t = 0.0 if square == 0 else min(1.0, max(0.0, ((p[0] - a[0]) * ux + (p[1] - a[1]) * uy) / square))
    return math.hypot(p[0] - a[0] - t * ux, p[1] - a[1] - t * uy), t


def _strip(a: Point, b: Point, room: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Points on and beside a way, and round its ends, no further apart than the cells of a surface model."""
    length = max(math.dist(a, b), 1e-9)
    east, north = (b[0] - a[0]) / length, (b[1] - a[1]) / length
    along = np.linspace(-room, length + room, max(2, math.ceil((length + 2 * room) / STRIP_M) + 1))
    across = np.linspace(-room, room, max(1, 2 * math.ceil(room / STRIP_M) + 1))
    t, side = (v.ravel() for v in np.meshgrid(along, across))
    past = np.maximum(np.maximum(-t, t - length), 0.0)
    near = np.hypot(past, side) <= room + 1e-6
    t, side = t[near], side[near]
    return a[0] + t * east + side * north, a[1] + t * north - side * east


def _band(a: Point, b: Point, room: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Points on a way, five metres apart, on it and on both sides; round a point, a ring."""
    length = math.dist(a, b)
    if length < 0.01:
        turned = np.radians(np.arange(0.0, 360.0, 30.0))
        x = np.concatenate([[a[0]], a[0] + room * np.sin(turned), a[0] + room / 2 * np.sin(turned)])
        y = np.concatenate([[a[1]], a[1] + room * np.cos(turned), a[1] + room / 2 * np.cos(turned)])
        return x, y
    t = np.linspace(0.0, 1.0, max(2, math.ceil(length / 5) + 1))
    east, north = (b[0] - a[0]) / length, (b[1] - a[1]) / length
    sides = np.array([[0.0], [-room], [room]]) if room > 0 else np.array([[0.0]])
    x = a[0] + t[None, :] * (b[0] - a[0]) + sides * north
    y = a[1] + t[None, :] * (b[1] - a[1]) - sides * east
    return x, y

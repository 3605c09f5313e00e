"""A place as it stands around one take-off point, in metres east and north of it.

Tops are above the take-off point. What a ray from the take-off point meets is sampled
every five metres; shapes are widened by what a position may be off before they count as
in the way.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray
from shapely.geometry import LineString, Point, box
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.areas import Area
from zealous_lark.core.geodesy import Frame, Shift, polar, xy
from zealous_lark.core.obstacles import RADIO_CLEAR, Obstacle, ObstacleKind
from zealous_lark.core.place import Feature, Place, Role, Zone, flattened
from zealous_lark.core.surface import FARTHEST_M, SURFACE_NAME, SurfaceSeen

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

STEP_M = 5.0
"""Spacing of the samples along a ray [m]."""
LATERAL_M = 10.0
"""How far off the line something still counts as in the way [m]: positions are a few metres off; common practice."""
THIN_M = 3.0
"""Half width given to lines and points where the line itself counts, as for the radio [m]."""
OF_THE_SURFACE = -2
_GRID_M = 10.0
_LENGTHS_M = (500.0, 1500.0, FARTHEST_M)


@dataclass(frozen=True, eq=False)
class Drawn:
    """A feature flattened: its shape, the same widened by `LATERAL_M`, and what the radio meets of it."""

    feature: Feature
    shape: BaseGeometry
    wide: Area
    thin: Area


@dataclass(frozen=True, eq=False)
class Ray:
    """What lies along a bearing; all arrays have one entry a sample.

    distance_m: from the take-off point. ground_m: above the take-off point, NaN where unknown.
    top_m: highest thing in the way, the ground included. solid_m: the same on the line itself without
    trees. trees: where trees stand on the line itself; tree_top_m: their tops, −inf where none.
    culprit: index into `Land.obstacles` of what sets the top, −1 for the ground, `OF_THE_SURFACE` for what only the
    surface model knows. surface_m: tops in the way after the surface model, NaN where it shows nothing.
    """

    bearing_deg: float
    distance_m: Floats
    ground_m: Floats
    top_m: Floats
    solid_m: Floats
    tree_top_m: Floats
    culprit: NDArray[np.intp]
    surface_m: Floats

    @property
    def known(self) -> Bools:
        """Where the ground is known."""
        return ~np.isnan(self.ground_m)

    def within(self, distance_m: float) -> Ray:
        """The part up to a distance [m]."""
        n = int(np.searchsorted(self.distance_m, distance_m + 1e-9, side="right"))
        return Ray(
            self.bearing_deg,
            self.distance_m[:n],
            self.ground_m[:n],
            self.top_m[:n],
            self.solid_m[:n],
            self.tree_top_m[:n],
            self.culprit[:n],
            self.surface_m[:n],
        )


@dataclass(frozen=True, eq=False)
class Land:
    """A place seen from a take-off point [°]; elevation_m is used where its terrain does not know the ground."""

    place: Place
    latitude: float
    longitude: float
    elevation_m: float

    @cached_property
    def frame(self) -> Frame:
        return Frame(self.latitude, self.longitude)

    @cached_property
    def _shift(self) -> Shift | None:
        terrain = self.place.terrain
        return None if terrain is None else self.frame.into(terrain.frame)

    @property
    def has_terrain(self) -> bool:
        return self.place.terrain is not None

    def elevation_at(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Ground above sea level [m] at points [m]; NaN in voids, outside, and without a terrain."""
        terrain, shift = self.place.terrain, self._shift
        if terrain is None or shift is None:
            return np.full(np.broadcast(x, y).shape, np.nan)
        return terrain.sample(*shift(x, y))

    @cached_property
    def takeoff_elevation_m(self) -> float:
        """Ground under the take-off point above sea level [m]: the terrain's, or else the plan's."""
        known = float(self.elevation_at(0.0, 0.0))
        return self.elevation_m if np.isnan(known) else known

    def ground_at(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Ground above the take-off point [m]; level land where there is no terrain, NaN where it has a hole."""
        if not self.has_terrain:
            return np.zeros(np.broadcast(x, y).shape)
        return self.elevation_at(x, y) - self.takeoff_elevation_m

    @cached_property
    def surface(self) -> SurfaceSeen | None:
        """What the place's surface model shows; None without one, and without the ground under it."""
        model = self.place.surface
        if model is None or not self.has_terrain:
            return None
        return SurfaceSeen(model, self.frame, self.ground_at, self.takeoff_elevation_m)

    def slope_at(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Steepest slope of the ground [°]; NaN where not known."""
        terrain, shift = self.place.terrain, self._shift
        if terrain is None or shift is None:
            return np.full(np.broadcast(x, y).shape, np.nan)
        return terrain.slope_deg(*shift(x, y))

    @cached_property
    def drawn(self) -> tuple[Drawn, ...]:
        """Every feature within reach, flattened; airfields however far, as rules name distances beyond any reach."""
        around = Point(0, 0).buffer(FARTHEST_M)
        found = []
        for feature in self.place.features:
            shape = flattened(feature.geometry, self.frame)
            if feature.role is Role.AIRFIELD or shape.intersects(around):
                thin = shape.buffer(THIN_M) if shape.area == 0 else shape
                found.append(Drawn(feature, shape, Area.of(shape.buffer(LATERAL_M)), Area.of(thin)))
        return tuple(found)

    def of(self, *roles: Role) -> tuple[Drawn, ...]:
        """The drawn things that stand for something."""
        return tuple(d for d in self.drawn if d.feature.role in roles)

    @cached_property
    def obstacles(self) -> tuple[Drawn, ...]:
        return self.of(Role.OBSTACLE)

    @cached_property
    def obstacle_shapes(self) -> NDArray[np.object_]:
        """The obstacles' shapes, in their order."""
        return np.array([d.shape for d in self.obstacles], dtype=object)

    def top_near(self, index: int, way: BaseGeometry, within_m: float) -> float:
        """Top of an obstacle above the take-off point [m] where it is within a distance [m] of a way."""
        height = self.obstacles[index].feature.height_m
        if not self.has_terrain:
            return height
        x, y, top = self._tops_of[index]
        near = shapely.distance(shapely.points(x, y), way)
        return float(top[near <= max(within_m, float(near.min()) + 1e-6)].max())

    @cached_property
    def _tops_of(self) -> tuple[tuple[Floats, Floats, Floats], ...]:
        """For each obstacle its points, and their tops above the take-off point [m]."""
        rows = []
        for drawn in self.obstacles:
            x, y = points_of(drawn.shape)
            ground = self.ground_at(x, y)
            rows.append((x, y, np.where(np.isnan(ground), 0.0, ground) + drawn.feature.height_m))
        return tuple(rows)

    def lee_top_m(self, towards_deg: float, heights: float, within_deg: float) -> float:
        """Top [m] of the highest trees or building upwind within so many of its heights; 0 for none."""
        distance, bearing, top, index = self._tops
        if not distance.size:
            return 0.0
        shelters = np.array([d.feature.kind in (ObstacleKind.TREES, ObstacleKind.BUILDING) for d in self.obstacles])
        off = np.abs((bearing - towards_deg + 180) % 360 - 180)
        lee = shelters[index] & (distance <= heights * top) & ((off <= within_deg) | (distance < 1))
        return float(top[lee].max()) if lee.any() else 0.0

    @cached_property
    def zones(self) -> tuple[tuple[Zone, BaseGeometry], ...]:
        """Zones within reach, flattened."""
        near = box(-FARTHEST_M, -FARTHEST_M, FARTHEST_M, FARTHEST_M)
        flat = ((zone, flattened(zone.geometry, self.frame)) for zone in self.place.zones)
        return tuple((zone, shape) for zone, shape in flat if shape.intersects(near))

    # --- along a bearing -------------------------------------------------------------

    def ray(self, bearing_deg: float, upto_m: float) -> Ray:
        """What lies along a bearing up to a distance [m], `FARTHEST_M` at most."""
        return self.rays([bearing_deg], upto_m)[0]

    def rays(self, bearings_deg: Sequence[float], upto_m: float) -> list[Ray]:
        """What lies along several bearings, sampled in one go."""
        # Rays are cut from a few lengths, so that a dragged distance does not sample again.
        longest = next((x for x in _LENGTHS_M if x >= upto_m), FARTHEST_M)
        sampled = _rays(self, tuple(float(b) % 360 for b in bearings_deg), longest)
        return [ray.within(min(upto_m, FARTHEST_M)) for ray in sampled]

    def _sampled(self, bearings: Floats, distance: Floats) -> list[Ray]:
        x, y = xy(bearings[:, None], distance[None, :])
        ground = self.ground_at(x, y)
        level = np.where(np.isnan(ground), 0.0, ground)
        top, solid = level.copy(), level.copy()
        trees = np.full(x.shape, -np.inf)
        culprit = np.full(x.shape, -1, dtype=np.intp)
        surface = wide_surface = np.full(x.shape, np.nan)
        if self.surface is not None:
            surface, wide_surface = self.surface.tops_along(x, y, bearings, LATERAL_M)
            stands = wide_surface > top
            top[stands], culprit[stands] = wide_surface[stands], OF_THE_SURFACE
        for i, drawn in enumerate(self.obstacles):
            feature = drawn.feature
            wide = drawn.wide.contains(x, y)
            at = np.flatnonzero(wide)
            if not at.size:
                continue
            tops = level.flat[at] + feature.height_m
            higher = tops > top.flat[at]
            top.flat[at[higher]], culprit.flat[at[higher]] = tops[higher], i
            # Only what lies in the wide shape can lie in the thin one.
            on_line = drawn.thin.contains(x.flat[at], y.flat[at])
            where, thin_tops = at[on_line], tops[on_line]
            if feature.kind in RADIO_CLEAR:
                continue
            target = trees if feature.kind is ObstacleKind.TREES else solid
            target.flat[where] = np.maximum(target.flat[where], thin_tops)
        # In a wood that is drawn it is the wood's tops that were measured; elsewhere it may be a roof, the stricter.
        higher = ~np.isnan(surface)
        in_trees = higher & np.isfinite(trees)
        trees[in_trees] = np.maximum(trees[in_trees], surface[in_trees])
        alone = higher & ~in_trees
        solid[alone] = np.maximum(solid[alone], surface[alone])
        return [
            Ray(float(b), distance, ground[n], top[n], solid[n], trees[n], culprit[n], wide_surface[n])
            for n, b in enumerate(bearings)
        ]

    def crossings(self, ray: Ray) -> list[tuple[Drawn, Bools]]:
        """The obstacles in the way of a ray, each with where along it they are."""
        x, y = xy(ray.bearing_deg, ray.distance_m)
        found = ((drawn, drawn.wide.contains(x, y)) for drawn in self.obstacles)
        return [(drawn, inside) for drawn, inside in found if inside.any()]

    # --- around the take-off point -----------------------------------------------------

    @cached_property
    def _tops(self) -> tuple[Floats, Floats, Floats, NDArray[np.intp]]:
        """Obstacles as points: distance, bearing, top above the take-off point, index; nearest first."""
        rows = []
        for i, (x, y, top) in enumerate(self._tops_of):
            bearing, distance = polar(x, y)
            rows.append(np.vstack([distance, bearing, top, np.full(x.shape, float(i))]))
        if not rows:
            none = np.zeros(0)
            return none, none, none, none.astype(np.intp)
        joined = np.hstack(rows)
        distance, bearing, top, index = joined[:, np.argsort(joined[0], kind="stable")]
        return distance, bearing, top, index.astype(np.intp)

    @cached_property
    def _ground_rings(self) -> tuple[Floats, Floats, Floats]:
        """Per ring around the take-off point, one cell wide: highest known ground, its bearing and its distance."""
        terrain = self.place.terrain
        none = np.zeros(0)
        if terrain is None:
            return none, none, none
        back = terrain.frame.into(self.frame)
        rows, columns = terrain.heights.shape
        e = terrain.west_m + (np.arange(columns) + 0.5) * terrain.cell_m
        n = terrain.north_m - (np.arange(rows) + 0.5) * terrain.cell_m
        x, y = (v.ravel() for v in back(e[None, :], n[:, None]))
        height = terrain.heights.ravel() - self.takeoff_elevation_m
        distance = np.hypot(x, y)
        near = (distance <= FARTHEST_M) & ~np.isnan(height)
        x, y, height, distance = x[near], y[near], height[near], distance[near]
        ring = np.ceil(distance / terrain.cell_m).astype(np.intp)
        count = int(ring.max()) + 1 if ring.size else 0
        highest = np.full(count, -np.inf)
        np.maximum.at(highest, ring, height)
        peaks = np.flatnonzero(height == highest[ring])
        bearing, away = np.zeros(count), np.zeros(count)
        bearing[ring[peaks]], away[ring[peaks]] = polar(x[peaks], y[peaks])
        return highest, bearing, away

    def highest_within(self, distance_m: float) -> tuple[Obstacle, ...]:
        """The highest obstacle, top of the surface model and ground within a distance [m], where there is any."""
        found: list[Obstacle] = []
        distance, bearing, top, index = self._tops
        n = int(np.searchsorted(distance, distance_m, side="right"))
        if n:
            i = int(np.argmax(top[:n]))
            feature = self.obstacles[index[i]].feature
            kind = feature.kind or ObstacleKind.BUILDING
            found.append(Obstacle(kind, float(top[i]), float(distance[i]), float(bearing[i]), name=feature.name))
        if self.surface is not None:
            found += self.surface.highest_within(distance_m)
        highest, towards, away = self._ground_rings
        if highest.size and self.place.terrain is not None:
            rings = 1 + int(np.ceil(distance_m / self.place.terrain.cell_m))
            i = int(np.argmax(highest[:rings]))
            if highest[i] > 0:
                found.append(
                    Obstacle(ObstacleKind.TERRAIN, float(highest[i]), float(away[i]), float(towards[i]), name="ground")
                )
        return tuple(found)

    def unknown_share(self, distance_m: float) -> float:
        """Share of the ground within a distance [m] that the terrain does not know, 0 to 1; 0 without a terrain."""
        terrain = self.place.terrain
        if terrain is None or distance_m <= 0:
            return 0.0
        return _unknown_share(self, distance_m)

    def lowest_ground_on(self, bearing_deg: float, distance_m: float) -> float:
        """Lowest ground along the way [m above the take-off point], 0 at most."""
        ground = self.ray(bearing_deg, distance_m).ground_m
        known = ground[~np.isnan(ground)]
        return float(min(0.0, known.min())) if known.size else 0.0

    def standing_at(self, bearing_deg: float, distance_m: float) -> Feature | None:
        """What the top at a distance [m] on a bearing belongs to; None for the ground."""
        ray = self.ray(bearing_deg, distance_m)
        at = int(np.argmin(np.abs(ray.distance_m - distance_m)))
        index = int(ray.culprit[at])
        if index == OF_THE_SURFACE:
            over = float(ray.top_m[at] - np.nan_to_num(ray.ground_m[at]))
            return Feature("", Role.OBSTACLE, SURFACE_NAME, Point(0, 0), ObstacleKind.TREES, over)
        return None if index < 0 else self.obstacles[index].feature

    def leg(self, bearing_deg: float, distance_m: float) -> LineString:
        """The way out as a line."""
        x, y = xy(bearing_deg, distance_m)
        return LineString([(0, 0), (float(x), float(y))])

    @cached_property
    def water(self) -> BaseGeometry:
        """All water that is drawn."""
        return shapely.union_all([d.shape for d in self.of(Role.WATER)])

    @cached_property
    def towards_water_deg(self) -> float | None:
        """Bearing [°] from the take-off point to the nearest water; None without any, and on it."""
        if self.water.is_empty or self.water.contains(Point(0, 0)):
            return None
        x, y = shapely.shortest_line(Point(0, 0), self.water).coords[1]
        return float(polar(x, y)[0])

    def water_m(self, bearing_deg: float, distance_m: float) -> float:
        """How much of the way out [m] lies over water."""
        if self.water.is_empty:
            return 0.0
        return _water_m(self, bearing_deg, distance_m)


@lru_cache(maxsize=1024)
def _water_m(land: Land, bearing_deg: float, distance_m: float) -> float:
    return float(land.water.intersection(land.leg(bearing_deg, distance_m)).length)


@lru_cache(maxsize=256)
def _unknown_share(land: Land, distance_m: float) -> float:
    return float(np.isnan(land.elevation_at(*_disc(distance_m))).mean())


@lru_cache(maxsize=400)
def _rays(land: Land, bearings_deg: tuple[float, ...], longest_m: float) -> tuple[Ray, ...]:
    """Rays of a place, kept outside of it: many threads read a place, and none may change it."""
    return tuple(land._sampled(np.array(bearings_deg), np.arange(0.0, longest_m + STEP_M / 2, STEP_M)))


def points_of(shape: BaseGeometry) -> tuple[Floats, Floats]:
    """A shape as points: along its edges and over its inside, ten metres apart, the nearest to the origin included."""
    edge = shapely.get_coordinates(shapely.segmentize(shape, _GRID_M))
    nearest = shapely.get_coordinates(shapely.shortest_line(Point(0, 0), shape))[1:]
    points = np.vstack([edge, nearest])
    if shape.area > 0:
        west, south, east, north = shape.bounds
        step = max(_GRID_M, (east - west) / 150, (north - south) / 150)
        x, y = (a.ravel() for a in np.meshgrid(np.arange(west, east, step), np.arange(south, north, step)))
        inside = Area.of(shape).contains(x, y)
        points = np.vstack([points, np.column_stack([x[inside], y[inside]])])
    return points[:, 0], points[:, 1]


def _disc(radius_m: float) -> tuple[Floats, Floats]:
    """Points spread evenly over a disc around the take-off point."""
    bearings = np.arange(0.0, 360.0, 15.0)
    rings = radius_m * np.sqrt((np.arange(12) + 0.5) / 12)
    return xy(bearings[:, None], rings[None, :])

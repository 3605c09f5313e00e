"""A surface model, seen from a take-off point: tree tops and roofs over the ground, whoever drew them or not.

Cells are five metres or more and hold their highest point, so that points half a cell apart miss nothing.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from propcache.api import cached_property

from zealous_lark.core.geodesy import Frame, Shift, polar
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.terrain import Terrain

Floats = NDArray[np.float64]

FARTHEST_M = 5_000.0
"""Nothing further than this from the take-off point is looked at [m]."""
STANDS_M = 2.0
"""What the surface model has so far over the ground stands there [m]; less is grass, and the noise of both models."""
SURFACE_NAME = "trees or roofs of the surface model"


@dataclass(frozen=True, eq=False)
class SurfaceSeen:
    """ground_at: the ground above the take-off point [m] at points of the frame [m], NaN where not known."""

    model: Terrain
    frame: Frame
    ground_at: Callable[[ArrayLike, ArrayLike], Floats]
    takeoff_elevation_m: float

    @cached_property
    def _shift(self) -> Shift:
        return self.frame.into(self.model.frame)

    def over_ground(self, x: ArrayLike, y: ArrayLike, *, around: bool = True) -> Floats:
        """What stands at points [m above the ground]: 0 for open ground, NaN where not known.

        around: in the cells half a cell away too, so that points one cell apart miss nothing.
        """
        tops = self.model.highest if around else self.model.cell
        over = tops(*self._shift(x, y)) - self.takeoff_elevation_m - self.ground_at(x, y)
        return np.where(over >= STANDS_M, over, np.where(np.isnan(over), np.nan, 0.0))

    def middle_m(self, within_m: float = 1_000.0) -> float:
        """Middle of the surface's heights over the ground [m], over what is known within a distance; NaN for nothing.

        About nought over open country, some metres in a wood; far under it the two count heights from elsewhere.
        """
        axis = np.arange(-within_m, within_m + 1, 25.0)
        x, y = axis[None, :], axis[:, None]
        over = self.model.cell(*self._shift(x, y)) - self.takeoff_elevation_m - self.ground_at(x, y)
        known = over[~np.isnan(over)]
        return float(np.median(known)) if known.size else float("nan")

    def tops_along(self, x: Floats, y: Floats, bearings: Floats, beside_m: float) -> tuple[Floats, Floats]:
        """Tops of what stands along bearings [°], above the take-off point [m], NaN for none; shape of x and y.

        On the lines themselves, and the highest within a distance [m] beside them.
        """
        across = np.radians(bearings + 90)[:, None]

        def tops(side: float) -> Floats:
            px, py = x + side * np.sin(across), y + side * np.cos(across)
            over = self.over_ground(px, py)
            return np.where(over > 0, over + self.ground_at(px, py), np.nan)

        line = tops(0.0)
        sides = [tops(side) for side in (-beside_m, -beside_m / 2, beside_m / 2, beside_m)]
        return line, np.asarray(np.fmax.reduce([line, *sides]))

    @cached_property
    def _points(self) -> tuple[Floats, Floats, Floats]:
        """Cells in which something stands: distance, bearing, top above the take-off point; nearest first."""
        rows, columns = self.model.heights.shape
        e = self.model.west_m + (np.arange(columns) + 0.5) * self.model.cell_m
        n = self.model.north_m - (np.arange(rows) + 0.5) * self.model.cell_m
        x, y = (v.ravel() for v in self.model.frame.into(self.frame)(e[None, :], n[:, None]))
        top = self.model.heights.ravel().astype(float) - self.takeoff_elevation_m
        distance = np.hypot(x, y)
        stands = (top - self.ground_at(x, y) >= STANDS_M) & (distance <= FARTHEST_M)
        x, y, top, distance = x[stands], y[stands], top[stands], distance[stands]
        order = np.argsort(distance, kind="stable")
        bearing, away = polar(x[order], y[order])
        return np.asarray(away, dtype=float), np.asarray(bearing, dtype=float), top[order]

    def highest_within(self, distance_m: float) -> list[Obstacle]:
        """The highest that stands no further out than a distance [m], or nothing."""
        away, towards, top = self._points
        n = int(np.searchsorted(away, distance_m, side="right"))
        if not n:
            return []
        i = int(np.argmax(top[:n]))
        return [Obstacle(ObstacleKind.TREES, float(top[i]), float(away[i]), float(towards[i]), name=SURFACE_NAME)]

    def lee_top_m(self, towards_deg: float, heights: float, within_deg: float) -> float:
        """Top [m] of the highest that stands upwind within so many of its heights; 0 for none."""
        away, bearing, top = self._points
        off = np.abs((bearing - towards_deg + 180) % 360 - 180)
        lee = (away <= heights * top) & ((off <= within_deg) | (away < 1))
        return float(top[lee].max()) if lee.any() else 0.0

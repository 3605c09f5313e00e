"""Terrain: heights of the ground on a square grid around a point.

A cell without a height is a void: it is unknown, never zero.

References
----------
.. [1] Horn, B. K. P. (1981). Hill shading and the reflectance map. Proc. IEEE 69(1).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from propcache.api import cached_property

from zealous_lark.core.geodesy import Frame

Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Terrain:
    """Heights above mean sea level [m] in a flat frame; NaN is a void.

    heights: shape (rows, columns), northernmost row first. west_m, north_m: the grid's outer
    corner in the frame [m]. cell_m: side of a cell [m]. name: where it comes from.
    """

    name: str
    frame: Frame
    cell_m: float
    west_m: float
    north_m: float
    heights: NDArray[np.float32]

    @property
    def void_share(self) -> float:
        """Share of the cells without a height, 0 to 1."""
        return float(np.isnan(self.heights).mean())

    def sample(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Height [m] at points of the frame [m], linear between the centres of four cells.

        NaN outside, and where one of the four is a void.
        """
        e, n = np.broadcast_arrays(np.asarray(x, dtype=float), np.asarray(y, dtype=float))
        column = (e - self.west_m) / self.cell_m - 0.5
        row = (self.north_m - n) / self.cell_m - 0.5
        rows, columns = self.heights.shape
        inside = (column >= 0) & (row >= 0) & (column <= columns - 1) & (row <= rows - 1)
        c = np.clip(np.floor(np.where(inside, column, 0)).astype(np.intp), 0, max(columns - 2, 0))
        r = np.clip(np.floor(np.where(inside, row, 0)).astype(np.intp), 0, max(rows - 2, 0))
        right, down = np.minimum(c + 1, columns - 1), np.minimum(r + 1, rows - 1)
        fx, fy = np.where(inside, column, 0) - c, np.where(inside, row, 0) - r
        h = self.heights
        top = h[r, c] * (1 - fx) + h[r, right] * fx
        bottom = h[down, c] * (1 - fx) + h[down, right] * fx
        return np.where(inside, top * (1 - fy) + bottom * fy, np.nan)

    def cell(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Height [m] of the cells that points of the frame [m] lie in; NaN outside and in voids."""
        return self._picked(x, y, (0,))

    def highest(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """The highest of the cell that a point of the frame [m] lies in and those half a cell away from it.

        For tops: between a tree and the field beside it there is no slope on which half a tree stands. Voids count as
        nothing, and all of them as unknown.
        """
        return self._picked(x, y, (-0.5, 0.5))

    def _picked(self, x: ArrayLike, y: ArrayLike, off: tuple[float, ...]) -> Floats:
        e, n = np.broadcast_arrays(np.asarray(x, dtype=float), np.asarray(y, dtype=float))
        rows, columns = self.heights.shape
        found = []
        for right in off:
            for up in off:
                column = np.floor((e - self.west_m) / self.cell_m + right).astype(np.intp)
                row = np.floor((self.north_m - n) / self.cell_m + up).astype(np.intp)
                inside = (column >= 0) & (row >= 0) & (column < columns) & (row < rows)
                height = self.heights[np.where(inside, row, 0), np.where(inside, column, 0)].astype(float)
                found.append(np.where(inside, height, np.nan))
        return np.asarray(np.fmax.reduce(found))

    @cached_property
    def _gradient(self) -> tuple[Floats, Floats]:
        """Rise to the east and to the north, per metre; NaN beside a void."""
        padded = np.pad(self.heights.astype(float), 1, mode="edge")
        a, b, c = padded[:-2, :-2], padded[:-2, 1:-1], padded[:-2, 2:]
        d, f = padded[1:-1, :-2], padded[1:-1, 2:]
        g, h, i = padded[2:, :-2], padded[2:, 1:-1], padded[2:, 2:]
        east = ((c + 2 * f + i) - (a + 2 * d + g)) / (8 * self.cell_m)
        north = ((a + 2 * b + c) - (g + 2 * h + i)) / (8 * self.cell_m)
        return east, north

    def slope_deg(self, x: ArrayLike, y: ArrayLike) -> Floats:
        """Steepest slope [°] at points [m], of the cell they lie in; NaN outside and beside voids."""
        e, n = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
        rows, columns = self.heights.shape
        column = np.floor((e - self.west_m) / self.cell_m).astype(np.intp)
        row = np.floor((self.north_m - n) / self.cell_m).astype(np.intp)
        inside = (column >= 0) & (row >= 0) & (column < columns) & (row < rows)
        gx, gy = self._gradient
        r, c = np.where(inside, row, 0), np.where(inside, column, 0)
        return np.where(inside, np.degrees(np.arctan(np.hypot(gx[r, c], gy[r, c]))), np.nan)

    def hillshade(self, azimuth_deg: float = 315.0, elevation_deg: float = 45.0, stretch: float = 2.0) -> Floats:
        """Shade, 0 dark to 1 lit, for a light from an azimuth and elevation [°] [1]_; NaN where not known.

        stretch: how much heights are exaggerated, so that gentle land shows its shape.
        """
        gx, gy = self._gradient
        zenith, azimuth = math.radians(90 - elevation_deg), math.radians(azimuth_deg)
        east, north = gx * stretch, gy * stretch
        towards = -(east * math.sin(azimuth) + north * math.cos(azimuth))
        lit = (math.cos(zenith) + math.sin(zenith) * towards) / np.sqrt(1 + east**2 + north**2)
        return np.asarray(np.clip(lit, 0, 1))

    def corners(self) -> tuple[float, float, float, float]:
        """South, west, north and east [°] of the box around the grid."""
        rows, columns = self.heights.shape
        east, south = self.west_m + columns * self.cell_m, self.north_m - rows * self.cell_m
        lat, lon = self.frame.to_geographic(
            [self.west_m, east, self.west_m, east], [self.north_m, self.north_m, south, south]
        )
        return float(lat.min()), float(lon.min()), float(lat.max()), float(lon.max())

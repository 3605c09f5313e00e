"""The sea beside a coastline, as map data draw it: a line with the land on its left and the water on its right.

The side is that of the map project's own documentation, from memory.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Polygon

_ASIDE = 1e-7
"""How far beside a line it is looked for water [° or m, as the lines are]: less than any shore is exact."""


def sea(coasts: Sequence[LineString], window: Polygon) -> shapely.Geometry:
    """The water within a window, right of the coastlines that come into it; empty where none does.

    Lines and window are in the same plane. A coast that ends inside the window shuts nothing off: there is no telling
    the sea from the land behind it, and none is drawn. Where lines contradict each other it is water.
    """
    lines = [part for coast in coasts for part in shapely.get_parts(coast.intersection(window))]
    lines = [part for part in lines if part.geom_type == "LineString" and part.length > 0]
    if not lines:
        return Polygon()
    # As one net, so that pieces of a coast that meet on the window's edge shut it off together.
    net = shapely.union_all([window.exterior, *lines])
    faces, cuts, dangles, _ = shapely.polygonize_full(list(shapely.get_parts(net)))
    right = shapely.points(_beside(lines))
    for loose in (cuts, dangles):
        right = right[shapely.is_empty(loose) | (shapely.distance(right, loose) > 2 * _ASIDE)]
    wet = [face for face in shapely.get_parts(faces) if shapely.contains_properly(face, right).any()]
    return shapely.union_all(wet) if wet else Polygon()


def _beside(lines: Sequence[LineString]) -> NDArray[np.float64]:
    """A point right of the middle of each piece of each line."""
    found = []
    for line in lines:
        at = shapely.get_coordinates(line)
        along = np.diff(at, axis=0)
        long = np.hypot(along[:, 0], along[:, 1])
        middle = (at[:-1] + at[1:]) / 2
        across = np.column_stack([along[:, 1], -along[:, 0]])
        found.append((middle + _ASIDE * across / np.maximum(long, 1e-12)[:, None])[long > 0])
    return np.concatenate(found)

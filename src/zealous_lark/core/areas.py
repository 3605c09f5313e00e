"""Areas that any number of threads may ask at once whether points lie in them.

shapely prepares a single shape by itself when it is asked about points, and releases the interpreter's lock meanwhile.
A prepared shape of GEOS may be asked by one thread at a time only: two that ask at once corrupt the heap, with GEOS
3.14 also when the shape was prepared and asked before (`tests/soak/shape_race.py`). So an `Area` has a shape of its
own, which nobody else sees, and a lock.

References
----------
.. [1] GEOS, C API: a prepared geometry builds its indexes at the first question that needs them (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from threading import Lock

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]


@dataclass(frozen=True, eq=False, slots=True)
class Area:
    """A shape to be asked about points. Make one by `Area.of`."""

    _shape: BaseGeometry
    _bounds: tuple[float, float, float, float]
    _one_at_a_time: Lock = field(default_factory=Lock)

    @classmethod
    def of(cls, shape: BaseGeometry) -> Area:
        """The area of a shape, which is copied."""
        own = shapely.from_wkb(shapely.to_wkb(shape))
        shapely.prepare(own)
        return cls(own, own.bounds)

    def contains(self, x: Floats, y: Floats) -> Bools:
        """Which points lie inside, in the shape of `x` and `y`; those outside its box are not asked."""
        west, south, east, north = self._bounds
        near = (x >= west) & (x <= east) & (y >= south) & (y <= north)
        found = np.zeros(x.shape, dtype=bool)
        if near.any():
            with self._one_at_a_time:
                found[near] = shapely.contains_xy(self._shape, x[near], y[near])
        return found

"""A place as a small drawing: what a list shows beside its name."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from shapely import simplify

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.place import Role
from zealous_lark.plan.place import PlacePart
from zealous_lark.services.places import centre

NEAR_M = 1_500.0
"""What lies further from the middle is left out: it would make all the rest too small to see."""
FINE_M = 2.0
MOST = 80
_DRAWN_FIRST = (Role.WATER, Role.OBSTACLE, Role.PEOPLE, Role.SUBJECT, Role.LANDING, Role.TAKEOFF)


@dataclass(frozen=True, slots=True)
class Sketched:
    """One drawn thing: its role, its shape, its corners east and north of the middle [m]."""

    role: Role
    shape: str
    points: tuple[tuple[float, float], ...]


def sketch(place: PlacePart) -> tuple[Sketched, ...]:
    """What of a place is worth a small drawing, what lies below first; nothing where nothing is drawn."""
    at = centre(place)
    if at is None:
        return ()
    frame = Frame(*at)
    found = []
    for feature in place.features:
        if feature.role not in _DRAWN_FIRST:
            continue
        shape = simplify(feature.geometry(), FINE_M / 111_000)
        corners = np.asarray(shape.exterior.coords if feature.shape == "area" else shape.coords)
        x, y = frame.to_xy(corners[:, 1], corners[:, 0])
        if np.hypot(x, y).min() > NEAR_M:
            continue
        points = tuple((round(float(a), 1), round(float(b), 1)) for a, b in zip(x, y, strict=True))
        found.append(Sketched(feature.role, feature.shape, points))
    return tuple(sorted(found, key=lambda s: _DRAWN_FIRST.index(s.role))[:MOST])

"""Heights of drawn things out of a surface model: what it shows over the ground where they stand."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zealous_lark.core.land import Drawn, Land, points_of
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Role
from zealous_lark.core.surface import SurfaceSeen

TALLEST_BUT = 95.0
"""Percentile of an area's tops that counts as its height: a single bird, wire or crane is not the wood [%]."""
LEAST_KNOWN = 0.5
"""Of an area so much must be known at the least."""
LOWEST_M = 2.0


@dataclass(frozen=True, slots=True)
class Measured:
    """A drawn thing by its id, its height as drawn and as measured over the ground [m], and how much of it is known."""

    id: str
    name: str
    kind: ObstacleKind
    drawn_m: float
    measured_m: float
    known: float


def measured(land: Land) -> tuple[Measured, ...]:
    """What the surface model says of each drawn wood, building and mast that it shows at all; wires it cannot see."""
    if land.surface is None:
        return ()
    found = (_one(land.surface, drawn) for drawn in land.obstacles if drawn.feature.kind is not ObstacleKind.WIRES)
    return tuple(m for m in found if m is not None)


def _one(surface: SurfaceSeen, drawn: Drawn) -> Measured | None:
    feature = drawn.feature
    x, y = points_of(drawn.shape)
    area = drawn.shape.area > 0
    # A point or a row of trees was drawn a few metres off; of an area the edge stands outside as often as inside.
    over = surface.over_ground(x, y, around=not area)
    known = ~np.isnan(over)
    if not known.any() or known.mean() < LEAST_KNOWN or feature.role is not Role.OBSTACLE:
        return None
    tops = over[known & (over > 0)]
    if not tops.size:
        return None
    height = float(np.percentile(tops, TALLEST_BUT)) if area else float(tops.max())
    if height < LOWEST_M:
        return None
    kind = feature.kind or ObstacleKind.BUILDING
    return Measured(feature.id, feature.name, kind, feature.height_m, round(height, 1), float(known.mean()))

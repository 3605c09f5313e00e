"""What stands in the way: its kind, and where its top is."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class ObstacleKind(StrEnum):
    TREES = "trees"
    BUILDING = "building"
    WIRES = "wires"
    MAST = "mast"
    TERRAIN = "terrain"


RADIO_CLEAR = frozenset({ObstacleKind.WIRES, ObstacleKind.MAST})
"""What shades no radio: wires, and masts of lattice."""


class Known(StrEnum):
    """How well it is known where something stands: drawn over a map, paced and typed, or seen on the look-round."""

    DRAWN = "drawn"
    TYPED = "typed"
    SEEN = "seen"


@dataclass(frozen=True, slots=True)
class Obstacle:
    """Something that stands up: top above the take-off point [m], where it is, how deep it is, its own name."""

    kind: ObstacleKind
    height_m: float
    distance_m: float
    bearing_deg: float
    depth_m: float = 0.0
    name: str = ""
    known: Known = Known.TYPED

    @property
    def called(self) -> str:
        """Its own name, or what it is."""
        return self.name or str(self.kind)

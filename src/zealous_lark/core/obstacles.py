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


@dataclass(frozen=True, slots=True)
class Obstacle:
    """Something that stands up: top above the take-off point [m], where it is, how deep it is, its own name."""

    kind: ObstacleKind
    height_m: float
    distance_m: float
    bearing_deg: float
    depth_m: float = 0.0
    name: str = ""

    @property
    def called(self) -> str:
        """Its own name, or what it is."""
        return self.name or str(self.kind)

"""A place: what stands and lies there, drawn once and used by every session.

Shapes are longitude and latitude [°]; heights are above the ground [m].
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.terrain import Terrain


class Role(StrEnum):
    """What a drawn shape stands for."""

    TAKEOFF = "takeoff"
    SUBJECT = "subject"
    OBSTACLE = "obstacle"
    WATER = "water"
    PEOPLE = "people"
    LANDING = "landing"
    AIRFIELD = "airfield"
    NOTE = "note"


class Restriction(StrEnum):
    """How a zone restricts flying, strictest first."""

    PROHIBITED = "prohibited"
    AUTHORISATION = "authorisation"
    CONDITIONAL = "conditional"
    INFORMATION = "information"


class HeightReference(StrEnum):
    """What a zone's vertical limit is counted from."""

    GROUND = "ground"
    SEA_LEVEL = "sea_level"


@dataclass(frozen=True)
class Feature:
    """One drawn thing. height_m: above the ground [m]. radius_m: of an airfield [m], None: by the rules.

    height_assumed: whether the height is only the usual one of its kind.
    """

    id: str
    role: Role
    name: str
    geometry: BaseGeometry
    kind: ObstacleKind | None = None
    height_m: float = 0.0
    radius_m: float | None = None
    note: str = ""
    height_assumed: bool = False


@dataclass(frozen=True)
class Zone:
    """A volume of air with rules of its own.

    upper_m: None where the source does not say. begins, ends: when it is in force, None: always.
    """

    name: str
    geometry: BaseGeometry
    restriction: Restriction
    lower_m: float = 0.0
    lower_from: HeightReference = HeightReference.GROUND
    upper_m: float | None = None
    upper_from: HeightReference = HeightReference.GROUND
    begins: datetime | None = None
    ends: datetime | None = None
    authority: str = ""
    message: str = ""

    def in_force(self, begin: datetime, end: datetime) -> bool:
        """Whether it is in force at some time of a flight."""
        return (self.begins is None or self.begins <= end) and (self.ends is None or self.ends >= begin)


@dataclass(frozen=True, eq=False)
class Place:
    """zones_looked_at: when the pilot looked the zones up, None: never.

    surface: heights with tree tops and roofs, beside the terrain, which has the ground.
    """

    name: str
    features: tuple[Feature, ...] = ()
    zones: tuple[Zone, ...] = ()
    zones_looked_at: date | None = None
    terrain: Terrain | None = None
    surface: Terrain | None = None


_LONG_EDGE_DEG = 0.02


def flattened(geometry: BaseGeometry, frame: Frame) -> BaseGeometry:
    """A shape in a flat frame [m]; shapes across the antimeridian come out whole.

    Edges are straight in longitude and latitude (RFC 7946, section 3.1.1), which they are
    not in the frame; long ones are cut first.
    """

    def unwrapped(points: NDArray[np.float64]) -> NDArray[np.float64]:
        lon = (points[:, 0] - frame.longitude + 180) % 360 - 180 + frame.longitude
        return np.column_stack([lon, points[:, 1]])

    def flat(points: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.column_stack(frame.to_xy(points[:, 1], points[:, 0]))

    whole = shapely.transform(geometry, unwrapped)
    if whole.length == 0 and not whole.is_empty:
        # A line that was drawn with two taps on one spot: it stands where it was begun.
        whole = shapely.Point(shapely.get_coordinates(whole)[0])
    return shapely.transform(shapely.segmentize(whole, _LONG_EDGE_DEG), flat)

"""What the tags of open map data mean to a pilot: what is drawn, in which group, how high where nobody says.

The tags are those of the map project's own documentation, from memory.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Role
from zealous_lark.core.units import METRES_PER_FOOT

_STOREY_M = 3.0


class MapGroup(StrEnum):
    """What is reviewed together, the most dangerous first."""

    WIRES = "wires"
    TALL = "tall"
    BUILDINGS = "buildings"
    TREES = "trees"
    WATER = "water"
    AIRFIELDS = "airfields"
    BUSY_WAYS = "busy_ways"
    PATHS = "paths"
    ASK = "ask"


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a thing on the map is drawn as. height_m: usual for its kind, where the data give none."""

    group: MapGroup
    role: Role
    called: str
    kind: ObstacleKind | None = None
    height_m: float = 0.0
    note: str = ""


_TALL = {
    "mast": ("mast", 40.0), "communications_tower": ("radio tower", 60.0), "tower": ("tower", 25.0),
    "chimney": ("chimney", 40.0), "water_tower": ("water tower", 30.0), "crane": ("crane", 40.0),
    "silo": ("silo", 15.0), "flagpole": ("flagpole", 10.0), "lighthouse": ("lighthouse", 25.0),
}  # fmt: skip
_BUILDINGS = {
    "house": 8.0, "detached": 8.0, "cabin": 5.0, "hut": 4.0, "shed": 4.0, "garage": 4.0, "garages": 4.0,
    "carport": 3.0, "farm_auxiliary": 7.0, "barn": 9.0, "greenhouse": 4.0, "church": 25.0, "chapel": 12.0,
    "apartments": 15.0, "industrial": 10.0, "warehouse": 10.0, "hotel": 15.0, "silo": 15.0,
}  # fmt: skip
WIRE_KINDS = {"line": ("power line", 30.0), "minor_line": ("small power line", 10.0)}
_BY_VOLTAGE = ((100_000, 35.0), (200_000, 50.0), (350_000, 65.0))
"""From so many volts on, wires hang as high as this [m]; from memory, the upper end of what is usual."""
_BUSY = frozenset({"motorway", "trunk", "primary", "secondary", "tertiary", "motorway_link", "trunk_link"})
_QUIET = frozenset(
    {"unclassified", "residential", "living_street", "service", "pedestrian", "track", "path", "footway", "cycleway",
     "bridleway", "steps"}
)  # fmt: skip


def meaning_of(tags: Mapping[str, str]) -> Meaning | None:
    """What the tags of a thing mean to a pilot; None for what does not."""
    obstacle, get = Role.OBSTACLE, tags.get
    power, made, natural, land = get("power"), get("man_made"), get("natural"), get("landuse")
    if get("location") in ("underground", "underwater") or get("tunnel") in ("yes", "culvert"):
        return None
    if power in WIRE_KINDS:
        called, height = WIRE_KINDS[power]
        height = max([height, *(high for volts, high in _BY_VOLTAGE if _voltage(tags) >= volts)])
        return Meaning(MapGroup.WIRES, obstacle, called, ObstacleKind.WIRES, height)
    if get("communication") == "line" or (power == "cable" and get("location") in ("overhead", "overground")):
        return Meaning(MapGroup.WIRES, obstacle, "overhead line", ObstacleKind.WIRES, 10.0)
    if get("aerialway") and get("aerialway") not in ("station", "pylon"):
        return Meaning(MapGroup.WIRES, obstacle, "cableway", ObstacleKind.WIRES, 20.0)
    if get("generator:source") == "wind":
        return Meaning(MapGroup.TALL, obstacle, "wind turbine", ObstacleKind.MAST, 150.0)
    if power in ("tower", "portal"):
        return Meaning(MapGroup.TALL, obstacle, "pylon", ObstacleKind.MAST, 32.0)
    if power in ("pole", "catenary_mast") or made == "utility_pole" or get("aerialway") == "pylon":
        return Meaning(MapGroup.TALL, obstacle, "pole", ObstacleKind.MAST, 10.0)
    if made in _TALL:
        called, height = _TALL[made]
        return Meaning(MapGroup.TALL, obstacle, called, ObstacleKind.MAST, height)
    building = get("building")
    if building and building != "no":
        return Meaning(MapGroup.BUILDINGS, obstacle, "building", ObstacleKind.BUILDING, _BUILDINGS.get(building, 8.0))
    if natural == "wood" or land == "forest":
        return Meaning(MapGroup.TREES, obstacle, "wood", ObstacleKind.TREES, 18.0)
    if natural in ("tree_row", "tree"):
        return Meaning(MapGroup.TREES, obstacle, "tree" if natural == "tree" else "tree row", ObstacleKind.TREES, 12.0)
    if natural in ("water", "coastline") or get("waterway") == "riverbank" or land in ("reservoir", "basin"):
        return Meaning(MapGroup.WATER, Role.WATER, "Water")
    if get("aeroway") in ("aerodrome", "helipad", "heliport"):
        return Meaning(MapGroup.AIRFIELDS, Role.AIRFIELD, "Helipad" if "heli" in tags["aeroway"] else "Airfield")
    if get("highway") in _BUSY:
        return Meaning(MapGroup.BUSY_WAYS, Role.PEOPLE, "Road")
    if get("railway") in ("rail", "light_rail", "tram", "narrow_gauge"):
        return Meaning(MapGroup.BUSY_WAYS, Role.PEOPLE, "Railway")
    if get("highway") in _QUIET:
        return Meaning(MapGroup.PATHS, Role.PEOPLE, "Path or small road")
    if get("leisure") == "nature_reserve" or get("boundary") in ("protected_area", "national_park"):
        return Meaning(
            MapGroup.ASK, Role.NOTE, "Nature reserve", note="Ask who looks after it whether you may fly here."
        )
    if land == "military" or get("military"):
        return Meaning(MapGroup.ASK, Role.NOTE, "Military land", note="Ask before you fly near it.")
    return None


def _voltage(tags: Mapping[str, str]) -> int:
    """The highest voltage of a line [V]; 0 where none is given."""
    return max((int(v) for v in re.findall(r"\d{1,7}", tags.get("voltage", ""))), default=0)


_LENGTH = re.compile(r"\s*(\d{1,4}(?:[.,]\d{1,3})?)\s*(m|ft|'|)\s*$")


def length_m(text: str | None) -> float | None:
    """A height as map data write it [m]; None for none, or what cannot be one.

    >>> length_m("12.5 m"), length_m("40 ft"), length_m("high"), length_m("0")
    (12.5, 12.192, None, None)
    """
    found = _LENGTH.match(text or "")
    if found is None:
        return None
    value = float(found[1].replace(",", ".")) * (METRES_PER_FOOT if found[2] in ("ft", "'") else 1.0)
    return round(value, 3) if 0.5 <= value <= 900 else None


def height_of(tags: Mapping[str, str], usual_m: float) -> tuple[float, bool]:
    """Height of a thing [m], and whether it was assumed: as given, by its storeys, or as is usual for its kind."""
    given = length_m(tags.get("height")) or length_m(tags.get("est_height"))
    if given is not None:
        return given, False
    storeys = length_m(tags.get("building:levels"))
    if storeys is not None:
        return round(storeys * _STOREY_M, 1), True
    return usual_m, True

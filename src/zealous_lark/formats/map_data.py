"""Open map data around a point: what stands, lies and flies there, out of an OpenStreetMap extract (.osm, .osm.pbf).

The tags are those of the project's own documentation, from memory. Where the data give no height, a usual one of its
kind stands in; it is kept as assumed, until somebody has seen the thing.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

import numpy as np
import osmium
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.ops import polygonize

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Role, flattened
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.plan.place import FeaturePart, OriginPart, read_digest

SOURCE = "OpenStreetMap"
ATTRIBUTION = "© OpenStreetMap contributors, ODbL"
AIRFIELDS_WITHIN_M = 10_000.0
"""Aerodromes matter from further away than what stands in the way [m]."""
_ALLOWED = "an OpenStreetMap extract: .osm or .osm.pbf, not packed"
_MOST_POINTS, _TOLERANCE_M, _PLACES = 4_000, 1.0, 7
_NEAR_ENOUGH_M = 5_000.0
"""How far a small thing may be from its own first point [m]: nobody's house is longer."""
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


@dataclass(frozen=True, slots=True)
class Found:
    """One thing as it would be drawn, its group, and how far from the point it comes [m]."""

    feature: FeaturePart
    group: MapGroup
    distance_m: float


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
_WIRES = {"line": ("power line", 30.0), "minor_line": ("small power line", 10.0)}
_BY_VOLTAGE = ((100_000, 35.0), (200_000, 50.0), (350_000, 65.0))
"""From so many volts on, wires hang as high as this [m]; from memory, the upper end of what is usual."""
_BUSY = frozenset({"motorway", "trunk", "primary", "secondary", "tertiary", "motorway_link", "trunk_link"})
_QUIET = frozenset(
    {"unclassified", "residential", "living_street", "service", "pedestrian", "track", "path", "footway", "cycleway",
     "bridleway", "steps"}
)  # fmt: skip
_KEYS = (
    "power", "man_made", "building", "natural", "landuse", "waterway", "highway", "railway", "aerialway", "aeroway",
    "leisure", "boundary", "communication", "generator:source", "military",
)  # fmt: skip


def meaning_of(tags: Mapping[str, str]) -> Meaning | None:
    """What the tags of a thing mean to a pilot; None for what does not."""
    obstacle, get = Role.OBSTACLE, tags.get
    power, made, natural, land = get("power"), get("man_made"), get("natural"), get("landuse")
    if get("location") in ("underground", "underwater") or get("tunnel") in ("yes", "culvert"):
        return None
    if power in _WIRES:
        called, height = _WIRES[power]
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
    if natural == "water" or get("waterway") == "riverbank" or land in ("reservoir", "basin"):
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


def read_map_data(path: str, latitude: float, longitude: float, radius_m: float) -> tuple[Found, ...]:
    """What an extract has within a radius [m] of a point [°], nearest first. Raises BadFileError."""
    _look(Path(path))
    frame = Frame(latitude, longitude)
    found: list[Found] = []
    with telling("map data", _ALLOWED):
        try:
            for number, tags, geometry in _things(path, frame, radius_m):
                meaning = meaning_of(tags)
                if meaning is not None:
                    found += _drawn(number, tags, meaning, flattened(geometry, frame), frame, radius_m)
        except osmium.InvalidLocationError as error:
            raise ValueError(str(error)) from error
    if not found:
        raise BadFileError(f"nothing within {radius_m:.0f} m of this place that matters to a flight",
                           "an extract of the map that covers the place")  # fmt: skip
    return tuple(sorted(found, key=lambda f: (f.distance_m, f.feature.id)))


def _look(path: Path) -> None:
    """Refuse by its first bytes what is no extract, before any library reads it."""
    with path.open("rb") as file:
        begins = file.read(4_096)
    if _is_packed(path):
        return
    text = begins.lstrip(b"\xef\xbb\xbf \t\r\n")
    if not text.startswith((b"<?xml", b"<osm")) or b"<osm" not in begins:
        raise BadFileError("something else than map data", _ALLOWED)
    if b"<!" in begins.replace(b"<!--", b""):
        raise BadFileError("a document type or entities, which Lark doesn't read", f"{_ALLOWED}, without them")


def _is_packed(path: Path) -> bool:
    with path.open("rb") as file:
        return b"OSMHeader" in file.read(64)


def _things(path: str, frame: Frame, radius_m: float) -> Iterator[tuple[str, dict[str, str], BaseGeometry]]:
    """Tagged things near a point: their number, tags and shape in longitude and latitude.

    Most of an extract is far away: what is so by its first point is passed over before anything is made of it.
    """
    file = osmium.io.File(path, "osm.pbf" if _is_packed(Path(path)) else "osm")
    wanted = osmium.filter.KeyFilter(*_KEYS)
    airfields, circle = _box(frame, AIRFIELDS_WITHIN_M), _box(frame, radius_m)
    south, north, _, _ = near = _box(frame, radius_m + _NEAR_ENOUGH_M)
    entities = osmium.osm.NODE | osmium.osm.WAY
    for thing in osmium.FileProcessor(file, entities).with_locations().with_filter(wanted):
        if isinstance(thing, osmium.osm.Node):
            if _inside(airfields, thing.lat, thing.lon):
                yield f"n{thing.id}", dict(thing.tags), Point(thing.lon, thing.lat)
        elif isinstance(thing, osmium.osm.Way):
            try:
                first, tags = thing.nodes[0], thing.tags
                lat = first.lat
                far = not (south <= lat <= north and _inside(near, lat, first.lon))
            except osmium.InvalidLocationError:
                continue
            if far and "building" in tags:  # a line may come from anywhere: only houses are as small as that
                continue
            points = [(n.lon, n.lat) for n in thing.nodes if n.location.valid()]
            if not _touches(airfields if "aeroway" in tags else circle, points):
                continue
            shape = _way(points, closed=thing.is_closed() and _is_area(tags))
            if shape is not None:
                yield f"w{thing.id}", dict(tags), shape
    yield from _relations(file, wanted)


def _relations(
    file: osmium.io.File, wanted: osmium.filter.KeyFilter
) -> Iterator[tuple[str, dict[str, str], BaseGeometry]]:
    """Areas that are put together of several lines, with holes."""
    found: list[tuple[int, dict[str, str], list[tuple[int, bool]]]] = []
    for relation in osmium.FileProcessor(file, osmium.osm.RELATION).with_filter(wanted):
        if isinstance(relation, osmium.osm.Relation) and relation.tags.get("type") in ("multipolygon", "boundary"):
            members = [(m.ref, m.role != "inner") for m in relation.members if m.type == "w"]
            found.append((relation.id, dict(relation.tags), members))
    if not found:
        return
    parts = osmium.filter.IdFilter({ref for _, _, members in found for ref, _ in members})
    parts.enable_for(osmium.osm.WAY)
    entities = osmium.osm.NODE | osmium.osm.WAY
    lines: dict[int, LineString] = {}
    # The points of the lines are wanted, and they pass no filter: it must not stand before them.
    for way in osmium.FileProcessor(file, entities).with_locations().with_filter(parts):
        if isinstance(way, osmium.osm.Way):
            points = [(n.lon, n.lat) for n in way.nodes if n.location.valid()]
            if len(points) > 1:
                lines[way.id] = LineString(points)
    for number, tags, members in found:
        outer, inner = (
            shapely.union_all(list(polygonize([lines[ref] for ref, out in members if out is side and ref in lines])))
            for side in (True, False)
        )
        area = outer.difference(inner)
        if not area.is_empty:
            yield f"r{number}", tags, area


Box = tuple[float, float, float, float]


def _box(frame: Frame, within_m: float) -> Box:
    """South, north, and the middle and half width of its longitudes [°]."""
    tall = within_m / 110_000
    wide = min(tall / max(math.cos(math.radians(frame.latitude)), 0.01), 180.0)
    return frame.latitude - tall, frame.latitude + tall, frame.longitude, wide


def _inside(box: Box, lat: float, lon: float) -> bool:
    return box[0] <= lat <= box[1] and abs((lon - box[2] + 180) % 360 - 180) <= box[3]


def _touches(box: Box, points: list[tuple[float, float]]) -> bool:
    """Whether the rectangle around some points comes into a box."""
    if not points:
        return False
    lats = [lat for _, lat in points]
    east = [(lon - box[2] + 180) % 360 - 180 for lon, _ in points]
    return max(lats) >= box[0] and min(lats) <= box[1] and max(east) >= -box[3] and min(east) <= box[3]


def _way(points: list[tuple[float, float]], *, closed: bool) -> BaseGeometry | None:
    if closed and len(points) > 3:
        area = Polygon(points)
        return area if area.is_valid else shapely.make_valid(area)
    return LineString(points) if len(points) > 1 else None


def _is_area(tags: osmium.osm.TagList) -> bool:
    """Whether a closed line with these tags is the outline of something."""
    return not (
        "highway" in tags or "railway" in tags or tags.get("natural") == "tree_row" or tags.get("power") in _WIRES
    )


def _drawn(
    number: str, tags: dict[str, str], meaning: Meaning, flat: BaseGeometry, frame: Frame, radius_m: float
) -> Iterator[Found]:
    """A thing as it would be drawn: cut to the circle, in pieces without holes."""
    within = AIRFIELDS_WITHIN_M if meaning.group is MapGroup.AIRFIELDS else radius_m
    flat = flat if flat.is_valid else shapely.make_valid(flat)
    distance = float(flat.distance(Point(0, 0)))
    if distance > within:
        return
    if meaning.role in (Role.AIRFIELD, Role.NOTE):
        cut: BaseGeometry = flat.representative_point() if meaning.role is Role.AIRFIELD else _nearest(flat)
    else:
        cut = flat.intersection(Point(0, 0).buffer(within))
    given = "".join(c for c in tags.get("name", "") if c.isprintable())[:90].strip()
    height, assumed = height_of(tags, meaning.height_m) if meaning.kind is not None else (0.0, False)
    for n, piece in enumerate(_pieces(cut, meaning.role)):
        shape, points = _points(piece, frame)
        if shape == "area" and not Polygon(points).is_valid:  # as the place would read it
            shape, points = _points(piece.convex_hull, frame)
        if shape not in _SHAPES_OF.get(meaning.role, ("point", "line", "area")):
            continue
        feature = FeaturePart(
            id=f"osm-{number}" + (f".{n + 1}" if n else ""),
            role=meaning.role,
            name=_name(meaning.called, given),
            shape=shape,  # type: ignore[arg-type]
            coordinates=points,
            kind=meaning.kind,
            height_m=height,
            note=meaning.note,
        )
        origin = OriginPart(source=SOURCE, digest=read_digest(feature), assumed_height_m=height if assumed else None)
        yield Found(feature.model_copy(update={"origin": origin}), meaning.group, float(piece.distance(Point(0, 0))))


def _name(called: str, given: str) -> str:
    """Its own name with what it is, where that does not say so already: "Bog hut (building)", "Kaarna wood"."""
    if not given:
        return called
    return given if called.lower() in given.lower() else f"{given} ({called.lower()})"


_SHAPES_OF = {Role.WATER: ("area",), Role.AIRFIELD: ("point",), Role.NOTE: ("point",)}


def _nearest(flat: BaseGeometry) -> BaseGeometry:
    return shapely.get_point(shapely.shortest_line(flat, Point(0, 0)), 0)


def _pieces(shape: BaseGeometry, role: Role) -> Iterator[BaseGeometry]:
    """Simple shapes, at most a metre off and with no more points than a place holds; areas without holes."""
    for part in shapely.get_parts(shape):
        if part.geom_type == "GeometryCollection" or part.is_empty:
            continue
        simple = part.simplify(_TOLERANCE_M) if part.geom_type != "Point" else part
        if simple.geom_type == "MultiPolygon" or not simple.is_valid:
            simple = part
        if simple.geom_type != "Polygon":
            yield simple
            continue
        if role is Role.OBSTACLE and simple.area < 1:
            yield simple.centroid
            continue
        yield from _whole(simple)


def _whole(area: Polygon, depth: int = 0) -> Iterator[Polygon]:
    """An area as areas without holes, cut through the holes: a clearing stays one, an island too."""
    if area.area < 1:
        return
    if (not area.interiors and len(area.exterior.coords) <= _MOST_POINTS) or depth > 12:
        yield Polygon(area.exterior)
        return
    west, south, east, north = area.bounds
    # Through the middle of a hole, so that each cut opens at least one.
    middle = area.interiors[0].centroid if area.interiors else area.centroid
    halves = (
        (box(west, south, middle.x, north), box(middle.x, south, east, north))
        if depth % 2 == 0
        else (box(west, south, east, middle.y), box(west, middle.y, east, north))
    )
    for half in halves:
        for part in shapely.get_parts(area.intersection(half)):
            if part.geom_type == "Polygon":
                yield from _whole(part, depth + 1)


def _points(piece: BaseGeometry, frame: Frame) -> tuple[str, list[list[float]]]:
    """A flat shape's kind, and its points in longitude and latitude; the outline of an area is not closed."""
    flat: NDArray[np.float64] = shapely.get_coordinates(piece)
    shape = {"Point": "point", "LineString": "line"}.get(piece.geom_type, "area")
    if shape == "area":
        flat = flat[:-1]
    lat, lon = frame.to_geographic(flat[:, 0], flat[:, 1])
    return shape, [[round(float(x), _PLACES), round(float(y), _PLACES)] for x, y in zip(lon, lat, strict=True)]

"""Open map data around a point: what stands, lies and flies there, out of an OpenStreetMap extract (.osm, .osm.pbf).

Where the data give no height, a usual one of its
kind stands in; it is kept as assumed, until somebody has seen the thing.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import osmium
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Point, Polygon, box
from shapely.geometry.base import BaseGeometry
from shapely.ops import polygonize

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.place import Role, flattened
from zealous_lark.formats.coast import sea
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.formats.map_meaning import WIRE_KINDS, MapGroup, Meaning, height_of, meaning_of
from zealous_lark.plan.place import FeaturePart, OriginPart, read_digest

SOURCE = "OpenStreetMap"
ATTRIBUTION = "© OpenStreetMap contributors, ODbL"
AIRFIELDS_WITHIN_M = 10_000.0
"""Aerodromes matter from further away than what stands in the way [m]."""
_ALLOWED = "an OpenStreetMap extract: .osm or .osm.pbf, not packed"
_MOST_POINTS, _TOLERANCE_M, _PLACES = 4_000, 1.0, 7
_NEAR_ENOUGH_M = 5_000.0
"""How far a small thing may be from its own first point [m]: nobody's house is longer."""


@dataclass(frozen=True, slots=True)
class Found:
    """One thing as it would be drawn, its group, and how far from the point it comes [m]."""

    feature: FeaturePart
    group: MapGroup
    distance_m: float


_KEYS = (
    "power", "man_made", "building", "natural", "landuse", "waterway", "highway", "railway", "aerialway", "aeroway",
    "leisure", "boundary", "communication", "generator:source", "military",
)  # fmt: skip


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
    coasts: list[LineString] = []
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
            if tags.get("natural") == "coastline":
                coasts += _coast(points, frame)
                continue
            shape = _way(points, closed=thing.is_closed() and _is_area(tags))
            if shape is not None:
                yield f"w{thing.id}", dict(tags), shape
    water = sea(coasts, box(frame.longitude - circle[3], circle[0], frame.longitude + circle[3], circle[1]))
    if not water.is_empty:
        yield "sea", {"natural": "coastline"}, water
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


def _coast(points: list[tuple[float, float]], frame: Frame) -> list[LineString]:
    """A coastline as a line in longitudes that do not jump at the date line."""
    east = [(frame.longitude + (lon - frame.longitude + 180) % 360 - 180, lat) for lon, lat in points]
    return [LineString(east)] if len(east) > 1 else []


def _way(points: list[tuple[float, float]], *, closed: bool) -> BaseGeometry | None:
    if closed and len(points) > 3:
        area = Polygon(points)
        return area if area.is_valid else shapely.make_valid(area)
    return LineString(points) if len(points) > 1 else None


def _is_area(tags: osmium.osm.TagList) -> bool:
    """Whether a closed line with these tags is the outline of something."""
    return not (
        "highway" in tags or "railway" in tags or tags.get("natural") == "tree_row" or tags.get("power") in WIRE_KINDS
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

"""GPX 1.1: points as waypoints, lines and outlines as routes. Written and read through gpxpy."""

from __future__ import annotations

import json
import math
from typing import Any
from xml.etree.ElementTree import Element

import gpxpy
import gpxpy.gpx

from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.formats.features import Exported, FlownLine, Item
from zealous_lark.formats.xml import local, parsed

NAMESPACE = "urn:zealous-lark:gpx:1"


def write_gpx(exported: Exported) -> bytes:
    """A place or session as GPX. Each point's comment holds Lark's own properties, so that it comes back the same."""
    document = gpxpy.gpx.GPX()
    document.creator = "Zealous Lark"
    document.name, document.description = exported.name, exported.caution
    for item in exported.items:
        own = {"drawn_as": item.kind, **item.properties}
        if item.kind == "Point":
            lon, lat = item.coordinates
            comment = json.dumps(own, ensure_ascii=False)
            document.waypoints.append(gpxpy.gpx.GPXWaypoint(lat, lon, name=item.name, comment=comment))
            continue
        if item.flown is not None:
            document.nsmap["lark"] = NAMESPACE
            document.tracks.append(_track(item, item.flown))
            continue
        for area, ring, line in _lines(item):
            route = gpxpy.gpx.GPXRoute(name=item.name)
            route.comment = json.dumps({"part": [area, ring], **own}, ensure_ascii=False)
            route.points = [gpxpy.gpx.GPXRoutePoint(lat, lon) for lon, lat in line]
            document.routes.append(route)
    return document.to_xml(version="1.1").encode()


def _track(item: Item, flown: FlownLine) -> gpxpy.gpx.GPXTrack:
    """A line that was flown: heights above sea level where that of the take-off point is known, with times and charge.

    The height above the take-off point goes as an extension, so that it comes back whatever is known of the ground.
    """
    track = gpxpy.gpx.GPXTrack(name=item.name)
    points = []
    for n, (lon, lat) in enumerate(item.coordinates):
        point = gpxpy.gpx.GPXTrackPoint(lat, lon, elevation=flown.above_sea_m(n), time=flown.times[n])
        for name, value in (("height_m", flown.height_m[n]), ("charge_pct", flown.charge_pct[n])):
            if not math.isnan(value):
                extension = Element(f"{{{NAMESPACE}}}{name}")
                extension.text = f"{value:.1f}"
                point.extensions.append(extension)
        points.append(point)
    track.segments.append(gpxpy.gpx.GPXTrackSegment(points))
    return track


def _lines(item: Item) -> list[tuple[int, int, list[list[float]]]]:
    """Every line that a shape is drawn with, by area and ring; GPX has no areas of its own."""
    if item.kind == "LineString":
        return [(0, 0, item.coordinates)]
    polygons = [item.coordinates] if item.kind == "Polygon" else item.coordinates
    return [(a, r, ring) for a, rings in enumerate(polygons) for r, ring in enumerate(rings)]


def read_gpx(data: bytes) -> list[dict[str, Any]]:
    """Waypoints and routes as GeoJSON features; the lines of one area are put together again. Raises BadFileError."""
    root = parsed(data, "GPX 1.1")
    if local(root) != "gpx":
        raise BadFileError(f"XML that begins with <{local(root)}>", "GPX 1.1")
    try:
        with telling("GPX", "GPX 1.1"):
            document = gpxpy.parse(data.decode())
    except gpxpy.gpx.GPXException as error:
        raise BadFileError(f"GPX that cannot be read ({error})", "GPX 1.1") from None
    found = []
    for w in document.waypoints:
        geometry = {"type": "Point", "coordinates": [w.longitude, w.latitude]}
        properties = {k: v for k, v in _own(w.name, w.comment).items() if k != "drawn_as"}
        found.append({"type": "Feature", "properties": properties, "geometry": geometry})
    areas: dict[str, tuple[dict[str, Any], list[list[Any]]]] = {}
    for number, r in enumerate(document.routes):
        own, line = _own(r.name, r.comment), [[p.longitude, p.latitude] for p in r.points]
        kind, part = own.pop("drawn_as", "LineString"), own.pop("part", [0, 0])
        if kind == "LineString":
            found.append({"type": "Feature", "properties": own, "geometry": {"type": kind, "coordinates": line}})
            continue
        _, rings = areas.setdefault(json.dumps(own, sort_keys=True), (own, []))
        with telling(f"the part that route {number + 1} is", "GPX as Lark wrote it"):
            first = part[1] == 0
        if first or not rings:
            rings.append([])
        rings[-1].append(line)
    for own, polygons in areas.values():
        geometry = {"type": "MultiPolygon", "coordinates": polygons}
        if own.get("lark_type") != "zone":
            geometry = {"type": "Polygon", "coordinates": polygons[0]}
        found.append({"type": "Feature", "properties": own, "geometry": geometry})
    if not found:
        raise BadFileError("GPX without waypoints or routes", "GPX 1.1 with some")
    return found


def _own(name: str | None, comment: str | None) -> dict[str, Any]:
    """Lark's own properties out of a comment; of others only the name."""
    properties: Any = {}
    if comment and comment.startswith("{"):
        try:
            properties = json.loads(comment)
        except (ValueError, RecursionError):
            properties = {}
    return {"name": name or "", **(properties if isinstance(properties, dict) else {})}

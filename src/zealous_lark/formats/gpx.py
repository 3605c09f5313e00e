"""GPX 1.1: points as waypoints, lines and outlines as routes. Written and read through gpxpy."""

from __future__ import annotations

import json
from typing import Any

import gpxpy
import gpxpy.gpx

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.features import Exported, Item
from zealous_lark.formats.xml import local, parsed


def write_gpx(exported: Exported) -> bytes:
    """A place or session as GPX. Each point's comment holds Lark's own properties, so that it comes back the same."""
    document = gpxpy.gpx.GPX()
    document.creator = "Zealous Lark"
    document.name, document.description = exported.name, exported.caution
    for item in exported.items:
        comment = json.dumps({"kind": item.kind, **item.properties}, ensure_ascii=False)
        if item.kind == "Point":
            lon, lat = item.coordinates
            document.waypoints.append(gpxpy.gpx.GPXWaypoint(lat, lon, name=item.name, comment=comment))
        else:
            for line in _lines(item):
                route = gpxpy.gpx.GPXRoute(name=item.name)
                route.comment = comment
                route.points = [gpxpy.gpx.GPXRoutePoint(lat, lon) for lon, lat in line]
                document.routes.append(route)
    return document.to_xml(version="1.1").encode()


def _lines(item: Item) -> list[list[list[float]]]:
    """Every line that a shape is drawn with; GPX has no areas."""
    if item.kind == "LineString":
        return [item.coordinates]
    polygons = [item.coordinates] if item.kind == "Polygon" else item.coordinates
    return [ring for rings in polygons for ring in rings]


def read_gpx(data: bytes) -> list[dict[str, Any]]:
    """Waypoints and routes as GeoJSON features. Raises BadFileError."""
    root = parsed(data, "GPX 1.1")
    if local(root) != "gpx":
        raise BadFileError(f"XML that begins with <{local(root)}>", "GPX 1.1")
    try:
        document = gpxpy.parse(data.decode())
    except (gpxpy.gpx.GPXException, ValueError) as error:
        raise BadFileError(f"GPX that cannot be read ({error})", "GPX 1.1") from None
    found = [_feature(w.name, w.comment, [[w.longitude, w.latitude]]) for w in document.waypoints]
    found += [_feature(r.name, r.comment, [[p.longitude, p.latitude] for p in r.points]) for r in document.routes]
    if not found:
        raise BadFileError("GPX without waypoints or routes", "GPX 1.1 with some")
    return found


def _feature(name: str | None, comment: str | None, line: list[list[float]]) -> dict[str, Any]:
    properties: dict[str, Any] = {}
    try:
        properties = json.loads(comment) if comment and comment.startswith("{") else {}
    except ValueError:
        properties = {}
    kind = properties.pop("kind", None) or ("Point" if len(line) == 1 else "LineString")
    coordinates: Any = line[0] if kind == "Point" else line if kind == "LineString" else [line]
    kind = "Polygon" if kind == "MultiPolygon" else kind
    properties.setdefault("name", name or "")
    return {"type": "Feature", "properties": properties, "geometry": {"type": kind, "coordinates": coordinates}}

"""Zones from GeoJSON, KML and the European geographical-zones JSON.

References
----------
.. [1] EUROCAE ED-269, Minimum operational performance standard for UAS geo-fencing, the
   exchange format of geographical zones as published. Quoted from memory.
"""

from __future__ import annotations

import math
import re
from datetime import datetime
from typing import Any

import numpy as np
from pydantic import ValidationError

from zealous_lark.core.geodesy import Frame, xy
from zealous_lark.core.place import HeightReference, Restriction
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.formats.geojson import read_features, read_json
from zealous_lark.formats.kml import read_placemarks
from zealous_lark.plan import refused_input
from zealous_lark.plan.place import ZonePart

MAX_ZONES = 500
_CIRCLE = 72
_WIDEST_M = 500_000.0
"""No zone is wider than this radius; a number that is belongs to another unit."""

_RESTRICTIONS = {
    "PROHIBITED": Restriction.PROHIBITED,
    "REQ_AUTHORISATION": Restriction.AUTHORISATION,
    "REQ_AUTHORIZATION": Restriction.AUTHORISATION,
    "CONDITIONAL": Restriction.CONDITIONAL,
    "NO_RESTRICTION": Restriction.INFORMATION,
}


def read_zones(data: bytes, name: str) -> list[ZonePart]:
    """The zones of a file, told by what is in it. Raises BadFileError naming the zone that is wrong."""
    if data[:2] == b"PK" or data.lstrip()[:1] == b"<":
        found = _of_features(read_placemarks(data), name)
    else:
        document = read_json(data)
        if isinstance(document, dict) and isinstance(document.get("features"), list) and _is_ed269(document):
            found = _of_ed269(document, name)
        else:
            found = _of_features(read_features(data), name)
    if not found:
        raise BadFileError("no polygon or circle in it", "zones drawn as polygons or circles")
    if len(found) > MAX_ZONES:
        raise BadFileError(
            f"{len(found):,} zones", f"at most {MAX_ZONES}: cut the file to the country around the place"
        )
    return found


def _is_ed269(document: dict[str, Any]) -> bool:
    return any(isinstance(f, dict) and isinstance(f.get("geometry"), list) for f in document["features"])


def circle(centre: list[float], radius_m: float) -> list[list[float]]:
    """An outline of a circle around a longitude and latitude [°]: 72 corners, drawn so that it covers the circle."""
    frame = Frame(float(centre[1]), float(centre[0]))
    # Corners a little outside, so that the sides touch the circle and none of it is left out.
    bearings = np.arange(_CIRCLE) * 360 / _CIRCLE
    x, y = xy(bearings, np.full(_CIRCLE, radius_m / math.cos(math.pi / _CIRCLE)))
    lat, lon = frame.to_geographic(x, y)
    return [[float(a), float(b)] for a, b in zip(lon, lat, strict=True)]


def _ring(ring: Any) -> list[list[float]]:
    points = [[float(p[0]), float(p[1])] for p in ring]
    return points[:-1] if len(points) > 3 and points[0] == points[-1] else points


def _zone(where: str, values: dict[str, Any]) -> ZonePart:
    try:
        return ZonePart.model_validate(values, strict=False)
    except ValidationError as error:
        first = refused_input(ZonePart, error).refusals[0]
        raise BadFileError(f"{where}: {first.key} {first.given}", first.allowed) from None


def _number(value: Any, unit: str = "m") -> float | None:
    """A number in metres, also out of a text such as `120 m AGL` or `400 ft`, whose own unit counts; None for none."""
    if isinstance(value, int | float) and not isinstance(value, bool):
        amount, own = float(value), ""
    else:
        found = re.match(r"\s*(-?\d+(?:\.\d+)?)\s*(ft|feet|m)?", str(value or ""), re.IGNORECASE)
        if not found:
            return None
        amount, own = float(found[1]), found[2] or ""
    return amount * (METRES_PER_FOOT if (own or unit).lower() in ("ft", "feet") else 1.0)


def _reference(*values: Any) -> HeightReference:
    text = " ".join(str(v) for v in values).upper()
    return HeightReference.SEA_LEVEL if "AMSL" in text or "MSL" in text or "SEA" in text else HeightReference.GROUND


def _pick(properties: dict[str, Any], *names: str) -> Any:
    lower = {str(k).lower(): v for k, v in properties.items()}
    return next((lower[n] for n in names if lower.get(n) not in (None, "")), None)


def _time(value: Any, where: str) -> datetime | None:
    if value in (None, ""):
        return None
    try:
        found = datetime.fromisoformat(str(value).replace("Z", "+00:00"))
    except ValueError:
        raise BadFileError(f"{where}: the time {value!r}", "a time like 2026-09-27T07:40:00Z") from None
    if found.tzinfo is None:
        raise BadFileError(f"{where}: the time {value!r}", "a time with its UTC offset, like 2026-09-27T07:40:00Z")
    return found


def _restriction(value: Any) -> Restriction:
    text = str(value or "").strip().upper()
    if text in _RESTRICTIONS:
        return _RESTRICTIONS[text]
    # A zone whose rules are not understood is taken as closed.
    return next((r for r in Restriction if r.value.upper() == text), Restriction.PROHIBITED)


def _of_features(features: list[dict[str, Any]], source: str) -> list[ZonePart]:
    found = []
    for i, feature in enumerate(features):
        with telling(f"zone {i + 1}", "a GeoJSON feature"):
            zone = _of_feature(i, feature, source)
        if zone is not None:
            found.append(zone)
    return found


def _of_feature(i: int, feature: dict[str, Any], source: str) -> ZonePart | None:
    properties = dict(feature.get("properties") or {})
    name = str(_pick(properties, "name", "title", "identifier", "id") or f"Zone {i + 1}")[:120]
    where = f"zone {i + 1} ({name})"
    areas = _areas(feature.get("geometry") or {}, properties, where)
    if areas is None:
        return None
    lower = _pick(properties, "lower_m", "lowerlimit", "lower", "floor", "min_altitude")
    upper = _pick(properties, "upper_m", "upperlimit", "upper", "ceiling", "max_altitude")
    return _zone(
        where,
        {
            "name": name,
            "areas": areas,
            "restriction": _restriction(_pick(properties, "restriction", "type", "class")),
            "lower_m": _number(lower) or 0.0,
            "lower_from": _reference(lower, _pick(properties, "lower_from", "lowerverticalreference")),
            "upper_m": _number(upper),
            "upper_from": _reference(upper, _pick(properties, "upper_from", "upperverticalreference")),
            "begins": _time(_pick(properties, "begins", "begin", "start", "startdatetime"), where),
            "ends": _time(_pick(properties, "ends", "end", "enddatetime"), where),
            "authority": str(_pick(properties, "authority", "contact") or "")[:200],
            "message": str(_pick(properties, "message", "description", "note") or "")[:1000],
            "source": source[:200],
        },
    )


def _areas(geometry: dict[str, Any], properties: dict[str, Any], where: str) -> list[list[list[list[float]]]] | None:
    kind: Any = geometry.get("type")
    coordinates: Any = geometry.get("coordinates")
    radius = _number(_pick(properties, "radius_m", "radius"))
    with telling(f"{where} with coordinates", "GeoJSON geometry"):
        if kind == "Polygon":
            return [[_ring(r) for r in coordinates]]
        if kind == "MultiPolygon":
            return [[_ring(r) for r in rings] for rings in coordinates]
        if kind == "Point" and radius:
            if not (-180 <= coordinates[0] <= 180 and -90 <= coordinates[1] <= 90):
                raise BadFileError(f"{where}: {coordinates[:2]}", "longitude, then latitude (they look swapped)")
            return [[_round(coordinates, radius, where)]]
    return None


def _round(centre: list[float], radius_m: float, where: str) -> list[list[float]]:
    if not 0 < radius_m <= _WIDEST_M:
        raise BadFileError(f"{where} of {radius_m:g} m", f"a radius of more than 0 and at most {_WIDEST_M:,.0f} m")
    return circle(centre, radius_m)


def _of_ed269(document: dict[str, Any], source: str) -> list[ZonePart]:
    """Zones of [1]_: each feature has a list of volumes, with limits in metres or feet, and times it applies."""
    found = []
    for i, feature in enumerate(document["features"]):
        with telling(f"zone {i + 1}", "a zone of ED-269"):
            found += _ed269_zones(i, feature, source)
    return found


def _ed269_zones(i: int, feature: dict[str, Any], source: str) -> list[ZonePart]:
    found = []
    name = str(feature.get("name") or feature.get("identifier") or f"Zone {i + 1}")[:120]
    where = f"zone {i + 1} ({name})"
    authority = next((a.get("name") for a in feature.get("zoneAuthority") or [] if isinstance(a, dict)), None)
    times = [t for t in feature.get("applicability") or [] if isinstance(t, dict)]
    always = any(str(t.get("permanent", "NO")).upper() == "YES" for t in times) or not times
    volumes = feature.get("geometry")
    if not isinstance(volumes, list):
        raise BadFileError(f"{where} without its list of volumes", "the geometry list of ED-269")
    for volume in volumes:
        areas = _ed269_area(volume, where)
        unit = str(volume.get("uomDimensions", "M"))
        lower, upper = _number(volume.get("lowerLimit"), unit), _number(volume.get("upperLimit"), unit)
        values = {
            "name": name,
            "areas": areas,
            "restriction": _restriction(feature.get("restriction")),
            "lower_m": lower or 0.0,
            "lower_from": _reference(volume.get("lowerVerticalReference")),
            "upper_m": upper,
            "upper_from": _reference(volume.get("upperVerticalReference")),
            "authority": str(authority or "")[:200],
            "message": str(feature.get("message") or "")[:1000],
            "source": source[:200],
        }
        for time in [{}] if always else times:
            begins, ends = _time(time.get("startDateTime"), where), _time(time.get("endDateTime"), where)
            found.append(_zone(where, {**values, "begins": begins, "ends": ends}))
    return found


def _ed269_area(volume: Any, where: str) -> list[list[list[list[float]]]]:
    projection: Any = volume.get("horizontalProjection") if isinstance(volume, dict) else None
    with telling(f"{where} with a volume", "a Polygon or a Circle of ED-269"):
        if projection["type"] == "Circle":
            return [[_round(projection["center"], float(projection["radius"]), where)]]
        return [[_ring(r) for r in projection["coordinates"]]]

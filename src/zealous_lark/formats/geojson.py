"""GeoJSON (RFC 7946): places and sessions out and back in, zones in."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from itertools import pairwise
from typing import Any

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.features import Exported, FlownLine, Item, cut

_HALF = re.compile(r"\\u[dD][89a-fA-F]")
_ALLOWED = "a GeoJSON FeatureCollection"


def read_json(data: bytes) -> Any:
    """JSON from a file. Raises BadFileError."""
    try:
        text = data.decode("utf-8-sig")
        found = json.loads(text, parse_constant=_no_constant)
        if _HALF.search(text):
            json.dumps(found, ensure_ascii=False).encode()  # half a character cannot be written again
        return found
    except (ValueError, RecursionError) as error:
        raise BadFileError(f"text that is not JSON ({str(error)[:100]})", _ALLOWED) from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is not a number")


def read_features(data: bytes) -> list[dict[str, Any]]:
    """The features of a collection. Raises BadFileError."""
    document = read_json(data)
    if isinstance(document, dict) and document.get("type") == "Feature":
        document = {"type": "FeatureCollection", "features": [document]}
    found = document.get("features") if isinstance(document, dict) else None
    if not isinstance(document, dict) or document.get("type") != "FeatureCollection" or not isinstance(found, list):
        raise BadFileError("JSON that is not a FeatureCollection", _ALLOWED)
    for i, feature in enumerate(found):
        if not isinstance(feature, dict) or not isinstance(feature.get("geometry") or {}, dict):
            raise BadFileError(f"feature {i + 1} that is not a Feature", _ALLOWED)
        if not isinstance(feature.get("properties") or {}, dict):
            raise BadFileError(f"feature {i + 1} whose properties are not an object", _ALLOWED)
    return found


def _feature(item: Item) -> dict[str, Any]:
    properties, geometry = {"name": item.name, **item.properties}, {"type": item.kind, "coordinates": item.coordinates}
    if item.at is not None:
        properties["time"] = item.at.isoformat()
    if item.flown is not None:
        geometry, more = _line(item.coordinates, item.flown)
        properties |= more
    return {"type": "Feature", "properties": properties, "geometry": geometry}


def _line(coordinates: list[list[float]], flown: FlownLine) -> tuple[dict[str, Any], dict[str, Any]]:
    """A line that was flown, in two where it crosses the antimeridian, and what is known at each of its positions.

    The third number is the height above sea level, where that is known of every position.
    """
    heights = [flown.above_sea_m(n) for n in range(len(coordinates))]
    high = [[*c, h] for c, h in zip(coordinates, heights, strict=True) if h is not None]
    line = high if len(high) == len(coordinates) else coordinates
    pieces = cut(line)
    known: dict[str, Any] = {"times": [t.isoformat() for t in flown.times]}
    for name, values in (("heights_above_takeoff_m", flown.height_m), ("charge_pct", flown.charge_pct)):
        if not all(math.isnan(v) for v in values):
            known[name] = [None if math.isnan(v) else round(v, 1) for v in values]
    if len(pieces) == 1:
        return {"type": "LineString", "coordinates": line}, known
    known["note"] = "Cut at 180° of longitude: the points at the cut are not in the lists of this feature."
    return {"type": "MultiLineString", "coordinates": [piece for _, piece in pieces]}, known


def _bounds(features: list[dict[str, Any]]) -> list[float] | None:
    """West, south, east, north [°]; west is over east where it all lies around the antimeridian (RFC 7946, 5.2)."""

    def positions(of: Any) -> Iterator[list[float]]:
        if of and isinstance(of[0], int | float):
            yield of
        else:
            for part in of:
                yield from positions(part)

    every = [p for f in features for p in positions(f["geometry"]["coordinates"])]
    if not every:
        return None
    lon = sorted({p[0] % 360 for p in every})
    south, north = min(p[1] for p in every), max(p[1] for p in every)
    # The widest gap between neighbouring longitudes, all the way round, is what the box leaves out.
    gaps = [b - a for a, b in pairwise([*lon, lon[0] + 360])]
    at = max(range(len(gaps)), key=gaps.__getitem__)
    west, east = lon[(at + 1) % len(lon)], lon[at]
    turned = [(v + 180) % 360 - 180 for v in (west, east)]
    return [turned[0], south, 180.0 if turned[1] == -180 else turned[1], north]


def write_geojson(exported: Exported) -> bytes:
    """A place or session as GeoJSON."""
    features = [_feature(item) for item in exported.items]
    bounds = _bounds(features)
    document = {
        "type": "FeatureCollection", "name": exported.name, "caution": exported.caution,
        **({} if bounds is None else {"bbox": bounds}), "features": features,
    }  # fmt: skip
    return json.dumps(document, ensure_ascii=False, indent=1).encode()

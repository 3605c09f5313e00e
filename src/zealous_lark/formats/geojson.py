"""GeoJSON (RFC 7946): places and sessions out and back in, zones in."""

from __future__ import annotations

import json
from typing import Any

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.features import Exported, Item

_ALLOWED = "a GeoJSON FeatureCollection"


def read_json(data: bytes) -> Any:
    """JSON from a file. Raises BadFileError."""
    try:
        return json.loads(data.decode("utf-8-sig"), parse_constant=_no_constant)
    except (ValueError, RecursionError) as error:
        raise BadFileError(f"text that is not JSON ({str(error)[:100]})", _ALLOWED) from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number")


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


def _times(item: Item) -> dict[str, Any]:
    return {"times": [t.isoformat() for t in item.times]} if item.times else {}


def write_geojson(exported: Exported) -> bytes:
    """A place or session as GeoJSON."""
    features = [
        {
            "type": "Feature",
            "properties": {"name": item.name, **item.properties, **_times(item)},
            "geometry": {"type": item.kind, "coordinates": item.coordinates},
        }
        for item in exported.items
    ]
    document = {
        "type": "FeatureCollection", "name": exported.name, "caution": exported.caution, "features": features
    }  # fmt: skip
    return json.dumps(document, ensure_ascii=False, indent=1).encode()

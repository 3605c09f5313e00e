"""A place or a session as simple features, the common ground of the formats that go out and come back."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError

from zealous_lark.core.place import Role
from zealous_lark.core.verdict import CAUTION
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.plan import PlanRefusedError, refused_input
from zealous_lark.plan.place import FeaturePart, PlacePart, ZonePart


@dataclass(frozen=True, slots=True)
class FlownLine:
    """What is known at each position of a line that was flown, (n,) each.

    times: aware. charge_pct, height_m (above the take-off point): NaN where unknown. elevation_m: of the take-off point
    above sea level; None where nobody knows it.
    """

    times: tuple[datetime, ...]
    height_m: tuple[float, ...]
    charge_pct: tuple[float, ...]
    elevation_m: float | None

    def above_sea_m(self, at: int) -> float | None:
        """Height above sea level at a position [m], where both parts of it are known."""
        height = self.height_m[at]
        return None if self.elevation_m is None or math.isnan(height) else round(self.elevation_m + height, 1)


@dataclass(frozen=True, slots=True)
class Item:
    """One feature: a GeoJSON geometry's kind and coordinates, and properties of Lark's own under `lark`.

    at: when, for a point that is an event. flown: for a line that was flown; none for what is drawn.
    """

    name: str
    kind: str
    coordinates: Any
    properties: dict[str, Any]
    at: datetime | None = None
    flown: FlownLine | None = None


@dataclass(frozen=True, slots=True)
class Exported:
    """What goes out. caution: the one line that goes with every verdict."""

    name: str
    items: tuple[Item, ...]
    caution: str = CAUTION


def cut(line: list[list[float]]) -> list[tuple[int, list[list[float]]]]:
    """A line in pieces that do not cross the antimeridian (RFC 7946, 3.1.9), each with the number of its first point.

    Both pieces get the point where it was cut, at 180° and at −180°, that belongs to neither end.
    """
    pieces: list[tuple[int, list[list[float]]]] = [(0, [])]
    for at, point in enumerate(line):
        piece = pieces[-1][1]
        if piece and abs(point[0] - piece[-1][0]) > 180:
            a, side = piece[-1], math.copysign(180.0, piece[-1][0])
            way = (point[0] + math.copysign(360.0, side)) - a[0]
            share = (side - a[0]) / way if way else 0.5
            between = [u + share * (v - u) for u, v in zip(a[1:], point[1:], strict=True)]
            piece.append([side, *between])
            pieces.append((at, [[-side, *between]]))
        pieces[-1][1].append(point)
    return pieces


def _closed(ring: list[list[float]]) -> list[list[float]]:
    return [*ring, ring[0]] if ring[0] != ring[-1] else ring


def _open(ring: list[list[float]]) -> list[list[float]]:
    return ring[:-1] if len(ring) > 3 and ring[0] == ring[-1] else ring


def items_of(place: PlacePart) -> tuple[Item, ...]:
    """A place's features and zones."""
    found = []
    for f in place.features:
        kind = {"point": "Point", "line": "LineString", "area": "Polygon"}[f.shape]
        coordinates: Any = f.coordinates[0] if f.shape == "point" else f.coordinates
        if f.shape == "area":
            coordinates = [_closed(f.coordinates)]
        properties = f.model_dump(mode="json", exclude={"coordinates", "shape"})
        found.append(Item(f.name or f.role.value, kind, coordinates, {"lark_type": "feature", **properties}))
    for z in place.zones:
        areas = [[_closed(ring) for ring in rings] for rings in z.areas]
        properties = z.model_dump(mode="json", exclude={"areas"})
        found.append(Item(z.name, "MultiPolygon", areas, {"lark_type": "zone", **properties}))
    return tuple(found)


def _refused(error: ValidationError, where: str) -> BadFileError:
    refused: PlanRefusedError = refused_input(FeaturePart, error)
    first = refused.refusals[0]
    return BadFileError(f"{where}: {first.key} {first.given}", first.allowed)


def features_of(collection: list[dict[str, Any]]) -> tuple[list[FeaturePart], list[ZonePart]]:
    """The features and zones that Lark wrote; shapes of others come in as notes where they are points.

    Raises BadFileError naming the feature that is wrong.
    """
    features: list[FeaturePart] = []
    zones: dict[str, ZonePart] = {}
    for i, feature in enumerate(collection):
        with telling(f"feature {i + 1}", "a GeoJSON feature"):
            properties = dict(feature.get("properties") or {})
            geometry = feature.get("geometry") or {}
            where = f"feature {i + 1} ({str(properties.get('name') or geometry.get('type'))[:80]})"
        try:
            with telling(f"{where} with coordinates", "GeoJSON geometry"):
                taken = _taken(i, properties, geometry.get("type"), geometry.get("coordinates"))
        except ValidationError as error:
            raise _refused(error, where) from None
        if isinstance(taken, FeaturePart):
            features.append(taken)
        elif taken is not None:
            if taken.name in zones:  # several polygons of one zone, written apart
                taken = taken.model_copy(update={"areas": [*zones[taken.name].areas, *taken.areas]})
            zones[taken.name] = taken
    if not features and not zones:
        raise BadFileError("no feature that Lark knows", "a place that Lark wrote, or points")
    return features, list(zones.values())


def _taken(i: int, properties: dict[str, Any], kind: Any, coordinates: Any) -> FeaturePart | ZonePart | None:
    what = properties.pop("lark_type", None)
    properties.pop("description", None)
    if what == "feature":
        known = {k: v for k, v in properties.items() if k in FeaturePart.model_fields}
        return FeaturePart.model_validate({**known, **_drawn(kind, coordinates)}, strict=False)
    if what == "zone":
        known = {k: v for k, v in properties.items() if k in ZonePart.model_fields}
        areas = [coordinates] if kind == "Polygon" else coordinates
        return ZonePart.model_validate({**known, "areas": [[_open(r) for r in a] for a in areas]}, strict=False)
    if what is None and kind == "Point":
        name = str(properties.get("name") or f"point {i + 1}")[:120]
        return FeaturePart(id=f"in{i}", role=Role.NOTE, name=name, **_drawn(kind, coordinates))
    return None


def _drawn(kind: Any, coordinates: Any) -> dict[str, Any]:
    if kind == "Point":
        return {"shape": "point", "coordinates": [[float(n) for n in coordinates[:2]]]}
    if kind == "LineString":
        return {"shape": "line", "coordinates": [p[:2] for p in coordinates]}
    if kind == "Polygon":
        return {"shape": "area", "coordinates": _open([p[:2] for p in coordinates[0]])}
    raise TypeError

"""Open map data into a place: looked at first, what is chosen of it then drawn; again merges by identity."""

from __future__ import annotations

import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.map_data import ATTRIBUTION, Found
from zealous_lark.formats.map_meaning import MapGroup
from zealous_lark.plan.place import MAX_FEATURES, FeaturePart, read_digest
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.places import centre, open_place
from zealous_lark.store import Database

LEFT_OUT_FIRST = frozenset({MapGroup.PATHS})
"""What is not taken unless the pilot says so: on a path people come and go, which is looked at on site."""


class MapState(StrEnum):
    """How a thing stands to what is drawn: not there yet, there as read, there as read earlier, changed by hand."""

    NEW = "new"
    SAME = "same"
    CHANGED = "changed"
    YOURS = "yours"


@dataclass(frozen=True, slots=True)
class Reviewed:
    """A thing that the map has, and how it stands to what is drawn."""

    found: Found
    state: MapState


@dataclass(frozen=True, slots=True)
class Review:
    """What an extract has for a place, the nearest first; nothing of it is kept yet.

    too_many: how many of the farthest there is no room for in a place.
    """

    attribution: str
    things: tuple[Reviewed, ...]
    too_many: int


def review(db: Database, place_id: int, data: bytes, radius_m: float) -> Review:
    """Look at an extract around a place. Raises NotHereError, NotAllowedError naming what is wrong."""
    place = open_place(db, place_id).place
    at = centre(place)
    if at is None:
        raise NotAllowedError("place", "nothing drawn", "a take-off point first: the map is cut around it")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "extract"
        path.write_bytes(data)
        try:
            found = bounded.read(bounded.OF_MAP_DATA, readers.read_map_data, str(path), *at, radius_m)
        except BadFileError as error:
            raise NotAllowedError("file", error.given, error.allowed) from None
    there = {f.id: f for f in place.features}
    again = {f.feature.id for f in found}
    room = MAX_FEATURES - sum(f.id not in again for f in place.features)
    kept = _nearest(found, room)
    return Review(ATTRIBUTION, tuple(Reviewed(f, _state(f.feature, there)) for f in kept), len(found) - len(kept))


def _nearest(found: Iterable[Found], room: int) -> list[Found]:
    """As many as there is room for: what is taken anyway before what is left out first, the nearest of each."""
    ordered = sorted(found, key=lambda f: (f.group in LEFT_OUT_FIRST, f.distance_m))
    return sorted(ordered[:room], key=lambda f: (f.distance_m, f.feature.id))


def _state(feature: FeaturePart, there: dict[str, FeaturePart]) -> MapState:
    now = there.get(feature.id)
    if now is None:
        return MapState.NEW
    if now.origin is None or read_digest(now) != now.origin.digest:
        return MapState.YOURS
    return (
        MapState.SAME if feature.origin is not None and now.origin.digest == feature.origin.digest else MapState.CHANGED
    )

"""Places: list, begin, open, save, delete and bring back; terrain and zones in; open formats out and in."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import TypeVar

from zealous_lark.core.land import Land
from zealous_lark.core.measured import Measured, measured
from zealous_lark.core.place import Place, Role
from zealous_lark.core.terrain import Terrain
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.picture import Picture, Pin
from zealous_lark.formats.raster import hillshade_png, write_geotiff
from zealous_lark.plan import PlanDocument, read_document
from zealous_lark.plan.place import (
    GRIDS,
    FeaturePart,
    PicturePart,
    PlacePart,
    TerrainPart,
    pack_terrain,
    place_of,
    unknown_terrain,
    unpack_terrain,
    with_heights,
)
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import Database, places, sessions
from zealous_lark.store.places import StoredPlace

T = TypeVar("T")


DEEPEST_M, HIGHEST_M = 3.0, 60.0
"""Where the middle of a surface model may lie over the ground [m]; elsewhere it counts another kind of height."""


@dataclass(frozen=True, slots=True)
class OpenedPlace:
    """A saved place with its document."""

    stored: StoredPlace
    place: PlacePart


def _gone(place_id: int) -> NotHereError:
    return NotHereError(f"there is no place {place_id}; it may have been deleted")


@lru_cache(maxsize=64)
def _read(document: str) -> PlacePart:
    return PlacePart.model_validate_json(document)


def _opened(stored: StoredPlace) -> OpenedPlace:
    return OpenedPlace(stored, _read(stored.document))


def list_places(db: Database) -> list[OpenedPlace]:
    """All places by name."""
    with db.transaction() as s:
        return [_opened(p) for p in places.every(s)]


def open_place(db: Database, place_id: int, *, also_deleted: bool = False) -> OpenedPlace:
    """One place; a deleted one only for the sessions that were planned there. Raises NotHereError."""
    with db.transaction() as s:
        found = places.find(s, place_id) or (places.find(s, place_id, deleted=True) if also_deleted else None)
    if found is None:
        raise _gone(place_id)
    return _opened(found)


def _to_keep(db: Database, place: PlacePart) -> PlacePart:
    """The place with its grids kept in the store, named by digest. Raises NotAllowedError for an unknown one."""
    kept: dict[str, TerrainPart] = {}
    for key in GRIDS:
        grid: TerrainPart | None = getattr(place, key)
        if grid is None:
            continue
        if grid.heights is None:
            if grid.sha256 is None or terrain_grid(db, grid.sha256) is None:
                raise NotAllowedError(f"place.{key}", f"a {key} without heights", f"the heights, or a {key} kept here")
            continue
        header = grid.model_copy(update={"heights": None, "sha256": None})
        with db.transaction() as s:
            digest = places.keep_terrain(s, header.model_dump_json(), grid.unpacked())
        kept[key] = header.model_copy(update={"sha256": digest})
    if place.picture is not None and picture_file(db, place.picture.sha256) is None:
        raise NotAllowedError(
            "place.picture", "a picture that isn't kept here", "one that was brought in here, or null"
        )
    return place.model_copy(update=kept) if kept else place


def picture_file(db: Database, digest: str) -> bytes | None:
    """A kept picture as a JPEG, or None."""
    with db.transaction() as s:
        return places.picture(s, digest)


def _unique(features: list[FeaturePart]) -> None:
    seen: set[str] = set()
    for i, f in enumerate(features):
        if f.id in seen:
            raise NotAllowedError(f"place.features[{i}].id", f.id, "an id of its own for every feature")
        seen.add(f.id)


def add_place(db: Database, place: PlacePart, now: datetime) -> OpenedPlace:
    """A new place. Raises NotAllowedError."""
    _unique(place.features)
    kept = _to_keep(db, place)
    with db.transaction() as s:
        return _opened(places.add(s, kept.name, kept.model_dump_json(), now))


def save_place(db: Database, place_id: int, place: PlacePart, revision: int, now: datetime) -> OpenedPlace:
    """Save a changed place. Raises NotHereError, NotAllowedError, RevisionConflictError."""
    _unique(place.features)
    kept = _to_keep(db, place)
    with db.transaction() as s:
        saved = places.save(s, place_id, kept.name, kept.model_dump_json(), revision, now)
    if saved is None:
        raise _gone(place_id)
    return _opened(saved)


def delete_place(db: Database, place_id: int, now: datetime) -> None:
    """Take a place off the list; sessions there keep it. Raises NotHereError."""
    with db.transaction() as s:
        if not places.set_deleted(s, place_id, now):
            raise _gone(place_id)


def restore_place(db: Database, place_id: int) -> None:
    """Bring a deleted place back. Raises NotHereError."""
    with db.transaction() as s:
        if not places.set_deleted(s, place_id, None):
            raise NotHereError(f"there is no deleted place {place_id}")


def terrain_grid(db: Database, digest: str) -> tuple[str, bytes] | None:
    """A kept terrain's header and bytes, or None."""
    with db.transaction() as s:
        return places.terrain(s, digest)


@lru_cache(maxsize=12)
def kept_terrain(db: Database, digest: str) -> Terrain:
    """A kept terrain, unpacked once. Raises NotHereError."""
    found = terrain_grid(db, digest)
    if found is None:
        raise NotHereError(f"there is no terrain {digest[:12]}")
    return unpack_terrain(TerrainPart.model_validate_json(found[0]), found[1])


@lru_cache(maxsize=4)
def hillshade(db: Database, digest: str) -> bytes:
    """The shade of a kept terrain as a PNG. Raises NotHereError."""
    return hillshade_png(kept_terrain(db, digest))


def terrain_file(db: Database, digest: str) -> bytes:
    """A kept terrain as a GeoTIFF. Raises NotHereError."""
    return write_geotiff(kept_terrain(db, digest))


@lru_cache(maxsize=32)
def _core(db: Database, document: str) -> Place:
    part = _read(document)
    return place_of(part, terrain_of(db, part), surface_of(db, part))


def terrain_of(db: Database, part: PlacePart) -> Terrain | None:
    """The kept terrain of a place that names one. Where it is lost all its ground is unknown, and no page is.

    So it is where the surface model is lost: what stood on the ground by it must not count as nothing.
    """
    lost = part.terrain is not None and part.terrain.heights is None and _is_lost(db, part.surface)
    return unknown_terrain(part.terrain) if lost and part.terrain is not None else _grid_of(db, part.terrain)


def surface_of(db: Database, part: PlacePart) -> Terrain | None:
    """The kept surface model of a place that names one, all of it unknown where it is lost."""
    return _grid_of(db, part.surface)


def _is_lost(db: Database, grid: TerrainPart | None) -> bool:
    if grid is None or grid.heights is not None or grid.sha256 is None:
        return False
    try:
        kept_terrain(db, grid.sha256)
    except NotHereError:
        return True
    return False


def _grid_of(db: Database, grid: TerrainPart | None) -> Terrain | None:
    if grid is None or grid.heights is not None or grid.sha256 is None:
        return None
    return unknown_terrain(grid) if _is_lost(db, grid) else kept_terrain(db, grid.sha256)


def uses(db: Database, place_id: int) -> list[tuple[int, str]]:
    """Number and title of the sessions that are at a place, the latest first. Raises NotHereError."""
    open_place(db, place_id)
    with db.transaction() as s:
        return sessions.naming(s, "place_id", place_id)


def core_place(db: Database, plan: PlanDocument) -> Place | None:
    """What the core needs to know of the place of a plan: the one it carries, or the one it names.

    Sessions that were planned at a place keep it when it is deleted. Raises NotAllowedError
    for a number that never was a place.
    """
    if plan.place is not None:
        # The place that a plan carries is read again for each judgement; its kept terrain is not.
        return place_of(plan.place, terrain_of(db, plan.place), surface_of(db, plan.place))
    stored = stored_place(db, plan)
    return None if stored is None else _core(db, stored.document)


def stored_place(db: Database, plan: PlanDocument) -> StoredPlace | None:
    """The saved place that a plan names. Raises NotAllowedError."""
    number = plan.site.place
    if number is None:
        return None
    with db.transaction() as s:
        found = places.find(s, number) or places.find(s, number, deleted=True)
    if found is None:
        raise NotAllowedError("site.place", str(number), "the number of a place that is kept here, or null")
    return found


def placed(db: Database, plan: PlanDocument, place_id: int) -> PlanDocument:
    """The plan moved to a drawn place: its first take-off point, its own ground, nothing standing beside what is drawn.

    Raises NotHereError.
    """
    part = open_place(db, place_id).place
    at = centre(part)
    site = plan.site.model_copy(update={"place": place_id, "name": part.name, "obstacles": []})
    if at is not None:
        site = site.model_copy(update={"latitude": at[0], "longitude": at[1]})
    moved = plan.model_copy(update={"site": site, "place": None})
    place = core_place(db, moved)
    if at is None or place is None or place.terrain is None:
        return moved
    elevation = Land(place, *at, site.elevation_m).takeoff_elevation_m
    return moved.model_copy(update={"site": site.model_copy(update={"elevation_m": round(elevation, 1)})})


def carried(db: Database, plan: PlanDocument, *, heights: bool) -> PlanDocument:
    """The plan with its place in it. heights: the terrain whole, to travel; or by its digest, to be kept here."""
    stored = stored_place(db, plan)
    part = plan.place if stored is None else _read(stored.document)
    if part is None:
        return plan
    if heights:
        part = travelling(db, part)
    return plan.model_copy(update={"place": part, "site": plan.site.model_copy(update={"place": None})})


def travelling(db: Database, part: PlacePart) -> PlacePart:
    """A place with the heights of its grids in it, and without its picture."""
    whole: dict[str, TerrainPart | None] = {} if part.picture is None else {"picture": None}
    for key in GRIDS:
        grid: TerrainPart | None = getattr(part, key)
        if grid is None or grid.heights is not None or grid.sha256 is None:
            continue
        found = terrain_grid(db, grid.sha256)
        if found is not None:
            whole[key] = with_heights(grid.model_copy(update={"sha256": None}), found[1])
    return part.model_copy(update=whole) if whole else part


def centre(part: PlacePart) -> tuple[float, float] | None:
    """Latitude and longitude of a place: its first take-off point, or else its first feature; None when empty."""
    takeoffs = [f for f in part.features if f.role is Role.TAKEOFF] or part.features
    if not takeoffs:
        return None
    lon, lat = takeoffs[0].coordinates[0]
    return lat, lon


def import_terrain(
    db: Database, place_id: int, data: bytes, name: str, crs: str | None, revision: int, now: datetime
) -> OpenedPlace:
    """Cut a terrain out of a file and keep it with a place. Raises NotAllowedError naming what is wrong."""
    opened = open_place(db, place_id)
    at = centre(opened.place)
    if at is None:
        raise NotAllowedError("place", "nothing drawn", "a take-off point first: the terrain is cut around it")
    terrain = _read_file("terrain", readers.read_terrain, data, name, *at, crs)
    header, grid = pack_terrain(terrain)
    changed = opened.place.model_copy(update={"terrain": with_heights(header, grid)})
    return save_place(db, place_id, changed, revision, now)


def import_surface(
    db: Database, place_id: int, data: bytes, name: str, crs: str | None, revision: int, now: datetime
) -> OpenedPlace:
    """Cut a surface model out of a file and keep it with a place. Raises NotAllowedError naming what is wrong."""
    opened = open_place(db, place_id)
    at, ground = centre(opened.place), terrain_of(db, opened.place)
    if at is None or ground is None:
        raise NotAllowedError(
            "place", "no terrain", "the terrain first: what stands there is the surface above the ground"
        )
    surface = _read_file("surface", readers.read_surface, data, name, *at, crs)
    seen = Land(Place(opened.place.name, terrain=ground, surface=surface), *at, 0.0).surface
    assert seen is not None
    middle = seen.middle_m()
    if not -DEEPEST_M <= middle <= HIGHEST_M:
        lies = "beside the terrain" if math.isnan(middle) else f"in the middle {middle:.0f} m above the terrain"
        raise NotAllowedError(
            "surface", f"heights that lie {lies}", "heights above sea level like the terrain's, in metres, not in feet"
        )
    header, grid = pack_terrain(surface)
    changed = opened.place.model_copy(update={"surface": with_heights(header, grid)})
    return save_place(db, place_id, changed, revision, now)


def import_picture(
    db: Database, place_id: int, data: bytes, name: str, crs: str | None, revision: int, now: datetime
) -> OpenedPlace:
    """Cut a picture from above out of a file and lay it under a place. Raises NotAllowedError naming what is wrong."""
    opened = open_place(db, place_id)
    at = centre(opened.place)
    if at is None:
        raise NotAllowedError("place", "nothing drawn", "a take-off point first: the picture is cut around it")
    return _lay(db, opened, _read_file("picture", readers.read_picture, data, name, *at, crs), revision, now)


def import_scan(
    db: Database, place_id: int, data: bytes, name: str, pins: tuple[Pin, Pin], revision: int, now: datetime
) -> OpenedPlace:
    """Lay a scan under a place, held by two points of it. Raises NotAllowedError naming what is wrong."""
    opened = open_place(db, place_id)
    at = centre(opened.place)
    if at is None:
        raise NotAllowedError("place", "nothing drawn", "a take-off point first: the scan is cut around it")
    return _lay(db, opened, _read_file("scan", readers.read_scan, data, name, *at, pins), revision, now)


def _lay(db: Database, opened: OpenedPlace, found: Picture, revision: int, now: datetime) -> OpenedPlace:
    with db.transaction() as s:
        digest = places.keep_picture(s, found.data)
    part = PicturePart(
        name=found.name, sha256=digest, south=found.south, west=found.west, north=found.north, east=found.east,
        pixel_m=found.pixel_m,
    )  # fmt: skip
    return save_place(db, opened.stored.id, opened.place.model_copy(update={"picture": part}), revision, now)


def measured_heights(db: Database, place_id: int) -> tuple[Measured, ...]:
    """What a place's surface model says of the things that are drawn. Raises NotHereError."""
    opened = open_place(db, place_id)
    at = centre(opened.place)
    place = place_of(opened.place, terrain_of(db, opened.place), surface_of(db, opened.place))
    return () if at is None else measured(Land(place, *at, 0.0))


def import_zones(db: Database, place_id: int, data: bytes, name: str, revision: int, now: datetime) -> OpenedPlace:
    """Put a file's zones in place of those of the same file. Raises NotAllowedError naming what is wrong."""
    opened = open_place(db, place_id)
    found = _read_file("zones", readers.read_zones, data, name)
    others = [z for z in opened.place.zones if z.source != name[:200]]
    if len(others) + len(found) > 500:
        raise NotAllowedError("zones", f"{len(others) + len(found)} zones", "500 at most in one place")
    changed = opened.place.model_copy(update={"zones": [*others, *found], "zones_looked_at": now.date()})
    return save_place(db, place_id, _within_limits(changed), revision, now)


def import_features(db: Database, place_id: int, data: bytes, revision: int, now: datetime) -> OpenedPlace:
    """Add a file's features and zones to a place; those with an id that is there already replace it."""
    opened = open_place(db, place_id)
    features, zones = _read_file("features", readers.read_drawn, data)
    new = {f.id for f in features}
    named = {z.name for z in zones}
    changed = opened.place.model_copy(
        update={
            "features": [*(f for f in opened.place.features if f.id not in new), *features],
            "zones": [*(z for z in opened.place.zones if z.name not in named), *zones],
        }
    )
    return save_place(db, place_id, _within_limits(changed), revision, now)


def _within_limits(put_together: PlacePart) -> PlacePart:
    """The document's own limits, of its texts too, hold for what was put together out of files."""
    return read_document(PlacePart, put_together.model_dump_json())


def _read_file(key: str, reader: Callable[..., T], *given: object) -> T:
    try:
        return bounded.read(bounded.OF_A_PLACE, reader, *given)
    except BadFileError as error:
        raise NotAllowedError(key, error.given, error.allowed) from None

"""The kit: list, add, save, delete and bring back its items; upkeep of the aircraft."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from zealous_lark.core.prepare import upkeep
from zealous_lark.core.prepare.packs import Advice, advice, charge_left_pct, worn
from zealous_lark.plan.kit import (
    AircraftItem,
    KitItem,
    PackItem,
    UpkeepPart,
    entry_of,
    item_name,
    pack_of,
    read_item,
)
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import Database, sessions
from zealous_lark.store import kit as stored


@dataclass(frozen=True, slots=True)
class Kept:
    """An item with its number and revision."""

    id: int
    revision: int
    item: KitItem

    @property
    def name(self) -> str:
        return item_name(self.item)


@dataclass(frozen=True, slots=True)
class PackNow:
    """What is estimated and advised of a pack: charge now [%], energy [Wh], advice, a word on its age."""

    charge_pct: float
    energy_wh: float
    storage_v: float
    advice: Advice
    worn: str | None


@dataclass(frozen=True, slots=True)
class KeptEntry:
    """An upkeep entry with its number."""

    id: int
    entry: UpkeepPart


@dataclass(frozen=True, slots=True)
class Record:
    """The upkeep of an aircraft: entries, latest day first, hours flown [h], what is due."""

    kept: Kept
    entries: tuple[KeptEntry, ...]
    hours: float
    due: tuple[upkeep.Due, ...]


def _kept(item: stored.StoredItem) -> Kept:
    return Kept(item.id, item.revision, read_item(item.document))


def items(db: Database) -> list[Kept]:
    """The whole kit."""
    with db.transaction() as s:
        return [_kept(x) for x in stored.every(s)]


def open_item(db: Database, item_id: int) -> Kept:
    """One item. Raises NotHereError."""
    with db.transaction() as s:
        found = stored.find(s, item_id)
    if found is None:
        raise NotHereError(f"there is no {item_id} in the kit; it may have been deleted")
    return _kept(found)


def pack_now(item: PackItem, now: datetime, min_takeoff_pct: float, takeoff_at: datetime | None = None) -> PackNow:
    """A pack now (aware), and what to do with it for a session, or without one."""
    pack = pack_of(item)
    told = advice(pack, now, takeoff_at, min_takeoff_pct)
    return PackNow(charge_left_pct(pack, now), pack.energy_wh, pack.storage_v, told, worn(pack))


def _checked(db: Database, item: KitItem, own: int | None) -> KitItem:
    """An item to be kept. Raises NotAllowedError where it names an aircraft that is not there, or a taken name."""
    every = items(db)
    if isinstance(item, PackItem) and item.aircraft is not None:
        aircraft = {k.id: k.name for k in every if isinstance(k.item, AircraftItem)}
        if item.aircraft not in aircraft:
            known = ", ".join(f"{n} ({name})" for n, name in aircraft.items()) or "none yet"
            raise NotAllowedError("item.aircraft", str(item.aircraft), f"null, or an aircraft of the kit: {known}")
    name = item_name(item)
    if any(k.id != own and k.item.kind == item.kind and k.name == name for k in every):
        key = {"aircraft": "item.aircraft.name", "pack": "item.label"}.get(item.kind, "item.name")
        raise NotAllowedError(key, name, "a name that is not used yet")
    if isinstance(item, AircraftItem):
        # It is the kit's own entry: its number is beside it, not in it.
        return item.model_copy(update={"aircraft": item.aircraft.model_copy(update={"kit": None})})
    return item


def add(db: Database, item: KitItem, now: datetime) -> Kept:
    """A new item. Raises NotAllowedError."""
    item = _checked(db, item, None)
    with db.transaction() as s:
        return _kept(stored.add(s, item.kind, item.model_dump_json(), now))


def save(db: Database, item_id: int, item: KitItem, revision: int, now: datetime) -> Kept:
    """Save a changed item. Raises NotHereError, NotAllowedError, or RevisionConflictError."""
    item = _checked(db, item, item_id)
    with db.transaction() as s:
        saved = stored.save(s, item_id, item.kind, item.model_dump_json(), revision, now)
    if saved is None:
        raise NotHereError(f"there is no {item.kind} {item_id} in the kit; it may have been deleted")
    return _kept(saved)


def delete(db: Database, item_id: int, now: datetime) -> None:
    """Take an item out of the kit; it is kept, so that it can be brought back. Raises NotHereError."""
    with db.transaction() as s:
        if not stored.set_deleted(s, item_id, now):
            raise NotHereError(f"there is no {item_id} in the kit; it may have been deleted already")


def restore(db: Database, item_id: int) -> None:
    """Bring a deleted item back. Raises NotHereError, NotAllowedError where another has its name by now."""
    with db.transaction() as s:
        found = stored.find(s, item_id, deleted=True)
        if found is None:
            raise NotHereError(f"there is no deleted {item_id} in the kit")
        _checked(db, read_item(found.document), item_id)
        stored.set_deleted(s, item_id, None)


def uses(db: Database, item_id: int) -> list[tuple[int, str]]:
    """Number and title of the sessions that fly with an item, the latest first. Raises NotHereError."""
    kept = open_item(db, item_id)
    column = {"aircraft": "aircraft_kit", "pack": "pack_kit"}.get(kept.item.kind)
    if column is None:
        return []
    with db.transaction() as s:
        return sessions.naming(s, column, item_id)


def numbers_of(db: Database, aircraft: str, pack: str) -> tuple[int | None, int | None]:
    """The kit's numbers of an aircraft and a pack that somebody named; None for what it does not have."""
    every = {(k.item.kind, k.name): k.id for k in items(db)}
    return every.get(("aircraft", aircraft)), every.get(("pack", pack))


def _aircraft(db: Database, item_id: int) -> Kept:
    kept = open_item(db, item_id)
    if not isinstance(kept.item, AircraftItem):
        raise NotHereError(f"{kept.name} is no aircraft and has no maintenance")
    return kept


def record(db: Database, item_id: int, now: datetime, position: tuple[float, float] | None = None) -> Record:
    """An aircraft's upkeep, and what is due now, and at a place [°] where one is given. Raises NotHereError."""
    kept = _aircraft(db, item_id)
    with db.transaction() as s:
        found = [KeptEntry(e.id, UpkeepPart.model_validate_json(e.document)) for e in stored.entries(s, item_id)]
    entries = [entry_of(e.entry) for e in found]
    latest_first = tuple(sorted(found, key=lambda e: (e.entry.day, e.id), reverse=True))
    return Record(kept, latest_first, upkeep.hours_flown(entries), upkeep.due(entries, now.date(), position))


def add_entry(db: Database, item_id: int, entry: UpkeepPart, now: datetime) -> Record:
    """A new upkeep entry; the record with it. Raises NotHereError, NotAllowedError for a day that is still to come."""
    _aircraft(db, item_id)
    # A day ahead is allowed: somewhere it is tomorrow already.
    if (entry.day - now.date()).days > 1:
        raise NotAllowedError("entry.day", f"{entry.day}", "a day up to today")
    with db.transaction() as s:
        stored.add_entry(s, item_id, entry.model_dump_json(), now)
    return record(db, item_id, now)


def set_entry_withdrawn(db: Database, item_id: int, entry_id: int, withdrawn: bool, now: datetime) -> Record:
    """Withdraw an entry, or bring it back; the record without or with it. Raises NotHereError."""
    _aircraft(db, item_id)
    with db.transaction() as s:
        if not stored.set_entry_deleted(s, item_id, entry_id, now if withdrawn else None):
            raise NotHereError(f"there is no such entry {entry_id} of {item_id}")
    return record(db, item_id, now)

"""The kit and its upkeep: documents as JSON text."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select, update
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import KitRow, UpkeepRow
from zealous_lark.store.sessions import RevisionConflictError


@dataclass(frozen=True, slots=True)
class StoredItem:
    """An item of the kit."""

    id: int
    document: str
    revision: int
    created_at: datetime
    changed_at: datetime


@dataclass(frozen=True, slots=True)
class StoredEntry:
    """An upkeep entry about an item of the kit."""

    id: int
    kit_id: int
    document: str
    created_at: datetime


def _item(row: KitRow) -> StoredItem:
    return StoredItem(row.id, row.document, row.revision, row.created_at, row.changed_at)


def _entry(row: UpkeepRow) -> StoredEntry:
    return StoredEntry(row.id, row.kit_id, row.document, row.created_at)


def add(s: OrmSession, kind: str, document: str, now: datetime) -> StoredItem:
    """A new item."""
    row = KitRow(kind=kind, document=document, revision=1, created_at=now, changed_at=now)
    s.add(row)
    s.flush()
    return _item(row)


def every(s: OrmSession) -> list[StoredItem]:
    """All items that are not deleted, in the order in which they were added."""
    rows = s.scalars(select(KitRow).where(KitRow.deleted_at.is_(None)).order_by(KitRow.id))
    return [_item(row) for row in rows]


def find(s: OrmSession, item_id: int, *, deleted: bool = False) -> StoredItem | None:
    """An item by its number, or None; deleted ones only when asked for."""
    row = s.get(KitRow, item_id)
    if row is None or (row.deleted_at is not None) is not deleted:
        return None
    return _item(row)


def save(s: OrmSession, item_id: int, kind: str, document: str, revision: int, now: datetime) -> StoredItem | None:
    """Replace an item's document. None when there is no such item of that kind.

    Raises RevisionConflictError unless `revision` is the one last saved.
    """
    row = s.get(KitRow, item_id)
    if row is None or row.deleted_at is not None or row.kind != kind:
        return None
    done = s.connection().execute(
        update(KitRow)
        .where(KitRow.id == item_id, KitRow.revision == revision)
        .values(document=document, revision=revision + 1, changed_at=now)
    )
    if done.rowcount != 1:
        raise RevisionConflictError
    s.expire_all()
    return find(s, item_id)


def set_deleted(s: OrmSession, item_id: int, when: datetime | None) -> bool:
    """Mark an item deleted, or bring it back with None. False when there is none to mark."""
    if find(s, item_id, deleted=when is None) is None:
        return False
    s.get_one(KitRow, item_id).deleted_at = when
    return True


def add_entry(s: OrmSession, kit_id: int, document: str, now: datetime) -> StoredEntry:
    """A new upkeep entry."""
    row = UpkeepRow(kit_id=kit_id, document=document, created_at=now)
    s.add(row)
    s.flush()
    return _entry(row)


def entries(s: OrmSession, kit_id: int) -> list[StoredEntry]:
    """An item's entries that stand, in the order in which they were made."""
    rows = s.scalars(
        select(UpkeepRow).where(UpkeepRow.kit_id == kit_id, UpkeepRow.deleted_at.is_(None)).order_by(UpkeepRow.id)
    )
    return [_entry(row) for row in rows]


def set_entry_deleted(s: OrmSession, kit_id: int, entry_id: int, when: datetime | None) -> bool:
    """Withdraw an item's entry, or bring it back with None. False when there is none to mark."""
    row = s.get(UpkeepRow, entry_id)
    if row is None or row.kit_id != kit_id or (row.deleted_at is None) is (when is None):
        return False
    row.deleted_at = when
    return True

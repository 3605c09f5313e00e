"""Places and terrains. A terrain's heights are kept once, under their own digest, and never changed."""

from __future__ import annotations

import hashlib
import zlib
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select, update
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import PictureRow, PlaceRow, TerrainRow
from zealous_lark.store.sessions import RevisionConflictError


@dataclass(frozen=True, slots=True)
class StoredPlace:
    """A saved place; `document` is the place document as JSON text, its terrain by digest."""

    id: int
    name: str
    document: str
    revision: int
    created_at: datetime
    changed_at: datetime


def _place(row: PlaceRow) -> StoredPlace:
    return StoredPlace(row.id, row.name, row.document, row.revision, row.created_at, row.changed_at)


def add(s: OrmSession, name: str, document: str, now: datetime) -> StoredPlace:
    """A new place."""
    row = PlaceRow(name=name, document=document, revision=1, created_at=now, changed_at=now)
    s.add(row)
    s.flush()
    return _place(row)


def every(s: OrmSession) -> list[StoredPlace]:
    """All places that are not deleted, by name."""
    rows = s.scalars(select(PlaceRow).where(PlaceRow.deleted_at.is_(None)).order_by(PlaceRow.name, PlaceRow.id))
    return [_place(row) for row in rows]


def find(s: OrmSession, place_id: int, *, deleted: bool = False) -> StoredPlace | None:
    """A place by its number, or None; deleted ones only when asked for."""
    row = s.get(PlaceRow, place_id)
    if row is None or (row.deleted_at is not None) is not deleted:
        return None
    return _place(row)


def save(s: OrmSession, place_id: int, name: str, document: str, revision: int, now: datetime) -> StoredPlace | None:
    """Replace a place's document. None when there is no such place.

    Raises RevisionConflictError unless `revision` is the one last saved.
    """
    if find(s, place_id) is None:
        return None
    done = s.connection().execute(
        update(PlaceRow)
        .where(PlaceRow.id == place_id, PlaceRow.revision == revision)
        .values(name=name, document=document, revision=revision + 1, changed_at=now)
    )
    if done.rowcount != 1:
        raise RevisionConflictError
    s.expire_all()
    return find(s, place_id)


def set_deleted(s: OrmSession, place_id: int, when: datetime | None) -> bool:
    """Mark a place deleted, or bring it back with None. False when there is none to mark."""
    if find(s, place_id, deleted=when is None) is None:
        return False
    s.get_one(PlaceRow, place_id).deleted_at = when
    return True


def keep_terrain(s: OrmSession, header: str, grid: bytes) -> str:
    """Keep a terrain's bytes; the digest they are found under. The same terrain is kept once."""
    digest = hashlib.sha256(header.encode() + b"\0" + grid).hexdigest()
    if s.get(TerrainRow, digest) is None:
        s.add(TerrainRow(sha256=digest, header=header, grid=zlib.compress(grid, 6)))
        s.flush()
    return digest


def terrain(s: OrmSession, digest: str) -> tuple[str, bytes] | None:
    """A terrain's header and bytes, or None."""
    row = s.get(TerrainRow, digest)
    return None if row is None else (row.header, zlib.decompress(row.grid))


def keep_picture(s: OrmSession, data: bytes) -> str:
    """Keep a picture; the digest it is found under. The same picture is kept once."""
    digest = hashlib.sha256(data).hexdigest()
    if s.get(PictureRow, digest) is None:
        s.add(PictureRow(sha256=digest, data=data))
        s.flush()
    return digest


def picture(s: OrmSession, digest: str) -> bytes | None:
    """A picture's bytes, or None."""
    row = s.get(PictureRow, digest)
    return None if row is None else row.data

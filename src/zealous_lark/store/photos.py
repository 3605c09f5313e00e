"""Photos of flights and places: kept once under the number of the device that took them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import PhotoRow


@dataclass(frozen=True, slots=True)
class Photo:
    """A photo without its bytes; of a flight or of a place."""

    uid: str
    taken_at: datetime
    flight_uid: str | None = None
    place_id: int | None = None


def add(s: OrmSession, photo: Photo, data: bytes) -> bool:
    """Keep a photo. False where its number is there already; that one stays."""
    values = {
        "uid": photo.uid,
        "taken_at": photo.taken_at,
        "flight_uid": photo.flight_uid,
        "place_id": photo.place_id,
        "data": data,
    }
    return s.connection().execute(insert(PhotoRow).values(**values).on_conflict_do_nothing()).rowcount == 1


def of(s: OrmSession, *, flight_uid: str | None = None, place_id: int | None = None) -> list[Photo]:
    """The photos of a flight or of a place, the first taken first."""
    column, wanted = (
        (PhotoRow.place_id, place_id) if flight_uid is None else (PhotoRow.flight_uid, flight_uid)
    )  # fmt: skip
    rows = s.execute(
        select(PhotoRow.uid, PhotoRow.taken_at, PhotoRow.flight_uid, PhotoRow.place_id)
        .where(column == wanted)
        .order_by(PhotoRow.taken_at, PhotoRow.uid)
    )
    return [Photo(*row) for row in rows]


def data(s: OrmSession, uid: str) -> bytes | None:
    """A photo's bytes (JPEG), or None."""
    return s.scalar(select(PhotoRow.data).where(PhotoRow.uid == uid))


def remove(s: OrmSession, uid: str) -> bool:
    """Delete a photo. False when there is none."""
    return s.connection().execute(delete(PhotoRow).where(PhotoRow.uid == uid)).rowcount == 1

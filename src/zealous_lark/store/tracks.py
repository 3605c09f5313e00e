"""Tracks of flights."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import FlightRow, TrackRow


@dataclass(frozen=True, slots=True)
class StoredTrack:
    """name: of the file. document: what it says and what is drawn of it, JSON. points: arrays as they were read."""

    name: str
    document: str
    points: bytes


def put(s: OrmSession, flight_uid: str, track: StoredTrack, now: datetime) -> None:
    """Keep the track of a flight, in place of one that was there."""
    s.merge(
        TrackRow(flight_uid=flight_uid, name=track.name, document=track.document, points=track.points, created_at=now)
    )
    s.flush()


def find(s: OrmSession, flight_uid: str) -> StoredTrack | None:
    """The track of a flight, or None."""
    row = s.get(TrackRow, flight_uid)
    return None if row is None else StoredTrack(row.name, row.document, row.points)


def measured_before(s: OrmSession, way: int) -> Sequence[str]:
    """The flights, but those that are deleted, whose track was measured in an earlier way than this."""
    said = func.coalesce(func.json_extract(TrackRow.document, "$.measured"), 1)
    asked = select(TrackRow.flight_uid).join(FlightRow).where(said < way, FlightRow.deleted_at.is_(None))
    return s.scalars(asked.order_by(TrackRow.flight_uid)).all()


def delete(s: OrmSession, flight_uid: str) -> bool:
    """Take the track of a flight away; False when there is none."""
    row = s.get(TrackRow, flight_uid)
    if row is None:
        return False
    s.delete(row)
    s.flush()
    return True


def of_flights(s: OrmSession, uids: Sequence[str]) -> set[str]:
    """Those of the flights that have a track."""
    every = set(s.scalars(select(TrackRow.flight_uid)))
    return every & set(uids)

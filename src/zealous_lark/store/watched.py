"""What was found of sessions ahead as their forecasts were renewed: added, never changed but for being seen."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import SessionRow, WatchedRow


@dataclass(frozen=True, slots=True)
class Watched:
    """A finding as JSON text, when it was made, and whether the pilot has seen it."""

    id: int
    session_id: int
    at: datetime
    seen: bool
    document: str


def _watched(row: WatchedRow) -> Watched:
    return Watched(row.id, row.session_id, row.at, row.seen, row.document)


def of_session(s: OrmSession, session_id: int, most: int = 50) -> list[Watched]:
    """Of a session, the latest first."""
    found = select(WatchedRow).where(WatchedRow.session_id == session_id).order_by(WatchedRow.id.desc()).limit(most)
    return [_watched(row) for row in s.scalars(found)]


def add(s: OrmSession, session_id: int, at: datetime, document: str, *, seen: bool) -> Watched:
    """Keep a finding."""
    row = WatchedRow(session_id=session_id, at=at, seen=seen, document=document)
    s.add(row)
    s.flush()
    return _watched(row)


def see(s: OrmSession, session_id: int) -> None:
    """The pilot has seen all of a session."""
    s.execute(update(WatchedRow).where(WatchedRow.session_id == session_id).values(seen=True))


def unseen(s: OrmSession, numbers: Iterable[int]) -> dict[int, int]:
    """How many are not seen yet, by the session's number."""
    counted = (
        select(WatchedRow.session_id, func.count())
        .where(WatchedRow.session_id.in_(list(numbers)), WatchedRow.seen.is_(False))
        .group_by(WatchedRow.session_id)
    )
    return {row[0]: row[1] for row in s.execute(counted)}


def latest_unseen(s: OrmSession, now: datetime) -> list[Watched]:
    """The latest finding of each session ahead (now: aware) of which that was not seen; the next session first."""
    latest = select(func.max(WatchedRow.id)).group_by(WatchedRow.session_id)
    found = (
        select(WatchedRow)
        .join(SessionRow, SessionRow.id == WatchedRow.session_id)
        .where(
            WatchedRow.id.in_(latest), WatchedRow.seen.is_(False), SessionRow.deleted_at.is_(None),
            SessionRow.takeoff_at > now,
        )
        .order_by(SessionRow.takeoff_at, SessionRow.id)
    )  # fmt: skip
    return [_watched(row) for row in s.scalars(found)]

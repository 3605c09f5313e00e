"""Sessions: one planned flight at one place, saved as it is worked on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select, update
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import SessionRow


class RevisionConflictError(Exception):
    """Somebody else saved the session since it was read."""


@dataclass(frozen=True, slots=True)
class Headline:
    """What lists show of a plan."""

    title: str
    place: str
    aircraft: str
    pack: str
    takeoff_at: datetime


@dataclass(frozen=True, slots=True)
class Session:
    """A saved session; `plan` is the plan document as JSON text."""

    id: int
    headline: Headline
    plan: str
    revision: int
    created_at: datetime
    changed_at: datetime


def _session(row: SessionRow) -> Session:
    headline = Headline(row.title, row.place, row.aircraft, row.pack, row.takeoff_at)
    return Session(row.id, headline, row.plan, row.revision, row.created_at, row.changed_at)


def _columns(headline: Headline) -> dict[str, object]:
    return {name: getattr(headline, name) for name in Headline.__slots__}


def add(s: OrmSession, headline: Headline, plan: str, now: datetime) -> Session:
    """A new session."""
    row = SessionRow(**_columns(headline), plan=plan, revision=1, created_at=now, changed_at=now)
    s.add(row)
    s.flush()
    return _session(row)


def every(s: OrmSession) -> list[Session]:
    """All sessions that are not deleted, by take-off time."""
    rows = s.scalars(
        select(SessionRow).where(SessionRow.deleted_at.is_(None)).order_by(SessionRow.takeoff_at, SessionRow.id)
    )
    return [_session(row) for row in rows]


def find(s: OrmSession, session_id: int, *, deleted: bool = False) -> Session | None:
    """A session by its number, or None; deleted ones only when asked for."""
    row = s.get(SessionRow, session_id)
    if row is None or (row.deleted_at is not None) is not deleted:
        return None
    return _session(row)


def save(s: OrmSession, session_id: int, headline: Headline, plan: str, revision: int, now: datetime) -> Session | None:
    """Replace a session's plan. None when there is no such session.

    Raises RevisionConflictError unless `revision` is the one last saved.
    """
    if find(s, session_id) is None:
        return None
    # One statement, so that two savers cannot both believe that they were first.
    done = s.connection().execute(
        update(SessionRow)
        .where(SessionRow.id == session_id, SessionRow.revision == revision)
        .values(**_columns(headline), plan=plan, revision=revision + 1, changed_at=now)
    )
    if done.rowcount != 1:
        raise RevisionConflictError
    s.expire_all()
    return find(s, session_id)


def set_deleted(s: OrmSession, session_id: int, when: datetime | None) -> bool:
    """Mark a session deleted, or bring it back with None. False when there is none to mark."""
    if find(s, session_id, deleted=when is None) is None:
        return False
    row = s.get_one(SessionRow, session_id)
    row.deleted_at = when
    return True

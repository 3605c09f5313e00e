"""Sessions: one planned flight at one place, saved as it is worked on."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, case, func, select, update
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import PlaceRow, SessionRow


class RevisionConflictError(Exception):
    """Somebody else saved the session since it was read."""


@dataclass(frozen=True, slots=True)
class Headline:
    """What lists show of a plan. latitude, longitude: of the take-off point [°]."""

    title: str
    place: str
    aircraft: str
    pack: str
    takeoff_at: datetime
    latitude: float
    longitude: float
    place_id: int | None = None
    aircraft_kit: int | None = None
    pack_kit: int | None = None


@dataclass(frozen=True, slots=True)
class Line:
    """A session in a list, without its plan. place_revision: of the drawn place that it is at."""

    id: int
    headline: Headline
    revision: int
    changed_at: datetime
    place_revision: int | None


@dataclass(frozen=True, slots=True)
class Session:
    """A saved session; `plan` is the plan document as JSON text."""

    id: int
    headline: Headline
    plan: str
    revision: int
    created_at: datetime
    changed_at: datetime


_NAMES = tuple(f.name for f in fields(Headline))


def _headline(row: Any) -> Headline:
    return Headline(*(getattr(row, name) for name in _NAMES))


def _session(row: SessionRow) -> Session:
    return Session(row.id, _headline(row), row.plan, row.revision, row.created_at, row.changed_at)


def _columns(headline: Headline) -> dict[str, object]:
    return {name: getattr(headline, name) for name in _NAMES}


def add(s: OrmSession, headline: Headline, plan: str, now: datetime) -> Session:
    """A new session."""
    row = SessionRow(**_columns(headline), plan=plan, revision=1, created_at=now, changed_at=now)
    s.add(row)
    s.flush()
    return _session(row)


def _listed(words: str) -> list[ColumnElement[bool]]:
    every = SessionRow.title + " " + SessionRow.place + " " + SessionRow.aircraft + " " + SessionRow.pack
    return [SessionRow.deleted_at.is_(None), *(every.icontains(w, autoescape=True) for w in words.split())]


def page(s: OrmSession, now: datetime, words: str, number: int, size: int) -> list[Line]:
    """A page of the sessions that have all the words: what is still to come first, the next one first; then what is
    over, the latest first.
    """
    over = SessionRow.takeoff_at < now
    columns = [getattr(SessionRow, name) for name in ("id", *_NAMES, "revision", "changed_at")]
    asked = (
        select(*columns, PlaceRow.revision.label("place_revision"))
        .outerjoin(PlaceRow, PlaceRow.id == SessionRow.place_id)
        .where(*_listed(words))
        .order_by(over, case((over, None), else_=SessionRow.takeoff_at), SessionRow.takeoff_at.desc(), SessionRow.id)
        .limit(size)
        .offset((number - 1) * size)
    )
    return [Line(r.id, _headline(r), r.revision, r.changed_at, r.place_revision) for r in s.execute(asked)]


def line(s: OrmSession, session_id: int) -> Line | None:
    """A session as lists have it, or None."""
    row = s.get(SessionRow, session_id)
    if row is None:
        return None
    place = None if row.place_id is None else s.get(PlaceRow, row.place_id)
    return Line(row.id, _headline(row), row.revision, row.changed_at, None if place is None else place.revision)


def count(s: OrmSession, words: str = "") -> int:
    """How many sessions have all the words."""
    return s.scalar(select(func.count()).select_from(SessionRow).where(*_listed(words))) or 0


def ahead(s: OrmSession, now: datetime) -> list[Session]:
    """Sessions that are still to come, the next one first."""
    asked = select(SessionRow).where(*_listed(""), SessionRow.takeoff_at > now)
    return [_session(row) for row in s.scalars(asked.order_by(SessionRow.takeoff_at, SessionRow.id))]


def naming(s: OrmSession, column: str, number: int) -> list[tuple[int, str]]:
    """Number and title of the sessions that name an aircraft, a pack (aircraft_kit, pack_kit) or a place (place_id)."""
    asked = select(SessionRow.id, SessionRow.title).where(*_listed(""), getattr(SessionRow, column) == number)
    return [(r.id, r.title) for r in s.execute(asked.order_by(SessionRow.takeoff_at.desc(), SessionRow.id))]


def every(s: OrmSession) -> list[Session]:
    """All sessions that are not deleted, by take-off time."""
    asked = select(SessionRow).where(*_listed(""))
    return [_session(row) for row in s.scalars(asked.order_by(SessionRow.takeoff_at, SessionRow.id))]


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

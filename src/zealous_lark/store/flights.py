"""Flights: entries, events that never double, edits that keep what was before, search and sums."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, fields, replace
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, Select, func, select, update
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import FlightEditRow, FlightEventRow, FlightRow
from zealous_lark.store.sessions import RevisionConflictError

PAGE = 50


@dataclass(frozen=True, slots=True)
class Listed:
    """What of an entry stands in columns of its own, to be searched and summed. None: not known."""

    started_at: datetime
    place: str
    aircraft: str
    pack: str
    aircraft_kit: int | None
    pack_kit: int | None
    latitude: float | None
    longitude: float | None
    seconds: float | None
    charge_from_pct: float | None
    charge_to_pct: float | None
    predicted_to_pct: float | None
    wind_predicted_ms: float | None
    wind_met_ms: float | None
    distance_m: float | None
    height_m: float | None
    verdict: str
    word: str


@dataclass(frozen=True, slots=True)
class StoredFlight:
    """A flight. document: its entry as JSON text. plan, card: JSON as it was flown; None for one entered by hand."""

    uid: str
    session_id: int | None
    decision_id: int | None
    landed: bool
    planned_pct: float | None
    document: str
    plan: str | None
    card: str | None
    revision: int = 1


@dataclass(frozen=True, slots=True)
class Event:
    """Something that happened in a flight. at: by the clock of the pilot's device.

    happened_at: by the clock of Lark's own computer; None for one of an earlier Lark.
    """

    uid: str
    kind: str
    at_s: float
    at: datetime
    value: float | None
    bearing_deg: float | None
    text: str
    happened_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Edit:
    """What an entry said before it was changed (JSON text), and when that was (aware)."""

    edited_at: datetime
    before: str


@dataclass(frozen=True, slots=True)
class Filter:
    """What to look for: words in any text, exact names, a pack's number, days from and to (aware)."""

    text: str = ""
    aircraft: str = ""
    pack: str = ""
    place: str = ""
    pack_kit: int | None = None
    since: datetime | None = None
    until: datetime | None = None


@dataclass(frozen=True, slots=True)
class Sum:
    """Flights of a month, a pack or all: how many, seconds in the air, charge spent [points]."""

    name: str
    flights: int
    seconds: float
    spent_pct: float


@dataclass(frozen=True, slots=True)
class Point:
    """A flight as a point of a chart."""

    uid: str
    started_at: datetime
    pack: str
    aircraft: str
    seconds: float
    spent_pct: float
    planned_pct: float | None
    wind_ms: float | None


def _flight(row: FlightRow) -> StoredFlight:
    return StoredFlight(
        row.uid, row.session_id, row.decision_id, row.landed, row.planned_pct, row.document, row.plan, row.card,
        row.revision,
    )  # fmt: skip


def _columns(listed: Listed) -> dict[str, Any]:
    return {f.name: getattr(listed, f.name) for f in fields(listed)}


def add(s: OrmSession, flight: StoredFlight, listed: Listed, now: datetime) -> StoredFlight:
    """A new flight."""
    row = FlightRow(
        uid=flight.uid, session_id=flight.session_id, decision_id=flight.decision_id, landed=flight.landed,
        planned_pct=flight.planned_pct, document=flight.document, plan=flight.plan, card=flight.card,
        revision=1, created_at=now, changed_at=now, **_columns(listed),
    )  # fmt: skip
    s.add(row)
    s.flush()
    return _flight(row)


def find(s: OrmSession, uid: str, *, deleted: bool = False) -> StoredFlight | None:
    """A flight by its number, or None; deleted ones only when asked for."""
    row = s.get(FlightRow, uid)
    return None if row is None or (row.deleted_at is not None) is not deleted else _flight(row)


def exists(s: OrmSession, uid: str) -> bool:
    """Whether there is a flight of that number, deleted or not."""
    return s.get(FlightRow, uid) is not None


def put(s: OrmSession, flight: StoredFlight, listed: Listed, now: datetime) -> StoredFlight:
    """Keep a flight as its own events made it, under a new revision: who corrects an older one must look again."""
    values = {
        **_columns(listed),
        "document": flight.document,
        "landed": flight.landed,
        "planned_pct": flight.planned_pct,
        "revision": flight.revision + 1,
        "changed_at": now,
    }
    s.execute(update(FlightRow).where(FlightRow.uid == flight.uid).values(**values))
    s.expire_all()
    return replace(flight, revision=flight.revision + 1)


def edit(s: OrmSession, uid: str, document: str, listed: Listed, revision: int, now: datetime) -> StoredFlight | None:
    """Change an entry by hand; what it said is kept. None where there is none.

    Raises RevisionConflictError unless `revision` is the one last saved.
    """
    row = s.get(FlightRow, uid)
    if row is None or row.deleted_at is not None:
        return None
    before = row.document
    done = s.connection().execute(
        update(FlightRow)
        .where(FlightRow.uid == uid, FlightRow.revision == revision)
        .values(document=document, revision=revision + 1, changed_at=now, **_columns(listed))
    )
    if done.rowcount != 1:
        raise RevisionConflictError
    s.add(FlightEditRow(flight_uid=uid, edited_at=now, before=before))
    s.flush()
    s.expire_all()
    return find(s, uid)


def edits(s: OrmSession, uid: str) -> list[Edit]:
    """What an entry said before, the latest first."""
    rows = s.scalars(select(FlightEditRow).where(FlightEditRow.flight_uid == uid).order_by(FlightEditRow.id.desc()))
    return [Edit(r.edited_at, r.before) for r in rows]


def set_deleted(s: OrmSession, uid: str, when: datetime | None) -> bool:
    """Mark a flight deleted, or bring it back with None. False when there is none to mark."""
    row = s.get(FlightRow, uid)
    if row is None or (row.deleted_at is None) is (when is None):
        return False
    row.deleted_at = when
    return True


def add_events(s: OrmSession, uid: str, events: Iterable[Event]) -> set[str]:
    """Keep events that are not there yet; the numbers of those that were new."""
    new = set()
    for e in events:
        values = {**{f.name: getattr(e, f.name) for f in fields(e)}, "flight_uid": uid}
        done = s.connection().execute(insert(FlightEventRow).values(**values).on_conflict_do_nothing())
        if done.rowcount == 1:
            new.add(e.uid)
    return new


def foreign_events(s: OrmSession, uid: str, numbers: Iterable[str]) -> list[str]:
    """Those of the events' numbers that another flight has."""
    found = select(FlightEventRow.uid).where(
        FlightEventRow.uid.in_(list(numbers)), FlightEventRow.flight_uid != uid
    )  # fmt: skip
    return list(s.scalars(found))


def events(s: OrmSession, uid: str) -> list[Event]:
    """A flight's events in order of its clock."""
    rows = s.scalars(
        select(FlightEventRow)
        .where(FlightEventRow.flight_uid == uid)
        .order_by(FlightEventRow.at_s, FlightEventRow.at, FlightEventRow.uid)
    )
    return [Event(r.uid, r.kind, r.at_s, r.at, r.value, r.bearing_deg, r.text, r.happened_at) for r in rows]


def of_session(s: OrmSession, session_id: int) -> list[StoredFlight]:
    """A session's flights, the first first."""
    rows = s.scalars(
        select(FlightRow)
        .where(FlightRow.session_id == session_id, FlightRow.deleted_at.is_(None))
        .order_by(FlightRow.started_at)
    )
    return [_flight(r) for r in rows]


def _where(f: Filter) -> list[ColumnElement[bool]]:
    found: list[ColumnElement[bool]] = [FlightRow.deleted_at.is_(None)]
    for column, wanted in ((FlightRow.aircraft, f.aircraft), (FlightRow.pack, f.pack), (FlightRow.place, f.place)):
        if wanted:
            found.append(column == wanted)
    if f.pack_kit is not None:
        found.append(FlightRow.pack_kit == f.pack_kit)
    for word in f.text.split():
        found.append(FlightRow.document.icontains(word, autoescape=True))
    if f.since is not None:
        found.append(FlightRow.started_at >= f.since)
    if f.until is not None:
        found.append(FlightRow.started_at < f.until)
    return found


def search(s: OrmSession, f: Filter, page: int = 1, size: int | None = PAGE) -> list[StoredFlight]:
    """A page of the flights that a filter lets through, the latest first; all of them with a size of None."""
    found = select(FlightRow).where(*_where(f)).order_by(FlightRow.started_at.desc(), FlightRow.uid)
    if size is not None:
        found = found.limit(size).offset((page - 1) * size)
    return [_flight(r) for r in s.scalars(found)]


_SPENT = FlightRow.charge_from_pct - FlightRow.charge_to_pct


def _sums(s: OrmSession, name: ColumnElement[Any] | None, f: Filter) -> list[Sum]:
    figures = (func.count(), func.coalesce(func.sum(FlightRow.seconds), 0.0), func.coalesce(func.sum(_SPENT), 0.0))
    if name is None:
        every: Any = s.execute(select(*figures).where(*_where(f)))
        return [Sum("", *row) for row in every]
    found: Select[Any] = select(name, *figures).where(*_where(f)).group_by(name).order_by(name)
    return [Sum(str(row[0] or ""), *row[1:]) for row in s.execute(found)]


def total(s: OrmSession, f: Filter) -> Sum:
    """All flights that a filter lets through."""
    return _sums(s, None, f)[0]


def by_month(s: OrmSession, f: Filter) -> list[Sum]:
    """Sums by month (UTC), as 2026-09."""
    return _sums(s, func.strftime("%Y-%m", FlightRow.started_at), f)


def by_pack(s: OrmSession, f: Filter) -> list[Sum]:
    """Sums by pack."""
    return _sums(s, FlightRow.pack.expression, f)


def names(s: OrmSession) -> dict[str, list[str]]:
    """The aircraft, packs and places that the logbook has."""
    columns = {"aircraft": FlightRow.aircraft, "pack": FlightRow.pack, "place": FlightRow.place}
    return {
        key: [n for n in s.scalars(select(c).where(FlightRow.deleted_at.is_(None)).distinct().order_by(c)) if n]
        for key, c in columns.items()
    }


def points(s: OrmSession, f: Filter, most: int) -> list[Point]:
    """The latest flights with a time and a charge, as points, the first first."""
    wind = func.coalesce(FlightRow.wind_met_ms, FlightRow.wind_predicted_ms)
    found = (
        select(
            FlightRow.uid, FlightRow.started_at, FlightRow.pack, FlightRow.aircraft, FlightRow.seconds, _SPENT,
            func.coalesce(FlightRow.planned_pct, FlightRow.charge_from_pct - FlightRow.predicted_to_pct), wind,
        )
        .where(*_where(f), FlightRow.seconds > 0, _SPENT > 0)
        .order_by(FlightRow.started_at.desc())
        .limit(most)
    )  # fmt: skip
    rows: Any = s.execute(found)
    return [Point(*row) for row in rows][::-1]


def latest(s: OrmSession, *, manual_return: bool = False) -> datetime | None:
    """When the last flight began, or the last that came home by hand."""
    found = select(func.max(FlightRow.started_at)).where(FlightRow.deleted_at.is_(None))
    if manual_return:
        found = found.where(func.json_extract(FlightRow.document, "$.manual_return").is_(True))
    return s.scalar(found)

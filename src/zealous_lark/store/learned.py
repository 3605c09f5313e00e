"""What the logbook taught and the pilot took."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import LearnedRow


@dataclass(frozen=True, slots=True)
class Learned:
    """A value that was taken, before and after: kind (consumption, health, radio, forecast), whose number it is of.

    source: of a forecast, the key of whose it is; else empty.
    """

    id: int
    kind: str
    target: int
    name: str
    before: float
    after: float
    pm: float
    flights: int
    taken_at: datetime
    undone_at: datetime | None
    source: str = ""


def _learned(r: LearnedRow) -> Learned:
    return Learned(
        r.id, r.kind, r.target, r.name, r.before, r.after, r.pm, r.flights, r.taken_at, r.undone_at, r.source
    )  # fmt: skip


def add(s: OrmSession, learned: Learned) -> Learned:
    """Keep something that was taken; its id is made here."""
    row = LearnedRow(
        kind=learned.kind, target=learned.target, name=learned.name, before=learned.before, after=learned.after,
        pm=learned.pm, flights=learned.flights, taken_at=learned.taken_at, source=learned.source,
    )  # fmt: skip
    s.add(row)
    s.flush()
    return _learned(row)


def every(s: OrmSession) -> list[Learned]:
    """All that was taken, the latest first, also what was undone."""
    return [_learned(r) for r in s.scalars(select(LearnedRow).order_by(LearnedRow.id.desc()))]


def find(s: OrmSession, learned_id: int) -> Learned | None:
    """One by its number, or None."""
    row = s.get(LearnedRow, learned_id)
    return None if row is None else _learned(row)


def undo(s: OrmSession, learned_id: int, now: datetime) -> None:
    """Mark one undone."""
    s.get_one(LearnedRow, learned_id).undone_at = now


def in_force(s: OrmSession, kind: str, target: int) -> float | None:
    """The value in force of a kind for a target, or None."""
    found = select(LearnedRow.after).where(
        LearnedRow.kind == kind, LearnedRow.target == target, LearnedRow.undone_at.is_(None)
    )
    return s.scalar(found.order_by(LearnedRow.id.desc()).limit(1))


def in_force_by_source(s: OrmSession, kind: str, target: int) -> dict[str, float]:
    """The values in force of a kind for a target, by the source that each is of."""
    found = select(LearnedRow.source, LearnedRow.after).where(
        LearnedRow.kind == kind, LearnedRow.target == target, LearnedRow.undone_at.is_(None)
    )
    return {row.source: row.after for row in s.execute(found.order_by(LearnedRow.id))}

"""Answers to practice cases: kept once, never changed."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import PracticeRow


@dataclass(frozen=True, slots=True)
class Practised:
    """An answer to a case. answered_at: aware. document: the answer and its marks as JSON text."""

    uid: str
    family: str
    seed: int
    answered_at: datetime
    grade: str
    cost: float
    document: str


def add(s: OrmSession, practised: Practised) -> bool:
    """Keep an answer. False where its number is there already; that one stays."""
    values = {f.name: getattr(practised, f.name) for f in fields(practised)}
    return s.connection().execute(insert(PracticeRow).values(**values).on_conflict_do_nothing()).rowcount == 1


def find(s: OrmSession, uid: str) -> Practised | None:
    """An answer by its number, or None."""
    row = s.get(PracticeRow, uid)
    return None if row is None else _practised(row)


def every(s: OrmSession) -> list[Practised]:
    """All answers, the first first."""
    rows = s.scalars(select(PracticeRow).order_by(PracticeRow.answered_at, PracticeRow.uid))
    return [_practised(row) for row in rows]


def _practised(row: PracticeRow) -> Practised:
    return Practised(**{f.name: getattr(row, f.name) for f in fields(Practised)})

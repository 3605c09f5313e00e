"""Answers to practice cases, and what was found of the pilot's eye: kept once, never changed."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import EyeRow, PracticeRow


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


@dataclass(frozen=True, slots=True)
class Looked:
    """A look through the eye's staircase. looked_at: aware. document: how, and every answer, as JSON text."""

    uid: str
    looked_at: datetime
    aircraft: str
    size_m: float
    seen_m: float
    low_m: float
    high_m: float
    document: str


def add_look(s: OrmSession, looked: Looked) -> bool:
    """Keep a look. False where its number is there already; that one stays."""
    values = {f.name: getattr(looked, f.name) for f in fields(looked)}
    return s.connection().execute(insert(EyeRow).values(**values).on_conflict_do_nothing()).rowcount == 1


def looks(s: OrmSession) -> list[Looked]:
    """All looks, the latest first."""
    rows = s.scalars(select(EyeRow).order_by(EyeRow.looked_at.desc(), EyeRow.uid))
    return [Looked(**{f.name: getattr(row, f.name) for f in fields(Looked)}) for row in rows]

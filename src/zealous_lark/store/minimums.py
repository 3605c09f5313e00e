"""Personal minimums: added with their date, never overwritten."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import MinimumsRow


@dataclass(frozen=True, slots=True)
class DatedMinimums:
    """Settings as JSON text, and since when they are in force."""

    changed_at: datetime
    settings: str


def add(s: OrmSession, settings: str, now: datetime) -> None:
    """Put settings in force."""
    s.add(MinimumsRow(changed_at=now, settings=settings))


def history(s: OrmSession) -> list[DatedMinimums]:
    """All settings that were in force, the latest first."""
    rows = s.scalars(select(MinimumsRow).order_by(MinimumsRow.id.desc()))
    return [DatedMinimums(row.changed_at, row.settings) for row in rows]

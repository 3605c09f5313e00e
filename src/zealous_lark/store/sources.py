"""Forecast services of the pilot's own, in the order in which they are asked."""

from __future__ import annotations

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import SourceRow


def every(s: OrmSession) -> list[tuple[int, str]]:
    """Number and document (JSON text) of each, in their order."""
    rows = s.scalars(select(SourceRow).order_by(SourceRow.place, SourceRow.id))
    return [(row.id, row.document) for row in rows]


def find(s: OrmSession, number: int) -> str | None:
    """The document of one, or None."""
    row = s.get(SourceRow, number)
    return None if row is None else row.document


def add(s: OrmSession, document: str) -> int:
    """A new one, the last of them; its number."""
    last = s.scalar(select(func.max(SourceRow.place)))
    row = SourceRow(place=0 if last is None else last + 1, document=document)
    s.add(row)
    s.flush()
    return row.id


def change(s: OrmSession, number: int, document: str) -> None:
    """Put another document in its place."""
    s.get_one(SourceRow, number).document = document


def order(s: OrmSession, numbers: list[int]) -> None:
    """Put all of them in an order."""
    for place, number in enumerate(numbers):
        s.get_one(SourceRow, number).place = place


def remove(s: OrmSession, number: int) -> None:
    """Take one out."""
    s.execute(delete(SourceRow).where(SourceRow.id == number))

"""Requests that may be repeated, and what they were answered."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import delete
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store import order
from zealous_lark.store.models import RequestRow

KEPT_FOR = timedelta(days=7)
"""As long as a device may sit in a pocket with something unsent."""


@dataclass(frozen=True, slots=True)
class Answered:
    """digest: of what was asked. status, body: the answer."""

    digest: str
    status: int
    body: str


def find(s: OrmSession, key: str) -> Answered | None:
    """What a request under this key was answered, or None."""
    row = s.get(RequestRow, key)
    return None if row is None else Answered(row.digest, row.status, row.body)


def fill_in(s: OrmSession, key: str, body: str) -> None:
    """Keep the body of an answer that was worked out after its request was done."""
    s.get_one(RequestRow, key).body = body


def add(s: OrmSession, key: str, answered: Answered, now: datetime) -> None:
    """Keep an answer, and forget the old ones."""
    place = order.tick(s)
    # By the order: a clock that is set forward by a week must not make a repeated request a new one.
    s.execute(delete(RequestRow).where(RequestRow.order < place - int(KEPT_FOR.total_seconds()) * order.SECOND))
    row = RequestRow(
        key=key, digest=answered.digest, status=answered.status, body=answered.body, answered_at=now, order=place
    )  # fmt: skip
    s.add(row)
    s.flush()

"""Verdicts of sessions as they were last found, for lists."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import VerdictRow


@dataclass(frozen=True, slots=True)
class StoredVerdict:
    """A verdict and the check that decides it (JSON text). rests_on: a digest of everything that it rests on."""

    rests_on: str
    verdict: str
    tightest: str


def of_sessions(s: OrmSession, numbers: Iterable[int]) -> dict[int, StoredVerdict]:
    """What is kept, by the session's number."""
    rows = s.scalars(select(VerdictRow).where(VerdictRow.session_id.in_(list(numbers))))
    return {r.session_id: StoredVerdict(r.rests_on, r.verdict, r.tightest) for r in rows}


def put(s: OrmSession, session_id: int, found: StoredVerdict) -> None:
    """Keep a verdict in place of the one before; in one statement, as several may list at once."""
    values = {"rests_on": found.rests_on, "verdict": found.verdict, "tightest": found.tightest}
    made = insert(VerdictRow).values(session_id=session_id, **values)
    s.execute(made.on_conflict_do_update(index_elements=[VerdictRow.session_id], set_=values))

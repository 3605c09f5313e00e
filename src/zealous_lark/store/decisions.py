"""Launch decisions: added, read, never changed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import DecisionRow


class PilotsWord(StrEnum):
    LAUNCH = "launch"
    WAIT = "wait"
    STAND_DOWN = "stand_down"


@dataclass(frozen=True, slots=True)
class Decision:
    """A decision with the plan, the result and the walkround's answers it rests on, all as JSON text."""

    id: int
    session_id: int
    decided_at: datetime
    word: PilotsWord
    note: str
    verdict: str
    plan: str
    result: str
    walkround: str


def _decision(row: DecisionRow) -> Decision:
    return Decision(
        row.id,
        row.session_id,
        row.decided_at,
        PilotsWord(row.word),
        row.note,
        row.verdict,
        row.plan,
        row.result,
        row.walkround,
    )


def add(
    s: OrmSession,
    session_id: int,
    *,
    word: PilotsWord,
    note: str,
    verdict: str,
    plan: str,
    result: str,
    walkround: str,
    now: datetime,
) -> Decision:
    """A new decision."""
    row = DecisionRow(
        session_id=session_id,
        decided_at=now,
        word=word.value,
        note=note,
        verdict=verdict,
        plan=plan,
        result=result,
        walkround=walkround,
    )
    s.add(row)
    s.flush()
    return _decision(row)


def of_session(s: OrmSession, session_id: int) -> list[Decision]:
    """A session's decisions, the latest first."""
    rows = s.scalars(select(DecisionRow).where(DecisionRow.session_id == session_id).order_by(DecisionRow.id.desc()))
    return [_decision(row) for row in rows]


def latest_words(s: OrmSession, sessions: Iterable[int]) -> dict[int, PilotsWord]:
    """The latest word of each of the sessions that has one."""
    asked = select(DecisionRow.session_id, DecisionRow.word).where(DecisionRow.session_id.in_(list(sessions)))
    rows = s.execute(asked.order_by(DecisionRow.id))
    return {session_id: PilotsWord(word) for session_id, word in rows}


def find(s: OrmSession, decision_id: int) -> Decision | None:
    """A decision by its number, or None."""
    row = s.get(DecisionRow, decision_id)
    return None if row is None else _decision(row)

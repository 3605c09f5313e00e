"""What was said to the items of a session's lists."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import AnswerRow


class Word(StrEnum):
    DONE = "done"
    SKIP = "skip"
    FAULT = "fault"


@dataclass(frozen=True, slots=True)
class Answer:
    """What was said, a value where the item takes one, a note (the reason for a skip), and when (aware)."""

    word: Word
    value: float | None
    note: str
    said_at: datetime


_TAKEN_BACK = "back"
"""In the place of a word: there is no answer, and since when. An older word that comes late must not bring it back."""


@dataclass(frozen=True, slots=True)
class Last:
    """The last word to an item and its place in the order [µs]; answer None where it was taken back."""

    order: int
    answer: Answer | None


def last(s: OrmSession, session_id: int, name: str, item: str) -> Last | None:
    """What was said to an item last; None where nothing ever was."""
    row = s.get(AnswerRow, (session_id, name, item))
    return None if row is None else Last(row.order, None if row.word == _TAKEN_BACK else _answer(row))


def every(s: OrmSession, session_id: int, name: str) -> dict[str, Answer]:
    """Answers to a session's list, by item."""
    rows = s.scalars(
        select(AnswerRow).where(
            AnswerRow.session_id == session_id, AnswerRow.list == name, AnswerRow.word != _TAKEN_BACK
        )
    )
    return {row.item: _answer(row) for row in rows}


def _answer(row: AnswerRow) -> Answer:
    return Answer(Word(row.word), row.value, row.note, row.said_at)


def of_all_sessions(s: OrmSession, name: str) -> list[tuple[int, str, Answer]]:
    """Answers to a list in every session, deleted ones too: session, item and answer, the first said first."""
    rows = s.scalars(
        select(AnswerRow)
        .where(AnswerRow.list == name, AnswerRow.word != _TAKEN_BACK)
        .order_by(AnswerRow.order, AnswerRow.session_id, AnswerRow.item)
    )
    return [(row.session_id, row.item, _answer(row)) for row in rows]


def put(s: OrmSession, session_id: int, name: str, item: str, answer: Answer, order: int) -> None:
    """Answer an item, in place of what was said before. order: its place in the order [µs]."""
    s.merge(
        AnswerRow(
            session_id=session_id, list=name, item=item, word=answer.word.value, value=answer.value, note=answer.note,
            said_at=answer.said_at, order=order,
        )
    )  # fmt: skip
    s.flush()


def take_back(s: OrmSession, session_id: int, name: str, item: str, when: datetime, order: int) -> None:
    """Take an answer back, from when on (aware). order: its place in the order [µs]."""
    s.merge(
        AnswerRow(
            session_id=session_id, list=name, item=item, word=_TAKEN_BACK, value=None, note="", said_at=when,
            order=order,
        )
    )  # fmt: skip
    s.flush()

"""What was said on the walkround, as it is kept with a decision."""

from __future__ import annotations

from pydantic import TypeAdapter

from zealous_lark.plan.base import Moment, Part


class AnsweredPart(Part):
    """An item's text, what was said to it (done, skip, fault), a value where it has one, the note, when.

    word away: no item, but a line on how a decision was come by without the server.
    """

    item: str
    word: str
    value: float | None
    note: str
    said_at: Moment


_ANSWERED: TypeAdapter[list[AnsweredPart]] = TypeAdapter(list[AnsweredPart])


def read_answered(text: str) -> list[AnsweredPart]:
    """Answers that were kept."""
    return _ANSWERED.validate_json(text)


def answered_text(answered: list[AnsweredPart]) -> str:
    """Answers to be kept."""
    return _ANSWERED.dump_json(answered).decode()

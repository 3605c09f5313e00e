"""The API of what is said to the items of a session's lists."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Annotated, overload

from apiflask import APIBlueprint
from flask import Response
from pydantic import Field

from zealous_lark.services import answers
from zealous_lark.store.answers import Answer, Word
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body
from zealous_lark.web.schemas.common import MONTH_S, In, Out

api = APIBlueprint("answers", __name__, url_prefix="/api")


class AnswerOut(Out):
    word: Word
    value: float | None
    note: str
    said_at: datetime


class AnswerIn(In):
    """What the pilot says to an item; a word of null takes it back. A skip needs a note.

    ago_s: how long ago it was said [s], where the device kept it while the server was out of reach.
    """

    item: Annotated[str, Field(min_length=1, max_length=80)]
    word: Word | None
    value: Annotated[float, Field(ge=-1e6, le=1e6)] | None = None
    note: Annotated[str, Field(max_length=2_000)] = ""
    ago_s: Annotated[float, Field(ge=0, le=MONTH_S)] = 0


class AnswersOut(Out):
    """What was said to the items of a list, by their keys."""

    answers: dict[str, AnswerOut]


@overload
def answer_out(answer: Answer) -> AnswerOut: ...
@overload
def answer_out(answer: None) -> None: ...
@overload
def answer_out(answer: Answer | None) -> AnswerOut | None: ...
def answer_out(answer: Answer | None) -> AnswerOut | None:
    """An answer as it is sent."""
    return None if answer is None else AnswerOut(**asdict(answer))


def _sent(found: dict[str, Answer]) -> Response:
    return json_answer(AnswersOut(answers={key: answer_out(said) for key, said in found.items()}))


@api.get("/sessions/<int:session_id>/answers/<string:name>")
@api.output(AnswersOut)
@api.doc(summary="What was said to the items of a session's list", responses={404: "Not here", 422: "Refused"})
def said(session_id: int, name: str) -> Response:
    """All answers to a list."""
    return _sent(answers.said(database(), session_id, name))


@api.put("/sessions/<int:session_id>/answers/<string:name>")
@api.output(AnswersOut)
@api.doc(
    summary="Answer an item of a session's list",
    responses={404: "Not here", 409: "Answered again since", 422: "Refused"},
)
@body(api, AnswerIn)
def answer(document: AnswerIn, session_id: int, name: str) -> Response:
    """One answer; the answer is all of the list."""
    word = answers.Said(document.item, document.word, document.value, document.note, document.ago_s)
    return _sent(answers.answer(database(), session_id, name, word, now()))

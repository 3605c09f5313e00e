"""The API of what goes from one pilot to another."""

from __future__ import annotations

import re

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.services import sharing
from zealous_lark.web.access import picture_of
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import a_file, file, writes_nothing
from zealous_lark.web.places import download
from zealous_lark.web.schemas import sharing as b

api = APIBlueprint("sharing", __name__, url_prefix="/api")

MOST_BYTES = 4_000_000


def _given(found: sharing.Given) -> Response:
    return json_answer(
        b.GivenOut(
            bytes=len(found.file),
            left_out=list(found.left_out),
            codes=[b.CodePicture(text=text, picture=picture_of(text, dense=True)) for text in found.codes],
            left_out_of_codes=list(found.left_out_of_codes),
        )
    )


def _file(found: sharing.Given) -> Response:
    name = re.sub(r"[^0-9A-Za-z]+", "-", found.name).strip("-").lower() or "shared"
    return download((found.file, "application/gzip", f"{name}.lark.gz"))


@api.get("/sessions/<int:session_id>/share")
@api.output(b.GivenOut)
@api.doc(summary="A session for another pilot: how large its file is, and its codes", responses={404: "Not here"})
def share_session(session_id: int) -> Response:
    """What is given of a session."""
    return _given(sharing.give_session(database(), session_id, now()))


@api.get("/sessions/<int:session_id>/share.gz")
@api.doc(summary="A session for another pilot as a file", responses=a_file("application/gzip"))
def session_file(session_id: int) -> Response:
    """A session going out."""
    return _file(sharing.give_session(database(), session_id, now()))


@api.get("/places/<int:place_id>/share")
@api.output(b.GivenOut)
@api.doc(summary="A place for another pilot: how large its file is, and its codes", responses={404: "Not here"})
def share_place(place_id: int) -> Response:
    """What is given of a place."""
    return _given(sharing.give_place(database(), place_id, now()))


@api.get("/places/<int:place_id>/share.gz")
@api.doc(summary="A place for another pilot as a file", responses=a_file("application/gzip"))
def place_file(place_id: int) -> Response:
    """A place going out."""
    return _file(sharing.give_place(database(), place_id, now()))


@api.post("/shared")
@api.output(b.SharedOut)
@api.doc(
    summary="Look at what another pilot gave: a file, or the texts of codes, a line each",
    description="Nothing is kept. What it holds is taken as a new session or place by their own routes.",
    responses={413: "Too large", 415: "Not bytes", 422: "Refused"},
)
@file(api, MOST_BYTES)
@writes_nothing
def look(data: bytes) -> Response:
    """What is in it."""
    found = sharing.look(database(), data)
    return json_answer(
        b.SharedOut(
            missing=list(found.missing),
            of=found.of,
            made_at=found.made_at,
            plan=found.plan,
            place=found.place,
            left_out=list(found.left_out),
            own=found.own,
        )
    )

"""The API of the eye."""

from __future__ import annotations

from datetime import timedelta

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.practice.eye import TRIALS
from zealous_lark.services import eyesight
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body
from zealous_lark.web.schemas import eyesight as b

api = APIBlueprint("eyesight", __name__, url_prefix="/api")


def _found(found: eyesight.Found) -> b.EyeFound:
    e = found.eye
    return b.EyeFound(
        uid=found.uid,
        looked_at=found.looked_at,
        aircraft=found.aircraft,
        size_m=found.size_m,
        background=found.background,
        timed=found.timed,
        seen_m=e.seen_m,
        low_m=e.low_m,
        high_m=e.high_m,
        formula_m=e.formula_m,
        own_m=e.own_m if found.timed else None,
    )


@api.get("/practice/eye")
@api.output(b.EyeOut)
@api.doc(summary="The eye: aircraft to look for, and what was found")
def looks() -> Response:
    """All looks, the latest first."""
    return json_answer(
        b.EyeOut(
            aircraft=[
                b.EyeAircraft(name=a.name, size_m=a.size_m, formula_m=a.formula_m, own=a.own)
                for a in eyesight.aircraft(database())
            ],
            trials=TRIALS,
            looks=[_found(x) for x in eyesight.every(database())],
        )
    )


@api.put("/practice/eye")
@api.output(b.EyeFound)
@api.doc(summary="Send a whole look; what it tells", responses={404: "Not here", 422: "Refused"})
@body(api, b.EyeIn)
def keep(document: b.EyeIn) -> Response:
    """Kept under the device's number: sent again, it is there once."""
    said = [eyesight.Said(x.distance_m, x.way, x.said) for x in document.said]
    at = now() - timedelta(seconds=document.ago_s)
    return json_answer(
        _found(
            eyesight.keep(
                database(), document.uid, document.aircraft, document.background, said, at, timed=document.timed
            )
        )
    )

"""The API of drills in the field."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.practice.course import COURSE
from zealous_lark.core.practice.drills import Drill
from zealous_lark.core.practice.start import Start
from zealous_lark.core.units import Units
from zealous_lark.services import drilling
from zealous_lark.store.answers import Answer
from zealous_lark.web.answers import answer_out
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body, units, writes_nothing
from zealous_lark.web.schemas import drilling as b
from zealous_lark.web.schemas.preflight import OnSiteIn

api = APIBlueprint("drilling", __name__, url_prefix="/api")


def _now(found: drilling.Drilled) -> b.DrillsNow:
    return b.DrillsNow(
        drills=[
            b.DrillStanding(
                key=s.drill.key, name=s.drill.name, why=s.drill.why, tries=s.tries, last=s.last, due_at=s.due_at
            )
            for s in found.standings
        ],
        course=b.DrillCourse(step=found.course.step, steps=len(COURSE), left=[d.key for d in found.course.left]),
        wanted=[d.key for d in found.wanted],
        first_flights=found.first_flights,
    )


def _card(drill: Drill, start: Start, answer: Answer | None, units: Units) -> b.DrillCard:
    return b.DrillCard(
        key=drill.key,
        steps=list(drill.steps),
        well=drill.well,
        asks=list(drill.asks),
        minutes=drill.minutes,
        height_m=drill.height_m,
        out_m=drill.out_m,
        room_m=drill.room_m,
        wind_ms=start.wind_ms,
        status=start.status,
        may_start=start.may,
        points=[b.DrillPoint(name=p.name, status=p.status, sentence=p.say(units)) for p in start.points],
        answer=answer_out(answer),
    )


@api.get("/drills")
@api.output(b.DrillsNow)
@api.doc(summary="Drills: when each was done well, what is due, how far the course for first flights is")
def standings() -> Response:
    """Of all sessions, and the manual returns of the logbook."""
    return json_answer(_now(drilling.drilled(database(), now())))


@api.post("/sessions/<int:session_id>/drills")
@api.output(b.DrillsHere)
@api.doc(
    summary="A session's drills: whether each may start here and now",
    description="Checked on the plan that is sent; nothing is kept. What was done is said to the list `drills`.",
    responses={404: "Not here", 422: "Refused"},
)
@units(api)
@body(api, OnSiteIn)
@writes_nothing
def here(document: OnSiteIn, session_id: int, units: Units) -> Response:
    """Each drill checked as a flight of its own."""
    found = drilling.here(database(), session_id, document.plan, now())
    return json_answer(
        b.DrillsHere(
            cards=[_card(d, start, found.said.get(d.key), units) for d, start in found.starts],
            now=_now(found.drilled),
        )
    )

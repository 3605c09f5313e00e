"""The API of the room to practise in."""

from __future__ import annotations

import csv
import io
from dataclasses import asdict
from datetime import timedelta

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.cases.marking import Answer, calibration, going
from zealous_lark.cases.rehearsal import SPEED
from zealous_lark.core.units import Units
from zealous_lark.services import practising
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import a_file, body, units
from zealous_lark.web.once import once_at_a_time
from zealous_lark.web.schemas import practising as b

api = APIBlueprint("practising", __name__, url_prefix="/api")


@api.get("/practice")
@api.output(b.PracticeRoom)
@api.doc(summary="What to practise today, and how every family of cases goes")
def open_room() -> Response:
    """What is due, what is weak, what is new."""
    found = practising.room(database(), now())
    return json_answer(
        b.PracticeRoom(
            today=[b.PracticeToday(family=key, why=why) for key, why in found.today],
            families=[
                b.PracticeFamily(
                    key=f.family.key,
                    name=f.family.name,
                    teaches=f.family.teaches,
                    answers=f.answers,
                    due=None if f.standing is None else f.standing.due,
                    remembered=None if f.standing is None else f.standing.remembered,
                    going=None if f.mean_cost is None else going(f.mean_cost),
                    calibration=None if f.brier is None else calibration(f.brier),
                    seed=f.seed,
                    none=f.family.key in found.none,
                    points=[b.PracticePoint(at=at, cost=cost, grade=grade) for at, cost, grade in f.points],
                )
                for f in found.families
            ],
            weakest=found.weakest,
            aircraft=practising.flown(database()),
        )
    )


@api.get("/practice/answers.csv")
@api.doc(summary="All answers as a table", responses=a_file("text/csv"))
def table() -> Response:
    """For a spreadsheet."""
    out = io.StringIO()
    csv.writer(out).writerows(practising.rows(database()))
    headers = {"Content-Disposition": 'attachment; filename="lark-practice.csv"'}
    return Response(out.getvalue(), mimetype="text/csv", headers=headers)


@api.get("/practice/<string:family>/<int:seed>")
@api.output(b.CasePosed)
@api.doc(
    summary="A case as the pilot finds it",
    description="The same for a family, a seed, and the pilot's own aircraft and minimums.",
    responses={404: "Not here"},
)
@units(api)
def pose(family: str, seed: int, units: Units) -> Response:
    """Nothing of what it comes to is in it."""
    return json_answer(_posed(practising.pose(database(), family, seed, units)))


@api.get("/practice/<string:family>/ahead")
@api.output(b.CasesAhead)
@api.doc(
    summary="The next cases of a family with what they are marked by, to be answered without the server",
    description="Takes some seconds.",
    responses={404: "Not here"},
)
@units(api)
@once_at_a_time
def ahead(family: str, units: Units) -> Response:
    """What each comes to is in it: for the device, not for the pilot's eyes."""
    return json_answer(
        b.CasesAhead(
            cases=[
                b.CaseAhead(
                    posed=_posed(x.posed),
                    key=b.CaseKey(**asdict(x.key)),
                    teaches=x.posed.case.family.teaches,
                    plan=x.posed.case.plan,
                    result=x.result,
                )
                for x in practising.ahead(database(), family, units)
            ]
        )
    )


@api.get("/practice/calls/<int:seed>")
@api.output(b.RehearsalOut)
@api.doc(summary="A flight to rehearse the flight clock's alerts with", responses={404: "Not here"})
def rehearsal(seed: int) -> Response:
    """The same for a seed, and the pilot's own aircraft and minimums."""
    found = practising.rehearsal(database(), seed)
    fields = ("seed", "aircraft", "card", "trouble", "factor", "drop_at_s", "drop_points", "distance_m")
    return json_answer(b.RehearsalOut(speed=SPEED, **{name: getattr(found, name) for name in fields}))


def _posed(posed: practising.Posed) -> b.CasePosed:
    return b.CasePosed(
        family=posed.case.family.key,
        name=posed.case.family.name,
        seed=posed.case.seed,
        title=posed.case.plan.site.name or "",
        found=[b.CaseFound(name=f.name, lines=list(f.lines)) for f in posed.found],
        choices=[b.CaseChoice(check=c.check, label=c.label) for c in posed.choices],
        numbers=posed.numbers,
    )


@api.post("/practice/<string:family>/<int:seed>")
@api.output(b.CaseMarked)
@api.doc(summary="Say what you would do; it is marked", responses={404: "Not here", 422: "Refused"})
@units(api)
@body(api, b.CaseAnswer)
def answer(document: b.CaseAnswer, family: str, seed: int, units: Units) -> Response:
    """The marks, the plan and the whole judgement of it."""
    said = Answer(document.word, document.sure_pct, document.tightest, document.turn_back_pct, document.return_height_m)
    at = now() - timedelta(seconds=document.ago_s)
    found = practising.answer(database(), document.uid, family, seed, said, at, units)
    marked, case = found.marked, found.case
    return json_answer(
        b.CaseMarked(
            word=said.word,
            right=marked.right,
            word_cost=marked.word_cost,
            tightest=said.tightest,
            sure_pct=said.sure_pct,
            sure_cost=marked.sure_cost,
            tightest_cost=marked.tightest_cost,
            turn_back_pct=marked.turn_back_pct,
            turn_back_cost=marked.turn_back_cost,
            return_height_m=marked.return_height_m,
            return_height_cost=marked.return_height_cost,
            brier=marked.brier,
            cost=marked.cost,
            grade=marked.grade,
            verdict=case.verdict,
            deciding=case.deciding,
            teaches=case.family.teaches,
            due=found.due,
            plan=case.plan,
            result=found.result,
        )
    )

"""The API: each route reads, calls one function of the services, and writes."""

from __future__ import annotations

from dataclasses import asdict
from datetime import timedelta
from typing import Any

from apiflask import APIBlueprint
from flask import Response, jsonify

from zealous_lark import __version__
from zealous_lark.core.air import hover_wind_ms, relative_density
from zealous_lark.core.checks import all_checks
from zealous_lark.core.schools import QUESTIONS
from zealous_lark.core.units import Units
from zealous_lark.core.weather import BEAUFORT
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan, minimums_of, schema
from zealous_lark.services import decisions, drilling, minimums, places, session_list, sessions, travelling, weather
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.judging import moment_of
from zealous_lark.services.local_time import zone_name
from zealous_lark.services.starters import in_setting, open_field_plan
from zealous_lark.store.sessions import Session
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import afterwards, body, problem, query, units, writes_nothing
from zealous_lark.web.schemas import common as b

api = APIBlueprint("api", __name__, url_prefix="/api")


def _written(session: Session, units: Units, status: int = 200) -> Response:
    """A session that was just written, judged once nobody waits for it; the list need not judge it again."""

    def show() -> Response:
        opened = sessions.open_session(database(), session.id, now(), units)
        session_list.keep_verdict(database(), opened, now(), units)
        return json_answer(_session(opened), status)

    return afterwards(show, status)


def _session(opened: sessions.Opened) -> b.SessionOut:
    s = opened.session
    return b.SessionOut(
        id=s.id,
        revision=s.revision,
        created_at=s.created_at,
        changed_at=s.changed_at,
        plan=opened.plan,
        result=opened.result,
    )


def _summary(listed: session_list.Listed) -> b.SessionSummary:
    head = listed.headline
    return b.SessionSummary(
        id=listed.id,
        title=head.title,
        place=head.place,
        aircraft=head.aircraft,
        pack=head.pack,
        latitude=head.latitude,
        longitude=head.longitude,
        takeoff_at=head.takeoff_at,
        revision=listed.revision,
        changed_at=listed.changed_at,
        verdict=listed.verdict,
        tightest=listed.tightest,
        word=listed.word,
        changes=listed.changes,
    )


def _decision(recorded: decisions.Recorded) -> dict[str, Any]:
    d = recorded.decision
    return {
        "id": d.id,
        "session_id": d.session_id,
        "decided_at": d.decided_at,
        "word": d.word,
        "note": d.note,
        "verdict": recorded.result.verdict,
    }


def _full_decision(recorded: decisions.Recorded) -> b.DecisionOut:
    return b.DecisionOut(
        **_decision(recorded), plan=recorded.plan, result=recorded.result, walkround=recorded.walkround
    )


@api.post("/check")
@api.output(ResultDocument)
@api.doc(summary="Judge a plan", description="Nothing is kept.", responses={422: "Refused", 413: "Too large"})
@units(api, b.CheckQuery)
@body(api, PlanDocument)
@writes_nothing
def check(document: PlanDocument, units: Units, levers: bool) -> Response:
    """The result of a plan."""
    known = weather.known(database(), document, now())
    return json_answer(judge_plan(document, units, with_fixes=levers, known=known))


@api.get("/health")
@api.output(b.HealthOut)
@api.doc(summary="Whether Lark answers and its data can be read")
def health() -> Response:
    """A look into the data, and the version."""
    database().fact("health")
    return json_answer(b.HealthOut(status="ok", version=__version__))


@api.get("/checks")
@api.output(b.CheckCatalogue)
@api.doc(summary="Every check, what it holds against what, and its source")
def checks() -> Response:
    """The catalogue of checks."""
    return json_answer(
        b.CheckCatalogue(
            checks=[
                b.CheckAbout(
                    id=c.id,
                    label=c.label,
                    unit=c.unit,
                    decides=(c.judge.__doc__ or "").strip(),
                    source=c.source,
                )
                for c in all_checks()
            ]
        )
    )


def _looked_at(number: int | None) -> PlanDocument | None:
    """The plan whose verdict is shown under each school."""
    if number is not None:
        return sessions.plan_of(database(), number)
    return sessions.next_plan(database(), now())


def _minimums(number: int | None) -> Response:
    history = minimums.minimums_history(database())
    settings = history[0].settings
    plan = _looked_at(number)
    verdicts = {}
    if plan is not None:
        verdicts = minimums.verdict_under_each(
            plan, settings, weather.known(database(), plan, moment_of(now(), plan.takeoff_at))
        )
    own = minimums_of(settings.minimums)
    questions = [
        b.QuestionOut(
            id=q.id,
            question=q.question,
            why=q.why,
            schools=[
                b.SchoolOut(
                    name=school.name,
                    sets=dict(school.sets),
                    adjusts=school.adjusts,
                    chosen=school.chosen(own),
                    verdict=verdicts[q.id][i] if q.id in verdicts else None,
                )
                for i, school in enumerate(q.schools)
            ],
        )
        for q in QUESTIONS
    ]
    return json_answer(
        b.MinimumsOut(
            settings=settings,
            in_force=minimums.in_force(settings, 0 if plan is None else plan.aircraft.takeoff_mass_g),
            looked_at=None if plan is None else plan.title,
            questions=questions,
            rule_sets=[b.RuleSetOut.model_validate(asdict(r)) for r in minimums.rules_known(settings).values()],
            history=[b.DatedSettings(changed_at=h.changed_at, settings=h.settings) for h in history],
        )
    )


@api.get("/minimums")
@api.output(b.MinimumsOut)
@api.doc(summary="Personal minimums, what each school would say, and the rule sets", responses={404: "Not here"})
@query(api, b.MinimumsQuery)
def open_minimums(asked: b.MinimumsQuery) -> Response:
    """The pilot's minimums."""
    return _minimums(asked.session)


@api.put("/minimums")
@api.output(b.MinimumsOut)
@api.doc(summary="Put minimums in force from now on", responses={422: "Refused"})
@query(api, b.MinimumsChangeQuery)
@body(api, minimums.PilotSettings)
def change_minimums(document: minimums.PilotSettings, asked: b.MinimumsChangeQuery) -> Response:
    """Change the pilot's minimums; what was in force before is kept with its date."""
    may_end = asked.by_word or drilling.drilled(database(), now()).course.done
    minimums.change(database(), document, now(), may_end_first_flights=may_end)
    return afterwards(lambda: _minimums(asked.session))


@api.get("/wind/beaufort")
@api.output(b.BeaufortOut)
@api.doc(summary="The wind by what is seen")
def beaufort() -> Response:
    """The Beaufort forces."""
    return json_answer(b.BeaufortOut(forces=[b.ForceOut(**asdict(force)) for force in BEAUFORT]))


@api.get("/wind/lean")
@api.output(b.LeanOut)
@api.doc(summary="The wind by the tilt of an aircraft that holds still", responses={422: "Refused"})
@query(api, b.LeanQuery)
def lean(asked: b.LeanQuery) -> Response:
    """Wind from the lean in a hover."""
    if asked.tilt_deg > asked.max_tilt_deg:
        raise NotAllowedError("tilt_deg", f"{asked.tilt_deg:g}", f"from 0 to max_tilt_deg, {asked.max_tilt_deg:g}")
    return json_answer(
        b.LeanOut(
            speed_ms=hover_wind_ms(
                asked.tilt_deg,
                asked.fastest_ms,
                asked.max_tilt_deg,
                asked.loading,
                relative_density(asked.elevation_m, asked.temperature_c),
            )
        )
    )


@api.get("/time-zone")
@api.output(b.TimeZoneOut)
@api.doc(summary="The time zone at a position", responses={422: "Refused"})
@query(api, b.PositionQuery)
def time_zone(asked: b.PositionQuery) -> Response:
    """By whose clock a flight takes off."""
    return json_answer(b.TimeZoneOut(name=zone_name(asked.latitude, asked.longitude)))


@api.get("/schema/<which>")
@api.doc(summary="JSON Schema of the plan or the result")
def schemas(which: str) -> Response:
    """A published schema."""
    if which == "plan":
        return jsonify(schema("plan"))
    if which == "result":
        return jsonify(schema("result"))
    return problem(404, f"There is no schema {which}; there are plan and result.")


@api.get("/sessions")
@api.output(b.SessionList)
@api.doc(summary="A page of the sessions, each checked as it stands", responses={422: "Refused"})
@units(api, b.SessionsQuery)
def list_sessions(units: Units, find: str, page: int) -> Response:
    """The list of sessions: what is still to come first, then what is over."""
    found = session_list.list_sessions(database(), now(), units, find, page)
    return json_answer(
        b.SessionList(
            sessions=[_summary(x) for x in found.sessions], page=found.page, pages=found.pages, total=found.total
        )
    )


@api.post("/sessions")
@api.output(b.SessionOut, status_code=201)
@api.doc(summary="Begin a session", responses={422: "Refused", 404: "No session to start from"})
@units(api)
@body(api, b.NewSession)
def begin_session(document: b.NewSession, units: Units) -> Response:
    """A new session like another one, or over an open field."""
    if document.start_from is not None:
        base = sessions.plan_of(database(), document.start_from)
    elif document.place is not None:
        place = document.place
        base = open_field_plan(document.takeoff_at, place.name, place.latitude, place.longitude)
    else:
        raise NotAllowedError("place", "nothing", "a place, or the number of a session in start_from")
    if document.at_place is not None:
        base = places.placed(database(), base, document.at_place)
    if document.setting is not None:
        base = in_setting(base, document.setting)
    flies = sessions.Flies(document.aircraft, document.pack)
    begun = sessions.begin_session(database(), document.title, document.takeoff_at, base, now(), flies)
    return _written(begun, units, 201)


@api.post("/sessions/import")
@api.output(b.SessionOut, status_code=201)
@api.doc(summary="Begin a session from a plan document", responses={422: "Refused", 413: "Too large"})
@units(api)
@body(api, PlanDocument)
def import_session(document: PlanDocument, units: Units) -> Response:
    """A new session from a whole plan."""
    return _written(sessions.put_session(database(), document, now()), units, 201)


@api.get("/sessions/<int:session_id>")
@api.output(b.SessionOut)
@api.doc(summary="One session", responses={404: "Not here"})
@units(api)
def open_session(session_id: int, units: Units) -> Response:
    """A session with its plan and result."""
    return json_answer(_session(sessions.open_session(database(), session_id, now(), units)))


@api.get("/sessions/<int:session_id>/plan.json")
@api.output(PlanDocument)
@api.doc(summary="A session's plan document as a file", responses={404: "Not here"})
def download_plan(session_id: int) -> Response:
    """The plan document, to keep or to give to the command line."""
    plan = sessions.plan_of(database(), session_id)
    response = json_answer(travelling.carried(database(), plan, heights=True))
    response.headers["Content-Disposition"] = f'attachment; filename="lark-plan-{session_id}.json"'
    return response


@api.put("/sessions/<int:session_id>")
@api.output(b.SessionOut)
@api.doc(summary="Save a changed plan", responses={404: "Not here", 409: "Saved elsewhere since", 422: "Refused"})
@units(api)
@body(api, b.SaveSession)
def save_session(document: b.SaveSession, session_id: int, units: Units) -> Response:
    """Save a session's plan."""
    saved = sessions.save_session(database(), session_id, document.plan, document.revision, now())
    return _written(saved, units)


@api.post("/sessions/<int:session_id>/duplicate")
@api.output(b.SessionOut, status_code=201)
@api.doc(summary="Copy a session", responses={404: "Not here"})
@units(api)
def duplicate_session(session_id: int, units: Units) -> Response:
    """A copy of a session."""
    return _written(sessions.duplicate_session(database(), session_id, now()), units, 201)


@api.delete("/sessions/<int:session_id>")
@api.output({}, status_code=204)
@api.doc(summary="Delete a session; it can be brought back", responses={404: "Not here"})
def delete_session(session_id: int) -> tuple[str, int]:
    """Take a session off the list."""
    sessions.delete_session(database(), session_id, now())
    return "", 204


@api.post("/sessions/<int:session_id>/restore")
@api.output({}, status_code=204)
@api.doc(summary="Bring a deleted session back", responses={404: "Not here"})
def restore_session(session_id: int) -> tuple[str, int]:
    """Undo a deletion."""
    sessions.restore_session(database(), session_id)
    return "", 204


@api.get("/sessions/<int:session_id>/decisions")
@api.output(b.DecisionList)
@api.doc(summary="A session's launch decisions, the latest first", responses={404: "Not here"})
def list_decisions(session_id: int) -> Response:
    """The decisions of a session."""
    found = decisions.list_decisions(database(), session_id)
    return json_answer(b.DecisionList(decisions=[b.DecisionSummary(**_decision(d)) for d in found]))


@api.post("/sessions/<int:session_id>/decisions")
@api.output(b.DecisionOut, status_code=201)
@api.doc(
    summary="Record a launch decision",
    responses={404: "Not here", 409: "Saved elsewhere since", 422: "Refused"},
)
@units(api)
@body(api, b.NewDecision)
def record_decision(document: b.NewDecision, session_id: int, units: Units) -> Response:
    """The pilot's word on a session."""
    if document.away is not None:
        return json_answer(_full_decision(_made_away(session_id, document, document.away)), 201)
    recorded = decisions.record_decision(
        database(),
        session_id,
        word=document.word,
        note=document.note,
        revision=document.revision,
        said=document.said,
        now=now(),
        units=units,
    )
    return json_answer(_full_decision(recorded), 201)


def _made_away(session_id: int, document: b.NewDecision, away: b.MadeAway) -> decisions.Recorded:
    at = now() - timedelta(seconds=away.ago_s)
    return decisions.record_made_away(
        database(),
        session_id,
        decisions.Rests(away.plan, away.result, away.asked, at),
        tables_of=away.tables_of,
        word=document.word,
        note=document.note,
        said=document.said,
    )


@api.get("/decisions/<int:decision_id>")
@api.output(b.DecisionOut)
@api.doc(summary="One decision with the plan and result it rests on", responses={404: "Not here"})
def open_decision(decision_id: int) -> Response:
    """A decision as it was made."""
    return json_answer(_full_decision(decisions.open_decision(database(), decision_id)))


@api.get("/decisions/<int:decision_id>/record.pdf")
@api.output({}, content_type="application/pdf")
@api.doc(summary="A decision as a record on paper", responses={404: "Not here"})
def decision_pdf(decision_id: int) -> Response:
    """A decision on paper."""
    response = Response(decisions.decision_pdf(database(), decision_id), mimetype="application/pdf")
    response.headers["Content-Disposition"] = f'attachment; filename="decision-{decision_id}.pdf"'
    return response

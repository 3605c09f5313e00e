"""Launch decisions: the pilot's word on a plan, kept with everything it rests on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from enum import StrEnum

from zealous_lark.core.preflight.gates import item_texts
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import CAUTION, VERDICT_WORDS, Verdict
from zealous_lark.formats.record_pdf import Record, write_record
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan, read_plan
from zealous_lark.plan.walkround import AnsweredPart, answered_text, read_answered
from zealous_lark.services import answers
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.local_time import local
from zealous_lark.services.preflight import Open, still_open
from zealous_lark.services.sessions import open_session, plan_of
from zealous_lark.services.travelling import carried
from zealous_lark.services.weather import known
from zealous_lark.store import Database, Decision, PilotsWord, RevisionConflictError, decisions, launches
from zealous_lark.store.launches import Launch


@dataclass(frozen=True, slots=True)
class Recorded:
    """A decision with its plan and result as they were, its time by the clock at the place."""

    decision: Decision
    plan: PlanDocument
    result: ResultDocument
    walkround: list[AnsweredPart]


def _recorded(decision: Decision) -> Recorded:
    plan = read_plan(decision.plan)
    at = local(decision.decided_at, plan.site.latitude, plan.site.longitude)
    return Recorded(
        replace(decision, decided_at=at),
        plan,
        ResultDocument.model_validate_json(decision.result),
        read_answered(decision.walkround),
    )


def _answered(db: Database, session_id: int) -> list[AnsweredPart]:
    texts = item_texts()
    said = answers.said(db, session_id, answers.WALKROUND)
    return [
        AnsweredPart(item=texts.get(key, key), word=a.word.value, value=a.value, note=a.note, said_at=a.said_at)
        for key, a in sorted(said.items(), key=lambda item: item[1].said_at)
    ]


class OpenWord(StrEnum):
    """The pilot's word on something that is not checked: looked at and in order, or flown without knowing."""

    IN_ORDER = "in_order"
    NOT_KNOWN = "not_known"


_OPEN_WORDS = {OpenWord.IN_ORDER: "looked at, in order", OpenWord.NOT_KNOWN: "not known"}


AWAY = "away"
"""Marks the line, among what was answered, on how a decision was come by without the server."""
OPEN = ("open.site", "open.preflight")
"""What is said on all that a stage has left open."""
_NAMED = 6


def _open_words(open_: Open) -> str:
    """Questions of a stage that nobody has answered, as one line; the first few by their words."""
    named = "; ".join(q.rstrip("?") for q in open_.questions[:_NAMED])
    more = len(open_.questions) - _NAMED
    return f"Not answered in the {open_.name}: {named}{f'; and {more} more' if more > 0 else ''}"


@dataclass(frozen=True, slots=True)
class Rests:
    """What a decision rests on: plan, result, what is not checked in words by its key, and when it is made (aware)."""

    plan: PlanDocument
    result: ResultDocument
    asked: Mapping[str, str]
    at: datetime


def record_decision(
    db: Database,
    session_id: int,
    *,
    word: PilotsWord,
    note: str,
    revision: int,
    now: datetime,
    said: Mapping[str, OpenWord],
    units: Units = METRIC,
) -> Recorded:
    """Record the pilot's word on a session as it is saved, judged again here and now.

    Raises NotHereError; RevisionConflictError when the session was saved since the
    pilot read it; NotAllowedError for a launch against the verdict without a reason, or while a question is
    open and the pilot has no word on it. said: by the check that asks, the word on what is not checked.
    """
    opened = open_session(db, session_id, now, units)
    if opened.session.revision != revision:
        raise RevisionConflictError
    result = judge_plan(opened.plan, units, known=known(db, opened.plan, now))
    asked = {q.id: q.question for q in result.questions}
    asked |= {f"open.{x.stage}": _open_words(x) for x in still_open(db, session_id, opened.plan, now)}
    return _record(db, session_id, Rests(opened.plan, result, asked, now), word, note, said)


def record_made_away(
    db: Database, session_id: int, rests: Rests, *, tables_of: datetime | None,
    word: PilotsWord, note: str, said: Mapping[str, OpenWord],
) -> Recorded:  # fmt: skip
    """Record a decision that was made where no server could be reached, on what the pilot's device had.

    It stands as it was made, whatever the check says by now. tables_of: when the field tables were taken along (aware)
    that the result was looked up in; None: it is the check's own. Raises as `record_decision`, but for the revision.
    """
    plan_of(db, session_id)
    missing = [q.id for q in rests.result.questions if q.id not in rests.asked]
    if missing:
        raise NotAllowedError("away.asked", "nothing on " + ", ".join(missing), "the words of each open question")
    by = "the check" if tables_of is None else f"the field tables of {tables_of.astimezone(UTC):%Y-%m-%d %H:%M} UTC"
    told = f"Decided without the server, by {by}, as taken along."
    away = AnsweredPart(item=told, word=AWAY, value=None, note="", said_at=rests.at)
    return _record(db, session_id, rests, word, note, said, away)


def _record(
    db: Database, session_id: int, rests: Rests, word: PilotsWord, note: str, said: Mapping[str, OpenWord],
    *more: AnsweredPart,
) -> Recorded:  # fmt: skip
    result, note = rests.result, note.strip()
    against = result.verdict in (Verdict.STAY, Verdict.UNKNOWN)
    if word is PilotsWord.LAUNCH and against and not note:
        raise NotAllowedError("note", "nothing", f'a reason, because you launch against the verdict "{result.verdict}"')
    silent = [key for key in rests.asked if key not in said]
    if word is PilotsWord.LAUNCH and silent:
        raise NotAllowedError("said", "nothing on " + ", ".join(silent), "a word on each thing that is not checked")
    words = [
        AnsweredPart(item=question, word="done" if said[key] is OpenWord.IN_ORDER else "skip", value=None,
                     note=_OPEN_WORDS[said[key]], said_at=rests.at)
        for key, question in rests.asked.items()
        if key in said
    ]  # fmt: skip
    with db.transaction() as s:
        decision = decisions.add(
            s,
            session_id,
            word=word,
            note=note,
            verdict=result.verdict,
            plan=carried(db, rests.plan, heights=False).model_dump_json(),
            result=result.model_dump_json(by_alias=True),
            walkround=answered_text([*_answered(db, session_id), *words, *more]),
            now=rests.at,
        )
        if word is PilotsWord.LAUNCH:
            launches.add(s, _launch(decision.id, session_id, rests.plan))
    return _recorded(decision)


def _launch(decision_id: int, session_id: int, plan: PlanDocument) -> Launch:
    site = plan.site
    day = local(plan.takeoff_at, site.latitude, site.longitude).date().isoformat()
    return Launch(
        decision_id, session_id, day, site.latitude, site.longitude, plan.aircraft.name, plan.aircraft.kit,
        plan.pack.label or "", plan.pack.kit,
    )  # fmt: skip


def list_decisions(db: Database, session_id: int) -> list[Recorded]:
    """A session's decisions, the latest first. Raises NotHereError."""
    plan_of(db, session_id)
    with db.transaction() as s:
        return [_recorded(d) for d in decisions.of_session(s, session_id)]


def _find(db: Database, decision_id: int) -> Decision:
    with db.transaction() as s:
        found = decisions.find(s, decision_id)
    if found is None:
        raise NotHereError(f"there is no decision {decision_id}")
    return found


def open_decision(db: Database, decision_id: int) -> Recorded:
    """One decision. Raises NotHereError."""
    return _recorded(_find(db, decision_id))


_WORDS = {PilotsWord.LAUNCH: "Launch", PilotsWord.WAIT: "Wait", PilotsWord.STAND_DOWN: "Stand down"}


def decision_pdf(db: Database, decision_id: int) -> bytes:
    """A decision as a record on paper, times by the clock at the place. Raises NotHereError."""
    recorded = open_decision(db, decision_id)
    d, plan, result = recorded.decision, recorded.plan, recorded.result
    said = [a for a in recorded.walkround if a.word != AWAY]
    skipped = [a for a in said if a.word != "done"]
    done = len(said) - len(skipped)
    walk = [f"{done} items done, {len(skipped)} skipped or with a fault."] if said else ["No preflight was answered."]
    walk += [f"{a.item}: {a.word}{f', {a.note}' if a.note else ''}" for a in skipped]
    return write_record(
        Record(
            title=f"{_WORDS[d.word]}: {plan.title}",
            lines=(
                f"Decided {d.decided_at:%Y-%m-%d %H:%M %z}. Verdict at the time: {VERDICT_WORDS[Verdict(d.verdict)]}.",
                f"{plan.site.name or 'Unnamed place'}, {plan.site.latitude:.5f} {plan.site.longitude:.5f}; "
                f"take-off {plan.takeoff_at:%Y-%m-%d %H:%M %z}; {plan.aircraft.name}, battery {plan.pack.label or '-'} "
                f"at {plan.pack.charge_pct:.0f}%.",
                *(a.item for a in recorded.walkround if a.word == AWAY),
                *((f"Note: {d.note}",) if d.note else ()),
            ),
            table=(
                ("Check", "Status", "What it found"),
                *((c.label, c.status.value, c.sentence) for c in result.checks),
            ),
            sections=(("Preflight", tuple(walk)),),
            ending=CAUTION,
        )
    )

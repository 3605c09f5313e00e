"""Launch decisions: the pilot's word on a plan, kept with everything it rests on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Verdict
from zealous_lark.desk import places
from zealous_lark.desk.errors import NotAllowedError, NotHereError
from zealous_lark.desk.sessions import open_session
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan
from zealous_lark.store import Database, Decision, PilotsWord, RevisionConflictError, decisions


@dataclass(frozen=True, slots=True)
class Recorded:
    """A decision with its plan and result as they were."""

    decision: Decision
    plan: PlanDocument
    result: ResultDocument


def _recorded(decision: Decision) -> Recorded:
    return Recorded(
        decision,
        PlanDocument.model_validate_json(decision.plan),
        ResultDocument.model_validate_json(decision.result),
    )


def record_decision(
    db: Database,
    session_id: int,
    *,
    word: PilotsWord,
    note: str,
    revision: int,
    now: datetime,
    units: Units = METRIC,
) -> Recorded:
    """Record the pilot's word on a session as it is saved, judged again here and now.

    Raises NotHereError; RevisionConflictError when the session was saved since the
    pilot read it; NotAllowedError for a launch against the verdict without a reason.
    """
    opened = open_session(db, session_id)
    if opened.session.revision != revision:
        raise RevisionConflictError
    result = judge_plan(opened.plan, units, place=places.core_place(db, opened.plan))
    note = note.strip()
    against = result.verdict in (Verdict.STAY, Verdict.UNKNOWN)
    if word is PilotsWord.LAUNCH and against and not note:
        raise NotAllowedError("note", "nothing", f'a reason, because you launch against the verdict "{result.verdict}"')
    with db.transaction() as s:
        decision = decisions.add(
            s,
            session_id,
            word=word,
            note=note,
            verdict=result.verdict,
            plan=places.carried(db, opened.plan, heights=False).model_dump_json(),
            result=result.model_dump_json(by_alias=True),
            now=now,
        )
    return _recorded(decision)


def list_decisions(db: Database, session_id: int) -> list[Recorded]:
    """A session's decisions, the latest first. Raises NotHereError."""
    open_session(db, session_id)
    with db.transaction() as s:
        return [_recorded(d) for d in decisions.of_session(s, session_id)]


def open_decision(db: Database, decision_id: int) -> Recorded:
    """One decision. Raises NotHereError."""
    with db.transaction() as s:
        found = decisions.find(s, decision_id)
    if found is None:
        raise NotHereError(f"there is no decision {decision_id}")
    return _recorded(found)

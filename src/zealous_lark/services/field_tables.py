"""Field tables of a session: made for its plan as it is kept, each once for as long as nothing changes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from functools import lru_cache

from zealous_lark.core.field_tables import BEAUFORT_M, HAND_M, FieldTables, field_tables
from zealous_lark.core.readings import WindSource
from zealous_lark.core.units import METRIC
from zealous_lark.plan import Known, PlanDocument, situation_of
from zealous_lark.services import sessions
from zealous_lark.services.judging import moment_of, planned
from zealous_lark.services.minimums import PilotSettings, current
from zealous_lark.services.weather import known
from zealous_lark.store import Database


class ReadingKind(StrEnum):
    """What is read on site: nothing, a meter in the hand, what leaves and waves do, the aircraft's tilt in a hover."""

    NONE = "none"
    METER = "meter"
    LEAVES = "leaves"
    HOVER = "hover"


@dataclass(frozen=True, slots=True)
class Made:
    """Tables, and the plan that they were made for; None indoors, where there is no wind to read."""

    plan: PlanDocument
    tables: FieldTables | None


def made(db: Database, session_id: int, kind: ReadingKind, now: datetime) -> Made:
    """The tables of a session for a kind of reading, at a time (aware). Raises NotHereError."""
    opened = sessions.open_session(db, session_id, now, METRIC)
    settings = current(db)
    text = opened.session.plan
    plan = planned(text, settings)
    moment = moment_of(now, plan.takeoff_at)
    if plan.site.indoors and kind is not ReadingKind.NONE:
        return Made(plan, None)
    return Made(plan, _tables(text, settings.model_dump_json(), known(db, plan, moment), kind))


@lru_cache(maxsize=32)
def _tables(plan_text: str, settings_text: str, known: Known, kind: ReadingKind) -> FieldTables:
    plan = planned(plan_text, PilotSettings.model_validate_json(settings_text))
    situation = situation_of(plan, known)
    match kind:
        case ReadingKind.NONE:
            return field_tables(situation, None)
        case ReadingKind.METER:
            return field_tables(situation, WindSource.MEASURED, HAND_M)
        case ReadingKind.LEAVES:
            return field_tables(situation, WindSource.MEASURED, BEAUFORT_M)
        case ReadingKind.HOVER:
            return field_tables(situation, WindSource.HOVER, max(situation.flight.height_m, 1.0))

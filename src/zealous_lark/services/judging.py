"""Judging saved plans under the pilot's minimums: the same under the same is judged once."""

from __future__ import annotations

from datetime import UTC, datetime
from functools import lru_cache

from zealous_lark.core.units import Units
from zealous_lark.plan import Known, PlanDocument, ResultDocument, judge_plan, read_plan
from zealous_lark.services.minimums import PilotSettings, with_minimums
from zealous_lark.services.weather import known
from zealous_lark.store import Database


def planned(plan_text: str, settings: PilotSettings) -> PlanDocument:
    """A saved plan under the pilot's minimums."""
    return _planned(plan_text, settings.model_dump_json())


def judged(
    db: Database, plan_text: str, settings: PilotSettings, now: datetime, units: Units
) -> tuple[PlanDocument, ResultDocument]:
    """A saved plan at its place, under the pilot's minimums, and its result without fixes.

    now: the time (aware), for the age of the weather; taken to ten minutes, and once the flight is over as it was then.
    """
    plan = planned(plan_text, settings)
    moment = moment_of(now, plan.takeoff_at)
    return plan, _judged(plan_text, settings.model_dump_json(), units, known(db, plan, moment))


def moment_of(now: datetime, takeoff_at: datetime) -> datetime:
    """When a saved plan is judged (UTC): now to ten minutes, and once the flight is over as it was then."""
    moment = min(now, takeoff_at).astimezone(UTC)
    return moment.replace(minute=moment.minute // 10 * 10, second=0, microsecond=0)


@lru_cache(maxsize=256)
def _planned(plan_text: str, settings_text: str) -> PlanDocument:
    return with_minimums(read_plan(plan_text), PilotSettings.model_validate_json(settings_text))


@lru_cache(maxsize=256)
def _judged(plan_text: str, settings_text: str, units: Units, known: Known) -> ResultDocument:
    return judge_plan(_planned(plan_text, settings_text), units, with_fixes=False, known=known)

"""Judging saved plans under the pilot's minimums: the same under the same is judged once."""

from __future__ import annotations

from functools import lru_cache

from zealous_lark.core.place import Place
from zealous_lark.core.units import METRIC, Units
from zealous_lark.desk.minimums import PilotSettings, with_minimums
from zealous_lark.desk.places import core_place
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan, read_plan
from zealous_lark.store import Database


def judged(
    db: Database, plan_text: str, settings: PilotSettings, units: Units = METRIC
) -> tuple[PlanDocument, ResultDocument]:
    """A saved plan at its place, under the pilot's minimums, and its result without levers."""
    plan = _planned(plan_text, settings.model_dump_json())
    return plan, _judged(plan_text, settings.model_dump_json(), units, core_place(db, plan))


@lru_cache(maxsize=256)
def _planned(plan_text: str, settings_text: str) -> PlanDocument:
    return with_minimums(read_plan(plan_text), PilotSettings.model_validate_json(settings_text))


@lru_cache(maxsize=256)
def _judged(plan_text: str, settings_text: str, units: Units, place: Place | None) -> ResultDocument:
    return judge_plan(_planned(plan_text, settings_text), units, with_levers=False, place=place)

"""Judging saved plans under the pilot's minimums: the same under the same is judged once."""

from __future__ import annotations

from functools import lru_cache

from zealous_lark.core.units import METRIC, Units
from zealous_lark.desk.minimums import PilotSettings, with_minimums
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan, read_plan


def judged(plan_text: str, settings: PilotSettings, units: Units = METRIC) -> tuple[PlanDocument, ResultDocument]:
    """A saved plan under the pilot's minimums, and its result without levers."""
    return _judged(plan_text, settings.model_dump_json(), units)


@lru_cache(maxsize=256)
def _judged(plan_text: str, settings_text: str, units: Units) -> tuple[PlanDocument, ResultDocument]:
    plan = with_minimums(read_plan(plan_text), PilotSettings.model_validate_json(settings_text))
    return plan, judge_plan(plan, units, with_levers=False)

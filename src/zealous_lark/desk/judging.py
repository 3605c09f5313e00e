"""Judging saved plans: the same plan in the same units is judged once."""

from __future__ import annotations

from functools import lru_cache

from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import PlanDocument, ResultDocument, judge_plan, read_plan


@lru_cache(maxsize=256)
def judged(plan_text: str, units: Units = METRIC) -> tuple[PlanDocument, ResultDocument]:
    """A saved plan and its result, without levers."""
    plan = read_plan(plan_text)
    return plan, judge_plan(plan, units, with_levers=False)

"""The plan document and its result: the only door into the core."""

from zealous_lark.plan.convert import Known, judge_plan, minimums_of, minimums_part, situation_of
from zealous_lark.plan.document import PlanDocument
from zealous_lark.plan.reading import (
    MAX_PLAN_BYTES,
    PlanRefusedError,
    PlanTooLargeError,
    Refusal,
    read_document,
    read_plan,
    read_whole_plan,
    refused_input,
)
from zealous_lark.plan.result import ResultDocument
from zealous_lark.plan.schema import schema

__all__ = [
    "MAX_PLAN_BYTES",
    "Known",
    "PlanDocument",
    "PlanRefusedError",
    "PlanTooLargeError",
    "Refusal",
    "ResultDocument",
    "judge_plan",
    "minimums_of",
    "minimums_part",
    "read_document",
    "read_plan",
    "read_whole_plan",
    "refused_input",
    "schema",
    "situation_of",
]

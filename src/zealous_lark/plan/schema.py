"""The published JSON Schemas of the plan and the result."""

from __future__ import annotations

from typing import Any, Literal

from zealous_lark.plan.document import PlanDocument
from zealous_lark.plan.result import ResultDocument


def schema(which: Literal["plan", "result"]) -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of the plan or of the result."""
    body = (
        PlanDocument.model_json_schema()
        if which == "plan"
        else ResultDocument.model_json_schema(by_alias=True, mode="serialization")
    )
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **body}

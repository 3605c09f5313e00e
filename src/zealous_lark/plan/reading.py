"""Reading a document from bytes, or refusing it: every fault named at once."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from zealous_lark.plan.document import PlanDocument
from zealous_lark.plan.texts import unfit_texts
from zealous_lark.plan.versions import upgraded_text

MAX_PLAN_BYTES = 4_000_000
"""Larger documents are refused unread."""
_LONGEST_SHOWN = 60
OWN_WORDS = (
    "gust", "order", "blank", "year", "position", "crossing", "shape", "count", "obstacle", "limits", "cells",
    "heights", "hours", "subjects", "at_home", "share",
)  # fmt: skip
"""Refusals whose own message says what is allowed."""

Model = TypeVar("Model", bound=BaseModel)
Location = tuple[int | str, ...]


@dataclass(frozen=True, slots=True)
class Refusal:
    """One fault: the key's path, what was given (as JSON, cut short) and what is allowed."""

    key: str
    given: str
    allowed: str

    def __str__(self) -> str:
        return f"{self.key}: {self.given} given; needs {self.allowed}"


class PlanRefusedError(ValueError):
    """A document that is not what it should be. `refusals` holds every fault that was found."""

    def __init__(self, refusals: list[Refusal]) -> None:
        super().__init__("; ".join(str(r) for r in refusals))
        self.refusals = refusals


class PlanTooLargeError(PlanRefusedError):
    """A document over `MAX_PLAN_BYTES`."""


_WHEN = "a date and time with its UTC offset, like 2026-09-27T07:40:00+03:00"
_TYPE_WORDS = {
    "boolean": "true or false",
    "string": "a text",
    "object": "an object with keys",
    "array": "a list",
    "null": "null",
}


@cache
def _schema(model: type[BaseModel]) -> dict[str, Any]:
    return model.model_json_schema()


def _resolved(model: type[BaseModel], node: dict[str, Any]) -> dict[str, Any]:
    while "$ref" in node:
        node = _schema(model)["$defs"][node["$ref"].rsplit("/", 1)[1]]
    return node


def _choices(model: type[BaseModel], node: dict[str, Any]) -> list[dict[str, Any]]:
    node = _resolved(model, node)
    return [_resolved(model, n) for n in node["anyOf"]] if "anyOf" in node else [node]


def _schemas_at(model: type[BaseModel], location: Location) -> list[dict[str, Any]]:
    """What the published schema allows at a place: one entry for each alternative."""
    nodes = _choices(model, _schema(model))
    for step in location:
        found: list[dict[str, Any]] = []
        for node in nodes:
            inner = node.get("items") if isinstance(step, int) else node.get("properties", {}).get(step)
            if inner:
                found += _choices(model, inner)
        nodes = found
    return nodes


def _bounds(node: dict[str, Any], least: str, greatest: str, more: str = "", less: str = "") -> str:
    low, high = node.get(least), node.get(greatest)
    above, below = node.get(more), node.get(less)
    words = [
        f"from {low:,g}" if low is not None else f"more than {above:,g}" if above is not None else "",
        f"to {high:,g}" if high is not None else f"less than {below:,g}" if below is not None else "",
    ]
    return " ".join(w for w in words if w)


def _allowed_by(node: dict[str, Any]) -> str:
    """One alternative of the schema in words."""
    if "enum" in node or "const" in node:
        return ", ".join(json.dumps(v) for v in node.get("enum", [node.get("const")]))
    kind = node.get("type", "")
    if kind in ("number", "integer"):
        bounds = _bounds(node, "minimum", "maximum", "exclusiveMinimum", "exclusiveMaximum")
        return f"{'a whole' if kind == 'integer' else 'a'} number {bounds}".strip()
    if node.get("format") == "date-time":
        return _WHEN
    if kind == "array":
        bounds = _bounds(node, "minItems", "maxItems")
        return f"a list of {bounds.removeprefix('from ')} entries" if bounds else "a list"
    if kind == "string":
        bounds = _bounds(node, "minLength", "maxLength")
        return f"a text of {bounds.removeprefix('from ')} letters" if bounds else "a text"
    return _TYPE_WORDS.get(kind, "another value")


def _path(location: Location) -> str:
    text = ""
    for step in location:
        text += f"[{step}]" if isinstance(step, int) else f".{step}" if text else step
    return text or "(the document)"


def _shown(value: Any) -> str:
    try:
        text = json.dumps(value, ensure_ascii=False)
    except (TypeError, ValueError):
        text = str(value)
    return text if len(text) <= _LONGEST_SHOWN else text[: _LONGEST_SHOWN - 1] + "…"


def _refusal(model: type[BaseModel], error: ErrorDetails) -> Refusal:
    kind, location = error["type"], error["loc"]
    key = _path(location)
    if kind == "json_invalid":
        detail = error.get("ctx", {}).get("error", "unreadable")
        return Refusal(key, "text that is not JSON", f"a JSON document ({detail})")
    if kind == "extra_forbidden":
        known = [k for node in _schemas_at(model, location[:-1]) for k in node.get("properties", {})]
        return Refusal(key, _shown(error["input"]), f"no such key here; use one of {', '.join(known)}")
    nodes = _schemas_at(model, location)
    allowed = " or ".join(dict.fromkeys(_allowed_by(node) for node in nodes))
    if kind == "missing":
        return Refusal(key, "nothing", f"{allowed} (this key is required)".strip())
    own_words = kind in OWN_WORDS
    return Refusal(key, _shown(error["input"]), error["msg"] if own_words or not allowed else allowed)


def refused_input(model: type[BaseModel], error: ValidationError) -> PlanRefusedError:
    """What pydantic found wrong with an input, as refusals with every fault named."""
    return PlanRefusedError([_refusal(model, e) for e in error.errors(include_url=False)])


def read_document(model: type[Model], raw: bytes | str) -> Model:
    """A document of a model from JSON text; what it holds of an older version is brought to the newest.

    Raises PlanTooLargeError over `MAX_PLAN_BYTES`, PlanRefusedError with every fault otherwise.
    """
    if len(raw) > MAX_PLAN_BYTES:
        allowed = f"{MAX_PLAN_BYTES:,} bytes at most"
        raise PlanTooLargeError([Refusal("(the document)", f"more than {MAX_PLAN_BYTES:,} bytes", allowed)])
    if unfit := unfit_texts(raw):
        allowed = "text without control characters and marks that turn its direction"
        raise PlanRefusedError([Refusal(_path(at), f"a text with {sign}", allowed) for at, sign in unfit])
    try:
        return model.model_validate_json(upgraded_text(raw))
    except ValidationError as error:
        raise refused_input(model, error) from None


def read_whole_plan(raw: bytes | str) -> PlanDocument:
    """A plan that needs nothing from anybody's store; raises as `read_document`."""
    plan = read_plan(raw)
    if plan.site.place is not None and plan.place is None:
        allowed = "null, or the place itself in `place`: export the plan from its session"
        raise PlanRefusedError([Refusal("site.place", str(plan.site.place), allowed)])
    if plan.weather.report is not None and plan.forecast is None:
        allowed = "null, or the forecast itself in `forecast`: export the plan from its session"
        raise PlanRefusedError([Refusal("weather.report", str(plan.weather.report), allowed)])
    terrain = None if plan.place is None else plan.place.terrain
    if terrain is not None and terrain.heights is None:
        raise PlanRefusedError([Refusal("place.terrain.heights", "nothing", "the terrain's heights in the document")])
    return plan


def read_plan(raw: bytes | str) -> PlanDocument:
    """A plan document from JSON text; raises as `read_document`."""
    return read_document(PlanDocument, raw)

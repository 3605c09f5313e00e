"""Plans at the edges of what a plan document allows, drawn by a seed: the least and the most of numbers, long words."""

from __future__ import annotations

import copy
import json
import random
from typing import Any

from zealous_lark.plan import PlanDocument, PlanRefusedError, read_plan, schema

_TEXTS = ("W" * 120, "أرض ومطار", "👨\u200d👩\u200d👧 🐦", "<b>&amp;</b> [red]x[/bold]", "a" * 119, "=1+1; cmd")


def extreme_plans(example: dict[str, Any], count: int, seed: int) -> list[PlanDocument]:
    """So many accepted plans, each with about a quarter of its values at an edge."""
    rng = random.Random(seed)
    described = schema("plan")
    found: list[PlanDocument] = []
    tried = 0
    while len(found) < count:
        tried += 1
        assert tried < 200 * count, f"only {len(found)} of {tried} were accepted"
        plan = copy.deepcopy(example)
        _at_the_edge(plan, described, described["$defs"], rng, rng.choice((0.05, 0.1, 0.25)))
        try:
            found.append(read_plan(json.dumps(plan)))
        except PlanRefusedError:
            continue
    return found


def _at_the_edge(
    value: Any, described: dict[str, Any], parts: dict[str, Any], rng: random.Random, share: float
) -> None:
    described = _meant(described, parts)
    if isinstance(value, dict):
        fields = described.get("properties", {})
        for key in value:
            if key in ("format", "version", "evidence", "place", "kit", "minimums"):
                continue
            _replace(value, key, fields.get(key, {}), parts, rng, share)
    elif isinstance(value, list):
        for at in range(len(value)):
            _replace(value, at, described.get("items", {}), parts, rng, share)


def _replace(
    within: Any, key: Any, described: dict[str, Any], parts: dict[str, Any], rng: random.Random, share: float
) -> None:
    if isinstance(within[key], dict | list):
        _at_the_edge(within[key], described, parts, rng, share)
        return
    if rng.random() > share:
        return
    kind = _meant(described, parts)
    if "enum" in kind:
        within[key] = rng.choice(kind["enum"])
    elif kind.get("type") == "boolean":
        within[key] = not within[key]
    elif kind.get("type") in ("number", "integer"):
        edges = [kind[edge] for edge in ("minimum", "maximum", "exclusiveMinimum", "exclusiveMaximum") if edge in kind]
        if edges:
            within[key] = rng.choice(edges)
    elif kind.get("type") == "string" and "format" not in kind and "pattern" not in kind:
        within[key] = rng.choice(_TEXTS)[: kind.get("maxLength", 120)]


def _meant(described: dict[str, Any], parts: dict[str, Any]) -> dict[str, Any]:
    """What a schema says of a value that is there: references followed, null left out."""
    if "$ref" in described:
        return _meant(parts[described["$ref"].rsplit("/", 1)[-1]], parts)
    for key in ("anyOf", "oneOf", "allOf"):
        for one in described.get(key, []):
            if one.get("type") != "null":
                return _meant({**one, **{k: v for k, v in described.items() if k != key and k != "default"}}, parts)
    return described

"""The ranges that the plan document allows, for inputs that show them."""

from __future__ import annotations

from functools import cache
from typing import Any

from zealous_lark.plan.document import AircraftPart


@cache
def _schema() -> dict[str, Any]:
    return AircraftPart.model_json_schema()


def aircraft_range(key: str) -> tuple[float | None, float | None]:
    """Least and greatest value of a number of a spec sheet, as in "speeds_ms.slow"; None where there is no bound.

    >>> aircraft_range("hover_time_min")
    (1.0, 240.0)
    """
    node = _schema()
    for step in key.split("."):
        node = node["properties"][step]
        while "$ref" in node:
            node = _schema()["$defs"][node["$ref"].rsplit("/", 1)[1]]
    # What may be left open is a number or null.
    node = next((n for n in node.get("anyOf", []) if n.get("type") != "null"), node)
    node = node.get("items", node)
    bounds = (node.get("minimum", node.get("exclusiveMinimum")), node.get("maximum", node.get("exclusiveMaximum")))
    least, greatest = (None if v is None else float(v) for v in bounds)
    return least, greatest

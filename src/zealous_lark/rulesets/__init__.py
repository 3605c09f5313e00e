"""The rule sets that ship with Lark: one JSON file each. To add one, add a file."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files

from zealous_lark.core.rules import RuleSet

GENERAL = "general"


@cache
def rule_sets() -> dict[str, RuleSet]:
    """Every rule set by its id (the file's name), the general one first, then by name.

    Raises TypeError or KeyError for a file whose keys are not those of a rule set.
    """
    found = []
    for file in files(__name__).iterdir():
        if file.name.endswith(".json"):
            raw = json.loads(file.read_text(encoding="utf-8"))
            raw.update({key: tuple(raw[key]) for key in ("mass_steps_g", "notes")})
            found.append(RuleSet(id=file.name.removesuffix(".json"), **raw))
    return {r.id: r for r in sorted(found, key=lambda r: (r.id != GENERAL, r.name))}

"""Making situations for tests: the example plan with something changed."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Finding, all_checks
from zealous_lark.core.situation import Situation, WindLevel, WindSource
from zealous_lark.core.units import METRIC, Units

ROOT = Path(__file__).parent.parent
EXAMPLES = ROOT / "examples"


def changed(situation: Situation, **values: Any) -> Situation:
    """A situation with fields replaced, named part__field, as in flight__height_m=30."""
    for name, value in values.items():
        part, _, field = name.partition("__")
        new = replace(getattr(situation, part), **{field: value}) if field else value
        situation = replace(situation, **{part: new})
    return situation


def forecast(speed: float, direction: float = 240, gust: float | None = None, height: float = 10) -> WindLevel:
    return WindLevel(height, speed, direction, WindSource.FORECAST, gust)


def measured(speed: float, direction: float = 240, gust: float | None = None, height: float = 2) -> WindLevel:
    return WindLevel(height, speed, direction, WindSource.MEASURED, gust)


def wind(situation: Situation, *levels: WindLevel) -> Situation:
    return changed(situation, weather__winds=levels)


def find(situation: Situation, check_id: str, units: Units = METRIC) -> Finding:
    """What one check finds."""
    check = next(c for c in all_checks() if c.id == check_id)
    return check.judge(Assessment(situation), units)

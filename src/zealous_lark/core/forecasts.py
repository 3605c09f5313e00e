"""Several forecasts of one flight: what each would say, how far they differ, and which of them is the strictest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zealous_lark.core.air import Wind
from zealous_lark.core.checks import Status
from zealous_lark.core.forecast import Forecast
from zealous_lark.core.site_wind import site_wind
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import STRICTER, Judgement, judge


@dataclass(frozen=True, slots=True)
class Spread:
    """How far forecasts differ in the wind of the way home [m/s].

    share: one standard deviation of them as a share of their mean, as it is estimated from few (n − 1).
    """

    count: int
    mean_ms: float
    least_ms: float
    most_ms: float
    share: float


def wind_at(situation: Situation, height_m: float) -> Wind | None:
    """The wind at a height [m] over the take-off, as the weather of a flight has it; None where it says none."""
    s = situation
    wind = None if s.site.indoors else site_wind(s.site, s.weather.winds, s.minimums.wind_aloft)
    return None if wind is None else wind.at(height_m)


def wind_home(situation: Situation) -> Wind | None:
    """The same at the height of the way home."""
    return wind_at(situation, situation.return_height_m)


def spread_of(situation: Situation, forecasts: Sequence[Forecast]) -> Spread | None:
    """How far forecasts differ in the wind that a flight meets on the way home; None for fewer than two that say it."""
    found = [wind_home(s) for f in forecasts if (s := situation.in_forecast(f)) is not None]
    speeds = np.array([w.speed_ms for w in found if w is not None])
    if speeds.size < 2:
        return None
    mean = float(speeds.mean())
    share = float(speeds.std(ddof=1)) / mean if mean > 0 else 0.0
    return Spread(int(speeds.size), mean, float(speeds.min()), float(speeds.max()), share)


def strictness(judgement: Judgement) -> tuple[int, float]:
    """The stricter of two judgements is the greater: by the verdict, then by how much of the tightest limit is used."""
    finding = judgement.tightest.finding
    used = finding.used if finding.used is not None else float(finding.status is not Status.PASS)
    return STRICTER[judgement.verdict], used


def strictest(situation: Situation, forecasts: Sequence[Forecast]) -> tuple[Forecast, Judgement] | None:
    """The forecast in which a flight is judged most strictly, and that judgement; None where none says its time."""
    judged = [(f, judge(s)) for f in forecasts if (s := situation.in_forecast(f)) is not None]
    return max(judged, key=lambda pair: strictness(pair[1]), default=None)

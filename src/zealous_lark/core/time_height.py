"""The wind over a site by time and height, as shares of what the aircraft may use: what the curtain is drawn from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from zealous_lark.core.forecast import Hour
from zealous_lark.core.site_wind import site_wind
from zealous_lark.core.situation import Situation

HEIGHTS_M = (5.0, 10.0, 20.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0, 90.0, 100.0, 110.0, 120.0)

Row = tuple[float | None, ...]
_NOTHING: Row = (None,) * len(HEIGHTS_M)


@dataclass(frozen=True, slots=True)
class Column:
    """One moment: mean wind and gust [m/s], direction [°] and share of the limit used at `HEIGHTS_M`; None not known.

    The share is the greater of steady wind over its limit and gust over its limit.
    """

    speed_ms: Row
    gust_ms: Row
    direction_deg: Row
    used: Row
    hour: Hour | None


def curtain(situation: Situation, times: Sequence[datetime]) -> tuple[Column, ...]:
    """The wind of a situation's forecast over its site at times (aware); without a forecast, as planned."""
    return tuple(_column(situation, at) for at in times)


def _column(situation: Situation, at: datetime) -> Column:
    hour = None if situation.forecast is None else situation.forecast.at(at)
    if situation.forecast is not None and hour is None:
        return Column(_NOTHING, _NOTHING, _NOTHING, _NOTHING, None)
    s = situation.moved_to(at)
    wind = None if s.site.indoors else site_wind(s.site, s.weather.winds, s.minimums.wind_aloft)
    if wind is None:
        return Column(_NOTHING, _NOTHING, _NOTHING, _NOTHING, hour)
    heights = np.array(HEIGHTS_M)
    speed, gust, direction = wind.speed_ms(heights), wind.gust_ms(heights), wind.direction_deg(heights)
    steady_limit, gust_limit = limits_ms(s)
    used = np.maximum(speed / steady_limit, gust / gust_limit)
    return Column(tuple(speed.tolist()), tuple(gust.tolist()), tuple(direction.tolist()), tuple(used.tolist()), hour)


def limits_ms(situation: Situation) -> tuple[float, float]:
    """The steady wind and the gust [m/s] that the pilot allows this aircraft."""
    most = situation.aircraft.rated_wind_ms
    return situation.minimums.wind_fraction * most, most

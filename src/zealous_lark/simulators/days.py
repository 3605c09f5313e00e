"""Made-up weather by hour and height: kinds of days that a pilot should have seen once.

Invented, with the shape of the real thing: a daily course of temperature, a wind that grows with height by the log
law and at night leaves the ground calm under a moving layer, fog where the air is at its dew point.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum

import numpy as np

from zealous_lark.plan.forecast import ForecastPart, HourPart, LevelPart

HEIGHTS_M = (10.0, 30.0, 60.0, 80.0, 100.0, 120.0)


class Day(StrEnum):
    FAIR = "fair"
    FRONT = "front"
    SEA_BREEZE = "sea_breeze"
    FROST_FOG = "frost_fog"
    STORM = "storm"


ABOUT = {
    Day.FAIR: "Fair, a light wind",
    Day.FRONT: "A front in the afternoon",
    Day.SEA_BREEZE: "A sea breeze",
    Day.FROST_FOG: "A calm frosty morning with fog",
    Day.STORM: "A stormy day",
}


@dataclass(frozen=True, slots=True)
class _Air:
    """The air of one hour: wind at 10 m, its gust and direction, how much it grows up to 120 m, and the rest."""

    speed_ms: float
    gust_ms: float
    direction_deg: float
    growth: float
    temperature_c: float
    spread_c: float
    cloud_pct: float
    rain_mmh: float = 0.0
    visibility_m: float = 20_000.0
    kp: float = 2.0
    turn_deg: float = 10.0


def _bump(hour: float, middle: float, width: float) -> float:
    """1 in the middle, falling off over a width [h], the same each day."""
    apart = (hour - middle + 12) % 24 - 12
    return math.exp(-((apart / width) ** 2))


def _fair(hour: float, _day: int) -> _Air:
    sun = _bump(hour, 14, 5)
    wind = 2.0 + 1.8 * sun
    return _Air(wind, wind * (1.5 + 0.2 * sun), 245, 1.45 - 0.2 * sun, 5 + 8 * sun, 3 + 5 * sun, 30 + 20 * sun)


def _front(hour: float, day: int) -> _Air:
    # Once, in the afternoon of the first whole day; calmer air is in front of it and fresher air behind.
    since = (day - 1) * 24 + hour - 15
    before, after = 1 / (1 + math.exp(since / 0.6)), 1 / (1 + math.exp(-since / 0.6))
    passing = math.exp(-((since / 2) ** 2))
    wind = 3 + 3 * math.exp(-((since / 6) ** 2)) + 4 * passing + 2 * after
    return _Air(
        wind, wind * (1.5 + 0.3 * passing), 205 * before + 295 * after, 1.4, 10 * before + 5 * after,
        3 * before + 5 * after - 2.5 * passing, 60 + 40 * passing, 6 * passing if passing > 0.05 else 0.0,
        20_000 - 15_000 * passing, turn_deg=15,
    )  # fmt: skip


def _sea_breeze(hour: float, _day: int) -> _Air:
    onshore = _bump(hour, 15, 3.2)
    land = _bump(hour, 4, 4)
    wind = 0.8 + 5.2 * onshore + 1.2 * land
    # The breeze is a shallow layer: strongest near the ground, with another wind above it.
    return _Air(wind, wind * 1.35, 230 if onshore > 0.25 else 60, 1.15, 14 + 7 * _bump(hour, 14, 5), 5 + 3 * onshore,
                25, turn_deg=35 * onshore)  # fmt: skip


def _frost_fog(hour: float, _day: int) -> _Air:
    sun = _bump(hour, 14, 3.6)
    fog = 1 if 2 <= hour < 9 else 0.3 if 9 <= hour < 10 else 0
    wind = 0.5 + 1.9 * sun
    spread = 0.2 if fog == 1 else 1.5 if fog else 2.0 + 4.5 * sun
    return _Air(wind, wind * 1.6, 20 + 25 * sun, 2.4 - 1.1 * sun, -5 + 9.5 * sun, spread, 100 if fog else 15,
                visibility_m=250 if fog == 1 else 2_500 if fog else 12_000)  # fmt: skip


def _storm(hour: float, _day: int) -> _Air:
    squalls = 0.5 + 0.5 * math.sin(hour / 24 * 2 * math.pi * 3)
    wind = 12 + 4 * squalls
    return _Air(wind, wind * 1.7, 255 + 20 * squalls, 1.35, 8, 1.5, 100, 4 * squalls, 5_000, kp=5.7)


_MADE: dict[Day, Callable[[float, int], _Air]] = {
    Day.FAIR: _fair,
    Day.FRONT: _front,
    Day.SEA_BREEZE: _sea_breeze,
    Day.FROST_FOG: _frost_fog,
    Day.STORM: _storm,
}


def _winds(air: _Air, shake: float) -> list[LevelPart]:
    excess = max(air.gust_ms - air.speed_ms, 0.0)
    levels = []
    for height in HEIGHTS_M:
        share = math.log(height / 10) / math.log(12)
        speed = air.speed_ms * (1 + (air.growth - 1) * share) * shake
        levels.append(
            LevelPart(
                height_m=height,
                speed_ms=round(speed, 2),
                direction_deg=round((air.direction_deg + air.turn_deg * share) % 360, 1),
                gust_ms=round(speed + excess, 2),
            )
        )
    return levels


def made_forecast(
    day: Day, begin: datetime, hours: int, longitude: float, issued_at: datetime, *, seed: int = 0,
    day_zero: datetime | None = None, source: str = "Simulated forecast service",
) -> ForecastPart:  # fmt: skip
    """Hours of a kind of day from a time (aware) on, by the sun's time at a longitude [°].

    day_zero: a time in the day that the kind of day is counted from; the one it begins in when left out.
    The same for the same seed. What is further ahead of the time of issue is further off.
    """
    first = begin.replace(minute=0, second=0, microsecond=0)
    chance = np.random.default_rng([seed, list(Day).index(day)])
    ahead_h = np.clip([(first - issued_at) / timedelta(hours=1) + n for n in range(hours)], 0, 48)
    shakes = 1 + (0.03 + 0.001 * ahead_h) * chance.standard_normal(hours)
    local_midnight = ((day_zero or first).astimezone(first.tzinfo) + timedelta(hours=longitude / 15)).replace(
        hour=0, minute=0, second=0, microsecond=0
    )
    found = []
    for n in range(hours):
        at = first + timedelta(hours=n)
        solar = at.hour + longitude / 15 + (at.utcoffset() or timedelta()).total_seconds() / -3600
        days = (at + timedelta(hours=longitude / 15) - local_midnight) // timedelta(days=1)
        air = _MADE[day](solar % 24, days)
        found.append(
            HourPart(
                at=at,
                winds=_winds(air, float(np.clip(shakes[n], 0.85, 1.15))),
                temperature_c=round(air.temperature_c, 1),
                dew_point_c=round(air.temperature_c - air.spread_c, 1),
                cloud_pct=round(air.cloud_pct),
                rain_mmh=round(air.rain_mmh, 1),
                visibility_m=round(air.visibility_m, -1),
                kp=air.kp,
            )
        )
    return ForecastPart(format="zealous-lark.forecast", version=1, source=source, issued_at=issued_at, hours=found)

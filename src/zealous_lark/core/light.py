"""Sun over the site. Times and positions come from astral, held against pvlib in the tests."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date, datetime, tzinfo
from enum import StrEnum
from functools import lru_cache

from astral import Observer
from astral.sun import azimuth, elevation, sunrise, sunset

CIVIL_TWILIGHT_DEG = -6.0
"""Elevation of the sun's centre at which civil twilight ends [°]."""
SUNRISE_DEG = -0.833
"""Elevation of the sun's centre when its upper limb is on the horizon, refraction included [°]."""


@dataclass(frozen=True, slots=True)
class Light:
    """Sunrise and sunset of the take-off's own day, in its own UTC offset; None where the sun does not."""

    sunrise: datetime | None
    sunset: datetime | None


@lru_cache(maxsize=256)
def _day(latitude: float, longitude: float, day: date, zone: tzinfo | None) -> Light:
    observer = Observer(latitude, longitude)

    def of(event: object) -> datetime | None:
        try:
            return event(observer, date=day, tzinfo=zone)  # type: ignore[operator, no-any-return]
        except ValueError:  # astral's word for "the sun does not do that today"
            return None

    return Light(sunrise=of(sunrise), sunset=of(sunset))


def light(latitude: float, longitude: float, at: datetime) -> Light:
    """Light of the day of `at` (aware) at a place [°].

    In polar day and polar night the times are None.
    """
    return _day(latitude, longitude, at.date(), at.tzinfo)


@dataclass(frozen=True, slots=True)
class Sun:
    """Where the sun stands [°]: azimuth from true north, elevation of its centre."""

    azimuth_deg: float
    elevation_deg: float


@lru_cache(maxsize=4096)
def sun(latitude: float, longitude: float, at: datetime) -> Sun:
    """Where the sun stands at a moment (aware) over a place [°], refraction included."""
    observer = Observer(latitude, longitude)
    return Sun(azimuth(observer, at), elevation(observer, at))


def angle_from_sun_deg(position: Sun, bearing_deg: float, elevation_deg: float) -> float:
    """Angle [°] between the sun and a line of sight given by its bearing and elevation [°]."""
    a1, e1 = math.radians(position.azimuth_deg), math.radians(position.elevation_deg)
    a2, e2 = math.radians(bearing_deg), math.radians(elevation_deg)
    cosine = math.sin(e1) * math.sin(e2) + math.cos(e1) * math.cos(e2) * math.cos(a1 - a2)
    return math.degrees(math.acos(max(-1.0, min(1.0, cosine))))


class Glow(StrEnum):
    """The light by the height of the sun."""

    NIGHT = "night"
    TWILIGHT = "twilight"
    GOLDEN = "golden"
    DAY = "day"


GOLDEN_HIGH_DEG = 6.0
"""Height of the sun up to which its light is golden [°]; photographers' practice."""


def glow(elevation_deg: float) -> Glow:
    """The kind of light at a height of the sun's centre [°]: civil twilight up to sunrise, then golden hour to 6°.

    >>> glow(-3), glow(4)
    (<Glow.TWILIGHT: 'twilight'>, <Glow.GOLDEN: 'golden'>)
    """
    if elevation_deg < CIVIL_TWILIGHT_DEG:
        return Glow.NIGHT
    if elevation_deg < SUNRISE_DEG:
        return Glow.TWILIGHT
    return Glow.GOLDEN if elevation_deg < GOLDEN_HIGH_DEG else Glow.DAY

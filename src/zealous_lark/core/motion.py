"""Moving through moving air: the wind triangle and the point of safe return."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]


def angle_between_deg(a: float, b: float) -> float:
    """Smallest angle [°, 0 to 180] between two directions [°]."""
    return abs((a - b + 180) % 360 - 180)


def wind_components_ms(wind_ms: ArrayLike, direction_deg: ArrayLike, course_deg: ArrayLike) -> tuple[Floats, Floats]:
    """Headwind and crosswind [m/s] on a course [°]; a tailwind is a negative headwind.

    The direction is where the wind comes from [°].
    """
    angle = np.radians(np.asarray(direction_deg, dtype=float) - np.asarray(course_deg, dtype=float))
    speed = np.asarray(wind_ms, dtype=float)
    return np.asarray(speed * np.cos(angle)), np.asarray(speed * np.sin(angle))


def ground_speed_ms(
    airspeed_ms: ArrayLike, wind_ms: ArrayLike, direction_deg: ArrayLike, course_deg: ArrayLike
) -> Floats:
    """Speed over the ground [m/s] when the course is held against the wind.

    Negative when the aircraft is blown back. NaN where the crosswind is the
    airspeed or more: there is no heading that holds the course.
    """
    head, cross = wind_components_ms(wind_ms, direction_deg, course_deg)
    air = np.asarray(airspeed_ms, dtype=float)
    room = air**2 - cross**2
    return np.where(room > 0, np.sqrt(np.maximum(room, 0.0)) - head, np.nan)


def safe_return_time(endurance: float, speed_out: float, speed_home: float) -> float:
    """Time to the point of safe return, in the unit of the endurance: t = E·H/(O+H).

    Endurance less reserve, ground speeds out and home in any one unit. Classic air
    navigation. Raises ValueError unless both speeds are positive.

    >>> round(safe_return_time(4.0, 150, 200) * 60)
    137
    """
    if not (speed_out > 0 and speed_home > 0 and math.isfinite(endurance)):
        raise ValueError("ground speeds out and home must be positive")
    return endurance * speed_home / (speed_out + speed_home)

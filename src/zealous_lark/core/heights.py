"""How high something is, from where the pilot stands: by its angle above the horizon, or by its shadow."""

from __future__ import annotations

import math

EYE_M = 1.6
"""Height of the eye over the ground [m]; common practice."""


def height_by_angle_m(distance_m: float, angle_deg: float, eye_m: float = EYE_M) -> float:
    """Height [m] of something upright at a distance [m] whose top stands at an angle above the horizon [°].

    Plane trigonometry over level ground. Raises ValueError outside 0 to 89°.

    >>> round(height_by_angle_m(30, 30), 1)
    18.9
    """
    if not (distance_m > 0 and 0 <= angle_deg <= 89):
        raise ValueError("a distance over 0 and an angle from 0 to 89")
    return distance_m * math.tan(math.radians(angle_deg)) + eye_m


def height_by_shadow_m(shadow_m: float, sun_elevation_deg: float) -> float:
    """Height [m] of something upright that throws a shadow [m] on level ground under a sun this high [°].

    Raises ValueError for a sun lower than 3°, whose shadows are too long to measure.

    >>> round(height_by_shadow_m(20, 45), 1)
    20.0
    """
    if not (shadow_m > 0 and 3 <= sun_elevation_deg <= 89):
        raise ValueError("a shadow over 0 and a sun from 3 to 89 high")
    return shadow_m * math.tan(math.radians(sun_elevation_deg))

"""Cloud, ice, chill, and the wind by what is seen.

References
----------
.. [1] Espy's rule: cloud base 125 m per degree of temperature less dew point.
.. [2] Magnus formula with the constants of Sonntag (1990), quoted from memory;
   held against MetPy in the tests.
.. [3] US National Weather Service and Environment Canada (2001), wind chill index.
.. [4] WMO Beaufort scale: v = 0.836·B^1.5 m/s at 10 m over open ground.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.readings import Precipitation


def cloud_base_m(temperature_c: float, dew_point_c: float) -> float:
    """Cloud base over the site [m] from air temperature and dew point [°C] [1]_; 0 in saturated air.

    >>> cloud_base_m(6, 4)
    250.0
    """
    return 125.0 * max(temperature_c - dew_point_c, 0.0)


def dew_point_c(temperature_c: float, humidity_pct: float) -> float:
    """Dew point [°C] from air temperature [°C] and relative humidity [%, over 0] [2]_.

    >>> round(dew_point_c(21, 45), 1)
    8.6
    """
    a, b = 17.62, 243.12
    gamma = math.log(humidity_pct / 100) + a * temperature_c / (b + temperature_c)
    return b * gamma / (a - gamma)


def wind_chill_c(temperature_c: float, wind_kmh: float) -> float:
    """Wind chill [°C] for the pilot, air [°C] and wind at 10 m [km/h] [3]_.

    Defined up to 10 °C and from 4.8 km/h; outside, the air's own temperature.

    >>> wind_chill = round(wind_chill_c(-10, 30), 1)
    >>> wind_chill
    -19.5
    """
    if temperature_c > 10 or wind_kmh < 4.8:
        return temperature_c
    v = math.pow(wind_kmh, 0.16)
    return 13.12 + 0.6215 * temperature_c - 11.37 * v + 0.3965 * temperature_c * v


class Icing(StrEnum):
    NONE = "none"
    POSSIBLE = "possible"
    LIKELY = "likely"


FOG_M, MIST_M = 1_000.0, 3_000.0
"""Visibility under which it is fog, whatever is called so, and up to which it is mist [m]; WMO, from memory."""


def icing(
    temperature_c: float, spread_c: float | None, precipitation: Precipitation, visibility_m: float = 10_000.0
) -> Icing | None:
    """Ice on the propellers, from air temperature and spread (less dew point) [°C] and visibility [m].

    Fog, precipitation, or a spread of 2 °C or less, in air of 2 °C or less: likely. In air of up to 5 °C, any of
    these, a spread of up to 4 °C, or under 3 km to be seen: possible. None when the spread would decide and is
    not known. Common practice.
    """
    if temperature_c > 5:
        return Icing.NONE
    wet = precipitation is not Precipitation.NONE or visibility_m < FOG_M
    if temperature_c <= 2 and (wet or (spread_c is not None and spread_c <= 2)):
        return Icing.LIKELY
    if spread_c is None and not wet:
        return None
    moist = wet or visibility_m < MIST_M or (spread_c is not None and spread_c <= 4)
    return Icing.POSSIBLE if moist else Icing.NONE


@dataclass(frozen=True, slots=True)
class BeaufortForce:
    """A force with the speeds at 10 m it stands for [m/s] and what is seen on land and water."""

    force: int
    low_ms: float
    middle_ms: float
    high_ms: float
    land: str
    water: str


def beaufort_speed_ms(force: float) -> float:
    """Wind at 10 m [m/s] for a Beaufort force [4]_.

    >>> round(beaufort_speed_ms(5), 1)
    9.3
    """
    return float(0.836 * force**1.5)


_SEEN = (
    ("Smoke rises straight up", "Like a mirror"),
    ("Smoke drifts, leaves do not move", "Ripples without crests"),
    ("Wind felt on the face, leaves rustle", "Small wavelets, glassy crests"),
    ("Leaves and small twigs move all the time", "Large wavelets, a few crests break"),
    ("Dust and paper lift, small branches move", "Small waves, frequent white crests"),
    ("Small trees in leaf sway", "Moderate waves, many white crests"),
    ("Large branches move, wires whistle", "Large waves, some spray"),
    ("Whole trees move, walking is hard", "Sea heaps up, foam in streaks"),
    ("Twigs break off, walking is very hard", "Long high waves, crests blown off"),
    ("Tiles and branches come down", "High waves, spray dims the view"),
    ("Trees are uprooted", "Very high waves, the sea looks white"),
    ("Wide damage", "Exceptionally high waves"),
    ("Devastation", "Air full of foam and spray"),
)

BEAUFORT: tuple[BeaufortForce, ...] = tuple(
    BeaufortForce(
        force,
        beaufort_speed_ms(max(force - 0.5, 0)),
        beaufort_speed_ms(force),
        beaufort_speed_ms(force + 0.5),
        land,
        water,
    )
    for force, (land, water) in enumerate(_SEEN)
)
"""Forces 0 to 12; a force reaches half a step to each side [4]_."""

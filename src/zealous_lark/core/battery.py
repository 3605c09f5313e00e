"""What a pack can still give: nominal energy, health, and cold.

The cold factors are common practice, fitted to the times that pilots report in
the cold; there is no published source for them.
"""

from __future__ import annotations

import numpy as np

from zealous_lark.core.situation import Aircraft, Pack

FORCED_LANDING_PCT = 15.0
"""Charge at which aircraft of this kind land where they are; common practice."""

LEAST_TAKEOFF_PCT = 60.0
"""A part-used pack under this starts no flight [%]: its percentage can fall suddenly; common practice."""

_COLD_C = (-20.0, -10.0, 0.0, 10.0, 20.0, 25.0)
_COLD_FACTOR = (0.50, 0.65, 0.78, 0.90, 0.98, 1.00)


def cold_factor(temperature_c: float) -> float:
    """Share of the energy left at a temperature [°C], linear between the known points."""
    return float(np.interp(temperature_c, _COLD_C, _COLD_FACTOR))


def effective_temperature_c(pack: Pack, air_c: float) -> float:
    """Temperature that counts [°C]: the mean of air and pack; the air alone if the pack's is unknown."""
    return air_c if pack.temperature_c is None else (air_c + pack.temperature_c) / 2


def usable_wh(aircraft: Aircraft, pack: Pack, air_c: float) -> float:
    """Energy of the pack when full [Wh]: nominal × health × cold factor. 100 % of charge is this."""
    return aircraft.battery_wh * pack.health_pct / 100 * cold_factor(effective_temperature_c(pack, air_c))

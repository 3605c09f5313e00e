"""How sure the charge on landing is.

Wind, consumption and charge reading are drawn at random and carried through the legs;
the limits and the verdict stay as they are. The spreads are common practice and part
of the personal minimums. The draws are the same every time, so that a verdict never
flickers and the same plan always says the same.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.motion import ground_speed_ms
from zealous_lark.core.readings import WindSource
from zealous_lark.core.trip import Flyer, LegName, Trip

Floats = NDArray[np.float64]

DRAWS = 2000
_SEED = 20_260_927
LOW_PCT, HIGH_PCT = 5.0, 95.0
"""The band that is drawn: nine draws in ten lie in it."""


@dataclass(frozen=True, slots=True)
class LegBand:
    """Charge after a leg [%] at the low and the high end of the band."""

    name: LegName
    low_pct: float
    high_pct: float


@dataclass(frozen=True, slots=True)
class Chance:
    """Chances (0 to 1) and the band of the charge.

    above_reserve, above_forced: chance of landing with the reserve, and above the forced landing.
    landing_low_pct, landing_high_pct: band of the charge on landing [%].
    wind_spread: one standard deviation of the wind as a share of it.
    """

    above_reserve: float
    above_forced: float
    landing_low_pct: float
    landing_high_pct: float
    wind_spread: float
    legs: tuple[LegBand, ...]


@cache
def _draws() -> Floats:
    """Standard normal draws: wind, consumption, charge reading. Shape (3, DRAWS)."""
    return np.random.default_rng(_SEED).standard_normal((3, DRAWS))


def wind_spread(flyer: Flyer) -> float:
    """One standard deviation of the wind, as a share of it; still air has none."""
    if flyer.wind is None:
        return 0.0
    m = flyer.situation.minimums
    hover = flyer.wind.hover
    if hover is not None:
        # Half an hour after a hover reading it is the forecast again that decides.
        measured = hover.weight > 0.5
    else:
        deciding = flyer.wind.deciding(flyer.situation.return_height_m)
        measured = deciding.source is not WindSource.FORECAST
    if measured:
        return m.measured_spread_pct / 100
    usual = m.wind_spread_pct / 100
    among = flyer.situation.forecast_spread
    # Several forecasts tell how sure they are together. That two agree makes neither certain: never under half.
    return usual if among is None else max(among, usual / 2)


def chance(flyer: Flyer, trip: Trip) -> Chance | None:
    """The chances of a trip; None when a leg makes no headway even in the mean wind.

    A draw in which the wind stops the aircraft lands nowhere and counts as empty.
    """
    if trip.blocked is not None:
        return None
    s, m = flyer.situation, flyer.situation.minimums
    spread = wind_spread(flyer)
    z_wind, z_power, z_charge = _draws()
    wind = np.maximum(1 + spread * z_wind, 0.0)
    power = np.maximum(1 + m.consumption_spread_pct / 100 * z_power, 0.3)
    start = np.clip(s.pack.charge_pct + m.charge_spread_points * z_charge, 0.0, 100.0)
    (out_ms, out_from), (home_ms, home_from) = flyer.wind_out, flyer.wind_home
    bearing, distance = s.flight.bearing_deg, s.flight.distance_m

    charge = start
    after: list[Floats] = []
    for leg in trip.legs:
        wh: Floats = np.full(DRAWS, leg.wh)
        if leg.name is LegName.OUTBOUND:
            mode = s.flight.outbound_mode
            speed = ground_speed_ms(s.aircraft.airspeed_ms(mode), out_ms * wind, out_from, bearing)
            wh = flyer.costs.level(mode, distance, speed).wh
        elif leg.name is LegName.STATION:
            wh = flyer.costs.station_wh(leg.seconds, out_ms * wind)
        elif leg.name is LegName.RETURN:
            mode = s.flight.return_mode
            speed = ground_speed_ms(s.aircraft.airspeed_ms(mode), home_ms * wind, home_from, bearing + 180)
            # To a moving deck the way home is not as long as the way out.
            wh = flyer.costs.level(mode, leg.seconds * trip.ground_speed_home_ms, speed).wh
        charge = charge - 100 * wh * power / trip.usable_wh
        after.append(charge)
    lows, highs = np.percentile(np.maximum(np.stack(after), -100.0), [LOW_PCT, HIGH_PCT], axis=1).tolist()
    bands = tuple(LegBand(leg.name, low, high) for leg, low, high in zip(trip.legs, lows, highs, strict=True))
    return Chance(
        above_reserve=float((charge >= s.reserve_pct).mean()),
        above_forced=float((charge > FORCED_LANDING_PCT).mean()),
        landing_low_pct=bands[-1].low_pct,
        landing_high_pct=bands[-1].high_pct,
        wind_spread=spread,
        legs=bands,
    )

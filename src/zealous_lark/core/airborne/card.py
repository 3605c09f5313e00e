"""The flight card: all numbers that the clock needs in the air, so that it runs without anybody to ask.

The cost of the way home is linear in distance, and so are its seconds; two numbers of each are enough for every
distance. Out there, the drain is that of the planned legs up to the time on station, which goes on as long as the
pilot stays.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.pack import FORCED_LANDING_PCT
from zealous_lark.core.trip import LANDING_S, LegName

OUT_LEGS = (LegName.HOVER_CHECK, LegName.CLIMB, LegName.OUTBOUND, LegName.STATION)
READ_EVERY_POINTS = 10.0
"""A reading is wanted for each so many points of predicted drain; common practice."""
READ_LEAST_S, READ_MOST_S = 60.0, 240.0
NEAR, HALF = 0.25, 0.5


@dataclass(frozen=True, slots=True)
class Step:
    """A part of the way out: how long it lasts [s] and how fast the charge falls in it [points/s]."""

    name: LegName
    seconds: float
    pct_per_s: float


@dataclass(frozen=True, slots=True)
class Home:
    """The way home from a distance d [m]: fixed + per_m · d, in points of charge and in seconds."""

    fixed_pct: float
    pct_per_m: float
    fixed_s: float
    s_per_m: float

    def pct(self, distance_m: float) -> float:
        """Charge that the way home costs [points]."""
        return self.fixed_pct + self.pct_per_m * distance_m

    def seconds(self, distance_m: float) -> float:
        """How long it takes [s]."""
        return self.fixed_s + self.s_per_m * distance_m


@dataclass(frozen=True, slots=True)
class FlightCard:
    """What a flight was planned with.

    charge_pct: at take-off. reserve_pct: to be on the ground with. forced_pct: at which it lands by itself.
    out: the way out; its last step goes on. home: None while no headway home is known.
    distances_m: near, half, far. spread: one standard deviation of the drain, as a share; reading_points: of a
    reading. read_every_s: when the next reading is wanted.
    """

    charge_pct: float
    reserve_pct: float
    forced_pct: float
    out: tuple[Step, ...]
    home: Home | None
    distances_m: tuple[float, ...]
    spread: float
    reading_points: float
    read_every_s: float


def flight_card(a: Assessment) -> FlightCard | None:
    """The card of a situation; None while the wind is not known, as nothing can then be predicted."""
    s, flyer = a.situation, a.flyer
    if flyer is None or a.trip is None:
        return None
    full, flight, m = flyer.usable_wh, s.flight, s.minimums

    def points_per_s(watts: float) -> float:
        return 100 * watts / 3600 / full

    wind = float(flyer.wind_out[0])
    rates = {
        LegName.HOVER_CHECK: points_per_s(flyer.power.hover_w),
        LegName.CLIMB: points_per_s(flyer.power.climb_w(s.aircraft.ascent_ms)),
        LegName.OUTBOUND: points_per_s(flyer.mode_power_w(flight.outbound_mode)),
        LegName.STATION: points_per_s(float(flyer.power.cruise_w(wind))),
    }
    planned = {leg.name: leg.seconds for leg in a.trip.legs}
    out = tuple(Step(name, planned.get(name, 0.0), rates[name]) for name in OUT_LEGS)
    home = None
    speed = float(flyer.speed_home_ms(flight.bearing_deg))
    if np.isfinite(speed) and speed >= m.return_speed_ms:
        up_wh, down_wh = flyer.climb_and_descent_wh(s.return_height_m)
        up_s = max(s.return_height_m - flight.height_m, 0.0) / s.aircraft.ascent_ms
        landing_wh = flyer.power.hover_w * LANDING_S / 3600
        home = Home(
            fixed_pct=100 * (up_wh + down_wh + landing_wh) / full,
            pct_per_m=points_per_s(flyer.mode_power_w(flight.return_mode)) / speed,
            fixed_s=up_s + s.return_height_m / s.aircraft.descent_ms + LANDING_S,
            s_per_m=1 / speed,
        )
    far = flight.distance_m
    return FlightCard(
        charge_pct=s.pack.charge_pct,
        reserve_pct=s.reserve_pct,
        forced_pct=FORCED_LANDING_PCT,
        out=out,
        home=home,
        distances_m=(round(far * NEAR), round(far * HALF), far),
        spread=m.consumption_spread_pct / 100,
        reading_points=m.charge_spread_points,
        read_every_s=min(max(READ_EVERY_POINTS / rates[LegName.STATION], READ_LEAST_S), READ_MOST_S),
    )

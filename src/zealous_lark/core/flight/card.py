"""The flight card: all numbers that the clock needs in the air, so that it runs without anybody to ask.

The cost of the way home is linear in distance, and so are its seconds; two numbers of each are enough for every
distance. Out there, the drain is that of the planned legs up to the time on station, which goes on as long as the
pilot stays.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from zealous_lark.core.air import GRAVITY, SEA_LEVEL_DENSITY
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.trip import Flyer, LegName

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


WIND_STEP_MS = 1


@dataclass(frozen=True, slots=True)
class WindRow:
    """What a headwind on the way home [m/s] makes of the flight, worked out ahead for where nobody can be asked.

    home: as planned, None where it no longer makes headway to speak of. best: by the best height and mode.
    """

    against_ms: float
    home: Home | None
    best: Home | None
    best_height_m: float | None
    best_mode: SpeedMode | None
    best_speed_ms: float | None


@dataclass(frozen=True, slots=True)
class FlightCard:
    """What a flight was planned with.

    charge_pct: at take-off. reserve_pct: to be on the ground with. forced_pct: at which it lands by itself.
    out: the way out; its last step goes on. home: None while no headway home is known.
    distances_m: near, half, far. spread: one standard deviation of the drain, as a share; reading_points: of a
    reading. read_every_s: when the next reading is wanted. winds: by the wind that is met, weakest first.
    held_ms: airspeed at full stick. lean_ms: wind for a lean whose tangent is one, by the drag law.
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
    winds: tuple[WindRow, ...] = ()
    held_ms: float = 0.0
    lean_ms: float = 0.0


def flight_card(a: Assessment, *, with_winds: bool = False) -> FlightCard | None:
    """The card of a situation; None while the wind is not known, as nothing can then be predicted.

    with_winds: whether the rows for a wind that is met are wanted too, which take as long as thirty cards.
    """
    s, flyer = a.situation, a.flyer
    if flyer is None or a.trip is None or not a.wind_counts:
        return None
    full, flight, m = flyer.usable_wh, s.flight, s.minimums

    costs = flyer.costs
    second_wh = {
        LegName.HOVER_CHECK: costs.hover(1.0).wh,
        LegName.CLIMB: costs.climb(s.aircraft.ascent_ms).wh,
        LegName.OUTBOUND: costs.level(flight.outbound_mode, 1.0, 1.0).wh,
        LegName.STATION: costs.station(1.0).wh,
    }
    rates = {name: 100 * wh / full for name, wh in second_wh.items()}
    planned = {leg.name: leg.seconds for leg in a.trip.legs}
    out = tuple(Step(name, planned.get(name, 0.0), rates[name]) for name in OUT_LEGS)
    home = _home(flyer)
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
        winds=_winds(a) if with_winds and not s.site.indoors else (),
        held_ms=s.aircraft.fastest_ms,
        lean_ms=s.aircraft.sheet_fastest_ms
        * math.sqrt(
            flyer.power.weight_n
            / (s.aircraft.mass_g / 1000 * GRAVITY)
            * SEA_LEVEL_DENSITY
            / a.density_kgm3
            / math.tan(math.radians(s.aircraft.max_tilt_deg))
        ),
    )


def _home(flyer: Flyer) -> Home | None:
    """The way home in the planned mode at the return height; None where it makes no headway to speak of."""
    s, full = flyer.situation, flyer.usable_wh
    speed = float(flyer.speed_home_ms(s.flight.bearing_deg))
    if not (np.isfinite(speed) and speed >= s.minimums.return_speed_ms):
        return None
    fixed = flyer.costs.to_height_and_down(s.flight.height_m, s.return_height_m)
    metre = flyer.costs.level(s.flight.return_mode, 1.0, speed)
    return Home(
        fixed_pct=100 * fixed.wh / full,
        pct_per_m=100 * metre.wh / full,
        fixed_s=fixed.seconds,
        s_per_m=metre.seconds,
    )


def _winds(a: Assessment) -> tuple[WindRow, ...]:
    """What each headwind on the way home, met at the height flown, makes of the flight."""
    s = a.situation
    home_course = (s.flight.bearing_deg + 180) % 360
    rows = []
    for against in range(0, math.ceil(s.aircraft.fastest_ms) + 1, WIND_STEP_MS):
        met = WindLevel(max(s.flight.height_m, 2.0), float(against), home_course, WindSource.HOVER)
        there = Assessment(replace(s, weather=replace(s.weather, winds=(met,))))
        if there.flyer is None or there.best_way_home is None:
            continue
        way = there.best_way_home.best or there.best_way_home.fastest
        best = None
        if way is not None:
            flown = replace(
                there.situation,
                settings=replace(s.settings, rth_altitude_m=min(way.height_m, s.flight.height_m)),
                flight=replace(s.flight, return_mode=way.mode, height_m=way.height_m),
            )
            flyer = Assessment(flown).flyer
            best = None if flyer is None else _home(flyer)
        rows.append(
            WindRow(
                against_ms=float(against),
                home=_home(there.flyer),
                best=best,
                best_height_m=None if way is None else way.height_m,
                best_mode=None if way is None else way.mode,
                best_speed_ms=None if way is None else way.ground_speed_ms,
            )
        )
    return tuple(rows)

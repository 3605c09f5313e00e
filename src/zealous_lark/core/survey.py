"""What the plan view of a session shows beside the verdict: signal all round, light on subjects, ways out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.assessment import REACH_BEARINGS_DEG, Assessment
from zealous_lark.core.geodesy import polar, xy
from zealous_lark.core.land import Land
from zealous_lark.core.leg_costs import LANDING_S
from zealous_lark.core.light import SUNRISE_DEG, Sun
from zealous_lark.core.motion import ground_speed_ms
from zealous_lark.core.moves import Swept
from zealous_lark.core.place import Feature, Role
from zealous_lark.core.radio import signal_contour_m

Floats = NDArray[np.float64]


class LightSide(StrEnum):
    """From where a subject is lit, as the camera sees it from the take-off point's side."""

    FRONT = "front"
    SIDE = "side"
    BACK = "back"
    NONE = "none"


def light_side(position: Sun, bearing_deg: float) -> LightSide:
    """Front light has the sun behind the camera, back light in its view; 45° to either side. Common practice."""
    if position.elevation_deg < SUNRISE_DEG:
        return LightSide.NONE
    off = abs((position.azimuth_deg - bearing_deg + 180) % 360 - 180)
    return LightSide.BACK if off < 45 else LightSide.SIDE if off < 135 else LightSide.FRONT


@dataclass(frozen=True, slots=True)
class SeenSubject:
    """A subject from the take-off point: bearing [°], distance [m], the light, its foot above the take-off [m]."""

    feature: Feature
    bearing_deg: float
    distance_m: float
    light: LightSide
    ground_m: float


@dataclass(frozen=True, slots=True)
class WayDown:
    """A landing alternative: from the far end, distance [m] and charge on the ground there [%], and its slope [°].

    charge_pct: None when the wind does not let it get there. ground_m: above the take-off point, NaN unknown.
    """

    feature: Feature
    distance_m: float
    charge_pct: float | None
    slope_deg: float
    ground_m: float


STEEP_DEG = 10.0
"""Ground steeper than this is no place to land [°]; common practice."""


@dataclass(frozen=True, slots=True)
class Survey:
    signal_m: Floats
    subjects: tuple[SeenSubject, ...]
    ways_down: tuple[WayDown, ...]
    moves: tuple[Swept, ...]
    over_water: bool
    lowest_ground_m: float


def survey(a: Assessment, farthest_m: float) -> Survey | None:
    """The survey of a situation at a drawn place; None without one. The signal is looked at up to a distance [m]."""
    s = a.situation
    if s.land is None:
        return None
    sun = a.sun_at(s.takeoff_at)
    subjects = []
    for drawn in s.land.of(Role.SUBJECT):
        x, y = (float(v[0]) for v in drawn.shape.coords.xy)
        bearing, distance = (float(v) for v in polar(x, y))
        ground = float(s.land.ground_at(x, y))
        subjects.append(SeenSubject(drawn.feature, bearing, distance, light_side(sun, bearing), ground))
    return Survey(
        signal_m=signal_contour_m(s, REACH_BEARINGS_DEG, farthest_m),
        subjects=tuple(subjects),
        ways_down=ways_down(a, s.land),
        moves=a.moves,
        over_water=s.over_water,
        lowest_ground_m=s.land.lowest_ground_on(s.flight.bearing_deg, s.flight.distance_m),
    )


def ways_down(a: Assessment, land: Land) -> tuple[WayDown, ...]:
    """Landing alternatives from the far end, the one with most charge left first; steep ground is left out."""
    s, flyer, trip = a.situation, a.flyer, a.trip
    fx, fy = (float(v) for v in xy(s.flight.bearing_deg, s.flight.distance_m))
    found = []
    for drawn in land.of(Role.LANDING):
        x, y = (float(v[0]) for v in drawn.shape.coords.xy)
        slope, ground = float(land.slope_at(x, y)), float(land.ground_at(x, y))
        if slope > STEEP_DEG:
            continue
        bearing, distance = (float(v) for v in polar(x - fx, y - fy))
        charge = None
        if flyer is not None and trip is not None and trip.blocked is None:
            mode = s.flight.return_mode
            speed = float(ground_speed_ms(s.aircraft.airspeed_ms(mode), *flyer.wind_out, bearing))
            if speed > 0:
                leave = next(leg.charge_after_pct for leg in trip.legs if leg.name.value == "station")
                above = s.flight.height_m - (0.0 if math.isnan(ground) else ground)
                down = flyer.costs.descend(max(above, 0.0)) + flyer.costs.hover(LANDING_S)
                wh = (flyer.costs.level(mode, distance, speed) + down).wh
                charge = leave - 100 * wh / trip.usable_wh
        found.append(WayDown(drawn.feature, distance, charge, slope, ground))
    return tuple(sorted(found, key=lambda w: -(w.charge_pct if w.charge_pct is not None else -1e9)))

"""The best way home: by which height and in which mode it lands with the most charge.

Every sixty metres or so the wind changes, so going up or down can be what brings it home; common practice.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from zealous_lark.core.motion import ground_speed_ms
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.trip import Flyer, LegName, Trip

STEP_M = 5.0
MODES = (SpeedMode.RTH, SpeedMode.SLOW, SpeedMode.NORMAL, SpeedMode.FAST)


@dataclass(frozen=True, slots=True)
class WayHome:
    """One way: height above the take-off point [m], mode, ground speed [m/s], charge on the ground [%]."""

    height_m: float
    mode: SpeedMode
    ground_speed_ms: float
    landing_pct: float


@dataclass(frozen=True, slots=True)
class BestWayHome:
    """best: lands with the most charge at no less than twice the least ground speed; None: no way does.
    fastest: the quickest over the ground of all; None: no way makes headway. ways: the best mode of each height.
    """

    best: WayHome | None
    fastest: WayHome | None
    ways: tuple[WayHome, ...]


def best_way_home(flyer: Flyer, trip: Trip, lowest_m: float) -> BestWayHome:
    """Heights from the lowest that clears [m] up to the highest allowed, in each mode.

    Counted from the far end after the time on station; an automatic return keeps the greater of its height and
    the one flown at, by hand it may come down. From a deck there is no automatic return: it goes to where the deck
    was. To a deck that moves, the way is the one to where it will be.
    """
    s = flyer.situation
    legal = max(s.minimums.legal_height_m, lowest_m)
    heights = np.array(
        sorted({*np.arange(math.ceil(lowest_m / STEP_M) * STEP_M, legal, STEP_M).tolist(), lowest_m, legal})
    )
    speed, direction = flyer.wind_at(heights)
    left = next((leg.charge_after_pct for leg in trip.legs if leg.name is LegName.STATION), s.pack.charge_pct)
    up_and_down = flyer.costs.to_height_and_down(s.flight.height_m, heights)
    course, way_m = flyer.course_home(trip)
    found: list[WayHome] = []
    for mode in MODES:
        if mode is SpeedMode.RTH and s.site.from_deck:
            continue
        allowed = heights >= (s.flight.height_m - 1e-9 if mode is SpeedMode.RTH else -np.inf)
        ground = ground_speed_ms(s.aircraft.airspeed_ms(mode), speed, direction, course)
        home = up_and_down + flyer.costs.level(mode, way_m, ground)
        landing = left - 100 * home.wh / flyer.usable_wh
        for i in np.flatnonzero(allowed & (ground > 0)):
            found.append(WayHome(float(heights[i]), mode, float(ground[i]), float(landing[i])))
    quick = [w for w in found if w.ground_speed_ms >= 2 * s.minimums.return_speed_ms]
    best = max(quick, key=lambda w: (round(w.landing_pct, 1), -w.height_m), default=None)
    by_height: dict[float, WayHome] = {}
    for way in found:
        rival = by_height.get(way.height_m)
        if rival is None or way.landing_pct > rival.landing_pct:
            by_height[way.height_m] = way
    fastest = max(found, key=lambda w: (round(w.ground_speed_ms, 2), -w.height_m), default=None)
    return BestWayHome(best, fastest, tuple(by_height[h] for h in sorted(by_height)))

"""What goes on the pocket card: when to turn back by distance and wind, and what ends the flight by sight."""

from __future__ import annotations

import math
from dataclasses import dataclass

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.motion import ground_speed_ms
from zealous_lark.core.trip import Flyer
from zealous_lark.core.weather import BEAUFORT, BeaufortForce

AGAINST_MS = (0.0, 2.0, 4.0, 6.0, 8.0)
"""Winds straight against the way home [m/s]: the worst that a wind of that speed can do."""
DISTANCES_M = (50.0, 100.0, 150.0, 200.0, 300.0, 500.0, 800.0)


@dataclass(frozen=True, slots=True)
class TurnBack:
    """Charges to turn back at [%], a row for each distance [m], a column for each wind [m/s]; None: no way home."""

    distance_m: tuple[float, ...]
    against_ms: tuple[float, ...]
    charge_pct: tuple[tuple[float | None, ...], ...]


def turn_back_pct(flyer: Flyer, distance_m: float, against_ms: float) -> float | None:
    """Charge [%] to turn back at so far out [m], with a wind straight against the way home [m/s].

    The reserve, and the climb, way, descent and landing; None where the way home is too slow or the pack too small.
    """
    s = flyer.situation
    mode = s.flight.return_mode
    speed = float(ground_speed_ms(s.aircraft.airspeed_ms(mode), against_ms, 0.0, 0.0))
    if not speed >= s.minimums.return_speed_ms:
        return None
    home = flyer.costs.to_height_and_down(s.flight.height_m, s.return_height_m) + flyer.costs.level(
        mode, distance_m, speed
    )
    charge = s.reserve_pct + 100 * home.wh / flyer.usable_wh
    return charge if charge <= 100 else None


def turn_back_table(flyer: Flyer, farthest_m: float) -> TurnBack:
    """The table up to a distance [m], and one row beyond it."""
    rows = [d for d in DISTANCES_M if d < farthest_m]
    beyond = [d for d in DISTANCES_M if d >= farthest_m][:1]
    distances = tuple(rows + beyond)
    cells = tuple(tuple(turn_back_pct(flyer, d, w) for w in AGAINST_MS) for d in distances)
    return TurnBack(distances, AGAINST_MS, cells)


def ending_force(a: Assessment) -> BeaufortForce | None:
    """The first Beaufort force whose mean wind at 10 m is more than the pilot allows; None when none is."""
    most = a.situation.minimums.wind_fraction * a.situation.aircraft.rated_wind_ms
    return next((f for f in BEAUFORT if f.middle_ms > most), None)


def reach_by_bearing(a: Assessment) -> tuple[tuple[float, float], ...]:
    """Reach [m] on eight bearings [°], rounded down to ten metres; empty while the wind is not known."""
    if a.reach is None:
        return ()
    by_bearing = dict(zip(a.reach.bearing_deg, a.reach.distance_m, strict=True))
    return tuple((b, math.floor(by_bearing[b] / 10) * 10.0) for b in (float(n * 45) for n in range(8)))

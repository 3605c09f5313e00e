"""Flights of the demo's logbook: a summer and autumn of an aircraft that is thirstier than its spec sheet."""

from __future__ import annotations

import itertools
import math
import random
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

import numpy as np

from zealous_lark.core.geodesy import bearing_and_distance, destination
from zealous_lark.core.light import light
from zealous_lark.demo.scenario import BOG, ZONE

THIRST = 1.12
"""Of Dunlin, over its spec sheet."""
HEALTH = {"A": 92.0, "B": 90.0, "C": 95.0, "D": 71.0}
"""As the kit has them."""
TIRED = {"C": 1.1}
"""Packs that cost more than the others."""
_SEED = 58


@dataclass(frozen=True, slots=True)
class DemoFlight:
    """A flight: when, which pack, how far and long, the drain as a factor of the planned one, wind met over planned."""

    started_at: datetime
    pack: str
    seconds: float
    distance_m: float
    drain: float
    wind: float
    note: str
    manual_return: bool
    broke_up_m: float | None


_NOTES = (
    "",
    "",
    "Mist over the pools, gone by seven",
    "Heron",
    "Gusts at the tower",
    "",
    "Slow pull-away from the tower",
)


def flights(now: datetime) -> list[DemoFlight]:
    """Thirty-six flights of the months before a moment (aware), the same every time."""
    rng = random.Random(_SEED)
    found = []
    for n in range(36):
        pack = "ABCD"[n % 4]
        day = (now - timedelta(days=round(4.4 * (36 - n)))).astimezone(ZONE).date()
        found.append(
            DemoFlight(
                started_at=_in_daylight(day, rng),
                pack=pack,
                seconds=round(rng.uniform(560, 1050)),
                distance_m=round(rng.uniform(90, 280)),
                drain=THIRST * TIRED.get(pack, 1.0) * rng.gauss(1, 0.035),
                wind=max(rng.gauss(1.0, 0.25), 0.2),
                note=_NOTES[n % len(_NOTES)],
                manual_return=n in (4, 17),
                broke_up_m=rng.uniform(210, 260) if n in (9, 20, 31) else None,
            )
        )
    return found


def _in_daylight(day: date, rng: random.Random) -> datetime:
    """A time of a day when the sun is up at the bog: after sunrise or before sunset, as film wants it."""
    noon = datetime.combine(day, time(12), tzinfo=ZONE)
    today = light(BOG.latitude, BOG.longitude, noon)
    assert today.sunrise is not None
    assert today.sunset is not None
    evening = rng.random() < 0.2
    after = timedelta(minutes=rng.randrange(10, 80))
    at = today.sunset - timedelta(minutes=30) - after if evening else today.sunrise + after
    return datetime.fromisoformat(at.astimezone(ZONE).replace(second=0, microsecond=0).isoformat())


AIRSPEED_MS = 6.0
SIDE_M = 60.0


@dataclass(frozen=True, slots=True)
class FlownSo:
    """How the track of a flight is made: take-off point [°], leg [°, m], time [s], charge spent [points], wind met."""

    begun: datetime
    at: tuple[float, float]
    bearing_deg: float
    distance_m: float
    seconds: float
    spent_pct: float
    wind_ms: float
    wind_from_deg: float

    def ground_speed(self, course_deg: float) -> float:
        """Over the ground on a course [m/s], at an even airspeed in the wind."""
        off = math.radians(self.wind_from_deg - course_deg)
        return math.sqrt(AIRSPEED_MS**2 - (self.wind_ms * math.sin(off)) ** 2) - self.wind_ms * math.cos(off)


def track_rows(flown: FlownSo) -> str:
    """A track as a table: up, out, once round a hexagon, a long shot standing still, home a little higher, down."""
    centre = destination(*flown.at, flown.bearing_deg, flown.distance_m + SIDE_M)
    corners = [destination(*centre, flown.bearing_deg + 180 + turn, SIDE_M) for turn in range(0, 361, 60)]
    points: list[tuple[tuple[float, float], float, float]] = [(flown.at, 40.0, 12.0)]
    for here, there in itertools.pairwise([flown.at, *corners]):
        course, metres = bearing_and_distance(*here, *there)
        points.append((there, 40.0, metres / flown.ground_speed(course)))
    back = [
        (corners[-1], 46.0, 4.0),
        (flown.at, 46.0, flown.distance_m / flown.ground_speed(flown.bearing_deg + 180)),
        (flown.at, 0.0, 16.0),
    ]
    still = flown.seconds - sum(seconds for *_, seconds in (*points, *back))
    points += [(corners[-1], 40.0, max(still, 1.0)), *back]
    rng = random.Random(_SEED)
    when = np.cumsum([0.0, *(seconds for *_, seconds in points)])
    rows = ["time,latitude,longitude,height_m,charge_pct"]
    known = [(flown.at, 0.0, 0.0), *points]
    for second in range(math.ceil(when[-1]) + 1):
        lat, lon, up = (
            float(np.interp(second, when, values))
            for values in zip(*((*where, height) for where, height, _ in known), strict=True)
        )
        # As a receiver has it: half a metre this way and that.
        lat, lon = destination(lat, lon, rng.uniform(0, 360), abs(rng.gauss(0, 0.5)))
        charge = 100.0 - flown.spent_pct * min(second / when[-1], 1.0)
        at = flown.begun + timedelta(seconds=second)
        rows.append(f"{at.isoformat()},{lat:.7f},{lon:.7f},{up:.1f},{charge:.1f}")
    return "\n".join(rows)

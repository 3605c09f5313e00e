"""Flights of the demo's logbook: a summer and autumn of an aircraft that is thirstier than its spec sheet."""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.geodesy import destination

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
        found.append(
            DemoFlight(
                started_at=(now - timedelta(days=round(4.4 * (36 - n)))).replace(
                    hour=rng.choice((4, 5, 6, 7, 15)), minute=rng.randrange(60), second=0, microsecond=0
                ),
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


def track_rows(begun: datetime, at: tuple[float, float], bearing_deg: float, distance_m: float) -> str:
    """A track as a table: up, out, once round in a circle, home a little higher than planned, down."""
    legs: list[tuple[float, float, float, float]] = []  # bearing, distance, height, seconds to get there
    legs += [(bearing_deg, 0, 0, 0), (bearing_deg, 0, 40, 12), (bearing_deg, distance_m, 40, distance_m / 5)]
    for turn in range(0, 361, 15):
        # A circle of 30 m beyond the farthest point, flown at an even airspeed in a light wind.
        lat, lon = destination(*at, bearing_deg, distance_m + 30)
        circle = destination(lat, lon, bearing_deg + 180 + turn, 30)
        legs.append((circle[0], circle[1], -1.0, 2.0))
    legs += [(bearing_deg, distance_m, 46, 4), (bearing_deg, 0, 46, distance_m / 8), (bearing_deg, 0, 0, 16)]
    rows, when, charge = ["time,latitude,longitude,height_m,charge_pct"], begun, 99.0
    here: tuple[float, float, float] = (*at, 0.0)
    for a, b, height, seconds in legs:
        there = (a, b) if height < 0 else destination(*at, a, b)
        top = 40.0 if height < 0 else height
        steps = max(int(seconds), 1)
        for step in range(1, steps + 1):
            share = step / steps
            lat, lon, up = (p + (q - p) * share for p, q in zip(here, (*there, top), strict=True))
            when += timedelta(seconds=seconds / steps)
            charge -= 0.07 * seconds / steps
            rows.append(f"{when.isoformat()},{lat:.7f},{lon:.7f},{up:.1f},{charge:.1f}")
        here = (*there, top)
    return "\n".join(rows)

"""Where to look: where the aircraft should be by its plan, as who stands at the take-off sees it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.flight.card import FlightCard
from zealous_lark.core.flight.clock import Moment
from zealous_lark.core.trip import LegName

HOVER_CHECK_M = 3.0
"""Height of the hover check after take-off; common practice."""


class Phase(StrEnum):
    """What the flight is at, by its plan."""

    NEAR = "near"
    OUTBOUND = "outbound"
    STATION = "station"
    HOME = "home"
    LANDING = "landing"


@dataclass(frozen=True, slots=True)
class Lookout:
    """Where to look. bearing_deg from true north; distance_m along the ground, height_m above the take-off.

    elevation_deg: how far above the horizontal. All as planned: nobody measured it.
    """

    phase: Phase
    bearing_deg: float
    distance_m: float
    height_m: float
    elevation_deg: float


def far_point(bearing_deg: float, distance_m: float, height_m: float) -> Lookout:
    """Where to look for a flight at its far point."""
    return _seen(Phase.STATION, bearing_deg, distance_m, height_m)


def where_to_look(card: FlightCard, m: Moment, bearing_deg: float, height_m: float, return_height_m: float) -> Lookout:
    """Where a flight should be at a moment.

    m.distance_m: as far out as the pilot said that it is. It flies out at the planned speed and stays; on the way home
    it flies at the higher of the two heights [m], and comes down over the take-off.
    """
    phase, distance, height = _out(card, m.at_s if m.turned_s is None else m.turned_s, m.distance_m, height_m)
    if m.turned_s is not None:
        phase, distance, height = _home(card, m.at_s - m.turned_s, distance, max(height_m, return_height_m))
    return _seen(phase, bearing_deg, distance, height)


def _seen(phase: Phase, bearing_deg: float, distance_m: float, height_m: float) -> Lookout:
    return Lookout(phase, bearing_deg, distance_m, height_m, math.degrees(math.atan2(height_m, distance_m)))


def _out(card: FlightCard, at_s: float, distance_m: float, height_m: float) -> tuple[Phase, float, float]:
    planned = {step.name: step.seconds for step in card.out}
    checked = at_s - planned.get(LegName.HOVER_CHECK, 0.0)
    if checked < 0:
        return Phase.NEAR, 0.0, min(HOVER_CHECK_M, height_m)
    climbing = planned.get(LegName.CLIMB, 0.0)
    if checked < climbing:
        low = min(HOVER_CHECK_M, height_m)
        return Phase.NEAR, 0.0, low + (height_m - low) * checked / climbing
    outbound, far = planned.get(LegName.OUTBOUND, 0.0), card.distances_m[-1]
    flown = far if outbound <= 0 else far * (checked - climbing) / outbound
    if flown < distance_m:
        return Phase.OUTBOUND, flown, height_m
    return Phase.STATION, distance_m, height_m


def _home(card: FlightCard, since_s: float, distance_m: float, height_m: float) -> tuple[Phase, float, float]:
    if card.home is None or card.home.s_per_m <= 0:
        return Phase.HOME, distance_m, height_m
    left = distance_m - since_s / card.home.s_per_m
    if left > 0:
        return Phase.HOME, left, height_m
    down = since_s - distance_m * card.home.s_per_m
    share = min(down / card.home.fixed_s, 1.0) if card.home.fixed_s > 0 else 1.0
    return Phase.LANDING, 0.0, height_m * (1 - share)

"""The return height: the lowest that clears, the highest that still comes home."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from zealous_lark.core.obstacles import Obstacle
from zealous_lark.core.return_clearance import clearance_m
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import Flyer
from zealous_lark.core.world import World


class CeilingLimit(StrEnum):
    """What sets the highest return height."""

    LEGAL = "legal_height"
    WIND = "wind"
    CHARGE = "charge"


@dataclass(frozen=True, slots=True)
class ReturnHeight:
    """Return heights above the take-off point [m].

    lowest_m: clears every obstacle within the flight's distance by the margin.
    highest_m: still comes home, under the legal height; None if the wind is not known.
    recommended_m: the lowest rounded up to 5 m, or the height that the pilot always uses where it
    works; None when no height works.
    governing: the obstacle that sets the lowest; None when the floor does.
    beyond_m, beyond: the same with what stands a little beyond the flight's distance, where it may come to.
    """

    lowest_m: float
    highest_m: float | None
    recommended_m: float | None
    limited_by: CeilingLimit | None
    governing: Obstacle | None
    beyond_m: float = 0.0
    beyond: Obstacle | None = None


BEYOND_SHARE, BEYOND_LEAST_M = 0.2, 20.0
"""How much further than planned an aircraft may come to be, at the least [m]; common practice."""


def lowest_return_height(
    obstacles: Iterable[Obstacle], within_m: float, margin_m: float, floor_m: float
) -> tuple[float, Obstacle | None]:
    """Lowest return height [m] over obstacles no further out than a distance, and which one sets it."""
    lowest, governing = floor_m, None
    for obstacle in obstacles:
        if obstacle.distance_m > within_m:
            continue
        height = obstacle.height_m + float(clearance_m(obstacle.height_m, margin_m))
        if height > lowest:
            lowest, governing = height, obstacle
    return lowest, governing


def _highest(situation: Situation, flyer: Flyer) -> tuple[float, CeilingLimit]:
    legal = situation.minimums.legal_height_m
    if situation.land is not None:
        # Ground that falls away along the way takes its fall off the legal height.
        legal += situation.land.lowest_ground_on(situation.flight.bearing_deg, situation.flight.distance_m)
        legal = max(legal, 0.0)
    whole = np.arange(0.0, math.floor(legal) + 1)
    heights = whole if whole[-1] == legal else np.append(whole, legal)
    home, landing = flyer.home_and_landing(heights)
    slow = ~(home >= situation.minimums.return_speed_ms)
    # A way home that is too slow already at the planned height is the wind's own check: it sets no height to zero.
    by_wind = bool(slow[0])
    if by_wind:
        slow = np.zeros_like(slow)
    empty = (landing < situation.reserve_pct) & (home > 0)
    failing = slow | empty
    if not failing.any():
        return legal, CeilingLimit.WIND if by_wind else CeilingLimit.LEGAL
    first = int(np.argmax(failing))
    limit = CeilingLimit.WIND if slow[first] or by_wind else CeilingLimit.CHARGE
    return (float(heights[first - 1]) if first else 0.0), limit


def return_height(situation: Situation, flyer: Flyer | None, world: World) -> ReturnHeight:
    """Lowest, highest (to the metre) and recommended return height; `flyer` None: wind not known.

    Obstacles count whatever their bearing: an automatic return may start from
    anywhere within the flight's distance.
    """
    m, within = situation.minimums, situation.flight.distance_m
    lowest, governing = lowest_return_height(world.around(within), within, m.rth_margin_m, m.rth_floor_m)
    further = within + max(BEYOND_SHARE * within, BEYOND_LEAST_M)
    beyond, stands = lowest_return_height(world.around(further), further, m.rth_margin_m, m.rth_floor_m)
    highest, limit = (None, None) if flyer is None else _highest(situation, flyer)
    ceiling = m.legal_height_m if highest is None else highest
    rounded = math.ceil(lowest / 5 - 1e-9) * 5.0
    recommended = min(rounded, ceiling) if lowest <= ceiling else None
    if m.rth_fixed_m is not None and lowest <= m.rth_fixed_m <= ceiling:
        recommended = m.rth_fixed_m
    return ReturnHeight(lowest, highest, recommended, limit, governing, max(beyond, lowest), stands)

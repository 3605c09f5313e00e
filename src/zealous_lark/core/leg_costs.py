"""What the legs of a flight cost, each kind written once, on single numbers and on arrays alike.

Every mission is put together from these: the planned trip, the way home by other heights and modes, the hop from one
subject to the next, the landing alternatives, the tables that go along.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import ArrayLike, NDArray
from propcache.api import cached_property

from zealous_lark.core.power import PowerModel
from zealous_lark.core.situation import Aircraft, SpeedMode

Floats = NDArray[np.float64]
N = TypeVar("N", float, Floats)

HOVER_CHECK_S = 30.0
LANDING_S = 30.0


@dataclass(frozen=True, slots=True)
class Cost(Generic[N]):
    """Time [s] and energy [Wh] of a part of a flight; a number each, or arrays of one shape."""

    seconds: N
    wh: N

    def __add__(self, other: Cost[N]) -> Cost[N]:
        return Cost(self.seconds + other.seconds, self.wh + other.wh)


def seconds_over(way_m: N | float, ground_ms: N) -> N:
    """Time [s] of a way [m] at a ground speed [m/s]; infinite where there is no headway (NaN, none, backwards)."""
    if isinstance(ground_ms, float):
        return way_m / ground_ms if ground_ms > 0 else math.inf
    goes = ground_ms > 0
    return np.where(goes, way_m / np.where(goes, ground_ms, 1.0), np.inf)


@dataclass(frozen=True)
class LegCosts:
    """Costs of legs of one aircraft in one air. still_wind_ms: wind where it holds still, at the far point [m/s]."""

    aircraft: Aircraft
    power: PowerModel
    still_wind_ms: float

    @cached_property
    def _powers_w(self) -> tuple[dict[SpeedMode, float], float]:
        airspeeds = [self.aircraft.airspeed_ms(mode) for mode in SpeedMode]
        *modes, still = self.power.cruise_w([*airspeeds, self.still_wind_ms]).tolist()
        return dict(zip(SpeedMode, modes, strict=True)), still

    @cached_property
    def _climb_w(self) -> float:
        return self.power.climb_w(self.aircraft.ascent_ms)

    def hover(self, seconds: N) -> Cost[N]:
        """Holding still near the ground [s]: the check after take-off, the landing."""
        return Cost(seconds, seconds * self.power.hover_w / 3600)

    def climb(self, rise_m: N) -> Cost[N]:
        """Straight up [m]."""
        seconds = rise_m / self.aircraft.ascent_ms
        return Cost(seconds, seconds * self._climb_w / 3600)

    def descend(self, fall_m: N) -> Cost[N]:
        """Straight down [m]; as dear as the hover."""
        seconds = fall_m / self.aircraft.descent_ms
        return Cost(seconds, seconds * self.power.hover_w / 3600)

    def level(self, mode: SpeedMode, way_m: N | float, ground_ms: N) -> Cost[N]:
        """A way [m] in a mode at its ground speed [m/s]; infinite where there is no headway."""
        seconds = seconds_over(way_m, ground_ms)
        return Cost(seconds, seconds * self._powers_w[0][mode] / 3600)

    def station(self, seconds: float) -> Cost[float]:
        """Holding still over the ground at the far point [s]: in a wind, that is flying at its speed."""
        return Cost(seconds, self._powers_w[1] * seconds / 3600)

    def station_wh(self, seconds: float, wind_ms: ArrayLike) -> Floats:
        """As `station` in other winds [m/s]: energy [Wh], same shape."""
        return self.power.cruise_w(wind_ms) * seconds / 3600

    def to_height_and_down(self, height_m: float, return_m: N) -> Cost[N]:
        """From a height flown [m] up or down to that of the way home [m], and from there to the ground, landed."""
        rise, fall = _over(return_m - height_m), _over(height_m - return_m)
        return self.climb(rise) + self.descend(fall + return_m) + self.hover(return_m * 0 + LANDING_S)


def _over(length_m: N) -> N:
    return max(length_m, 0.0) if isinstance(length_m, float) else np.maximum(length_m, 0.0)

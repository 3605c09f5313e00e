"""Where flights are at a moment, and how they ended."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.homeward.acts import End

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]


@dataclass(slots=True)
class State:
    """Where each flight is; arrays of one shape. x, y: east and north of the home point [m]; z: above it.

    hold_x, hold_y: where it holds still or lands. follows: it lands with its pilot, who drifts. threat_s: how long a
    bird has been at it. ended_s: infinite while it is in the air; ended_pct, ended_from_m: its charge then, and how
    far it is from where it was to land.
    """

    x: Floats
    y: Floats
    z: Floats
    wh: Floats
    doing: Ints
    fast: Bools
    target_m: Floats
    hold_x: Floats
    hold_y: Floats
    airspeed_ms: Floats
    ground_ms: Floats
    power_w: Floats
    margin_db: Floats
    lost_s: Floats
    acted: Bools
    walked_at: Floats
    iced_s: Floats
    threat_s: Floats
    landing_s: Floats
    forced: Bools
    follows: Bools
    ended_s: Floats
    ended_pct: Floats
    ended_from_m: Floats
    end: NDArray[np.object_]

    @classmethod
    def on_the_ground(cls, count: int, height_m: float) -> State:
        """Before it lifts off."""

        def zeros() -> Floats:
            return np.zeros(count)

        def no() -> Bools:
            return np.zeros(count, dtype=bool)

        return cls(
            x=zeros(), y=zeros(), z=zeros(), wh=zeros(), doing=np.zeros(count, dtype=np.intp), fast=no(),
            target_m=np.full(count, height_m), hold_x=zeros(), hold_y=zeros(), airspeed_ms=zeros(),
            ground_ms=zeros(), power_w=zeros(), margin_db=np.full(count, np.inf), lost_s=zeros(), acted=no(),
            walked_at=np.full(count, np.inf), iced_s=zeros(), threat_s=zeros(), landing_s=zeros(), forced=no(),
            follows=no(), ended_s=np.full(count, np.inf), ended_pct=zeros(), ended_from_m=zeros(),
            end=np.full(count, None, dtype=object),
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Ended:
    """How a flight ended: when [s], how, with what charge [%], how far from where it was to land [m]."""

    at_s: float
    end: End
    charge_pct: float
    from_home_m: float

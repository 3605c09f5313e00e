"""What legs cost: by hand on numbers, the same on arrays, and nothing is finite where there is no headway."""

from __future__ import annotations

import math

import numpy as np
import pytest

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.leg_costs import LANDING_S, LegCosts, seconds_over
from zealous_lark.core.situation import Situation, SpeedMode


@pytest.fixture
def costs(situation: Situation) -> LegCosts:
    flyer = Assessment(situation).flyer
    assert flyer is not None
    return flyer.costs


def test_by_hand(costs: LegCosts, situation: Situation) -> None:
    aircraft, power = situation.aircraft, costs.power
    down = costs.descend(60.0)
    assert (down.seconds, down.wh) == pytest.approx(
        (60 / aircraft.descent_ms, 60 / aircraft.descent_ms * power.hover_w / 3600)
    )
    level = costs.level(SpeedMode.NORMAL, 900.0, 9.0)
    watts = float(power.cruise_w(aircraft.airspeed_ms(SpeedMode.NORMAL)))
    assert (level.seconds, level.wh) == pytest.approx((100, watts / 36))
    up = costs.to_height_and_down(40.0, 100.0)
    seconds = 60 / aircraft.ascent_ms + 100 / aircraft.descent_ms + LANDING_S
    assert up.seconds == pytest.approx(seconds)
    # From above the way home it first comes down to it.
    assert costs.to_height_and_down(100.0, 40.0).seconds == pytest.approx(100 / aircraft.descent_ms + LANDING_S)


def test_arrays_say_what_numbers_say(costs: LegCosts) -> None:
    heights, speeds = np.array([20.0, 40.0, 90.0]), np.array([3.0, -1.0, math.nan])
    both = costs.to_height_and_down(40.0, heights) + costs.level(SpeedMode.RTH, 500.0, speeds)
    for i, (height, speed) in enumerate(zip(heights.tolist(), speeds.tolist(), strict=True)):
        one = costs.to_height_and_down(40.0, height) + costs.level(SpeedMode.RTH, 500.0, speed)
        assert (one.seconds, one.wh) == pytest.approx((both.seconds[i], both.wh[i]))
    assert np.isfinite(both.wh).tolist() == [True, False, False]


def test_standing_still_never_arrives() -> None:
    assert seconds_over(10.0, 0.0) == math.inf
    assert seconds_over(10.0, math.nan) == math.inf
    assert seconds_over(10.0, 2.0) == 5

"""Where to look: along the plan, out and home."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.flight.test_clock import example
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import FlightCard, flight_card
from zealous_lark.core.flight.clock import Moment
from zealous_lark.core.flight.lookout import HOVER_CHECK_M, Lookout, Phase, where_to_look
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import LegName

HEIGHT, RETURN = 60.0, 80.0


@pytest.fixture
def card(situation: Situation) -> FlightCard:
    made = flight_card(Assessment(situation))
    assert made is not None
    return made


def at(card: FlightCard, at_s: float, turned_s: float | None = None, share: float = 1.0) -> Lookout:
    far = card.distances_m[-1] * share
    return where_to_look(card, Moment(at_s, far, turned_s=turned_s), 312.0, HEIGHT, RETURN)


def begins(card: FlightCard) -> dict[LegName, float]:
    """When each step begins [s]."""
    found, passed = {}, 0.0
    for step in card.out:
        found[step.name] = passed
        passed += step.seconds
    return found


def test_each_leg_in_its_time(card: FlightCard) -> None:
    leg, far = begins(card), card.distances_m[-1]
    assert at(card, 1) == Lookout(Phase.NEAR, 312.0, 0.0, HOVER_CHECK_M, 90.0)
    half = at(card, (leg[LegName.OUTBOUND] + leg[LegName.STATION]) / 2)
    assert (half.phase, half.height_m) == (Phase.OUTBOUND, HEIGHT)
    assert half.distance_m == pytest.approx(far / 2)
    there = at(card, leg[LegName.STATION] + 5)
    assert (there.phase, there.distance_m) == (Phase.STATION, far)
    assert there.elevation_deg == pytest.approx(math.degrees(math.atan(HEIGHT / far)))


def test_no_further_than_the_pilot_said(card: FlightCard) -> None:
    there = at(card, begins(card)[LegName.STATION], share=0.25)
    assert (there.phase, there.distance_m) == (Phase.STATION, card.distances_m[-1] / 4)


def test_home_is_overhead_when_the_card_says_and_down_at_its_end(card: FlightCard) -> None:
    assert card.home is not None
    turned, far = begins(card)[LegName.STATION] + 60, card.distances_m[-1]
    way = far * card.home.s_per_m
    assert at(card, turned, turned).distance_m == far
    half = at(card, turned + way / 2, turned)
    assert (half.phase, half.height_m, half.bearing_deg) == (Phase.HOME, RETURN, 312.0)
    assert half.distance_m == pytest.approx(far / 2)
    over = at(card, turned + way + 1e-6, turned)
    assert (over.phase, over.distance_m) == (Phase.LANDING, 0.0)
    assert at(card, turned + card.home.seconds(far), turned).height_m == pytest.approx(0.0, abs=1e-9)
    # Turned back on its way out, it comes from there and not from the far point.
    early = (begins(card)[LegName.OUTBOUND] + begins(card)[LegName.STATION]) / 2
    assert at(card, early, early).distance_m == pytest.approx(far / 2)


@given(times=st.lists(st.floats(0, 3_600), min_size=2, max_size=6), turned=st.floats(0, 2_000))
def test_it_goes_out_before_it_turns_and_comes_back_after(
    times: list[float], turned: float, card_once: FlightCard
) -> None:
    there = [(t, at(card_once, t, turned if t >= turned else None)) for t in sorted(times)]
    for (_, a), (t, b) in pairwise(there):
        if t < turned:
            assert b.distance_m >= a.distance_m
    home = [found for t, found in there if t >= turned]
    assert all(b.distance_m <= a.distance_m for a, b in pairwise(home))
    assert all(0 <= found.elevation_deg <= 90 for _, found in there)
    assert all(found.height_m <= RETURN for _, found in there)


@pytest.fixture(scope="module")
def card_once() -> FlightCard:
    return example()

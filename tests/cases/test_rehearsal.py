"""Flights to rehearse alerts with: the same by seed, half without trouble, each alert there to be heard."""

from __future__ import annotations

from collections import Counter

import pytest

from tests.cases.test_drawing import OWN
from zealous_lark.cases.rehearsal import SPEED, Trouble, rehearse
from zealous_lark.core.flight.clock import Call, Moment, Reading, clock_state, drained_pct

SEEDS = range(1, 41)
FLIGHTS = [rehearse(seed, OWN) for seed in SEEDS]


def test_a_seed_is_the_same_flight() -> None:
    assert rehearse(7, OWN) == FLIGHTS[6]
    assert FLIGHTS[0] != FLIGHTS[1]


def test_half_have_no_trouble_and_the_others_have_one() -> None:
    found = Counter(f.trouble for f in FLIGHTS)
    assert 0.3 * len(FLIGHTS) <= found[Trouble.NONE] <= 0.7 * len(FLIGHTS)
    assert min(found.values()) >= 3
    for f in FLIGHTS:
        assert (f.drop_at_s is not None) is (f.trouble is Trouble.DROPS) is (f.drop_points > 0)
        assert (f.factor > 1.2) is (f.trouble is Trouble.DRAINS)


def truth(flight, at: float) -> float:  # type: ignore[no-untyped-def]
    m = Moment(at, flight.distance_m)
    dropped = flight.drop_points if flight.drop_at_s is not None and at >= flight.drop_at_s else 0.0
    return float(flight.card.charge_pct - flight.factor * drained_pct(flight.card, m, at) - dropped)


@pytest.mark.parametrize("flight", FLIGHTS, ids=lambda f: f"{f.seed}-{f.trouble}")
def test_a_pilot_who_reads_hears_turn_back_in_time_and_trouble_before(flight) -> None:  # type: ignore[no-untyped-def]
    readings: list[Reading] = []
    heard: dict[Call, float] = {}
    for at in range(0, 3600, 5):
        if at and at % 60 == 0:
            readings.append(Reading(at, truth(flight, at)))
        state = clock_state(flight.card, Moment(at, flight.distance_m, readings=tuple(readings)))
        for call in state.calls:
            heard.setdefault(call, at)
        if Call.TURN_BACK in heard:
            break
    assert Call.TURN_BACK in heard
    # Turned back at once it comes home with the reserve, but for what a reading may be off.
    at = heard[Call.TURN_BACK]
    home = flight.card.home.pct(flight.distance_m) * flight.factor
    if flight.trouble is not Trouble.DROPS:
        assert truth(flight, at) - home >= flight.card.reserve_pct - 4
    # In the pilot's own time it is over within a few minutes.
    assert at / SPEED < 240

"""The flight clock: its card against the trip, its laws, its calls in order."""

from __future__ import annotations

import json
import math
from dataclasses import asdict, replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import ROOT, changed, forecast, measured, wind
from zealous_lark.core.air import hover_wind_ms
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import FlightCard, flight_card
from zealous_lark.core.flight.clock import (
    Call,
    Moment,
    Reading,
    clock_state,
    drained_pct,
    falls_fast,
    measured_factor,
    reasons,
)
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import Situation
from zealous_lark.plan import read_plan, situation_of

CASES = ROOT / "frontend" / "tests" / "clock.cases.json"


def card_of(situation: Situation) -> FlightCard:
    made = flight_card(Assessment(situation))
    assert made is not None
    return made


@pytest.fixture
def card(situation: Situation) -> FlightCard:
    return card_of(situation)


def example() -> FlightCard:
    return card_of(situation_of(read_plan((ROOT / "examples" / "example-plan.json").read_text())))


def test_the_card_says_what_the_trip_says(situation: Situation, card: FlightCard) -> None:
    trip = Assessment(situation).trip
    assert trip is not None
    assert card.home is not None
    assert card.reserve_pct + card.home.pct(situation.flight.distance_m) == pytest.approx(trip.turn_back_pct, abs=1e-9)
    legs = {leg.name: leg for leg in trip.legs}
    home_s = sum(leg.seconds for leg in trip.legs[4:])
    assert card.home.seconds(situation.flight.distance_m) == pytest.approx(home_s)
    at = 0.0
    for step in card.out:
        at += legs[step.name].seconds
        left = card.charge_pct - drained_pct(card, Moment(at, 0.0), at)
        assert left == pytest.approx(legs[step.name].charge_after_pct, abs=1e-9)
    # Turned back at the end of the time on station it comes down as the trip does.
    m = Moment(at + home_s, situation.flight.distance_m, turned_s=at)
    assert card.charge_pct - drained_pct(card, m, m.at_s) == pytest.approx(trip.landing_pct, abs=1e-9)


def test_no_card_without_wind_and_no_home_without_headway(situation: Situation) -> None:
    assert flight_card(Assessment(changed(wind(situation, measured(4)), site__sheltered=True))) is None
    stormy = card_of(wind(situation, forecast(14, direction=60)))
    assert stormy.home is None
    state = clock_state(stormy, Moment(100, 100))
    assert state.turn_back_pct is None
    assert state.land_by_s is None
    assert state.landing_pct is None


@pytest.mark.parametrize("distance", [0.0, 120.0, 260.0])
def test_the_turn_back_is_when_the_charge_meets_it(card: FlightCard, distance: float) -> None:
    for at in (0.0, 10.0, 45.0, 200.0):
        state = clock_state(card, Moment(at, distance))
        assert state.turn_back_s is not None
        assert state.turn_back_pct is not None
        then = clock_state(card, Moment(at + state.turn_back_s, distance))
        assert then.charge_pct == pytest.approx(state.turn_back_pct, abs=1e-6)
        assert then.landing_pct == pytest.approx(card.reserve_pct, abs=1e-6)
        assert state.land_by_s == pytest.approx(then.land_by_s)


def test_the_calls_come_in_their_order(card: FlightCard) -> None:
    seen: list[Call] = []
    readings: list[Reading] = []
    at = 0.0
    while Call.LAND not in seen:
        if at - (readings[-1].at_s if readings else 0) >= card.read_every_s - 1 and at < 700:
            spent = drained_pct(card, Moment(at, 0), at)
            readings.append(Reading(at, card.charge_pct - spent))
        state = clock_state(card, Moment(at, 260.0, tuple(readings)))
        seen += [c for c in state.calls if c not in seen]
        at += 1.0
        assert at < 3600
    assert seen == [Call.HALF, Call.MISSED, Call.SOON, Call.TURN_BACK, Call.LAND]


def test_a_missed_reading_is_called_until_one_is_given(card: FlightCard) -> None:
    late = Moment(card.read_every_s + 1, 100)
    assert Call.MISSED in clock_state(card, late).calls
    given_now = replace(late, readings=(Reading(late.at_s, 90),))
    assert Call.MISSED not in clock_state(card, given_now).calls


def test_after_turning_back_only_landing_is_called(card: FlightCard) -> None:
    assert card.home is not None
    turned = Moment(900.0, 200.0, turned_s=880.0)
    state = clock_state(card, turned)
    assert Call.TURN_BACK not in state.calls
    assert Call.SOON not in state.calls
    assert state.turn_back_s is None
    assert state.land_by_s == pytest.approx(880 + card.home.seconds(200))


def test_a_fast_fall_is_called_and_a_usual_one_is_not(card: FlightCard) -> None:
    def after(*falls: float) -> Moment:
        readings, charge = [], card.charge_pct
        for n, fall in enumerate(falls):
            at = 90.0 * (n + 1)
            charge -= fall * (drained_pct(card, Moment(at, 0), at) - drained_pct(card, Moment(at, 0), at - 90))
            readings.append(Reading(at, charge))
        return Moment(90.0 * len(falls), 100.0, tuple(readings))

    assert not falls_fast(card, after(1, 1, 1))
    assert not falls_fast(card, after(1.1, 1.05, 1.1))
    assert falls_fast(card, after(2.5, 2.5, 2.5))
    assert falls_fast(card, after(1, 1, 4))
    assert Call.FAST in clock_state(card, after(1, 1, 4)).calls


def test_the_measured_factor(card: FlightCard) -> None:
    def drained(k: float, *times: float) -> Moment:
        readings = tuple(Reading(t, card.charge_pct - k * drained_pct(card, Moment(t, 0), t)) for t in times)
        return Moment(max(times), 100.0, readings)

    assert measured_factor(card, Moment(100, 0)) == 1.0
    assert measured_factor(card, drained(1.0, 120, 240)) == pytest.approx(1.0)
    # One early reading says little, a flight of them nearly all.
    early, later = measured_factor(card, drained(1.3, 60)), measured_factor(card, drained(1.3, 120, 240, 360, 480))
    whole = measured_factor(card, drained(1.3, *range(120, 1201, 120)))
    assert 1 < early < 1.02 < later < whole < 1.3
    assert whole == pytest.approx(1.3, abs=0.05)


def flown_until_called(card: FlightCard, k: float, distance: float, age: float) -> tuple[float, float]:
    """A flight that drains k times as fast as planned, read every two minutes in whole per cents: when it is called
    home [s], and the charge that it then lands with [%]. age: of the last reading at the call, at the least [s].
    """
    assert card.home is not None

    def left(at: float) -> float:
        return card.charge_pct - k * drained_pct(card, Moment(at, distance), at)

    at = 0.0
    while True:
        times = [t for t in range(120, 3600, 120) if t <= at - age]
        m = Moment(at, distance, tuple(Reading(t, round(left(t))) for t in times))
        if Call.TURN_BACK in clock_state(card, m).calls:
            return at, left(at) - k * card.home.pct(distance)
        at += 1.0


@pytest.mark.parametrize("distance", [60.0, 150.0])
@pytest.mark.parametrize("age", [0.0, 45.0])
@pytest.mark.parametrize(("k", "least"), [(1.5, 28.0), (2.0, 25.0)])
def test_a_fast_drain_is_acted_on_and_not_averaged_away(
    card: FlightCard, distance: float, age: float, k: float, least: float
) -> None:
    """Ways home of up to eight points, a reserve of 30 %: it lands with nearly all of it."""
    assert card.home is not None
    assert card.home.pct(distance) <= 8
    assert card.reserve_pct == 30
    _, lands = flown_until_called(card, k, distance, age)
    assert lands >= least


@pytest.mark.parametrize("distance", [60.0, 150.0])
def test_at_the_planned_drain_the_call_is_at_most_a_fifth_early(card: FlightCard, distance: float) -> None:
    ideal = clock_state(card, Moment(0.0, distance)).turn_back_s
    assert ideal is not None
    called, lands = flown_until_called(card, 1.0, distance, 45.0)
    assert 0.8 * ideal <= called <= ideal
    assert lands >= 30


@pytest.mark.parametrize("slip", [71.0, 95.0, 100.0])
def test_a_reading_that_is_higher_than_one_before_lengthens_nothing_and_silences_no_call(
    card: FlightCard, slip: float
) -> None:
    read = (Reading(120, 92), Reading(240, 70))
    before = Moment(260.0, 150.0, read)
    after = replace(before, readings=(*read, Reading(255, slip)))
    assert clock_state(card, after) == clock_state(card, before)
    assert Call.FAST in clock_state(card, after).calls
    hopeful = replace(after, hopeful=True)
    assert clock_state(card, hopeful) == clock_state(card, replace(before, hopeful=True))


def test_reasons_name_what_this_flight_has() -> None:
    jump = (Reading(60, 80), Reading(70, 55))
    found = reasons(jump, cold=True, windy=False, fast_mode=True)
    assert [r.split(":")[0] for r in found][:3] == ["A sudden drop", "Cold", "Fast mode"]
    assert len(reasons((), cold=False, windy=False, fast_mode=False)) == 1


steps_of_time = st.floats(0, 1500)
charges = st.floats(20, 100)


@given(steps_of_time, st.floats(0, 600), st.lists(charges, max_size=5))
def test_what_is_read_never_makes_the_turn_back_later(at: float, distance: float, read: list[float]) -> None:
    card = example()
    readings = tuple(Reading(at * (n + 1) / (len(read) + 1), c) for n, c in enumerate(read))
    blind = clock_state(card, Moment(at, distance))
    told = clock_state(card, Moment(at, distance, readings))
    assert told.charge_pct <= blind.charge_pct + 1e-9
    assert (told.turn_back_pct or 0) >= (blind.turn_back_pct or 0) - 1e-9
    assert (told.turn_back_s or 0) <= (blind.turn_back_s or 0) + 1e-6
    assert (told.land_by_s or 0) <= (blind.land_by_s or 0) + 1e-6


@given(steps_of_time, st.floats(0, 600), st.floats(0, 600))
def test_further_out_is_never_later(at: float, near: float, far: float) -> None:
    near, far = sorted((near, far))
    card = example()
    a, b = clock_state(card, Moment(at, near)), clock_state(card, Moment(at, far))
    assert (b.turn_back_s or 0) <= (a.turn_back_s or 0) + 1e-6


@given(st.lists(steps_of_time, min_size=2, max_size=8), st.one_of(st.none(), st.floats(0, 1500)))
def test_charge_only_falls(times: list[float], turned: float | None) -> None:
    card = example()
    left = [clock_state(card, Moment(t, 150.0, turned_s=turned)).charge_pct for t in sorted(times)]
    assert all(b <= a + 1e-9 for a, b in pairwise(left))


def cases() -> dict[str, list[dict[str, object]]]:
    """Moments of two flights with what the clock says of each: the screens are held against the same."""
    base = situation_of(read_plan((ROOT / "examples" / "example-plan.json").read_text()))
    cards: list[dict[str, object]] = []
    made: list[dict[str, object]] = []
    for situation in (base, wind(base, forecast(14, direction=60)), changed(base, settings__rth_altitude_m=90.0)):
        card = flight_card(Assessment(situation), with_winds=True)
        assert card is not None
        cards.append(asdict(card))
        for at in (0.0, 20.0, 75.0, 181.5, 400.0, 640.0, 900.0, 1300.0):
            for distance in (0.0, 400.0):
                for readings in ((), ((60.0, 92.0),), ((60.0, 97.0), (150.0, 90.0), (240.0, 65.0)),
                                 ((60.0, 97.0), (150.0, 70.0), (240.0, 95.0), (600.0, 66.0))):  # fmt: skip
                    shown = tuple(Reading(t, c) for t, c in readings if t <= at)
                    for turned, hopeful in ((None, False), (None, True), (350.0, False)):
                        if turned is not None and at < turned:
                            continue
                        m = Moment(at, distance, shown, turned, hopeful)
                        state = asdict(clock_state(card, m))
                        made.append({"card": len(cards) - 1, "moment": asdict(m), "state": state})
    return {"cards": cards, "cases": made}


def test_the_rows_of_the_wind_are_what_the_core_says_of_it(situation: Situation) -> None:
    """Each row is the way home with that headwind at the height flown, reckoned ahead."""
    card = flight_card(Assessment(situation), with_winds=True)
    assert card is not None
    assert [row.against_ms for row in card.winds] == list(range(17))
    row = card.winds[3]
    home = (situation.flight.bearing_deg + 180) % 360
    met = WindLevel(situation.flight.height_m, 3.0, home, WindSource.HOVER)
    there = Assessment(wind(situation, met))
    assert row.home == card_of(wind(situation, met)).home
    assert there.best_way_home is not None
    assert there.best_way_home.best is not None
    assert (row.best_height_m, row.best_mode) == (there.best_way_home.best.height_m, there.best_way_home.best.mode)
    costs = [r.home.pct(200) for r in card.winds if r.home is not None]
    assert costs == sorted(costs), "more wind against it never costs less"
    assert card.winds[-1].home is None
    # A lean of ten degrees in the core's own drag law.
    by_lean = card.lean_ms * math.sqrt(math.tan(math.radians(10)))
    relative = there.density_kgm3 / 1.225
    assert by_lean == pytest.approx(hover_wind_ms(10, 16, 35, 1.0, relative))


def test_the_cases_of_the_screens_are_those_of_the_core() -> None:
    """`python -m tests.core.flight.test_clock` writes them anew."""
    kept = json.loads(CASES.read_text())
    fresh = json.loads(json.dumps(cases()))
    assert len(kept["cases"]) == len(fresh["cases"]) > 200
    for a, b in zip(kept["cases"], fresh["cases"], strict=True):
        assert a["moment"] == b["moment"]
        assert a["card"] == b["card"]
        for key, value in b["state"].items():
            assert a["state"][key] == (pytest.approx(value, rel=1e-9, abs=1e-9) if isinstance(value, float) else value)


if __name__ == "__main__":
    CASES.write_text(json.dumps(cases()))

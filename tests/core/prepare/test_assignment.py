"""The exact assignment against brute force over all orders, splits and packs."""

from __future__ import annotations

import math
from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zealous_lark.core.prepare.assignment import LIGHT_STEP_S, MOST_SUBJECTS, Costs, assign

CHANGEOVER_S = 180.0


@st.composite
def _costs(draw: st.DrawFn, most: int) -> Costs:
    n = draw(st.integers(1, most))

    def row(low: int, high: int) -> tuple[float, ...]:
        return tuple(float(draw(st.integers(low, high))) / 10 for _ in range(n))

    def square(low: int, high: int) -> tuple[tuple[float, ...], ...]:
        return tuple(row(low, high) for _ in range(n))

    def light() -> tuple[bool, ...]:
        begin, end = draw(st.integers(-4, 12)), draw(st.integers(6, 30))
        return tuple(begin <= t <= end for t in range(25))

    return Costs(
        out_wh=row(2, 10), out_s=row(600, 1200), stay_wh=row(5, 40), stay_s=row(600, 6000), hop_wh=square(1, 5),
        hop_s=square(200, 600), home_wh=row(2, 10), home_s=row(600, 1200),
        downwind=tuple(draw(st.booleans()) for _ in range(n)),
        light=tuple(light() if draw(st.booleans()) else (True,) * 25 for _ in range(n)), ends_s=7200.0,
    )  # fmt: skip


def _first_start(costs: Costs, order: tuple[int, ...], ready: float) -> float:
    """The first start, tried at the time of readiness and at every step of the light."""
    _, seconds = costs.flight(order)
    for start in [ready, *(n * LIGHT_STEP_S for n in range(30) if n * LIGHT_STEP_S > ready)]:
        if start + seconds > costs.ends_s:
            continue
        steps = range(int(start // LIGHT_STEP_S), int((start + seconds) // LIGHT_STEP_S) + 1)
        if all(costs.light[i][t] for i in order for t in steps):
            return start
    return math.inf


def _best_by_brute_force(costs: Costs, budgets: list[float]) -> tuple[int, int, int, float]:
    """The best worth over every sequence of flights: every order of subjects, cut anywhere, any packs, any left out."""
    best = (costs.count, 0, 0, 0.0)

    def go(left: frozenset[int], packs: frozenset[int], ready: float, flown: int, downwind: int, landed: float) -> None:
        nonlocal best
        best = min(best, (len(left), flown, downwind, landed))
        for size in range(1, len(left) + 1):
            for order in permutations(sorted(left), size):
                wh, seconds = costs.flight(order)
                start = _first_start(costs, order, ready)
                if math.isinf(start):
                    continue
                for pack in packs:
                    if wh <= budgets[pack]:
                        landing = start + seconds
                        go(left - set(order), packs - {pack}, landing + CHANGEOVER_S, flown + 1,
                           downwind + costs.downwind[order[0]], landing)  # fmt: skip

    go(frozenset(range(costs.count)), frozenset(range(len(budgets))), 0.0, 0, 0, 0.0)
    return best


@settings(max_examples=120, deadline=None)
@given(_costs(most=4), st.lists(st.integers(10, 90), min_size=0, max_size=3))
def test_the_best_of_all_ways_is_found(costs: Costs, tenths: list[int]) -> None:
    budgets = [t / 10 for t in tenths]
    assert assign(costs, budgets, CHANGEOVER_S).worth == pytest.approx(_best_by_brute_force(costs, budgets))


@pytest.mark.slow
@settings(max_examples=3, deadline=None)
@given(_costs(most=7).filter(lambda c: c.count == 7))
def test_seven_subjects_with_two_packs_agree_with_brute_force(costs: Costs) -> None:
    budgets = [9.0, 6.0]
    assert assign(costs, budgets, CHANGEOVER_S).worth == pytest.approx(_best_by_brute_force(costs, budgets))


@settings(max_examples=60, deadline=None)
@given(_costs(most=8), st.lists(st.integers(20, 90), min_size=1, max_size=5))
def test_every_flight_keeps_within_its_pack_its_light_and_the_session(costs: Costs, tenths: list[int]) -> None:
    budgets = [t / 10 for t in tenths]
    found = assign(costs, budgets, CHANGEOVER_S)
    filmed = [i for f in found.flights for i in f.order]
    assert sorted([*filmed, *found.left_out]) == list(range(costs.count))
    assert len({f.pack for f in found.flights}) == len(found.flights)
    ready = 0.0
    for flight in found.flights:
        wh, seconds = costs.flight(flight.order)
        assert wh <= budgets[flight.pack] + 1e-9
        assert flight.begins_s >= ready
        assert flight.begins_s + seconds <= costs.ends_s
        first = _first_start(costs, flight.order, flight.begins_s)
        assert first == flight.begins_s
        ready = flight.begins_s + seconds + CHANGEOVER_S


def _plain(n: int, wh: float) -> Costs:
    row, square = (1.0,) * n, ((0.5,) * n,) * n
    return Costs(row, row, (wh,) * n, row, square, square, row, row, (False,) * n, ((True,),) * n)


def test_the_fewest_packs_are_used() -> None:
    # Alone each takes 2 + 2; two in one flight 2 + 2·2 + 0.5 = 6.5, which only the large pack has.
    assert [sorted(f.order) for f in assign(_plain(2, 2.0), [7.0, 5.0], 0).flights] == [[0, 1]]
    assert len(assign(_plain(2, 2.0), [6.0, 5.0], 0).flights) == 2


def test_a_flight_is_put_so_that_it_starts_into_the_wind() -> None:
    costs = _plain(2, 1.0)
    windy = Costs(**{**{k: getattr(costs, k) for k in Costs.__slots__}, "downwind": (True, False)})
    assert assign(windy, [9.0], 0).flights[0].order == (1, 0)


def test_more_subjects_than_can_be_solved_exactly_are_refused() -> None:
    with pytest.raises(ValueError, match=f"up to {MOST_SUBJECTS}"):
        assign(_plain(MOST_SUBJECTS + 1, 1.0), [9.0], 0)

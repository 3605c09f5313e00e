"""Gate rules as a table: context in, items out."""

from __future__ import annotations

from dataclasses import fields
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zealous_lark.core.preflight.gates import LEAST_ITEMS, MOST_ITEMS, Round, Topic, gates, item_texts, items

FLAGS = [f.name for f in fields(Round)]
_ROUNDS = st.builds(Round, **{name: st.booleans() for name in FLAGS})


def keys(**context: bool) -> set[str]:
    return {i.key for i in items(Round(**context))}


@pytest.mark.parametrize(
    ("flag", "more", "less"),
    [
        ("winter", {"ice", "pack_temperature"}, set()),
        ("water", {"over_water", "water_sensors"}, set()),
        ("boat", {"boat_home", "deck", "observer", "over_water", "turn"}, {"pad"}),
        ("indoors", {"guards", "indoor_mode", "room", "slow_mode"},
         {"pad", "aerials", "return_height", "satellites", "home_point", "overhead", "air", "wind_now"}),
        ("built_up", {"radios"}, set()),
        ("first_of_day", {"shell", "turn", "motor_stop", "display"}, set()),
        ("first_of_pack", {"label"}, set()),
        ("after_firmware", {"firmware", "compass"}, set()),
        ("new_place", {"compass", "radios"}, set()),
        ("after_knock", {"shell", "turn", "compass"}, set()),
        ("first_flights", {"slow_mode", "observer", "practise_return"}, set()),
        ("bright", {"filter"}, set()),
        ("risky", {"swap_card"}, set()),
        ("payload", {"attached"}, set()),
    ],
)  # fmt: skip
def test_what_a_context_adds_and_takes_away(flag: str, more: set[str], less: set[str]) -> None:
    plain, changed = keys(), keys(**{flag: True})
    assert changed - plain == more
    assert plain - changed == less


def test_every_flag_is_in_the_table_and_every_item_in_some_context() -> None:
    found = set(keys())
    for name in FLAGS:
        found |= keys(**{name: True})
    assert found == set(item_texts())


def test_a_plain_walkround_is_short_and_a_first_days_not_long() -> None:
    assert len(items(Round())) < 25
    assert len(items(Round(first_of_day=True, first_of_pack=True))) <= 25
    first_day = Round(first_of_day=True, first_of_pack=True, first_flights=True, new_place=True, bright=True)
    assert len(items(first_day)) < 40


@given(_ROUNDS)
def test_gates_hold_every_item_once_in_the_order_of_the_hands(context: Round) -> None:
    found = [i for gate in gates(context) for i in gate.items]
    assert found == list(items(context))
    assert len({i.key for i in found}) == len(found)
    order = [list(Topic).index(i.topic) for i in found]
    assert order == sorted(order)


@given(_ROUNDS)
def test_gates_are_short(context: Round) -> None:
    sizes = [len(g.items) for g in gates(context)]
    assert max(sizes) <= MOST_ITEMS
    assert len([n for n in sizes if n < LEAST_ITEMS]) <= 1


def test_no_other_way_to_join_topics_keeps_closer_to_five_to_nine() -> None:
    context = Round(first_of_day=True, boat=True, water=True)
    by_topic = [n for t in Topic if (n := sum(i.topic is t for i in items(context)))]

    def off(sizes: list[int]) -> int:
        return sum(max(LEAST_ITEMS - n, n - MOST_ITEMS, 0) for n in sizes)

    best = 99
    for cuts in product((False, True), repeat=len(by_topic) - 1):
        sizes = by_topic[:1]
        for n, apart in zip(by_topic[1:], cuts, strict=True):
            if apart:
                sizes.append(n)
            else:
                sizes[-1] += n
        best = min(best, off(sizes))
    assert off([len(g.items) for g in gates(context)]) == best


def test_every_item_says_why_how_and_what_then() -> None:
    for context in (Round(), Round(**dict.fromkeys(FLAGS, True))):
        for item in items(context):
            assert item.why.endswith(".")
            assert item.fault.endswith(".")
            assert len(item.how) == 3
            assert "\n" not in item.text + item.why

"""What is taken over from a situation that is assessed already is what would be computed anew."""

from __future__ import annotations

from typing import Any

import pytest

from tests.plans.drawn import drawn_situation
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.fixes import PARAMETERS, changed
from zealous_lark.core.verdict import judge, judge_assessed


@pytest.mark.parametrize("seed", range(40))
def test_a_turned_situation_is_judged_as_one_that_was_never_seen(seed: int) -> None:
    situation, _ = drawn_situation(seed)
    before = Assessment(situation)
    judge_assessed(before)  # so that everything there is to take over is there
    turned = 0
    for parameter in PARAMETERS:
        for value in parameter.stops(before)[:2]:
            other = changed(situation, parameter.key, value)
            ours, fresh = judge_assessed(before.turned(other)), judge(other)
            assert ours.verdict is fresh.verdict, parameter.key
            assert [j.finding for j in ours.judged] == [j.finding for j in fresh.judged], parameter.key
            turned += 1
    assert turned > 5


def test_parts_that_nothing_touches_are_the_same_objects() -> None:
    situation, _ = drawn_situation(1)
    before = Assessment(situation)
    judge_assessed(before)

    def kept(key: str, value: Any) -> set[str]:
        after = before.turned(changed(situation, key, value))
        return {name for name in after.__dict__ if after.__dict__[name] is before.__dict__.get(name)}

    assert {"wind", "world", "winds_flown"} <= kept("pack.charge_pct", 55.0)
    assert "winds_flown" not in kept("flight.height_m", situation.flight.height_m - 1)
    assert "wind" not in kept("minimums.hover_rule", situation.minimums.hover_rule)

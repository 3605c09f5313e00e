"""The eye: the sizes drawn, the staircase, and simulated observers whose thresholds are known."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import ROOT, SOME_SEEDS, share_of
from zealous_lark.core.practice.eye import (
    DRAWN_PX,
    GUESS,
    LAPSE,
    NEAREST_M,
    SEEN,
    TRIALS,
    Trial,
    arc_minutes,
    drawn_mm,
    eye,
    farthest_m,
    next_distance,
    right_share,
)
from zealous_lark.core.sight import attitude_distance_m

CASES = ROOT / "frontend" / "tests" / "eye.cases.json"
SIZE = 0.36
FORMULA = attitude_distance_m(SIZE)
FAR = 10 * FORMULA


def share(distance: float, seen: float, slope: float) -> float:
    return float(right_share(np.array(distance), np.array(seen), np.array(slope)))


def observed(rng: np.random.Generator, seen: float, slope: float, most: float = FAR) -> list[Trial]:
    """What an observer with a threshold [m] and a slope answers."""
    trials: list[Trial] = []
    for _ in range(TRIALS):
        d = next_distance(trials, SIZE, most)
        trials.append(Trial(d, bool(rng.random() < share(d, seen, slope))))
    return trials


def test_three_in_four_are_right_at_the_threshold_whatever_the_slope() -> None:
    for slope in (2.0, 6.0, 25.0):
        assert share(90.0, 90.0, slope) == pytest.approx(SEEN)
        assert share(1.0, 90.0, slope) == pytest.approx(1 - LAPSE, abs=0.01)
        assert share(1e6, 90.0, slope) == pytest.approx(GUESS, abs=0.01)


@given(st.floats(0.1, 2.0), st.floats(5, 1000), st.floats(200, 4000))
def test_what_is_drawn_takes_the_angle_that_the_aircraft_would(size: float, distance: float, viewing: float) -> None:
    half = drawn_mm(size, distance, viewing) / 2 / viewing
    assert math.degrees(2 * math.atan(half)) * 60 == pytest.approx(arc_minutes(size, distance))


def test_the_farthest_that_a_screen_draws_takes_its_fewest_pixels() -> None:
    far = farthest_m(SIZE, 600, 4.0)
    assert drawn_mm(SIZE, far, 600) * 4.0 == pytest.approx(DRAWN_PX)


@given(st.lists(st.booleans(), max_size=60), st.floats(20, 500))
def test_the_staircase_steps_out_when_right_and_in_when_wrong_within_its_bounds(words: list[bool], most: float) -> None:
    trials: list[Trial] = []
    for right in words:
        d = next_distance(trials, SIZE, most)
        assert NEAREST_M <= d <= most
        trials.append(Trial(d, right))
        after = next_distance(trials, SIZE, most)
        assert after >= d if right else after <= d
    # Three right answers take back what a wrong one gave, once the first has been wrong.
    if words and not words[0]:
        d = next_distance(trials, SIZE, 1e9)
        wrong = [*trials, Trial(d, False)]
        if next_distance(wrong, SIZE, 1e9) > NEAREST_M:
            back = [*wrong, *(Trial(d, True) for _ in range(3))]
            assert next_distance(back, SIZE, 1e9) == pytest.approx(d)


def test_simulated_observers_are_found_within_their_interval() -> None:
    rng = np.random.default_rng(7)
    drawn = 10 * SOME_SEEDS
    inside, ratios = 0, []
    for _ in range(drawn):
        seen = FORMULA * math.exp(rng.uniform(math.log(0.3), math.log(1.8)))
        found = eye(observed(rng, seen, math.exp(rng.uniform(math.log(3), math.log(15)))), SIZE)
        inside += found.low_m <= seen <= found.high_m
        ratios.append(found.seen_m / seen)
    assert inside >= share_of(0.95, drawn)
    # In the middle right, and narrow enough to be of use.
    assert np.median(ratios) == pytest.approx(1, abs=0.04)
    assert np.percentile(np.abs(np.log(ratios)), 90) < math.log(1.25)


def test_a_repeat_gives_the_same_within_its_interval() -> None:
    rng = np.random.default_rng(11)
    drawn = 5 * SOME_SEEDS
    same = 0
    for _ in range(drawn):
        seen = FORMULA * math.exp(rng.uniform(math.log(0.4), math.log(1.4)))
        one, two = (eye(observed(rng, seen, 7.0), SIZE) for _ in range(2))
        same += one.low_m <= two.high_m and two.low_m <= one.high_m
    assert same >= share_of(0.95, drawn)


def test_what_is_offered_is_the_near_end_and_never_over_the_formula() -> None:
    rng = np.random.default_rng(5)
    keen = eye(observed(rng, 3 * FORMULA, 10.0), SIZE)
    assert keen.low_m > FORMULA
    assert keen.own_m == math.floor(FORMULA)
    weak = eye(observed(rng, 0.5 * FORMULA, 10.0), SIZE)
    assert weak.own_m == math.floor(weak.low_m) < weak.seen_m < FORMULA


def test_a_screen_that_ends_before_the_eye_does_gives_no_more_than_it_showed() -> None:
    short = [Trial(60.0, True)] * TRIALS
    found = eye(short, SIZE)
    assert found.low_m >= 55  # it was seen there every time
    assert found.high_m > 3 * found.low_m  # how much further is not known


def test_nothing_is_found_without_an_answer() -> None:
    with pytest.raises(ValueError, match="no answer"):
        eye([], SIZE)


def cases() -> list[dict[str, object]]:
    """What the device's own staircase is held against."""
    rng = np.random.default_rng(1)
    found: list[dict[str, object]] = []
    for size, most in ((0.2, 300.0), (0.36, 120.0), (0.36, 900.0), (1.2, 2000.0)):
        trials: list[Trial] = []
        for n in range(TRIALS):
            d = next_distance(trials, size, most)
            found.append({"size_m": size, "most_m": most, "right": [t.right for t in trials], "next_m": d})
            trials.append(Trial(d, bool(rng.random() < (0.9 if n < 6 else 0.74))))
    return found


def test_the_devices_cases_are_those_of_the_core() -> None:
    kept = json.loads(CASES.read_text())
    fresh = cases()
    assert len(kept) == len(fresh) > 200
    for a, b in zip(kept, fresh, strict=True):
        assert a == {**b, "next_m": pytest.approx(b["next_m"])}


if __name__ == "__main__":
    CASES.write_text(json.dumps(cases()))

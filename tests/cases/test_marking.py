"""Marks: what an answer would have cost; and when a family is due again."""

from __future__ import annotations

import itertools
import json
from dataclasses import asdict
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from tests.cases.test_drawing import OWN
from tests.make import ROOT
from zealous_lark.cases.drawing import Case, draw
from zealous_lark.cases.families import BY_KEY
from zealous_lark.cases.marking import Answer, Grade, Key, PracticeWord, mark, mark_by
from zealous_lark.cases.schedule import standing
from zealous_lark.core.verdict import Verdict


def case_with(family: str, verdict: Verdict) -> Case:
    drawn = (draw(BY_KEY[family], seed, OWN) for seed in range(1, 60))
    return next(case for case in drawn if case.verdict is verdict)


@pytest.fixture(scope="module")
def stay() -> Case:
    return case_with("return-height", Verdict.STAY)


@pytest.fixture(scope="module")
def fine() -> Case:
    return case_with("return-height", Verdict.LAUNCH)


def said(case: Case, word: PracticeWord, sure: float = 90, **more: float | str | None) -> Answer:
    return Answer(word, sure, **{"tightest": case.deciding, **more})  # type: ignore[arg-type]


def test_launching_into_a_dont_launch_costs_most_and_is_asked_again(stay: Case, fine: Case) -> None:
    costs = {word: mark(stay, said(stay, word)).cost for word in PracticeWord}
    assert costs[PracticeWord.LAUNCH] > 10 > costs[PracticeWord.WAIT] >= costs[PracticeWord.STAND_DOWN] == 0
    assert mark(stay, said(stay, PracticeWord.LAUNCH)).grade is Grade.AGAIN
    for word in PracticeWord:
        assert mark(fine, said(fine, word)).cost < costs[PracticeWord.LAUNCH] / 2
    assert mark(fine, said(fine, PracticeWord.LAUNCH)).grade is Grade.EASY
    assert mark(fine, said(fine, PracticeWord.STAND_DOWN)).grade is Grade.HARD


def test_waiting_is_as_good_where_the_cause_passes() -> None:
    windy = case_with("wind-home", Verdict.STAY)
    assert mark(windy, said(windy, PracticeWord.WAIT)).cost == 0
    asked = case_with("shelter", Verdict.UNKNOWN)
    assert mark(asked, said(asked, PracticeWord.WAIT)).cost == 0
    assert mark(asked, said(asked, PracticeWord.LAUNCH)).grade is Grade.AGAIN


def test_being_sure_of_what_is_wrong_costs_more_and_calibration_is_the_brier_score(stay: Case) -> None:
    unsure, sure = (mark(stay, said(stay, PracticeWord.LAUNCH, sure)) for sure in (50, 100))
    assert (unsure.brier, sure.brier) == (0.25, 1.0)
    assert sure.cost - unsure.cost == sure.sure_cost - unsure.sure_cost > 0
    assert mark(stay, said(stay, PracticeWord.STAND_DOWN, 100)).brier == 0
    assert mark(stay, said(stay, PracticeWord.STAND_DOWN, 55)).grade is Grade.GOOD


def test_numbers_by_feel_cost_more_on_the_side_that_is_found_too_late(fine: Case) -> None:
    true = mark(fine, said(fine, PracticeWord.LAUNCH))
    assert true.turn_back_pct is not None
    assert true.return_height_m is not None

    def cost(turn_back: float, height: float) -> float:
        return mark(fine, said(fine, PracticeWord.LAUNCH, turn_back_pct=turn_back, return_height_m=height)).cost

    assert cost(true.turn_back_pct + 4, true.return_height_m - 4) == 0
    assert cost(true.turn_back_pct - 10, true.return_height_m) > cost(true.turn_back_pct + 10, true.return_height_m) > 0
    assert cost(true.turn_back_pct, true.return_height_m - 8) > cost(true.turn_back_pct, true.return_height_m + 8) > 0


def test_the_tightest_counts(fine: Case) -> None:
    other = next(check for check in fine.options if check != fine.deciding)
    marked = mark(fine, said(fine, PracticeWord.LAUNCH, tightest=other))
    assert (marked.tightest_cost, marked.cost, marked.grade) == (1.0, 1.0, Grade.GOOD)


def test_the_schedulers_reference_sequence() -> None:
    """Days to the next review of the package's own tests (py-fsrs, FSRS-6, without fuzzing); from memory."""
    at = datetime(2022, 11, 29, 12, 30, tzinfo=UTC)
    answers: list[tuple[datetime, Grade]] = []
    days = []
    for grade in [Grade.GOOD] * 6 + [Grade.AGAIN] * 2 + [Grade.GOOD] * 5:
        answers.append((at, grade))
        found = standing(answers, at)
        assert found is not None
        days.append((found.due - at).days)
        at = found.due
    assert days == [0, 2, 11, 46, 163, 498, 0, 0, 2, 4, 7, 12, 21]


def test_what_was_answered_badly_is_due_sooner_and_forgotten_sooner() -> None:
    at = datetime(2026, 9, 1, tzinfo=UTC)
    days = [at + timedelta(days=n) for n in (0, 1, 4)]
    well, badly = (
        standing([(day, grade) for day in days], at + timedelta(days=12)) for grade in (Grade.EASY, Grade.HARD)
    )
    assert well is not None
    assert badly is not None
    assert badly.due < well.due
    assert badly.remembered < well.remembered
    assert standing([], at) is None
    # A device whose clock was set back.
    assert standing([(days[1], Grade.GOOD), (days[0], Grade.GOOD)], at) is not None


CASES = ROOT / "frontend" / "tests" / "marking.cases.json"


def device_cases() -> list[dict[str, Any]]:
    """What the device's own marking is held against."""
    costs = [(0, 1, 2), (0, 0, 1), (7, 0, 1), (10, 1, 0), (10, 0, 0)]
    verdicts = [Verdict.LAUNCH, Verdict.CARE, Verdict.UNKNOWN, Verdict.STAY, Verdict.STAY]
    found = []
    for verdict, cost in zip(verdicts, costs, strict=True):
        words = dict(zip(PracticeWord, map(float, cost), strict=True))
        for numbers in ((45.5, 32.0), (None, None)):
            key = Key(verdict, "wind.steady", words, *numbers)
            for word, sure, tightest, feel in itertools.product(
                PracticeWord, (50.0, 80.0, 100.0), ("wind.steady", "sight.distance"), ((None, None), (40.4, 40.0))
            ):
                answer = Answer(word, sure, tightest, *feel)
                found.append({"key": asdict(key), "answer": asdict(answer), "marked": asdict(mark_by(key, answer))})
    return found


def test_the_devices_cases_are_those_of_the_core() -> None:
    kept, fresh = json.loads(CASES.read_text()), json.loads(json.dumps(device_cases()))
    assert len(kept) == len(fresh) > 300
    assert kept == fresh


if __name__ == "__main__":
    CASES.write_text(json.dumps(device_cases()))

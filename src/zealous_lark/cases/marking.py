"""What an answer would have cost: launching into a Don't launch weighs most, and how sure the pilot was counts.

The weights are Lark's own; there is no published table of them. Calibration is the Brier score [1]_ of one answer.

References
----------
.. [1] Brier (1950), Verification of forecasts expressed in terms of probability. Monthly Weather Review 78, 1-3.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.cases.drawing import Case
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan import situation_of


class PracticeWord(StrEnum):
    """What the pilot says."""

    LAUNCH = "launch"
    WAIT = "wait"
    STAND_DOWN = "stand_down"


class Grade(StrEnum):
    """How well a case went; the four of the scheduler."""

    AGAIN = "again"
    HARD = "hard"
    GOOD = "good"
    EASY = "easy"


_COST = {
    Verdict.LAUNCH: {PracticeWord.LAUNCH: 0, PracticeWord.WAIT: 1, PracticeWord.STAND_DOWN: 2},
    Verdict.CARE: {PracticeWord.LAUNCH: 0, PracticeWord.WAIT: 0, PracticeWord.STAND_DOWN: 1},
    Verdict.UNKNOWN: {PracticeWord.LAUNCH: 7, PracticeWord.WAIT: 0, PracticeWord.STAND_DOWN: 1},
    Verdict.STAY: {PracticeWord.LAUNCH: 10, PracticeWord.WAIT: 1, PracticeWord.STAND_DOWN: 0},
}
WRONG_FROM = 2
"""A word that costs so much was wrong."""
TIGHTEST_COST = 1.0
NEAR_POINTS, NEAR_M = 5.0, 5.0
"""A number by feel is near within so many points of charge, or metres; and one on the strict side costs less."""
TOO_LOW_COST, TOO_HIGH_COST = 2.0, 0.5
SURE_COST = 3.0
EASY_SURE_PCT = 80.0
GOOD_MOST = 1.0
AGAIN_FROM = 5.0


@dataclass(frozen=True, slots=True)
class Answer:
    """What the pilot said: a word, how sure of it [%], the tightest check, and two numbers by feel; None: not said."""

    word: PracticeWord
    sure_pct: float
    tightest: str
    turn_back_pct: float | None = None
    return_height_m: float | None = None


@dataclass(frozen=True, slots=True)
class Marked:
    """What an answer cost, and why.

    turn_back_pct, return_height_m: what they are; None where there is none, indoors or without a way home.
    brier: (how sure - whether it was right)², 0 at best and 1 at worst.
    """

    word_cost: float
    right: bool
    tightest_right: bool
    turn_back_pct: float | None
    turn_back_cost: float
    return_height_m: float | None
    return_height_cost: float
    brier: float
    cost: float
    grade: Grade


def mark(case: Case, answer: Answer) -> Marked:
    """Mark an answer to a case."""
    a = Assessment(situation_of(case.plan))
    turn_back = None if a.trip is None or case.family.indoors else a.trip.turn_back_pct
    height = None if case.family.indoors else a.return_height.lowest_m
    word = float(_COST[case.verdict][answer.word])
    if case.verdict is Verdict.STAY and answer.word is PracticeWord.WAIT and case.family.waits:
        word = 0.0
    right = word < WRONG_FROM
    tightest = answer.tightest == case.deciding
    by_charge = _by_feel(answer.turn_back_pct, turn_back, NEAR_POINTS)
    by_height = _by_feel(answer.return_height_m, height, NEAR_M)
    brier = (answer.sure_pct / 100 - float(right)) ** 2
    cost = word + (0 if tightest else TIGHTEST_COST) + by_charge + by_height + (0 if right else SURE_COST * brier)
    return Marked(
        word, right, tightest, turn_back, by_charge, height, by_height, brier, cost,
        _grade(case, answer, right, cost),
    )  # fmt: skip


def _by_feel(said: float | None, true: float | None, near: float) -> float:
    """What a number by feel costs: under the true one it is found too late, over it only charge or light is lost."""
    if said is None or true is None or abs(said - true) <= near:
        return 0.0
    return TOO_LOW_COST if said < true else TOO_HIGH_COST


def _grade(case: Case, answer: Answer, right: bool, cost: float) -> Grade:
    if cost >= AGAIN_FROM or (case.verdict is Verdict.STAY and answer.word is PracticeWord.LAUNCH):
        return Grade.AGAIN
    if not right or cost > GOOD_MOST:
        return Grade.HARD
    return Grade.EASY if cost == 0 and answer.sure_pct >= EASY_SURE_PCT else Grade.GOOD

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


class Going(StrEnum):
    """How a family goes, by what its latest answers cost."""

    STEADY = "steady"
    MIDDLING = "middling"
    WEAK = "weak"


class Calibration(StrEnum):
    """Whether a pilot is as sure as may be, by the mean Brier score of the latest answers."""

    WELL = "well"
    ROUGHLY = "roughly"
    TOO_SURE = "too_sure"


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
STEADY_MOST, WEAK_FROM = 0.5, 2.0
"""Mean costs up to which a family is steady, and from which it is weak."""
WELL_BRIER, ROUGH_BRIER = 0.08, 0.25
"""Brier scores of a word that fits said with 72 of 100 sure, and of one toss of a coin."""


def going(mean_cost: float) -> Going:
    """How a family goes, by its mean cost.

    >>> going(0.4), going(1.0), going(2.0)
    (<Going.STEADY: 'steady'>, <Going.MIDDLING: 'middling'>, <Going.WEAK: 'weak'>)
    """
    if mean_cost <= STEADY_MOST:
        return Going.STEADY
    return Going.WEAK if mean_cost >= WEAK_FROM else Going.MIDDLING


def calibration(brier: float) -> Calibration:
    """Whether a pilot is as sure as may be, by the mean Brier score.

    >>> calibration(0.04), calibration(0.25), calibration(0.6)
    (<Calibration.WELL: 'well'>, <Calibration.ROUGHLY: 'roughly'>, <Calibration.TOO_SURE: 'too_sure'>)
    """
    if brier <= WELL_BRIER:
        return Calibration.WELL
    return Calibration.ROUGHLY if brier <= ROUGH_BRIER else Calibration.TOO_SURE


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
    """What an answer cost, and why; cost is the sum of the others.

    sure_cost: of being sure of a word that was wrong.
    turn_back_pct, return_height_m: what they are; None where there is none, indoors or without a way home.
    brier: (how sure - whether it was right)², 0 at best and 1 at worst.
    """

    word_cost: float
    right: bool
    sure_cost: float
    tightest_cost: float
    turn_back_pct: float | None
    turn_back_cost: float
    return_height_m: float | None
    return_height_cost: float
    brier: float
    cost: float
    grade: Grade


@dataclass(frozen=True, slots=True)
class Key:
    """What an answer to a case is marked by. word_costs: of each word that the pilot may say.

    turn_back_pct, return_height_m: as they are; None where there is none, indoors or without a way home.
    """

    verdict: Verdict
    deciding: str
    word_costs: dict[PracticeWord, float]
    turn_back_pct: float | None
    return_height_m: float | None


def key_of(case: Case) -> Key:
    """What answers to a case are marked by."""
    a = Assessment(situation_of(case.plan))
    costs = {word: float(cost) for word, cost in _COST[case.verdict].items()}
    if case.verdict is Verdict.STAY and case.family.waits:
        costs[PracticeWord.WAIT] = 0.0
    if case.family.indoors:
        return Key(case.verdict, case.deciding, costs, None, None)
    turn_back = None if a.trip is None else a.trip.turn_back_pct
    return Key(case.verdict, case.deciding, costs, turn_back, a.return_height.lowest_m)


def mark(case: Case, answer: Answer) -> Marked:
    """Mark an answer to a case."""
    return mark_by(key_of(case), answer)


def mark_by(key: Key, answer: Answer) -> Marked:
    """Mark an answer by what it is marked by, without the case itself."""
    turn_back, height = key.turn_back_pct, key.return_height_m
    word = key.word_costs[answer.word]
    right = word < WRONG_FROM
    tightest = 0.0 if answer.tightest == key.deciding else TIGHTEST_COST
    by_charge = _by_feel(answer.turn_back_pct, turn_back, NEAR_POINTS)
    by_height = _by_feel(answer.return_height_m, height, NEAR_M)
    brier = (answer.sure_pct / 100 - float(right)) ** 2
    sure = 0.0 if right else SURE_COST * brier
    cost = word + sure + tightest + by_charge + by_height
    return Marked(
        word, right, sure, tightest, turn_back, by_charge, height, by_height, brier, cost,
        _grade(key, answer, right, cost),
    )  # fmt: skip


def _by_feel(said: float | None, true: float | None, near: float) -> float:
    """What a number by feel costs: under the true one it is found too late, over it only charge or light is lost."""
    if said is None or true is None or abs(said - true) <= near:
        return 0.0
    return TOO_LOW_COST if said < true else TOO_HIGH_COST


def _grade(key: Key, answer: Answer, right: bool, cost: float) -> Grade:
    if cost >= AGAIN_FROM or (key.verdict is Verdict.STAY and answer.word is PracticeWord.LAUNCH):
        return Grade.AGAIN
    if not right or cost > GOOD_MOST:
        return Grade.HARD
    return Grade.EASY if cost == 0 and answer.sure_pct >= EASY_SURE_PCT else Grade.GOOD

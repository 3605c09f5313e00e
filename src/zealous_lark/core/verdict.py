"""From findings to a verdict, and which check to watch."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Check, Finding, Status, all_checks
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units


class Verdict(StrEnum):
    LAUNCH = "launch"
    CARE = "care"
    STAY = "stay"
    UNKNOWN = "unknown"


_SEVERITY = {Status.PASS: 0, Status.CARE: 1, Status.UNKNOWN: 2, Status.FAIL: 3}
_VERDICT = {
    Status.PASS: Verdict.LAUNCH,
    Status.CARE: Verdict.CARE,
    Status.UNKNOWN: Verdict.UNKNOWN,
    Status.FAIL: Verdict.STAY,
}


@dataclass(frozen=True, slots=True)
class Judged:
    """A check with what it found."""

    check: Check
    finding: Finding


@dataclass(frozen=True, slots=True)
class Judgement:
    """The whole judgement. `judged` is in the order in which to watch them, the tightest first."""

    assessment: Assessment
    verdict: Verdict
    judged: tuple[Judged, ...]

    @property
    def tightest(self) -> Judged:
        """The check to watch, also when all pass."""
        return self.judged[0]


def _watch_order(judged: Judged) -> tuple[int, bool, float, str]:
    finding = judged.finding
    return (
        -_SEVERITY[finding.status],
        finding.follows is not None,
        -(finding.used or 0.0),
        judged.check.id,
    )


def judge(situation: Situation, units: Units = METRIC) -> Judgement:
    """Judge a situation: every check that applies, the worst status as the verdict.

    A fail outranks an unknown, an unknown outranks care: what is not known keeps the
    verdict from being a launch, and what has failed already decides. Within a status
    causes come before what only follows from them, then the one that uses most of its
    limit. Units only change the sentences.
    """
    assessment = Assessment(situation)
    judged = sorted(
        (Judged(c, c.judge(assessment, units)) for c in all_checks() if c.applies(assessment)),
        key=_watch_order,
    )
    return Judgement(assessment, _VERDICT[judged[0].finding.status], tuple(judged))

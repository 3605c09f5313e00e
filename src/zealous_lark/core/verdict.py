"""From findings to a verdict, and which check to watch."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.assumed import Assumed, doubted
from zealous_lark.core.checks import Check, Finding, Status, all_checks
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.situation import Situation


class Verdict(StrEnum):
    LAUNCH = "launch"
    CARE = "care"
    STAY = "stay"
    UNKNOWN = "unknown"


VERDICT_WORDS = {
    Verdict.LAUNCH: "Within limits",
    Verdict.CARE: "Caution",
    Verdict.STAY: "Don't launch",
    Verdict.UNKNOWN: "Not enough data",
}
"""How a verdict is said, everywhere: Lark reports how things stand, and only the pilot launches."""

CAUTION = (
    "Calculated from your inputs. Not permission to fly. Local rules, the landowner, the aircraft's manual and your "
    "aviation authority have the final say."
)
"""The one line that goes with every verdict."""

VERDICT_OF = {
    Status.PASS: Verdict.LAUNCH,
    Status.CARE: Verdict.CARE,
    Status.UNKNOWN: Verdict.UNKNOWN,
    Status.FAIL: Verdict.STAY,
}

STRICTER = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.UNKNOWN: 2, Verdict.STAY: 3}
"""The stricter of two verdicts has the greater number."""


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
    def questions(self) -> tuple[Judged, ...]:
        """What is not known and can be asked: what counts first, of that what nobody has said, the wind before all."""
        open_ones = [j for j in self.judged if j.finding.question is not None]
        order = [a.value for a in Assumed]

        def place(judged: Judged) -> tuple[bool, int, str]:
            asks = judged.finding.asks
            return not judged.finding.matters, len(order) if asks is None else order.index(asks), judged.check.id

        return tuple(sorted(open_ones, key=place))

    @property
    def tightest(self) -> Judged:
        """The check to watch, also when all pass."""
        return self.judged[0]


def counts_as(finding: Finding) -> Status:
    """The status that goes into the verdict: what cannot be known yet does not count yet."""
    return finding.status if finding.matters else Status.PASS


def _watch_order(judged: Judged) -> tuple[int, bool, float, str]:
    finding = judged.finding
    return (
        -SEVERITY[counts_as(finding)],
        finding.follows is not None or finding.standing,
        -(finding.used or 0.0),
        judged.check.id,
    )


def judge(situation: Situation) -> Judgement:
    """Judge a situation: every check that applies, the worst status as the verdict.

    A fail outranks an unknown, an unknown outranks care: what is not known keeps the
    verdict from being a launch, and what has failed already decides. Satellites and home
    point can only be known on site: while neither is, they are asked and do not count
    yet. Within a status
    causes come before what only follows from them, then the one that uses most of its
    limit. What each says is put together when it is asked for, in the units of who asks.
    """
    return judge_assessed(Assessment(situation))


def judge_assessed(assessment: Assessment) -> Judgement:
    """As `judge`, of what is computed already."""
    situation = assessment.situation
    found = [(c, c.find(assessment)) for c in all_checks() if c.applies(assessment)]
    if situation.assumed:
        found = doubted(assessment, found)
    judged = sorted((Judged(check, finding) for check, finding in found), key=_watch_order)
    return Judgement(assessment, VERDICT_OF[counts_as(judged[0].finding)], tuple(judged))

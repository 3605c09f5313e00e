"""A case by its family and seed: the same on every machine, with one cause that decides, or nearly does."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from zealous_lark.cases.dice import Dice
from zealous_lark.cases.families import Cause, Family
from zealous_lark.cases.scenes import Own, easy_day
from zealous_lark.core.checks import Status
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.verdict import Judgement, Verdict, counts_as, judge
from zealous_lark.plan import PlanDocument, situation_of

FINE_SHARE, CARE_SHARE = 0.5, 0.15
"""Half of the cases are fine: who always stays at home learns nothing. A few ask for care."""
TRIES = 40
STEPS = 24
"""So finely a cause is looked at for where it begins to count."""
LEAST_GAP = 0.06
"""By so much of its limit the tightest is tighter than what another cause uses: no ties."""
OPTIONS = 5


@dataclass(frozen=True, slots=True)
class Case:
    """A case. without: the same flight without its cause, which is within limits.

    deciding: the check that is the tightest. options: keys of checks to choose it from.
    """

    family: Family
    seed: int
    place: str
    plan: PlanDocument
    without: PlanDocument
    verdict: Verdict
    deciding: str
    options: tuple[str, ...]


class NoCaseError(LookupError):
    """With this aircraft and these minimums the family has no case under this seed."""


def draw(family: Family, seed: int, own: Own) -> Case:
    """A family's case. Raises NoCaseError."""
    for attempt in range(TRIES):
        dice = Dice(family.key, seed, attempt)
        wanted = _wanted(Dice(family.key, seed))
        if wanted is Verdict.CARE and attempt >= TRIES // 2:
            wanted = Verdict.STAY  # of some causes there is no middle
        plan, place = easy_day(dice, own, indoors=family.indoors)
        cause = family.begin(plan, dice)
        without = cause(0.0)
        if _judged(without).verdict is not Verdict.LAUNCH:
            continue
        share = _strength(cause, wanted, dice)
        if share is None:
            continue
        drawn = cause(share)
        judgement = _judged(drawn)
        if judgement.verdict is not Verdict.LAUNCH and not _decides(family, judgement):
            continue
        if not _clear(family, judgement):
            continue
        deciding = judgement.tightest.check.id
        return Case(
            family, seed, place, drawn, without, judgement.verdict, deciding, _options(judgement, deciding, dice)
        )
    raise NoCaseError(family.key)


def _judged(plan: PlanDocument) -> Judgement:
    return judge(situation_of(plan))


def _wanted(dice: Dice) -> Verdict:
    """Which verdict this seed is to have; of a cause that is only ever asked about, not known is the worst."""
    drawn = dice.share()
    if drawn < FINE_SHARE:
        return Verdict.LAUNCH
    return Verdict.CARE if drawn < FINE_SHARE + CARE_SHARE else Verdict.STAY


def _strength(cause: Cause, wanted: Verdict, dice: Dice) -> float | None:
    """How strong the cause is: where the verdict is as wanted, away from where it changes; None where it never is."""
    verdicts = [_judged(cause(n / STEPS)).verdict for n in range(STEPS + 1)]
    worst = Verdict.UNKNOWN if Verdict.STAY not in verdicts else Verdict.STAY
    fits: Callable[[Verdict], bool] = {
        Verdict.LAUNCH: lambda v: v is Verdict.LAUNCH,
        Verdict.CARE: lambda v: v is Verdict.CARE,
        Verdict.STAY: lambda v: v is worst,
    }[wanted]
    there = [n for n, verdict in enumerate(verdicts) if fits(verdict)]
    # Its neighbours say the same: it is not at the very edge, where a metre more or less would decide.
    inner = [n for n in there if n in (0, STEPS) or (fits(verdicts[n - 1]) and fits(verdicts[n + 1]))]
    # Enough of the cause to look at: of what is still fine the stronger half.
    strong = inner[len(inner) // 2 :] if wanted is Verdict.LAUNCH else [n for n in inner if n > 0]
    chosen = strong or there
    return None if not chosen else dice.one(chosen) / STEPS


def _decides(family: Family, judgement: Judgement) -> bool:
    """Whether all that is as bad as the verdict is the family's, or only follows from what is."""
    worst = max(SEVERITY[counts_as(j.finding)] for j in judgement.judged)
    bad = [j for j in judgement.judged if SEVERITY[counts_as(j.finding)] == worst and not j.finding.standing]
    return all(
        j.check.id in family.checks or (j.finding.follows is not None and j.finding.follows in family.checks)
        for j in bad
    )


def _clear(family: Family, judgement: Judgement) -> bool:
    """Whether the tightest is tighter than whatever has another cause: of what passes, by a share of the limit."""
    first = judgement.tightest
    if first.finding.standing:
        return False
    if counts_as(first.finding) is not Status.PASS:
        return first.check.id in family.checks
    used = first.finding.used or 0.0
    others = [j.finding.used or 0.0 for j in judgement.judged[1:] if not j.finding.standing]
    return not others or used - max(others) >= LEAST_GAP


def _options(judgement: Judgement, deciding: str, dice: Dice) -> tuple[str, ...]:
    """Checks to choose the tightest from, in a drawn order; those that follow from it are not among them."""
    other = [
        j.check.id
        for j in judgement.judged
        if j.check.id != deciding and j.finding.follows is None and not j.finding.standing
    ]
    return tuple(dice.some([deciding, *dice.some(sorted(other), OPTIONS - 1)], OPTIONS))

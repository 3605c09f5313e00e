"""Cases by seed: the check that is named decides, without its cause the flight is within limits, and no ties."""

from __future__ import annotations

import hashlib
import os
from collections import Counter

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.make import share_of
from zealous_lark.cases.drawing import LEAST_GAP, OPTIONS, Case, NoCaseError, draw
from zealous_lark.cases.families import BY_KEY, FAMILIES, Family
from zealous_lark.cases.scenes import Own
from zealous_lark.core.verdict import Verdict, counts_as, judge
from zealous_lark.plan import read_plan, situation_of
from zealous_lark.plan.document import MinimumsPart, PackPart
from zealous_lark.plan.typical import DUNLIN, PLOVER

SEEDS = int(os.environ.get("LARK_CASES", "16"))
"""How many cases of each family are looked at; `make soak` looks at ten thousand in all."""
OWN = Own(DUNLIN, PackPart(label="1", charge_pct=100), MinimumsPart())


def checked(case: Case) -> None:
    """What holds of every case."""
    judgement = judge(situation_of(case.plan))
    assert judgement.verdict is case.verdict
    assert judgement.tightest.check.id == case.deciding
    assert judge(situation_of(case.without)).verdict is Verdict.LAUNCH
    assert len(case.options) == len(set(case.options)) == OPTIONS
    assert case.deciding in case.options
    assert read_plan(case.plan.model_dump_json()) == case.plan, "a plan that Lark itself would take"
    first = judgement.tightest.finding
    if case.verdict is Verdict.LAUNCH:
        used = [j.finding.used or 0 for j in judgement.judged[1:] if not j.finding.standing]
        assert (first.used or 0) - max(used) >= LEAST_GAP
    else:
        assert case.deciding in case.family.checks
        # What else is as bad only repeats it.
        bad = [j for j in judgement.judged if counts_as(j.finding) is counts_as(first) and not j.finding.standing]
        assert all(j.check.id in case.family.checks or j.finding.follows in case.family.checks for j in bad)


@pytest.mark.parametrize("family", FAMILIES, ids=lambda f: f.key)
def test_cases_are_solvable_without_ties_and_half_are_fine(family: Family) -> None:
    verdicts: Counter[Verdict] = Counter()
    none = 0
    for seed in range(1, SEEDS + 1):
        try:
            case = draw(family, seed, OWN)
        except NoCaseError:
            none += 1
            continue
        checked(case)
        verdicts[case.verdict] += 1
    drawn = sum(verdicts.values())
    assert none <= SEEDS * 0.1
    assert verdicts[Verdict.LAUNCH] >= share_of(0.3, drawn)
    assert drawn - verdicts[Verdict.LAUNCH] >= share_of(0.28, drawn)
    assert verdicts[Verdict.STAY] + verdicts[Verdict.UNKNOWN] >= share_of(0.15, drawn)


@given(family=st.sampled_from(FAMILIES), seed=st.integers(1, 1_000_000), heavy=st.booleans())
@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_with_any_seed_and_another_aircraft(family: Family, seed: int, heavy: bool) -> None:
    own = Own(PLOVER if heavy else DUNLIN, PackPart(charge_pct=100, health_pct=88), MinimumsPart(reserve_pct=35))
    try:
        checked(draw(family, seed, own))
    except NoCaseError:
        return


def test_a_seed_is_the_same_case_on_every_machine() -> None:
    """The digest was written down on another run; whoever changes a family changes it, and says so."""
    drawn = [draw(BY_KEY[key], 7, OWN) for key in ("wind-home", "return-height", "light", "indoors")]
    texts = [f"{c.verdict} {c.deciding} {c.plan.title} {c.plan.flight} {c.plan.settings}" for c in drawn]
    assert texts == [f"{c.verdict} {c.deciding} {c.plan.title} {c.plan.flight} {c.plan.settings}" for c in
                     (draw(BY_KEY[c.family.key], 7, OWN) for c in drawn)]  # fmt: skip
    assert hashlib.sha256("\n".join(texts).encode()).hexdigest()[:16] == "be0ae4636772d41d"


def test_what_nobody_can_fly_has_no_case() -> None:
    """Minimums that no flight meets leave nothing to ask."""
    never = Own(DUNLIN, PackPart(charge_pct=100), MinimumsPart(reserve_pct=90))
    with pytest.raises(NoCaseError):
        draw(BY_KEY["battery"], 1, never)

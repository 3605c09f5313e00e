"""Figures of practice: a thousand cases drawn, the eye's answers worked out, a drill's start."""

from __future__ import annotations

import statistics
import sys

from tests.bench.land import Timed
from tests.cases.test_drawing import OWN
from zealous_lark.cases.drawing import draw
from zealous_lark.cases.families import FAMILIES
from zealous_lark.core.practice.drills import DRILLS
from zealous_lark.core.practice.eye import TRIALS, Trial, eye
from zealous_lark.core.practice.start import start
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import judge

EACH = 84
"""Cases of each of twelve families: a thousand and eight."""


def figures(situation: Situation, timed: Timed) -> None:
    """Print them; cases and drills as ratios to a check without fixes."""
    out = sys.stdout.write
    check = statistics.median(timed(lambda: judge(situation)) for _ in range(50))
    cases = [
        timed(lambda family=family, seed=seed: draw(family, seed, OWN))  # type: ignore[misc]
        for family in FAMILIES
        for seed in range(1, EACH + 1)
    ]
    middle = statistics.median(cases)
    out(f"{len(cases)} cases drawn: {sum(cases) / 1000:.0f} s in all, median {middle:.0f} ms,")
    out(f" {middle / check:.0f} checks each\n")
    drills = statistics.median(timed(lambda: [start(situation, drill) for drill in DRILLS]) for _ in range(50))
    out(f"nine drills, whether each may start {drills:9.2f} ms, {drills / check:.1f} checks\n")
    trials = [Trial(60.0 + n, n % 4 > 0) for n in range(TRIALS)]
    answered = statistics.median(timed(lambda: eye(trials, 0.36)) for _ in range(20))
    out(f"the eye: sixty answers worked out {answered:.1f} ms\n")

"""Figures of practice: a thousand cases drawn, the eye's answers worked out, a drill's start, flights to bring home."""

from __future__ import annotations

import statistics
import sys

from tests.bench.land import Timed
from tests.cases.test_drawing import OWN
from zealous_lark.cases.drawing import draw
from zealous_lark.cases.families import FAMILIES
from zealous_lark.cases.homeward import draw_flight
from zealous_lark.core.homeward.acts import Act
from zealous_lark.core.homeward.flying import Flights
from zealous_lark.core.homeward.outcome import review
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
    _homeward(timed)
    trials = [Trial(60.0 + n, n % 4 > 0) for n in range(TRIALS)]
    answered = statistics.median(timed(lambda: eye(trials, 0.36)) for _ in range(20))
    out(f"the eye: sixty answers worked out {answered:.1f} ms\n")


def _homeward(timed: Timed) -> None:
    """A step of one flight, and of a thousand side by side; a flight drawn; all other choices of one."""
    seeds = range(1, 11)
    drawn = statistics.median(timed(lambda seed=seed: draw_flight(seed, OWN)) for seed in seeds)  # type: ignore[misc]
    scene = draw_flight(1, OWN)
    steps = []
    for count in (1, 1000):
        flights = Flights(scene.sheet, scene.mishap, scene.normals, [[]] * count)
        steps.append(statistics.median(timed(flights.step) for _ in range(600)))
    acts = [(scene.turn_s, Act.TURN_BACK)]
    ended = Flights(scene.sheet, scene.mishap, scene.normals, [acts]).to_the_end()[0]
    others = timed(
        lambda: review(scene.sheet, scene.mishap, scene.normals, acts, scene.decides_from_s, ended.at_s)
    )  # fmt: skip
    sys.stdout.write(
        f"a flight to bring home drawn {drawn:.0f} ms; a step {steps[0]:.2f} ms, of 1,000 side by side "
        f"{steps[1] / steps[0]:.1f} times that; all other choices {others / 1000:.1f} s\n"
    )

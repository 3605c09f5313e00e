"""Ninety-six half hours, and subjects shared out to packs."""

from __future__ import annotations

import statistics
import sys
from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta

import numpy as np

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.prepare.filming import plan_filming
from zealous_lark.core.prepare.subjects import Outing, Shot, ShotPack, WantedLight
from zealous_lark.core.situation import Pack, Situation
from zealous_lark.core.windows import half_hours, slots
from zealous_lark.plan import Known, PlanDocument, judge_plan
from zealous_lark.plan.forecast import forecast_of
from zealous_lark.simulators.days import Day, made_forecast

Timed = Callable[[Callable[[], object]], float]


def windows(plan: PlanDocument, situation: Situation, timed: Timed, rounds: int = 10) -> None:
    """Print the figures."""
    begin = situation.takeoff_at - timedelta(hours=12)
    site = situation.site
    forecast = forecast_of(made_forecast(Day.FAIR, begin, 60, site.longitude, begin))
    with_forecast = replace(situation, forecast=forecast)
    times = half_hours(begin)
    known = Known(forecast=forecast)

    def one_by_one() -> object:
        """The check called for each half hour as a plan document, the planned bearing alone."""
        return [judge_plan(plan.model_copy(update={"takeoff_at": at}), with_fixes=False, known=known) for at in times]

    slots(with_forecast, times), one_by_one()
    pairs = [(timed(lambda: slots(with_forecast, times)), timed(one_by_one)) for _ in range(rounds)]
    whole, single = (statistics.median(column) for column in zip(*pairs, strict=True))
    out = sys.stdout.write
    out(f"{'96 half hours, planned and best bearing':<58} median {whole:7.2f} ms\n")
    out(f"{'the check called 96 times, planned bearing alone':<58} median {single:7.2f} ms\n")
    out(f"96 calls over 96 half hours {single / whole:.2f}\n")

    chance = np.random.default_rng(7)
    lights = list(WantedLight)
    for count, lit in ((7, False), (10, False), (10, True)):
        shots = tuple(
            Shot(f"s{n}", float(chance.uniform(0, 360)), float(chance.uniform(40, 250)), 40.0,
                 float(chance.uniform(2, 6)), lights[n % len(lights)] if lit else WantedLight.ANY)
            for n in range(count)
        )  # fmt: skip
        packs = tuple(
            ShotPack(name, Pack(100, health, 18)) for name, health in zip("ABCD", (99, 96, 92, 90), strict=True)
        )
        outing = Outing(Assessment(situation), shots, packs, 7200, 240)
        ms = statistics.median(timed(lambda outing=outing: plan_filming(outing)) for _ in range(5))  # type: ignore[misc]
        words = f"{count} subjects{', their light wanted' if lit else ''}, four packs, exact"
        out(f"{words:<58} median {ms:7.2f} ms\n")

"""Fixes that a pilot would do: three hundred drawn plans, and every fix that is offered held against the rules."""

from __future__ import annotations

import os
from typing import Any

import numpy as np
import pytest

from tests.make import changed
from tests.plans.table import Row, plan_of, thing
from zealous_lark.core.checks import Status
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.fixes import Fix, fixes
from zealous_lark.core.fixes import changed as with_key
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.verdict import Judgement, judge
from zealous_lark.plan import situation_of

PARTS = 6
"""So that as many processes can share the three hundred."""
pytestmark = pytest.mark.slow
PLANS = 5 * int(os.environ.get("LARK_TRIES", "60")) // PARTS
SEED = 20_261_126
PLACES = {"flight.distance_m", "flight.bearing_deg", "flight.height_m"}


def drawn_plan(rng: np.random.Generator) -> Situation:
    """A plan as somebody might have it, often with something wrong in it."""
    kinds = ["trees", "building", "wires", "mast", "terrain"]
    things = [
        thing(str(rng.choice(kinds)), float(rng.integers(3, 90)), float(rng.integers(8, 260)),
              float(rng.integers(0, 360)), float(rng.integers(0, 40)))
        for _ in range(rng.integers(0, 4))
    ]  # fmt: skip
    wind = {"height_m": 10, "speed_ms": round(float(rng.uniform(0, 8)), 1), "source": "forecast",
            "direction_deg": float(rng.integers(0, 360))}  # fmt: skip
    changes: dict[str, Any] = {
        "site.obstacles": things,
        "weather.winds": [wind],
        "flight.bearing_deg": float(rng.integers(0, 360)),
        "flight.distance_m": float(rng.integers(20, 350)),
        "flight.height_m": float(rng.integers(8, 110)),
        "flight.station_min": float(rng.integers(0, 16)),
        "flight.outbound_mode": str(rng.choice(["cine", "normal", "sport"])),
        "settings.rth_altitude_m": float(rng.choice([20, 30, 40, 60, 100])),
        "settings.lost_link": str(rng.choice(["return", "hover"])),
        "settings.max_altitude_m": float(rng.choice([50, 120])),
        "pack.charge_pct": float(rng.choice([70, 90, 100])),
        "takeoff_at": f"2026-06-15T{rng.integers(3, 23):02d}:00:00+03:00",
    }
    s = situation_of(plan_of(Row("drawn", changes, "", "", "", dunlin=bool(rng.integers(0, 2)))))
    return changed(s, aimed=bool(rng.integers(0, 2)))


def pulled(s: Situation, fix: Fix) -> Situation:
    for key, value in fix.changes:
        s = with_key(s, key, value)
    return s


def held(before: Judgement, check_id: str, fix: Fix) -> None:
    s = before.assessment.situation
    after = judge(pulled(s, fix))
    now = {j.check.id: j.finding for j in after.judged}
    was = {j.check.id: j.finding for j in before.judged}
    keys = {key for key, _ in fix.changes}
    said = (check_id, fix.sentence, [(o.kind, o.distance_m, o.height_m) for o in s.site.obstacles])
    # It works, on the whole verdict, and nothing fails for it that did not.
    assert now[check_id].status is Status.PASS, said
    assert after.verdict is fix.verdict, said
    assert not [i for i, f in now.items() if f.status is Status.FAIL and was[i].status is not Status.FAIL], said
    # It ends at or beside nothing that it was not beside before.
    if keys & PLACES:
        for i in ("clear.outbound", "clear.station"):
            assert SEVERITY[now[i].status] <= SEVERITY[was[i].status], said
    # Nobody flies out fast to cure flying out with the wind, turns from a subject, or waits for a time unknown.
    assert not (check_id == "wind.first_leg" and dict(fix.changes).get("flight.outbound_mode") is SpeedMode.FAST), said
    assert not (s.aimed and "flight.bearing_deg" in keys), said
    assert "takeoff_at" not in keys, said
    # The return height is the one that would do; hover cures a lost link, or where no height serves.
    if "settings.rth_altitude_m" in keys:
        assert now["return.clearance"].status is Status.PASS, said
    if "settings.lost_link" in keys:
        none = before.assessment.return_height.recommended_m is None
        assert check_id == "return.lost_link" or none, said
    assert dict(fix.changes).get("flight.height_m", 99) >= 10, said
    # What it worsens, it says.
    worse = [j for j in after.judged if SEVERITY[j.finding.status] > SEVERITY[was[j.check.id].status]]
    assert all(j.check.label.lower() in fix.sentence for j in worse), said


@pytest.mark.parametrize("part", range(PARTS))
def test_every_lever_on_three_hundred_plans_is_one_that_a_pilot_would_pull(part: int) -> None:
    rng = np.random.default_rng([SEED, part])
    offered = climbs = 0
    for _ in range(PLANS):
        before = judge(drawn_plan(rng))
        for judged in before.judged:
            if judged.finding.status in (Status.CARE, Status.FAIL):
                for fix in fixes(before, judged.check):
                    held(before, judged.check.id, fix)
                    offered += 1
                    climbs += "Climb to" in fix.sentence
    assert offered > 2 * PLANS
    assert climbs, "climbing is one of the ways"


def test_behind_a_hill_climbing_brings_the_picture_back() -> None:
    """Ground of 30 m at 100 m, 180 m out at 30 m: a few dB; at 50 m there is plenty."""
    row = Row("hill", {"site.obstacles": [thing("terrain", 30, 100)], "flight.distance_m": 180, "flight.height_m": 30,
                       "settings.rth_altitude_m": 50}, "", "", "")  # fmt: skip
    before = judge(situation_of(plan_of(row)))
    margin = next(j for j in before.judged if j.check.id == "signal.margin")
    assert margin.finding.status is not Status.PASS
    assert any("Climb to" in fix.sentence for fix in fixes(before, margin.check))

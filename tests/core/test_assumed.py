"""Values that nobody has said: they take a pass away where their worst would, and never give one."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.make import read
from tests.plans.table import plan_dict, wind
from zealous_lark.core.assumed import Assumed
from zealous_lark.core.checks import Status
from zealous_lark.core.fixes import fixes
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import Judgement, Verdict, judge
from zealous_lark.plan import read_plan, situation_of

KEYS = ["weather.winds.0", *(a.value for a in Assumed if a is not Assumed.WINDS)]


def judged(changes: dict[str, Any], unsaid: set[str], how: str | None = None) -> Judgement:
    """The calm day of version 2 with the changes; the evidence of some values taken away, or set to a word."""
    plan = json.loads(read_plan(json.dumps(plan_dict(changes))).model_dump_json())
    for key in unsaid:
        if how is None:
            plan["evidence"].pop(key, None)
        else:
            plan["evidence"][key] = {"how": how}
    return judge(situation_of(read_plan(json.dumps(plan))))


def statuses(judgement: Judgement) -> dict[str, Status]:
    return {j.check.id: j.finding.status for j in judgement.judged}


def test_a_calm_day_that_nobody_has_looked_at_is_not_known() -> None:
    assert judged({}, set()).verdict is Verdict.LAUNCH
    after = judged({}, {"weather.winds.0"})
    assert after.verdict is Verdict.UNKNOWN
    (asked,) = [j for j in after.judged if j.finding.asks == "weather.winds"]
    assert (
        read(asked.finding).question
        == "What is the wind, from a forecast or a meter? Assumed: a wind of 2.0 m/s at 10 m."
    )
    # Everything else that rests on the wind follows the one that asks.
    others = [j for j in after.judged if "nobody has confirmed" in j.finding.sentence(METRIC) and j is not asked]
    assert {"wind.steady", "wind.gust", "battery.budget"} <= {j.check.id for j in [asked, *others]}
    assert {j.finding.follows for j in others} == {asked.check.id}
    assert after.questions[0] is asked
    # No chance is told on a wind that nobody has said.
    assert judged({}, set()).assessment.chance is not None
    assert after.assessment.chance is None


@pytest.mark.parametrize("how", ["default", "copied"])
def test_what_is_copied_from_another_day_counts_as_assumed(how: str) -> None:
    assert statuses(judged({}, {"pack.charge_pct"}, how))["battery.charge"] is Status.UNKNOWN


@pytest.mark.parametrize("how", ["typed", "forecast", "measured", "read"])
def test_what_somebody_said_counts(how: str) -> None:
    assert judged({}, set(KEYS), how).verdict is Verdict.LAUNCH


def test_a_value_whose_worst_changes_nothing_is_not_asked() -> None:
    """Where the charge decides nothing indoors but the charge itself, the wind is no question at all."""
    after = judged({"site.indoors": True, "settings.lost_link": "hover"}, {"weather.winds.0"})
    assert not [j for j in after.judged if j.finding.asks == "weather.winds"]


def test_figures_of_a_forecast_are_said_by_it() -> None:
    origin = [{"figure": "winds", "source": "service", "as_of": "2026-06-15T06:00:00+03:00"}]
    after = judged({"weather.provenance": origin}, {"weather.winds.0"})
    assert after.verdict is Verdict.LAUNCH


def test_one_reading_says_the_wind() -> None:
    winds = [wind(2), wind(3, "measured", 2)]
    both = judged({"weather.winds": winds}, {"weather.winds.0"})
    assert not [j for j in both.judged if j.finding.asks == "weather.winds"]


@settings(max_examples=60, deadline=None)
@given(
    st.sets(st.sampled_from(KEYS), min_size=1),
    st.floats(0, 12),
    st.floats(-15, 35),
    st.sampled_from([20.0, 60.0, 100.0]),
    st.floats(0, 9),
)
def test_taking_evidence_away_turns_nothing_but_a_pass_and_never_into_one(
    unsaid: set[str], speed: float, air: float, charge: float, kp: float
) -> None:
    changes = {
        "weather.winds": [wind(round(speed, 1))], "weather.temperature_c": air, "pack.charge_pct": charge,
        "weather.kp": kp,
    }  # fmt: skip
    before, after = statuses(judged(changes, set())), statuses(judged(changes, unsaid))
    assert before.keys() == after.keys()
    for check, status in before.items():
        allowed = {Status.PASS, Status.UNKNOWN} if status is Status.PASS else {status}
        assert after[check] in allowed, check


def test_no_fix_is_offered_that_only_nobodys_wind_would_make_a_pass() -> None:
    """A battery at 40 % lands too low; a full one clears that only where somebody said the wind."""
    changes = {"pack.charge_pct": 40.0}
    for unsaid, offered in ((set(), True), ({"weather.winds.0"}, False)):
        before = judged(changes, unsaid)
        budget = next(j for j in before.judged if j.check.id == "battery.budget")
        assert budget.finding.status in (Status.FAIL, Status.CARE)
        assert bool(fixes(before, budget.check)) is offered


def test_a_full_battery_taken_as_a_fix_is_said() -> None:
    before = judged({"pack.charge_pct": 60.0}, {"pack.charge_pct"})
    charge = next(j for j in before.judged if j.check.id == "battery.charge")
    assert charge.finding.status is not Status.PASS
    assert fixes(before, charge.check)

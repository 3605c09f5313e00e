"""Verdicts on whole plans, as careful pilots would sign them."""

from __future__ import annotations

import pytest

from tests.plans.table import ROWS, Row, plan_of
from zealous_lark.plan import judge_plan


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.name)
def test_a_careful_pilot_would_sign_it(row: Row) -> None:
    result = judge_plan(plan_of(row), with_fixes=False)
    found = {c.id: c for c in result.checks}
    assert found[row.check].status == row.status, found[row.check].sentence
    assert result.verdict in row.verdicts.split(), [(c.id, c.status, c.sentence) for c in result.checks[:3]]

"""The tests find small faults in the core."""

from __future__ import annotations

import pytest

from tests.soak.mutants import survivors

WANTED_SHARE = 0.95


@pytest.mark.timeout(7200)
def test_most_mutants_of_the_core_are_found() -> None:
    total, left = survivors(170, 1, workers=1)
    assert total >= 150
    assert 1 - len(left) / total >= WANTED_SHARE, [f"{m.path}:{m.line}: {m.says}" for m in left]

"""A thousand kills: the long form of the fifty in the store's own tests."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.store.kills import killed


@pytest.mark.timeout(1800)
def test_a_thousand_kills_lose_and_double_nothing(tmp_path: Path) -> None:
    killed(tmp_path, 1000, 1700)

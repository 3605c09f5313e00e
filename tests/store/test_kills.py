"""Kills: what was acknowledged is there afterwards, once, and the database is sound."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.store.kills import killed


@pytest.mark.timeout(300)
def test_fifty_kills_lose_and_double_nothing(tmp_path: Path) -> None:
    killed(tmp_path, 50, 240)

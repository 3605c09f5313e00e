"""Many threads on fresh places do not end the process."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest

from tests.make import ROOT

SECONDS = float(os.environ.get("LARK_RACE_S", "5"))
"""How long it is raced [s]; 600 in the soak."""


@pytest.mark.timeout(SECONDS + 120)
def test_threads_on_fresh_places_end_no_process() -> None:
    ended = subprocess.run(
        [sys.executable, "-m", "tests.soak.shape_race", f"{SECONDS}"], cwd=ROOT, capture_output=True, text=True
    )
    assert ended.returncode == 0, ended.stderr[-2000:]
    assert int(ended.stdout) > 0

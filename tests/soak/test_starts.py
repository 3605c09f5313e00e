"""Fresh servers that are asked by eight threads at once, as by the pages of several devices, do not die."""

from __future__ import annotations

import json
import os
import random
import shutil
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import pytest

from tests.browser.conftest import Server, demo_data
from tests.soak.requests import RECORDED

__all__ = ["demo_data"]
STARTS = int(os.environ.get("LARK_STARTS", "3"))
"""How many servers are begun; 300 in the soak."""
THREADS = 8


@pytest.mark.timeout(30 * STARTS + 120)
def test_no_fresh_server_dies_of_being_asked(tmp_path: Path, demo_data: Path) -> None:
    recorded = json.loads(RECORDED.read_text())
    assert len(recorded) > 40
    for n in range(STARTS):
        folder = tmp_path / "data"
        shutil.copytree(demo_data, folder)
        server = Server(folder)
        server.start()
        mine = [random.Random(f"{n} {thread}").sample(recorded, len(recorded) // 3) for thread in range(THREADS)]

        def ask(requests: list[dict[str, str | None]], url: str = server.url) -> list[int]:
            with httpx.Client(base_url=url, timeout=120) as client:
                return [
                    client.request(
                        str(r["method"]), str(r["address"]), content=r["body"],
                        headers={"Content-Type": r["type"]} if r["type"] else {},
                    ).status_code
                    for r in requests
                ]  # fmt: skip

        with ThreadPoolExecutor(THREADS) as pool:
            answered = [status for statuses in pool.map(ask, mine) for status in statuses]
        assert server.process is not None
        assert server.process.is_alive(), f"start {n} died with {server.process.exitcode}"
        assert max(answered) < 500, sorted(set(answered))
        server.kill()
        shutil.rmtree(folder)

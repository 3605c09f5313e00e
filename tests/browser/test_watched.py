"""The server dies under a running flight clock, again and again: the clock goes on, and the flight is there once."""

from __future__ import annotations

import os
import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

from tests.browser.conftest import PHONE, Server, open_context, settled, watched
from tests.browser.test_flight import aloft_s, events, flights, land, later, off, opened
from tests.lark import Watched

KILLS = int(os.environ.get("LARK_SERVER_KILLS", "2"))


@pytest.fixture
def dying(tmp_path: Path, demo_data: Path) -> Iterator[tuple[Server, Watched]]:
    """The demo as a pilot starts it, and who watches it."""
    shutil.copytree(demo_data, tmp_path, dirs_exist_ok=True)
    server = Server(tmp_path)
    lark = Watched(tmp_path, "demo", "--today", f"{server.now:%Y-%m-%d}", "--port", "0")
    server.port = int(lark.url.rsplit(":", 1)[1])
    yield server, lark
    lark.process.kill()
    lark.process.wait()


def test_a_server_that_dies_is_no_loss_to_a_flight(browser: Browser, dying: tuple[Server, Watched]) -> None:
    server, lark = dying
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    phone, faults = watched(context)
    opened(phone)
    off(phone)
    said = []
    for _ in range(KILLS):
        before = aloft_s(phone)
        lark.kill_server()
        later(phone, 45)
        offered = phone.get_by_role("group", name="Charge reading").get_by_role("button", name=re.compile(r"^\d+%$"))
        charge = int(offered.first.inner_text().rstrip("%"))
        offered.first.click()
        expect(phone.get_by_role("button", name=f"Undo {charge}%")).to_be_visible()
        said.append(charge)
        assert aloft_s(phone) >= before + 45
    expect(phone.get_by_text("Everything is on the server.")).to_be_visible()
    land(phone, 60)
    expect(phone.get_by_text("One flight flown in this session.")).to_be_visible()
    (flight,) = settled(phone, lambda: [f for f in flights(phone) if f["entry"]["charge_to_pct"] is not None])
    told = events(phone, flight["uid"])
    assert [e["value"] for e in told if e["kind"] == "reading"] == said
    assert len({e["uid"] for e in told}) == len(told)
    context.close()
    assert faults == []

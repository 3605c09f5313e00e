"""Taken along: a phone over TLS, the server stopped, the browser closed and opened again, from Site to After."""

from __future__ import annotations

import re
import shutil
import socket
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.browser.conftest import CHROMIUM, FLAGS, PHONE, Server, open_context, watched
from tests.browser.test_field import HOST, listen, trusting
from tests.browser.test_flight import events, flights, land, off
from tests.browser.test_pilot import field, type_in, verdict

AWAY = "Server unavailable"


@pytest.fixture
def field_server(tmp_path: Path, demo_data: Path) -> Iterator[Server]:
    """One whose port on the network stays the same from start to start."""
    with socket.socket() as probe:
        probe.bind((HOST, 0))
        port = probe.getsockname()[1]
    shutil.copytree(demo_data, tmp_path / "data")
    made = Server(tmp_path / "data", more=("--field", "--field-port", str(port), "--field-address", HOST))
    made.start()
    yield made
    made.kill()


def phone_of(browser: Browser, server: Server, profile: Path, address: str, flags: list[str]) -> BrowserContext:
    """A phone's browser, opened with what it kept when it was closed."""
    context = browser.browser_type.launch_persistent_context(
        profile, executable_path=CHROMIUM, args=flags, base_url=address, viewport=PHONE, has_touch=True,
        is_mobile=True, locale="en-GB", timezone_id="Europe/Tallinn", reduced_motion="reduce",
    )  # fmt: skip
    context.set_default_timeout(30_000)
    context.clock.install(time=server.now)
    return context


def take_along(page: Page, session: int = 1) -> None:
    page.goto(f"/sessions/{session}/prepare")
    panel = page.get_by_role("region", name="Take along")
    # It may have come along by itself meanwhile.
    panel.get_by_role("button", name=re.compile("^Take along")).click()
    # Field tables of other sessions may be under way by themselves.
    expect(panel.get_by_role("progressbar")).to_have_count(0, timeout=120_000)
    expect(panel.get_by_text(re.compile("omplete on this device since"))).to_be_visible()
    # The screens are kept too, once the browser has put them by.
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")


def answers(page: Page, name: str) -> dict[str, Any]:
    found: dict[str, Any] = page.request.get(f"/api/sessions/1/answers/{name}").json()["answers"]
    return found


def decisions(page: Page) -> list[dict[str, str]]:
    found: list[dict[str, str]] = page.request.get("/api/sessions/1/decisions").json()["decisions"]
    return found


def decide(page: Page, word: str) -> None:
    page.get_by_role("button", name="Launch, wait or stand down").tap()
    asked = page.get_by_role("dialog", name="Record a decision")
    asked.get_by_role("group", name="Your word").get_by_role("button", name=word).tap()
    asked.get_by_role("button", name="Save decision").tap()


def measure(page: Page, wind: str) -> None:
    """Add a reading of a hand meter [m/s]."""
    page.get_by_role("button", name="Add a wind").tap()
    page.get_by_role("menuitem", name="Hand meter").tap()
    asked = page.get_by_role("dialog", name="Hand meter")
    asked.get_by_role("textbox", name="Wind", exact=True).fill(wind)
    asked.get_by_role("button", name="Take this wind").tap()


def test_a_phone_does_site_to_after_without_the_server_and_everything_is_there_once(
    field_server: Server, browser: Browser, tmp_path: Path
) -> None:
    context = open_context(browser, field_server)
    laptop, _ = watched(context)
    address, code = listen(laptop)
    flags = [*FLAGS, trusting((field_server.folder / "demo/field/authority.crt").read_bytes())]
    open_phone = (browser, field_server, tmp_path / "phone", address, flags)
    phone_context = phone_of(*open_phone)
    phone = phone_context.new_page()
    phone.goto(f"/pair#{code}")
    phone.get_by_role("button", name="Pair").tap()
    expect(phone.get_by_text("This device trusts Lark")).to_be_visible()
    take_along(phone)
    # What it has to ask for again each time it is here shows that it has all of it.
    phone.goto("/sessions/1/plan")
    expect(verdict(phone)).to_contain_text("Within limits")
    phone_context.close()
    field_server.kill()

    phone_context = phone_of(*open_phone)
    phone, faults = watched(phone_context)
    phone.goto("/sessions/1/site")
    expect(phone.get_by_text(AWAY)).to_be_visible()
    expect(verdict(phone)).to_contain_text("Within limits, at ")
    wires = phone.get_by_role("listitem", name="Any wires not on the map?")
    wires.get_by_role("button", name="No").tap()
    expect(wires.get_by_role("button", name="No")).to_have_attribute("aria-pressed", "true")
    for room in (
        "/sessions",
        "/logbook",
        "/gear",
        "/minimums",
        "/places/1",
        "/sessions/1/prepare",
        "/sessions/1/drills",
    ):
        phone.goto(room)
        expect(phone.get_by_text(AWAY)).to_be_visible()
        expect(phone.get_by_text("Can’t reach")).to_have_count(0)
        # What takes the server is not offered.
        expect(phone.get_by_role("button", name=re.compile("^(Duplicate|Delete) "))).to_have_count(0)
    phone.goto("/sessions/1/preflight")
    phone.get_by_role("checkbox", name="Gimbal cover off").tap()
    expect(phone.get_by_role("checkbox", name="Gimbal cover off")).to_be_checked()
    # A wind that is measured there is looked up: a light one, and one that is too strong.
    phone.goto("/sessions/1/site")
    measure(phone, "1.2")
    expect(verdict(phone)).to_contain_text("Within limits, by tables")
    expect(phone.get_by_text("checked by the field tables")).to_be_visible()
    measure(phone, "7")
    expect(verdict(phone)).to_contain_text("Don’t launch, by tables")
    for _ in range(2):
        phone.get_by_role("button", name="Remove wind at 2 m").last.tap()
    # The decision is made on that, and kept.
    phone.goto("/sessions/1/preflight")
    decide(phone, "Wait")
    expect(phone.get_by_text("Saved on this device. It uploads when the server is back.")).to_be_visible()
    # A stronger forecast is kept, and nobody says that it is within limits.
    phone.goto("/sessions/1/plan")
    type_in(phone, "Wind at 10 m", "4")
    expect(verdict(phone)).to_contain_text("Not checked")
    phone.goto("/sessions/1/flight")
    off(phone)
    land(phone, 60)
    phone.goto("/sessions/1/after")
    expect(phone.get_by_text(AWAY)).to_be_visible()
    phone_context.close()
    assert faults == []

    # Closed once more before the server is back: it all goes up, once.
    field_server.start()
    phone_context = phone_of(*open_phone)
    phone, faults = watched(phone_context)
    phone.goto("/sessions/1/plan")
    expect(phone.get_by_text(AWAY)).to_have_count(0)
    expect(field(phone, "Wind at 10 m")).to_have_value("4.0")
    expect(verdict(phone)).not_to_contain_text("Not checked")
    expect(phone.get_by_text("Saved", exact=True).first).to_be_attached()
    for _ in range(60):
        words = answers(laptop, "look_round") and answers(laptop, "walkround")
        if len(flights(laptop)) == 1 and words and decisions(laptop):
            break
        phone.wait_for_timeout(250)
    (flight,) = flights(laptop)
    assert [e["kind"] for e in events(laptop, flight["uid"])].count("landed") == 1
    assert [a["word"] for a in answers(laptop, "look_round").values()] == ["done"]
    assert [a["word"] for a in answers(laptop, "walkround").values()] == ["done"]
    assert [d["word"] for d in decisions(laptop)] == ["wait"]
    assert laptop.request.get("/api/sessions/1").json()["plan"]["weather"]["winds"][0]["speed_ms"] == 4
    phone_context.close()
    context.close()
    assert faults == []


def test_units_stay_while_the_server_is_away(phone: Page, server: Server) -> None:
    take_along(phone)
    server.kill()
    phone.goto("/sessions/1/site")
    expect(phone.get_by_role("status", name="Server")).to_contain_text("Server unavailable.")
    phone.keyboard.press("u")
    expect(phone.get_by_text("Units stay as they are until the server is back")).to_be_visible()
    phone.get_by_role("button", name="Menu").tap()
    phone.get_by_role("button", name="Units:").tap()
    expect(phone.get_by_role("button", name="km/h")).to_be_disabled()
    phone.get_by_role("button", name="Done").tap()
    server.start()
    phone.reload()
    expect(phone.get_by_role("status", name="Server")).to_be_hidden()
    phone.keyboard.press("u")
    expect(phone.get_by_text("Units: ")).to_be_visible()

"""All screens, both sizes and themes: what axe finds, and what a look at the layout would."""

from __future__ import annotations

import re
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, WIDE, Server, open_context
from tests.browser.test_pilot import open_session
from tests.conftest import SOAK
from tests.make import ROOT

AXE = ROOT / "frontend/node_modules/axe-core/axe.min.js"
LAYOUT = (Path(__file__).parent / "layout.js").read_text()
SCREENS = [
    "/sessions", "/sessions/1/plan", "/sessions/1/plan?view=limits", "/sessions/1/plan?view=battery",
    "/sessions/1/plan?view=when", "/sessions/1/plan?view=map", "/sessions/7/prepare", "/sessions/1/site",
    "/sessions/9/preflight", "/sessions/1/flight", "/observer/1", "/sessions/1/after", "/sessions/8/decisions/1",
    "/sessions/2/compare", "/sessions/1/drills", "/sessions/1/drills/hand_landing",
    "/shared", "/gear", "/gear/1/upkeep", "/places", "/places/1", "/minimums",
    "/forecasts", "/phone", "/help", "/practice", "/practice/wind-home/3", "/practice/eye", "/practice/calls/1",
    "/practice/home/3", "/practice/home/5?did=540-lower..560-by_hand",
    "/help/checks", "/logbook", "/logbook/demo-flight-035",
]  # fmt: skip
POLLS = re.compile("/(preflight|site|flight|observer/1)$")
"""Screens that ask again and again are never idle."""
SHARES = 2
"""So that as many processes can share the screens."""
THEMED = 3
"""One screen in this many is checked in the other theme, rotating daily; `make soak` checks all."""


def in_the_other_theme(page: Page) -> list[dict[str, Any]]:
    """What axe finds about colours once the theme was changed."""
    was = page.evaluate("getComputedStyle(document.body).backgroundColor")
    page.keyboard.press("t")
    page.wait_for_function(
        "(was) => getComputedStyle(document.body).backgroundColor !== was",
        arg=was,
    )
    page.wait_for_function("() => document.getAnimations().every((a) => a.playState !== 'running')")
    return page.evaluate("axe.run({ runOnly: ['color-contrast', 'link-in-text-block'] }).then((r) => r.violations)")


@pytest.mark.parametrize("share", range(SHARES))
@pytest.mark.parametrize("size", [WIDE, PHONE], ids=["wide", "phone"])
def test_every_screen_is_in_order(browser: Browser, server: Server, size: dict[str, int], share: int) -> None:
    """No text over another, none cut, something to press above the fold, touched where it should be; axe clean.

    Each is opened in one theme, with all that axe knows; every day another third of them is looked at in the other
    theme too, for what colours are about.
    """
    context = open_context(browser, server, viewport=size, bypass_csp=True, service_workers="block")
    page = context.new_page()
    found = []
    other_theme = SCREENS if SOAK else SCREENS[date.today().toordinal() % THEMED :: THEMED]
    for address in SCREENS[share::SHARES]:
        page.goto(address)
        page.wait_for_load_state("networkidle", timeout=90_000) if not POLLS.search(address) else None
        expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
        expect(page.get_by_role("progressbar")).to_have_count(0)
        page.wait_for_function("() => !/Checking…|Loading…/.test(document.body.innerText)")
        # A button that has just become usable is still changing its colours.
        page.wait_for_function("() => document.getAnimations().every((a) => a.playState !== 'running')")
        found += [f"{address}: {wrong}" for wrong in page.evaluate(LAYOUT)]
        page.add_script_tag(path=AXE)
        violations = page.evaluate("axe.run().then((r) => r.violations)")
        if address in other_theme:
            violations += in_the_other_theme(page)
        found += [
            f"{address}: {v['id']} {v['nodes'][0]['target']} {v['nodes'][0]['failureSummary'][:160]}"
            for v in violations
            if v["impact"] in ("serious", "critical")
        ]
    context.close()
    assert found == []


@pytest.mark.quick
def test_a_phone_shows_three_items_of_a_step_without_scrolling(phone: Page) -> None:
    phone.goto("/sessions/1/preflight")
    boxes = phone.get_by_role("checkbox")
    expect(boxes.first).to_be_visible()
    fold = phone.get_by_role("navigation", name="Stages").bounding_box()
    assert fold
    seen = [b for b in (box.bounding_box() for box in boxes.all()) if b and b["y"] + b["height"] <= fold["y"]]
    assert len(seen) >= 3
    # The next step begins at its top, wherever the last one ended.
    step = phone.get_by_role("button", name="Next step")
    step.scroll_into_view_if_needed()
    step.tap()
    expect(phone.get_by_role("heading", name="2. ")).to_be_in_viewport()
    assert phone.evaluate("scrollY") == 0


def test_every_room_is_reached_from_inside_a_session_on_a_phone(phone: Page) -> None:
    for room in ("Sessions", "Gear", "Places", "Logbook", "Minimums", "Help"):
        phone.goto("/sessions/1/plan")
        phone.get_by_role("button", name="Menu").tap()
        phone.get_by_role("navigation", name="Lark").get_by_role("link", name=room).tap()
        expect(phone).to_have_url(re.compile(f"/{room.lower()}"))
        phone.go_back()
        expect(phone).to_have_url(re.compile("/sessions/1/plan"))


def test_back_closes_a_dialog_and_not_the_page(page: Page) -> None:
    open_session(page, "Bog at first light")
    here = page.url
    page.get_by_role("button", name="Record a decision").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    page.go_back()
    expect(page.get_by_role("dialog")).to_have_count(0)
    assert page.url == here
    # Closed otherwise, it leaves no trace: Back is the page before.
    page.get_by_role("button", name="Emergency").click()
    page.get_by_role("button", name="Close").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.go_back()
    expect(page.get_by_role("heading", name="Sessions")).to_be_visible()


def test_a_key_asks_before_it_leaves_a_running_flight(page: Page) -> None:
    page.goto("/sessions/1/flight")
    page.get_by_role("button", name="Start flight clock").click()
    expect(page.get_by_role("timer", name="Flight time")).to_be_visible()
    page.keyboard.press("n")
    asked = page.get_by_role("dialog", name="Leave this page?")
    expect(asked).to_contain_text("A flight is running")
    asked.get_by_role("button", name="Stay").click()
    expect(page.get_by_role("timer", name="Flight time")).to_be_visible()
    page.keyboard.press("n")
    asked.get_by_role("button", name="Leave").click()
    expect(page.get_by_role("dialog", name="New session")).to_be_visible()
    expect(page.get_by_label("In the air", exact=True)).to_be_visible()


def test_the_guide_is_searched_as_one_types(page: Page) -> None:
    page.goto("/help")
    expect(page.get_by_role("heading", name="Start here")).to_be_visible()
    page.get_by_label("Search the guide").fill("pocket card")
    found = page.get_by_role("list", name="Found in the guide")
    found.get_by_role("link", name="Preflight: Pocket card").click()
    expect(page.get_by_role("heading", name="Pocket card")).to_be_in_viewport()
    picture = page.get_by_role("img", name="Pocket card")
    expect(picture).to_be_visible()
    page.wait_for_function("() => [...document.images].some((i) => i.alt === 'Pocket card' && i.naturalWidth > 100)")
    page.get_by_label("Search the guide").fill("xyzzy")
    expect(page.get_by_role("heading", name="Nothing found")).to_be_visible()


def test_old_addresses_lead_to_the_stages_of_today(page: Page) -> None:
    for old, new in (("pack", "prepare"), ("walkround", "preflight"), ("airborne", "flight")):
        page.goto(f"/sessions/1/{old}")
        expect(page).to_have_url(re.compile(f"/sessions/1/{new}$"))
    page.goto("/kit")
    expect(page.get_by_role("heading", name="Gear")).to_be_visible()

"""The room to practise in, to its end: by keyboard on a laptop, by touch on a phone."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server


def test_a_case_by_keyboard_to_its_marks_and_on(page: Page) -> None:
    page.goto("/practice")
    first = page.get_by_role("link", name=re.compile("^Practise: "))
    expect(first).to_have_count(3)
    first.first.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="would you launch?")).to_be_visible()
    mark = page.get_by_role("button", name="Mark it")
    expect(mark).to_be_disabled()
    expect(page.get_by_text("Still open: what you do, what is tightest, how sure you are.")).to_be_visible()
    page.get_by_role("button", name="Stand down", exact=True).press("Enter")
    page.get_by_role("radio").first.press("Space")
    page.get_by_role("button", name="70%").press("Enter")
    mark.press("Enter")
    expect(page.get_by_role("heading", name="What decided")).to_be_visible()
    expect(page.get_by_role("status", name="Verdict")).to_be_visible()
    expect(page.get_by_role("list", name="Marks").get_by_role("listitem").first).to_contain_text("You said: stand down")
    room = page.request.get("/api/practice").json()
    assert [f["answers"] for f in room["families"]].count(1) == 1
    page.get_by_role("link", name="That’s enough").press("Enter")
    expect(page.get_by_role("img", name="What the latest answers cost")).to_have_count(1)
    with page.expect_download() as download:
        page.get_by_role("link", name="All answers as CSV").click()
    assert len(Path(download.value.path()).read_text().splitlines()) == 2


def test_a_case_by_touch_with_the_numbers_by_feel(phone: Page) -> None:
    phone.goto("/practice/return-height/2")
    phone.get_by_role("button", name="Launch", exact=True).tap()
    phone.get_by_role("radio", name="Return height (min)").check()
    phone.get_by_role("button", name="Set").first.tap()
    box = phone.get_by_role("textbox", name="Turn back from the far point at")
    box.fill("21")
    box.press("Enter")
    phone.get_by_role("button", name="100%").tap()
    phone.get_by_role("button", name="Mark it").tap()
    marks = phone.get_by_role("list", name="Marks")
    expect(phone.get_by_role("status", name="Verdict")).to_be_in_viewport()
    expect(marks).to_contain_text("your number was off")
    expect(marks.get_by_role("listitem", name="").filter(has_text="Tightest")).to_contain_text("as you said")
    # Reloaded, the same case is there again to be answered; what was answered is kept.
    phone.reload()
    expect(phone.get_by_role("button", name="Mark it")).to_be_disabled()
    phone.get_by_role("link", name="Practice", exact=True).first.tap()
    expect(phone.get_by_text(re.compile("1 case, due"))).to_be_visible()


def test_what_is_no_case_leads_back(page: Page) -> None:
    page.goto("/practice/none/1")
    expect(page.get_by_role("alert")).to_contain_text("There is no family none")
    page.get_by_role("link", name="Practice").first.click()
    expect(page.get_by_role("heading", name="Practice", exact=True)).to_be_visible()


@pytest.mark.soak
def test_cases_made_ahead_are_answered_and_marked_without_the_server(phone: Page, server: Server) -> None:
    phone.goto("/practice")
    phone.get_by_role("button", name="Make cases ahead").tap()
    expect(phone.get_by_text("240 cases here")).to_be_visible(timeout=180_000)
    server.kill()
    # Through the menu and back: no page of it asks the server for what is here.
    phone.get_by_role("link", name="Sessions").first.tap()
    phone.go_back()
    for answered in range(2):
        phone.get_by_role("link", name=re.compile("^(Practise|Next): ")).first.tap()
        expect(phone.get_by_role("button", name="Mark it")).to_be_disabled()
        phone.get_by_role("button", name="Stand down", exact=True).tap()
        phone.get_by_role("radio").first.check()
        phone.get_by_role("button", name="90%").tap()
        phone.get_by_role("button", name="Mark it").tap()
        expect(phone.get_by_text("marked on this device")).to_be_visible()
        expect(phone.get_by_role("status", name="Verdict")).to_be_visible()
        expect(phone.get_by_role("heading", name="What decided")).to_be_visible()
        if answered:
            phone.get_by_role("link", name="That’s enough").tap()
    expect(phone.get_by_text("2 answers wait on this device")).to_be_visible()
    phone.get_by_role("link", name="Rehearse the alerts").tap()
    expect(phone.get_by_role("button", name="Take off")).to_be_visible()
    phone.get_by_role("link", name="Practice", exact=True).first.tap()
    server.start()
    expect(phone.get_by_text("answers wait on this device")).to_have_count(0, timeout=30_000)
    room = phone.request.get("/api/practice").json()
    assert sum(f["answers"] for f in room["families"]) == 2

"""Alerts, rehearsed to their marks: by touch answered, by keyboard not."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def test_alerts_are_answered_by_touch_and_marked(phone: Page) -> None:
    phone.goto("/practice")
    phone.get_by_role("link", name="Rehearse the alerts").tap()
    phone.goto("/practice/calls/2")
    phone.get_by_role("button", name="Take off").tap()
    alert = phone.get_by_role("alert")
    expect(alert).to_contain_text("Filming")
    turn = phone.get_by_role("button", name="Turn back")
    home = phone.get_by_role("list", name="Alerts")
    for _ in range(400):
        phone.clock.run_for(1000)
        words = alert.inner_text() if alert.count() else ""
        if "Read the charge" in words:
            phone.get_by_role("button", name="Read the charge").tap()
        elif turn.is_visible() and turn.is_enabled() and re.search("Turn back now|draining fast", words):
            turn.tap()
        elif "Land now" in words:
            phone.get_by_role("button", name="Land here").tap()
        if home.is_visible():
            break
    expect(home.get_by_role("listitem").first).to_contain_text("at once")
    expect(home).not_to_contain_text("not answered")
    phone.get_by_role("link", name="Another flight").tap()
    expect(phone.get_by_role("button", name="Take off")).to_be_visible()


def test_nobody_who_does_nothing_comes_home(page: Page) -> None:
    page.goto("/practice/calls/1")
    page.get_by_role("button", name="Take off").press("Enter")
    page.clock.run_for(5 * 60_000)
    expect(page.get_by_role("heading", name="It came down by itself")).to_be_visible()
    expect(page.get_by_role("list", name="Alerts")).to_contain_text("not answered")
    page.get_by_role("link", name="That’s enough").press("Enter")
    expect(page.get_by_role("heading", name="Practice", exact=True)).to_be_visible()

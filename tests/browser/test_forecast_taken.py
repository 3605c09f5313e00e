"""A forecast that is taken, what it changed, and what nobody has confirmed."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import begin_over_open_field
from tests.browser.test_pilot import field, look_at, open_session, saved, type_in, verdict
from tests.browser.test_prepare import ask, plan_with


def test_what_a_new_forecast_changed_is_shown_and_put_back(page: Page) -> None:
    open_session(page, "Bog at first light")
    expect(verdict(page)).to_contain_text("Within limits")
    before = verdict(page).inner_text().splitlines()[0]
    was = field(page, "Wind at 10 m").input_value()
    look_at(page, "When")
    ask(page, "storm")
    expect(page.get_by_role("region", name="Forecasts for the take-off")).to_contain_text("Don’t launch")
    # What was typed still flies: that no forecast does is said beside the verdict.
    against = page.get_by_role("alert").filter(has_text="fresh forecasts for")
    expect(verdict(page)).to_contain_text("Within limits")
    expect(against).to_contain_text(re.compile(r"^All \d fresh forecasts for \d\d:\d\d say Don’t launch: "))
    plan_with(page, "Simulated coarse forecast")
    expect(against).to_have_count(0)
    told = page.get_by_role("status", name="What the forecast changed")
    expect(told.get_by_role("row").filter(has_text="Wind")).to_contain_text(f"{was} m/s from 240°")
    change = told.get_by_role("row").filter(has_text="Verdict")
    expect(change).to_contain_text(re.compile(f"^Verdict\\s*{before}\\s*→\\s*Don’t launch"))
    expect(verdict(page)).to_contain_text("Don’t launch")
    told.get_by_role("button", name="Undo").click()
    expect(field(page, "Wind at 10 m")).to_have_value(was)
    expect(verdict(page)).to_contain_text(before)
    expect(against).to_be_visible()
    saved(page)


def test_one_switch_shows_what_nobody_has_confirmed(page: Page) -> None:
    page.goto("/sessions?new")
    begin_over_open_field(page, "Unsaid")
    expect(verdict(page)).to_contain_text("Not enough data")
    switch = page.get_by_role("switch", name=re.compile("^Show what nobody has confirmed: "))
    switch.check()
    rows = page.get_by_role("list", name="Nobody has confirmed").get_by_role("listitem")
    expect(rows.filter(has_text="Kp index")).to_contain_text("2, assumed")
    count = rows.count()
    rows.filter(has_text="Kp index").get_by_role("button", name="Confirm Kp index").click()
    expect(rows).to_have_count(count - 1)
    switch.uncheck()
    expect(field(page, "Kp index")).to_have_value("2.0")
    type_in(page, "Kp index", "3.3")
    expect(field(page, "Kp index")).to_have_value("3.3")
    saved(page)

"""One plan on true values: every page and window shows the same, and nothing passes by what nobody has said."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import BrowserContext, Locator, Page, expect

from tests.browser.conftest import Server, begin_over_open_field, rest_of
from tests.browser.test_pilot import field, look_at, open_session, saved, type_in, verdict

BOG = "Bog at first light"


def stage(page: Page, name: str) -> None:
    page.get_by_role("link", name=re.compile(rf"^\d\s*{name}$")).click()


def clash(page: Page) -> Locator:
    return page.get_by_role("dialog", name="Changed in two places")


def other_window(page: Page) -> Page:
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.get_by_label("Title")).to_have_value(BOG)
    return other


@pytest.mark.quick
def test_every_stage_shows_the_plan_as_it_was_just_changed(page: Page) -> None:
    open_session(page, BOG)
    expect(verdict(page)).to_contain_text("Within limits")
    type_in(page, "Wind at 10 m", "9")
    expect(verdict(page)).to_contain_text("Don’t launch")
    for name in ("Flight", "After", "Prepare", "Site"):
        stage(page, name)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        expect(verdict(page)).to_contain_text("Don’t launch")
    stage(page, "Plan")
    # The site has a field of that name too: what is typed in it while it is left is gone.
    expect(page.get_by_role("heading", name="Limits")).to_be_visible()
    expect(field(page, "Wind at 10 m")).to_have_value("9.0")
    type_in(page, "Wind at 10 m", "8")
    saved(page)
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_text("8.0 m/s of wind").or_(page.get_by_text("Don’t launch")).first).to_be_visible()
    page.go_back()
    expect(field(page, "Wind at 10 m")).to_have_value("8.0")
    page.get_by_role("link", name="Sessions").first.click()
    expect(page.get_by_role("listitem").filter(has_text=BOG)).to_contain_text("Don’t launch")


def test_windows_that_change_different_fields_are_put_together(page: Page) -> None:
    open_session(page, BOG)
    other = other_window(page)
    type_in(other, "Distance", "111")
    saved(other)
    type_in(page, "Filming", "4")
    saved(page)
    expect(field(page, "Distance")).to_have_value("111")
    expect(field(other, "Filming")).to_have_value("4")
    # Taking back one's own change leaves the other's.
    page.get_by_role("button", name="Undo").click()
    saved(page)
    expect(field(page, "Distance")).to_have_value("111")


def test_a_field_that_both_changed_is_asked_with_both_values(page: Page, context_elsewhere: BrowserContext) -> None:
    """This device is out of reach while another one saves."""
    open_session(page, BOG)
    page.context.set_offline(True)
    type_in(page, "Distance", "99")
    expect(page.get_by_text("Not saved")).to_be_visible()
    other = context_elsewhere.new_page()
    other.goto(page.url)
    type_in(other, "Distance", "111")
    type_in(other, "Filming", "4")
    saved(other)
    page.context.set_offline(False)
    asked = clash(page).get_by_role("group", name="Distance")
    expect(asked.get_by_role("button", name=re.compile("99 m"))).to_be_visible()
    asked.get_by_role("button", name=re.compile("111 m")).click()
    expect(clash(page)).to_be_hidden()
    expect(field(page, "Distance")).to_have_value("111")
    expect(field(page, "Filming")).to_have_value("4")
    saved(page)
    # The next change is taken without a question.
    type_in(page, "Distance", "105")
    saved(page)
    other.reload()
    expect(field(other, "Distance")).to_have_value("105")


def test_an_edit_without_the_server_goes_along_through_the_stages(page: Page, server: Server) -> None:
    rest = rest_of(page)
    open_session(page, BOG)
    rest()
    server.kill()
    type_in(page, "Distance", "99")
    expect(page.get_by_text("Not saved")).to_be_visible()
    stage(page, "Flight")
    stage(page, "Plan")
    expect(field(page, "Distance")).to_have_value("99")
    # No verdict is shown that nobody has reached; it comes by itself once the server is back.
    expect(verdict(page)).to_contain_text("Not checked")
    server.start()
    saved(page)
    expect(verdict(page)).to_contain_text("Within limits")
    page.reload()
    expect(field(page, "Distance")).to_have_value("99")


@pytest.mark.quick
def test_nothing_passes_by_what_nobody_has_said(page: Page) -> None:
    page.goto("/sessions")
    expect(page.get_by_role("heading", name="Upcoming")).to_be_visible()
    page.keyboard.press("n")
    begin_over_open_field(page, "Evening meadow")
    expect(verdict(page)).to_contain_text("Not enough data")
    questions = page.get_by_role("list", name="Questions")
    wind = questions.get_by_role("listitem").filter(has_text="What is the wind")
    expect(wind).to_be_visible()
    group = page.get_by_role("group", name="Wind at 10 m")
    expect(group.get_by_text("assumed", exact=True)).to_be_visible()
    # One touch for what is as shown, a number for what is not.
    wind.get_by_role("button", name="Confirm").click()
    expect(wind).to_be_hidden()
    expect(group.get_by_text("typed", exact=True)).to_be_visible()
    charge = questions.get_by_role("listitem").filter(has_text="What does the battery read")
    expect(charge).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(wind).to_be_visible()


def test_an_unknown_number_is_not_filled_in_by_asking_for_it(page: Page) -> None:
    open_session(page, BOG)
    button = page.get_by_role("button", name="Satellites: set")
    button.click()
    expect(field(page, "Satellites")).to_have_value("")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    field(page, "Satellites").press("Enter")
    expect(button).to_be_visible()
    button.click()
    type_in(page, "Satellites", "14")
    expect(field(page, "Satellites")).to_have_value("14")
    saved(page)


def test_the_weather_follows_the_take_off_and_leaves_what_was_typed(page: Page) -> None:
    open_session(page, BOG)
    look_at(page, "When")
    curtain = page.get_by_role("slider", name="Half hour looked at")
    expect(curtain).to_be_visible()
    page.get_by_role("button", name="Get the forecasts").click()
    page.get_by_role("button", name="Plan with it: Simulated forecast service").click()
    group = page.get_by_role("group", name="Wind at 10 m")
    expect(group.get_by_text("forecast", exact=True)).to_be_visible()
    saved(page)
    type_in(page, "Air temperature", "4")
    expect(page.get_by_text("By hand, whatever the forecast says: air.")).to_be_visible()
    before = field(page, "Wind at 10 m").input_value()
    lift_off = page.get_by_label(re.compile(r"^Take-off \(UTC"))
    day = lift_off.input_value()[:11]
    with page.expect_response("**/api/weather/fill"):
        lift_off.fill(f"{day}16:00")
    expect(field(page, "Wind at 10 m")).not_to_have_value(before)
    expect(field(page, "Air temperature")).to_have_value("4")
    page.get_by_role("button", name="Back to the forecast").click()
    expect(field(page, "Air temperature")).not_to_have_value("4")
    expect(page.get_by_text("By hand, whatever")).to_be_hidden()
    saved(page)

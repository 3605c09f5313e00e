"""Forecast services added by their address, several forecasts side by side, and the watch over sessions ahead."""

from __future__ import annotations

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Server, open_context
from tests.browser.test_pilot import look_at, open_session, saved, verdict
from tests.browser.test_prepare import ask, plan_with, tell
from zealous_lark.simulators.services import Manner, Running

BOG = "Bog at first light"


@pytest.fixture
def service() -> Iterator[Running]:
    """A service that stands for a real one, at an address of its own."""
    running = Running(Manner())
    yield running
    running.close()


@pytest.mark.quick
def test_a_service_is_added_by_its_address_tried_ordered_and_removed(
    browser: Browser, empty_server: Server, service: Running
) -> None:
    context = open_context(browser, empty_server, viewport=PHONE, has_touch=True, is_mobile=True)
    page = context.new_page()
    page.goto("/forecasts")
    expect(page.get_by_text("None yet.")).to_be_visible()
    for model, name in (("Fine model, 2 km", "Fine"), ("Coarse model, 10 km", "Coarse")):
        page.get_by_role("button", name="Add a forecast service").click()
        dialog = page.get_by_role("dialog", name="Add a forecast service")
        address = dialog.get_by_label("Address")
        address.fill("http://127.0.0.1:9")
        dialog.get_by_role("button", name="Try it").click()
        expect(dialog.get_by_role("alert")).to_contain_text("could not be reached")
        dialog.get_by_label("On my own network").check()
        address.fill(f"{service.url}/collections/fine?f=json")
        dialog.get_by_label("Key, where it needs one").fill("s3cret")
        dialog.get_by_role("button", name="Try it").click()
        dialog.get_by_role("combobox", name="Model").click()
        page.get_by_role("option", name=model).click()
        expect(dialog.get_by_text("wind speed of gust")).to_be_visible()
        dialog.get_by_label("What you call it").fill(name)
        dialog.get_by_role("button", name="Add it").click()
        expect(dialog).to_have_count(0)
    services = page.get_by_role("list", name="Services").get_by_role("listitem")
    expect(services.first).to_contain_text(f"{service.url}, fine, with a key")
    page.get_by_role("button", name="Move Coarse up").click()
    expect(services.first).to_contain_text("Coarse")
    page.reload()
    expect(services.first).to_contain_text("Coarse")
    page.get_by_role("button", name="Change Coarse").click()
    dialog = page.get_by_role("dialog", name="Change Coarse")
    expect(dialog.get_by_label("Key, where it needs one")).to_have_value("")
    dialog.get_by_label("What you call it").fill("Coarser")
    dialog.get_by_role("button", name="Save").click()
    expect(services.first).to_contain_text("Coarser")
    expect(services.first).to_contain_text("with a key")
    page.get_by_role("button", name="Remove Coarser").click()
    expect(services).to_have_count(1)
    assert "s3cret" not in page.content()
    context.close()


def test_forecasts_stand_side_by_side_and_one_of_them_plans(page: Page) -> None:
    open_session(page, BOG)
    look_at(page, "When")
    ask(page)
    rows = page.get_by_role("region", name="Forecasts for the take-off").get_by_role("listitem")
    expect(rows).to_have_count(2)
    expect(rows.filter(has_text="the strictest")).to_have_count(1)
    expect(page.get_by_text("2 fresh forecasts:")).to_be_visible()
    plan_with(page, "Simulated coarse forecast")
    expect(rows.filter(has_text="Planned with")).to_contain_text("Simulated coarse forecast")
    saved(page)
    page.reload()
    expect(rows.filter(has_text="Planned with")).to_contain_text("Simulated coarse forecast")


STUB = """
window.told = [];
window.Notification = class {
  static permission = "default";
  static async requestPermission() { return (this.permission = "granted"); }
  constructor(title, { body }) { window.told.push([title, body]); }
};
delete Navigator.prototype.serviceWorker;
"""
"""Notifications as a browser has them, written down instead of shown."""


def test_a_change_of_a_session_ahead_is_kept_counted_and_told_once(page: Page) -> None:
    page.add_init_script(STUB)
    page.goto("/forecasts")
    page.get_by_role("button", name="Tell me on this device").click()
    expect(page.get_by_text("This device tells you of changes")).to_be_visible()

    def look() -> None:
        with page.expect_response("**/api/watch"):
            page.get_by_role("button", name="Look now").click()
        expect(page.get_by_role("button", name="Look now")).to_be_enabled()

    look()
    expect(page.get_by_text("No change that you haven’t seen.")).to_be_visible()
    tell(page, day="storm")
    look()
    change = page.get_by_role("listitem").filter(has_text=BOG)
    expect(change).to_contain_text("Now don’t launch")
    expect(change).to_contain_text("no launch window that day")
    page.wait_for_function("name => window.told.filter(([title]) => title === name).length === 1", arg=BOG)
    # Told once, also after a reload.
    page.reload()
    expect(change).to_be_visible()
    assert page.evaluate("window.told") == []
    page.get_by_role("link", name="Sessions").first.click()
    row = page.get_by_role("listitem").filter(has_text=BOG)
    expect(row).to_contain_text("1 change to see")
    # The plan is as it was left, and says so beside what was found.
    expect(row).to_contain_text("Within limits")
    row.get_by_role("link").first.click()
    history = page.get_by_role("region", name="As the forecasts were renewed")
    expect(history.get_by_role("listitem")).to_have_count(2)
    expect(history.get_by_role("listitem").first).to_contain_text("now don’t launch")
    expect(history.get_by_role("listitem").first).to_contain_text("no launch window any more")
    expect(verdict(page)).to_contain_text("Within limits")
    page.get_by_role("link", name="Sessions").first.click()
    expect(row).to_be_visible()
    expect(row).not_to_contain_text("change to see")


def test_the_calendar_says_what_was_found_last(page: Page) -> None:
    page.goto("/forecasts")
    look_now(page)
    before = page.request.get("/api/sessions/1/calendar.ics").text()
    tell(page, day="storm")
    look_now(page)
    after = page.request.get("/api/sessions/1/calendar.ics").text()
    unfolded = after.replace("\r\n ", "")
    assert "Don't launch" in unfolded
    assert sequence(after) > sequence(before)


def look_now(page: Page) -> None:
    """Ask now, and wait for that: the page asks for its news at the same address."""
    with page.expect_response(lambda r: r.url.endswith("/api/watch") and r.request.method == "POST"):
        page.get_by_role("button", name="Look now").click()


def sequence(calendar: str) -> int:
    return max(int(line.split(":")[1]) for line in calendar.splitlines() if line.startswith("SEQUENCE"))


def test_forecasts_are_held_against_the_winds_met(page: Page) -> None:
    page.goto("/logbook")
    rows = page.get_by_role("table", name="Forecasts over the logbook").get_by_role("row")
    expect(rows).to_have_count(7)
    coarse = rows.filter(has_text="Simulated coarse forecast").filter(has_text="24 h")
    expect(coarse).to_contain_text(re.compile(r"Sarvik bog.*\d\.\d m/s too little"))
    page.goto("/logbook/demo-flight-034")
    before = page.get_by_role("table", name="Forecasts before the flight").get_by_role("row")
    expect(before).to_have_count(7)


def test_a_table_of_other_names_is_imported_by_the_pilots_word(page: Page, tmp_path: Path) -> None:
    open_session(page, BOG)
    look_at(page, "When")
    at = page.request.get("/api/sessions/1").json()["plan"]["takeoff_at"]
    begin = datetime.fromisoformat(at).astimezone(UTC).replace(minute=0) - timedelta(hours=2)
    hours = [f"{begin + timedelta(hours=n):%Y-%m-%d %H:%M};30;240;12" for n in range(8)]
    table = tmp_path / "airfield.csv"
    table.write_text("Date;Wind (kn);Wind from;Level\n" + "\n".join(hours))
    page.get_by_role("button", name="Paste or open a report").click()
    dialog = page.get_by_role("dialog")
    dialog.locator("input[type=file]").set_input_files(table)
    columns = dialog.get_by_role("region", name="Which column is which")
    expect(columns.get_by_role("combobox", name="Wind (kn)")).to_have_text("Wind, knots")
    expect(columns.get_by_role("combobox", name="Level")).to_have_text("Not used")
    wanted = columns.get_by_role("combobox", name="Wind from")
    wanted.click()
    page.get_by_role("option", name="Not used").click()
    expect(columns.get_by_role("status")).to_have_text("Choose the column of the direction.")
    expect(dialog.get_by_role("button", name="Import")).to_be_disabled()
    wanted.click()
    page.get_by_role("option", name="Wind from, °").click()
    dialog.get_by_role("button", name="Import").click()
    expect(dialog).to_have_count(0)
    # Thirty knots close every window that it covers.
    expect(page.get_by_label("Forecast shown")).to_contain_text("Table airfield.csv")
    expect(page.get_by_text(re.compile("No window|don’t launch", re.IGNORECASE)).first).to_be_visible()

"""From an empty Lark to a first verdict; things of the kit by what they are, whatever they are called."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import Server, open_context, watched
from tests.browser.test_flight import land, opened
from tests.browser.test_pilot import field, open_session, saved, type_in, verdict

MOST_INPUTS = 25


class Pilot:
    """Counts what is typed or chosen."""

    def __init__(self, page: Page) -> None:
        self.page, self.inputs = page, 0

    def types(self, label: str, value: str) -> None:
        entry = self.page.get_by_label(label, exact=True)
        entry.fill(value)
        entry.press("Enter")
        self.inputs += 1

    def chooses(self, label: str, option: str) -> None:
        self.page.get_by_label(label, exact=True).click()
        self.page.get_by_role("option", name=option).click()
        self.inputs += 2


@pytest.mark.quick
def test_an_empty_lark_leads_to_a_verdict_that_rests_on_nothing_assumed(browser: Browser, empty_server: Server) -> None:
    context = open_context(browser, empty_server)
    page, faults = watched(context)
    pilot = Pilot(page)
    page.goto("/")
    expect(page.get_by_role("heading", name="From your aircraft to a first verdict")).to_be_visible()
    # Nothing said: it says what is missing, and makes nothing.
    page.get_by_role("button", name="Show the verdict").click()
    expect(page.get_by_role("alert")).to_contain_text("which aircraft is most like yours")
    page.get_by_role("button", name="Light, under 250 g").click()
    pilot.inputs += 1
    pilot.types("What you call it", "Wren")
    pilot.types("Hover time", "28")
    pilot.types("How many of these", "3")
    pilot.types("What they read now", "100")
    # It can be left and gone on with.
    page.reload()
    expect(page.get_by_label("What you call it")).to_have_value("Wren")
    pilot.types("Name of the place", "Common")
    pilot.types("Position", "58°37'12\"N 25°04'48\"E")
    expect(page.get_by_text("by the clock in Europe/Tallinn")).to_be_visible()
    lift_off = page.get_by_label(re.compile(r"^Take-off \(UTC"))
    lift_off.fill(lift_off.input_value()[:11] + "12:00")
    pilot.inputs += 1
    for label, value in (("Wind at 10 m", "3"), ("Gusts", "5"), ("Blows from", "240"), ("Air", "16"),
                         ("Dew point", "4"), ("How far one sees", "10000"), ("Kp index", "2")):  # fmt: skip
        pilot.types(label, value)
    pilot.chooses("Rain, snow or fog", "None")
    page.get_by_role("button", name="Show the verdict").click()
    pilot.inputs += 1
    expect(page.get_by_label("Title")).to_have_value("First flight at Common")
    expect(verdict(page)).to_contain_text(re.compile("^Within limits"))
    expect(verdict(page)).not_to_contain_text("nobody has confirmed")
    assert pilot.inputs <= MOST_INPUTS
    kit = page.request.get("/api/kit").json()["items"]
    assert [i["name"] for i in kit] == ["Wren", "A", "B", "C"]
    plan = page.request.get("/api/sessions/1").json()["plan"]
    assert (plan["aircraft"]["kit"], plan["pack"]["kit"]) == (kit[0]["id"], kit[1]["id"])
    assert plan["takeoff_at"][10:16] == "T12:00"
    context.close()
    assert faults == []


def test_the_path_can_be_gone_round_and_found_again(browser: Browser, empty_server: Server) -> None:
    context = open_context(browser, empty_server)
    page, faults = watched(context)
    page.goto("/")
    page.get_by_role("button", name="Later: look around first").click()
    expect(page.get_by_text("No sessions yet")).to_be_visible()
    page.reload()
    page.get_by_role("link", name="From your aircraft to a first verdict").click()
    expect(page.get_by_role("button", name="Show the verdict")).to_be_visible()
    context.close()
    assert faults == []


def test_what_was_half_made_when_the_server_went_is_made_once(browser: Browser, empty_server: Server) -> None:
    """The answer to the aircraft is lost; the second try neither makes a second one nor is refused."""
    # While a worker of the browser begins its work, a page's requests pass by who listens here.
    context = open_context(browser, empty_server, service_workers="block")
    page, _ = watched(context)
    page.goto("/start")
    page.get_by_role("button", name="Light, under 250 g").click()
    for label, value in (("What you call it", "Wren"), ("Name of the place", "Common"), ("Position", "58.62 25.08")):
        page.get_by_label(label, exact=True).fill(value)
    lost = 0

    def lose(route: object) -> None:
        nonlocal lost
        route.fetch()  # type: ignore[attr-defined]
        lost += 1
        route.abort()  # type: ignore[attr-defined]

    page.route("**/api/kit", lose)
    page.get_by_role("button", name="Show the verdict").click()
    expect(page.get_by_role("alert").first).to_be_visible()
    page.unroute("**/api/kit")
    assert lost >= 1
    page.get_by_role("button", name="Show the verdict").click()
    expect(page.get_by_label("Title")).to_have_value("First flight at Common")
    assert [i["name"] for i in page.request.get("/api/kit").json()["items"]] == ["Wren", "A"]
    context.close()


def test_what_is_corrected_after_a_failed_try_counts(browser: Browser, empty_server: Server) -> None:
    """The aircraft is made, the session is not; the sheet is read again meanwhile, and a battery has the name A."""
    context = open_context(browser, empty_server)
    page, _ = watched(context)
    page.goto("/start")
    other = {"kind": "pack", "label": "A", "chemistry": "lipo", "cells": 3, "capacity_mah": 900, "charge_pct": 50,
             "charged_at": "2026-01-01T12:00:00Z"}  # fmt: skip
    assert page.request.post("/api/kit", data={"item": other}).status == 201
    page.reload()
    page.get_by_role("button", name="Light, under 250 g").click()
    expect(page.get_by_text("They are called B: write that on them too.")).to_be_visible()
    pilot = Pilot(page)
    for label, value in (("What you call it", "Wren"), ("Hover time", "28"), ("What they read now", "90"),
                         ("Name of the place", "Common"), ("Position", "58.62 25.08")):  # fmt: skip
        pilot.types(label, value)
    page.route("**/api/sessions", lambda route: route.abort())
    page.get_by_role("button", name="Show the verdict").click()
    expect(page.get_by_role("alert").first).to_be_visible()
    page.unroute("**/api/sessions")
    pilot.types("Hover time", "21")
    pilot.types("What they read now", "60")
    page.get_by_role("button", name="Show the verdict").click()
    expect(page.get_by_label("Title")).to_have_value("First flight at Common")
    kit = {i["name"]: i["item"] for i in page.request.get("/api/kit").json()["items"]}
    assert sorted(kit) == ["A", "B", "Wren"]
    plan = page.request.get("/api/sessions/1").json()["plan"]
    assert (kit["Wren"]["aircraft"]["hover_time_min"], plan["aircraft"]["hover_time_min"]) == (21, 21)
    assert (kit["B"]["charge_pct"], kit["B"]["state"], plan["pack"]["charge_pct"]) == (60, "partly", 60)
    context.close()


def rename(page: Page, old: str, new: str) -> None:
    page.goto("/gear")
    page.get_by_role("button", name=f"Change {old}", exact=True).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Label").fill(new)
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_have_count(0)


def test_a_battery_is_renamed_deleted_and_brought_back(page: Page) -> None:
    rename(page, "1", "Sunday")
    open_session(page, "Bog at first light")
    group = page.get_by_role("button", name=re.compile("^Aircraft and battery"))
    group.click()
    expect(page.get_by_role("combobox", name="Battery from your gear")).to_contain_text("Sunday")
    page.goto("/gear")
    page.get_by_role("button", name="Take Sunday out").click()
    asked = page.get_by_role("dialog", name="Delete Sunday?")
    expect(asked.get_by_role("link", name="Bog at first light")).to_be_visible()
    expect(asked).to_contain_text("They keep its numbers")
    asked.get_by_role("button", name="Delete").click()
    expect(page.get_by_text("Sunday deleted.")).to_be_visible()
    # Another takes its name meanwhile: it is not brought back beside it.
    rename(page, "2", "Sunday")
    kit = page.request.get("/api/kit").json()["items"]
    assert [i["name"] for i in kit].count("Sunday") == 1
    first = next(i for i in range(1, 40) if i not in {k["id"] for k in kit})
    assert page.request.post(f"/api/kit/{first}/restore").status == 422
    rename(page, "Sunday", "2")
    assert page.request.post(f"/api/kit/{first}/restore").status == 204
    page.reload()
    expect(page.get_by_role("button", name="Take Sunday out")).to_have_count(1)


def tapped_twice(button: Locator) -> None:
    button.evaluate("b => { b.click(); b.click(); }")


def test_double_taps_make_one(page: Page) -> None:
    page.goto("/sessions?new")
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_label("Title").fill("Only once")
    tapped_twice(dialog.get_by_role("button", name="Create session"))
    page.wait_for_url(re.compile(r"/sessions/\d+/plan"))
    assert page.request.get("/api/sessions?find=only once").json()["total"] == 1
    page.get_by_role("button", name="Record a decision").click()
    page.get_by_role("button", name="Wait", exact=True).click()
    tapped_twice(page.get_by_role("button", name="Save decision"))
    expect(page.get_by_role("dialog")).to_have_count(0)
    number = re.search(r"/sessions/(\d+)/", page.url)
    assert number
    assert len(page.request.get(f"/api/sessions/{number[1]}/decisions").json()["decisions"]) == 1


def test_the_next_flight_asks_which_battery(phone: Page) -> None:
    """The one that has flown is as it came down; another is taken with one touch, and the plan flies with it."""
    session = opened(phone)
    tapped_twice(phone.get_by_role("button", name="Start flight clock"))
    expect(phone.get_by_role("timer", name="Flight time")).to_be_visible()
    land(phone, 48)
    expect(phone.get_by_text("One flight flown in this session.")).to_be_visible()
    asked = phone.get_by_role("group", name="Battery")
    expect(asked.get_by_role("button", name="1: 48%")).to_have_attribute("aria-pressed", "true")
    expect(field(phone, "Charge at take-off")).to_have_value("48")
    asked.get_by_role("button", name=re.compile("^2: ")).click()
    expect(field(phone, "Charge at take-off")).not_to_have_value("48")
    phone.goto(f"/sessions/{session}/plan")
    phone.get_by_role("button", name=re.compile("^Aircraft and battery")).click()
    expect(phone.get_by_role("combobox", name="Battery from your gear")).to_contain_text("2,")


@pytest.mark.parametrize("zone", ["America/New_York", "Asia/Tokyo"])
def test_the_lift_off_is_by_the_clock_at_the_place(browser: Browser, server: Server, zone: str) -> None:
    """Planned from another continent: the place's own morning, whatever the laptop's clock says."""
    context = open_context(browser, server, timezone_id=zone)
    page, faults = watched(context)
    page.goto("/sessions?new")
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_label("Title").fill("From afar")
    when = dialog.get_by_label("Take-off (UTC+03:00)")
    when.fill("2030-10-01T09:30")
    dialog.get_by_role("button", name="Create session").click()
    expect(page.get_by_label("Title")).to_have_value("From afar")
    expect(page.get_by_label("Take-off (UTC+03:00)")).to_have_value("2030-10-01T09:30")
    type_in(page, "Distance", "90")
    saved(page)
    page.goto("/sessions?find=afar")
    expect(page.get_by_text("Tue 1 Oct 2030, 09:30")).to_be_visible()
    context.close()
    assert faults == []

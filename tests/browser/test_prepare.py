"""Before leaving: when to go, what to charge, what to bring."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
import vobject
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import PHONE, Server
from tests.browser.test_pilot import field, look_at, open_session, saved, type_in, verdict


def choose(page: Page | Locator, label: str, option: str | re.Pattern[str]) -> None:
    page.get_by_role("combobox", name=label, exact=True).click()
    owner = page if isinstance(page, Page) else page.page
    owner.get_by_role("option", name=option).click()


def ask(page: Page, day: str | None = None, manner: str | None = None) -> None:
    """Get the forecasts, of a kind of day and in a manner that the stand-in is told first."""
    told = {key: value for key, value in (("day", day), ("behave", manner)) if value}
    if told:
        tell(page, **told)
    # What each says now stands: the answers came, and were compared.
    with page.expect_response("**/api/weather/compare*"), page.expect_response("**/api/weather/fetch-all"):
        page.get_by_role("button", name="Get the forecasts").click()


def tell(page: Page, **told: str) -> None:
    """Tell the simulated weather what to make up, where its pilot would: on its own page."""
    control = page.request.get("/api/weather/sources").json()["sources"][-1]["control"]
    assert page.request.post(control, form=told).ok


def plan_with(page: Page, name: str) -> None:
    page.get_by_role("button", name=f"Plan with it: {name}", exact=True).click()
    expect(page.get_by_role("combobox", name="Forecast shown by the hour")).to_contain_text(name)


def curtain(page: Page) -> Locator:
    return page.get_by_role("img", name=re.compile("^Wind by time and height"))


def test_a_frosty_morning_from_the_curtain_to_the_ticked_list(page: Page, server: Server) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "When")
    ask(page, "frost_fog")
    plan_with(page, "Simulated forecast service")
    windows = page.get_by_role("list", name="Launch windows").get_by_role("listitem")
    # Fog and ice keep it down until late in the morning, and the dark from the evening on.
    # Tomorrow's, so that at any hour of the day there is time to charge before it.
    # The last of all may be cut off by the end of the two days.
    foggy = windows.filter(has_text="before that: ice").filter(has_text="daylight").last
    expect(foggy).to_contain_text(re.compile("closes after .*: daylight"))
    begins = re.search(r", (\d\d:\d\d) to", foggy.inner_text())
    assert begins
    foggy.get_by_role("button", name=re.compile("^Use this window")).click()
    expect(page.get_by_label(re.compile(r"^Take-off \(UTC"))).to_have_value(re.compile(f"T{begins[1]}$"))
    expect(page.get_by_role("note", name="Where the figures come from")).to_contain_text("Simulated forecast service")
    expect(verdict(page)).to_contain_text("Caution")
    saved(page)

    page.get_by_role("link", name=re.compile("Prepare")).click()
    steps = page.get_by_role("list", name="Countdown").get_by_role("listitem")
    expect(steps.filter(has_text="Take off")).to_contain_text(begins[1])
    expect(page.get_by_role("region", name="Battery hub")).to_contain_text(re.compile(r"Battery 2.*to full"))
    expect(page.get_by_role("region", name="Battery hub")).to_contain_text("start by")

    page.set_viewport_size({"width": PHONE["width"], "height": PHONE["height"]})
    # The phone's own layout stands before anything is taken hold of in it.
    expect(page.get_by_role("navigation", name="Stages")).to_be_visible()
    page.get_by_role("checkbox", name=re.compile("^Lens cloth")).check()
    expect(page.get_by_text(re.compile("^1 of .* done"))).to_be_visible()
    page.get_by_role("checkbox", name=re.compile("^Lens cloth")).press("ArrowDown")
    below = page.get_by_role("checkbox", name=re.compile("^Neutral-density"))
    expect(below).to_be_focused()
    below.press("Space")
    expect(page.get_by_text("2 of ")).to_be_visible()
    server.kill()
    server.start()
    page.reload()
    expect(page.get_by_role("checkbox", name=re.compile("^Lens cloth"))).to_be_checked()
    expect(page.get_by_text("2 of ")).to_be_visible()
    expect(steps.filter(has_text="Take off")).to_contain_text(begins[1])
    assert page.evaluate("document.documentElement.scrollWidth") == PHONE["width"]

    page.get_by_role("button", name="Clear all ticks").click()
    expect(page.get_by_role("checkbox", name=re.compile("^Lens cloth"))).not_to_be_checked()
    page.get_by_role("button", name="Restore ticks").click()
    expect(page.get_by_role("checkbox", name=re.compile("^Lens cloth"))).to_be_checked()


def test_what_is_ticked_without_the_server_goes_up_when_it_is_back(page: Page, server: Server) -> None:
    page.goto("/sessions/1/prepare")
    cloth = page.get_by_role("checkbox", name=re.compile("^Lens cloth"))
    filters = page.get_by_role("checkbox", name=re.compile("^Neutral-density"))
    expect(cloth).to_be_visible()
    server.kill()
    cloth.check()
    filters.check()
    filters.uncheck()
    expect(page.get_by_text("2 answers are saved on this device and will upload")).to_be_visible()
    expect(cloth).to_be_checked()
    server.start()
    expect(page.get_by_text("saved on this device")).to_have_count(0)
    # It is with the server, not only here: another device sees it.
    assert set(page.request.get("/api/sessions/1/answers/kit").json()["answers"]) == {"cloth"}
    page.reload()
    expect(cloth).to_be_checked()
    expect(filters).not_to_be_checked()


def test_services_that_are_down_or_send_rubbish_leave_the_page_as_it_is(page: Page) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "When")
    expect(curtain(page)).to_be_visible()
    for manner, words in (("down", "503"), ("rubbish", "no forecast that Lark can read"), ("slow", "did not answer")):
        ask(page, manner=manner)
        alert = page.get_by_role("alert").filter(has_text="Simulated forecast service")
        expect(alert).to_contain_text(words, timeout=15_000)
        expect(alert).to_contain_text("What it said before stays")
        expect(curtain(page)).to_be_visible()
    type_in(page, "Wind at 10 m", "5")
    expect(verdict(page)).to_contain_text("Don’t launch")


def test_a_pasted_report_is_read_and_a_broken_one_says_where(page: Page) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "When")
    page.get_by_role("button", name="Paste or open a report").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Text").fill("METAR ZZZZ 260450Z 24006G12MPS 99x9 06/04 Q1018")
    dialog.get_by_role("button", name="Import").click()
    expect(dialog.get_by_role("alert")).to_contain_text("99x9")
    dialog.get_by_label("Text").fill("METAR ZZZZ 260450Z 24006G12MPS 9999 SCT030 M06/M08 Q1018")
    dialog.get_by_role("button", name="Import").click()
    expect(dialog).to_have_count(0)
    page.get_by_label("Forecast shown").click()
    expect(page.get_by_role("option", name=re.compile("METAR ZZZZ"))).to_be_visible()
    page.keyboard.press("Escape")


def test_the_half_hours_are_looked_at_by_keyboard(page: Page) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "When")
    slider = page.get_by_role("slider", name="Half hour looked at")
    expect(page.get_by_text("07:30: within limits")).to_be_visible()
    slider.focus()
    for _ in range(10):
        slider.press("ArrowLeft")
    expect(page.get_by_text("02:30: don’t launch")).to_be_visible()
    choose(page, "Windows on", re.compile("best bearing"))
    expect(page.get_by_role("list", name="Launch windows").get_by_role("listitem").first).to_be_visible()


@pytest.mark.quick
def test_flights_are_rearranged_by_hand_and_judged_anew(page: Page) -> None:
    page.goto("/sessions/7/prepare")
    expect(page.get_by_text("All 4 subjects with 2 batteries, each flight home with")).to_be_visible()
    flights = page.get_by_role("region", name=re.compile(r"^Flight \d, battery"))
    expect(flights).to_have_count(2)
    page.get_by_role("button", name="Move Esker in low sun").click()
    page.get_by_role("menuitem", name=re.compile("^A flight of its own")).click()
    expect(flights).to_have_count(3)
    expect(page.get_by_text("As you set it. The best way films 4 of 4 with 2 batteries.")).to_be_visible()

    # All in one flight: the pack does not bring that home.
    for left in (2, 1):
        flights.last.get_by_role("button", name=re.compile("^Move (?!earlier)")).click()
        page.get_by_role("menuitem", name=re.compile("^Into flight 1")).click()
        expect(flights).to_have_count(left)
    expect(flights.first.get_by_role("alert")).to_contain_text("you keep 40%")
    page.get_by_role("button", name="Take the best way").click()
    expect(page.get_by_text("All 4 subjects with 2 batteries, each flight home with")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(flights).to_have_count(1)


def test_with_less_time_less_is_charged_and_less_filmed(page: Page) -> None:
    page.goto("/sessions/7/prepare")
    expect(page.get_by_text(re.compile(r"^Keep the batteries warm: about \d"))).to_be_visible()
    page.get_by_role("button", name="Time available for charging: set").click()
    type_in(page, "Time available for charging", "10")
    expect(page.get_by_text("You have 10 min, but charging takes")).to_be_visible()
    expect(page.get_by_text("Not filmed")).to_be_visible()


def test_a_swollen_pack_cannot_be_chosen_any_more(page: Page) -> None:
    page.goto("/gear")
    page.get_by_role("button", name="Change B", exact=True).click()
    dialog = page.get_by_role("dialog")
    choose(dialog, "State", "Swollen")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_have_count(0)
    packs = page.get_by_role("region", name="Batteries")
    expect(packs.get_by_role("listitem").filter(has_text="Battery B")).to_contain_text("never fly or charge it again")
    page.goto("/sessions/7/prepare")
    expect(page.get_by_role("checkbox", name="Battery B")).to_be_disabled()
    expect(page.get_by_role("checkbox", name="Battery A")).to_be_checked()
    open_session(page, "Low along the pines")
    page.get_by_role("button", name=re.compile("^Aircraft and battery")).click()
    page.get_by_label("Battery from your gear").click()
    expect(page.get_by_role("option", name="B, swollen")).to_be_disabled()
    page.get_by_role("option", name=re.compile("^C, about")).click()
    expect(field(page, "Battery")).to_have_value("C")


def test_an_aircraft_is_added_from_its_sheet_taken_out_and_brought_back(page: Page) -> None:
    page.goto("/gear")
    page.get_by_role("button", name="Add an aircraft").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Large, over 900 g").click()
    expect(field(dialog, "Wind rating")).to_have_value("13.0")
    dialog.get_by_label("Name").fill("Curlew")
    type_in(dialog, "Hover time", "900")
    expect(dialog.get_by_role("alert")).to_contain_text("900 is out of range: 1 to 240 min")
    type_in(dialog, "Hover time", "31")
    dialog.get_by_role("button", name="Add to the kit").click()
    aircraft = page.get_by_role("region", name="Aircraft").get_by_role("listitem").filter(has_text="Curlew")
    expect(aircraft.first).to_contain_text("hovers 31 min")
    page.get_by_role("button", name="Take Curlew out").click()
    expect(aircraft).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(aircraft.first).to_be_visible()


def test_upkeep_says_what_is_due_until_it_is_done(page: Page) -> None:
    page.goto("/gear/1/upkeep")
    due = page.get_by_text("Check the screws.")
    expect(due).to_be_visible()
    entry = page.get_by_role("region", name="Write an entry")
    choose(entry, "What", "Screws checked")
    entry.get_by_role("button", name="Save entry").click()
    expect(due).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Withdraw Screws checked")).click()
    expect(due).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(due).to_have_count(0)


def test_the_countdown_goes_out_as_a_calendar(page: Page, tmp_path: Path) -> None:
    page.goto("/sessions/7/prepare")
    with page.expect_download() as waiting:
        page.get_by_role("button", name="Add to calendar with alerts").click()
    file = tmp_path / "countdown.ics"
    waiting.value.save_as(file)
    events = vobject.readOne(file.read_text()).contents["vevent"]
    assert [e.summary.value for e in events][-1] == "Frozen bog in January"


def test_the_pack_stage_prints_what_is_needed_on_paper(page: Page) -> None:
    page.goto("/sessions/7/prepare")
    expect(page.get_by_role("region", name="Battery hub")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("heading", name="Packing list")).to_be_visible()
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.get_by_role("region", name="Subjects")).to_be_hidden()

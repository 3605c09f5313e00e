"""What a pilot does, on the real server, by role and label."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Server, say_all
from tests.make import EXAMPLES


def row(page: Page, title: str) -> Locator:
    return page.get_by_role("listitem").filter(has=page.get_by_role("heading", name=title, exact=True))


def open_session(page: Page, title: str) -> None:
    page.goto("/")
    row(page, title).get_by_role("link").click()
    expect(page).to_have_title(f"{title} · Lark")


def look_at(page: Page, view: str) -> None:
    """Open one of the plan's views."""
    page.get_by_role("tab", name=re.compile(f"^{view}")).click()
    expect(page.get_by_role("tabpanel", name=re.compile(f"^{view}"))).to_be_visible()


def verdict(page: Page) -> Locator:
    return page.get_by_role("status", name="Verdict")


def field(page: Page | Locator, label: str) -> Locator:
    return page.get_by_role("textbox", name=label, exact=True)


def type_in(page: Page | Locator, label: str, value: str) -> None:
    field(page, label).fill(value)
    field(page, label).press("Enter")


def saved(page: Page) -> None:
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()


def rails(page: Page) -> Locator:
    """The buttons under Limits, from the top: the rails, then the one that shows the rest."""
    return page.get_by_role("region", name="Limits").get_by_role("button")


@pytest.mark.quick
def test_from_the_list_to_a_decision_that_outlives_the_server(page: Page, server: Server) -> None:
    open_session(page, "Bog at first light")
    expect(verdict(page)).to_contain_text("Within limits")
    expect(verdict(page)).to_contain_text("Sight:")
    expect(verdict(page)).to_contain_text("Not permission to fly")

    type_in(page, "Wind at 10 m", "4.2")
    expect(verdict(page)).to_contain_text("Caution")
    expect(verdict(page)).to_contain_text("Wind:")
    type_in(page, "Wind at 10 m", "5")
    expect(verdict(page)).to_contain_text("Don’t launch")
    expect(verdict(page)).to_contain_text("Wind 6.1 m/s at 40 m: above your 6.0 m/s limit")
    type_in(page, "Wind at 10 m", "4")
    expect(verdict(page)).to_contain_text("Caution")
    expect(rails(page).first).to_have_accessible_name(re.compile("^Wind,"))

    look_at(page, "Battery")
    page.get_by_text("Leg by leg").click()
    legs = page.get_by_role("table", name="Charge after each leg").get_by_role("row")
    expect(legs).to_have_count(9)
    expect(legs.last).to_contain_text("Landing")
    landing = re.search(r"(\d+)%", legs.last.inner_text())
    assert landing
    expect(page.get_by_role("img", name=re.compile("Charge on the way"))).to_have_accessible_name(
        re.compile(rf"Lands with {landing[1]}%.*Turn back at \d+%")
    )

    page.get_by_role("button", name="Record a decision").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_text("Has the aircraft confirmed its home point where you are now?")).to_be_visible()
    dialog.get_by_role("button", name="Wait").click()
    dialog.get_by_label("Note").fill("Gusts over the pines, again at nine.")
    dialog.get_by_role("button", name="Save decision").click()
    kept = page.get_by_role("region", name="Decisions").get_by_role("link")
    expect(kept).to_contain_text("Wait")
    expect(kept).to_contain_text("caution")

    server.kill()
    server.start()
    page.goto("/sessions")
    expect(row(page, "Bog at first light")).to_contain_text("You decided: wait")
    row(page, "Bog at first light").get_by_role("link").click()
    expect(field(page, "Wind at 10 m")).to_have_value("4.0")
    page.get_by_role("region", name="Decisions").get_by_role("link").click()
    expect(page.get_by_role("heading", name="Wait: Bog at first light")).to_be_visible()
    expect(page.get_by_text("Gusts over the pines, again at nine.")).to_be_visible()
    expect(verdict(page)).to_contain_text("Caution")


def test_a_decision_stays_as_it_was_when_the_plan_moves_on(page: Page) -> None:
    open_session(page, "Bog at first light")
    page.get_by_role("button", name="Record a decision").click()
    page.get_by_role("dialog").get_by_role("button", name="Launch", exact=True).click()
    expect(page.get_by_role("button", name="Save decision")).to_be_disabled()
    say_all(page.get_by_role("dialog"))
    page.get_by_role("button", name="Save decision").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    type_in(page, "Wind at 10 m", "9")
    expect(verdict(page)).to_contain_text("Don’t launch")
    saved(page)
    page.get_by_role("region", name="Decisions").get_by_role("link").click()
    expect(verdict(page)).to_contain_text("Within limits")
    expect(page.get_by_role("button", name=re.compile("^Wind"))).to_have_accessible_name(
        re.compile(r"3\.4 of 6\.0 m/s")
    )


def test_launching_against_the_verdict_asks_for_the_reason(page: Page) -> None:
    open_session(page, "Low along the pines")
    expect(verdict(page)).to_contain_text("below the top of the pines")
    page.get_by_role("button", name="Record a decision").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Launch", exact=True).click()
    say_all(dialog)
    keep = dialog.get_by_role("button", name="Save decision")
    expect(keep).to_be_disabled()
    expect(dialog.get_by_text("Give a reason for launching")).to_be_visible()
    dialog.get_by_label("Reason for launching against the verdict").fill("Hover at the pad only.")
    keep.click()
    expect(page.get_by_role("region", name="Decisions")).to_contain_text("Hover at the pad only.")


def test_the_verdict_follows_while_a_slider_moves(page: Page) -> None:
    open_session(page, "Bog at first light")
    slider = page.get_by_label("Wind at 10 m, slider")
    slider.focus()
    for _ in range(12):
        slider.press("ArrowRight")
    expect(field(page, "Wind at 10 m")).to_have_value("4.0")
    expect(verdict(page)).to_contain_text("Wind:")

    box = page.get_by_label("Distance, slider").locator("xpath=ancestor::*[contains(@class,'MuiSlider-root')]")
    box.scroll_into_view_if_needed()
    bounds = box.bounding_box()
    assert bounds is not None
    y = bounds["y"] + bounds["height"] / 2
    page.mouse.move(bounds["x"] + bounds["width"] * 0.13, y)
    page.mouse.down()
    page.mouse.move(bounds["x"] + bounds["width"] * 0.5, y, steps=20)
    # Still held down: the verdict is not waiting for the finger to be lifted.
    expect(verdict(page)).to_contain_text("Sight:")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.mouse.up()
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "Distance")).to_have_value("180")


def test_a_rail_opens_to_its_working_and_source(page: Page) -> None:
    open_session(page, "Cranes, wind behind on the flight out")
    rail = page.get_by_role("button", name=re.compile("^Ground speed home, .*outside its limit"))
    rail.click()
    expect(rail).to_have_attribute("aria-expanded", "true")
    opened = page.get_by_role("listitem").filter(has=rail)
    expect(opened).to_contain_text("Ground speed home only 1.4 m/s; your minimum is 3.0 m/s")
    expect(opened).to_contain_text("airspeed in slow mode 6.0 m/s")
    expect(opened).to_contain_text("Source: Wind triangle")

    type_in(page, "Bearing out", "240")
    expect(verdict(page)).to_contain_text("Caution")
    expect(verdict(page)).to_contain_text("Sight:")


def test_units_are_chosen_once_and_remembered(page: Page) -> None:
    open_session(page, "Bog at first light")
    expect(verdict(page)).to_contain_text("Within limits")
    before = verdict(page).inner_text().splitlines()[0]
    page.keyboard.press("u")
    page.keyboard.press("u")
    expect(page.get_by_text("Units: mph, ft, °F")).to_be_visible()
    expect(field(page, "Distance")).to_have_value("591")
    expect(verdict(page)).to_contain_text("At 604 ft you can tell which way it is pointing, up to 656 ft.")
    assert verdict(page).inner_text().splitlines()[0] == before
    page.reload()
    expect(field(page, "Wind at 33 ft")).to_have_value("6.3")
    type_in(page, "Distance", "700")
    expect(verdict(page)).to_contain_text("At 711 ft you can't tell which way it is pointing")
    page.get_by_role("button", name="Units").click()
    dialog = page.get_by_role("dialog", name="Units")
    dialog.get_by_role("button", name="km/h").click()
    dialog.get_by_role("button", name="m", exact=True).click()
    dialog.get_by_role("button", name="Done").click()
    expect(field(page, "Distance")).to_have_value("213")


def test_looking_in_other_units_changes_nothing(page: Page, server: Server) -> None:
    """Passing through every field in feet and miles must not round the plan."""
    open_session(page, "Bog at first light")
    number = re.search(r"/sessions/(\d+)/", page.url)
    assert number
    address = f"{server.url}/api/sessions/{number[1]}"
    before = page.request.get(address).json()["plan"]
    page.keyboard.press("u")
    page.keyboard.press("u")
    for field in page.get_by_role("region", name="The plan").get_by_role("textbox").all():
        field.focus()
        field.press("Enter")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    assert page.request.get(address).json()["plan"] == before


def test_impossible_values_are_refused_with_what_is_allowed(page: Page) -> None:
    open_session(page, "Bog at first light")
    type_in(page, "Wind at 10 m", "90")
    expect(page.get_by_role("alert")).to_contain_text("90 is out of range: 0.0 to 75.0 m/s")
    type_in(page, "Bearing out", "west")
    expect(page.get_by_role("alert").last).to_contain_text("Type a number, 0 to 360 °")
    expect(verdict(page)).to_contain_text("Within limits")
    field(page, "Wind at 10 m").press("Escape")
    expect(field(page, "Wind at 10 m")).to_have_value("2.8")


def test_unknown_wind_is_opened_by_a_forecast(page: Page) -> None:
    open_session(page, "Jetty before the front")
    expect(verdict(page)).to_contain_text("Not enough data")
    page.get_by_role("button", name="Add a wind").click()
    page.get_by_role("menuitem", name="Forecast at another height").click()
    dialog = page.get_by_role("dialog", name="Forecast at another height")
    dialog.get_by_role("button", name="Take this wind").click()
    expect(dialog.get_by_role("alert")).to_have_text("Type the wind first.")
    # One touch is enough after typing, without leaving the field first.
    field(dialog, "Wind").fill("3")
    dialog.get_by_role("button", name="Take this wind").click()
    expect(verdict(page)).not_to_contain_text("Not enough data")
    look_at(page, "Battery")
    expect(page.get_by_role("img", name=re.compile("Charge on the way"))).to_be_visible()


def test_obstacles_raise_the_return_height(page: Page) -> None:
    open_session(page, "Bog at first light")
    page.get_by_role("button", name=re.compile("^Place")).click()
    page.get_by_role("button", name="Add an obstacle").click()
    new = page.get_by_role("group", name="Trees 1")
    type_in(new, "Height above take-off", "45")
    expect(verdict(page)).to_contain_text("The flight out goes into the trees (45 m)")
    new.get_by_role("button", name="Remove Trees 1").click()
    expect(verdict(page)).to_contain_text("Within limits")
    page.get_by_role("button", name="Undo").click()
    expect(verdict(page)).to_contain_text("Don’t launch")


@pytest.mark.quick
def test_nothing_is_lost_when_the_server_goes_away(page: Page, server: Server) -> None:
    open_session(page, "Bog at first light")
    server.kill()
    type_in(page, "Height", "33")
    expect(page.get_by_text("Not saved:")).to_be_visible()
    page.close(run_before_unload=False)
    server.start()
    again = page.context.new_page()
    again.goto("/sessions")
    row(again, "Bog at first light").get_by_role("link").click()
    expect(field(again, "Height")).to_have_value("33")
    saved(again)
    again.evaluate("localStorage.clear()")
    again.reload()
    expect(field(again, "Height")).to_have_value("33")


def test_new_duplicate_delete_and_undo(page: Page) -> None:
    page.goto("/sessions")
    expect(page.get_by_role("heading", name="Upcoming")).to_be_visible()
    page.keyboard.press("n")
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_role("button", name="Create session").click()
    expect(dialog.get_by_text("Give the session a title.")).to_be_visible()
    dialog.get_by_label("Title").fill("Evening meadow")
    dialog.get_by_label("Start from").click()
    page.get_by_role("option", name="An open field").click()
    dialog.get_by_role("button", name="Create session").click()
    expect(dialog.get_by_text("Give the position of the place.")).to_be_visible()
    dialog.get_by_label("Name of the place").fill("Meadow")
    dialog.get_by_label("Position").fill("58,5 25,1")
    expect(dialog.get_by_text("58.50000° N 25.10000° E")).to_be_visible()
    dialog.get_by_role("button", name="Create session").click()
    expect(page.get_by_label("Title")).to_have_value("Evening meadow")
    expect(verdict(page)).to_contain_text("nobody has confirmed")

    page.get_by_role("navigation", name="Lark").get_by_role("link", name="Sessions").click()
    row(page, "Evening meadow").get_by_role("button", name="Duplicate").click()
    expect(page.get_by_label("Title")).to_have_value("Evening meadow (copy)")
    page.goto("/sessions?find=meadow")
    expect(page.get_by_role("heading", level=3)).to_have_count(2)
    row(page, "Evening meadow (copy)").get_by_role("button", name="Delete").click()
    expect(page.get_by_role("heading", level=3)).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", level=3)).to_have_count(2)


def test_the_list_shows_at_a_glance_what_differs(page: Page) -> None:
    page.goto("/sessions")
    for title, words in {
        "Bog at first light": "Within limits",
        "Tower in a gusty west wind": "Caution",
        "Cranes, wind behind on the flight out": "Don’t launch",
        "Low along the pines": "Don’t launch",
        "Jetty before the front": "Not enough data",
    }.items():
        expect(row(page, title).get_by_text(words, exact=True)).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("jetty")
    expect(page.get_by_role("heading", level=3)).to_have_count(1)
    page.get_by_label("Search").fill("nothing like it")
    page.get_by_role("button", name="Show all").click()
    expect(page.get_by_role("heading", level=3)).to_have_count(10)


def test_a_plan_file_goes_in_and_bad_ones_are_explained(page: Page, tmp_path: Path) -> None:
    page.goto("/sessions?new")
    bad = tmp_path / "bad.json"
    plan = json.loads((EXAMPLES / "example-plan.json").read_text())
    plan["flight"]["bearing_deg"] = 400
    bad.write_text(json.dumps(plan))
    chooser = page.locator('input[type="file"]')
    chooser.set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("Bearing: 400 given; needs")
    expect(page.get_by_role("alert")).to_contain_text("from 0 to 360")
    chooser.set_input_files(EXAMPLES / "example-plan.json")
    expect(page.get_by_label("Title")).to_have_value("Bog at first light")
    expect(verdict(page)).to_contain_text("At 263 m you can't tell which way it is pointing")
    page.get_by_role("button", name="Share", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export plan").click()
    out = json.loads(Path(download.value.path()).read_text())
    assert out["flight"]["distance_m"] == 260


def test_both_themes_and_the_keys(page: Page) -> None:
    page.goto("/sessions")
    ground = "getComputedStyle(document.body).backgroundColor"
    light = page.evaluate(ground)
    page.keyboard.press("t")
    expect(page.get_by_role("button", name="Light mode")).to_be_visible()
    assert page.evaluate(ground) != light
    page.reload()
    expect(page.get_by_role("button", name="Light mode")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keyboard shortcuts")).to_contain_text("new session")


@pytest.mark.quick
def test_deep_links_and_wrong_addresses(page: Page) -> None:
    page.goto("/sessions/9999/plan")
    expect(page.get_by_role("alert")).to_contain_text("Session 9999 doesn")
    page.get_by_role("link", name="All sessions").click()
    expect(page.get_by_role("heading", name="Sessions")).to_be_visible()
    page.goto("/sessions/1/nowhere")
    expect(page.get_by_role("heading", name="Page not found")).to_be_visible()
    page.goto("/help/checks")
    expect(page.get_by_text("ITU-R P.526", exact=False)).to_be_visible()


def test_on_a_phone_by_touch(phone: Page) -> None:
    phone.goto("/sessions")
    row(phone, "Bog at first light").get_by_role("link").tap()
    expect(verdict(phone)).to_contain_text("Within limits")
    # The wind and the time stand first.
    expect(field(phone, "Wind at 10 m")).to_be_in_viewport()
    look_at(phone, "Limits")
    rail = phone.get_by_role("button", name=re.compile("^Gusts, .*within limits"))
    rail.tap()
    expect(phone.get_by_text("the aircraft is rated to 12.0 m/s")).to_be_visible()
    box = rail.bounding_box()
    assert box is not None
    assert box["height"] >= 48
    look_at(phone, "Inputs")
    type_in(phone, "Wind at 10 m", "9")
    # A touch on the verdict shows what decides, and what belongs to the session.
    verdict(phone).get_by_role("button").tap()
    expect(verdict(phone)).to_contain_text("above your 6.0 m/s limit")
    expect(phone.get_by_role("button", name="Undo")).to_be_enabled()
    verdict(phone).get_by_role("button").tap()
    # The seal stays in sight while the pilot works further down.
    expect(verdict(phone)).to_be_in_viewport()
    expect(verdict(phone)).to_contain_text("Don’t launch")
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    expect(phone.get_by_role("navigation", name="Stages")).to_be_in_viewport()


def test_a_lever_is_tried_taken_and_undone(page: Page) -> None:
    open_session(page, "Cranes, wind behind on the flight out")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("button", name=re.compile("^Ground speed home")).click()
    ways = page.get_by_role("region", name="Ways to fix Ground speed home")
    ways.get_by_role("button", name="Try: Fly home manually in fast mode.").click()
    expect(page.get_by_text("Preview: Fly home manually in fast mode. Not applied yet.")).to_be_visible()
    expect(verdict(page)).to_contain_text("Caution")
    expect(page.get_by_role("button", name="Record a decision")).to_be_disabled()
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()

    page.get_by_role("button", name="Cancel").click()
    expect(verdict(page)).to_contain_text("Don’t launch")
    # There is something to film at the far end, so nobody is told to start on another bearing.
    expect(ways.get_by_role("button", name=re.compile("^Try: Fly out towards"))).to_have_count(0)
    ways.get_by_role("button", name="Try: Fly home manually in fast mode.").click()
    expect(verdict(page)).to_contain_text("Caution")
    page.get_by_role("button", name="Apply", exact=True).click()
    expect(page.get_by_text("Not applied yet.")).to_have_count(0)
    expect(page.get_by_role("combobox", name="Return")).to_have_text("Manual, fast mode")
    expect(verdict(page)).to_contain_text("Caution")
    saved(page)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("combobox", name="Return")).to_have_text("Manual, slow mode")
    expect(verdict(page)).to_contain_text("Don’t launch")


def test_a_check_that_nothing_clears_says_so(page: Page) -> None:
    open_session(page, "Tower in a gusty west wind")
    page.get_by_role("button", name=re.compile("^Gusts, .*caution")).click()
    expect(page.get_by_role("region", name="Ways to fix Gusts")).to_contain_text("No one or two changes fix this")


def test_questions_for_the_site_are_answered_there(page: Page) -> None:
    """They are counted beside the verdict as not checked; answering one never makes it worse."""
    open_session(page, "Bog at first light")
    expect(verdict(page)).to_contain_text("3 not checked")
    expect(verdict(page)).to_contain_text("Within limits")
    page.get_by_role("button", name="Satellites: set").click()
    type_in(page, "Satellites", "12")
    expect(verdict(page)).to_contain_text("2 not checked")
    expect(verdict(page)).to_contain_text("Within limits")
    page.get_by_role("combobox", name="Home point").click()
    page.get_by_role("option", name="Confirmed here").click()
    expect(verdict(page)).to_contain_text("Within limits")
    expect(verdict(page)).to_contain_text("1 not checked")
    page.get_by_role("combobox", name="Compass").click()
    page.get_by_role("option", name="In order").click()
    expect(verdict(page)).not_to_contain_text("not checked")
    type_in(page, "Satellites", "6")
    expect(verdict(page)).to_contain_text("it may not hold position")


def test_the_chance_is_said_beside_the_verdict(page: Page) -> None:
    open_session(page, "Frozen bog in January")
    expect(verdict(page)).to_contain_text("Don’t launch")
    expect(verdict(page)).to_contain_text(re.compile(r"Chance of landing with 30% or more: \d{1,2} in 100"))
    look_at(page, "Battery")
    expect(page.get_by_text(re.compile(r"\d{1,2} of 100 simulated flights land with 30% or more"))).to_be_visible()


@pytest.mark.quick
def test_rails_that_pass_are_one_touch_away(page: Page) -> None:
    open_session(page, "Bog at first light")
    expect(verdict(page)).to_contain_text("Within limits")
    expect(rails(page)).to_have_count(10)  # nine rails and the button
    page.get_by_role("button", name=re.compile(r"^Show \d+ more within limits")).click()
    expect(page.get_by_role("button", name=re.compile("^Weight, .*within limits"))).to_be_visible()
    expect(rails(page)).to_have_count(36)


def test_wind_by_what_is_seen_and_by_the_lean(page: Page) -> None:
    """A stronger measurement decides over the forecast, and says so."""
    open_session(page, "Bog at first light")
    page.get_by_role("button", name="Add a wind").click()
    page.get_by_role("menuitem", name="Estimate from trees or water").click()
    dialog = page.get_by_role("dialog", name="What do you see?")
    expect(dialog.get_by_text("Force 4: 5.5 to 8.0 m/s, takes 6.7 m/s")).to_be_visible()
    dialog.get_by_role("button", name=re.compile("small branches move")).click()
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("button", name=re.compile("^Wind")).click()
    expect(page.get_by_text("the stronger counts, here the measured one")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(verdict(page)).to_contain_text("Within limits")

    page.get_by_role("button", name="Add a wind").click()
    page.get_by_role("menuitem", name="From its tilt in a hover").click()
    dialog = page.get_by_role("dialog", name="How far is it tilting?")
    type_in(dialog, "Tilt", "35")
    expect(dialog.get_by_text("18.7 m/s of wind")).to_be_visible()
    type_in(dialog, "Tilt", "1")
    expect(dialog.get_by_text("3.0 m/s of wind")).to_be_visible()
    dialog.get_by_role("button", name="Use this wind").click()
    expect(page.get_by_role("group", name="Wind at 30 m")).to_be_visible()


def test_variants_side_by_side(page: Page) -> None:
    open_session(page, "Cranes, wind behind on the flight out")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_role("region", name="As planned")).to_contain_text("Don’t launch")
    into = page.get_by_role("region", name="Out into the wind")
    expect(into).to_contain_text("Caution")
    home = page.get_by_role("region", name="Ground speed home")
    expect(home.get_by_role("group", name=re.compile("^As planned, outside its limit: 1.4"))).to_be_visible()
    expect(home.get_by_role("group", name=re.compile("^Out into the wind, within limits"))).to_be_visible()

    page.get_by_role("button", name="Out with the wind").click()
    page.get_by_role("button", name="Home in fast mode").click()
    expect(page.get_by_role("region", name="Home in fast mode")).to_contain_text("Caution")
    page.reload()
    expect(page.get_by_role("region", name="Home in fast mode")).to_be_visible()
    into.get_by_role("button", name="Keep as a session").click()
    into.get_by_role("link", name="Open it").click()
    expect(page.get_by_label("Title")).to_have_value(re.compile("out into the wind"))


def test_comparing_on_a_phone(phone: Page) -> None:
    phone.goto("/sessions/2/compare")
    expect(phone.get_by_role("region", name="Out into the wind")).to_contain_text("Caution")
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_minimum_judges_the_list_anew_and_can_be_put_back(page: Page) -> None:
    page.goto("/sessions")
    expect(row(page, "Frozen bog in January")).to_contain_text("Don’t launch")
    page.get_by_role("navigation", name="Lark").get_by_role("link", name="Minimums").click()
    page.get_by_label("Verdicts shown for").click()
    page.get_by_role("option", name="Frozen bog in January").click()
    reserve = page.get_by_role("region", name="How much charge do you want left on landing?")
    expect(reserve.get_by_role("button", name="30%: Don’t launch · default")).to_have_attribute("aria-pressed", "true")
    lower = reserve.get_by_role("button", name="20%: Caution")
    lower.click()
    expect(lower).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_text(", in force: land with 20%")).to_be_visible()
    page.get_by_role("navigation", name="Lark").get_by_role("link", name="Sessions").click()
    expect(row(page, "Frozen bog in January")).to_contain_text("Caution")

    page.go_back()
    page.get_by_role("button", name="Undo last change").click()
    expect(page.get_by_text(", in force: land with 30%")).to_be_visible()
    page.get_by_label("First flights").click()
    expect(page.get_by_text("land with 40%, up to 90 m")).to_be_visible()
    page.get_by_role("navigation", name="Lark").get_by_role("link", name="Sessions").click()
    expect(row(page, "Bog at first light")).to_contain_text("Caution")


def test_rules_are_named_with_their_authority_and_as_from_memory(phone: Page) -> None:
    phone.goto("/minimums")
    phone.get_by_label("Rules you fly under").click()
    phone.get_by_role("option", name="Canada").click()
    rules = phone.get_by_role("region", name="Rules")
    expect(rules).to_contain_text("Transport Canada")
    expect(rules).to_contain_text("from memory")
    expect(phone.get_by_text("up to 120 m")).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_aircraft_and_pack_change_the_way_home(page: Page) -> None:
    """A cold, tired pack lands with less; a title is changed where it stands."""
    open_session(page, "Bog at first light")
    page.get_by_role("button", name=re.compile(r"^Show \d+ more within limits")).click()
    landing = page.get_by_role("button", name=re.compile("^Charge on landing"))
    expect(landing).to_have_accessible_name(re.compile("75% .min 30%"))
    page.get_by_role("button", name=re.compile("^Aircraft and battery")).click()
    type_in(page, "Battery temperature", "-5")
    type_in(page, "Health", "70")
    expect(landing).to_have_accessible_name(re.compile(r"[56]\d% .min 30%"))
    expect(verdict(page)).to_contain_text("Caution")
    expect(verdict(page)).to_contain_text("Temperature:")
    field(page, "Title").fill("Bog, cold battery")
    field(page, "Title").press("Enter")
    saved(page)
    page.reload()
    expect(field(page, "Title")).to_have_value("Bog, cold battery")


def test_the_place_decides_what_is_checked(page: Page) -> None:
    open_session(page, "Bog at first light")
    page.get_by_role("button", name=re.compile("^Place")).click()
    page.get_by_label("Over water", exact=True).click()
    look_at(page, "Battery")
    expect(page.get_by_text("land with 40%", exact=True)).to_be_visible()
    look_at(page, "Limits")
    expect(page.get_by_role("button", name=re.compile("^Distance over water"))).to_be_visible()
    page.get_by_label("Over water", exact=True).click()
    page.get_by_label("Indoors").click()
    expect(page.get_by_role("button", name=re.compile("^Wind"))).to_have_count(0)
    # Under a roof it is set to hover at once, and nobody asks for a home point.
    expect(page.get_by_role("button", name=re.compile("^Home point"))).to_have_count(0)
    expect(verdict(page)).to_contain_text("Within limits")


def test_after_dark_stays_down_and_nobody_is_told_to_wait_for_a_time_unknown(page: Page) -> None:
    open_session(page, "Bog at first light")
    page.get_by_label(re.compile(r"^Take-off \(UTC")).fill("2030-09-27T05:00")
    expect(verdict(page)).to_contain_text("runs into darkness")
    page.get_by_role("button", name=re.compile("^Daylight, .*outside its limit")).click()
    ways = page.get_by_role("region", name="Ways to fix Daylight")
    expect(ways).to_be_visible()
    expect(ways.get_by_role("button", name=re.compile("Wait until"))).to_have_count(0)


def test_a_school_with_a_number_of_the_pilots_own(page: Page) -> None:
    """With a tested distance of one's own, sight is no longer what ends the flight."""
    open_session(page, "Cranes, wind behind on the flight out")
    expect(page.get_by_role("button", name=re.compile("^Sight, .*caution"))).to_have_accessible_name(
        re.compile("223 of 138 m")
    )
    page.goto("/minimums")
    question = page.get_by_role("region", name="How far is your line of sight?")
    question.get_by_role("button", name=re.compile("^My own tested distance")).click()
    expect(page.get_by_role("list").last).to_contain_text("Since")
    with page.expect_response(lambda r: r.request.method == "PUT"):
        type_in(question, "Tested by yourself", "300")
    open_session(page, "Cranes, wind behind on the flight out")
    expect(page.get_by_role("button", name=re.compile("^Sight, .*within limits"))).to_have_accessible_name(
        re.compile("223 of 300 m")
    )


def test_a_session_begins_on_a_boat_and_nobody_is_told_to_press_return(page: Page) -> None:
    """The kind of place is chosen when it begins, and changed in Plan."""
    page.goto("/sessions")
    page.get_by_role("button", name="New session").first.click()
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_label("Title").fill("From the dinghy")
    dialog.get_by_label("What kind of place").click()
    page.get_by_role("option", name="From a boat").click()
    dialog.get_by_role("button", name="Create session").click()
    page.get_by_role("button", name=re.compile("^Place")).click()
    expect(page.get_by_role("combobox", name="Start")).to_have_text("From a boat")
    expect(page.get_by_role("button", name=re.compile("^Distance over water"))).to_be_visible()
    type_in(page, "Boat's speed or drift", "1")
    expect(page.get_by_role("button", name=re.compile("^Home point left behind"))).to_be_visible()
    saved(page)
    page.get_by_role("button", name="Emergency").click()
    page.get_by_role("button", name="Picture frozen").click()
    expect(page.get_by_text("No return to home: the boat is no longer where the home point is.")).to_be_visible()


def test_a_typed_wire_stands_in_the_section_and_in_the_verdict(page: Page) -> None:
    """An 11 m wire in a flight of 10 m: not a launch, and it is drawn where it is reckoned with."""
    open_session(page, "Along the quarry edge")
    type_in(page, "Height", "10")
    expect(verdict(page)).to_contain_text("Don’t launch")
    expect(verdict(page)).to_contain_text("The flight out goes into the wires (11 m), 45 m out")
    look_at(page, "Map")
    expect(page.get_by_role("heading", name="What stands in the way")).to_be_visible()
    cut = page.get_by_role("group", name=re.compile("^Side view towards 250"))
    expect(cut).to_have_accessible_name(re.compile("wires"))


def test_rules_of_ones_own_count(page: Page) -> None:
    page.goto("/minimums")
    page.get_by_role("button", name="Write down my own rules").click()
    own = page.get_by_role("group", name="My own rules")
    type_in(own, "Greatest height above the ground", "50")
    expect(page.get_by_text(re.compile("up to 50 m"))).to_be_visible()
    open_session(page, "Tower in a gusty west wind")
    type_in(page, "Height", "60")
    expect(verdict(page)).to_contain_text("above the 50 m height limit you set")


def test_at_night_only_with_permission_and_a_light(page: Page) -> None:
    open_session(page, "Bog at first light")
    page.get_by_label(re.compile(r"^Take-off \(UTC")).fill("2030-09-27T05:00")
    expect(verdict(page)).to_contain_text("runs into darkness")
    page.get_by_label("I have the permission that night takes").click()
    expect(verdict(page)).to_contain_text("At night only with permission and a light.")
    page.get_by_role("button", name=re.compile("^Aircraft and battery")).click()
    page.get_by_role("button", name="Attach something").click()
    page.get_by_role("combobox", name="Attached").click()
    page.get_by_role("option", name="Light").click()
    expect(page.get_by_role("button", name=re.compile("^Daylight, .*caution"))).to_be_visible()

"""On site: the look-round, the walkround by touch and by keys, the aircraft that is listened to, the decision."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import PHONE, Server, open_context, say_all
from tests.browser.test_pilot import field, saved, type_in, verdict
from tests.browser.test_prepare import choose


def steps(page: Page) -> int:
    return page.get_by_role("navigation", name="Steps").get_by_role("button").count()


def walk_through(page: Page, press: Callable[[Locator], None]) -> None:
    """The whole preflight, step by step, with values where they are wanted."""
    for number in range(1, steps(page) + 1):
        expect(page.get_by_role("heading", name=f"{number}. ")).to_be_visible()
        for box in page.get_by_role("checkbox").all():
            name = box.get_attribute("aria-label") or ""
            row = page.get_by_role("listitem", name=name)
            if "minutes free" in name:
                press(row.get_by_role("button", name="Free on the card: set"))
                type_in(row, "Free on the card", "90")
            if name == "Satellites":
                press(row.get_by_role("button", name="Satellites shown: set"))
                type_in(row, "Satellites shown", "14")
            if name.startswith("Home point"):
                press(row.get_by_role("button", name="Yes"))
            expect(box).to_have_attribute("aria-disabled", "false")
            if box.get_attribute("aria-checked") == "false":
                press(box)
            expect(box).to_be_checked()
        expect(page.get_by_text("Step complete.")).to_be_visible()
        if page.get_by_role("button", name="Next step").count():
            press(page.get_by_role("button", name="Next step"))
    expect(page.get_by_text("Preflight complete.")).to_be_visible()
    press(page.get_by_role("button", name="Launch, wait or stand down"))
    press(page.get_by_role("dialog").get_by_role("button", name="Launch", exact=True))
    say_all(page.get_by_role("dialog"))
    press(page.get_by_role("button", name="Save decision"))
    press(page.get_by_role("region", name="Decisions").get_by_role("link"))
    expect(page.get_by_text(re.compile(r"^\d\d items done\.$"))).to_be_visible()


@pytest.mark.quick
def test_the_whole_walkround_by_touch(phone: Page, server: Server) -> None:
    page = phone
    page.goto("/sessions/1/preflight")
    expect(page.get_by_role("heading", name="1. Airframe, propellers")).to_be_visible()
    assert steps(page) == 4
    # Reload in the middle of it: what was ticked is still ticked.
    page.get_by_role("checkbox", name="Arms: unfolded").tap()
    expect(page.get_by_role("checkbox", name="Arms: unfolded")).to_be_checked()
    server.kill()
    server.start()
    page.reload()
    expect(page.get_by_role("checkbox", name="Arms: unfolded")).to_be_checked()
    assert page.evaluate("document.documentElement.scrollWidth") == PHONE["width"]
    walk_through(page, lambda it: it.tap())


def test_a_swipe_to_the_right_ticks_and_any_other_does_not(phone: Page) -> None:
    phone.goto("/sessions/1/preflight")
    row = phone.get_by_role("listitem", name="Gimbal cover off")
    box = phone.get_by_role("checkbox", name="Gimbal cover off")
    expect(box).to_be_visible()
    for dx, dy in ((30, 0), (-120, 0), (100, 90)):
        row.dispatch_event("pointerdown", {"pointerType": "touch", "clientX": 150, "clientY": 300})
        row.dispatch_event("pointerup", {"pointerType": "touch", "clientX": 150 + dx, "clientY": 300 + dy})
        expect(box).not_to_be_checked()
    row.dispatch_event("pointerdown", {"pointerType": "touch", "clientX": 150, "clientY": 300})
    row.dispatch_event("pointerup", {"pointerType": "touch", "clientX": 260, "clientY": 310})
    expect(box).to_be_checked()


def test_the_whole_walkround_by_keys_alone(page: Page) -> None:
    page.set_viewport_size({"width": PHONE["width"], "height": PHONE["height"]})
    page.goto("/sessions/1/preflight")
    boxes = page.get_by_role("checkbox")
    expect(boxes.first).to_be_visible()
    boxes.first.focus()
    for n in range(2):
        expect(boxes.nth(n)).to_be_focused()
        page.keyboard.press("Space")
        expect(boxes.nth(n)).to_be_checked()
        page.keyboard.press("ArrowDown")
    expect(boxes.nth(2)).to_be_focused()
    walk_through(page, lambda it: it.press("Enter"))


def test_skips_want_a_reason_and_faults_stop_the_gate(page: Page) -> None:
    page.goto("/sessions/1/preflight")
    row = page.get_by_role("listitem", name="Gimbal cover off")
    row.get_by_role("button", name="Skip").click()
    expect(row.get_by_role("button", name="Skip it")).to_be_disabled()
    row.get_by_label("Why is it skipped?").fill("It has none.")
    row.get_by_role("button", name="Skip it").click()
    expect(row).to_contain_text("It has none.")
    blades = page.get_by_role("listitem", name="Blades: no nicks")
    blades.get_by_role("button", name="Fault").click()
    expect(blades.get_by_role("alert")).to_contain_text("Change both blades of that motor.")
    expect(page.get_by_text("This step has a fault.")).to_be_visible()
    expect(page.get_by_text("A fault is open")).to_be_visible()
    blades.get_by_role("button", name="Fixed").click()
    expect(page.get_by_text("This step has a fault.")).to_have_count(0)


def test_a_decision_rests_on_what_was_said_while_the_server_was_away(page: Page, server: Server) -> None:
    page.goto("/sessions/1/preflight")
    arms = page.get_by_role("checkbox", name="Arms: unfolded")
    expect(arms).to_be_visible()
    server.kill()
    arms.click()
    expect(arms).to_be_checked()
    expect(page.get_by_text("One answer is saved on this device")).to_be_visible()
    page.get_by_role("button", name="Launch, wait or stand down").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Stand down", exact=True).click()
    keep = dialog.get_by_role("button", name="Save decision")
    keep.click()
    expect(dialog.get_by_role("alert").filter(has_text="reach Lark’s server")).to_be_visible()
    server.start()
    keep.click()
    page.get_by_role("region", name="Decisions").get_by_role("link").click()
    expect(page.get_by_text("1 item done.")).to_be_visible()


def test_an_aircraft_that_behaves_badly_is_flagged_and_its_values_taken_in(page: Page) -> None:
    page.goto("/sessions/1/preflight")
    said = page.get_by_label("Read from the aircraft")
    expect(said).to_contain_text("17")
    page.get_by_role("button", name=re.compile("^Use the aircraft’s values")).click()
    expect(page.get_by_role("button", name="The plan has what it says")).to_be_visible()
    expect(verdict(page)).not_to_contain_text("not checked")

    def behave(way: str) -> None:
        choose(page, "The simulated aircraft behaves", way)

    behave("return height at 20 m")
    low = "Return height is set to 20 m on the aircraft, this place wants 30 m."
    expect(page.get_by_text(low)).to_be_visible()
    page.get_by_role("button", name=re.compile("^Use the aircraft’s values")).click()
    expect(verdict(page)).to_contain_text("Don’t launch")
    behave("few satellites")
    page.get_by_role("button", name=re.compile("^Use the aircraft’s values")).click()
    page.get_by_role("button", name=re.compile("position and home point", re.IGNORECASE)).click()
    expect(page.get_by_role("listitem", name="Satellites")).to_contain_text("does not hold its position")
    behave("compass disturbed")
    expect(page.get_by_text("Compass error")).to_be_visible()
    behave("silent")
    expect(page.get_by_text(re.compile("^Silent for [345] s"))).to_be_visible()
    expect(page.get_by_label("Read from the aircraft")).to_have_count(0)


def test_the_look_round_enters_the_plan(page: Page) -> None:
    page.goto("/sessions/1/site")
    looks = page.get_by_role("list", name="Site survey")
    wires = looks.get_by_role("listitem", name="Any wires not on the map?")
    wires.get_by_role("button", name="Yes").click()
    type_in(wires, "How high", "45")
    type_in(wires, "How far", "100")
    wires.get_by_role("button", name="Add to plan").click()
    # A wire of 45 m within the flight's distance: the return height of 40 m does not clear it.
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("button", name="Undo").click()
    expect(verdict(page)).not_to_contain_text("Don’t launch")
    for name in (
        "Trees or hedges", "Any mast", "Trees or walls", "Any people under", "Birds", "Anything above", "Sand",
        "An emergency vehicle", "A landing ban",
    ):  # fmt: skip
        looks.get_by_role("listitem", name=name).get_by_role("button", name="No").click()
    expect(page.get_by_text("all answered")).to_be_visible()
    saved(page)
    page.reload()
    expect(page.get_by_text("all answered")).to_be_visible()


def test_the_wind_meters_reading_is_judged_against_the_forecast(page: Page) -> None:
    page.goto("/sessions/1/site")
    page.get_by_role("button", name=re.compile("^Use this wind at 2 m")).click()
    expect(page.get_by_text(re.compile(r"^At 2 m you measured \d\.\d m/s; the forecast has 1\.7 m/s"))).to_be_visible()
    expect(field(page, "Wind at 2 m")).to_be_visible()


def test_the_hover_check_counts_down_and_takes_the_lean(page: Page) -> None:
    page.goto("/sessions/1/preflight")
    page.get_by_role("button", name="10 s, low").click()
    expect(page.get_by_role("timer")).to_contain_text(re.compile(r"\d+ s"))
    page.get_by_role("button", name=re.compile("^The tilt: 6°, as read")).click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^(Take|Use|Add)")).click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_text(re.compile(r"Checked with \d+\.\d m/s"))).to_be_visible()
    expect(page.get_by_role("timer")).to_contain_text("Time is up", timeout=15_000)


def test_against_the_verdict_a_reason_is_asked_for(page: Page) -> None:
    page.goto("/sessions/7/preflight")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("button", name="Launch, wait or stand down").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Launch", exact=True).click()
    expect(dialog).to_contain_text("Give a reason for launching against the verdict.")
    expect(dialog.get_by_role("button", name="Save decision")).to_be_disabled()
    dialog.get_by_label("Reason for launching").fill("It is a test flight over my own field.")
    say_all(dialog)
    dialog.get_by_role("button", name="Save decision").click()
    expect(dialog).to_have_count(0)


def test_a_boat_drifts_away_from_its_home_point(page: Page) -> None:
    page.goto("/sessions/9/preflight")
    # The speed is the plan's own: what is judged and what is counted here are the same.
    expect(field(page, "The deck moves at")).to_have_value("0.1")
    type_in(page, "The deck moves at", "8")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("button", name="Home point set now").click()
    expect(page.get_by_text("It would return to where the boat was, not to you.")).to_be_visible()
    page.get_by_role("button", name="Home point set now").click()
    expect(page.get_by_text("It would return to where the boat was, not to you.")).to_have_count(0)


def test_that_nobody_is_there_counts_only_while_it_is_said(page: Page) -> None:
    page.goto("/sessions/9/site")
    people = page.get_by_role("listitem", name="Any people under the route?")
    no = people.get_by_role("button", name="No")
    expect(verdict(page)).to_contain_text("5 not checked")
    # Said, taken back and said again, each time with what the button shows: it is what a second press goes by.
    for said, open_now in ((True, 4), (False, 5), (True, 4)):
        with page.expect_response("**/api/sessions/9/on-site*"):
            no.click()
        expect(no).to_have_attribute("aria-pressed", str(said).lower())
        expect(verdict(page)).to_contain_text(f"{open_now} not checked")
        saved(page)  # nothing moves under the next press
    people.get_by_role("button", name="Yes").click()
    expect(verdict(page)).to_contain_text("5 not checked")


def test_a_drawing_that_fails_leaves_all_around_it(browser: Browser, server: Server) -> None:
    """A chart that throws takes neither the plan with it, nor the clock, nor Emergency."""
    context = open_context(browser, server)
    page = context.new_page()
    spoiled = {"slots": [], "curtain": None, "planned": [], "best": []}
    page.route("**/api/windows**", lambda route: route.fulfill(json=spoiled))
    page.goto("/sessions/1/plan?view=when")
    expect(page.get_by_role("alert")).to_contain_text("This part can’t be shown")
    expect(verdict(page)).to_contain_text("Within limits")
    expect(page.get_by_role("button", name="Emergency")).to_be_visible()
    type_in(page, "Wind at 10 m", "9")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("tab", name="Limits").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    context.close()

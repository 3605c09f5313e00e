"""The eye to its end: by keyboard with a known eye, by touch on a phone, stopped and gone on with, the server gone."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Server

KEYS = {"away": "ArrowUp", "towards": "ArrowDown", "left": "ArrowLeft", "right": "ArrowRight"}
WORDS = {"away": "Away", "towards": "To me", "left": "Left", "right": "Right"}
OTHER = {"away": "left", "left": "right", "right": "towards", "towards": "away"}
SHOWN_AFTER_MS = 750


def begin(page: Page, cm: int = 150) -> None:
    page.goto("/practice/eye")
    # By what a browser takes a millimetre for.
    page.get_by_role("button", name="It is as large").click()
    box = page.get_by_role("textbox", name="From your eyes to the screen")
    box.fill(str(cm))
    box.press("Enter")
    page.get_by_role("button", name="Begin").click()


def look(page: Page, count: int, seen_px: float, say: Callable[[str], None]) -> None:
    """Answer so many, right where it is drawn at least so wide, and wrong else."""
    sky: Locator = page.get_by_role("img", name="The sky")
    for _ in range(count):
        page.clock.run_for(SHOWN_AFTER_MS)
        expect(sky).to_have_attribute("data-phase", "shown")
        drawn = sky.locator("svg")
        width = float(drawn.get_attribute("width") or 0)
        way = sky.get_attribute("data-shown") or ""
        say(way if width >= seen_px else OTHER[way])


def test_an_eye_that_is_known_is_found_and_taken_by_the_pilots_word(page: Page) -> None:
    begin(page)
    room = page.request.get("/api/practice/eye").json()
    aircraft, trials = room["aircraft"][0], room["trials"]
    # Seen where it is 12 pixels wide, at 96 pixels an inch and a metre and a half away.
    seen_m = aircraft["size_m"] * 1500 * 96 / 25.4 / 12
    look(page, trials, 12, lambda way: page.keyboard.press(KEYS[way]))
    found = page.get_by_role("list", name="What was found").get_by_role("listitem").first
    expect(found).to_contain_text(aircraft["name"])
    latest = page.request.get("/api/practice/eye").json()["looks"][0]
    assert latest["low_m"] <= seen_m <= latest["high_m"]
    assert latest["own_m"] <= min(latest["low_m"], latest["formula_m"])
    assert page.request.get("/api/minimums").json()["settings"]["minimums"]["sight_rule"] == "attitude"
    found.get_by_role("button", name=re.compile("as my line of sight$")).press("Enter")
    expect(found).to_contain_text("is your line of sight in Minimums")
    minimums = page.request.get("/api/minimums").json()["settings"]["minimums"]
    assert (minimums["sight_rule"], minimums["sight_own_m"]) == ("own", latest["own_m"])


def test_a_look_by_touch_is_gone_on_with_and_waits_for_the_server(phone: Page, server: Server) -> None:
    trials = phone.request.get("/api/practice/eye").json()["trials"]

    def tap(way: str) -> None:
        phone.get_by_role("group", name="Which way does it point?").get_by_role("button", name=WORDS[way]).tap()

    begin(phone)
    look(phone, 3, 0, tap)
    expect(phone.get_by_text(f"4 of {trials}.")).to_be_visible()
    phone.get_by_role("button", name="Stop; go on later").tap()
    phone.reload()
    expect(phone.get_by_text(f"3 of {trials} answered")).to_be_visible()
    server.kill()
    phone.get_by_role("button", name="Go on").tap()
    look(phone, trials - 3, 10, tap)
    expect(phone.get_by_text("A look waits on this device for the server")).to_be_visible()
    server.start()
    phone.clock.run_for(6_000)
    expect(phone.get_by_role("list", name="What was found")).to_be_visible()
    expect(phone.get_by_text("A look waits on this device")).to_have_count(0)


def test_a_screen_that_cannot_draw_so_far_says_from_where_it_can(page: Page) -> None:
    page.goto("/practice/eye")
    page.get_by_role("button", name="Coin").click()
    as_large = page.get_by_role("button", name="It is as large")
    expect(as_large).to_be_disabled()
    page.get_by_label("Diameter of the coin").fill("23.25")
    expect(page.get_by_role("img", name="The coin")).to_be_visible()
    as_large.click()
    expect(page.get_by_text(re.compile("not far enough.* Look from [0-9]+ cm or more"))).to_be_visible()
    expect(page.get_by_role("button", name="Begin")).to_be_disabled()

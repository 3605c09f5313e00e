"""Flights to bring home, flown to their end: by touch, by keyboard, by a link, and without the server."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, settled
from zealous_lark.cases.homeward import kind_of
from zealous_lark.core.homeward.mishap import Kind


def seed_of(kind: Kind) -> int:
    return next(seed for seed in range(1, 200) if kind_of(seed) is kind)


def on(page: Page, until: str, most_s: int = 240) -> None:
    """Let time pass until something is there."""
    for _ in range(most_s):
        if page.get_by_text(re.compile(until)).first.is_visible():
            return
        page.clock.run_for(1000)
    raise AssertionError(f"{until} never came")


def test_a_flight_is_brought_home_by_touch_and_what_else_could_have_been_is_shown(phone: Page) -> None:
    phone.goto("/practice")
    phone.get_by_role("link", name="Fly one", exact=True).tap()
    expect(phone.get_by_role("heading", name="Bring it home")).to_be_visible()
    phone.goto(f"/practice/home/{seed_of(Kind.DRAIN)}")
    expect(phone.get_by_text("You take over")).to_be_visible()
    phone.get_by_role("button", name="16 times").tap()
    phone.get_by_role("button", name="Take over").tap()
    # All there is to do is on the screen at once.
    expect(phone.get_by_role("button", name="Walk into the open")).to_be_in_viewport(ratio=1)
    expect(phone.get_by_role("log")).to_contain_text("Filming")
    phone.clock.run_for(3000)
    phone.get_by_role("button", name="Pause").tap()
    stopped = phone.get_by_text("Flight time").locator("..").inner_text()
    phone.clock.run_for(5000)
    assert phone.get_by_text("Flight time").locator("..").inner_text() == stopped
    phone.get_by_role("button", name="Go on").tap()
    phone.clock.run_for(3000)
    # Stopped, two things are said in one moment, and both are done.
    phone.get_by_role("button", name="Pause").tap()
    phone.get_by_role("button", name="Fast mode").tap()
    phone.get_by_role("button", name="Fly manually").tap()
    expect(phone.get_by_role("status")).to_contain_text("Fly manually")
    phone.get_by_role("button", name="Go on").tap()
    phone.clock.run_for(500)
    expect(phone.get_by_text("Flying home manually, fast mode")).to_be_visible()
    on(phone, "^What each choice would have led to$")
    expect(phone.get_by_role("heading", name=re.compile(r"^Home with \d+%\.$"))).to_be_visible()
    expect(phone.get_by_text("Part of the charge fell away at once")).to_be_visible()
    on(phone, "Had you done nothing, it could have been brought home until")
    expect(phone.get_by_role("heading", name="Emergency text: Battery draining fast")).to_be_visible()
    marks = phone.get_by_role("region", name="Choices by moment")
    marks.get_by_role("button", name=re.compile("^Wait at .*, and nothing more: down")).first.tap()
    expect(phone.get_by_role("status").filter(has_text="and nothing more")).to_contain_text("Wait at")
    phone.get_by_role("button", name="With the best that could follow").tap()
    expect(phone.get_by_role("status").filter(has_text="Wait at")).to_contain_text("then")
    # Reloaded it is the same flight, and it was kept once.
    address = phone.url
    assert "did=" in address
    phone.reload()
    expect(phone.get_by_role("heading", name=re.compile(r"^Home with \d+%\.$"))).to_be_visible()

    def kept() -> list[list[str]]:
        kinds = phone.request.get("/api/practice/home").json()["kinds"]
        return [k["ends"] for k in kinds if k["kind"] == "drain" and k["ends"]]

    # It goes up in the background, and is reviewed there first.
    assert settled(phone, kept) == [["home"]]
    phone.get_by_role("link", name="That’s enough").tap()
    expect(phone.get_by_role("list", name="Flights so far")).to_contain_text("Battery draining fast")


def test_who_does_nothing_by_keyboard_learns_until_when(page: Page) -> None:
    page.goto(f"/practice/home/{seed_of(Kind.BIRD)}")
    page.get_by_role("button", name="Take over").press("Enter")
    expect(page.get_by_role("log")).to_contain_text("Filming")
    on(page, "A bird dives at the aircraft")
    page.keyboard.press("4")  # lower: not what one does
    expect(page.get_by_role("status")).to_contain_text("Lower")
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Go on")).to_be_visible()
    page.keyboard.press(" ")
    on(page, "^What each choice would have led to$")
    expect(page.get_by_role("heading", name="The bird struck it.")).to_be_visible()
    expect(page.get_by_text("Best of all that was tried")).to_contain_text("home with")
    expect(page.get_by_text("The last moment looked at")).to_be_visible()
    page.get_by_role("button", name="Fly this one again").press("Enter")
    expect(page.get_by_role("button", name="Take over")).to_be_visible()


def test_a_flight_that_was_left_in_the_air_goes_on_where_it_was(page: Page) -> None:
    seed = seed_of(Kind.HEADWIND)
    page.goto(f"/practice/home/{seed}")
    page.get_by_role("button", name="16 times").click()
    page.get_by_role("button", name="Take over").click()
    page.clock.run_for(3000)
    page.get_by_role("button", name="Climb").click()
    page.clock.run_for(2000)
    page.get_by_role("button", name="Pause").click()
    left = page.get_by_text("Flight time").locator("..").inner_text().split()[-1]
    page.reload()
    page.get_by_role("button", name=f"Go on at {left}").click()
    expect(page.get_by_role("status")).to_contain_text("Climb")
    page.clock.run_for(1000)
    page.get_by_role("button", name="Fly manually").click()
    on(page, "^What each choice would have led to$")
    assert "-climb.." in page.url
    # It has ended: nothing is left in the air.
    page.get_by_role("button", name="Fly this one again").click()
    expect(page.get_by_role("button", name="Take over", exact=True)).to_be_visible()


def test_a_link_shows_a_flight_as_it_was_flown_and_keeps_nothing(page: Page) -> None:
    seed = seed_of(Kind.PAD)
    turn = page.request.get(f"/api/practice/home/{seed}").json()["turn_s"]
    page.goto(f"/practice/home/{seed}?did={turn:g}-turn_back")
    expect(page.get_by_role("heading", name="It landed where somebody stood.")).to_be_visible()
    on(page, "then waiting at")
    assert all(k["ends"] == [] for k in page.request.get("/api/practice/home").json()["kinds"])
    # What is nothing of the kind is a flight that was not flown yet.
    page.goto(f"/practice/home/{seed}?did=12-dance")
    expect(page.get_by_role("button", name="Take over")).to_be_visible()


def test_who_was_down_before_it_began_is_told_so(page: Page) -> None:
    seed = seed_of(Kind.PAD)
    begins = page.request.get(f"/api/practice/home/{seed}").json()["begins_s"]
    page.goto(f"/practice/home/{seed}?did={begins:g}-land")
    expect(page.get_by_text("You were down before it began, at")).to_be_visible()
    expect(page.get_by_role("progressbar")).to_have_count(0)
    expect(page.get_by_role("region", name="Choices by moment")).to_have_count(0)


def test_what_is_no_flight_leads_back(page: Page) -> None:
    page.goto("/practice/home/0")
    expect(page.get_by_role("alert")).to_contain_text("no flight 0")
    page.get_by_role("link", name="Practice").last.click()
    expect(page.get_by_role("heading", name="Practice", exact=True)).to_be_visible()


def test_the_video_that_froze_shows_what_was_last_seen(page: Page) -> None:
    page.goto(f"/practice/home/{seed_of(Kind.PICTURE)}")
    page.get_by_role("button", name="Take over").click()
    on(page, "The video stands still")
    seen = page.get_by_text("As last seen at").inner_text()
    page.clock.run_for(3000)
    assert page.get_by_text("As last seen at").inner_text() == seen


@pytest.mark.soak
def test_flights_made_ahead_are_flown_without_the_server_and_go_up(phone: Page, server: Server) -> None:
    phone.goto("/practice")
    phone.get_by_role("button", name="Make cases ahead").tap()
    expect(phone.get_by_text("240 cases here")).to_be_visible(timeout=240_000)
    server.kill()
    phone.get_by_role("link", name="Fly one", exact=True).tap()
    phone.get_by_role("button", name="16 times").tap()
    phone.get_by_role("button", name="Take over").tap()
    phone.clock.run_for(1000)
    phone.get_by_role("button", name="Return to home").tap()
    on(phone, "^What each choice would have led to$")
    phone.get_by_role("link", name="That’s enough").tap()
    expect(phone.get_by_text("One flight waits on this device")).to_be_visible()
    phone.get_by_role("link", name="Fly one", exact=True).tap()
    expect(phone.get_by_text("You take over")).to_be_visible()
    phone.get_by_role("link", name="Practice", exact=True).first.tap()
    server.start()
    expect(phone.get_by_text("flight waits on this device")).to_have_count(0)
    assert sum(len(k["ends"]) for k in phone.request.get("/api/practice/home").json()["kinds"]) == 1

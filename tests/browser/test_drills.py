"""Drills: on a phone in the field, with the server gone, and the course that ends first flights."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server


def standing(page: Page, key: str) -> dict[str, object]:
    found: list[dict[str, object]] = page.request.get("/api/drills").json()["drills"]
    return next(d for d in found if d["key"] == key)


def test_a_drill_from_start_to_result_by_touch_and_through_a_reload(phone: Page) -> None:
    phone.goto("/practice")
    phone.get_by_role("link", name="Hover nose-in").tap()
    here = phone.get_by_role("list", name="Here and now")
    expect(here).to_contain_text("Wind at its height:")
    phone.get_by_role("button", name="Start the drill").tap()
    expect(phone.get_by_role("timer", name="Under way for")).to_be_in_viewport()
    phone.reload()
    expect(phone.get_by_role("timer", name="Under way for")).to_be_visible()
    phone.get_by_label("A note, if you like").fill("It drifted to the left.")
    phone.get_by_role("button", name="Not yet").tap()
    expect(phone.get_by_text("Tried here: not yet. It drifted to the left.")).to_be_visible()
    expect(phone.get_by_text("Tried, not done well yet.")).to_be_visible()
    phone.get_by_role("button", name="Start the drill").tap()
    # Only one at a time.
    phone.get_by_role("link", name="All drills").tap()
    phone.get_by_role("link", name="Open: A square, both ways").tap()
    expect(phone.get_by_text("Another drill is under way.")).to_be_visible()
    phone.get_by_role("link", name="Open it").tap()
    phone.get_by_role("button", name="Done well").tap()
    expect(phone.get_by_text("Done well here.")).to_be_visible()
    phone.get_by_role("link", name="All drills").tap()
    row = phone.get_by_role("listitem", name="Hover nose-in")
    expect(row).to_contain_text("here: done well; done well just now, due again")
    assert (standing(phone, "nose_in")["tries"], standing(phone, "nose_in")["last"] is not None) == (1, True)


def test_a_drill_says_what_keeps_it_and_what_it_asks_for(page: Page) -> None:
    page.goto("/sessions/1/drills/no_hold")
    expect(page.get_by_role("list", name="Here and now")).to_contain_text("this drill takes")
    expect(page.get_by_role("status").filter(has_text="Not here and not now")).to_be_visible()
    expect(page.get_by_role("button", name="Start the drill")).to_have_count(0)
    page.goto("/sessions/1/drills/hand_landing")
    begin = page.get_by_role("button", name="Start the drill")
    expect(begin).to_be_disabled()
    for box in page.get_by_role("checkbox").all():
        box.press("Space")
    begin.press("Enter")
    page.get_by_role("button", name="End without a result").press("Enter")
    expect(begin).to_be_visible()
    assert standing(page, "hand_landing")["tries"] == 0
    page.goto("/sessions/1/drills/loop")
    expect(page.get_by_text("There is no drill loop.")).to_be_visible()


def test_the_result_of_a_drill_waits_for_the_server(phone: Page, server: Server) -> None:
    phone.goto("/sessions/1/drills/find_it")
    phone.get_by_role("button", name="Start the drill").tap()
    server.kill()
    phone.get_by_role("button", name="Done well").tap()
    expect(phone.get_by_text("saved on this device")).to_be_visible()
    expect(phone.get_by_text("Done well here.")).to_be_visible()
    server.start()
    expect(phone.get_by_text("saved on this device")).to_have_count(0, timeout=30_000)
    assert standing(phone, "find_it")["tries"] == 1


def test_on_first_flights_the_course_is_shown_and_ends_them_or_the_pilots_word_does(page: Page) -> None:
    page.goto("/minimums")
    switch = page.get_by_role("switch", name=re.compile("^First flights"))
    switch.click()
    expect(page.get_by_text("First flights, session 1 of 5.")).to_be_visible()
    page.goto("/sessions/1/prepare")
    expect(page.get_by_text("A square, both ways; Battery change under calls.")).to_be_visible()
    page.goto("/minimums")
    switch.click()
    asked = page.get_by_role("dialog", name="End first flights?")
    expect(asked).to_contain_text("Next in it: A square, both ways; Battery change under calls.")
    asked.get_by_role("button", name="Keep first flights").click()
    expect(switch).to_be_checked()
    switch.click()
    asked.get_by_role("button", name="End them by my word").click()
    expect(switch).not_to_be_checked()
    assert page.request.get("/api/minimums").json()["settings"]["first_flights"] is False


def test_the_preflight_of_first_flights_shows_its_drills(page: Page) -> None:
    page.goto("/sessions/1/prepare")
    page.get_by_role("button", name=re.compile("^How long things take")).click()
    page.get_by_role("switch", name="First flights").click()
    page.get_by_role("link", name="Preflight").click()
    expect(page.get_by_role("heading", name="Drills")).to_be_visible()
    page.get_by_role("link", name="Open the drills").click()
    expect(page.get_by_role("heading", name="Next")).to_be_visible()
    expect(page.get_by_role("listitem", name="A square, both ways")).to_be_visible()

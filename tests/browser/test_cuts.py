"""Sessions in the field with a network that is cut between any two requests: nothing is lost, nothing is doubled.

A request is cut before it reaches the server, or after the server has done what it asks and before its answer is
back, which is the harder of the two. A few here, 200 in `make soak` (LARK_CUTS; LARK_CUTS_FROM the first seed).
"""

from __future__ import annotations

import os
import random
from collections.abc import Callable
from contextlib import suppress

import pytest
from playwright.sync_api import Browser, Error, Page, Route, expect

from tests.browser.conftest import PHONE, Server, open_context, watched
from tests.browser.test_along import take_along
from tests.browser.test_flight import land
from tests.browser.test_pilot import field, type_in

SESSIONS, FIRST = int(os.environ.get("LARK_CUTS", "4")), int(os.environ.get("LARK_CUTS_FROM", "0"))
CUT, LOST = 0.35, 0.25
"""Shares of the requests that never arrive, and of those whose answer does not."""


class Cuts:
    """What lies between a phone and the server, by seed."""

    def __init__(self, seed: int) -> None:
        self.rng = random.Random(seed)
        self.on = True
        self.requests = self.cut = 0

    def __call__(self, route: Route) -> None:
        self.requests += 1
        drawn = self.rng.random() if self.on else 1.0
        self.cut += drawn < CUT + LOST
        # A page that was left meanwhile has let go of its request.
        with suppress(Error):
            if CUT <= drawn < CUT + LOST:
                route.fetch()
            if drawn < CUT + LOST:
                route.abort()
            else:
                route.continue_()


def ticks(phone: Page) -> list[tuple[str, bool]]:
    boxes = phone.locator("[data-tick]")
    return [(b.get_attribute("aria-label") or "", b.get_attribute("aria-checked") == "true") for b in boxes.all()]


def go(phone: Page, session: int, stage: str) -> None:
    """A page of the session, opened new or reached by its stage's link."""
    phone.goto(f"/sessions/{session}/{stage}")


def tick_some(phone: Page, session: int, rng: random.Random, said: dict[str, bool]) -> None:
    go(phone, session, "preflight")
    expect(phone.locator("[data-tick]").first).to_be_visible()
    for name, checked in rng.sample(ticks(phone), 3):
        box = phone.get_by_role("checkbox", name=name, exact=True)
        if box.get_attribute("aria-disabled") == "true":
            continue
        box.click()
        expect(box).to_have_attribute("aria-checked", "false" if checked else "true")
        said[name] = not checked


def wind(phone: Page, session: int, rng: random.Random) -> float:
    go(phone, session, "plan")
    speed = rng.randint(20, 60) / 10
    type_in(phone, "Wind at 10 m", f"{speed}")
    expect(field(phone, "Wind at 10 m")).to_have_value(f"{speed:.1f}")
    return speed


def one_session(phone: Page, cuts: Cuts, session: int) -> tuple[dict[str, bool], float | None, int | None]:
    """Some of everything, in any order; what was said last, the wind typed last, and the charge landed with."""
    rng, said, speed, charge = cuts.rng, {}, None, None
    for what in rng.choices(("ticks", "wind", "flight"), k=rng.randint(2, 4)):
        if what == "ticks":
            tick_some(phone, session, rng, said)
        elif what == "wind":
            speed = wind(phone, session, rng)
        elif charge is None:
            charge = rng.randint(35, 80)
            go(phone, session, "flight")
            # Notes come and go above the button: a tap that hit nothing is made again, as a thumb would.
            start, timer = phone.get_by_role("button", name="Start flight clock"), phone.get_by_role("timer")
            expect(start).to_be_visible()
            while start.count():
                start.click()
                with suppress(AssertionError):
                    expect(timer).to_be_visible(timeout=3_000)
            land(phone, charge)
    return said, speed, charge


def kept(phone: Page, session: int) -> tuple[dict[str, bool], float, list[float | None]]:
    """What the server has of a session: answers, the wind, the charge that each flight landed with."""
    get = phone.request.get
    answers = get(f"/api/sessions/{session}/answers/walkround").json()["answers"]
    plan = get(f"/api/sessions/{session}").json()["plan"]
    flights = [f for f in get("/api/flights").json()["flights"] if f["session_id"] == session]
    return answers, plan["weather"]["winds"][0]["speed_ms"], [f["entry"]["charge_to_pct"] for f in flights]


@pytest.mark.timeout(7_200)
def test_nothing_is_lost_and_nothing_doubled(
    server: Server, browser: Browser, record_property: Callable[[str, object], None]
) -> None:
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    phone, faults = watched(context)
    phone.goto("/sessions")
    base = phone.request.get("/api/sessions/1").json()["plan"]
    requests = cut = 0
    for seed in range(FIRST, FIRST + SESSIONS):
        made = phone.request.post("/api/sessions/import", data={**base, "title": f"In the field {seed}"}).json()["id"]
        # A table for every one of two hundred would take the server an hour, and nothing here looks one up.
        phone.route("**/field-tables*", lambda route: route.fulfill(status=404, json={"message": "Not here"}))
        take_along(phone, made)
        cuts = Cuts(seed)
        context.route("**/api/**", cuts)
        said, speed, charge = one_session(phone, cuts, made)
        wanted = [] if charge is None else [charge]
        cuts.on = False
        for _ in range(120):
            answers, wind_now, landed = kept(phone, made)
            done = sum(said.values()) == len(answers) and (speed is None or wind_now == speed)
            if done and landed == wanted:
                break
            phone.wait_for_timeout(250)
        assert sum(said.values()) == len(answers), f"seed {seed}: {said} against {answers}"
        assert speed is None or wind_now == speed, f"seed {seed}: wind {speed} against {wind_now}"
        assert landed == wanted, f"seed {seed}: flights landed with {landed}, not {wanted}"
        context.unroute("**/api/**")
        requests, cut = requests + cuts.requests, cut + cuts.cut
    record_property("sessions", SESSIONS)
    record_property("requests", f"{cut:,} of {requests:,} cut")
    assert cut > requests / 4
    context.close()
    assert faults == []

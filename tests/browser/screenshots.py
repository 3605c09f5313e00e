"""`make screenshots`: one current picture of each main view, from the demo data."""

from __future__ import annotations

import re
import sys
import tempfile
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect, sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS, PHONE, Server, days_to, open_context
from tests.browser.test_along import measure as measure_by_hand
from tests.browser.test_along import take_along
from tests.browser.test_prepare import tell
from tests.make import EXAMPLES

TODAY = "2026-09-26"
POLLS = re.compile("/(preflight|site|flight|observer/\\d+)$")
"""Screens that ask again and again are never idle."""


@dataclass(frozen=True)
class Shot:
    """A view: where it is, in which theme and size, and what to do before the picture; the whole page or the window.

    Views of one name are one picture, side by side.
    """

    name: str
    address: str
    theme: str = "light"
    phone: bool = False
    before: Callable[[Page], None] | None = None
    whole: bool = False


def measure(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Use this wind")).click()
    page.get_by_text("you measured").wait_for()
    page.evaluate(
        "[...document.querySelectorAll('h2')].find((h) => h.textContent === 'The wind here').scrollIntoView()"
    )
    page.evaluate("document.documentElement.scrollTop -= 150")


def walk(page: Page) -> None:
    page.get_by_role("checkbox").first.wait_for()
    for box in page.get_by_role("checkbox").all()[:3]:
        box.click()
    page.get_by_label("Read from the aircraft").wait_for()


def frost(page: Page) -> None:
    tell(page, day="frost_fog")
    page.get_by_role("button", name="Get the forecasts").click()
    page.get_by_text("before that: ice").first.wait_for()


def renewed(page: Page) -> None:
    page.get_by_role("button", name="Look now").click()
    expect(page.get_by_role("button", name="Look now")).to_be_enabled()
    tell(page, day="front")
    page.get_by_role("button", name="Look now").click()
    page.get_by_role("link", name=re.compile("Now ")).first.wait_for()


def to_the_land(page: Page) -> None:
    page.get_by_role("group", name=re.compile("^Side view towards")).wait_for()


def to_the_section(page: Page) -> None:
    field = page.get_by_role("textbox", name="Distance", exact=True)
    field.fill("520")
    field.press("Enter")
    page.get_by_role("textbox", name="Bearing out", exact=True).fill("50")
    page.get_by_role("textbox", name="Bearing out", exact=True).press("Enter")
    page.get_by_role("group", name=re.compile("^Side view towards 050")).wait_for()
    page.evaluate(
        "[...document.querySelectorAll('h3')].find((h) => h.textContent.startsWith('Side view')).scrollIntoView()"
    )


def choose_wood(page: Page) -> None:
    page.get_by_role("button", name="wood on the esker").first.click()
    page.get_by_role("region", name="wood on the esker").wait_for()


def review(page: Page) -> None:
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import map data").click()
    chooser.value.set_files(EXAMPLES / "sarvik-map.osm")
    page.get_by_role("dialog", name="What the map has here").wait_for()


def in_the_air(page: Page) -> None:
    page.get_by_role("button", name="Start flight clock").click()
    for seconds, charge in ((150, 90), (150, 85), (150, 80), (150, 70), (150, 65), (90, 60)):
        page.clock.fast_forward(seconds * 1000)
        page.get_by_role("group", name="Charge reading").get_by_role("button", name=f"{charge}%", exact=True).click()
        page.get_by_role("button", name=f"Undo {charge}%").wait_for()
    page.clock.fast_forward(30_000)
    page.get_by_text("Halfway to turn-back").wait_for()
    page.get_by_text("Everything is on the server.").wait_for()


def along(page: Page) -> None:
    take_along(page)
    page.get_by_role("region", name="Take along").scroll_into_view_if_needed()


def by_tables(page: Page) -> None:
    take_along(page)
    page.context.route("**/api/**", lambda route: route.abort())
    page.goto("/sessions/1/site")
    measure_by_hand(page, "1.6")
    page.get_by_role("status", name="Verdict").click()


def in_field_mode(page: Page) -> None:
    page.get_by_role("button", name="Menu").click()
    page.get_by_role("button", name="Field mode").click()
    walk(page)


def called(page: Page) -> None:
    page.get_by_role("button", name="Menu").click()
    page.get_by_role("button", name="Field mode").click()
    page.get_by_role("button", name="Start flight clock").click()
    page.clock.fast_forward(720_000)
    page.get_by_role("button", name="Heard: hold to silence").wait_for()
    page.get_by_text("Everything is on the server.").wait_for()


def observed(page: Page) -> None:
    page.get_by_role("button", name="Start flight clock").click()
    page.get_by_text("Everything is on the server.").wait_for()
    page.goto("/observer/7")
    page.get_by_role("alert", name="Alert now").wait_for()


def practised(page: Page) -> None:
    page.get_by_role("button", name="Launch", exact=True).click()
    page.get_by_role("radio", name="Return height (min)").check()
    page.get_by_role("button", name="80%").click()
    page.get_by_role("button", name="Mark it").click()
    page.get_by_role("heading", name="What decided").wait_for()


def brought_home(page: Page) -> None:
    page.get_by_role("region", name="Choices by moment").scroll_into_view_if_needed()
    page.wait_for_timeout(1500)
    page.evaluate("window.scrollTo(0, 480)")


def looked(page: Page) -> None:
    page.get_by_role("button", name="It is as large").click()
    box = page.get_by_role("textbox", name="From your eyes to the screen")
    box.fill("150")
    box.press("Enter")
    page.get_by_role("switch", name=re.compile("^Leave it there")).click()
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("img", name="The sky").locator("svg").wait_for()


def emergency(page: Page) -> None:
    page.get_by_role("button", name="Emergency").click()
    page.get_by_role("button", name=re.compile("^Can.t get home")).click()
    page.get_by_role("region", name="This flight").wait_for()


def taught(page: Page) -> None:
    page.get_by_role("region", name="Dunlin: consumption and battery health").wait_for()


def track(page: Page) -> None:
    page.get_by_text("Wind from the track").wait_for()


# What a page says while it waits for something, and a decision that cannot be recorded yet.
BUSY = """() => !/Checking…|Loading…|Saving…/.test(document.body.innerText)
  && ![...document.querySelectorAll('[role=tab]')].some((tab) => tab.textContent.endsWith('…'))
  && ![...document.querySelectorAll('button:disabled')].some((b) => b.textContent === 'Record a decision')"""
STILL = """async () => {
  // What was just drawn begins to change its colours only in the frame after it.
  for (let n = 0; n < 3; n++) await new Promise(requestAnimationFrame);
  await Promise.all(document.getAnimations().map((a) => a.finished.catch(() => 0)));
}"""


def pairing(page: Page) -> None:
    page.get_by_role("switch", name=re.compile("^Let paired devices")).click()
    page.get_by_role("button", name="Make a code").click()
    expect(page.get_by_role("img", name=re.compile("^Camera code"))).to_be_visible()


def settled(page: Page) -> None:
    """Wait until a page waits for nothing and nothing on it moves."""
    page.wait_for_load_state("networkidle")
    page.wait_for_function(BUSY)
    page.evaluate(STILL)


SHOTS = [
    Shot("sessions", "/sessions"),
    Shot("plan", "/sessions/1/plan"),
    Shot("plan-phone", "/sessions/2/plan", phone=True),
    Shot("when", "/sessions/1/plan?view=when", before=frost),
    Shot("prepare", "/sessions/7/prepare"),
    Shot("gear", "/gear"),
    Shot("site-preflight-phone", "/sessions/1/site", phone=True, before=measure),
    Shot("site-preflight-phone", "/sessions/1/preflight", theme="dark", phone=True, before=walk),
    Shot("pocket-card", "/api/sessions/1/pocket.html", phone=True),
    Shot("place-editor", "/places/1", before=choose_wood),
    Shot("map-review", "/places/1", before=review),
    Shot("land", "/sessions/2/plan?view=map", before=to_the_land),
    Shot("land", "/sessions/2/plan?view=map", before=to_the_section),
    Shot("logbook", "/logbook", before=taught),
    Shot("track", "/logbook/demo-flight-035", before=track),
    Shot("field-phone", "/sessions/1/prepare", phone=True, before=along),
    Shot("field-phone", "/sessions/1/prepare", phone=True, before=by_tables),
    Shot("field-phone", "/sessions/1/preflight", phone=True, before=in_field_mode),
    Shot("field-phone", "/sessions/1/flight", theme="dark", phone=True, before=called),
    Shot("flight-phone", "/sessions/1/flight", phone=True, before=in_the_air),
    Shot("flight-phone", "/sessions/4/flight", phone=True, before=emergency),
    Shot("flight-phone", "/sessions/7/flight", phone=True, before=observed),
    Shot("practice", "/practice/return-height/2", before=practised),
    Shot("practice", "/practice/home/17?did=420-wait..520-return_home", before=brought_home),
    Shot("practice", "/sessions/1/drills/automatic_return", phone=True),
    Shot("practice", "/practice/eye", phone=True, before=looked),
    Shot("minimums", "/minimums?session=7"),
    Shot("phone", "/phone", before=pairing),
    Shot("forecasts-phone", "/forecasts", phone=True, before=renewed),
]


def side_by_side(views: list[Image.Image]) -> Image.Image:
    """Views as one picture, with a little room between them."""
    room = 16
    width = sum(view.width for view in views) + room * (len(views) - 1)
    whole = Image.new("RGB", (width, max(view.height for view in views)), "white")
    left = 0
    for view in views:
        whole.paste(view, (left, 0))
        left += view.width + room
    return whole


def main(folder: Path) -> None:
    """Take every picture into a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data, sync_playwright() as playwright:
        server = Server(Path(data), away=days_to(TODAY), more=("--field-address", "127.0.0.2"))
        server.start()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        taken: dict[str, list[Image.Image]] = defaultdict(list)
        try:
            for shot in SHOTS:
                options = {"color_scheme": shot.theme} | ({"viewport": PHONE, "has_touch": True} if shot.phone else {})
                context = open_context(browser, server, **options)
                page = context.new_page()
                page.goto(shot.address)
                page.wait_for_load_state("load" if POLLS.search(shot.address) else "networkidle")
                if shot.before:
                    shot.before(page)
                if shot.whole:
                    # A window as tall as the page, so that what sticks to its edges is at its edges.
                    tall = page.evaluate("document.documentElement.scrollHeight")
                    page.set_viewport_size({"width": PHONE["width"], "height": tall})
                settled(page)
                taken[shot.name].append(Image.open(BytesIO(page.screenshot())))
                context.close()
        finally:
            browser.close()
            server.kill()
        for name, views in taken.items():
            side_by_side(views).save(folder / f"{name}.png", optimize=True)


if __name__ == "__main__":
    main(Path(sys.argv[1]))

"""`make screenshots`: one current picture of each main view, from the demo data."""

from __future__ import annotations

import re
import sys
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS, PHONE, Server, open_context

TODAY = "2026-09-26"


@dataclass(frozen=True)
class Shot:
    """A view: where it is, in which theme and size, and what to do before the picture."""

    name: str
    address: str
    theme: str = "light"
    phone: bool = False
    before: Callable[[Page], None] | None = None


def open_rail(page: Page) -> None:
    page.get_by_role("button", name=re.compile("^Ground speed home")).click()


def try_lever(page: Page) -> None:
    open_rail(page)
    page.get_by_role("button", name=re.compile("^Try: Start towards")).click()
    page.get_by_text("Launch with care").first.wait_for()


def by_sight(page: Page) -> None:
    page.get_by_role("button", name="Add a wind").click()
    page.get_by_role("menuitem", name="By what you see").click()
    page.get_by_text("Force 0").wait_for()


def decide(page: Page) -> None:
    page.get_by_role("button", name="Record a decision").click()
    page.get_by_role("dialog").get_by_role("button", name="Wait").click()


def to_the_land(page: Page) -> None:
    page.get_by_role("img", name=re.compile("^Section towards")).wait_for()
    page.get_by_role("heading", name="The land").scroll_into_view_if_needed()
    page.evaluate("[...document.querySelectorAll('h2')].find((h) => h.textContent === 'The land').scrollIntoView()")
    page.evaluate("document.documentElement.scrollTop -= 190")


def to_the_section(page: Page) -> None:
    field = page.get_by_role("textbox", name="Distance", exact=True)
    field.fill("520")
    field.press("Enter")
    page.get_by_role("textbox", name="Bearing out", exact=True).fill("50")
    page.get_by_role("textbox", name="Bearing out", exact=True).press("Enter")
    page.get_by_role("img", name=re.compile("^Section towards 050")).wait_for()
    page.evaluate(
        "[...document.querySelectorAll('h3')].find((h) => h.textContent.startsWith('Section')).scrollIntoView()"
    )


def choose_wood(page: Page) -> None:
    page.get_by_role("button", name="wood on the esker").first.click()
    page.get_by_role("region", name="wood on the esker").wait_for()


SHOTS = [
    Shot("sessions", "/sessions"),
    Shot("sessions-phone", "/sessions", theme="dark", phone=True),
    Shot("plan", "/sessions/1/plan"),
    Shot("plan-dusk", "/sessions/4/plan", theme="dark"),
    Shot("plan-phone", "/sessions/2/plan", phone=True),
    Shot("plan-open-rail", "/sessions/2/plan", before=open_rail),
    Shot("plan-lever-tried", "/sessions/2/plan", before=try_lever),
    Shot("compare", "/sessions/2/compare"),
    Shot("places", "/places"),
    Shot("place-editor", "/places/1", before=choose_wood),
    Shot("land", "/sessions/2/plan", before=to_the_land),
    Shot("land-phone", "/sessions/1/plan", theme="dark", phone=True, before=to_the_land),
    Shot("section", "/sessions/2/plan", before=to_the_section),
    Shot("wind-by-sight", "/sessions/4/plan", phone=True, before=by_sight),
    Shot("decision-dialog", "/sessions/4/plan", before=decide),
    Shot("decision", "/sessions/8/decisions/1"),
    Shot("minimums", "/minimums?session=7"),
    Shot("help", "/help"),
]


def main(folder: Path) -> None:
    """Take every picture into a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data, sync_playwright() as playwright:
        server = Server(Path(data), today=TODAY)
        server.start()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        try:
            for shot in SHOTS:
                options = {"color_scheme": shot.theme} | ({"viewport": PHONE, "has_touch": True} if shot.phone else {})
                context = open_context(browser, server, **options)
                page = context.new_page()
                now = datetime.now().astimezone()
                page.clock.set_fixed_time(datetime.combine(datetime.fromisoformat(TODAY).date(), now.timetz()))
                page.goto(shot.address)
                page.wait_for_load_state("networkidle")
                if shot.before:
                    shot.before(page)
                # Transitions must have ended for the picture to be the same every time.
                page.evaluate("Promise.all(document.getAnimations().map((a) => a.finished.catch(() => 0)))")
                page.screenshot(path=folder / f"{shot.name}.png")
                context.close()
        finally:
            browser.close()
            server.kill()


if __name__ == "__main__":
    main(Path(sys.argv[1]))

"""Whatever plan is accepted, its pages open: no fault, no empty list, no page wider than its window."""

from __future__ import annotations

import json
import os
from datetime import UTC, datetime

from playwright.sync_api import Browser, expect

from tests.browser.conftest import PHONE, Server, open_context, watched
from tests.make import EXAMPLES
from tests.plans.extreme import extreme_plans
from zealous_lark.services.sessions import add_session
from zealous_lark.store import Database

COUNT = int(os.environ.get("LARK_EXTREME", "6"))
"""How many plans are looked at; `make soak` looks at thirty."""
STAGES = ("prepare", "site", "preflight", "flight", "after", "compare")


def test_extreme_plans_break_no_page(browser: Browser, server: Server) -> None:
    example = json.loads((EXAMPLES / "example-plan.json").read_text())
    db = Database(server.folder / "demo")
    numbers = [
        add_session(db, plan, datetime.now(UTC)).session.id for plan in extreme_plans(example, COUNT, seed=1)
    ]  # fmt: skip
    db.close()
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    page, faults = watched(context)
    wrong = []

    def look(address: str) -> None:
        page.goto(address)
        expect(page.get_by_role("main").get_by_role("heading").first).to_be_visible()
        page.wait_for_function("() => !/Checking…|Loading…/.test(document.body.innerText)")
        text = page.locator("body").inner_text()
        wrong.extend(
            f"{address}: {said}" for said in ("can’t be shown", "Server error", "NaN", "undefined") if said in text
        )
        if page.evaluate("document.documentElement.scrollWidth > innerWidth"):
            wrong.append(f"{address}: wider than its window")

    for n, number in enumerate(numbers):
        look(f"/sessions/{number}/plan")
        look(f"/sessions/{number}/{STAGES[n % len(STAGES)]}")
    for address in ("/sessions", "/minimums", "/logbook", "/gear"):
        look(address)
    context.close()
    assert wrong == []
    assert faults == []

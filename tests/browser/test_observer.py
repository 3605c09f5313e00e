"""An observer on a second device: where to look, the time, the alerts; nothing to press but to look."""

from __future__ import annotations

import re

from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Server, open_context, watched
from tests.browser.test_flight import aloft_s, land, off, read
from tests.browser.test_sensors import turn


def test_a_flight_is_followed_on_a_second_device(page: Page, browser: Browser, server: Server) -> None:
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    phone, faults = watched(context)
    page.goto("/sessions/1/flight")
    page.get_by_role("button", name="Page for an observer").click()
    asked = page.get_by_role("dialog", name="For an observer")
    expect(asked).to_contain_text("Other devices don’t reach this Lark yet.")
    expect(asked.get_by_role("link", name="Open it here")).to_have_attribute("href", "/observer/1")
    asked.get_by_role("button", name="Close").click()

    plan = page.request.get("/api/sessions/1").json()["plan"]
    bearing = round(plan["flight"]["bearing_deg"])
    phone.goto("/observer/1")
    look = phone.get_by_role("region", name="Where to look")
    expect(phone.get_by_role("status", name="In the air?")).to_have_text("Not in the air yet")
    expect(look).to_contain_text(f"{bearing:03d}°")
    off(page)
    alert = phone.get_by_role("alert", name="Alert now")
    expect(alert).to_contain_text("In the air")
    expect(look).to_contain_text("Over the take-off")
    assert abs(aloft_s(phone) - aloft_s(page)) <= 4
    # So many points at once are no plan of anybody's: the observer is told what the pilot is told.
    read(page, 90)
    expect(page.get_by_role("alert").first).to_contain_text("Land now")
    expect(alert).to_contain_text("Land now")
    page.get_by_role("button", name="Turned back").click()
    expect(look).to_contain_text("coming down to land")

    server.kill()
    expect(phone.get_by_text("Lark was heard")).to_be_visible()
    was = aloft_s(phone)
    phone.wait_for_timeout(1_500)
    assert aloft_s(phone) > was
    server.start()
    expect(phone.get_by_text("Lark was heard")).to_be_hidden()

    land(page, 88)
    expect(phone.get_by_role("status", name="In the air?")).to_have_text("Landed")
    expect(phone.get_by_text(re.compile("After .* min, with 88%"))).to_be_visible()
    # By the device's own compass, once the observer asks: upright towards the far point.
    phone.get_by_role("button", name="Point this device").tap()
    expect(look).to_contain_text("No compass yet.")
    turn(phone, 360 - bearing, 90)
    expect(look).to_contain_text("Straight ahead")
    turn(phone, 360 - bearing - 60, 90)
    expect(look).to_contain_text("60° to the left")
    context.close()
    assert faults == []

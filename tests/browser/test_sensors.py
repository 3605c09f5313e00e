"""The phone's own sensors on site: is this the spot, where is the far point, how high is that tree."""

from __future__ import annotations

import re

from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Server, open_context, watched
from tests.browser.test_pilot import saved
from zealous_lark.core.geodesy import destination


def turn(page: Page, alpha: float, beta: float) -> None:
    """The device is turned so: as its own event says it."""
    page.evaluate(
        """([alpha, beta]) => window.dispatchEvent(Object.assign(new Event('deviceorientationabsolute'),
             { alpha, beta, gamma: 0, absolute: true }))""",
        [alpha, beta],
    )


def test_the_spot_the_far_point_and_a_tree_by_its_tilt(browser: Browser, server: Server) -> None:
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    context.grant_permissions(["geolocation", "accelerometer", "gyroscope", "magnetometer"])
    page, faults = watched(context)
    plan = page.request.get("/api/sessions/1").json()["plan"]
    here = (plan["site"]["latitude"], plan["site"]["longitude"])

    def stand(bearing: float, distance: float, accuracy: float) -> None:
        lat, lon = destination(*here, bearing, distance)
        context.set_geolocation({"latitude": lat, "longitude": lon, "accuracy": accuracy})

    stand(90, 3, 6)
    page.goto("/sessions/1/site")
    page.get_by_role("button", name="Is this the spot?").tap()
    where = page.get_by_role("status", name="Position of this device")
    expect(where).to_contain_text("You are at the take-off point (±6 m).")
    stand(90, 45, 60)
    expect(where).to_contain_text("too vague")
    stand(90, 80, 5)
    expect(where).to_contain_text("You are 80 m from the take-off point, towards 090° (±5 m).")
    page.get_by_role("button", name="Move the take-off point here").tap()
    expect(where).to_contain_text("You are at the take-off point")
    saved(page)
    moved = page.request.get("/api/sessions/1").json()["plan"]["site"]
    assert (moved["latitude"], moved["longitude"]) != here

    page.get_by_role("button", name="Point the phone").tap()
    expect(page.get_by_text("No compass yet.")).to_be_visible()
    # Upright towards the south-west, 30° to the left of where the flight goes.
    bearing = plan["flight"]["bearing_deg"]
    turn(page, 360 - (bearing - 30), 90)
    points = page.get_by_role("status", name="Where this device points")
    expect(points).to_contain_text("30° to the right")
    turn(page, 360 - bearing, 90 + 30)
    expect(points).to_contain_text("straight ahead")
    page.get_by_role("textbox", name="Away from it").fill("20")
    page.get_by_role("textbox", name="Away from it").press("Enter")
    # 20 m × tan 30° over the hand at 1.5 m: 13.0 m, and what a tilt may be off by.
    expect(page.get_by_text(re.compile("Its top: about 13 m"))).to_be_visible()
    page.get_by_role("button", name="Hold this angle").tap()
    turn(page, 0, 60)
    page.get_by_role("button", name="Add as trees of 14 m").tap()
    saved(page)
    added = page.request.get("/api/sessions/1").json()["plan"]["site"]["obstacles"][-1]
    assert (added["kind"], added["height_m"], added["distance_m"]) == ("trees", 14, 20)
    assert added["bearing_deg"] == bearing % 360
    context.close()
    assert faults == []

"""A camera photo into the logbook, with and without the server; the device's own battery in the preflight."""

from __future__ import annotations

import io
from typing import Any

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, settled

FLIGHT = "demo-flight-035"


def snap(colour: str = "seagreen") -> Any:
    """What a phone's camera hands over."""
    out = io.BytesIO()
    Image.new("RGB", (3_000, 2_000), colour).save(out, "JPEG")
    return {"name": "IMG.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


def kept(page: Page) -> list[str]:
    return [p["uid"] for p in page.request.get(f"/api/flights/{FLIGHT}/photos").json()["photos"]]


def test_a_photo_into_the_logbook_and_out_again(phone: Page) -> None:
    phone.goto(f"/logbook/{FLIGHT}")
    phone.get_by_label("Add a photo").set_input_files(snap())
    photo = phone.get_by_role("button", name="Photo of")
    expect(photo).to_have_count(1)
    expect(phone.get_by_text("on this device")).to_have_count(0)
    (uid,) = settled(phone, lambda: kept(phone))
    assert Image.open(io.BytesIO(phone.request.get(f"/api/photos/{uid}.jpg").body())).size == (1_600, 1_067)
    phone.reload()
    photo.tap()
    shown = phone.get_by_role("dialog").get_by_role("img")
    assert shown.evaluate("(picture) => picture.decode().then(() => picture.naturalWidth)") == 1_600
    phone.get_by_role("button", name="Delete").tap()
    assert kept(phone) == [uid], "asked for twice"
    phone.get_by_role("button", name="Delete it for good").tap()
    expect(photo).to_have_count(0)
    assert settled(phone, lambda: not kept(phone))


def test_without_the_server_it_waits_on_the_device(phone: Page, server: Server) -> None:
    phone.goto(f"/logbook/{FLIGHT}")
    expect(phone.get_by_text("Add a photo")).to_be_visible()
    server.kill()
    for colour in ("seagreen", "tan"):
        phone.get_by_label("Add a photo").set_input_files(snap(colour))
    expect(phone.get_by_text("on this device")).to_have_count(2)
    server.start()
    expect(phone.get_by_text("on this device")).to_have_count(0, timeout=30_000)
    expect(phone.get_by_role("button", name="Photo of")).to_have_count(2)
    assert len(kept(phone)) == 2


def test_the_devices_own_battery_stands_beside_its_item(phone: Page) -> None:
    phone.add_init_script(
        """window.battery = Object.assign(new EventTarget(), { level: 0.62, charging: false });
        navigator.getBattery = () => Promise.resolve(window.battery);"""
    )
    phone.goto("/sessions/1/preflight")
    item = phone.get_by_role("listitem", name="Controller and display charged and readable")
    step = phone.get_by_role("button", name="Next step")
    expect(step).to_be_visible()
    while item.count() == 0:
        step.tap()
    said = item.get_by_role("status", name="This device’s battery")
    expect(said).to_have_text("This device: 62%.")
    phone.evaluate("() => { battery.level = 0.21; battery.dispatchEvent(new Event('levelchange')); }")
    expect(said).to_contain_text("Under 30%: charge it, or take another.")
    phone.evaluate("() => { battery.charging = true; battery.dispatchEvent(new Event('chargingchange')); }")
    expect(said).to_have_text("This device: 21%, charging.")

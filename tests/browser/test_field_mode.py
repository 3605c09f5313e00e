"""In the sun and in gloves: field mode, and an alert that is held to be silenced."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from tests.browser.test_flight import later, off


def held(page: Page, button: Locator, ms: int) -> None:
    """Press for so long."""
    box = button.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.wait_for_timeout(ms)
    page.mouse.up()


def test_an_alert_is_silenced_by_a_hold_and_comes_again(phone: Page) -> None:
    phone.goto("/sessions/1/flight")
    off(phone)
    later(phone, 720)
    hear = phone.get_by_role("button", name="Heard: hold to silence")
    expect(hear).to_be_visible()
    hear.tap()
    held(phone, hear, 100)
    expect(hear).to_be_visible()
    held(phone, hear, 900)
    expect(hear).to_have_count(0)
    expect(phone.get_by_role("alert").filter(has_text="It still holds")).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("alert").filter(has_text="It still holds")).to_be_visible()
    # Never silenced for good.
    later(phone, 61)
    expect(hear).to_be_visible()
    hear.focus()
    phone.keyboard.down("Enter")
    phone.wait_for_timeout(900)
    phone.keyboard.up("Enter")
    expect(hear).to_have_count(0)
    later(phone, 61)
    expect(hear).to_be_visible()
    phone.evaluate("window.dispatchEvent(new KeyboardEvent('keydown', { key: 'MediaPlayPause' }))")
    expect(hear).to_have_count(0)


def test_field_mode_is_larger_black_on_white_and_stays(phone: Page) -> None:
    phone.goto("/sessions/1/preflight")
    expect(phone.get_by_role("checkbox").first).to_be_visible()
    size = "parseFloat(getComputedStyle(document.documentElement).fontSize)"
    before = phone.evaluate(size)
    phone.get_by_role("button", name="Menu").tap()
    phone.get_by_role("button", name="Field mode").tap()
    phone.reload()
    expect(phone.get_by_role("checkbox").first).to_be_visible()
    assert phone.evaluate(size) > before
    assert phone.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"
    # The next step lies at hand, and the step before once there is one.
    step = phone.get_by_role("button", name="Next step")
    expect(step).to_be_in_viewport(ratio=1)
    step.tap()
    expect(phone.get_by_role("button", name="Back", exact=True)).to_be_in_viewport(ratio=1)
    for stage in ("plan", "prepare", "site", "preflight", "flight", "after"):
        phone.goto(f"/sessions/1/{stage}")
        expect(phone.get_by_role("navigation", name="Stages")).to_be_visible()
        phone.wait_for_load_state("load")
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390, stage

"""A session goes from one pilot's Lark to another's: by file, by photos of codes, by a camera held to the screen."""

from __future__ import annotations

import io
from pathlib import Path

from PIL import Image
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import CHROMIUM, FLAGS, PHONE, Server, open_context, watched


def codes_on(page: Page, address: str) -> list[bytes]:
    """Pictures of the codes as they stand on the giver's screen."""
    page.goto(address)
    page.get_by_role("button", name="Share", exact=True).click()
    shown = page.get_by_role("img", name="Code 1 of")
    expect(shown).to_be_visible()
    count = int((shown.get_attribute("alt") or "").split()[-1])
    found = []
    for n in range(1, count + 1):
        picture = page.get_by_role("img", name=f"Code {n} of {count}")
        expect(picture).to_be_visible()
        picture.evaluate("(picture) => picture.decode()")
        found.append(picture.screenshot())
        if n < count:
            page.get_by_role("button", name="Next code").click()
    return found


def reviewed(page: Page) -> None:
    expect(page.get_by_role("heading", name="Bog at first light")).to_be_visible()
    expect(page.get_by_role("status", name="Verdict")).not_to_contain_text("Checking…")
    expect(page.get_by_text("Heights, wind and looks are the other pilot’s.")).to_be_visible()
    assert page.request.get("/api/sessions").json()["total"] == 0, "looking keeps nothing"


def test_by_file_it_is_looked_at_and_then_taken(page: Page, browser: Browser, empty_server: Server) -> None:
    page.goto("/sessions/1/plan")
    page.get_by_role("button", name="Share", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Save the file").click()
    file = Path(download.value.path())
    assert download.value.suggested_filename == "bog-at-first-light.lark.gz"
    context = open_context(browser, empty_server)
    other, faults = watched(context)
    other.goto("/start")
    other.get_by_role("link", name="from another pilot").click()
    chooser = other.get_by_label("Choose the file")
    chooser.set_input_files({"name": "x.gz", "mimeType": "application/gzip", "buffer": b"\x1f\x8bnothing"})
    expect(other.get_by_role("alert")).to_contain_text("a file or codes that a Lark made")
    chooser.set_input_files(file)
    reviewed(other)
    other.get_by_role("radio", name="The other pilot’s").click()
    reviewed(other)
    other.get_by_role("button", name="Leave it").click()
    expect(other.get_by_role("heading", name="From another pilot")).to_be_visible()
    chooser.set_input_files(file)
    reviewed(other)
    other.get_by_role("button", name="Take it as a new session").click()
    expect(other.get_by_label("Title")).to_have_value("Bog at first light")
    expect(other.get_by_role("status", name="Verdict")).to_contain_text("Within limits")
    context.close()
    assert faults == []


def test_by_photos_of_the_codes_on_a_phone(page: Page, browser: Browser, empty_server: Server) -> None:
    pictures = codes_on(page, "/sessions/1/plan")
    context = open_context(browser, empty_server, viewport=PHONE, has_touch=True, is_mobile=True)
    other, faults = watched(context)
    other.goto("/shared")
    photo = other.get_by_label("Choose a photo of a code")
    blank = io.BytesIO()
    Image.new("RGB", (300, 300), "white").save(blank, "PNG")
    photo.set_input_files({"name": "sky.png", "mimeType": "image/png", "buffer": blank.getvalue()})
    expect(other.get_by_role("alert")).to_contain_text("No code is seen")
    # The last one first, and askew, as a hand holds it.
    askew = io.BytesIO()
    seen = Image.open(io.BytesIO(pictures[-1])).convert("RGB").resize((760, 760), Image.Resampling.BICUBIC)
    seen.rotate(12, expand=True, fillcolor="gray").save(askew, "JPEG", quality=80)
    photo.set_input_files({"name": "last.jpg", "mimeType": "image/jpeg", "buffer": askew.getvalue()})
    expect(other.get_by_text("1 of 3 codes are read. Still to come: 1, 2.")).to_be_visible()
    for n, picture in enumerate(pictures[:-1]):
        photo.set_input_files({"name": f"{n}.png", "mimeType": "image/png", "buffer": picture})
        if n == 0:
            expect(other.get_by_text("2 of 3 codes are read.")).to_be_visible()
    expect(other.get_by_text("It comes without its terrain.")).to_be_visible()
    reviewed(other)
    context.close()
    assert faults == []


def test_by_a_camera_held_to_the_screen(page: Page, empty_server: Server, tmp_path: Path) -> None:
    frames = tmp_path / "seen.mjpeg"
    with frames.open("wb") as film:
        for picture in codes_on(page, "/sessions/1/plan"):
            for _ in range(30):
                code = Image.open(io.BytesIO(picture)).convert("RGB").resize((680, 680), Image.Resampling.BICUBIC)
                frame = Image.new("RGB", (1280, 720), "gray")
                frame.paste(code, (300, 20))
                frame.save(film, "JPEG", quality=85)
    camera = [
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-video-capture={frames}",
    ]
    kind = page.context.browser
    assert kind is not None
    filming = kind.browser_type.launch(executable_path=CHROMIUM, args=[*FLAGS, *camera])
    context = open_context(filming, empty_server, viewport=PHONE, has_touch=True, is_mobile=True)
    context.grant_permissions(["camera"])
    other, faults = watched(context)
    other.goto("/shared")
    other.get_by_role("button", name="Use the camera").tap()
    expect(other.get_by_label("Camera")).to_be_visible()
    expect(other.get_by_text("It comes without its terrain.")).to_be_visible(timeout=60_000)
    reviewed(other)
    filming.close()
    assert faults == []

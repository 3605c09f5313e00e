"""What lies under the drawing of a place: pictures, scans, map archives, and the example that draws itself."""

from __future__ import annotations

import re
import struct
import warnings
from pathlib import Path

import numpy as np
import pytest
import rasterio
from playwright.sync_api import Browser, Page, expect
from rasterio.io import MemoryFile

from tests.browser.conftest import Server, open_context, watched
from tests.browser.test_pilot import look_at, open_session, saved
from tests.make import EXAMPLES


def test_a_picture_lies_under_the_drawing_of_place_and_session(page: Page) -> None:
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()
    panel = page.get_by_role("region", name="Picture from above")
    with page.expect_file_chooser() as chooser:
        panel.get_by_role("button", name="Import a picture").click()
    chooser.value.set_files(EXAMPLES / "sarvik-picture.tif")
    expect(panel.get_by_text("sarvik-picture.tif, 1 m a pixel.")).to_be_visible()
    picture = page.locator('img[src^="/api/pictures/"]')
    expect(picture).to_be_visible()
    assert picture.evaluate("i => i.decode().then(() => i.naturalWidth)") > 500
    address = page.url
    open_session(page, "Bog at first light")
    look_at(page, "Map")
    expect(picture).to_be_visible()
    page.goto(address)
    panel.get_by_role("button", name="Remove picture").click()
    expect(picture).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(picture).to_be_visible()
    saved(page)


def test_a_map_archive_lies_under_every_drawing_until_it_is_deleted(page: Page) -> None:
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()
    address = page.url
    page.get_by_role("button", name="Map under the drawings").click()
    dialog = page.get_by_role("dialog", name="Map under the drawings")
    with page.expect_file_chooser() as chooser:
        dialog.get_by_role("button", name="Import a map archive").click()
    chooser.value.set_files(EXAMPLES / "sarvik-tiles.mbtiles")
    expect(dialog.get_by_role("radio", name=re.compile("^Sarvik bog from above"))).to_be_checked()
    dialog.get_by_role("button", name="Use it").click()
    tiles = page.locator('img[src^="/api/maps/"]')
    expect(tiles.first).to_be_visible()
    expect(page.get_by_text("Invented for Lark")).to_be_visible()
    open_session(page, "Bog at first light")
    look_at(page, "Map")
    expect(tiles.first).to_be_visible()
    page.goto(address)
    page.get_by_role("button", name="Map under the drawings").click()
    dialog.get_by_role("button", name="Delete Sarvik bog from above").click()
    dialog.get_by_role("button", name="Delete for good").click()
    expect(dialog.get_by_role("radio")).to_have_count(2)
    page.keyboard.press("Escape")
    expect(tiles).to_have_count(0)


def test_a_scan_is_pinned_by_two_points(page: Page, tmp_path: Path) -> None:
    scan = tmp_path / "map.png"
    with rasterio.open(EXAMPLES / "sarvik-picture.tif") as picture, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        with rasterio.open(scan, "w", driver="PNG", width=900, height=900, count=3, dtype="uint8") as out:
            out.write(picture.read())
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()
    page.get_by_role("button", name="Pin a scan").click()
    dialog = page.get_by_role("dialog", name="Pin a scan")
    with page.expect_file_chooser() as chooser:
        dialog.get_by_role("button", name="Choose the picture").click()
    chooser.value.set_files(scan)
    drawn = dialog.get_by_alt_text("The scan to pin")
    expect(drawn).to_be_visible()
    lay = dialog.get_by_role("button", name="Lay it under the place")
    # The picture is 900 m wide around the place: its middle, and 200 m east of it.
    for number, (share, at) in enumerate(((0.5, "58.62, 25.08"), (0.5 + 200 / 900, "58.62, 25.08344")), 1):
        box = drawn.bounding_box()
        assert box
        drawn.click(position={"x": box["width"] * share, "y": box["height"] * 0.5})
        expect(lay).to_be_disabled()
        dialog.get_by_role("group", name=f"Position of point {number}").get_by_label("Position").fill(at)
    lay.click()
    expect(page.get_by_text("map.png, 1 m a pixel.")).to_be_visible()
    expect(page.locator('img[src^="/api/pictures/"]')).to_be_visible()


@pytest.mark.quick
def test_the_example_draws_itself_by_one_click(empty_server: Server, browser: Browser) -> None:
    context = open_context(browser, empty_server, days=False)
    page, faults = watched(context)
    page.goto("/places")
    page.get_by_role("button", name="Show an example drawn from open data").click()
    expect(page.get_by_text("sarvik-surface.tif: what stands above the ground")).to_be_visible(timeout=60_000)
    expect(page.locator('img[src^="/api/pictures/"]')).to_be_visible()
    expect(page.get_by_text("OpenStreetMap contributors")).to_be_visible()
    assert page.get_by_role("region", name="What is drawn").get_by_role("button").count() > 15
    context.close()
    assert faults == []


def photo(latitude: tuple[int, int, int] | None) -> bytes:
    """A small JPEG that says in degrees, minutes and seconds where it was taken, at 25° 4′ 48″ E; or does not say."""
    with MemoryFile() as memory, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        with memory.open(driver="JPEG", width=16, height=16, count=3, dtype="uint8") as out:
            out.write(np.full((3, 16, 16), 90, dtype=np.uint8))
        plain = bytes(memory.read())
    if latitude is None:
        return plain

    def entry(tag: int, kind: int, count: int, value: bytes) -> bytes:
        return struct.pack("<HHI", tag, kind, count) + value.ljust(4, b"\0")

    # One directory that points at another, of four entries; the numbers stand after it as shares of one.
    first = struct.pack("<H", 1) + entry(0x8825, 4, 1, struct.pack("<I", 26)) + bytes(4)
    at = 26 + 2 + 4 * 12 + 4
    places = (
        entry(1, 2, 2, b"N\0") + entry(2, 5, 3, struct.pack("<I", at))
        + entry(3, 2, 2, b"E\0") + entry(4, 5, 3, struct.pack("<I", at + 24))
    )  # fmt: skip
    numbers = b"".join(struct.pack("<II", n, 1) for n in (*latitude, 25, 4, 48))
    tiff = b"II*\0" + struct.pack("<I", 8) + first + struct.pack("<H", 4) + places + bytes(4) + numbers
    exif = b"Exif\0\0" + tiff
    return plain[:2] + b"\xff\xe1" + struct.pack(">H", len(exif) + 2) + exif + plain[2:]


def test_a_photo_says_where_it_was_taken(page: Page, tmp_path: Path) -> None:
    page.goto("/places")
    page.get_by_role("button", name="New place").click()
    dialog = page.get_by_role("dialog", name="New place")
    for name, latitude in (("silent.jpg", None), ("bog.jpg", (58, 37, 12))):
        (tmp_path / name).write_bytes(photo(latitude))
        with page.expect_file_chooser() as chooser:
            dialog.get_by_role("button", name="From a photo").click()
        chooser.value.set_files(tmp_path / name)
        if latitude is None:
            expect(dialog.get_by_role("alert")).to_contain_text("doesn’t say where it was taken")
            expect(dialog.get_by_label("Position")).to_have_value("")
    expect(dialog.get_by_label("Position")).to_have_value("58.620000, 25.080000")
    expect(dialog.get_by_role("alert")).to_have_count(0)

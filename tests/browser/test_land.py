"""Drawing a place and flying there, on the real server, by role and label."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.test_pilot import field, look_at, open_session, saved, type_in, verdict
from tests.make import EXAMPLES


def rail(page: Page, label: str) -> Locator:
    return page.get_by_role("button", name=re.compile(f"^{re.escape(label)}, "))


def new_place(page: Page, name: str = "Quarry edge") -> None:
    page.goto("/places")
    page.get_by_role("button", name="New place").click()
    dialog = page.get_by_role("dialog", name="New place")
    dialog.get_by_label("Name").fill(name)
    dialog.get_by_label("Position").fill("58.62, 25.08")
    dialog.get_by_role("button", name="Draw it").click()
    expect(page.get_by_label("Place", exact=True)).to_have_value(name)


def tap(page: Page, *points: tuple[int, int]) -> None:
    """Taps on the plan view, in pixels off its middle."""
    view = page.get_by_role("region", name=re.compile("^Plan view of"))
    box = view.bounding_box()
    assert box
    for x, y in points:
        page.mouse.click(box["x"] + box["width"] / 2 + x, box["y"] + box["height"] / 2 + y)


def draw(page: Page, what: str) -> None:
    page.get_by_role("button", name="Draw", exact=True).click()
    page.get_by_role("menuitem", name=what).click()
    expect(page.get_by_role("menu")).to_have_count(0)


def fly_there(page: Page, place: str) -> None:
    """A session of the demo moved to a place."""
    open_session(page, "Bog at first light")
    page.get_by_role("button", name=re.compile("^Place")).click()
    page.get_by_label("Drawn place").click()
    page.get_by_role("option", name=place, exact=True).click()
    saved(page)


def test_a_wood_and_wires_are_drawn_and_move_the_rails(page: Page) -> None:
    new_place(page)
    draw(page, "Wood")
    tap(page, (-60, 10), (-20, 10), (-20, 40), (-60, 40))
    expect(page.get_by_text(re.compile(r"^Wood\. \d+ m towards \d{3}°, \d+ m in all"))).to_be_visible()
    page.get_by_role("button", name="Done").click()
    wood = page.get_by_role("region", name="Trees")
    type_in(wood, "Height", "33")
    type_in(wood, "Name", "spruces")
    page.get_by_role("button", name="Done").last.click()
    draw(page, "Wires between poles")
    tap(page, (40, -80), (40, 80))
    page.keyboard.press("Enter")
    expect(page.get_by_text("their sag is left out, on the safe side")).to_be_visible()
    page.get_by_role("button", name="I’ve checked the official map today").click()
    saved(page)
    page.reload()
    expect(page.get_by_role("region", name="What is drawn").get_by_role("button")).to_have_count(3)

    fly_there(page, "Quarry edge")
    expect(rail(page, "Return height (min)")).to_have_accessible_name(re.compile("40 m .min 43 m.*caution"))
    expect(verdict(page)).to_contain_text("The flight out goes over the spruces (33 m) by only 7 m")
    look_at(page, "Map")
    height = page.get_by_role("slider", name="Return height", exact=True)
    height.focus()
    for _ in range(4):
        page.keyboard.press("ArrowUp")
    look_at(page, "Limits")
    expect(rail(page, "Return height (min)")).to_have_accessible_name(re.compile("44 m .min 43 m"))


def drag(page: Page, mark: Locator, by: tuple[int, int]) -> None:
    mark.hover()  # scrolls it to where nothing lies over it
    box = mark.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.down()
    page.mouse.move(x + by[0], y + by[1], steps=6)
    page.mouse.up()


def test_dragging_the_far_end_and_the_take_off_judges_anew(page: Page) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "Map")
    view = page.get_by_role("region", name="Plan view of the session")
    drag(page, view.get_by_title(re.compile("^Far point")), (-60, 35))
    expect(field(page, "Distance")).not_to_have_value("180")
    assert int(field(page, "Distance").input_value()) > 240
    expect(verdict(page)).to_contain_text("Sight:")
    expect(verdict(page)).to_contain_text("Caution")
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "Distance")).to_have_value("180")

    look_at(page, "Limits")
    page.get_by_role("button", name=re.compile(r"^Show \d+ more")).click()
    people = rail(page, "People")
    expect(people).to_have_accessible_name(re.compile("108 m .min 40 m"))
    look_at(page, "Map")
    drag(page, view.get_by_title("Take-off point", exact=True), (30, 20))
    look_at(page, "Limits")
    page.get_by_role("button", name=re.compile(r"^Show \d+ more")).click()
    expect(people).not_to_have_accessible_name(re.compile("108 m .min 40 m"))


def test_zones_and_terrain_come_in_and_the_place_goes_out_and_back(page: Page, tmp_path: Path) -> None:
    new_place(page)
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Import zones").click()
    chooser.value.set_files(EXAMPLES / "sarvik-zones.json")
    expect(page.get_by_role("region", name="Zones")).to_contain_text("Sarvik nature reserve")
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Import a terrain").click()
    chooser.value.set_files(EXAMPLES / "sarvik-terrain.tif")
    expect(page.get_by_role("region", name="Terrain")).to_contain_text("sarvik-terrain.tif: 36 m to 77 m")
    broken = tmp_path / "broken.tif"
    broken.write_bytes((EXAMPLES / "sarvik-terrain.tif").read_bytes()[:4000])
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Import a terrain").click()
    chooser.value.set_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("needs a GeoTIFF")
    expect(page.get_by_role("region", name="Terrain")).to_contain_text("sarvik-terrain.tif: 36 m to 77 m")

    with page.expect_download() as download:
        page.get_by_role("link", name="GEOJSON").click()
    out = tmp_path / "place.geojson"
    download.value.save_as(out)
    drawn = json.loads(out.read_text())
    assert [f["properties"]["name"] for f in drawn["features"]][1:] == ["Sarvik nature reserve", "Low-flying corridor"]
    new_place(page, "Again")
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Import drawings").click()
    chooser.value.set_files(out)
    expect(page.get_by_role("region", name="Zones")).to_contain_text("Low-flying corridor")


def test_a_tree_is_measured_from_afar_and_undone(page: Page) -> None:
    new_place(page)
    draw(page, "Single tree")
    tap(page, (80, 0))
    page.get_by_role("button", name="Find its height").click()
    dialog = page.get_by_role("dialog", name="How high is it?")
    type_in(dialog, "Distance to it", "40")
    type_in(dialog, "Angle up to its top", "25")
    expect(dialog.get_by_role("status")).to_contain_text("20 m high")  # 40·tan 25° and 1.6 m of eye
    dialog.get_by_role("button", name="Take it", exact=True).click()
    tree = page.get_by_role("region", name="Trees")
    expect(field(tree, "Height")).to_have_value("20")
    point = tree.get_by_role("group", name="Point")
    type_in(point, "Bearing from the take-off", "90")
    type_in(point, "Distance from the take-off", "120")
    expect(field(point, "Distance from the take-off")).to_have_value("120.0")
    saved(page)
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_role("region", name="What is drawn").get_by_role("button")).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("region", name="What is drawn").get_by_role("button")).to_have_count(2)


def test_a_planned_move_is_checked_before_anybody_presses_the_button(page: Page) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "Map")
    moves = page.get_by_role("region", name="Camera moves")
    moves.get_by_role("button", name="Plan a move").click()
    page.get_by_role("menuitem", name="Orbit").click()
    orbit = moves.get_by_role("group", name="Orbit 1")
    type_in(orbit, "Begins at", "25")
    type_in(orbit, "Radius", "8")
    expect(moves).to_contain_text("within 1 m of lookout tower")
    expect(verdict(page)).to_contain_text("Camera moves:")
    type_in(orbit, "Begins at", "45")
    expect(verdict(page)).to_contain_text("Camera moves: The orbit goes 274 m out; sight ends at 200 m")
    expect(orbit).to_contain_text(re.compile(r"1[23] s and \d\.\d% of charge"))


def test_a_take_off_point_is_suggested_and_taken(page: Page) -> None:
    open_session(page, "Tower in a gusty west wind")
    look_at(page, "Map")
    found = page.get_by_role("region", name="Take-off points")
    found.get_by_role("button", name="Find a take-off point").click()
    # A good many points are tried: on a busy machine that takes its time.
    expect(found.get_by_role("listitem").first).to_contain_text("dB of signal there", timeout=90_000)
    found.get_by_role("button", name="Take off there").first.click()
    expect(found).to_contain_text("The plan has changed since")
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "Distance")).to_have_value("120")


def test_by_touch_on_a_phone(phone: Page) -> None:
    new_place(phone)
    draw(phone, "Water")
    view = phone.get_by_role("region", name=re.compile("^Plan view of"))
    box = view.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    for dx, dy in ((-40, 30), (50, 30), (50, 90), (-40, 90)):
        phone.touchscreen.tap(x + dx, y + dy)
    phone.get_by_role("button", name="Done").tap()
    expect(phone.get_by_role("region", name="Water")).to_be_visible()
    phone.get_by_role("button", name="Done").tap()
    saved(phone)
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    fly_there(phone, "Quarry edge")
    look_at(phone, "Map")
    expect(phone.get_by_role("region", name="Plan view of the session")).to_be_visible()
    section = phone.get_by_role("group", name=re.compile("^Side view towards 240°"))
    expect(section).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_session_goes_out_with_its_leg_and_reach(page: Page, tmp_path: Path) -> None:
    open_session(page, "Bog at first light")
    look_at(page, "Map")
    with page.expect_download() as download:
        page.get_by_role("link", name="GEOJSON").click()
    out = tmp_path / "session.geojson"
    download.value.save_as(out)
    kinds = [f["properties"]["lark_type"] for f in json.loads(out.read_text())["features"]]
    assert kinds[:4] == ["takeoff", "far_end", "leg", "reach"]


def test_a_place_is_deleted_and_brought_back(page: Page) -> None:
    page.goto("/places")
    page.get_by_role("button", name="Delete Lake jetty").click()
    asked = page.get_by_role("dialog", name="Delete Lake jetty?")
    expect(asked.get_by_role("link", name="Jetty before the front")).to_be_visible()
    asked.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_text("Lake jetty deleted. Sessions planned there still have it.")).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Lake jetty"))).to_have_count(0)
    session = page.context.new_page()
    session.goto("/sessions/5/plan")
    look_at(session, "Map")
    expect(session.get_by_role("region", name="Plan view of the session")).to_be_visible()
    session.close()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name=re.compile("^Lake jetty"))).to_be_visible()


@pytest.mark.quick
def test_a_session_begins_at_a_drawn_place(page: Page) -> None:
    """Over an open field, but at the bog: its take-off point, its height above the sea, its land."""
    page.goto("/sessions?new")
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_label("Title").fill("First time there")
    dialog.get_by_label("Start from").click()
    page.get_by_role("option", name="An open field").click()
    dialog.get_by_label("At the place").click()
    page.get_by_role("option", name="Sarvik bog").click()
    dialog.get_by_role("button", name="Create session").click()
    expect(page.get_by_label("Title")).to_have_value("First time there")
    look_at(page, "Map")
    expect(page.get_by_role("region", name="Plan view of the session")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Place")).click()
    expect(field(page, "Above sea level")).to_have_value("42")


def test_a_wrong_place_says_what_to_do(page: Page) -> None:
    page.goto("/places")
    page.get_by_role("button", name="New place").click()
    dialog = page.get_by_role("dialog", name="New place")
    dialog.get_by_label("Position").fill("95, 25")
    expect(dialog).to_contain_text("Not read yet: latitude and longitude")
    dialog.get_by_role("button", name="Draw it").click()
    expect(dialog).to_contain_text("Give the place a name.")
    # By bearing and distance from a drawn place: a kilometre north is 0.00899° of latitude.
    dialog.get_by_role("button", name="By bearing and distance").click()
    dialog.get_by_label("From", exact=True).click()
    page.get_by_role("option", name="Sarvik bog").click()
    drawn = next(x for x in page.request.get("/api/places").json()["places"] if x["name"] == "Sarvik bog")
    dialog.get_by_label("Bearing, °").fill("0")
    dialog.get_by_label("Distance, m").fill("-1000")
    expect(dialog.get_by_label("Distance, m")).to_have_attribute("aria-invalid", "true")
    expect(dialog.get_by_label("Position")).to_have_value("95, 25")
    dialog.get_by_label("Distance, m").fill("1000")
    found = dialog.get_by_label("Position").input_value().split(", ")
    assert float(found[0]) == pytest.approx(drawn["latitude"] + 0.00899, abs=3e-5)
    assert float(found[1]) == pytest.approx(drawn["longitude"], abs=1e-5)
    page.goto("/places/99")
    expect(page.get_by_role("alert")).to_contain_text("There is no place 99")
    page.get_by_role("link", name="All places").click()
    expect(page.get_by_role("heading", name="Places")).to_be_visible()


def test_every_corner_of_a_chosen_area_has_its_handle_and_every_mark_its_glyph(page: Page) -> None:
    """Marks of one kind are drawn each for itself, and a name stands beside its own mark."""
    page.goto("/places/1")
    page.get_by_role("button", name="wood on the esker").first.click()
    page.get_by_role("region", name="wood on the esker").wait_for()
    expect(page.locator(".spot rect[width='12']")).to_have_count(6)
    empty = page.locator(".spot").evaluate_all("marks => marks.filter((m) => !m.querySelector('svg *')).length")
    assert empty == 0
    offs = page.locator(".spot b:visible").evaluate_all(
        "names => names.map((n) => [n.parentElement.getBoundingClientRect(), n.getBoundingClientRect()])"
        ".map(([m, n]) => Math.abs(m.top + m.height / 2 - n.top - n.height / 2))"
    )
    # Beside it, or moved off another name by a line or two.
    assert offs
    assert sorted(offs)[len(offs) // 2] < 6


def test_a_name_on_the_map_is_text_whatever_is_in_it(page: Page) -> None:
    page.goto("/places/1")
    page.get_by_role("button", name="Crane meadow").first.click()
    name = '<img src=x onerror="alert(1)">&'
    page.get_by_role("region", name="Crane meadow").get_by_label("Name").fill(name)
    page.get_by_role("button", name="Done").click()
    expect(page.locator(".spot b", has_text=name)).to_have_count(1)
    expect(page.locator(".spot img")).to_have_count(0)


def test_the_map_draws_the_place_and_its_heights_are_asked_on_site(page: Page) -> None:
    """Reviewed by groups, taken, undone, taken again; the wire that only the map knows keeps the low flight down."""
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()

    def review() -> Locator:
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Import map data").click()
        chooser.value.set_files(EXAMPLES / "sarvik-map.osm")
        return page.get_by_role("dialog", name="What the map has here")

    drawn = page.get_by_role("region", name="What is drawn").get_by_role("button")
    expect(drawn.last).to_be_visible()
    before = drawn.count()
    asked = review()
    expect(asked.get_by_text("9 with an assumed height")).to_be_visible()
    expect(asked.get_by_role("checkbox", name="Paths and small roads")).not_to_be_checked()
    for name in ("Buildings", "Woods and trees", "Water", "Airfields", "Busy roads", "Places to ask"):
        asked.get_by_role("checkbox", name=re.compile(name)).uncheck()
    asked.get_by_role("button", name="Draw 12").click()
    expect(drawn).to_have_count(before + 12)
    expect(page.get_by_text("OpenStreetMap contributors")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(drawn).to_have_count(before)
    page.get_by_role("button", name="Redo").click()
    expect(drawn).to_have_count(before + 12)
    saved(page)
    expect(review().get_by_text("9 with an assumed height, 10 drawn already")).to_be_visible()
    page.keyboard.press("Escape")

    open_session(page, "Low along the pines")
    expect(verdict(page)).to_contain_text("Don’t launch")
    page.get_by_role("link", name=re.compile("Site")).first.click()
    heights = page.get_by_role("list", name="Heights to confirm")
    rows = heights.get_by_role("listitem")
    expect(rows).to_have_count(4)
    wire = rows.filter(has_text="small power line")
    expect(wire).to_contain_text("about 10 m high?")
    wire.get_by_role("button", name="Yes").click()
    expect(rows).to_have_count(3)
    page.reload()
    expect(rows).to_have_count(3)


def test_a_file_that_is_no_map_is_said_and_draws_nothing(page: Page, tmp_path: Path) -> None:
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()
    junk = tmp_path / "a.osm"
    junk.write_bytes(b"junk")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Import map data").click()
    chooser.value.set_files(junk)
    expect(page.get_by_role("alert")).to_contain_text("It has something else than map data")


def test_a_surface_model_stands_in_the_way_and_measures_what_is_drawn(page: Page) -> None:
    """A spruce that nobody drew turns the low flight; what is drawn takes its height from the model, and back."""
    page.goto("/places")
    page.get_by_text("Sarvik bog").first.click()
    panel = page.get_by_role("region", name="Surface model")
    with page.expect_file_chooser() as chooser:
        panel.get_by_role("button", name="Import a surface model").click()
    chooser.value.set_files(EXAMPLES / "sarvik-surface.tif")
    expect(panel.get_by_text("sarvik-surface.tif")).to_be_visible()
    panel.get_by_role("button", name="Measure what is drawn").click()
    measured = panel.get_by_role("group", name="Measured heights")
    expect(measured.get_by_role("checkbox", name=re.compile("^pines: 18 m, drawn 18 m"))).to_be_visible()
    tower = measured.get_by_role("checkbox", name=re.compile("^lookout tower: 24 m, drawn 24 m"))
    expect(tower).not_to_be_checked()
    tower.check()
    measured.get_by_role("button", name="Take 1 height").click()
    expect(measured).to_have_count(0)
    saved(page)
    open_session(page, "Low along the pines")
    expect(verdict(page)).to_contain_text("Don’t launch")
    expect(verdict(page)).to_contain_text("trees or roofs of the surface model (27 m)")
    look_at(page, "Map")
    expect(page.get_by_role("group", name=re.compile("^Side view"))).to_be_visible()

"""A whole flight on the phone, the clock running faster than life, the server going away and coming back."""

from __future__ import annotations

import json
import math
import re
from dataclasses import replace
from pathlib import Path
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server
from tests.core.postflight.make_tracks import HOME, on_long_legs, orbited, there_and_back
from tests.formats.test_track_files import as_csv, as_gpx


def session_of(page: Page, title: str) -> int:
    found = page.request.get("/api/sessions").json()["sessions"]
    return next(s["id"] for s in found if title in s["title"])


def opened(page: Page, title: str = "first light") -> int:
    """The flight clock of a session, with the screens kept on the device."""
    session = session_of(page, title)
    page.goto(f"/sessions/{session}/flight")
    expect(page.get_by_role("button", name="Start flight clock")).to_be_visible()
    page.evaluate("() => navigator.serviceWorker.ready")
    return session


def off(page: Page) -> None:
    page.get_by_role("button", name="Start flight clock").click()
    expect(page.get_by_role("timer", name="Flight time")).to_be_visible()


def later(page: Page, seconds: int) -> None:
    """So much time passes at once."""
    page.clock.fast_forward(seconds * 1000)


def clocked(seconds: int) -> str:
    return f"{seconds // 60}:{seconds % 60:02d}"


def aloft_s(page: Page) -> int:
    text = page.get_by_role("timer", name="Flight time").inner_text().split()[-1]
    minutes, seconds = text.split(":")
    return 60 * int(minutes) + int(seconds)


def read(page: Page, charge: int) -> None:
    page.get_by_role("group", name="Charge reading").get_by_role("button", name=f"{charge}%", exact=True).click()
    expect(page.get_by_role("button", name=f"Undo {charge}%")).to_be_visible()


def banner(page: Page) -> Any:
    return page.get_by_role("alert").first


def until_called(page: Page, words: str) -> None:
    """Twenty seconds at a time, until something is called."""
    for _ in range(16):
        before = aloft_s(page)
        shown = banner(page).inner_text()
        if words.lower() in shown.lower():
            return
        later(page, 20)
        # The clock has ticked since.
        expect(page.get_by_role("timer", name="Flight time")).not_to_contain_text(clocked(before))
    raise AssertionError(f"{words} was not called; the last was {shown!r}")


def land(page: Page, charge: int) -> None:
    page.get_by_role("button", name="Landed").click()
    box = page.get_by_role("dialog").get_by_role("textbox", name="Charge it landed with")
    box.fill(str(charge))
    box.press("Enter")
    page.get_by_role("button", name="End flight").click()


def flights(page: Page) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = [
        f for f in page.request.get("/api/flights").json()["flights"] if not f["uid"].startswith("demo")
    ]
    return found


def events(page: Page, uid: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = page.request.get(f"/api/flights/{uid}").json()["events"]
    return found


@pytest.mark.quick
def test_a_whole_flight_with_the_server_gone_in_the_middle(phone: Page, server: Server) -> None:
    opened(phone)
    phone.request.put("/api/devices/aircraft", data={"behaviour": "flies"})
    off(phone)
    # The distance that the aircraft tells is taken as it flies out.
    phone.get_by_role("button", name=re.compile("^live")).click()
    expect(phone.get_by_role("button", name="live 120 m")).to_be_visible()
    later(phone, 120)
    read(phone, 95)
    later(phone, 220)
    read(phone, 80)

    server.kill()
    later(phone, 100)
    read(phone, 75)
    expect(phone.get_by_text("saved on this device. They’ll upload")).to_be_visible()
    # Half of what may be spent out there.
    later(phone, 220)
    read(phone, 60)
    expect(banner(phone)).to_contain_text("Halfway to turn-back")
    later(phone, 250)
    expect(banner(phone)).to_contain_text("Read the charge")
    read(phone, 45)
    before = aloft_s(phone)
    phone.reload()
    expect(phone.get_by_role("timer", name="Flight time")).to_be_visible()
    assert before <= aloft_s(phone) <= before + 60

    server.start()
    expect(phone.get_by_text("Everything is on the server.")).to_be_visible()
    later(phone, 70)
    read(phone, 40)
    until_called(phone, "Turn back in 1 min")
    until_called(phone, "Turn back now")
    phone.get_by_role("button", name="Turned back").click()
    later(phone, 60)
    land(phone, 29)
    expect(phone.get_by_text("One flight flown in this session.")).to_be_visible()

    # The device says so before its last word is on the server.
    for _ in range(100):
        (flight,) = flights(phone)
        if flight["entry"]["charge_to_pct"] is not None:
            break
        phone.wait_for_timeout(100)
    told = events(phone, flight["uid"])
    assert [e["value"] for e in told if e["kind"] == "reading"] == [95, 80, 75, 60, 45, 40]
    assert flight["entry"]["charge_to_pct"] == 29
    assert flight["landed"] is True
    assert len({e["uid"] for e in told}) == len(told)
    calls = [e["text"] for e in told if e["kind"] == "call"]
    assert calls.count("half") == 1
    assert calls.count("turn_back") == 1
    assert set(calls) >= {"half", "missed", "turn_back"}
    turned = next(e for e in told if e["kind"] == "turned")
    assert flight["entry"]["seconds"] == pytest.approx(turned["at_s"] + 60, abs=60)
    times = [e["at_s"] for e in told]
    assert times == sorted(times)
    far = [e["value"] for e in told if e["kind"] == "distance"]
    assert far[-1] == 120
    assert flight["entry"]["distance_m"] == 120


def test_a_reading_that_rises_is_asked_back(phone: Page) -> None:
    opened(phone)
    off(phone)
    later(phone, 60)
    read(phone, 70)
    pad = phone.get_by_role("group", name="Charge reading")
    pad.get_by_role("button", name="Other").click()
    pad.get_by_role("button", name="95%", exact=True).click()
    asked = phone.get_by_role("alertdialog", name="A higher reading")
    expect(asked).to_contain_text("70% was read before; 95% now?")
    asked.get_by_role("button", name="No, a slip: keep 70%").click()
    expect(phone.get_by_role("button", name="Undo 70%")).to_be_visible()
    # Only on the pilot's word is the earlier one the slip.
    pad.get_by_role("button", name="Other").click()
    pad.get_by_role("button", name="95%", exact=True).click()
    asked.get_by_role("button", name="Yes, 95%: the earlier one was a slip").click()
    expect(phone.get_by_role("button", name="Undo 95%")).to_be_visible()
    land(phone, 88)
    expect(phone.get_by_role("link", name="After the flight")).to_be_visible()
    (flight,) = flights(phone)
    told = phone.request.get(f"/api/flights/{flight['uid']}").json()["events"]
    taken_back = {e["text"] for e in told if e["kind"] == "withdrawn"}
    assert [e["value"] for e in told if e["kind"] == "reading" and e["uid"] not in taken_back] == [95]


def test_a_slip_is_taken_back_and_a_mark_is_kept(phone: Page) -> None:
    opened(phone)
    off(phone)
    later(phone, 60)
    read(phone, 80)
    phone.get_by_role("button", name="Undo 80%").click()
    read(phone, 95)
    phone.get_by_role("button", name="Video broke up").click()
    phone.get_by_role("button", name="Note", exact=True).click()
    phone.get_by_label("What happened").fill("Heron under it")
    phone.get_by_role("button", name="Keep it").click()
    land(phone, 88)
    expect(phone.get_by_role("link", name="After the flight")).to_be_visible()
    (flight,) = flights(phone)
    assert [m["kind"] for m in flight["entry"]["marks"]] == ["signal", "note"]
    assert flight["entry"]["marks"][1]["text"] == "Heron under it"
    phone.get_by_role("link", name="After the flight").click()
    expect(phone.get_by_text("landed with 88%")).to_be_visible()
    chore = phone.get_by_role("checkbox", name=re.compile("Change the card"))
    chore.check()
    phone.reload()
    expect(chore).to_be_checked()
    expect(phone.get_by_text("Battery 1")).to_be_visible()


def test_a_charge_that_falls_fast_is_called_with_what_to_look_at(phone: Page) -> None:
    opened(phone, "Frozen bog")
    off(phone)
    later(phone, 100)
    read(phone, 95)
    later(phone, 60)
    phone.get_by_role("button", name="Other").click()
    read(phone, 55)
    expect(banner(phone)).to_contain_text("Battery draining fast")
    expect(banner(phone)).to_contain_text("failing cell")
    expect(banner(phone)).to_contain_text("cold")


def test_a_clock_that_is_set_back_loses_no_time(phone: Page) -> None:
    opened(phone)
    off(phone)
    later(phone, 300)
    expect(phone.get_by_role("timer", name="Flight time")).to_contain_text(re.compile(r"[5-9]:\d\d"))
    phone.evaluate("() => { const real = Date.now; Date.now = () => real() - 3_600_000; }")
    expect(phone.get_by_text("set back")).to_be_visible()
    assert 295 <= aloft_s(phone) <= 420


@pytest.mark.quick
def test_emergency_cards_without_the_server(phone: Page, server: Server) -> None:
    session = session_of(phone, "first light")
    phone.goto(f"/sessions/{session}/preflight")
    expect(phone.get_by_role("button", name="Emergency")).to_be_visible()
    phone.wait_for_function(f"() => localStorage.getItem('lark.airborne.{session}') !== null")
    server.kill()
    phone.get_by_role("button", name="Emergency").click()
    for name in ("Picture frozen", "Bird attacks", "Aircraft down"):
        expect(phone.get_by_role("button", name=name)).to_be_visible()
    phone.get_by_role("button", name=re.compile("^Can.t get home")).click()
    expect(phone.get_by_role("heading", name="Can't get home against the wind")).to_be_visible()
    numbers = phone.get_by_role("region", name="This flight")
    expect(numbers).to_contain_text("Land with at least 30%.")
    expect(numbers).to_contain_text("Lowest clear height home")
    phone.get_by_role("button", name="Others").click()
    phone.get_by_role("button", name="Close").click()
    expect(phone.get_by_role("dialog")).to_have_count(0)


def test_warming_is_counted_down_and_outlasts_a_reload(phone: Page) -> None:
    phone.goto(f"/sessions/{session_of(phone, 'Frozen bog')}/after")
    phone.get_by_role("button", name="The bag is inside now").click()
    timer = phone.get_by_role("timer", name="Bag stays shut")
    expect(timer).to_contain_text("left, until")
    phone.reload()
    expect(timer).to_contain_text("left, until")
    later(phone, 3 * 3600)
    expect(timer).to_have_text("You may open it")


def test_the_logbook_is_searched_mended_and_undone(page: Page) -> None:
    page.goto("/logbook")
    rows = page.get_by_role("list", name="Flights").get_by_role("listitem")
    expect(rows).to_have_count(36)
    page.get_by_role("searchbox", name="Search").fill("heron")
    expect(rows).not_to_have_count(36)
    found = rows.count()
    page.reload()
    expect(rows).to_have_count(found)
    page.get_by_role("button", name="Clear the filter").click()
    expect(rows).to_have_count(36)
    rows.first.get_by_role("link").click()
    page.get_by_role("button", name="Edit").click()
    page.get_by_label("Note").fill("Seen from the tower")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("definition").filter(has_text="Seen from the tower")).to_be_visible()
    expect(page.get_by_text("note was not known")).to_be_visible()
    page.get_by_role("button", name="Delete").click()
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_role("definition").filter(has_text="Seen from the tower")).to_be_visible()


def test_a_flight_is_entered_by_hand_and_gets_its_track(page: Page, tmp_path: Path) -> None:
    page.goto("/logbook")
    page.get_by_role("button", name="Enter a flight").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Keep it").click()
    expect(dialog.get_by_text("Name the aircraft.")).to_be_visible()
    dialog.get_by_label("Aircraft").fill("Dunlin")
    for name, value in (("Time in the air", "10"), ("Charge at take-off", "98"), ("Charge at landing", "62")):
        dialog.get_by_label(name).fill(value)
    expect(dialog.get_by_text("3.6% of charge a minute")).to_be_visible()
    dialog.get_by_label("Latitude").fill(str(HOME[0]))
    dialog.get_by_label("Longitude").fill(str(HOME[1]))
    dialog.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Import the track")).to_be_visible()

    table = tmp_path / "own.csv"
    table.write_bytes(as_csv(there_and_back(), ("t", "north", "east", "up", "left")))
    page.get_by_label("Track file").set_input_files(table)
    for field, column in (("Time", "t"), ("Latitude", "north"), ("Longitude", "east"), ("Height", "up")):
        page.get_by_role("combobox", name=re.compile(f"^{field}")).click()
        page.get_by_role("option", name=column, exact=True).click()
    page.get_by_role("button", name="Import", exact=True).click()
    expect(page.get_by_role("img", name=re.compile("Farthest 300 m towards 240°"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Flew home at 50 m"))).to_be_visible()
    expect(page.get_by_text("Wind from the track: not enough data.")).to_be_visible()
    expect(page.get_by_text(re.compile(r"^Outbound: 0:59 min, 2\d\d m, 5.0 m/s while moving"))).to_be_visible()

    # Round and round with the ground speed held, in 6 m/s: a track that cannot tell the wind says so.
    orbit = tmp_path / "orbit.gpx"
    orbit.write_bytes(as_gpx(orbited(6.0)))
    page.get_by_label("Track file").set_input_files(orbit)
    expect(page.get_by_text(re.compile("not enough data. The ground speed was the same on many"))).to_be_visible()

    spoiled = tmp_path / "spoiled.gpx"
    spoiled.write_bytes(as_gpx(there_and_back())[:-2000])
    page.get_by_label("Track file").set_input_files(spoiled)
    expect(page.get_by_text("XML that cannot be read")).to_be_visible()
    expect(page.get_by_text(re.compile("not enough data. The ground speed was the same on many"))).to_be_visible()


def test_a_track_with_its_lean_or_its_charge_tells_the_wind_that_the_ground_speed_hides(
    page: Page, tmp_path: Path
) -> None:
    """Long legs with the ground speed held in 5 m/s, of a flight whose plan says how its aircraft leans and drains."""
    uid = "demo-flight-034"
    entry = page.request.get(f"/api/flights/{uid}").json()["flight"]["entry"]
    whole = on_long_legs(5.0)
    here = replace(
        whole,
        latitude=whole.latitude + entry["latitude"] - HOME[0],
        longitude=whole.longitude + entry["longitude"] - HOME[1],
    )
    page.goto(f"/logbook/{uid}")
    for names, how in ((("tilt",), "how much it tilted"), (("charge",), "the charge that each heading cost")):
        table = tmp_path / f"{names[0]}.csv"
        columns = [here.time_s, here.latitude, here.longitude, here.height_m]
        columns.append(here.charge_pct if names == ("charge",) else here.tilt_deg)  # type: ignore[arg-type]
        rows = [",".join(("time", "latitude", "longitude", "height", *names))]
        rows += [",".join(f"{v:.7f}" for v in row) for row in zip(*columns, strict=True)]
        table.write_text("\n".join(rows))
        page.get_by_label("Track file").set_input_files(table)
        page.get_by_role("button", name="Import", exact=True).click()
        told = page.get_by_text(re.compile(f"^Wind from the track: .*, from {how}"))
        expect(told).to_be_visible()
        speed, pm = map(float, re.findall(r"(\d+\.\d) m/s", told.inner_text())[:2])
        assert abs(speed - 5) <= pm + 0.1


def test_a_track_stands_on_the_plan_view_of_its_place(page: Page) -> None:
    page.goto("/logbook/demo-flight-035")
    view = page.get_by_role("region", name=re.compile("^The track on the plan view. Farthest .* planned "))
    expect(view.get_by_role("img", name="North is up")).to_be_visible()
    track = view.locator("path.flown")
    expect(track).to_have_count(1)
    # It begins in the middle of the mark of the take-off point, and ends near it.
    starts, ends, length = track.evaluate(
        """path => { const at = d => { const p = path.getPointAtLength(d).matrixTransform(path.getScreenCTM());
           return [p.x, p.y]; }; const n = path.getTotalLength(); return [at(0), at(n), n]; }"""
    )
    mark = view.locator(".leaflet-marker-icon").filter(has_text="Take-off").bounding_box()
    assert mark
    middle = mark["x"] + mark["width"] / 2, mark["y"] + mark["height"] / 2
    assert math.dist(starts, middle) < 3
    assert math.dist(ends, middle) < 0.1 * length
    assert length > 100


def test_what_the_logbook_teaches_is_taken_and_undone(page: Page) -> None:
    page.goto("/logbook")
    offer = page.get_by_role("region", name="Dunlin: consumption and battery health")
    expect(offer).to_contain_text(re.compile("more had different wind from the plan and (was|were) left out"))
    counted = re.search(r"From (\d+) flights.* (\d+) more had different", offer.inner_text(), re.DOTALL)
    assert counted
    assert int(counted[1]) + int(counted[2]) == 36
    assert int(counted[2]) < 6
    expect(offer).to_contain_text("instead of")
    session = session_of(page, "Tower in a gusty")
    before = page.request.get(f"/api/sessions/{session}").json()["result"]["energy"]["landing_pct"]
    expect(offer.get_by_role("listitem")).to_contain_text(
        ["Dunlin: consumption", "Battery A: health", "Battery B: health", "Battery C: health", "Battery D: health"]
    )
    offer.get_by_role("button", name="Use all of them").click()
    expect(offer).to_contain_text("What is in use agrees with")
    after = page.request.get(f"/api/sessions/{session}").json()["result"]["energy"]["landing_pct"]
    assert after < before - 1
    page.get_by_role("list", name="Taken").get_by_role("button", name="Undo").click()
    expect(offer).to_contain_text("instead of")
    again = page.request.get(f"/api/sessions/{session}").json()["result"]["energy"]["landing_pct"]
    assert again == before


def test_a_long_track_can_be_stopped_and_has_then_changed_nothing(server: Server) -> None:
    """Through the real server: it notices that nobody listens any more."""
    begun = "2030-09-25T06:00:00+00:00"
    entry = {"started_at": begun, "aircraft": "Dunlin", "latitude": HOME[0], "longitude": HOME[1]}
    with httpx.Client(base_url=server.url, timeout=120) as client:
        stopped, other = (client.post("/api/flights", json={"entry": entry}).json()["uid"] for _ in range(2))
        rows = [f"{n / 10},{HOME[0]},{HOME[1] + n * 1e-7:.7f}" for n in range(200_000)]
        data = "\n".join(["time,latitude,longitude", *rows]).encode()
        address = "/api/flights/{}/track?time=time&latitude=latitude&longitude=longitude&progress=true"
        headers = {"Content-Type": "application/octet-stream"}
        with client.stream("POST", address.format(stopped), content=data, headers=headers) as answer:
            lines = answer.iter_lines()
            first, second = json.loads(next(lines)), json.loads(next(lines))
            assert 0 < first["done"] < second["done"] < 0.5
        # The same file for another flight, begun later and read to its end: by then the first would be there too.
        done = client.post(address.format(other), content=data, headers=headers)
        assert json.loads(done.text.splitlines()[-1])["track"]["facts"]["points"] == 200_000
        assert client.get(f"/api/flights/{stopped}").json()["flight"]["has_track"] is False
        assert client.get(f"/api/flights/{stopped}").json()["history"] == []


def turn_back_pct(page: Page) -> int:
    text = page.get_by_text("turn back at", exact=True).locator("..").inner_text()
    return int(re.search(r"(\d+)%", text)[1])  # type: ignore[index]


def test_the_wind_met_in_the_air_says_whether_it_still_comes_home(phone: Page, server: Server) -> None:
    """One entry, without the server: the turn-back moves, the best way stands there, and the plan's can come back."""
    page = phone
    opened(page)
    off(page)
    later(page, 120)
    planned = turn_back_pct(page)
    server.kill()
    away = page.get_by_role("textbox", name="Ground speed away from home", exact=True)
    home = page.get_by_role("textbox", name="Ground speed towards home", exact=True)
    for box, value in ((home, "12"), (away, "12.5")):
        box.fill(value)
        box.press("Enter")
    expect(page.get_by_text("it held its ground speed, which tells nothing")).to_be_visible()
    expect(page.get_by_role("button", name="Count with it")).to_be_disabled()
    home.fill("9")
    home.press("Enter")
    away.fill("25")
    away.press("Enter")
    expect(page.get_by_text("8.0 m/s of wind against the way home")).to_be_visible()
    page.get_by_role("button", name="Count with it").click()
    expect(page.get_by_text(re.compile("It still comes home as planned, at 4.0 m/s ground speed."))).to_be_visible()
    expect(page.get_by_text(re.compile("Best way: ")).first).to_be_visible()
    assert turn_back_pct(page) > planned
    page.reload()
    expect(page.get_by_text(re.compile("It still comes home as planned"))).to_be_visible()
    page.get_by_role("button", name="Back to the plan’s wind").click()
    expect(page.get_by_text(re.compile("It still comes home as planned"))).to_have_count(0)
    assert turn_back_pct(page) == planned
    page.get_by_role("button", name="Tilt, holding still").click()
    lean = page.get_by_role("textbox", name="Tilt", exact=True)
    lean.fill("35")
    lean.press("Enter")
    page.get_by_role("button", name="Count with it").click()
    expect(page.get_by_text(re.compile("makes no way home at any height that clears"))).to_be_visible()


def test_the_clock_goes_on_and_calls_wherever_the_pilot_looks(phone: Page) -> None:
    """Sessions, the kit, the help, a dialog, a reload: the turn-back call still comes, with the way back."""
    session = opened(phone)
    off(phone)
    later(phone, 30)
    phone.get_by_role("button", name="Menu").click()
    phone.get_by_role("navigation", name="Lark").get_by_role("link", name="Help").click()
    # By its label alone: a dialog hides all that is behind it from roles, though not from the eye.
    banner_there = phone.get_by_label("In the air", exact=True)
    expect(banner_there).to_contain_text("Back to the clock")
    phone.goto("/gear")
    expect(banner_there).to_be_visible()
    phone.get_by_role("button", name="Add a battery").click()
    for _ in range(60):
        later(phone, 30)
        if "Turn back now" in banner_there.inner_text():
            break
    expect(banner_there).to_contain_text(re.compile("Turn back now|Land now"))
    phone.keyboard.press("Escape")
    banner_there.click()
    expect(phone).to_have_url(re.compile(f"/sessions/{session}/flight$"))
    expect(phone.get_by_role("timer", name="Flight time")).to_be_visible()
    expect(banner_there).to_have_count(0)
    calls = phone.evaluate(
        "() => Object.keys(localStorage).filter(k => k.startsWith('lark.flight.'))"
        ".flatMap(k => JSON.parse(localStorage[k]).events).filter(e => e.kind === 'call').map(e => e.text)"
    )
    assert "turn_back" in calls
    assert calls.count("turn_back") == 1


def test_the_alerts_are_tried_before_anything_flies(page: Page) -> None:
    page.add_init_script(
        "window.tones = []; const made = AudioContext.prototype.createOscillator;"
        "AudioContext.prototype.createOscillator = function () {"
        "  const tone = made.call(this); window.tones.push(tone); return tone; };"
    )
    page.goto("/sessions/1/flight")
    page.get_by_role("button", name="Try the alerts").click()
    dialog = page.get_by_role("dialog", name="Try the alerts")
    heard = []
    dialog.get_by_role("button", name="Play all").click()
    for words in ("Halfway to turn-back", "Read the charge", "Turn back in 1 min", "Battery draining fast"):
        expect(dialog.get_by_role("button", name=words)).to_have_attribute("aria-pressed", "true")
        heard.append(page.evaluate("window.tones.map((t) => t.frequency.value)"))
        later(page, 3)
    # Each has tones of its own.
    assert heard[0] == [660]
    assert [len(h) for h in heard] == [1, 3, 5, 7]
    dialog.get_by_role("button", name="Land now").click()
    expect(dialog.get_by_role("button", name="Land now")).to_have_attribute("aria-pressed", "true")
    dialog.get_by_role("button", name="Close").click()
    expect(page.get_by_role("button", name="Start flight clock")).to_be_visible()
    assert flights(page) == []


def test_a_phones_shortcuts_lead_to_the_next_session_and_to_its_emergency_steps(page: Page) -> None:
    page.goto("/next")
    expect(page).to_have_url(re.compile(r"/sessions/1/plan$"))
    page.goto("/next#emergency")
    steps = page.get_by_role("dialog", name="What is happening?")
    expect(steps).to_be_visible()
    steps.get_by_role("button", name="Close").click()
    expect(steps).to_have_count(0)
    page.reload()
    expect(page.get_by_role("status", name="Verdict")).to_be_visible()
    expect(steps).to_have_count(0)
    # What is in the air comes first.
    page.goto("/sessions/2/flight")
    off(page)
    page.goto("/next")
    expect(page).to_have_url(re.compile(r"/sessions/2/flight$"))
    expect(page.get_by_role("timer", name="Flight time")).to_be_visible()

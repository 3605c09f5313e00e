"""Site and Walkround through the API: answers, the card, the pocket card, devices, what a decision keeps."""

from __future__ import annotations

import io
from collections.abc import Iterator
from html import escape
from typing import Any

import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader

from tests.conftest import NOW
from tests.flying import event, number, send
from tests.make import opened_sessions
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.preflight.pocket import turn_back_table
from zealous_lark.core.preflight.settings_card import settings_card
from zealous_lark.plan import situation_of
from zealous_lark.services import sessions
from zealous_lark.services.devices import Devices
from zealous_lark.services.weather import known
from zealous_lark.simulators.aircraft import Behaviour, SimulatedAircraft, packets
from zealous_lark.sources.aircraft import AircraftListener
from zealous_lark.store import Database
from zealous_lark.web import create_app


def on_site(client: FlaskClient, number: int, **changes: Any) -> dict[str, Any]:
    plan = client.get(f"/api/sessions/{number}").json["plan"]
    for key, value in changes.items():
        part, _, field = key.partition("__")
        plan[part][field] = value
    answer = client.post(f"/api/sessions/{number}/on-site", json={"plan": plan})
    assert answer.status_code == 200, answer.json
    found: dict[str, Any] = answer.json
    return found


def item(found: dict[str, Any], key: str) -> dict[str, Any]:
    return next(i for gate in found["gates"] for i in gate["items"] if i["key"] == key)


def say(client: FlaskClient, number: int, name: str = "walkround", **said: Any) -> Any:
    body = {"word": "done", "value": None, "note": "", **said}
    return client.put(f"/api/sessions/{number}/answers/{name}", json=body)


def test_an_answer_is_kept_with_its_time_changed_and_taken_back(demo_client: FlaskClient) -> None:
    before = on_site(demo_client, 1)
    assert item(before, "arms")["answer"] is None
    say(demo_client, 1, item="arms")
    kept = item(on_site(demo_client, 1), "arms")["answer"]
    assert (kept["word"], kept["said_at"]) == ("done", NOW.isoformat().replace("+00:00", "Z"))
    say(demo_client, 1, item="arms", word="fault")
    stopped = on_site(demo_client, 1)
    assert stopped["gates"][0]["stopped"]
    say(demo_client, 1, item="arms", word=None)
    assert on_site(demo_client, 1) == before


def test_a_skip_needs_a_reason(demo_client: FlaskClient) -> None:
    refused = say(demo_client, 1, item="arms", word="skip", note="  ")
    assert (refused.status_code, refused.json["refusals"][0]["key"]) == (422, "note")
    assert say(demo_client, 1, item="arms", word="skip", note="Fixed arms.").status_code == 200
    assert say(demo_client, 1, name="shopping", item="arms").status_code == 422
    assert say(demo_client, 999, item="arms").status_code == 404


@pytest.mark.parametrize(
    ("changes", "key", "status", "words"),
    [
        ({"pack__charge_pct": 97}, "charge", "pass", "Enough"),
        ({"pack__charge_pct": 80}, "charge", "care", "Less than"),
        ({"pack__charge_pct": 50}, "charge", "fail", "change it"),
        ({"settings__satellites": None}, "satellites", "unknown", "Not entered"),
        ({"settings__satellites": 6}, "satellites", "fail", "does not hold"),
        ({"settings__satellites": 9}, "satellites", "care", "Wait"),
        ({"settings__satellites": 14}, "satellites", "pass", "Enough"),
        ({"settings__home_point_set": False}, "home_point", "fail", "the wrong place"),
        ({"settings__home_point_set": True}, "home_point", "pass", "Confirmed"),
        ({"settings__rth_altitude_m": 25}, "return_height", "fail", "Set to 25 m, this place wants 30 m"),
        ({"settings__rth_altitude_m": 30}, "return_height", "pass", "Matches what this place needs"),
        ({"settings__rth_altitude_m": 45}, "return_height", "pass", "15 m over"),
        ({"settings__rth_altitude_m": 70}, "return_height", "care", "Set to 70 m"),
    ],
)
def test_values_are_held_against_what_is_wanted(
    demo_client: FlaskClient, changes: dict[str, Any], key: str, status: str, words: str
) -> None:
    value = item(on_site(demo_client, 1, **changes), key)["value"]
    assert value["status"] == status
    assert words in value["sentence"]


def test_minutes_on_the_card_are_the_answers_own(demo_client: FlaskClient) -> None:
    assert item(on_site(demo_client, 1), "card")["value"]["status"] == "unknown"
    say(demo_client, 1, item="card", value=8)
    assert item(on_site(demo_client, 1), "card")["value"]["status"] == "care"
    say(demo_client, 1, item="card", value=40)
    assert item(on_site(demo_client, 1), "card")["value"] == {
        "kind": "card_min", "now": 40.0, "wanted": "11 min or more", "status": "pass", "sentence": "Room enough.",
    }  # fmt: skip


def test_each_demo_session_has_its_own_gates(demo_client: FlaskClient) -> None:
    expected = {
        1: set(),
        5: {"over_water"},
        6: {"guards", "room", "indoor_mode"},
        7: {"ice", "pack_temperature", "swap_card"},
        9: {"boat_home", "deck", "over_water", "observer"},
    }
    special = set().union(*expected.values())
    for session_id, keys in expected.items():
        found = {i["key"] for gate in on_site(demo_client, session_id)["gates"] for i in gate["items"]}
        assert found & special == keys, session_id


def test_the_settings_card_is_what_the_core_recommends_in_every_demo_session(
    demo: Database, demo_client: FlaskClient
) -> None:
    for opened in opened_sessions(demo, NOW):
        situation = situation_of(opened.plan, known(demo, opened.plan, NOW))
        shown = [(d["label"], d["shown"], d["value"]) for d in on_site(demo_client, opened.session.id)["card"]]
        assert shown == [(d.label, d.shown, d.value) for d in settings_card(Assessment(situation))]


@pytest.mark.parametrize("paper", ["a6", "a4"])
def test_the_pocket_card_read_back(demo: Database, demo_client: FlaskClient, paper: str) -> None:
    answer = demo_client.get(f"/api/sessions/1/pocket.pdf?paper={paper}")
    assert answer.mimetype == "application/pdf"
    reader = PdfReader(io.BytesIO(answer.data))
    assert len(reader.pages) <= 2
    width, height = (float(v) / 72 * 25.4 for v in reader.pages[0].mediabox[2:])
    assert (round(width), round(height)) == ((105, 148) if paper == "a6" else (210, 297))
    text = " ".join("\n".join(p.extract_text() for p in reader.pages).split())
    for dial in on_site(demo_client, 1)["card"]:
        assert f"{dial['label']} {dial['shown']}" in text
    plan = sessions.plan_of(demo, 1)
    flyer = Assessment(situation_of(plan, known(demo, plan, NOW))).flyer
    assert flyer is not None
    table = turn_back_table(flyer, plan.flight.distance_m * 1.3)
    for distance, row in zip(table.distance_m, table.charge_pct, strict=True):
        cells = " ".join("no way" if c is None else f"{c:.0f}%" for c in row)
        assert f"{distance:.0f} m {cells}" in text
    cards = demo_client.get("/api/sessions/1/airborne").json["emergencies"]
    assert len(cards) == 12
    assert all(f"{c['title']}." in text for c in cards)
    assert "Not permission to fly" in text


def test_the_phone_page_holds_all_it_needs(demo_client: FlaskClient) -> None:
    page = demo_client.get("/api/sessions/1/pocket.html").text
    assert "<script" not in page
    assert "src=" not in page
    assert "href=" not in page
    for card in demo_client.get("/api/sessions/1/airborne").json["emergencies"]:
        assert escape(card["title"]) in page
        assert escape(" ".join(card["steps"][:3])) in page


def test_on_a_boat_the_card_never_sends_the_aircraft_back_to_where_the_boat_was(demo_client: FlaskClient) -> None:
    ashore, afloat = (demo_client.get(f"/api/sessions/{n}/pocket.html").text for n in (1, 9))
    assert "press return to home" in ashore
    assert "press return to home" not in afloat


def test_paper_that_does_not_exist_is_refused(demo_client: FlaskClient) -> None:
    refused = demo_client.get("/api/sessions/1/pocket.pdf?paper=a5")
    assert refused.status_code == 422
    assert demo_client.get("/api/sessions/999/pocket.pdf").status_code == 404


def test_a_decision_keeps_the_walkround_as_it_was(demo_client: FlaskClient) -> None:
    say(demo_client, 1, item="arms")
    say(demo_client, 1, item="pad", word="skip", note="On the jetty.")
    revision = demo_client.get("/api/sessions/1").json["revision"]
    made = demo_client.post("/api/sessions/1/decisions", json={"word": "wait", "revision": revision}).json
    say(demo_client, 1, item="arms", word=None)
    kept = demo_client.get(f"/api/decisions/{made['id']}").json["walkround"]
    assert {(a["item"], a["word"], a["note"]) for a in kept} == {
        ("Arms: unfolded and locked, legs out", "done", ""),
        ("Take-off spot: level, clean, dry", "skip", "On the jetty."),
    }
    pdf = demo_client.get(f"/api/decisions/{made['id']}/record.pdf").data
    text = " ".join(" ".join(p.extract_text().split()) for p in PdfReader(io.BytesIO(pdf)).pages)
    assert "Wait: Bog at first light" in text
    assert "Take-off spot: level, clean, dry: skip, On the jetty." in text
    for check in demo_client.get(f"/api/decisions/{made['id']}").json["result"]["checks"]:
        assert check["label"] in text


@pytest.fixture
def listener() -> Iterator[AircraftListener]:
    made = AircraftListener()
    yield made
    made.close()


def test_devices_say_what_they_say(demo: Database, listener: AircraftListener) -> None:
    none = create_app(demo, clock=lambda: NOW).test_client()
    assert none.get("/api/devices").json == {"aircraft": None, "wind_meter": None}
    assert none.put("/api/devices/aircraft", json={"behaviour": "well"}).status_code == 422

    craft = SimulatedAircraft(listener.port, Behaviour.SILENT)
    client = create_app(demo, clock=lambda: NOW, devices=Devices(listener, None, craft)).test_client()
    aircraft = client.get("/api/devices").json["aircraft"]
    assert aircraft["heard"]["silent"]
    assert set(aircraft["says"].values()) == {None}
    for packet in packets(Behaviour.RETURN_HEIGHT, 0):
        listener.take(packet)
    assert client.get("/api/devices").json["aircraft"]["says"]["rth_altitude_m"] == 20
    refused = client.put("/api/devices/aircraft", json={"behaviour": "explode"})
    assert (refused.status_code, refused.json["refusals"][0]["key"]) == (422, "behaviour")
    assert client.put("/api/devices/aircraft", json={"behaviour": "compass"}).json["aircraft"]["behaviour"] == "compass"
    craft.close()


def test_the_simulated_aircraft_stands_on_its_pad_and_drains_as_the_flight_does(
    demo: Database, listener: AircraftListener
) -> None:
    """An hour of an open demo costs it nothing; ten minutes in the air cost it what was planned."""
    clock = [0.0]
    craft = SimulatedAircraft(listener.port, Behaviour.SILENT, lambda: clock[0])
    client = create_app(demo, clock=lambda: NOW, devices=Devices(listener, None, craft)).test_client()
    clock[0] = 3600.0
    assert craft.charge_pct == 98
    for packet in packets(Behaviour.WELL, 3600, charge_pct=craft.charge_pct):
        listener.take(packet)
    assert client.get("/api/devices").json["aircraft"]["says"]["charge_pct"] == 98
    uid = number()
    send(client, uid, 1, [event("takeoff", 0, NOW, 97.0)])
    clock[0] += 600
    assert 55 < craft.charge_pct < 92
    send(client, uid, 1, [event("landed", 600, NOW, 61.0)])
    clock[0] += 900
    assert craft.charge_pct == 61
    craft.close()

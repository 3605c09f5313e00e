"""Flights through the API: born on the device, sent again and again, landed once."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.flying import event, number, send
from zealous_lark.demo.scenario import ZONE
from zealous_lark.services.decisions import OPEN
from zealous_lark.store import Database


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


@pytest.fixture
def session(client: FlaskClient) -> dict[str, Any]:
    found = client.get("/api/sessions").json["sessions"]
    return next(s for s in found if "first light" in s["title"])


def pack(client: FlaskClient, label: str) -> dict[str, Any]:
    kit = client.get("/api/kit").json["items"]
    return next(k["item"] for k in kit if k["item"]["kind"] == "pack" and k["item"]["label"] == label)


def whole(begun: Any = NOW) -> list[dict[str, Any]]:
    return [
        event("takeoff", 0, begun, 98.0),
        event("distance", 40, begun, 150.0),
        event("reading", 200, begun, 85.0),
        event("signal", 300, begun, 240.0, bearing_deg=45, text="picture broke up"),
        event("turned", 500, begun),
        event("near_miss", 520, begun, text="a gull"),
        event("landed", 560, begun, 66.0),
    ]


def test_what_goes_into_the_air(client: FlaskClient, session: dict[str, Any]) -> None:
    found = client.get(f"/api/sessions/{session['id']}/airborne").json
    card = found["card"]
    assert card["charge_pct"] == found["charge_pct"]
    assert [s["name"] for s in card["out"]] == ["hover_check", "climb", "outbound", "station"]
    assert card["home"]["pct_per_m"] > 0
    assert len(found["emergencies"]) == 12
    assert found["decision_id"] is None
    assert found["flights"] == []
    assert client.get("/api/sessions/999/airborne").status_code == 404


def test_a_flight_rests_on_its_own_decision(client: FlaskClient, session: dict[str, Any]) -> None:
    def decide() -> int:
        opened = client.get(f"/api/sessions/{session['id']}").json
        said = dict.fromkeys([*(q["id"] for q in opened["result"]["questions"]), *OPEN], "in_order")
        body = {"word": "launch", "note": "measured again", "revision": opened["revision"], "said": said}
        made = client.post(f"/api/sessions/{session['id']}/decisions", json=body)
        assert made.status_code == 201
        return int(made.json["id"])

    first = decide()
    assert client.get(f"/api/sessions/{session['id']}/airborne").json["decision_id"] == first
    uid = number()
    landed = send(client, uid, session["id"], whole(), decision=first).json["flight"]
    assert landed["decision_id"] == first
    assert landed["entry"]["word"] == "launch"
    assert client.get(f"/api/sessions/{session['id']}/airborne").json["decision_id"] is None
    assert client.get(f"/api/sessions/{session['id']}/airborne").json["flights"][0]["uid"] == uid
    second = decide()
    assert client.get(f"/api/sessions/{session['id']}/airborne").json["decision_id"] == second


def test_landing_makes_the_entry_and_updates_pack_and_hours_once(client: FlaskClient, session: dict[str, Any]) -> None:
    plan = client.get(f"/api/sessions/{session['id']}").json["plan"]
    label = plan["pack"]["label"]
    before = pack(client, label)
    uid, events = number(), whole()
    done = send(client, uid, session["id"], events)
    assert done.status_code == 200
    assert done.json["new"] == len(events)
    entry = done.json["flight"]["entry"]
    assert (entry["charge_from_pct"], entry["charge_to_pct"], entry["seconds"]) == (98, 66, 560)
    assert entry["distance_m"] == 150
    assert entry["place"] == plan["site"]["name"]
    assert [m["kind"] for m in entry["marks"]] == ["signal", "near_miss"]
    assert entry["marks"][0]["distance_m"] == 240
    planned = done.json["flight"]["planned_pct"]
    assert entry["predicted_to_pct"] == pytest.approx(98 - planned)
    for _ in range(3):  # the answer was lost: sent again
        again = send(client, uid, session["id"], events)
        assert again.json["new"] == 0
    after = pack(client, label)
    assert after["charge_pct"] == 66
    assert after["cycles"] == before["cycles"] + 1
    aircraft = next(k for k in client.get("/api/kit").json["items"] if k["name"] == plan["aircraft"]["name"])
    upkeep = client.get(f"/api/kit/{aircraft['id']}/upkeep").json
    flown = [e for e in upkeep["entries"] if e["entry"]["note"] == "From the logbook"]
    assert [e["entry"]["hours"] for e in flown] == [pytest.approx(560 / 3600, abs=1e-4)]


def test_events_in_pieces_and_out_of_order_come_to_the_same(client: FlaskClient, session: dict[str, Any]) -> None:
    events = whole()
    uid = number()
    plan = client.get(f"/api/sessions/{session['id']}").json["plan"]
    send(client, uid, session["id"], events[:1])
    send(client, uid, session["id"], events[4:])
    last = send(client, uid, session["id"], events[1:6]).json["flight"]
    landed = client.get(f"/api/sessions/{session['id']}").json
    body = {"plan": plan, "revision": landed["revision"]}
    assert client.put(f"/api/sessions/{session['id']}", json=body).status_code == 200
    other = number()
    fresh = [{**e, "uid": number()} for e in events]
    at_once = send(client, other, session["id"], fresh).json["flight"]
    assert last["entry"] == at_once["entry"]
    assert [e["kind"] for e in client.get(f"/api/flights/{uid}").json["events"]] == [e["kind"] for e in events]


def test_the_pack_brings_its_history(client: FlaskClient, session: dict[str, Any]) -> None:
    assert client.get(f"/api/sessions/{session['id']}/airborne").json["history"] == []
    for _ in range(8):
        send(client, number(), session["id"], whole())
    history = client.get(f"/api/sessions/{session['id']}/airborne").json["history"]
    assert history == [{"seconds": 560, "from_pct": 98, "to_pct": 66}] * 6


def test_a_slip_is_taken_back(client: FlaskClient, session: dict[str, Any]) -> None:
    uid, events = number(), whole()
    slip = event("distance", 60, NOW, 900.0)
    back = event("withdrawn", 65, NOW, text=slip["uid"])
    found = send(client, uid, session["id"], [*events[:2], slip, back, *events[2:]]).json["flight"]
    assert found["entry"]["distance_m"] == 150


@pytest.mark.parametrize(
    ("change", "key"),
    [
        ({"kind": "reading", "value": None}, "events[0]"),
        ({"value": 130.0}, "events[0]"),
        ({"kind": "hop"}, "events[0].kind"),
        ({"at": "yesterday"}, "events[0].at"),
        ({"uid": "../etc"}, "events[0].uid"),
        ({"at_s": -1}, "events[0].at_s"),
    ],
)
def test_bad_events_are_refused_by_name(
    client: FlaskClient, session: dict[str, Any], change: dict[str, Any], key: str
) -> None:
    uid = number()
    answer = send(client, uid, session["id"], [{**event("takeoff", 0, NOW, 98.0), **change}])
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["key"].startswith(key.split("[")[0])
    assert client.get(f"/api/flights/{uid}").status_code == 404


def test_a_flight_begins_with_its_take_off_and_stays_in_its_session(
    client: FlaskClient, session: dict[str, Any]
) -> None:
    uid = number()
    answer = send(client, uid, session["id"], [event("reading", 10, NOW, 90.0)])
    assert answer.json["refusals"][0]["given"] == "no take-off"
    events = whole()
    send(client, uid, session["id"], events)
    other = next(s["id"] for s in client.get("/api/sessions").json["sessions"] if s["id"] != session["id"])
    moved = send(client, uid, other, [event("note", 600, NOW, text="x")])
    assert moved.status_code == 422
    stolen = send(client, number(), session["id"], [event("takeoff", 0, NOW, 98.0), events[2]])
    assert stolen.json["refusals"][0]["key"] == "events.uid"


def test_an_entry_mended_by_hand_is_not_overwritten_later(client: FlaskClient, session: dict[str, Any]) -> None:
    uid = number()
    events = whole()
    sent = send(client, uid, session["id"], events).json["flight"]
    entry = {**sent["entry"], "note": "mine", "distance_m": 170.0}
    saved = client.put(f"/api/flights/{uid}", json={"entry": entry, "revision": sent["revision"]})
    assert saved.json["revision"] == sent["revision"] + 1
    send(client, uid, session["id"], [event("distance", 100, NOW, 400.0)])
    kept = client.get(f"/api/flights/{uid}").json
    assert kept["flight"]["entry"]["distance_m"] == 170
    assert kept["history"][0]["before"]["note"] == ""
    assert len(kept["events"]) == len(events) + 1


def test_what_is_mended_in_the_air_stays_and_the_landing_still_comes_in_once(
    client: FlaskClient, session: dict[str, Any]
) -> None:
    events, uid = whole(), number()
    begun = send(client, uid, session["id"], events[:2]).json["flight"]
    entry = {**begun["entry"], "note": "Seen from the tower", "distance_m": 180.0}
    address = f"/api/flights/{uid}"
    assert client.put(address, json={"entry": entry, "revision": begun["revision"]}).status_code == 200
    before = pack(client, begun["entry"]["pack"])
    for _ in range(3):
        send(client, uid, session["id"], events)
    landed = client.get(address).json["flight"]
    assert landed["landed"] is True
    assert (landed["entry"]["note"], landed["entry"]["distance_m"]) == ("Seen from the tower", 180)
    assert (landed["entry"]["seconds"], landed["entry"]["charge_to_pct"]) == (560, 66)
    assert [m["kind"] for m in landed["entry"]["marks"]] == ["signal", "near_miss"]
    assert pack(client, begun["entry"]["pack"])["cycles"] == before["cycles"] + 1


def test_an_entry_that_was_opened_before_the_landing_does_not_overwrite_it(
    client: FlaskClient, session: dict[str, Any]
) -> None:
    events, uid = whole(), number()
    begun = send(client, uid, session["id"], events[:2]).json["flight"]
    send(client, uid, session["id"], events)
    stale = {"entry": {**begun["entry"], "note": "late"}, "revision": begun["revision"]}
    assert client.put(f"/api/flights/{uid}", json=stale).status_code == 409
    assert client.get(f"/api/flights/{uid}").json["flight"]["entry"]["charge_to_pct"] == 66


def test_a_landing_that_is_taken_back_and_comes_again_counts_once(client: FlaskClient, session: dict[str, Any]) -> None:
    events, uid = whole(), number()
    before = pack(client, send(client, uid, session["id"], events[:1]).json["flight"]["entry"]["pack"])
    send(client, uid, session["id"], events)
    slip = event("withdrawn", 562, NOW, text=events[-1]["uid"])
    assert send(client, uid, session["id"], [slip]).json["flight"]["landed"] is False
    again = send(client, uid, session["id"], [event("landed", 700, NOW, 58.0)]).json["flight"]
    assert (again["landed"], again["entry"]["charge_to_pct"]) == (True, 58)
    after = pack(client, before["label"])
    assert (after["cycles"], after["charge_pct"]) == (before["cycles"] + 1, 58)


def test_after_landing(client: FlaskClient, session: dict[str, Any]) -> None:
    before = client.get(f"/api/sessions/{session['id']}/after").json
    assert before["pack"] is None
    send(client, number(), session["id"], whole())
    found = client.get(f"/api/sessions/{session['id']}/after").json
    keys = [c["key"] for c in found["chores"]]
    assert {"off", "card", "storage", "knock"} <= set(keys)
    assert found["pack"]["charge_pct"] == 66
    assert found["dry_until"] is None
    body = {"item": "card", "word": "done", "value": None, "note": ""}
    assert client.put(f"/api/sessions/{session['id']}/answers/after", json=body).status_code == 200
    assert "card" in client.get(f"/api/sessions/{session['id']}/after").json["said"]


def test_a_wet_flight_says_until_when_it_dries(client: FlaskClient, session: dict[str, Any]) -> None:
    uid = number()
    sent = send(client, uid, session["id"], whole()).json["flight"]
    client.put(f"/api/flights/{uid}", json={"entry": {**sent["entry"], "wet": True}, "revision": sent["revision"]})
    found = client.get(f"/api/sessions/{session['id']}/after").json
    # By the clock where it was flown.
    assert found["dry_until"] == (NOW + timedelta(seconds=560, hours=24)).astimezone(ZONE).isoformat()
    assert "wipe" in [c["key"] for c in found["chores"]]


def test_warming_in_the_bag(client: FlaskClient) -> None:
    found = client.get("/api/warm-up?room_c=21&humidity_pct=45&gear_c=-8").json
    assert found["dew_point_c"] == pytest.approx(8.6, abs=0.1)
    assert found["wait_s"] / 60 == pytest.approx(34, abs=0.5)
    assert client.get("/api/warm-up?room_c=21&humidity_pct=0&gear_c=-8").status_code == 422

"""Aircraft, batteries and places by their number: what renaming, deleting, bringing back and landing do."""

from __future__ import annotations

import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any
from unittest.mock import Mock

import pytest
from flask.testing import FlaskClient
from shapely.errors import GEOSException

from tests.conftest import NOW
from tests.flying import event, number, send
from tests.web.test_kit import PACK, kit, session
from zealous_lark.services import session_list, sessions
from zealous_lark.store import Database
from zealous_lark.store import sessions as stored
from zealous_lark.web import create_app

BOG = "Bog at first light"


def renamed(client: FlaskClient, name: str, new: str) -> dict[str, Any]:
    kept = kit(client)[name]
    item = kept["item"]
    if item["kind"] == "aircraft":
        item = {**item, "aircraft": {**item["aircraft"], "name": new}}
    else:
        item = {**item, "label": new}
    answer = client.put(f"/api/kit/{kept['id']}", json={"item": item, "revision": kept["revision"]})
    assert answer.status_code == 200, answer.json
    return kept


def flown(client: FlaskClient, session_id: int, begun: Any = NOW, lands: float = 48.0) -> str:
    uid = number()
    events = [event("takeoff", 0, begun, 100.0), event("landed", 600, begun, lands)]
    assert send(client, uid, session_id, events).status_code == 200
    return uid


def test_a_plan_names_what_it_flies_by_number(demo_client: FlaskClient) -> None:
    _, plan = session(demo_client, BOG)
    have = kit(demo_client)
    assert plan["aircraft"]["kit"] == have["Plover"]["id"]
    assert plan["pack"]["kit"] == have["1"]["id"]


def test_renaming_breaks_nothing(demo_client: FlaskClient) -> None:
    """The session keeps its snapshot; flights, upkeep, charge and what is prepared are still of the same things."""
    pack, aircraft = renamed(demo_client, "1", "Sunday"), renamed(demo_client, "Plover", "Old Plover")
    hours = kit(demo_client)["Old Plover"]["hours"]
    number_of, plan = session(demo_client, BOG)
    assert (plan["aircraft"]["name"], plan["pack"]["label"]) == ("Plover", "1")
    ready = demo_client.post("/api/outing", json={"plan": plan}).json
    assert ready["aircraft"] == aircraft["id"]
    uid = flown(demo_client, number_of)
    after = kit(demo_client)["Sunday"]
    assert (after["id"], after["item"]["charge_pct"]) == (pack["id"], 48)
    assert after["item"]["cycles"] == pack["item"]["cycles"] + 1
    assert kit(demo_client)["Old Plover"]["hours"] == pytest.approx(hours + 600 / 3600, abs=0.001)
    assert demo_client.get(f"/api/flights/{uid}").json["flight"]["entry"]["pack_kit"] == pack["id"]
    copy = demo_client.post(f"/api/sessions/{number_of}/duplicate").json["plan"]
    assert copy["aircraft"]["name"] == "Old Plover"
    assert copy["aircraft"]["kit"] == aircraft["id"]
    assert copy["pack"] == {"label": None, "kit": None, "charge_pct": 100, "health_pct": 100, "temperature_c": None}


def test_bringing_back_never_makes_two_of_a_name(client: FlaskClient) -> None:
    first = client.post("/api/kit", json={"item": PACK}).json["id"]
    client.delete(f"/api/kit/{first}")
    second = client.post("/api/kit", json={"item": PACK}).json["id"]
    refused = client.post(f"/api/kit/{first}/restore")
    assert refused.status_code == 422
    assert refused.json["refusals"][0]["key"] == "item.label"
    assert [i["id"] for i in client.get("/api/kit").json["items"]] == [second]


def test_what_sessions_use_is_told_before_it_is_deleted(demo_client: FlaskClient) -> None:
    have = kit(demo_client)
    used = demo_client.get(f"/api/kit/{have['Plover']['id']}/uses").json["sessions"]
    assert BOG in [u["title"] for u in used]
    listed = demo_client.get("/api/sessions").json["sessions"]
    assert {u["id"] for u in used} == {s["id"] for s in listed if s["aircraft"] == "Plover"}
    number_of, plan = session(demo_client, BOG)
    at = demo_client.get(f"/api/places/{plan['site']['place']}/uses").json["sessions"]
    assert number_of in [u["id"] for u in at]
    assert demo_client.get("/api/kit/999/uses").status_code == 404
    # Deleted all the same, its sessions keep their numbers.
    demo_client.delete(f"/api/kit/{have['Plover']['id']}")
    assert session(demo_client, BOG)[1]["aircraft"] == plan["aircraft"]


def test_upkeep_is_withdrawn_at_its_own_aircraft_only(demo_client: FlaskClient) -> None:
    have = kit(demo_client)
    plover, dunlin = have["Plover"]["id"], have["Dunlin"]["id"]
    entry = demo_client.get(f"/api/kit/{plover}/upkeep").json["entries"][0]["id"]
    assert demo_client.delete(f"/api/kit/{dunlin}/upkeep/{entry}").status_code == 404
    assert entry in [e["id"] for e in demo_client.get(f"/api/kit/{plover}/upkeep").json["entries"]]
    assert demo_client.delete(f"/api/kit/{plover}/upkeep/{entry}").status_code == 200


def test_the_next_flight_is_not_planned_with_a_full_battery_that_has_flown(demo_client: FlaskClient) -> None:
    number_of, before = session(demo_client, BOG)
    assert before["pack"]["charge_pct"] == 100
    flown(demo_client, number_of, lands=48)
    opened = demo_client.get(f"/api/sessions/{number_of}").json
    assert opened["plan"]["pack"]["charge_pct"] == 48
    assert opened["plan"]["pack"]["temperature_c"] is None
    assert opened["plan"]["evidence"]["pack.charge_pct"]["how"] == "read"
    charge = next(c for c in opened["result"]["checks"] if c["id"] == "battery.charge")
    assert charge["status"] == "fail"
    # With another battery in it, the landing of the first changes nothing.
    plan = {**opened["plan"], "pack": {**opened["plan"]["pack"], "kit": kit(demo_client)["2"]["id"], "label": "2"}}
    body = {"plan": {**plan, "pack": {**plan["pack"], "charge_pct": 97}}, "revision": opened["revision"]}
    assert demo_client.put(f"/api/sessions/{number_of}", json=body).status_code == 200


def test_late_news_never_overwrites_newer(demo_client: FlaskClient) -> None:
    """A flight of five days ago arrives now: the battery was charged since, and counts one cycle more."""
    number_of, before = session(demo_client, BOG)
    pack = kit(demo_client)["1"]
    flown(demo_client, number_of, begun=NOW - timedelta(minutes=20), lands=60)
    flown(demo_client, number_of, begun=NOW - timedelta(days=5), lands=31)
    after = kit(demo_client)["1"]["item"]
    assert (after["charge_pct"], after["cycles"]) == (60, pack["item"]["cycles"] + 2)
    assert session(demo_client, BOG)[1]["pack"]["charge_pct"] == 60
    assert before["pack"]["charge_pct"] == 100


def test_a_flight_entered_by_hand_is_of_the_kit(demo_client: FlaskClient) -> None:
    entry = {"started_at": NOW.isoformat(), "aircraft": "Dunlin", "pack": "B"}
    made = demo_client.post("/api/flights", json={"entry": entry}).json
    assert made["entry"]["pack_kit"] == kit(demo_client)["B"]["id"]
    renamed(demo_client, "B", "Bee")
    changed = {**made["entry"], "note": "as before"}
    body = {"entry": changed, "revision": made["revision"]}
    saved = demo_client.put(f"/api/flights/{made['uid']}", json=body).json
    assert saved["entry"]["pack_kit"] == made["entry"]["pack_kit"]
    body = {"entry": {**saved["entry"], "pack": "C"}, "revision": saved["revision"]}
    again = demo_client.put(f"/api/flights/{made['uid']}", json=body).json
    assert again["entry"]["pack_kit"] == kit(demo_client)["C"]["id"]


def test_a_double_tap_makes_one(demo_client: FlaskClient) -> None:
    key = {"Idempotency-Key": str(uuid.uuid4())}
    body = {"title": "Twice", "takeoff_at": "2026-09-28T08:00:00+03:00", "start_from": 1}
    one, other = (demo_client.post("/api/sessions", json=body, headers=key) for _ in range(2))
    assert (one.status_code, other.status_code) == (201, 201)
    assert one.json["id"] == other.json["id"]
    assert demo_client.get("/api/sessions?find=Twice").json["total"] == 1
    said = {"word": "wait", "revision": 1}
    key = {"Idempotency-Key": str(uuid.uuid4())}
    where = f"/api/sessions/{one.json['id']}/decisions"
    ids = {demo_client.post(where, json=said, headers=key).json["id"] for _ in range(3)}
    assert len(ids) == 1
    # The same key for something else, and one that is none.
    assert demo_client.post("/api/sessions", json=body, headers=key).status_code == 422
    assert demo_client.post("/api/sessions", json=body, headers={"Idempotency-Key": "no"}).status_code == 422
    # A refused request is not remembered.
    key = {"Idempotency-Key": str(uuid.uuid4())}
    assert demo_client.post("/api/sessions", json={**body, "start_from": 99}, headers=key).status_code == 404
    assert demo_client.post("/api/sessions", json=body, headers=key).status_code == 201


def test_the_list_in_pages_with_what_is_to_come_first(demo_client: FlaskClient, demo: Database) -> None:
    plan = sessions.plan_of(demo, 1)
    for n in range(70):
        at = NOW - timedelta(days=n + 1)
        sessions.add_session(demo, plan.model_copy(update={"title": f"Over {n}", "takeoff_at": at}), NOW)
    first = demo_client.get("/api/sessions").json
    assert (first["pages"], len(first["sessions"])) == (3, 30)
    times = [s["takeoff_at"] for s in first["sessions"]]
    ahead = [t for t in times if t > NOW.isoformat()]
    assert ahead == sorted(ahead)
    assert times[: len(ahead)] == ahead
    assert times[len(ahead) :] == sorted(times[len(ahead) :], reverse=True)
    seen = [s["id"] for page in (1, 2, 3) for s in demo_client.get(f"/api/sessions?page={page}").json["sessions"]]
    assert len(seen) == len(set(seen)) == first["total"]
    assert demo_client.get("/api/sessions?find=over+69").json["total"] == 1
    assert demo_client.get("/api/sessions?find=100%25").json["total"] == 0
    assert demo_client.get("/api/sessions?page=9").json["sessions"] == []


def test_the_list_and_the_opened_session_say_the_same(demo_client: FlaskClient) -> None:
    """Also what was found before, and after the minimums or the plan were changed."""

    def agree() -> list[str]:
        listed = demo_client.get("/api/sessions?speed=kn").json["sessions"]
        for s in listed:
            result = demo_client.get(f"/api/sessions/{s['id']}?speed=kn").json["result"]
            first = result["checks"][0]
            assert (s["verdict"], s["tightest"]["sentence"]) == (result["verdict"], first["sentence"]), s["title"]
        return [s["verdict"] for s in listed]

    before = agree()
    assert agree() == before
    settings = demo_client.get("/api/minimums").json["settings"]
    strict = {**settings, "minimums": {**settings["minimums"], "wind_fraction": 0.1}}
    assert demo_client.put("/api/minimums", json=strict).status_code == 200
    assert agree() != before


@pytest.mark.parametrize("hours", [0.2, 1.0, 3.0, 5.5, 9.0, 9.9, 10.2, 13.0, 30.0])
def test_as_the_weather_grows_old_the_list_says_what_the_session_says(demo: Database, hours: float) -> None:
    """What was judged before is looked at again hours later, up to and over the age that is accepted."""
    clock = [NOW]
    client = create_app(demo, clock=lambda: clock[0]).test_client()
    client.get("/api/sessions")
    clock[0] = NOW + timedelta(hours=hours)
    for s in client.get("/api/sessions").json["sessions"]:
        result = client.get(f"/api/sessions/{s['id']}").json["result"]
        first = result["checks"][0]
        assert (s["verdict"], s["tightest"]["sentence"]) == (result["verdict"], first["sentence"]), s["title"]


def test_many_list_at_once_before_anything_was_judged(demo: Database) -> None:
    """As eight threads of the server do: each finds nothing kept, and all keep what they find."""
    app = create_app(demo, clock=lambda: NOW)
    with demo.transaction() as s:
        s.connection().exec_driver_sql("DELETE FROM verdicts")
    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(lambda _: app.test_client().get("/api/sessions"), range(24)))
    assert {a.status_code for a in answers} == {200}
    assert len({a.data for a in answers}) == 1


def test_a_battery_that_is_not_in_the_kit_is_not_full_either_after_its_flight(
    client: FlaskClient, plan_dict: dict[str, Any]
) -> None:
    made = client.post("/api/sessions/import", json=plan_dict).json
    assert made["plan"]["pack"]["kit"] is None
    flown(client, made["id"], lands=41)
    assert client.get(f"/api/sessions/{made['id']}").json["plan"]["pack"]["charge_pct"] == 41


def test_a_plan_that_geometry_refuses_leaves_the_others_on_the_list(
    demo_client: FlaskClient, demo: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    judges = iter([Mock(side_effect=GEOSException("a line of one point"))])
    every = session_list.judge
    with demo.writing() as s:
        s.connection().exec_driver_sql("DELETE FROM verdicts")
    monkeypatch.setattr(session_list, "judge", lambda situation: next(judges, every)(situation))
    listed = demo_client.get("/api/sessions").json["sessions"]
    told = [s["tightest"]["sentence"] for s in listed if s["tightest"]["id"] == "plan"]
    assert told == ["It cannot be checked: a line of one point."]
    assert len(listed) > 1


def test_a_session_that_cannot_be_read_leaves_the_others_on_the_list(demo_client: FlaskClient, demo: Database) -> None:
    with demo.transaction() as s:
        s.connection().exec_driver_sql("UPDATE sessions SET plan = '{}', revision = 9 WHERE id = 1")
    listed = {s["id"]: s for s in demo_client.get("/api/sessions").json["sessions"]}
    assert listed[1]["verdict"] == "unknown"
    assert "cannot be checked" in listed[1]["tightest"]["sentence"]
    with demo.transaction() as s:
        assert len(listed) == stored.count(s)

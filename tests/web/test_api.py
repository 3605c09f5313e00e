"""The API through Flask's client."""

import json
from typing import Any

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient

from zealous_lark.core.checks import all_checks
from zealous_lark.plan import judge_plan, read_plan, schema
from zealous_lark.services import sessions
from zealous_lark.store import Database


def new(client: FlaskClient, plan: dict[str, Any]) -> dict[str, Any]:
    answer = client.post("/api/sessions/import", json=plan)
    assert answer.status_code == 201
    made: dict[str, Any] = answer.json
    return made


def test_check_is_the_result_document(client: FlaskClient, plan_text: str) -> None:
    answer = client.post("/api/check", data=plan_text, content_type="application/json")
    assert answer.status_code == 200
    assert answer.json == json.loads(judge_plan(read_plan(plan_text)).model_dump_json(by_alias=True))


def test_check_speaks_the_units_asked_for(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    answer = client.post("/api/check?speed=kn&length=ft", json=plan_dict).json
    assert "862 ft" in answer["checks"][0]["sentence"]
    refused = client.post("/api/check?speed=furlongs", json=plan_dict)
    assert refused.status_code == 422
    assert refused.json["refusals"][0]["key"] == "speed"


@pytest.mark.parametrize("path", ["/api/check", "/api/sessions/import"])
def test_bad_plans_are_refused_and_nothing_is_kept(
    client: FlaskClient, database: Database, plan_dict: dict[str, Any], path: str
) -> None:
    plan_dict["flight"]["bearing_deg"] = 400
    del plan_dict["pack"]
    plan_dict["flight"]["speed"] = 1
    answer = client.post(path, json=plan_dict)
    assert answer.status_code == 422
    assert {r["key"] for r in answer.json["refusals"]} == {"flight.bearing_deg", "flight.speed", "pack"}
    assert "nothing was changed" in answer.json["message"]
    for junk in (b"nonsense", b'{"format": NaN}', b"[" * 9999):
        assert client.post(path, data=junk, content_type="application/json").status_code == 422
    assert client.post(path, data=b"7" * 10_000_000, content_type="application/json").status_code == 413
    assert sessions.plans(database) == []


def test_a_form_of_a_foreign_page_is_not_read(client: FlaskClient, plan_text: str) -> None:
    assert client.post("/api/sessions/import", data=plan_text, content_type="text/plain").status_code == 415


def test_a_foreign_name_for_this_machine_is_refused(client: FlaskClient) -> None:
    assert client.get("/api/sessions", base_url="http://elsewhere.example").status_code == 400
    assert client.get("/api/sessions", base_url="http://127.0.0.1:5870").status_code == 200


def test_a_session_from_start_to_end(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    made = new(client, plan_dict)
    path = f"/api/sessions/{made['id']}"
    made["plan"]["weather"]["winds"][0]["speed_ms"] = 5.0
    saved = client.put(path, json={"revision": made["revision"], "plan": made["plan"]})
    assert saved.status_code == 200
    assert saved.json["result"]["verdict"] == "stay"
    stale = client.put(path, json={"revision": made["revision"], "plan": plan_dict})
    assert stale.status_code == 409
    assert "in another window" in stale.json["message"]
    assert client.get(path).json == saved.json

    (row,) = client.get("/api/sessions").json["sessions"]
    assert (row["verdict"], row["tightest"]["id"], row["word"]) == ("stay", "wind.steady", None)

    copy = client.post(f"{path}/duplicate")
    assert copy.json["plan"]["title"] == "Bog at first light (copy)"
    assert client.delete(path).status_code == 204
    assert client.get(path).status_code == 404
    assert len(client.get("/api/sessions").json["sessions"]) == 1
    assert client.post(f"{path}/restore").status_code == 204
    assert client.get(path).status_code == 200


def test_begin_like_another_or_over_a_field(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    first = new(client, plan_dict)
    when = "2026-10-01T18:00:00+03:00"
    like = client.post("/api/sessions", json={"title": "Again", "takeoff_at": when, "start_from": first["id"]})
    assert like.status_code == 201
    assert like.json["plan"]["site"] == first["plan"]["site"]
    place = {"name": "Meadow", "latitude": 52, "longitude": -1.5}
    field = client.post("/api/sessions", json={"title": "Field", "takeoff_at": when, "place": place})
    assert field.json["plan"]["site"]["latitude"] == 52
    assert field.json["plan"]["title"] == "Field"

    neither = client.post("/api/sessions", json={"title": "Nowhere", "takeoff_at": when})
    assert neither.status_code == 422
    assert neither.json["refusals"][0]["key"] == "place"
    missing = client.post("/api/sessions", json={"title": "Like none", "takeoff_at": when, "start_from": 77})
    assert missing.status_code == 404
    place["latitude"] = 91
    off = client.post("/api/sessions", json={"title": "Off the map", "takeoff_at": when, "place": place})
    assert off.json["refusals"][0]["key"] == "place.latitude"


def test_a_launch_needs_a_word_on_what_is_not_checked(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    made = new(client, plan_dict)
    path = f"/api/sessions/{made['id']}/decisions"
    open_ones = [q["id"] for q in made["result"]["questions"]]
    assert {"rules.zone", "rules.people"} <= set(open_ones)
    silent = client.post(path, json={"word": "launch", "revision": 1, "said": {"rules.zone": "in_order"}})
    assert silent.status_code == 422
    assert silent.json["refusals"][0]["key"] == "said"
    assert "rules.people" in silent.json["refusals"][0]["given"]
    assert client.get(path).json["decisions"] == []
    said = {**dict.fromkeys(open_ones, "in_order"), "rules.people": "not_known"}
    # Nor is anything answered on site yet: that needs a word for each stage.
    silent = client.post(path, json={"word": "launch", "revision": 1, "said": said})
    assert silent.json["refusals"][0]["given"] == "nothing on open.site, open.preflight"
    said |= {"open.site": "not_known", "open.preflight": "in_order"}
    kept = client.post(path, json={"word": "launch", "revision": 1, "said": said})
    assert kept.status_code == 201
    words = {a["item"]: (a["word"], a["note"]) for a in kept.json["walkround"]}
    people = next(q["question"] for q in made["result"]["questions"] if q["id"] == "rules.people")
    assert words[people] == ("skip", "not known")
    looked = next(item for item in words if item.startswith("Not answered in the site survey: Any wires"))
    assert words[looked] == ("skip", "not known")
    assert any(item.startswith("Not answered in the preflight: Arms: unfolded") for item in words)


def test_decisions(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    plan_dict["settings"]["rth_altitude_m"] = 10
    made = new(client, plan_dict)
    path = f"/api/sessions/{made['id']}/decisions"
    bare = client.post(path, json={"word": "launch", "revision": 1})
    assert bare.status_code == 422
    assert bare.json["refusals"][0]["key"] == "note"
    assert client.post(path, json={"word": "maybe", "revision": 1}).status_code == 422
    assert client.post(path, json={"word": "wait", "revision": 7}).status_code == 409
    kept = client.post(path, json={"word": "stand_down", "note": "Trees.", "revision": 1})
    assert kept.status_code == 201
    assert kept.json["plan"] == made["plan"]
    (listed,) = client.get(path).json["decisions"]
    assert (listed["word"], listed["verdict"], listed["note"]) == ("stand_down", "stay", "Trees.")
    assert client.get(f"/api/decisions/{listed['id']}").json == kept.json
    assert client.get("/api/sessions").json["sessions"][0]["word"] == "stand_down"
    assert client.get("/api/decisions/99").status_code == 404
    assert client.get("/api/sessions/99/decisions").status_code == 404


def test_a_plan_goes_out_and_comes_back_the_same(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    made = new(client, plan_dict)
    file = client.get(f"/api/sessions/{made['id']}/plan.json")
    assert "attachment" in file.headers["Content-Disposition"]
    back = client.post("/api/sessions/import", data=file.data, content_type="application/json")
    assert back.json["plan"] == made["plan"]
    assert back.json["result"] == made["result"]


def test_catalogue_and_schemas(client: FlaskClient) -> None:
    listed = client.get("/api/checks").json["checks"]
    assert [c["id"] for c in listed] == [c.id for c in all_checks()]
    assert all(len(c["decides"]) > 20 and len(c["source"]) > 15 for c in listed)
    assert client.get("/api/schema/plan").json == schema("plan")
    assert client.get("/api/schema/result").json == schema("result")
    assert client.get("/api/schema/other").status_code == 404


def test_what_is_not_there_says_so(client: FlaskClient) -> None:
    assert client.get("/api/nothing").status_code == 404
    assert "There is nothing under /api/nothing" in client.get("/api/nothing").json["message"]
    assert client.delete("/api/sessions/5").json["message"].startswith("Session 5 doesn't exist")
    assert client.put("/api/check").status_code == 405


def test_screens_are_served_at_every_address_of_theirs(app: APIFlask, client: FlaskClient) -> None:
    page = client.get("/sessions/3/plan")
    assert page.status_code == 200
    assert b'<div id="root">' in page.data
    assert page.headers["Cache-Control"] == "no-cache"
    assert "default-src 'self'" in page.headers["Content-Security-Policy"]
    assert b"passwd" not in client.get("/../../etc/passwd").data
    assert app.static_folder is None


def test_the_wind_by_what_is_seen(client: FlaskClient) -> None:
    forces = client.get("/api/wind/beaufort").json["forces"]
    assert [f["force"] for f in forces] == list(range(13))
    assert round(forces[5]["middle_ms"], 1) == 9.3
    assert all(f["low_ms"] <= f["middle_ms"] <= f["high_ms"] and f["land"] and f["water"] for f in forces)


def test_the_wind_by_the_lean(client: FlaskClient) -> None:
    def ask(**values: object) -> Any:
        return client.get("/api/wind/lean", query_string={"max_tilt_deg": 35, "fastest_ms": 16, **values})

    assert ask(tilt_deg=35).json["speed_ms"] == pytest.approx(16)
    assert ask(tilt_deg=36).status_code == 422
    assert ask(tilt_deg="flat").json["refusals"][0]["key"] == "tilt_deg"
    missing = client.get("/api/wind/lean")
    assert {r["key"] for r in missing.json["refusals"]} == {"tilt_deg", "max_tilt_deg", "fastest_ms"}

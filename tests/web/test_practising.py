"""Practice through the API: posed without the answer, marked once, due again, out as a table."""

from __future__ import annotations

import csv
import io
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.flying import number
from zealous_lark.cases.families import FAMILIES
from zealous_lark.services.practising import AHEAD
from zealous_lark.store import Database


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


def answer(client: FlaskClient, family: str = "cold", seed: int = 1, **more: Any) -> Any:
    posed = client.get(f"/api/practice/{family}/{seed}").json
    body = {"uid": number(), "word": "launch", "sure_pct": 80, "tightest": posed["choices"][0]["check"], **more}
    return client.post(f"/api/practice/{family}/{seed}", json=body)


def test_a_room_says_what_to_do_today(client: FlaskClient) -> None:
    room = client.get("/api/practice").json
    assert [f["key"] for f in room["families"]] == [f.key for f in FAMILIES]
    assert [t["why"] for t in room["today"]] == ["new"] * 3
    assert (room["weakest"], room["aircraft"]) == (None, "Dunlin")


def test_without_gear_the_cases_are_for_a_usual_aircraft(client: FlaskClient) -> None:
    for item in client.get("/api/kit").json["items"]:
        client.delete(f"/api/kit/{item['id']}")
    assert client.get("/api/practice").json["aircraft"] is None
    posed = client.get("/api/practice/cold/1").json
    assert any(line.startswith("Dunlin: ") for g in posed["found"] for line in g["lines"])


@pytest.mark.parametrize("family", FAMILIES, ids=lambda f: f.key)
def test_a_case_is_posed_without_what_it_comes_to(client: FlaskClient, family: Any) -> None:
    posed = client.get(f"/api/practice/{family.key}/{3}")
    again = client.get(f"/api/practice/{family.key}/{3}")
    assert posed.status_code == 200
    assert posed.json == again.json
    names = [g["name"] for g in posed.json["found"]]
    assert names[:3] == ["The place", "The flight", "Forecast"]
    assert all(line.endswith(".") for g in posed.json["found"] for line in g["lines"])
    assert not {"plan", "result", "verdict"} & set(posed.json)
    assert posed.json["numbers"] is (not family.indoors)


def test_cases_made_ahead_are_the_next_ones_and_are_marked_as_the_server_does(client: FlaskClient) -> None:
    family = "return-height"
    cases = client.get(f"/api/practice/{family}/ahead").json["cases"]
    assert [c["posed"]["seed"] for c in cases] == list(range(1, AHEAD + 1))
    first = cases[0]
    assert first["posed"] == client.get(f"/api/practice/{family}/1").json
    key = first["key"]
    for word, cost in key["word_costs"].items():
        marked = answer(client, family, 1, word=word, tightest=key["deciding"]).json
        assert (marked["word_cost"], marked["tightest_cost"]) == (cost, 0)
        same = ("verdict", "deciding", "turn_back_pct", "return_height_m")
        assert {k: marked[k] for k in same} == {k: key[k] for k in same}
        assert (marked["plan"], marked["result"]) == (first["plan"], first["result"])
    # What was answered is not among them any more.
    assert client.get(f"/api/practice/{family}/ahead").json["cases"][0]["posed"]["seed"] == 2
    assert client.get("/api/practice/none/ahead").status_code == 404


def test_a_family_without_a_case_is_not_asked_for_today(client: FlaskClient) -> None:
    """On first flights the wind ends the day before the way home can."""
    settings = client.get("/api/minimums").json["settings"]
    client.put("/api/minimums", json={**settings, "first_flights": True})
    room = client.get("/api/practice").json
    (none,) = [f["key"] for f in room["families"] if f["none"]]
    assert none == "wind-home"
    assert none not in [t["family"] for t in room["today"]]
    assert len(room["today"]) == 3
    for today in room["today"]:
        seed = next(f["seed"] for f in room["families"] if f["key"] == today["family"])
        assert client.get(f"/api/practice/{today['family']}/{seed}").status_code == 200
    assert client.get(f"/api/practice/{none}/ahead").json["cases"] == []
    assert "take another family" in client.get(f"/api/practice/{none}/1").json["message"]


def test_units_of_the_pilot(client: FlaskClient) -> None:
    posed = client.get("/api/practice/cold/1?speed=kn&length=ft&temperature=f").json
    lines = " ".join(line for g in posed["found"] for line in g["lines"])
    assert " kn " in lines
    assert " ft" in lines
    assert "°F" in lines
    assert "m/s" not in lines


def test_an_answer_is_kept_once_and_the_family_is_due_later(client: FlaskClient) -> None:
    uid = number()
    first = answer(client, uid=uid)
    assert first.status_code == 200
    assert first.json["result"]["verdict"] == first.json["verdict"]
    assert first.json["plan"]["title"].startswith("Practice: ")
    parts = [value for name, value in first.json.items() if name.endswith("_cost")]
    assert first.json["cost"] == pytest.approx(sum(parts)), "what is shown adds up"
    assert answer(client, uid=uid).status_code == 200
    room = client.get("/api/practice").json
    cold = next(f for f in room["families"] if f["key"] == "cold")
    assert (cold["answers"], cold["seed"], len(cold["points"])) == (1, 2, 1)
    assert cold["due"] == first.json["due"]
    assert "cold" not in [t["family"] for t in room["today"] if t["why"] == "new"]
    assert answer(client, "light", uid=uid).status_code == 422


def test_what_was_wrong_is_the_weakest(client: FlaskClient) -> None:
    for seed in range(1, 5):
        answer(client, "return-height", seed, word="stand_down", sure_pct=100)
        answer(client, "rules", seed, word="wait", sure_pct=50)
    room = client.get("/api/practice").json
    assert room["weakest"] in ("return-height", "rules")
    seen = [f for f in room["families"] if f["answers"]]
    costs = {f["key"]: sum(p["cost"] for p in f["points"]) for f in seen}
    assert max(costs, key=lambda key: costs[key]) == room["weakest"]
    assert {f["going"] for f in seen} <= {"steady", "middling", "weak"}
    assert all(f["going"] is None for f in room["families"] if not f["answers"])


def test_out_as_a_table(client: FlaskClient) -> None:
    answer(client)
    got = client.get("/api/practice/answers.csv")
    assert got.headers["Content-Disposition"] == 'attachment; filename="lark-practice.csv"'
    rows = list(csv.DictReader(io.StringIO(got.text)))
    assert [r["family"] for r in rows] == ["cold"]
    assert rows[0]["word"] == "launch"
    assert float(rows[0]["cost"]) >= 0


def test_what_is_refused(client: FlaskClient) -> None:
    assert client.get("/api/practice/none/1").status_code == 404
    assert answer(client, tightest="wind.none").status_code == 422
    assert answer(client, sure_pct=20).status_code == 422
    assert answer(client, word="fly").status_code == 422
    assert client.get("/api/practice").json["families"][0]["answers"] == 0

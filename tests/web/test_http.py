"""What goes over the wire when things go wrong, or at the same time."""

import json
import logging
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient

from tests.conftest import NOW
from zealous_lark.services import sessions
from zealous_lark.store import Database


def test_of_savers_at_the_same_time_just_one_wins(app: APIFlask, database: Database, plan_dict: dict[str, Any]) -> None:
    """Each of eight windows saves from the same revision; one is taken, seven are told, none is mixed."""
    made = app.test_client().post("/api/sessions/import", json=plan_dict).json

    def save(n: int) -> int:
        plan = {**made["plan"], "title": f"Window {n}"}
        return app.test_client().put(f"/api/sessions/{made['id']}", json={"revision": 1, "plan": plan}).status_code

    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(save, range(8)))
    assert sorted(answers) == [200] + [409] * 7
    kept = sessions.open_session(database, made["id"], NOW)
    assert kept.session.revision == 2
    assert kept.plan.title == f"Window {answers.index(200)}"


def test_many_checks_at_the_same_time_agree(app: APIFlask, plan_dict: dict[str, Any]) -> None:
    def ask(_n: int) -> bytes:
        return app.test_client().post("/api/check?levers=false", json=plan_dict).data

    with ThreadPoolExecutor(4) as pool:
        answers = set(pool.map(ask, range(16)))
    assert len(answers) == 1
    assert json.loads(answers.pop())["verdict"] == "care"


@pytest.mark.parametrize(
    ("address", "key"),
    [
        ("/api/sessions?speed=warp", "speed"),
        ("/api/sessions?length=furlong", "length"),
        ("/api/sessions/1?temperature=kelvin", "temperature"),
        ("/api/minimums?session=next", "session"),
        ("/api/wind/lean?tilt_deg=90&max_tilt_deg=35&fastest_ms=16", "tilt_deg"),
    ],
)
def test_a_wrong_query_names_what_is_allowed(client: FlaskClient, address: str, key: str) -> None:
    answer = client.get(address)
    assert answer.status_code == 422
    (refusal,) = answer.json["refusals"]
    assert refusal["key"] == key
    assert refusal["allowed"]


@pytest.mark.parametrize(
    ("method", "address"),
    [("get", "/api/sessions/7"), ("post", "/api/sessions/7/duplicate"), ("delete", "/api/sessions/7"),
     ("post", "/api/sessions/7/restore"), ("get", "/api/sessions/7/decisions"), ("get", "/api/sessions/7/plan.json"),
     ("get", "/api/minimums?session=7")],
)  # fmt: skip
def test_what_is_not_there_is_said_everywhere(client: FlaskClient, method: str, address: str) -> None:
    answer = getattr(client, method)(address)
    assert answer.status_code == 404
    assert "7" in answer.json["message"]


def test_levers_come_unless_they_are_not_wanted(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    whole = client.post("/api/check", json=plan_dict).json
    quick = client.post("/api/check?levers=false", json=plan_dict).json
    sight = next(c for c in whole["checks"] if c["id"] == "sight.distance")
    assert sight["levers"][0]["set"] == {"flight.distance_m": 130}
    assert all(c["levers"] == [] for c in quick["checks"])
    refused = client.post("/api/check?levers=perhaps", json=plan_dict)
    assert refused.status_code == 422


def test_levers_speak_the_pilots_units(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    whole = client.post("/api/check?length=ft", json=plan_dict).json
    sight = next(c for c in whole["checks"] if c["id"] == "sight.distance")
    assert sight["levers"][0]["sentence"] == "Stay within 427 ft."


def test_the_log_says_what_was_asked_and_never_where(client: FlaskClient, caplog: pytest.LogCaptureFixture) -> None:
    with caplog.at_level(logging.INFO):
        client.get("/api/height/shadow?latitude=58.6212&longitude=25.0811&shadow_m=10&at=2026-06-21T12:00:00%2B03:00")
        client.post("/api/places", json={"name": "Otter bend", "features": []})
    assert "GET /api/height/shadow 200" in caplog.text
    assert "POST /api/places 201" in caplog.text
    for said in ("58.62", "25.08", "Otter"):
        assert said not in caplog.text

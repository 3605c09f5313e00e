"""Decisions that were made without the server: kept as they were made, on what the device had."""

from __future__ import annotations

import io
from datetime import timedelta
from typing import Any

import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader

from tests.conftest import NOW


@pytest.fixture
def session(client: FlaskClient, plan_dict: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = client.post("/api/sessions/import", json=plan_dict).json
    return found


def made(session: dict[str, Any], **more: Any) -> dict[str, Any]:
    """What the device sends up an hour later: a plan in another wind, and the result that it had looked up."""
    plan = {**session["plan"]}
    plan["weather"] = {**plan["weather"], "temperature_c": 11.0}
    result = {**session["result"], "verdict": "care"}
    asked = {q["id"]: q["question"] for q in result["questions"]} | {"open.site": "Not answered in the Site: wires"}
    away = {"ago_s": 3600, "plan": plan, "result": result, "asked": asked, "tables_of": "2026-09-26T16:00:00Z"}
    said = dict.fromkeys(asked, "in_order")
    return {"word": "launch", "note": "", "revision": 1, "said": said, "away": {**away, **more}}


def send(client: FlaskClient, session: dict[str, Any], body: dict[str, Any], key: str = "one-decision") -> Any:
    return client.post(f"/api/sessions/{session['id']}/decisions", json=body, headers={"Idempotency-Key": key})


def test_it_stands_on_what_the_device_had_and_at_its_time(client: FlaskClient, session: dict[str, Any]) -> None:
    # The session has gone on since.
    plan = {**session["plan"], "title": "Renamed"}
    client.put(f"/api/sessions/{session['id']}", json={"revision": session["revision"], "plan": plan})
    answer = send(client, session, made(session))
    assert answer.status_code == 201, answer.json
    kept = answer.json
    assert kept["verdict"] == "care"
    assert kept["plan"]["weather"]["temperature_c"] == 11
    assert kept["plan"]["title"] == session["plan"]["title"]
    assert kept["result"]["verdict"] == "care"
    assert kept["decided_at"].startswith((NOW - timedelta(hours=1)).strftime("%Y-%m-%dT"))
    said = [a["item"] for a in kept["walkround"]]
    assert "Not answered in the Site: wires" in said
    told = "Decided without the server, by the field tables of 2026-09-26 16:00 UTC, as taken along."
    assert [a["word"] for a in kept["walkround"] if a["item"] == told] == ["away"]
    # On paper it stands with the decision, and among no skipped items.
    paper = PdfReader(io.BytesIO(client.get(f"/api/decisions/{kept['id']}/record.pdf").data))
    text = " ".join(" ".join(page.extract_text() for page in paper.pages).split())
    assert told in text
    assert "0 skipped or with a fault" in text


def test_sent_twice_it_is_there_once(client: FlaskClient, session: dict[str, Any]) -> None:
    assert [send(client, session, made(session)).status_code for _ in range(2)] == [201, 201]
    assert len(client.get(f"/api/sessions/{session['id']}/decisions").json["decisions"]) == 1


def test_the_rules_of_a_launch_hold_there_too(client: FlaskClient, session: dict[str, Any]) -> None:
    silent = {**made(session), "said": {}}
    assert send(client, session, silent, "silent-one").status_code == 422
    against = made(session, result={**session["result"], "verdict": "stay"})
    assert send(client, session, against, "against-one").json["refusals"][0]["key"] == "note"
    wordless = made(session, asked={})
    if session["result"]["questions"]:
        assert send(client, session, wordless, "wordless-one").json["refusals"][0]["key"] == "away.asked"
    assert send(client, {"id": 999}, made(session), "nowhere-one").status_code == 404
    assert client.get(f"/api/sessions/{session['id']}/decisions").json["decisions"] == []

"""Drills through the API: what may start in a session, what was done, what is due, when first flights end."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient

from zealous_lark.core.practice.course import COURSE
from zealous_lark.core.practice.drills import DRILLS
from zealous_lark.store import Database


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


def here(client: FlaskClient, session: int = 1, **site: Any) -> Any:
    plan = client.get(f"/api/sessions/{session}").json["plan"]
    plan["site"].update(site)
    answer = client.post(f"/api/sessions/{session}/drills", json={"plan": plan})
    assert answer.status_code == 200, answer.json
    return answer.json


def say(client: FlaskClient, drill: str, session: int = 1, word: str = "done", **more: Any) -> Any:
    return client.put(f"/api/sessions/{session}/answers/drills", json={"item": drill, "word": word, **more})


def standing(client: FlaskClient, key: str) -> Any:
    return next(d for d in client.get("/api/drills").json["drills"] if d["key"] == key)


def test_each_drill_of_a_session_says_whether_it_may_start_and_why(client: FlaskClient) -> None:
    found = here(client)
    assert [c["key"] for c in found["cards"]] == [d.key for d in DRILLS]
    for card in found["cards"]:
        statuses = {p["status"] for p in card["points"]}
        assert card["may_start"] is (not statuses & {"fail", "unknown"})
        assert all(p["sentence"].endswith((".", "?")) for p in card["points"])


def test_a_drill_is_judged_on_the_plan_that_is_sent(client: FlaskClient) -> None:
    def people(cards: Any) -> str:
        card = next(c for c in cards if c["key"] == "nose_in")
        return next(p["status"] for p in card["points"] if p["name"] == "People")

    before = here(client, place=None, seen=[], people_looked_at=None)
    after = here(client, place=None, seen=[], people_looked_at="2026-09-27")
    assert (people(before["cards"]), people(after["cards"])) == ("unknown", "pass")


def test_what_was_done_well_is_dated_and_shown_in_its_session(client: FlaskClient) -> None:
    assert standing(client, "nose_in")["last"] is None
    say(client, "nose_in", word="fault", note="It drifted.")
    assert (standing(client, "nose_in")["tries"], standing(client, "nose_in")["last"]) == (1, None)
    say(client, "nose_in", note="At last.")
    now = standing(client, "nose_in")
    assert (now["tries"], now["last"] is not None, now["due_at"] > now["last"]) == (1, True, True)
    card = next(c for c in here(client)["cards"] if c["key"] == "nose_in")
    assert (card["answer"]["word"], card["answer"]["note"]) == ("done", "At last.")
    other = next(c for c in here(client, session=2)["cards"] if c["key"] == "nose_in")
    assert other["answer"] is None


def test_a_drill_that_there_is_not_and_a_session_that_there_is_not(client: FlaskClient) -> None:
    refused = say(client, "loop")
    assert refused.status_code == 422
    assert "manual_return" in str(refused.json)
    assert say(client, "nose_in", session=999).status_code == 404
    plan = client.get("/api/sessions/1").json["plan"]
    assert client.post("/api/sessions/999/drills", json={"plan": plan}).status_code == 404


def test_a_manual_return_of_the_logbook_and_one_as_a_drill_are_the_same(client: FlaskClient) -> None:
    logged = client.get("/api/logbook/summary").json["last_manual_return"]
    assert standing(client, "manual_return")["last"] == logged
    say(client, "manual_return")
    later = client.get("/api/logbook/summary").json["last_manual_return"]
    assert standing(client, "manual_return")["last"] == later > logged


def test_a_drill_of_a_deleted_session_was_done_all_the_same(client: FlaskClient) -> None:
    say(client, "circle")
    client.delete("/api/sessions/1")
    assert standing(client, "circle")["last"] is not None


def first_flights(client: FlaskClient, on: bool, **query: Any) -> Any:
    settings = client.get("/api/minimums").json["settings"]
    return client.put("/api/minimums", json={**settings, "first_flights": on}, query_string=query)


def sessions(client: FlaskClient, count: int) -> list[int]:
    place = {"name": "Meadow", "latitude": 58.6, "longitude": 25.1}
    body = {"title": "First flights", "takeoff_at": "2026-10-01T04:00:00Z", "place": place}
    return [client.post("/api/sessions", json=body).json["id"] for _ in range(count)]


def test_first_flights_end_when_their_course_is_done(client: FlaskClient) -> None:
    assert first_flights(client, True).status_code == 200
    refused = first_flights(client, False)
    assert refused.status_code == 422
    assert "course" in str(refused.json)
    assert client.get("/api/minimums").json["settings"]["first_flights"] is True
    for step, session in zip(COURSE, sessions(client, len(COURSE)), strict=True):
        assert set(client.get("/api/drills").json["course"]["left"]) == set(step)
        for key in step:
            say(client, key, session)
    assert client.get("/api/drills").json["course"] == {"step": None, "steps": 5, "left": []}
    assert first_flights(client, False).status_code == 200


def test_first_flights_end_by_the_pilots_word(client: FlaskClient) -> None:
    first_flights(client, True)
    assert first_flights(client, False, by_word="true").status_code == 200
    assert client.get("/api/minimums").json["settings"]["first_flights"] is False


def test_what_comes_next_on_first_flights_is_the_courses(client: FlaskClient) -> None:
    first_flights(client, True)
    now = client.get("/api/drills").json
    assert (now["wanted"][:2], now["course"]["step"], now["first_flights"]) == (list(COURSE[0]), 1, True)

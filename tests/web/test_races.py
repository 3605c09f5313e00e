"""Many at once: nobody gets a server error, nothing is doubled, and what was said last stands."""

from __future__ import annotations

import random
import threading
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from tests.conftest import NOW
from zealous_lark.store import Database
from zealous_lark.web import create_app

AT_ONCE = 8
ROUNDS = 12


def at_once(db: Database, asks: list[Callable[[FlaskClient], TestResponse]]) -> list[TestResponse]:
    """The answers to requests that begin in the same moment, each on a client of its own."""
    app = create_app(db, clock=lambda: NOW)
    gate = threading.Barrier(len(asks))
    answers: list[Any] = [None] * len(asks)

    def run(n: int) -> None:
        gate.wait()
        answers[n] = asks[n](app.test_client())

    threads = [threading.Thread(target=run, args=(n,)) for n in range(len(asks))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


@pytest.mark.slow
def test_of_eight_words_to_one_item_the_last_said_stands(demo: Database) -> None:
    rng = random.Random(1)
    for n in range(ROUNDS):
        ages = rng.sample(range(0, 60_000, 60), AT_ONCE)

        def say(client: FlaskClient, ago_s: int, item: str = f"item {n}") -> TestResponse:
            body = {"item": item, "word": "done", "value": ago_s, "ago_s": ago_s}
            return client.put("/api/sessions/1/answers/kit", json=body)

        answers = at_once(demo, [lambda client, ago=ago, say=say: say(client, ago) for ago in ages])
        assert {a.status_code for a in answers} <= {200, 409}
        kept = create_app(demo, clock=lambda: NOW).test_client().get("/api/sessions/1/answers/kit").json["answers"]
        assert kept[f"item {n}"]["value"] == min(ages)


def save(address: str, number: int, body: dict[str, Any]) -> Callable[[FlaskClient], TestResponse]:
    return lambda client: client.put(f"{address}/{number}", json=body)


def gear(client: FlaskClient) -> Any:
    return client.get("/api/kit").json["items"][0]


def place(client: FlaskClient) -> Any:
    return client.get("/api/places/1").json


@pytest.mark.parametrize(("address", "name", "latest"), [("/api/kit", "item", gear), ("/api/places", "place", place)])
def test_one_of_eight_saves_of_one_revision_is_kept(
    demo: Database, address: str, name: str, latest: Callable[[FlaskClient], Any]
) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    number = latest(client)["id"]
    for _ in range(3):
        now = latest(client)
        bodies = [{"revision": now["revision"], name: now[name]} for _ in range(AT_ONCE)]
        answers = at_once(demo, [save(address, number, body) for body in bodies])
        assert sorted(a.status_code for a in answers) == [200] + [409] * (AT_ONCE - 1)
        assert latest(client)["revision"] == now["revision"] + 1


def test_events_of_one_flight_from_eight_sides_come_once_each(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    begun = (NOW - timedelta(minutes=20)).isoformat()
    events = [
        {"uid": f"event-{n:04d}", "at": begun, "at_s": 60.0 * n, "kind": "note", "text": f"{n}"} for n in range(AT_ONCE)
    ]
    first = {**events[0], "uid": "event-first", "kind": "takeoff", "at_s": 0.0, "value": 99.0}

    def put(n: int) -> Callable[[FlaskClient], TestResponse]:
        body = {"session": 1, "decision": None, "events": [first, *events[: n + 1]]}
        return lambda client: client.put("/api/flights/flight-of-races/events", json=body)

    answers = at_once(demo, [put(n) for n in range(AT_ONCE)])
    assert {a.status_code for a in answers} == {200}, [a.json for a in answers if a.status_code != 200][:1]
    kept = client.get("/api/flights/flight-of-races").json["events"]
    assert sorted(e["uid"] for e in kept) == sorted(e["uid"] for e in [first, *events])


def test_eight_taps_on_one_decision_make_one(demo: Database) -> None:
    client = create_app(demo, clock=lambda: NOW).test_client()
    revision = client.get("/api/sessions/1").json["revision"]
    before = len(client.get("/api/sessions/1/decisions").json["decisions"])
    body = {"word": "wait", "note": "gusts", "revision": revision, "said": {}}
    taps = [
        lambda c: c.post("/api/sessions/1/decisions", json=body, headers={"Idempotency-Key": "one-decision-0001"})
    ] * AT_ONCE
    answers = at_once(demo, taps)
    assert {a.status_code for a in answers} == {201}, answers[0].json
    assert len(client.get("/api/sessions/1/decisions").json["decisions"]) == before + 1

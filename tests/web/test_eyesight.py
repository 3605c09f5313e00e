"""The eye through the API: worked out on the server, kept once, offered never above the formula."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from tests.flying import number
from zealous_lark.core.practice.eye import TRIALS, Trial, next_distance, right_share
from zealous_lark.core.sight import attitude_distance_m
from zealous_lark.store import Database


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


def said(seen: float, size: float, seed: int = 1) -> list[dict[str, Any]]:
    rng = np.random.default_rng(seed)
    trials: list[Trial] = []
    for _ in range(TRIALS):
        d = next_distance(trials, size, 3000)
        trials.append(Trial(d, bool(rng.random() < float(right_share(np.array(d), np.array(seen), np.array(9.0))))))
    return [{"distance_m": t.distance_m, "way": "away", "said": "away" if t.right else "left"} for t in trials]


def look(client: FlaskClient, **more: Any) -> Any:
    first = client.get("/api/practice/eye").json["aircraft"][0]
    body = {
        "uid": number(), "aircraft": first["name"], "background": "dull", "timed": True,
        "said": said(0.6 * first["formula_m"], first["size_m"]), **more,
    }  # fmt: skip
    return client.put("/api/practice/eye", json=body)


def test_a_look_is_worked_out_and_offered(client: FlaskClient) -> None:
    found = look(client).json
    true = 0.6 * found["formula_m"]
    assert found["low_m"] <= true <= found["high_m"]
    assert found["own_m"] == math.floor(found["low_m"])
    room = client.get("/api/practice/eye").json
    assert (room["trials"], room["looks"]) == (TRIALS, [found])


def test_a_keen_eye_is_offered_what_the_formula_gives(client: FlaskClient) -> None:
    first = client.get("/api/practice/eye").json["aircraft"][0]
    found = look(client, said=said(3 * first["formula_m"], first["size_m"])).json
    assert found["own_m"] == math.floor(attitude_distance_m(first["size_m"])) < found["low_m"]


def test_what_was_not_timed_offers_nothing(client: FlaskClient) -> None:
    assert look(client, timed=False).json["own_m"] is None


def test_sent_again_it_is_there_once_and_stays_as_it_was(client: FlaskClient) -> None:
    uid = number()
    first = look(client, uid=uid).json
    assert look(client, uid=uid, background="trees").json == first
    assert len(client.get("/api/practice/eye").json["looks"]) == 1


@pytest.mark.parametrize(
    ("wrong", "status"),
    [
        ({"aircraft": "Nobody's"}, 404),
        ({"said": []}, 422),
        ({"background": "snow"}, 422),
        ({"said": [{"distance_m": -1, "way": "away", "said": "left"}] * TRIALS}, 422),
    ],
)
def test_what_is_no_look_is_refused_and_nothing_kept(client: FlaskClient, wrong: dict[str, Any], status: int) -> None:
    assert look(client, **wrong).status_code == status
    assert client.get("/api/practice/eye").json["looks"] == []


def test_without_gear_a_usual_aircraft_is_looked_for(client: FlaskClient) -> None:
    for item in client.get("/api/kit").json["items"]:
        client.delete(f"/api/kit/{item['id']}")
    (only,) = client.get("/api/practice/eye").json["aircraft"]
    assert only["own"] is False
    assert look(client).status_code == 200

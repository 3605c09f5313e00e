"""Flights to bring home through the API: posed, flown again, kept once, due again, out as a table."""

from __future__ import annotations

import csv
import io
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.flying import number
from zealous_lark.cases.homeward import kind_of
from zealous_lark.core.homeward.acts import Act
from zealous_lark.core.homeward.mishap import Kind
from zealous_lark.services.homeward import LAST_SEED
from zealous_lark.store import Database


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


def seed_of(kind: Kind) -> int:
    return next(seed for seed in range(1, 200) if kind_of(seed) is kind)


def fly(client: FlaskClient, seed: int, acts: list[tuple[float, Act]], **more: Any) -> Any:
    body = {"uid": number(), "acts": [{"at_s": at, "act": act} for at, act in acts], **more}
    return client.post(f"/api/practice/home/{seed}", json=body)


def test_a_flight_is_the_same_each_time_and_all_that_it_takes_to_fly_it(client: FlaskClient) -> None:
    seed = seed_of(Kind.DRAIN)
    posed = client.get(f"/api/practice/home/{seed}")
    assert posed.status_code == 200
    assert posed.json == client.get(f"/api/practice/home/{seed}").json
    flight = posed.json
    assert (flight["aircraft"], flight["own"], flight["seed"]) == ("Dunlin", True, seed)
    assert flight["card"]["title"] == "Battery draining fast"
    assert len(flight["normals"]) % 3 == 0
    sheet = flight["sheet"]
    assert len(sheet["east_ms"]) == len(sheet["north_ms"]) == len(sheet["sigma_ms"]) == len(sheet["loss_db"][0])
    assert sheet["modes_ms"].keys() == {"slow", "normal", "fast", "rth"}
    assert flight["plan"]["flight"]["distance_m"] == pytest.approx((sheet["far_x"] ** 2 + sheet["far_y"] ** 2) ** 0.5)


def test_without_gear_it_is_flown_with_a_usual_aircraft(client: FlaskClient) -> None:
    for item in client.get("/api/kit").json["items"]:
        client.delete(f"/api/kit/{item['id']}")
    assert client.get("/api/practice/home/1").json["own"] is False


@pytest.mark.parametrize("kind", Kind, ids=str)
def test_each_kind_has_its_emergency_text(client: FlaskClient, kind: Kind) -> None:
    flight = client.get(f"/api/practice/home/{seed_of(kind)}").json
    assert flight["mishap"]["kind"] == kind
    assert (flight["card"] is None) is (kind is Kind.NONE)


def test_a_flight_is_kept_once_with_its_end(client: FlaskClient) -> None:
    seed = seed_of(Kind.NONE)
    turn = client.get(f"/api/practice/home/{seed}").json["turn_s"]
    uid = number()
    first = fly(client, seed, [(turn, Act.TURN_BACK)], uid=uid)
    again = fly(client, seed, [(turn, Act.TURN_BACK)], uid=uid)
    assert first.status_code == 200
    assert first.json == again.json
    assert (first.json["end"], first.json["grade"]) == ("home", "good")
    now = client.get("/api/practice/home").json
    kept = {k["kind"]: k for k in now["kinds"]}
    assert kept["none"]["ends"] == ["home"]
    assert kept["none"]["due"] == first.json["due"]
    assert all(k["ends"] == [] and k["due"] is None for kind, k in kept.items() if kind != "none")
    other = fly(client, seed + 1, [], uid=uid)
    assert other.status_code == 422
    assert "uid" in other.get_data(as_text=True)


def test_doing_nothing_is_marked_again_and_its_kind_is_flown_again_soon(client: FlaskClient) -> None:
    seed = seed_of(Kind.BIRD)
    assert fly(client, seed, []).json["end"] == "struck"
    now = client.get("/api/practice/home").json
    # New in learning it is due within minutes; what is next was not flown yet.
    assert now["seed"] > seed
    assert kind_of(now["seed"]) is not Kind.BIRD or now["due"]


def test_what_is_due_is_flown_next(client: FlaskClient) -> None:
    seed = seed_of(Kind.PAD)
    fly(client, seed, [], ago_s=20 * 86_400)
    now = client.get("/api/practice/home").json
    assert now["due"] is True
    assert kind_of(now["seed"]) is Kind.PAD
    assert now["seed"] > seed


def test_the_next_flight_is_one_that_there_is(client: FlaskClient) -> None:
    """With minimums under which there is none at all, the first number stands, and says so when it is opened."""
    settings = client.get("/api/minimums").json["settings"]
    none = settings | {"minimums": settings["minimums"] | {"wind_fraction": 0.05}}
    for change, there in ((settings, 200), (none, 404)):
        assert client.put("/api/minimums", json=change).status_code == 200
        seed = client.get("/api/practice/home").json["seed"]
        assert client.get(f"/api/practice/home/{seed}").status_code == there


def test_cases_and_flights_do_not_mix(client: FlaskClient) -> None:
    before = client.get("/api/practice").json
    fly(client, seed_of(Kind.NONE), [])
    assert client.get("/api/practice").json == before
    rows = list(csv.DictReader(io.StringIO(client.get("/api/practice/answers.csv").get_data(as_text=True))))
    assert [(r["family"], r["right"]) for r in rows] == [("home.none", "false")]
    assert rows[0]["verdict"] in ("away", "trees", "water")


@pytest.mark.parametrize(
    ("body", "named"),
    [
        ({"uid": "x" * 32, "acts": [{"at_s": 10, "act": "dance"}]}, "act"),
        ({"uid": number(), "acts": [{"at_s": -1, "act": "wait"}]}, "at_s"),
        ({"uid": number(), "acts": [{"at_s": 1e9, "act": "wait"}]}, "at_s"),
        ({"uid": number(), "acts": [{"at_s": 1, "act": "wait"}] * 201}, "acts"),
        ({"uid": number()}, "acts"),
    ],
)
def test_what_cannot_be_done_is_refused_by_name(client: FlaskClient, body: dict[str, Any], named: str) -> None:
    answer = client.post("/api/practice/home/1", json=body)
    assert answer.status_code == 422
    assert named in answer.get_data(as_text=True)
    assert all(k["ends"] == [] for k in client.get("/api/practice/home").json["kinds"])


@pytest.mark.parametrize("seed", [0, LAST_SEED + 1, 10**12])
def test_numbers_beyond_all_flights_are_not_here(client: FlaskClient, seed: int) -> None:
    assert client.get(f"/api/practice/home/{seed}").status_code == 404
    assert fly(client, seed, []).status_code == 404

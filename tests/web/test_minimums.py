"""Personal minimums and rule sets, from the services to the API."""

import json
from typing import Any

import pytest
from flask.testing import FlaskClient
from geographiclib.geodesic import Geodesic
from hypothesis import given

from tests.core.test_laws import situations
from tests.make import changed
from zealous_lark.core.minimums import Minimums
from zealous_lark.core.schools import QUESTIONS, for_first_flights
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.rulesets import rule_sets
from zealous_lark.store import Database

RANK = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.UNKNOWN: 2, Verdict.STAY: 3}


def settings(**minimums: Any) -> dict[str, Any]:
    return {"minimums": minimums}


def verdicts(client: FlaskClient) -> dict[str, str]:
    return {s["title"]: s["verdict"] for s in client.get("/api/sessions").json["sessions"]}


def test_a_changed_minimum_judges_every_session_anew(client: FlaskClient, demo: Database) -> None:
    assert verdicts(client)["Bog at first light"] == "launch"
    answer = client.put("/api/minimums", json=settings(wind_fraction=0.25))
    assert answer.status_code == 200
    assert verdicts(client)["Bog at first light"] == "stay"
    opened = client.get("/api/sessions/1").json
    assert opened["plan"]["minimums"]["wind_fraction"] == 0.25
    assert demo.engine is not None


def test_each_school_shows_the_verdict_it_would_give(client: FlaskClient, demo: Database) -> None:
    """What is shown is what choosing it then gives."""
    session = next(s for s in client.get("/api/sessions").json["sessions"] if s["title"] == "Frozen bog in January")
    shown = client.get(f"/api/minimums?session={session['id']}").json
    assert shown["looked_at"] == "Frozen bog in January"
    reserve = next(q for q in shown["questions"] if q["id"] == "reserve")
    assert {s["name"]: s["verdict"] for s in reserve["schools"]} == {"30%": "stay", "20%": "care", "40%": "stay"}
    assert [s["chosen"] for s in reserve["schools"]] == [True, False, False]
    client.put("/api/minimums", json=settings(**reserve["schools"][1]["sets"]))
    assert verdicts(client)["Frozen bog in January"] == "care"
    assert demo.engine is not None


def test_changes_are_dated_and_the_defaults_come_last(client: FlaskClient) -> None:
    client.put("/api/minimums", json=settings(reserve_pct=40))
    client.put("/api/minimums", json={**settings(reserve_pct=20), "rule_set": "canada"})
    history = client.get("/api/minimums").json["history"]
    assert [h["settings"]["minimums"]["reserve_pct"] for h in history] == [20, 40, 30]
    assert [h["changed_at"] is None for h in history] == [False, False, True]


def test_a_decision_keeps_the_minimums_it_was_made_under(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    client.put("/api/minimums", json=settings(reserve_pct=40))
    made = client.post("/api/sessions/import", json=plan_dict).json
    kept = client.post(f"/api/sessions/{made['id']}/decisions", json={"word": "wait", "revision": 1}).json
    client.put("/api/minimums", json=settings(reserve_pct=20))
    again = client.get(f"/api/decisions/{kept['id']}").json
    assert again["plan"]["minimums"]["reserve_pct"] == 40
    assert again["result"]["reserve_pct"] == 40


@pytest.mark.parametrize(
    ("document", "key"),
    [
        ({"minimums": {"reserve_pct": 95}}, "minimums.reserve_pct"),
        ({"minimums": {"reserve": 30}}, "minimums.reserve"),
        ({"rule_set": "atlantis"}, "rule_set"),
        ({"first_flights": "yes"}, "first_flights"),
    ],
)
def test_bad_minimums_are_refused_and_nothing_changes(client: FlaskClient, document: Any, key: str) -> None:
    answer = client.put("/api/minimums", json=document)
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["key"] == key
    assert len(client.get("/api/minimums").json["history"]) == 1


def test_the_rules_and_first_flights_only_make_it_stricter(client: FlaskClient) -> None:
    own = settings(legal_height_m=300)
    assert client.put("/api/minimums", json={**own, "rule_set": "canada"}).json["in_force"]["legal_height_m"] == 122
    low = client.put("/api/minimums", json={**settings(legal_height_m=60), "first_flights": True}).json["in_force"]
    assert (low["legal_height_m"], low["reserve_pct"], low["satellites"]) == (60, 40, 13)
    strict = Minimums(wind_fraction=0.2, reserve_pct=50, satellites=20, water_distance_m=10, return_speed_ms=6)
    both = for_first_flights(strict)
    assert (both.wind_fraction, both.reserve_pct, both.satellites) == (0.2, 50, 20)


def test_rule_sets_say_whose_they_are_and_that_they_are_from_memory() -> None:
    assert next(iter(rule_sets())) == "general"
    assert {"european-open", "united-kingdom", "united-states", "canada", "australia"} < set(rule_sets())
    for rules in rule_sets().values():
        assert "from memory" in rules.source
        assert "authority" in rules.source
        assert rules.authority
        assert 50 <= rules.height_m <= 150
        assert list(rules.mass_steps_g) == sorted(rules.mass_steps_g)


def test_defaults_are_the_first_school_of_every_question() -> None:
    defaults = Minimums()
    for question in QUESTIONS:
        assert len(question.schools) >= 2
        assert all(getattr(defaults, key) == value for key, value in question.schools[0].sets), question.id


@given(situations())
def test_tightening_never_improves_a_verdict(s: Situation) -> None:
    tight = changed(s, minimums=for_first_flights(s.minimums))
    assert RANK[judge(tight).verdict] >= RANK[judge(s).verdict]


def test_the_settings_are_kept_as_json(client: FlaskClient, database: Database) -> None:
    from zealous_lark.services.minimums import current

    client.put("/api/minimums", json={"first_flights": True})
    assert json.loads(current(database).model_dump_json())["first_flights"] is True


@pytest.mark.parametrize(
    ("rules", "mass", "status"),
    [
        ("general", 898, "pass"),
        ("european-open", 898, "care"),
        ("european-open", 720, "pass"),
        ("united-kingdom", 98, "care"),
    ],
)
def test_the_mass_steps_that_a_payload_carries_past_are_those_of_the_rules(
    client: FlaskClient, plan_dict: dict[str, Any], rules: str, mass: float, status: str
) -> None:
    client.put("/api/minimums", json={"rule_set": rules})
    plan_dict["aircraft"].update(mass_g=mass, payload_g=5)
    made = client.post("/api/sessions/import", json=plan_dict).json
    assert next(c for c in made["result"]["checks"] if c["id"] == "rules.mass")["status"] == status


@pytest.mark.parametrize(
    ("rules", "mass", "status"),
    [
        ("general", 300, "pass"),
        ("united-kingdom", 300, "fail"),
        ("united-kingdom", 249, "pass"),
        ("canada", 300, "pass"),
    ],
)
def test_the_distances_of_the_rules_count_where_a_place_is_drawn(
    client: FlaskClient, plan_dict: dict[str, Any], rules: str, mass: float, status: str
) -> None:
    """People 45 m from the way: as far as it flies high, and more than Canada's 30 m, but not the 50 m of the UK."""
    takeoff = {"id": "t", "role": "takeoff", "shape": "point", "coordinates": [[25.08, 58.62]]}
    west = Geodesic.WGS84.Direct(58.62, 25.08, 330, 55)
    people = {"id": "p", "role": "people", "shape": "point", "coordinates": [[west["lon2"], west["lat2"]]]}
    place = {"name": "Meadow", "features": [takeoff, people], "zones_looked_at": "2026-09-20"}
    plan_dict["aircraft"]["mass_g"] = mass
    plan_dict["site"].update(place=client.post("/api/places", json=place).json["id"], obstacles=[])
    client.put("/api/minimums", json={"rule_set": rules})
    session = client.post("/api/sessions/import", json=plan_dict).json
    assert next(c for c in session["result"]["checks"] if c["id"] == "rules.people")["status"] == status

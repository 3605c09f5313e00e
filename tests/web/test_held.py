"""Forecasts held against the wind that was met: by hand, at three leads, over the logbook."""

from __future__ import annotations

import json
from datetime import datetime, timedelta
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from zealous_lark.plan import read_plan
from zealous_lark.plan.flight import FlightEntry
from zealous_lark.plan.forecast import ForecastPart, HourPart, LevelPart
from zealous_lark.services.flights import Flight, listed, stored_flight
from zealous_lark.services.weather import keep
from zealous_lark.store import Database, flights

HEIGHT_M = 60.0
"""Where the site's roughness no longer counts: the forecast's wind stands as it was said."""


def forecast(issued: datetime, speed_ms: float) -> ForecastPart:
    """The same wind for two days."""
    level = LevelPart(height_m=HEIGHT_M, speed_ms=speed_ms, direction_deg=240, gust_ms=speed_ms + 2)
    hours = [
        HourPart(at=issued + timedelta(hours=n), winds=[level], temperature_c=12, dew_point_c=4, visibility_m=20_000)
        for n in range(49)
    ]
    return ForecastPart(format="zealous-lark.forecast", version=1, source="m", issued_at=issued, hours=hours)


def flown(db: Database, plan_dict: dict[str, Any], begun: datetime, met_ms: float | None, uid: str) -> None:
    plan_dict["flight"]["height_m"] = HEIGHT_M
    plan = read_plan(json.dumps(plan_dict).encode())
    entry = FlightEntry(
        started_at=begun, place="The quarry", aircraft="Dunlin", latitude=plan.site.latitude,
        longitude=plan.site.longitude, seconds=600, wind_met_ms=met_ms, height_m=HEIGHT_M,
    )  # fmt: skip
    flight = Flight(uid, None, None, True, None, entry, plan, None, 1)
    with db.transaction() as s:
        flights.add(s, stored_flight(flight), listed(entry), begun)


@pytest.fixture
def kept(database: Database, plan_dict: dict[str, Any]) -> Database:
    """Three days with a flight at noon each; before each, a source says 3, 4, 5 and, too late to count, 9 m/s."""
    at = plan_dict["site"]
    for day in range(3):
        begun = NOW - timedelta(days=3 * day + 1)
        for before_h, speed in ((30, 3.0), (13, 4.0), (4, 5.0), (1, 9.0)):
            taken = begun - timedelta(hours=before_h)
            keep(database, "one", at["latitude"], at["longitude"], forecast(taken, speed), "", taken)
        flown(database, plan_dict, begun, 6.0 + day, f"flight-000{day}")
    return database


@pytest.mark.usefixtures("kept")
def test_each_lead_is_what_was_last_said_by_then(client: FlaskClient) -> None:
    found = client.get("/api/flights/flight-0000/forecasts").json
    assert found["met_ms"] == 6.0
    assert [(h["source"], h["lead_h"]) for h in found["held"]] == [("m", 24), ("m", 12), ("m", 3)]
    assert [h["speed_ms"] for h in found["held"]] == pytest.approx([3, 4, 5], abs=1e-6)
    assert [h["off_ms"] for h in found["held"]] == pytest.approx([-3, -2, -1], abs=1e-6)


@pytest.mark.usefixtures("kept")
def test_over_the_logbook_a_source_is_off_by_its_mean(client: FlaskClient) -> None:
    """Met 6, 7 and 8 m/s: three hours before it said 5 each time, which is 1, 2 and 3 too little."""
    rows = {h["lead_h"]: h for h in client.get("/api/logbook/forecasts").json["held"]}
    assert set(rows) == {24, 12, 3}
    assert rows[3]["place"] == "The quarry"
    assert rows[3]["count"] == 3
    assert rows[3]["off_ms"] == pytest.approx(-2)
    assert rows[3]["size_ms"] == pytest.approx(2)
    assert rows[24]["off_ms"] == pytest.approx(-4)


def test_without_a_wind_met_or_a_forecast_nothing_is_held(
    kept: Database, client: FlaskClient, plan_dict: dict[str, Any]
) -> None:
    flown(kept, plan_dict, NOW - timedelta(hours=2), None, "flight-unmet")
    flown(kept, plan_dict, NOW - timedelta(days=60), 5.0, "flight-alone")
    assert client.get("/api/flights/flight-unmet/forecasts").json == {"met_ms": None, "held": []}
    assert client.get("/api/flights/flight-alone/forecasts").json == {"met_ms": 5.0, "held": []}
    assert client.get("/api/flights/nobody/forecasts").status_code == 404
    # Two flights are too few to say anything of a source.
    assert client.get("/api/logbook/forecasts").json["held"][0]["count"] == 3


def test_a_forecast_without_winds_is_not_credited_with_the_plans(
    database: Database, client: FlaskClient, plan_dict: dict[str, Any]
) -> None:
    begun = NOW - timedelta(days=1)
    taken = begun - timedelta(hours=4)
    calm = forecast(taken, 5.0)
    windless = calm.model_copy(update={"hours": [h.model_copy(update={"winds": []}) for h in calm.hours]})
    keep(database, "one", plan_dict["site"]["latitude"], plan_dict["site"]["longitude"], windless, "", taken)
    flown(database, plan_dict, begun, 6.0, "flight-0000")
    assert client.get("/api/flights/flight-0000/forecasts").json["held"] == []


def too_little(db: Database, plan_dict: dict[str, Any], place: int, days: int, off_ms: float) -> None:
    """Flights at a place on so many days, before each of which a source said so much too little."""
    plan_dict["site"]["place"] = place
    at = plan_dict["site"]
    for day in range(days):
        begun = NOW - timedelta(days=2 * day + 1)
        taken = begun - timedelta(hours=4)
        keep(db, "one", at["latitude"], at["longitude"], forecast(taken, 5.0), "", taken)
        flown(db, plan_dict, begun, 5.0 + off_ms + (day % 2) / 5, f"flight-000{day}")


@pytest.fixture
def place(client: FlaskClient) -> int:
    answer = client.post("/api/places", json={"name": "The quarry", "features": []})
    assert answer.status_code == 201, answer.json
    return int(answer.json["id"])


def tomorrow(db: Database, plan_dict: dict[str, Any], place: int) -> tuple[int, dict[str, Any]]:
    """After six flights with 2 m/s more than was said: the next forecast's number, and a plan that it covers."""
    too_little(db, plan_dict, place, 6, 2.0)
    at = plan_dict["site"]
    report = keep(db, "one", at["latitude"], at["longitude"], forecast(NOW, 5.0), "", NOW)
    return report.id, {**plan_dict, "takeoff_at": (NOW + timedelta(hours=5)).isoformat()}


def of_forecasts(client: FlaskClient) -> list[dict[str, Any]]:
    return [o for o in client.get("/api/learning").json["offers"] if o["kind"] == "forecast"]


def test_what_a_source_says_too_little_is_offered_taken_and_undone(
    database: Database, client: FlaskClient, plan_dict: dict[str, Any], place: int
) -> None:
    """Six flights met 2.0 and 2.2 m/s more than was said: 2.1 more, in the forecast and the session ahead."""
    report, ahead = tomorrow(database, plan_dict, place)
    ahead = json.loads(read_plan(json.dumps(ahead).encode()).model_dump_json())
    asked = {"plan": ahead, "report": report, "takeoff_at": ahead["takeoff_at"]}
    ahead["weather"] = client.post("/api/weather/fill", json=asked).json["weather"]
    session = client.post("/api/sessions/import", json=ahead).json["id"]
    [offer] = of_forecasts(client)
    assert offer["offered"]
    assert offer["changes"][0]["value"] == pytest.approx(2.1, abs=0.11)
    assert [e["session_id"] for e in offer["effects"]] == [session]
    more = offer["changes"][0]["value"]
    wanted = {"kind": "forecast", "target": place, "source": "one"}
    assert client.post("/api/learning", json={**wanted, "source": "two"}).status_code == 422
    after = client.post("/api/learning", json=wanted).json
    wind = client.get(f"/api/sessions/{session}").json["plan"]["weather"]["winds"][0]
    assert wind["speed_ms"] == pytest.approx(5 + more)
    assert wind["gust_ms"] == pytest.approx(7 + more)
    filled = client.post("/api/weather/fill", json=asked).json["weather"]
    assert filled["winds"][0]["speed_ms"] == pytest.approx(5 + more)
    assert "raised by your flights" in json.dumps(filled["provenance"])
    # Held against the flights it is as it came, so that what was added does not hide what is still missing.
    assert of_forecasts(client)[0]["offered"] is False
    elsewhere = {**ahead, "site": {**ahead["site"], "place": None}}
    there = client.post("/api/weather/fill", json={**asked, "plan": elsewhere}).json["weather"]
    assert there["winds"][0]["speed_ms"] == pytest.approx(5)
    client.delete(f"/api/learning/{after['taken'][0]['id']}")
    wind = client.get(f"/api/sessions/{session}").json["plan"]["weather"]["winds"][0]
    assert wind["speed_ms"] == pytest.approx(5)
    assert of_forecasts(client)[0]["offered"]


@pytest.mark.parametrize(("days", "off_ms", "offered"), [(4, 2.0, []), (6, 0.2, [False]), (6, -2.0, [False])])
def test_few_flights_little_and_too_much_wind_raise_nothing(
    database: Database, client: FlaskClient, plan_dict: dict[str, Any], place: int, days: int, off_ms: float,
    offered: list[bool],
) -> None:  # fmt: skip
    too_little(database, plan_dict, place, days, off_ms)
    found = of_forecasts(client)
    assert [o["offered"] for o in found] == offered
    assert all(o["changes"][0]["value"] <= 0.5 for o in found)


def test_a_plan_whose_wind_was_typed_since_keeps_it(
    database: Database, client: FlaskClient, plan_dict: dict[str, Any], place: int
) -> None:
    report, ahead = tomorrow(database, plan_dict, place)
    ahead["weather"] = {**ahead["weather"], "report": report}
    session = client.post("/api/sessions/import", json=ahead).json["id"]
    before = client.get(f"/api/sessions/{session}").json["plan"]["weather"]
    assert of_forecasts(client)[0]["effects"] == []
    client.post("/api/learning", json={"kind": "forecast", "target": place, "source": "one"})
    assert client.get(f"/api/sessions/{session}").json["plan"]["weather"] == before

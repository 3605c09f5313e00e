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

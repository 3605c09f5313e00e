"""Times by the clock where it happens."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime, time

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.flying import event, number, send
from zealous_lark.core.light import light
from zealous_lark.demo.load import load_demo
from zealous_lark.services.local_time import local, zone_name
from zealous_lark.services.logbook import page
from zealous_lark.store import Database
from zealous_lark.store.flights import Filter

pytestmark = pytest.mark.slow


@pytest.mark.parametrize(
    ("latitude", "longitude", "name"),
    [
        (58.62, 25.08, "Europe/Tallinn"), (40.7, -74.0, "America/New_York"), (-44.0, 170.0, "Pacific/Auckland"),
        (27.7, 85.3, "Asia/Kathmandu"), (0.0, 0.0, "UTC"), (90.0, 0.0, "UTC"),
    ],
)  # fmt: skip
def test_the_zone_of_a_position(client: FlaskClient, latitude: float, longitude: float, name: str) -> None:
    answer = client.get("/api/time-zone", query_string={"latitude": latitude, "longitude": longitude})
    assert answer.json == {"name": name}
    assert zone_name(latitude, longitude) == name


def test_a_position_that_is_none_is_refused(client: FlaskClient) -> None:
    refused = client.get("/api/time-zone?latitude=91&longitude=0")
    assert (refused.status_code, refused.json["refusals"][0]["key"]) == (422, "latitude")


def test_a_moment_stays_the_same_moment() -> None:
    there = local(NOW, 27.7, 85.3)
    assert there == NOW
    assert there.isoformat() == "2026-09-26T23:45:00+05:45"
    assert local(NOW, None, 12.0) is NOW


def test_a_session_lifts_off_by_the_clock_at_its_place(client: FlaskClient) -> None:
    """Begun from another continent's clock: the same instant, written as it stands at the place."""
    place = {"name": "Terrace", "latitude": 27.7, "longitude": 85.3}
    body = {"title": "Far off", "takeoff_at": "2026-10-01T04:00:00Z", "place": place}
    made = client.post("/api/sessions", json=body).json
    assert made["plan"]["takeoff_at"] == "2026-10-01T09:45:00+05:45"
    assert client.get("/api/sessions").json["sessions"][0]["takeoff_at"] == "2026-10-01T09:45:00+05:45"


def test_flights_decisions_and_exports_are_in_the_places_own_time(demo_client: FlaskClient) -> None:
    uid = number()
    send(demo_client, uid, 1, [event("takeoff", 0, NOW, 98.0), event("landed", 500, NOW, 60.0)])
    opened = demo_client.get(f"/api/flights/{uid}").json
    assert opened["flight"]["entry"]["started_at"] == "2026-09-26T21:00:00+03:00"
    assert [e["at"][-6:] for e in opened["events"]] == ["+03:00", "+03:00"]
    rows = list(csv.DictReader(io.StringIO(demo_client.get("/api/logbook/export/csv").text)))
    assert {r["started_at"][-6:] for r in rows} <= {"+03:00", "+02:00"}
    made = demo_client.post("/api/sessions/1/decisions", json={"word": "wait", "revision": 2})
    assert made.status_code == 201, made.json
    assert made.json["decided_at"] == "2026-09-26T21:00:00+03:00"


@pytest.mark.parametrize("day", ["2026-11-26", "2026-12-21", "2026-06-21", "2026-03-29"])
@pytest.mark.parametrize("hour", [1, 22])
def test_the_demos_flights_are_flown_in_daylight_whenever_it_is_begun(database: Database, day: str, hour: int) -> None:
    now = datetime.combine(datetime.fromisoformat(day), time(hour), tzinfo=UTC)
    assert load_demo(database, now)
    found = page(database, Filter()).flights
    assert len(found) > 30
    for flight in found:
        e = flight.entry
        assert e.latitude is not None
        assert e.longitude is not None
        sun = light(e.latitude, e.longitude, e.started_at)
        assert sun.sunrise is not None
        assert sun.sunset is not None
        assert sun.sunrise <= e.started_at <= sun.sunset, e.started_at
        assert e.started_at <= now
    assert len({f.entry.verdict for f in found}) > 1, "each has the verdict of its own plan"

"""What an observer's device is told: the flight in the air, its time by the computer's clock, where to look."""

from __future__ import annotations

import math
from datetime import datetime, timedelta
from typing import Any

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.flying import event, number, send
from zealous_lark.store import Database
from zealous_lark.web.context import CLOCK


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


@pytest.fixture
def session(client: FlaskClient) -> int:
    found = client.get("/api/sessions").json["sessions"]
    return int(next(s["id"] for s in found if "first light" in s["title"]))


class Clock:
    """The computer's clock, wound on by hand."""

    def __init__(self) -> None:
        self.at = NOW

    def __call__(self) -> datetime:
        return self.at

    def on(self, seconds: float) -> None:
        self.at += timedelta(seconds=seconds)


@pytest.fixture
def clock(app: APIFlask) -> Clock:
    clock = Clock()
    app.config[CLOCK] = clock
    return clock


def seen(client: FlaskClient, session: int) -> dict[str, Any]:
    found = client.get(f"/api/sessions/{session}/observed")
    assert found.status_code == 200
    return dict(found.json)


def test_on_the_ground_it_says_where_the_flight_will_be(client: FlaskClient, session: int) -> None:
    plan = client.get(f"/api/sessions/{session}").json["plan"]
    found = seen(client, session)
    assert (found["flight"], found["at_s"], found["events"]) == (None, None, [])
    far = plan["flight"]
    look = found["lookout"]
    there = (look["bearing_deg"], look["distance_m"], look["height_m"])
    assert there == (far["bearing_deg"], far["distance_m"], far["height_m"])
    assert look["elevation_deg"] == pytest.approx(math.degrees(math.atan(far["height_m"] / far["distance_m"])))
    assert (found["title"], found["aircraft"]) == (plan["title"], plan["aircraft"]["name"])
    assert client.get("/api/sessions/999/observed").status_code == 404


def test_a_flight_is_followed_to_its_landing(client: FlaskClient, session: int, clock: Clock) -> None:
    uid, begun = number(), NOW
    takeoff = event("takeoff", 0, begun, 98.0)
    send(client, uid, session, [takeoff])
    clock.on(100)
    distance = event("distance", 100, begun, 90.0)
    slip = event("reading", 100, begun, 20.0)
    send(client, uid, session, [distance, slip, event("withdrawn", 100, begun, text=slip["uid"])])
    clock.on(100)
    found = seen(client, session)
    assert found["flight"]["uid"] == uid
    assert found["flight"]["card"]["winds"], "the clock of the observer needs them once a wind was met"
    assert (found["at_s"], found["distance_m"]) == (200, 90)
    assert [e["kind"] for e in found["events"]] == ["takeoff", "distance"], "slips are not shown"
    assert found["lookout"]["distance_m"] <= 90
    send(client, uid, session, [event("turned", 200, begun)])
    clock.on(600)
    assert seen(client, session)["lookout"]["phase"] == "landing"
    send(client, uid, session, [event("landed", 800, begun, 60.0)])
    found = seen(client, session)
    assert (found["at_s"], found["lookout"]["phase"], found["events"]) == (None, "station", [])
    assert found["flight"]["landed"]


def test_a_flight_whose_device_was_lost_is_not_in_the_air_for_ever(
    client: FlaskClient, session: int, clock: Clock
) -> None:
    send(client, number(), session, [event("takeoff", 0, clock.at, 98.0)])
    clock.on(3_600)
    begun, uid = clock.at, number()
    send(client, uid, session, [event("takeoff", 0, begun, 98.0), event("landed", 300, begun, 60.0)])
    clock.on(400)
    found = seen(client, session)
    assert (found["flight"]["uid"], found["at_s"]) == (uid, None)


@pytest.mark.parametrize("behind_s", [0, 300, -300, 86_400])
@pytest.mark.parametrize("late_s", [0, 120])
def test_no_two_clocks_need_to_agree(
    client: FlaskClient, session: int, clock: Clock, behind_s: float, late_s: float
) -> None:
    """The pilot's device is behind by so much, and reaches Lark so late."""
    device = clock.at - timedelta(seconds=behind_s)
    takeoff = event("takeoff", 0, device, 98.0)
    clock.on(late_s)
    sent_at = (device + timedelta(seconds=late_s)).isoformat()
    send(client, number(), session, [takeoff], sent_at=sent_at)
    clock.on(60)
    assert seen(client, session)["at_s"] == late_s + 60


def test_a_clock_that_is_set_in_the_air_makes_no_flight_shorter(
    client: FlaskClient, session: int, clock: Clock
) -> None:
    uid, begun = number(), clock.at
    send(client, uid, session, [event("takeoff", 0, begun, 98.0)], sent_at=begun.isoformat())
    clock.on(100)
    # Its clock was set ten minutes ahead; the flight's own went on.
    ahead = begun + timedelta(seconds=600)
    reading = event("reading", 100, ahead, 80.0)
    send(client, uid, session, [reading], sent_at=(ahead + timedelta(seconds=100)).isoformat())
    clock.on(20)
    assert seen(client, session)["at_s"] == 120

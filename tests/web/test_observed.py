"""What an observer's device is told: the flight in the air, its time by the computer's clock, where to look."""

from __future__ import annotations

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
    assert (found["flight"], found["at_s"], found["lookout"], found["events"]) == (None, None, None, [])
    assert found["bearing_deg"] == plan["flight"]["bearing_deg"]
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
    assert found["heard_at"] == (NOW + timedelta(seconds=100)).isoformat().replace("+00:00", "Z")
    send(client, uid, session, [event("turned", 200, begun)])
    clock.on(600)
    assert seen(client, session)["lookout"]["phase"] == "landing"
    send(client, uid, session, [event("landed", 800, begun, 60.0)])
    found = seen(client, session)
    assert (found["at_s"], found["lookout"], found["events"]) == (None, None, [])
    assert found["flight"]["landed"]


@pytest.mark.parametrize(
    ("ahead_s", "late_s", "at_s"),
    [
        pytest.param(0, 0, 60, id="two clocks alike"),
        pytest.param(300, 0, 60, id="the pilot's is five minutes ahead"),
        pytest.param(-300, 0, 360, id="the pilot's is behind: longer in the air is the stricter"),
        pytest.param(0, 120, 180, id="the take-off came in two minutes late"),
        pytest.param(300, 120, 60, id="ahead and late: nothing better is known"),
    ],
)
def test_whose_clock_counts(
    client: FlaskClient, session: int, clock: Clock, ahead_s: float, late_s: float, at_s: float
) -> None:
    begun = clock.at + timedelta(seconds=ahead_s)
    clock.on(late_s)
    send(client, number(), session, [event("takeoff", 0, begun, 98.0)])
    clock.on(60)
    assert seen(client, session)["at_s"] == at_s

"""What happened last is last, however the machine's clock is set between any two things."""

from __future__ import annotations

from datetime import datetime, timedelta
from itertools import permutations
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from zealous_lark.services.access import Doors
from zealous_lark.store import Database, order, reports, requests
from zealous_lark.store.order import Pulse
from zealous_lark.web import create_app

DAY = timedelta(days=1)
SHIFTS = [-DAY, -timedelta(hours=1), timedelta(0), DAY]
ADDRESS = "/api/sessions/1/answers/walkround"


class Machine:
    """A machine whose clock is set and that is started again, by hand."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch, db: Database) -> None:
        self.now, self.boot, self.uptime_s, self._db = NOW, 1, 1_000.0, db
        monkeypatch.setattr(order, "pulse", lambda: Pulse(f"boot {self.boot}", self.uptime_s))
        machine = self

        class Clock(datetime):
            @classmethod
            def now(cls, tz: Any = None) -> datetime:
                return machine.now.astimezone(tz)

        monkeypatch.setattr(order, "datetime", Clock)

    @property
    def client(self) -> FlaskClient:
        return create_app(self._db, clock=lambda: self.now).test_client()

    def set_clock(self, by: timedelta, *, again: bool) -> None:
        """Set the clock. again: the machine is started again meanwhile."""
        self.now += by
        self.uptime_s += 5.0
        if again:
            self.boot, self.uptime_s = self.boot + 1, 20.0

    def say(self, word: str | None, **more: Any) -> int:
        """Answer an item; the status."""
        sent = {"item": "propellers", "word": word, "note": "cracked", **more}
        return self.client.put(ADDRESS, json=sent).status_code

    @property
    def said(self) -> str | None:
        """The word that stands."""
        found = self.client.get(ADDRESS).json["answers"].get("propellers")
        return None if found is None else found["word"]


@pytest.fixture
def machine(monkeypatch: pytest.MonkeyPatch, demo: Database) -> Machine:
    return Machine(monkeypatch, demo)


@pytest.mark.parametrize("again", [False, True])
@pytest.mark.parametrize("shift", SHIFTS, ids=str)
def test_the_last_word_stands(machine: Machine, shift: timedelta, again: bool) -> None:
    for words in permutations(["done", "fault", None]):
        for word in words:
            assert machine.say(word) == 200
            assert machine.said == word
            machine.set_clock(shift, again=again)


@pytest.mark.parametrize("shift", SHIFTS, ids=str)
def test_a_waiting_word_counts_by_its_age(machine: Machine, shift: timedelta) -> None:
    machine.say("fault")
    machine.set_clock(shift, again=False)
    assert machine.say("done", ago_s=60) == 409
    assert machine.said == "fault"
    machine.uptime_s += 120
    assert machine.say("done", ago_s=60) == 200
    assert machine.said == "done"


def test_a_word_sent_again_is_taken(machine: Machine) -> None:
    machine.say("fault")
    assert machine.say("fault", ago_s=60) == 200


def test_order_never_goes_back(machine: Machine, demo: Database) -> None:
    last = 0
    for again in (False, True):
        for shift in SHIFTS:
            machine.set_clock(shift, again=again)
            with demo.writing() as s:
                now = order.tick(s)
            assert now > last
            last = now


def test_order_follows_time_over_a_restart(machine: Machine, demo: Database) -> None:
    with demo.writing() as s:
        before = order.tick(s)
    machine.set_clock(timedelta(hours=2), again=True)
    with demo.writing() as s:
        assert order.tick(s) - before == 7_200 * order.SECOND


@pytest.mark.parametrize("shift", [-timedelta(days=30), timedelta(days=30)], ids=str)
def test_a_repeated_request_is_done_once(machine: Machine, shift: timedelta) -> None:
    headers = {"Idempotency-Key": "0123-4567-89ab"}
    sent = {"item": {"kind": "spare", "name": "Propellers", "count": 2}}
    before = len(machine.client.get("/api/kit").json["items"])
    first = machine.client.post("/api/kit", json=sent, headers=headers)
    machine.set_clock(shift, again=False)
    machine.client.post("/api/kit", json=sent, headers={"Idempotency-Key": "another-request"})
    again = machine.client.post("/api/kit", json=sent, headers=headers)
    assert (first.status_code, first.json) == (again.status_code, again.json)
    assert len(machine.client.get("/api/kit").json["items"]) == before + (2 if first.status_code == 201 else 0)


def test_answers_to_requests_are_forgotten_in_a_week(machine: Machine, demo: Database) -> None:
    with demo.writing() as s:
        requests.add(s, "first", requests.Answered("d", 200, "{}"), machine.now)
    machine.uptime_s += 8 * 86_400
    with demo.writing() as s:
        requests.add(s, "second", requests.Answered("d", 200, "{}"), machine.now)
        assert requests.find(s, "first") is None


def test_a_code_ends_though_the_clock_goes_back(machine: Machine, demo: Database) -> None:
    doors = Doors(demo.folder, lambda: machine.now)
    code = doors.new_code().code
    machine.now -= DAY
    machine.uptime_s += 301
    assert doors.pair(code, "Phone") is None


def test_a_code_lives_though_the_clock_goes_forward(machine: Machine, demo: Database) -> None:
    doors = Doors(demo.folder, lambda: machine.now)
    code = doors.new_code().code
    machine.now += DAY
    machine.uptime_s += 60
    assert doors.pair(code, "Phone") is not None


@pytest.mark.parametrize("shift", SHIFTS, ids=str)
def test_the_report_that_came_last_is_first(machine: Machine, demo: Database, shift: timedelta) -> None:
    with demo.writing() as s:
        reports.add(s, "one", 58.0, 25.0, "{}", "", machine.now)
        machine.set_clock(shift, again=False)
        reports.add(s, "two", 58.0, 25.0, "{}", "", machine.now)
        assert [r.source for r in reports.around(s, 57.9, 58.1)][:2] == ["two", "one"]

"""Answers that take long are worked out once, and by one thread at a time."""

from __future__ import annotations

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from apiflask import APIFlask

from tests.conftest import NOW
from zealous_lark.services import learning
from zealous_lark.store import Database
from zealous_lark.web import create_app


class Counting:
    """A view's work that waits to be let go, and counts how often and how many at once it ran."""

    def __init__(self, plain: Callable[..., Any]) -> None:
        self.plain, self.go = plain, threading.Event()
        self.begun, self.at_once, self.most = 0, 0, 0
        self._lock = threading.Lock()

    def __call__(self, *given: Any, **more: Any) -> Any:
        with self._lock:
            self.begun, self.at_once = self.begun + 1, self.at_once + 1
            self.most = max(self.most, self.at_once)
        assert self.go.wait(60)
        try:
            return self.plain(*given, **more)
        finally:
            with self._lock:
                self.at_once -= 1


@pytest.fixture
def working(monkeypatch: pytest.MonkeyPatch) -> Counting:
    counting = Counting(learning.offers)
    monkeypatch.setattr(learning, "offers", counting)
    return counting


@pytest.fixture
def app(demo: Database) -> APIFlask:
    return create_app(demo, clock=lambda: NOW)


def test_who_asks_meanwhile_gets_the_same_answer(app: APIFlask, working: Counting) -> None:
    with ThreadPoolExecutor(8) as pool:
        asked = [pool.submit(app.test_client().get, "/api/learning") for _ in range(8)]
        working.go.set()
        answers = {a.result().get_data() for a in asked}
    assert len(answers) == 1
    assert working.most == 1
    before = working.begun
    assert app.test_client().get("/api/learning").get_data() in answers
    assert working.begun == before + 1  # nothing is kept


def test_after_a_change_it_is_worked_out_anew(app: APIFlask, working: Counting, demo: Database) -> None:
    """Who asks after a change is not given an answer from before it; the two wait for each other."""
    with ThreadPoolExecutor(2) as pool:
        first = pool.submit(app.test_client().get, "/api/learning")
        while not working.begun:
            threading.Event().wait(0.01)
        demo.remember("changed", "since")
        second = pool.submit(app.test_client().get, "/api/learning")
        working.go.set()
        assert first.result().status_code == second.result().status_code == 200
    assert (working.begun, working.most) == (2, 1)


def test_a_fault_is_everybodys_who_waited(app: APIFlask, monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(*_: object) -> None:
        raise KeyError("not thought of")

    monkeypatch.setattr(learning, "offers", broken)
    assert app.test_client().get("/api/learning").status_code == 500
    monkeypatch.undo()
    assert app.test_client().get("/api/learning").status_code == 200

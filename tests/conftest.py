"""One fixture per thing."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient
from hypothesis import HealthCheck, settings

from tests.make import EXAMPLES
from zealous_lark.core.situation import Situation
from zealous_lark.desk.demo import load_demo
from zealous_lark.plan import read_plan, situation_of
from zealous_lark.store import Database
from zealous_lark.web import create_app

# A busy machine draws slowly; that is no fault of the law that is tried.
settings.register_profile("lark", suppress_health_check=[HealthCheck.too_slow], deadline=None)
settings.load_profile("lark")

NOW = datetime(2026, 9, 26, 18, 0, tzinfo=UTC)


@pytest.fixture
def plan_text() -> str:
    """The example plan as it is published."""
    return (EXAMPLES / "example-plan.json").read_text()


@pytest.fixture
def plan_dict(plan_text: str) -> dict[str, Any]:
    loaded: dict[str, Any] = json.loads(plan_text)
    return loaded


@pytest.fixture
def situation(plan_text: str) -> Situation:
    return situation_of(read_plan(plan_text))


@pytest.fixture
def database(tmp_path: Path) -> Iterator[Database]:
    """An empty, migrated database."""
    db = Database(tmp_path / "data")
    db.migrate()
    yield db
    db.close()


@pytest.fixture
def app(database: Database) -> APIFlask:
    return create_app(database, clock=lambda: NOW)


@pytest.fixture
def client(app: APIFlask) -> FlaskClient:
    return app.test_client()


@pytest.fixture
def demo(database: Database) -> Database:
    """A database with the demo scenario."""
    assert load_demo(database, NOW)
    return database


@pytest.fixture
def demo_client(demo: Database) -> FlaskClient:
    return create_app(demo, clock=lambda: NOW).test_client()

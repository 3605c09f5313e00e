"""One fixture per thing."""

from __future__ import annotations

import json
import os
import shutil
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from apiflask import APIFlask
from argon2 import PasswordHasher
from flask.testing import FlaskClient
from hypothesis import HealthCheck, settings

from tests.make import EXAMPLES
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.homeward.flying import Flights
from zealous_lark.core.situation import Situation
from zealous_lark.demo.load import load_demo
from zealous_lark.formats.bounded import _Forks
from zealous_lark.plan import read_plan, situation_of
from zealous_lark.store import Database
from zealous_lark.store.database import LongWriteError, keeps_others_waiting
from zealous_lark.web import create_app

# A busy machine draws slowly; that is no fault of the law that is tried.
settings.register_profile("lark", suppress_health_check=[HealthCheck.too_slow], deadline=None)
settings.load_profile("lark")

Database.longest_write_s = 2.0
"""What is computed while every other save waits is a fault, wherever a test meets it; this is for what has no name."""


def _never_while_others_wait(of: type, name: str) -> None:
    plain = getattr(of, name)

    def checked(*args: Any, **kwargs: Any) -> Any:
        if keeps_others_waiting.get():
            raise LongWriteError(f"{of.__name__}.{name} is called while every other save waits")
        return plain(*args, **kwargs)

    setattr(of, name, checked)


# By what is called and not by the clock, so that a slow machine finds no more than a quick one.
for _of, _name in ((Assessment, "__init__"), (Flights, "__init__"), (_Forks, "connection"), (PasswordHasher, "hash")):
    _never_while_others_wait(_of, _name)

NOW = datetime(2026, 9, 26, 18, 0, tzinfo=UTC)


SOAK = os.environ.get("LARK_SOAK")
"""Set by `make soak`, which runs what is marked so too."""

_SLOW = frozenset(
    {
        "test_extreme_plans_break_no_page",
        "test_every_screen_is_in_order",
        "test_seven_subjects_with_two_packs_agree_with_brute_force",
        "test_whatever_is_sent_is_answered_as_the_document_says",
        "test_fifty_kills_lose_and_double_nothing",
    }
)


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """What takes a minute begins first on each process, whatever the order: at the end one would wait for it alone."""
    if SOAK is None:
        left = [item for item in items if item.get_closest_marker("soak")]
        items[:] = [item for item in items if not item.get_closest_marker("soak")]
        config.hook.pytest_deselected(items=left)
    workers = getattr(config, "workerinput", {}).get("workercount", 1)
    slow = [item for item in items if item.name.split("[")[0] in _SLOW]
    rest = [item for item in items if item.name.split("[")[0] not in _SLOW]
    parts = [rest[len(rest) * n // workers : len(rest) * (n + 1) // workers] for n in range(workers)]
    items[:] = [item for n, part in enumerate(parts) for item in (*slow[n::workers], *part)]


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


@pytest.fixture(scope="session")
def kept_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Folders that are made once and only ever copied: `empty` is migrated, `demo` has the scenario too."""
    folder = tmp_path_factory.mktemp("kept")
    for name in ("empty", "demo"):
        db = Database(folder / name)
        db.migrate()
        if name == "demo":
            assert load_demo(db, NOW)
        db.close()
    return folder


@pytest.fixture
def database(tmp_path: Path, kept_data: Path) -> Iterator[Database]:
    """An empty, migrated database."""
    shutil.copytree(kept_data / "empty", tmp_path / "data")
    db = Database(tmp_path / "data")
    yield db
    db.close()


@pytest.fixture
def app(database: Database) -> APIFlask:
    return create_app(database, clock=lambda: NOW)


@pytest.fixture
def client(app: APIFlask) -> FlaskClient:
    return app.test_client()


@pytest.fixture
def demo(tmp_path: Path, kept_data: Path) -> Iterator[Database]:
    """A database with the demo scenario."""
    shutil.copytree(kept_data / "demo", tmp_path / "data", dirs_exist_ok=True)
    db = Database(tmp_path / "data")
    yield db
    db.close()


@pytest.fixture
def demo_client(demo: Database) -> FlaskClient:
    return create_app(demo, clock=lambda: NOW).test_client()

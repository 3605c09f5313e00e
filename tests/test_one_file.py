"""A new check is one file; a new preflight item is one row of one file: everything else finds them."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.make import EXAMPLES
from zealous_lark.core import checks
from zealous_lark.core.checks import base
from zealous_lark.core.preflight import gates
from zealous_lark.plan import judge_plan, read_plan
from zealous_lark.plan.result import ResultDocument

CHECK = '''
"""Whether a pilot slept."""

from zealous_lark.core.checks.base import Finding, Status, check


@check("pilot.sleep", "Sleep", "h", "Common practice.")
def sleep(a):
    """Decides whether the pilot is rested."""
    return Finding(Status.FAIL, 3.0, 6.0, 2.0, "You slept 3 h; your minimum is 6 h.", ("Slept: 3 h",))
'''


@pytest.fixture
def new_check(tmp_path: Path) -> Iterator[None]:
    """A module more in the package of the checks, for a while."""
    (tmp_path / "sleep.py").write_text(CHECK)
    before = list(base._REGISTER)
    checks.__path__.append(str(tmp_path))
    checks.all_checks.cache_clear()
    yield
    checks.__path__.remove(str(tmp_path))
    sys.modules.pop(f"{checks.__name__}.sleep", None)
    base._REGISTER[:] = before
    checks.all_checks.cache_clear()


def judged() -> ResultDocument:
    return judge_plan(read_plan((EXAMPLES / "example-plan.json").read_text()))


@pytest.mark.usefixtures("new_check")
def test_a_new_check_is_one_file(client: FlaskClient) -> None:
    result = judged()
    found = next(c for c in result.checks if c.id == "pilot.sleep")
    assert result.verdict == "stay"
    assert result.tightest == "pilot.sleep"
    assert found.sentence == "You slept 3 h; your minimum is 6 h."
    plan = read_plan((EXAMPLES / "example-plan.json").read_text()).model_dump(mode="json", by_alias=True)
    answer = client.post("/api/check", json=plan).json
    assert answer["tightest"] == "pilot.sleep"
    listed = client.get("/api/checks").json["checks"]
    assert {"id": "pilot.sleep", "source": "Common practice."}.items() <= next(
        c for c in listed if c["id"] == "pilot.sleep"
    ).items()


def test_without_it_nothing_of_it_is_left() -> None:
    assert all(c.id != "pilot.sleep" for c in judged().checks)


def test_a_new_preflight_item_is_one_row(demo_client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    topic = next(iter(gates._RULES))
    row: Any = ("straps", "Straps stowed", "A strap meets a propeller.", ("Tie them up.",), "Tie them up.",
                gates._always, None)  # fmt: skip
    monkeypatch.setitem(gates._RULES, topic, (*gates._RULES[topic], row))
    plan = demo_client.get("/api/sessions/1").json["plan"]
    site = demo_client.post("/api/sessions/1/on-site", json={"plan": plan}).json
    item = next(i for g in site["gates"] for i in g["items"] if i["key"] == "straps")
    assert item["text"] == "Straps stowed"
    assert gates.item_texts()["straps"] == "Straps stowed"

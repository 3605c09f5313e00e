"""Plans through every door: version 1 is read wherever version 2 is; how values are known travels with them."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner
from flask.testing import FlaskClient

from tests.conftest import NOW
from zealous_lark.cli import lark
from zealous_lark.store import Database
from zealous_lark.web import create_app


def of_version_1(plan: dict[str, Any]) -> dict[str, Any]:
    assert plan["version"] == 1
    assert "cine" in plan["aircraft"]["speeds_ms"]
    return plan


def test_a_plan_of_version_1_through_every_door(client: FlaskClient, plan_dict: dict[str, Any], tmp_path: Path) -> None:
    """The command, the judging, the import, saving, the outing, the windows and the site: the same verdict each."""
    plan = of_version_1(plan_dict)
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(plan))
    told = CliRunner().invoke(lark, ["check", "--json", str(file)])
    verdict = json.loads(told.output)["verdict"]
    checked = client.post("/api/check", json=plan)
    assert (checked.status_code, checked.json["verdict"]) == (200, verdict)
    made = client.post("/api/sessions/import", json=plan).json
    assert made["result"]["verdict"] == verdict
    assert made["plan"]["version"] == 2
    assert {e["how"] for e in made["plan"]["evidence"].values()} == {"typed"}
    saved = client.put(f"/api/sessions/{made['id']}", json={"plan": plan, "revision": 1}).json
    assert (saved["result"]["verdict"], saved["plan"]["aircraft"]["speeds_ms"]["slow"]) == (verdict, 6)
    for path, body in (
        ("/api/outing", {"plan": plan}),
        ("/api/windows", {"plan": plan}),
        (f"/api/sessions/{made['id']}/on-site", {"plan": plan}),
        ("/api/section?bearing_deg=240&upto_m=300", plan),
    ):
        answer = client.post(path, json=body)
        assert answer.status_code == 200, (path, answer.json)


def known(plan: dict[str, Any]) -> dict[str, str]:
    return {key: entry["how"] for key, entry in plan["evidence"].items()}


@pytest.fixture
def half_known(client: FlaskClient, plan_dict: dict[str, Any]) -> dict[str, Any]:
    """A session of which the wind was measured, the charge read, and nothing else said."""
    made = client.post("/api/sessions/import", json=plan_dict).json
    evidence = {
        "weather.winds.0": {"how": "measured", "source": "meter", "at": NOW.isoformat()},
        "pack.charge_pct": {"how": "read", "source": None, "at": None},
    }
    body = {"plan": {**made["plan"], "evidence": evidence}, "revision": 1}
    saved: dict[str, Any] = client.put(f"/api/sessions/{made['id']}", json=body).json
    assert known(saved["plan"]) == {"weather.winds.0": "measured", "pack.charge_pct": "read"}
    return saved


def test_how_values_are_known_goes_into_a_file_and_back(client: FlaskClient, half_known: dict[str, Any]) -> None:
    file = client.get(f"/api/sessions/{half_known['id']}/plan.json").json
    again = client.post("/api/sessions/import", json=file).json
    assert again["plan"]["evidence"] == half_known["plan"]["evidence"]
    assert again["result"]["verdict"] == half_known["result"]["verdict"]
    asked = [q["key"] for q in half_known["result"]["questions"] if q["key"]]
    assert "weather.temperature_c" in asked
    assert [q["key"] for q in again["result"]["questions"] if q["key"]] == asked


def test_a_copy_asks_again(client: FlaskClient, half_known: dict[str, Any]) -> None:
    copy = client.post(f"/api/sessions/{half_known['id']}/duplicate").json
    assert copy["plan"]["evidence"] == {}
    assert "weather.winds" in [q["key"] for q in copy["result"]["questions"]]


def test_how_values_are_known_is_in_the_archive(
    client: FlaskClient, half_known: dict[str, Any], tmp_path: Path
) -> None:
    data = client.get("/api/archive").data
    assert zipfile.is_zipfile(io.BytesIO(data))
    other = Database(tmp_path / "other")
    other.migrate()
    elsewhere = create_app(other, clock=lambda: NOW).test_client()
    put = elsewhere.post("/api/archive", data=data, headers={"Content-Type": "application/octet-stream"})
    assert put.status_code == 204, put.json
    there = elsewhere.get(f"/api/sessions/{half_known['id']}").json
    assert there["plan"]["evidence"] == half_known["plan"]["evidence"]
    assert there["result"]["questions"] == half_known["result"]["questions"]
    other.close()

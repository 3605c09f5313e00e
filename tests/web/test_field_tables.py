"""Field tables through the API: of the plan as it is kept, for each kind of reading, made once."""

from __future__ import annotations

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.make import opened_sessions
from zealous_lark.services import field_tables as services
from zealous_lark.store import Database


def number(demo: Database, title: str) -> int:
    return next(o.session.id for o in opened_sessions(demo, NOW) if o.plan.title == title)


def test_tables_come_with_the_plan_that_they_are_of(demo_client: FlaskClient, demo: Database) -> None:
    path = f"/api/sessions/{number(demo, 'Frozen bog in January')}"
    found = demo_client.get(f"{path}/field-tables").json
    assert found["plan"] == demo_client.get(path).json["plan"]
    tables = found["tables"]
    assert (tables["source"], tables["height_m"]) == (None, None)
    assert tables["values"]["pack.charge_pct"] == found["plan"]["pack"]["charge_pct"]
    hover = demo_client.get(f"{path}/field-tables?reading=hover").json["tables"]
    assert (hover["source"], hover["height_m"]) == ("hover", found["plan"]["flight"]["height_m"])


def test_the_same_tables_are_made_once(
    demo_client: FlaskClient, demo: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = []
    make = services.field_tables
    monkeypatch.setattr(services, "field_tables", lambda *given: made.append(given) or make(*given))
    path = f"/api/sessions/{number(demo, 'Frozen bog in January')}/field-tables?reading=leaves"
    first = demo_client.get(path).json
    assert demo_client.get(path).json == first
    assert len(made) == 1


def test_indoors_no_wind_is_read(demo_client: FlaskClient, demo: Database) -> None:
    path = f"/api/sessions/{number(demo, 'Mill, ground floor')}/field-tables"
    assert demo_client.get(f"{path}?reading=meter").json["tables"] is None
    assert demo_client.get(path).json["tables"]["shapes"]


@pytest.mark.parametrize(("path", "status"), [("1/field-tables?reading=kite", 422), ("999/field-tables", 404)])
def test_what_cannot_be_read_is_refused(demo_client: FlaskClient, path: str, status: int) -> None:
    assert demo_client.get(f"/api/sessions/{path}").status_code == status

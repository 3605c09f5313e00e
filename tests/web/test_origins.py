"""Who may change something, and what is kept of an answer."""

from __future__ import annotations

from pathlib import Path

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient

from zealous_lark.store import Database
from zealous_lark.web import create_app

CHANGES = {"PUT", "POST", "DELETE", "PATCH"}
FOREIGN = [
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},
    {"Origin": "https://elsewhere.example"},
    {"Origin": "null"},
    {"Origin": "http://localhost:9999"},
]


@pytest.mark.parametrize("headers", FOREIGN, ids=str)
def test_a_foreign_page_changes_nothing(demo_client: FlaskClient, headers: dict[str, str]) -> None:
    before = demo_client.get("/api/sessions").json["total"]
    refused = demo_client.post("/api/sessions/1/duplicate", headers=headers)
    assert refused.status_code == 403
    assert "Nothing was changed" in refused.json["message"]
    assert demo_client.delete("/api/sessions/1", headers=headers).status_code == 403
    assert demo_client.get("/api/sessions").json["total"] == before
    # Reading is no change; what is read stays with the page that asked, which the browser sees to.
    assert demo_client.get("/api/sessions", headers=headers).status_code == 200


def test_every_change_refuses_a_foreign_page(app: APIFlask, client: FlaskClient) -> None:
    tried = 0
    for rule in app.url_map.iter_rules():
        for method in CHANGES & (rule.methods or set()):
            address = rule.build(dict.fromkeys(rule.arguments, 1), append_unknown=False)
            assert address is not None
            answer = client.open(address[1], method=method, headers={"Sec-Fetch-Site": "cross-site"})
            assert answer.status_code == 403, (method, rule.rule)
            tried += 1
    assert tried > 40


def test_larks_own_pages_and_programs_may(demo_client: FlaskClient) -> None:
    for headers in ({}, {"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}, {"Sec-Fetch-Site": "none"}):
        assert demo_client.post("/api/sessions/1/duplicate", headers=headers).status_code == 201


def test_an_answer_is_not_cached_and_a_built_file_is(database: Database, tmp_path: Path) -> None:
    (tmp_path / "assets").mkdir()
    (tmp_path / "index.html").write_text("<html></html>")
    (tmp_path / "assets" / "index-abc.js").write_text("0")
    client = create_app(database, static=tmp_path).test_client()
    assert client.get("/api/checks").headers["Cache-Control"] == "no-store"
    assert client.get("/api/sessions/77").headers["Cache-Control"] == "no-store"
    assert client.get("/").headers["Cache-Control"] == "no-cache"
    assert "immutable" in client.get("/assets/index-abc.js").headers["Cache-Control"]


def test_whether_it_is_well(client: FlaskClient) -> None:
    assert client.get("/api/health").json["status"] == "ok"

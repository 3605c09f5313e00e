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
    assert demo_client.get("/api/sessions", headers=headers).status_code == 403
    assert demo_client.get("/", headers=headers).status_code == 403


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_a_link_to_a_page_is_followed(client: FlaskClient, site: str) -> None:
    opened = {"Sec-Fetch-Site": site, "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document"}
    assert client.get("/sessions", headers=opened).status_code in (200, 503)
    assert client.get("/sessions", headers={**opened, "Referer": "https://elsewhere.example/"}).status_code != 403
    for address, more in (("/api/sessions", {}), ("/sessions", {"Sec-Fetch-Dest": "iframe"})):
        assert client.get(address, headers={**opened, **more}).status_code == 403
    assert client.post("/sessions", headers=opened).status_code == 403


def test_a_referer_counts_where_the_browser_says_nothing_else(client: FlaskClient) -> None:
    assert client.get("/api/sessions", headers={"Referer": "https://elsewhere.example/page"}).status_code == 403
    assert client.get("/api/sessions", headers={"Referer": "http://localhost/sessions"}).status_code == 200


def test_no_foreign_page_embeds_an_answer(client: FlaskClient) -> None:
    for answer in (client.get("/api/sessions"), client.get("/"), client.get("/api/none"),
                   client.get("/api/sessions", headers={"Sec-Fetch-Site": "cross-site"})):  # fmt: skip
        assert answer.headers["Cross-Origin-Resource-Policy"] == "same-origin"


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

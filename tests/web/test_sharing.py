"""A session and a place go from one Lark to another, by file and by codes, and are looked at before they are taken."""

from __future__ import annotations

import gzip
import json
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from zealous_lark.store import Database
from zealous_lark.web import create_app


@pytest.fixture
def giver(tmp_path: Path, kept_data: Path) -> Iterator[FlaskClient]:
    """The Lark of the pilot who gives: the demo's."""
    folder = tmp_path / "giver"
    shutil.copytree(kept_data / "demo", folder)
    db = Database(folder)
    yield create_app(db, clock=lambda: NOW).test_client()
    db.close()


@pytest.fixture
def other(client: FlaskClient) -> FlaskClient:
    """Another pilot's Lark, empty."""
    return client


def titled(client: FlaskClient, title: str) -> int:
    found = client.get("/api/sessions").json["sessions"]
    return int(next(s["id"] for s in found if title in s["title"]))


def looked(client: FlaskClient, data: bytes | str, status: int = 200) -> dict[str, Any]:
    answer = client.post("/api/shared", data=data, content_type="application/octet-stream")
    assert answer.status_code == status, answer.text
    return dict(answer.json)


def test_a_session_by_file_is_the_same_there(giver: FlaskClient, other: FlaskClient) -> None:
    here = titled(giver, "first light")
    sent = giver.get(f"/api/sessions/{here}/share.gz")
    assert sent.headers["Content-Disposition"] == 'attachment; filename="bog-at-first-light.lark.gz"'
    assert json.loads(gzip.decompress(sent.data))["lark"] == "share", "an open format"
    found = looked(other, sent.data)
    assert (found["missing"], found["left_out"]) == ([], [])
    assert found["made_at"]
    assert other.get("/api/sessions").json["sessions"] == [], "looking keeps nothing"
    made = other.post("/api/sessions/import", json=found["plan"])
    assert made.status_code == 201
    ours = giver.get(f"/api/sessions/{here}").json["result"]
    theirs = made.json["result"]
    assert theirs["verdict"] == ours["verdict"]
    assert theirs["energy"] == ours["energy"]
    assert {c["id"]: c["status"] for c in theirs["checks"]} == {c["id"]: c["status"] for c in ours["checks"]}


def test_by_codes_it_comes_without_its_terrain_and_says_so(giver: FlaskClient, other: FlaskClient) -> None:
    given = giver.get(f"/api/sessions/{titled(giver, 'first light')}/share").json
    assert given["left_out"] == []
    assert given["left_out_of_codes"] == ["terrain"]
    assert all(code["picture"].startswith("data:image/svg") for code in given["codes"])
    texts = [code["text"] for code in given["codes"]]
    first = looked(other, texts[0])
    assert (first["missing"], first["of"], first["plan"]) == ([2, 3], 3, None)
    found = looked(other, "\n".join(texts))
    assert found["left_out"] == ["terrain"]
    assert found["plan"]["place"]["terrain"] is None
    assert other.post("/api/sessions/import", json=found["plan"]).status_code == 201


def test_the_own_minimums_stand_beside_the_other_pilots(giver: FlaskClient, other: FlaskClient) -> None:
    sent = giver.get(f"/api/sessions/{titled(giver, 'first light')}/share.gz").data
    before = looked(other, sent)["own"]
    settings = other.get("/api/minimums").json["settings"]
    settings["minimums"]["reserve_pct"] = 40
    assert other.put("/api/minimums", json=settings).status_code == 200
    own = looked(other, sent)["own"]
    assert (before["reserve_pct"], own["reserve_pct"]) == (before["reserve_pct"], 40)


def test_a_place_by_file_and_by_codes(giver: FlaskClient, other: FlaskClient) -> None:
    place = next(p for p in giver.get("/api/places").json["places"] if "bog" in p["name"])
    found = looked(other, giver.get(f"/api/places/{place['id']}/share.gz").data)
    assert found["plan"] is None
    assert found["place"]["terrain"]["heights"]
    made = other.post("/api/places", json=found["place"])
    assert made.status_code == 201
    assert len(made.json["place"]["features"]) == len(found["place"]["features"]) > 5
    given = giver.get(f"/api/places/{place['id']}/share").json
    by_codes = looked(other, "\n".join(c["text"] for c in given["codes"]))
    assert by_codes["place"]["features"] == found["place"]["features"]


def test_a_plan_that_was_exported_is_one_to_take_too(giver: FlaskClient, other: FlaskClient) -> None:
    exported = giver.get(f"/api/sessions/{titled(giver, 'first light')}/plan.json").data
    found = looked(other, exported)
    assert (found["made_at"], found["plan"]["title"]) == (None, "Bog at first light")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "file"),
        (b"GIF89a", "file"),
        (b"\x1f\x8b\x08\x00", "file"),
        (b'{"lark": "share", "version": 2}', "a newer Lark made it"),
        (b'{"lark": "share", "version": 1, "made_at": "2026-09-27T04:00:00Z"}', "a plan or a place"),
        (b'{"lark": "song", "version": 1, "made_at": "2026-09-27T04:00:00Z"}', "lark"),
        (b"[" * 5_000, "file"),
        (b"LARK1:nonsense", "a code that is none of Lark's"),
    ],
)
def test_what_is_none_is_refused_in_words(other: FlaskClient, data: bytes, words: str) -> None:
    assert words in json.dumps(looked(other, data, 422), ensure_ascii=False)


def test_of_what_is_not_here(other: FlaskClient) -> None:
    for address in ("/api/sessions/9/share", "/api/sessions/9/share.gz", "/api/places/9/share.gz"):
        assert other.get(address).status_code == 404

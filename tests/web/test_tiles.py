"""Map archives that are kept here: brought in, laid under the drawings, served, deleted; nothing left of a bad one."""

from __future__ import annotations

import os

from flask.testing import FlaskClient

from tests.make import EXAMPLES
from tests.web.test_places import BYTES
from zealous_lark.formats.map_archive import kind_of
from zealous_lark.store import Database

TILES = (EXAMPLES / "sarvik-tiles.mbtiles").read_bytes()


def brought(client: FlaskClient, data: bytes = TILES, name: str = "sarvik-tiles.mbtiles") -> dict[str, object]:
    answer = client.post(f"/api/maps?name={name}", data=data, headers=BYTES)
    assert answer.status_code == 200, answer.json
    found: dict[str, object] = answer.json
    return found


def test_an_archive_is_kept_served_and_deleted(client: FlaskClient, database: Database) -> None:
    kept = brought(client)
    assert (kept["name"], kept["min_zoom"], kept["max_zoom"]) == ("Sarvik bog from above", 14, 17)
    # The same file again is the same archive.
    assert brought(client) == kept
    assert client.get("/api/maps").json == {"maps": [kept]}
    assert client.put("/api/settings/tiles", json={"archive": kept["digest"]}).status_code == 200
    assert client.get("/api/settings/tiles").json == {"archive": kept["digest"], "address": None}
    column, row = int((25.08 + 180) / 360 * 2**17), 39_305
    found = [client.get(f"/api/maps/{kept['digest']}/17/{column}/{r}") for r in range(row - 400, row + 400)]
    pictures = [a for a in found if a.status_code == 200]
    assert 3 < len(pictures) < 12
    assert all(kind_of(a.data) == "image/jpeg" == a.mimetype for a in pictures)
    assert all("immutable" in a.headers["Cache-Control"] for a in pictures)
    assert {a.status_code for a in found} == {200, 204}
    assert client.delete(f"/api/maps/{kept['digest']}").status_code == 204
    assert client.get("/api/settings/tiles").json == {"archive": None, "address": None}
    assert client.get(f"/api/maps/{kept['digest']}/17/{column}/{row}").status_code == 404
    assert list((database.folder / "maps").iterdir()) == []


def test_nothing_is_left_of_what_is_refused(client: FlaskClient, database: Database) -> None:
    answer = client.post("/api/maps?name=a.mbtiles", data=b"junk", headers=BYTES)
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["key"] == "map"
    assert "MBTiles or PMTiles" in answer.json["refusals"][0]["allowed"]
    assert list((database.folder / "maps").iterdir()) == []
    # What a killed Lark left half-taken is gone with the next one.
    left = database.folder / "maps" / "a.part"
    left.mkdir()
    (left / "came").write_bytes(b"half")
    os.utime(left, (0, 0))
    brought(client)
    assert [p.suffix for p in (database.folder / "maps").iterdir()] == [".mbtiles"]
    assert client.post("/api/maps?name=a", data=b"x", headers={"Content-Type": "text/plain"}).status_code == 415
    large = client.post("/api/maps?name=a", data=b"x", headers=BYTES, environ_overrides={"CONTENT_LENGTH": "600000000"})
    assert large.status_code == 413


def test_one_thing_lies_under_the_drawings(client: FlaskClient) -> None:
    kept = brought(client)
    address = "https://tiles.example.org/{z}/{x}/{y}.png"
    both = client.put("/api/settings/tiles", json={"archive": kept["digest"], "address": address})
    assert both.status_code == 422
    assert client.put("/api/settings/tiles", json={"archive": "0" * 64}).status_code == 422
    assert client.put("/api/settings/tiles", json={"archive": "../../etc"}).status_code == 422
    assert client.put("/api/settings/tiles", json={"address": "https://tiles.example.org/"}).status_code == 422
    assert client.put("/api/settings/tiles", json={"address": address}).status_code == 200
    assert "https://tiles.example.org" in client.get("/").headers["Content-Security-Policy"]
    assert client.put("/api/settings/tiles", json={"archive": kept["digest"]}).status_code == 200
    assert "tiles.example.org" not in client.get("/").headers["Content-Security-Policy"]


def test_tiles_come_from_nowhere_unless_an_address_is_set(client: FlaskClient) -> None:
    def policy() -> str:
        return client.get("/sessions").headers["Content-Security-Policy"]

    assert client.get("/api/settings/tiles").json == {"archive": None, "address": None}
    assert "https" not in policy()
    for wrong in ("http://a.example/{z}/{x}/{y}.png", "https://a.example/tiles.png", "https://a.example/; x {z}{x}{y}"):
        assert client.put("/api/settings/tiles", json={"address": wrong}).status_code == 422
    client.put("/api/settings/tiles", json={"address": "https://a.example/{z}/{x}/{y}.png"})
    assert "img-src 'self' data: blob: https://a.example;" in policy()
    client.put("/api/settings/tiles", json={"address": None})
    assert "https" not in policy()

"""Photos of flights and places: kept once, made small, without what they say of whom and where."""

from __future__ import annotations

import io
from typing import Any

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient
from PIL import Image

from tests.conftest import NOW
from tests.flying import number
from zealous_lark.formats import bounded
from zealous_lark.store import Database

FLIGHT = "demo-flight-035"


@pytest.fixture
def database(demo: Database) -> Database:
    """Here a database is one with the demo in it."""
    return demo


def photo(size: tuple[int, int] = (400, 300), form: str = "JPEG", exif: Image.Exif | None = None) -> bytes:
    out = io.BytesIO()
    picture = Image.new("RGB", size, "steelblue")
    picture.putpixel((0, 0), (255, 0, 0))
    picture.save(out, form, **({} if exif is None else {"exif": exif}))
    return out.getvalue()


def send(client: FlaskClient, data: bytes, uid: str, **of: Any) -> Any:
    asked = {"uid": uid, "taken_at": NOW.isoformat(), **of}
    return client.post("/api/photos", query_string=asked, data=data, content_type="application/octet-stream")


def listed(client: FlaskClient, address: str = f"/api/flights/{FLIGHT}/photos") -> list[str]:
    return [p["uid"] for p in client.get(address).json["photos"]]


def test_a_photo_of_a_flight_is_there_once_and_can_be_deleted(client: FlaskClient) -> None:
    uid = number()
    for _ in range(2):  # the answer was lost: sent again
        assert send(client, photo(), uid, flight=FLIGHT).status_code == 200
    assert listed(client) == [uid]
    got = client.get(f"/api/photos/{uid}.jpg")
    assert got.mimetype == "image/jpeg"
    assert Image.open(io.BytesIO(got.data)).size == (400, 300)
    assert client.delete(f"/api/photos/{uid}").status_code == 204
    assert listed(client) == []
    assert client.get(f"/api/photos/{uid}.jpg").status_code == 404
    assert client.delete(f"/api/photos/{uid}").status_code == 404


def test_sent_twice_at_once_it_is_there_once(
    client: FlaskClient, app: APIFlask, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The page was left, and its next one sends again while the first is still being read."""
    uid, reading = number(), bounded.read
    second: list[int] = []

    def slow(*given: Any) -> Any:
        read = reading(*given)
        if not second:
            second.append(0)
            second[0] = send(app.test_client(), photo(), uid, flight=FLIGHT).status_code
        return read

    monkeypatch.setattr(bounded, "read", slow)
    assert send(client, photo(), uid, flight=FLIGHT).status_code == 200
    assert second == [200]
    assert listed(client) == [uid]


def test_it_is_upright_small_and_says_nothing_of_whom_and_where(client: FlaskClient) -> None:
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter
    exif[0x010F] = "Somebody's camera"
    exif.get_ifd(0x8825)[1] = "N"
    uid = number()
    assert send(client, photo((4_000, 3_000), exif=exif), uid, flight=FLIGHT).status_code == 200
    kept = client.get(f"/api/photos/{uid}.jpg").data
    shown = Image.open(io.BytesIO(kept))
    assert shown.size == (1_200, 1_600)
    assert dict(shown.getexif()) == {}
    assert b"Somebody" not in kept


def test_a_photo_of_a_place_goes_with_the_place(client: FlaskClient) -> None:
    place = client.post("/api/places", json={"name": "Hill", "features": []}).json["id"]
    uid = number()
    assert send(client, photo(form="PNG"), uid, place=place).status_code == 200
    assert listed(client, f"/api/places/{place}/photos") == [uid]
    assert listed(client) == []


@pytest.mark.parametrize(
    ("data", "of", "words"),
    [
        (b"GIF89a" + b"\0" * 40, {"flight": FLIGHT}, "a photo as JPEG, PNG or WebP"),
        (photo()[:200], {"flight": FLIGHT}, "a photo as JPEG, PNG or WebP"),
        (b"", {"flight": FLIGHT}, "a photo as JPEG, PNG or WebP"),
        (photo(), {}, "a flight or a place"),
        (photo(), {"flight": FLIGHT, "place": 1}, "a flight or a place"),
    ],
)
def test_what_is_no_photo_is_refused(client: FlaskClient, data: bytes, of: dict[str, Any], words: str) -> None:
    answer = send(client, data, number(), **of)
    assert answer.status_code == 422
    assert words in answer.text
    assert listed(client) == []


def test_of_what_is_not_here(client: FlaskClient) -> None:
    assert send(client, photo(), number(), flight="no-such-flight").status_code == 404
    assert send(client, photo(), number(), place=999).status_code == 404
    uid = number()
    send(client, photo(), uid, flight=FLIGHT)
    again = send(client, photo(), uid, place=1)
    assert again.status_code == 422
    assert "a number that no other photo has" in again.text


def test_a_picture_that_would_fill_the_memory_is_refused(client: FlaskClient) -> None:
    out = io.BytesIO()
    Image.new("1", (12_000, 12_000)).save(out, "PNG")
    answer = send(client, out.getvalue(), number(), flight=FLIGHT)
    assert answer.status_code == 422
    assert "60 million pixels at most" in answer.text

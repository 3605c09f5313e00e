"""The API of photos."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.services import photos
from zealous_lark.store.photos import Photo
from zealous_lark.web.context import database, json_answer
from zealous_lark.web.http import a_file, file, query, reads_first
from zealous_lark.web.schemas import photos as b

api = APIBlueprint("photos", __name__, url_prefix="/api")

MOST_BYTES = 24_000_000


def _list(found: list[Photo]) -> Response:
    return json_answer(b.PhotoList(photos=[b.PhotoOut(uid=p.uid, taken_at=p.taken_at) for p in found]))


@api.get("/flights/<string:uid>/photos")
@api.output(b.PhotoList)
@api.doc(summary="A flight's photos", responses={404: "Not here"})
def of_flight(uid: str) -> Response:
    """The first taken first."""
    return _list(photos.of_flight(database(), uid))


@api.get("/places/<int:place_id>/photos")
@api.output(b.PhotoList)
@api.doc(summary="A place's photos", responses={404: "Not here"})
def of_place(place_id: int) -> Response:
    """The first taken first."""
    return _list(photos.of_place(database(), place_id))


@api.post("/photos")
@api.output(b.PhotoOut)
@api.doc(
    summary="Keep a photo of a flight or of a place",
    description="Its number is from the device that took it; sent again, it is there once.",
    responses={404: "Not here", 413: "Too large", 415: "Not bytes", 422: "Refused"},
)
@query(api, b.PhotoQuery)
@file(api, MOST_BYTES)
@reads_first
def keep(data: bytes, asked: b.PhotoQuery) -> Response:
    """A photo coming in."""
    photo = photos.keep(database(), asked.uid, data, asked.taken_at, flight=asked.flight, place=asked.place)
    return json_answer(b.PhotoOut(uid=photo.uid, taken_at=photo.taken_at))


@api.get("/photos/<string:uid>.jpg")
@api.doc(summary="A photo", responses=a_file("image/jpeg"))
def photo(uid: str) -> Response:
    """A photo never changes."""
    answer = Response(photos.data(database(), uid), mimetype="image/jpeg")
    answer.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer


@api.delete("/photos/<string:uid>")
@api.output({}, status_code=204)
@api.doc(summary="Delete a photo", responses={404: "Not here"})
def remove(uid: str) -> tuple[str, int]:
    """Delete it for good."""
    photos.remove(database(), uid)
    return "", 204

"""Photos into the logbook and of places."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy.exc import IntegrityError

from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.flights import open_flight
from zealous_lark.services.places import open_place
from zealous_lark.store import Database, photos
from zealous_lark.store.photos import Photo

MOST_OF_ONE = 60
"""More photos of one flight or place are an album, which this is not."""


def of_flight(db: Database, uid: str) -> list[Photo]:
    """A flight's photos. Raises NotHereError."""
    open_flight(db, uid)
    with db.transaction() as s:
        return photos.of(s, flight_uid=uid)


def of_place(db: Database, place_id: int) -> list[Photo]:
    """A place's photos. Raises NotHereError."""
    open_place(db, place_id)
    with db.transaction() as s:
        return photos.of(s, place_id=place_id)


def keep(db: Database, uid: str, data: bytes, taken_at: datetime, *, flight: str | None, place: int | None) -> Photo:
    """Keep a photo of a flight or of a place; sent again, it is there once. Raises NotHereError, NotAllowedError."""
    if flight is not None and place is None:
        there = of_flight(db, flight)
    elif place is not None and flight is None:
        there = of_place(db, place)
    else:
        raise NotAllowedError("flight", "both or none", "a flight or a place, one of them")
    photo = Photo(uid, taken_at, flight, place)
    if photo.uid in {p.uid for p in there}:
        return photo
    if len(there) >= MOST_OF_ONE:
        raise NotAllowedError("photo", f"{len(there)} that are there", f"{MOST_OF_ONE} at most: delete some first")
    try:
        kept = bounded.read(bounded.OF_A_PLACE, readers.read_photo, data)
    except BadFileError as error:
        raise NotAllowedError("photo", error.given, error.allowed) from None
    try:
        with db.transaction() as s:
            # Sent again while the first was still being read, it is the same one.
            if not photos.add(s, photo, kept) and uid not in {
                p.uid for p in photos.of(s, flight_uid=flight, place_id=place)
            }:
                raise NotAllowedError("uid", uid, "a number that no other photo has")
    except IntegrityError:
        raise NotHereError("what it is a photo of was deleted meanwhile") from None
    return photo


def data(db: Database, uid: str) -> bytes:
    """A photo's bytes (JPEG). Raises NotHereError."""
    with db.transaction() as s:
        found = photos.data(s, uid)
    if found is None:
        raise NotHereError(f"there is no photo {uid}; it may have been deleted")
    return found


def remove(db: Database, uid: str) -> None:
    """Delete a photo. Raises NotHereError."""
    with db.transaction() as s:
        if not photos.remove(s, uid):
            raise NotHereError(f"there is no photo {uid}; it may have been deleted")

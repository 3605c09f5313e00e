"""Forecast services: the pilot's own in their order, then those that this Lark was started with."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar

from zealous_lark.plan.source import AccessPart, SourcePart
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.weather import SourceDownError
from zealous_lark.sources import Collection, EdrSource, SourceFailedError, WeatherSource, collections_of
from zealous_lark.store import Database
from zealous_lark.store import sources as stored

MOST = 12
P = TypeVar("P", bound=AccessPart)


@dataclass(frozen=True, slots=True)
class OwnSource:
    """A service that the pilot added, by its number."""

    id: int
    source: SourcePart


def own(db: Database) -> list[OwnSource]:
    """The pilot's own, in their order."""
    with db.transaction() as s:
        found = stored.every(s)
    return [OwnSource(number, SourcePart.model_validate_json(text)) for number, text in found]


def connected(db: Database, given: Sequence[WeatherSource]) -> list[WeatherSource]:
    """Everything that can be asked, in order. given: what this Lark was started with."""
    mine = [
        EdrSource(o.source.url, o.source.collection, f"own-{o.id}", o.source.name, headers=o.source.headers)
        for o in own(db)
    ]
    return [*mine, *given]


def tried(db: Database, access: AccessPart, of: int | None = None) -> list[Collection]:
    """What a service offers. of: the number of one whose key is used where none is given.

    Raises SourceDownError, NotHereError.
    """
    try:
        return collections_of(access.url, _with_key(db, access, of).headers)
    except SourceFailedError as error:
        raise SourceDownError(access.url, str(error), None) from None


def _with_key(db: Database, access: P, of: int | None) -> P:
    """A key is never sent back to a screen: left empty there, the one that is kept for the same address stays."""
    if of is None or access.key:
        return access
    with db.transaction() as s:
        kept = _found(stored.find(s, of), of)
    # To another address a key that was given for this one is not sent.
    return access.model_copy(update={"key": kept.key}) if kept.url == access.url else access


def _found(text: str | None, number: int) -> SourcePart:
    if text is None:
        raise NotHereError(f"there is no forecast service {number}; it may have been removed")
    return SourcePart.model_validate_json(text)


def add(db: Database, source: SourcePart) -> OwnSource:
    """One more, asked last. Raises NotAllowedError."""
    with db.writing() as s:
        if len(stored.every(s)) >= MOST:
            raise NotAllowedError("source", f"one more than {MOST}", f"up to {MOST}; remove one first")
        return OwnSource(stored.add(s, source.model_dump_json()), source)


def change(db: Database, number: int, source: SourcePart) -> OwnSource:
    """Other settings for one. Raises NotHereError."""
    whole = _with_key(db, source, number)
    with db.writing() as s:
        _found(stored.find(s, number), number)
        stored.change(s, number, whole.model_dump_json())
    return OwnSource(number, whole)


def order(db: Database, numbers: list[int]) -> list[OwnSource]:
    """All of them in another order. Raises NotAllowedError."""
    with db.writing() as s:
        there = [number for number, _ in stored.every(s)]
        if sorted(there) != sorted(numbers):
            raise NotAllowedError("order", ", ".join(map(str, numbers)) or "none", f"each of {sorted(there)} once")
        stored.order(s, numbers)
    return own(db)


def remove(db: Database, number: int) -> None:
    """Take one out; what it said before stays. Raises NotHereError."""
    with db.writing() as s:
        _found(stored.find(s, number), number)
        stored.remove(s, number)

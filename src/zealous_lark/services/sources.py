"""Forecast services: the pilot's own in their order, then those that this Lark was started with."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import TypeVar

from zealous_lark.plan.source import AccessPart, KeptSourcePart, SourcePart
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.weather import SourceDownError
from zealous_lark.sources import Collection, EdrSource, SourceFailedError, WeatherSource, collections_of
from zealous_lark.sources.reaching import UNREACHED
from zealous_lark.store import Database
from zealous_lark.store import sources as stored
from zealous_lark.store.keys import ServiceKeys

MOST = 12
P = TypeVar("P", bound=AccessPart)


@dataclass(frozen=True, slots=True)
class OwnSource:
    """A service that the pilot added, by its number."""

    id: int
    source: KeptSourcePart


@cache
def keys_of(folder: Path) -> ServiceKeys:
    """The keys of a data folder."""
    return ServiceKeys(folder)


def own(db: Database) -> list[OwnSource]:
    """The pilot's own, in their order, with their keys."""
    with db.transaction() as s:
        found = stored.every(s)
    return [OwnSource(number, _whole(db, number, text)) for number, text in found]


def _whole(db: Database, number: int, text: str) -> KeptSourcePart:
    source = KeptSourcePart.model_validate_json(text)
    return source.model_copy(update={"key": keys_of(db.folder).of(number, source.url)}) if source.wants_key else source


def _kept(source: SourcePart) -> KeptSourcePart:
    """What the database has of a service: all but its key."""
    return KeptSourcePart(**{**source.model_dump(), "key": "", "wants_key": bool(source.key)})


def _own(number: int, source: SourcePart) -> OwnSource:
    return OwnSource(number, _kept(source).model_copy(update={"key": source.key}))


def connected(db: Database, given: Sequence[WeatherSource]) -> list[WeatherSource]:
    """Everything that can be asked, in order. given: what this Lark was started with."""
    mine = [
        EdrSource(
            o.source.url, o.source.collection, f"own-{o.id}", o.source.name, headers=o.source.headers,
            own_network=o.source.own_network,
        )
        for o in own(db)
    ]  # fmt: skip
    return [*mine, *given]


def tried(db: Database, access: AccessPart, of: int | None = None) -> list[Collection]:
    """What a service offers. of: the number of one whose key is used where none is given.

    Raises SourceDownError, NotHereError.
    """
    try:
        return collections_of(access.url, _with_key(db, access, of).headers, own_network=access.own_network)
    except SourceFailedError as error:
        hint = "; for a service on your own network, tick that it is on it" if str(error) == UNREACHED else ""
        raise SourceDownError(access.url, f"{error}{hint}", None) from None


def _with_key(db: Database, access: P, of: int | None) -> P:
    """A key is never sent back to a screen: left empty there, the one that is kept for the same address stays."""
    if of is None or access.key:
        return access
    with db.transaction() as s:
        kept = _found(stored.find(s, of), of)
    # To another address a key that was given for this one is not sent.
    key = keys_of(db.folder).of(of, access.url) if kept.url == access.url else ""
    return access.model_copy(update={"key": key})


def _found(text: str | None, number: int) -> KeptSourcePart:
    if text is None:
        raise NotHereError(f"there is no forecast service {number}; it may have been removed")
    return KeptSourcePart.model_validate_json(text)


def add(db: Database, source: SourcePart) -> OwnSource:
    """One more, asked last. Raises NotAllowedError."""
    with db.writing() as s:
        if len(stored.every(s)) >= MOST:
            raise NotAllowedError("source", f"one more than {MOST}", f"up to {MOST}; remove one first")
        number = stored.add(s, _kept(source).model_dump_json())
    keys_of(db.folder).put(number, source.url, source.key)
    return _own(number, source)


def change(db: Database, number: int, source: SourcePart) -> OwnSource:
    """Other settings for one. Raises NotHereError."""
    whole = _with_key(db, source, number)
    with db.writing() as s:
        _found(stored.find(s, number), number)
        stored.change(s, number, _kept(whole).model_dump_json())
    keys_of(db.folder).put(number, whole.url, whole.key)
    return _own(number, whole)


def move_keys(db: Database) -> int:
    """Move keys that an earlier Lark kept in the database to where they belong; how many."""
    moved = 0
    with db.writing() as s:
        for number, text in stored.every(s):
            source = KeptSourcePart.model_validate_json(text)
            if source.key:
                keys_of(db.folder).put(number, source.url, source.key)
                stored.change(s, number, _kept(source).model_dump_json())
                moved += 1
    if moved:
        db.scrub()  # what was taken out must not stay in the free pages of the file
    return moved


def without_keys(db: Database) -> list[str]:
    """Names of the services whose key is not here: after an archive was restored they ask for it again."""
    return [o.source.name for o in own(db) if o.source.wants_key and not o.source.key]


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
    keys_of(db.folder).put(number, "", "")

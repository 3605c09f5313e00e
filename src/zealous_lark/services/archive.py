"""Everything out as one archive, and into an empty Lark."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path

from pydantic import ValidationError
from sqlalchemy.exc import StatementError

from zealous_lark.formats import bounded
from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.plan import PlanRefusedError
from zealous_lark.plan.forecast import read_forecast_text
from zealous_lark.plan.kit import AircraftItem
from zealous_lark.services import (
    answers,
    decisions,
    kit,
    learning,
    logbook,
    minimums,
    places,
    sessions,
    tracks,
    weather,
)
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store import Database, archive, flights, reports, rows
from zealous_lark.store.archive import BadArchiveError, NotEmptyError
from zealous_lark.store.flights import Filter

_ALLOWED = "an archive that Lark wrote"
_BUILT = 0.6


def write(db: Database, now: datetime) -> bytes:
    """The archive."""
    return archive.write_archive(db, now)


def _read_all(db: Database, now: datetime) -> Iterator[float]:
    """Read everything once, as the screens would: what cannot be shown is not taken in. Yields the share read."""
    with db.transaction() as s:
        rows.read_all(s)
        uids = [f.uid for f in flights.search(s, Filter(), size=None)]
        reported = reports.numbers(s)
    planned = sessions.plans(db)
    each = 1 / max(len(planned) + len(uids), 1)
    for at, (session, _) in enumerate(planned):
        yield at * each
        sessions.open_session(db, session.id, now)
        decisions.list_decisions(db, session.id)
        for name in answers.LISTS:
            answers.said(db, session.id, name)
    for item in kit.items(db):
        if isinstance(item.item, AircraftItem):
            kit.record(db, item.id, now)
    for place in places.list_places(db):
        if place.place.terrain is not None and place.place.terrain.sha256 is not None:
            places.kept_terrain(db, place.place.terrain.sha256)
    minimums.minimums_history(db)
    learning.taken(db)
    for at, uid in enumerate(uids, len(planned)):
        yield at * each
        logbook.opened(db, uid)
        if tracks.track_of(db, uid) is not None:
            tracks.points_of(db, uid)
    for number in reported:
        read_forecast_text(weather.open_report(db, number).document)


def _built(packed: str, folder: str, now: datetime) -> Iterator[float]:
    """Build the database that an archive holds in a folder, and read all of it. Raises BadFileError.

    Yields the share that is done: building took six tenths of it for the archive of the demo.
    """
    with telling("a document", _ALLOWED):
        try:
            archive.build(Path(packed), Path(folder))
        except BadArchiveError as error:
            raise BadFileError(error.given, error.allowed) from None
        yield _BUILT
        built = Database(Path(folder))
        try:
            for share in _read_all(built, now):
                yield _BUILT + (1 - _BUILT) * share
        except (ValidationError, PlanRefusedError, StatementError) as error:
            raise BadFileError(f"a document that cannot be read ({str(error)[:200]})", _ALLOWED) from None
        finally:
            built.close()


def restore(db: Database, data: bytes, now: datetime, tell: Callable[[float], None] = lambda _: None) -> None:
    """Take an archive into an empty Lark, whole or not at all. Raises NotAllowedError, BadFileError.

    tell: hears the share that is done, from 0 to 1.
    """
    if there := archive.has(db):
        raise _not_empty(f" ({', '.join(there)})")
    with tempfile.TemporaryDirectory() as folder:
        packed = Path(folder) / "archive.zip"
        packed.write_bytes(data)
        for share in bounded.read_on(bounded.OF_AN_ARCHIVE, _built, str(packed), folder, now, into=Path(folder)):
            tell(share)
        try:
            archive.take_over(db, Path(folder))
        except NotEmptyError:
            raise _not_empty() from None


def _not_empty(what: str = "") -> NotAllowedError:
    return NotAllowedError(
        "archive", f"a Lark with something in it{what}", "an empty one: set LARK_DATA to a new folder"
    )

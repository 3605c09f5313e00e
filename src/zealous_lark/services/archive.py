"""Everything out as one archive, and into an empty Lark."""

from __future__ import annotations

import tempfile
from datetime import datetime
from pathlib import Path

from pydantic import ValidationError

from zealous_lark.formats.errors import BadFileError
from zealous_lark.plan import PlanRefusedError
from zealous_lark.services import kit, logbook, places, sessions, tracks
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store import Database, archive, flights
from zealous_lark.store.archive import BadArchiveError, NotEmptyError
from zealous_lark.store.flights import Filter


def write(db: Database, now: datetime) -> bytes:
    """The archive."""
    return archive.write_archive(db, now)


def _read_all(db: Database, now: datetime) -> None:
    """Read every document once, as a screen would: what cannot be shown is not taken in."""
    for session, _ in sessions.plans(db):
        sessions.open_session(db, session.id, now)
    kit.items(db)
    places.list_places(db)
    with db.transaction() as s:
        found = [f.uid for f in flights.search(s, Filter(), size=None)]
    for uid in found:
        logbook.opened(db, uid)
        if tracks.track_of(db, uid) is not None:
            tracks.points_of(db, uid)


def restore(db: Database, data: bytes, now: datetime) -> None:
    """Take an archive into an empty Lark, whole or not at all. Raises NotAllowedError, BadFileError."""
    if there := archive.has(db):
        raise NotAllowedError(
            "archive",
            f"a Lark with something in it ({', '.join(there)})",
            "an empty one: set LARK_DATA to a new folder",
        )
    try:
        with tempfile.TemporaryDirectory() as folder:
            archive.build(data, Path(folder))
            built = Database(Path(folder))
            try:
                _read_all(built, now)
            finally:
                built.close()
            archive.take_over(db, Path(folder))
    except BadArchiveError as error:
        raise BadFileError(error.given, error.allowed) from None
    except (ValidationError, PlanRefusedError, ValueError, LookupError, TypeError) as error:
        if isinstance(error, BadFileError):
            raise
        raise BadFileError(
            f"a document that cannot be read ({str(error)[:200]})", "an archive that Lark wrote"
        ) from None
    except NotEmptyError:
        raise NotAllowedError(
            "archive",
            "a Lark with something in it",
            "an empty one: set LARK_DATA to a new folder",
        ) from None

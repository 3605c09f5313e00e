"""Map tiles under every drawing: archives kept in the data folder, or an address for those who are online.

None are shipped.
"""

from __future__ import annotations

import hashlib
import re
import shutil
import time
import uuid
from collections.abc import Iterable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.map_archive import MapArchive, about, tile
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import Database

MAX_ARCHIVE_BYTES = 500_000_000

_ADDRESS = "tile address"
_ARCHIVE = "map archive"
_STALE_S = 3_600.0
_IN_WORK = ".part"
_DIGEST = re.compile(r"[0-9a-f]{64}")


@dataclass(frozen=True, slots=True)
class KeptArchive:
    """A map archive in the data folder, named by the digest of the file that was brought in; its size [bytes]."""

    digest: str
    archive: MapArchive
    size: int


@dataclass(frozen=True, slots=True)
class Under:
    """What lies under the drawings: an archive by its digest, an address, or nothing."""

    archive: str | None
    address: str | None


def under(db: Database) -> Under:
    """What is chosen; an archive that is gone is not."""
    digest = db.fact(_ARCHIVE) or None
    if digest is not None and not _path(db, digest).is_file():
        digest = None
    return Under(digest, db.fact(_ADDRESS) or None)


def lay_under(db: Database, chosen: Under) -> None:
    """Choose an archive, an address, or nothing. Raises NotAllowedError."""
    if chosen.archive is not None and chosen.address is not None:
        raise NotAllowedError("address", "an address beside an archive", "one of the two, or null for both")
    if chosen.archive is not None and not (_DIGEST.fullmatch(chosen.archive) and _path(db, chosen.archive).is_file()):
        raise NotAllowedError("archive", f"{chosen.archive[:12]!r}", "the digest of an archive that is kept here")
    address = chosen.address
    if address is not None and not all(part in address for part in ("{z}", "{x}", "{y}")):
        raise NotAllowedError("address", address, "an https address with {z}, {x} and {y} in it")
    db.remember(_ADDRESS, address or "")
    db.remember(_ARCHIVE, chosen.archive or "")


def tile_host(db: Database) -> str | None:
    """The origin that pictures may come from, for the page's policy."""
    address = db.fact(_ADDRESS)
    if not address:
        return None
    parts = urlsplit(address.replace("{s}", "a"))
    return f"{parts.scheme}://{parts.netloc}" if "{s}" not in address else f"https://*.{parts.netloc.partition('.')[2]}"


def _folder(db: Database) -> Path:
    return db.folder / "maps"


def _path(db: Database, digest: str) -> Path:
    return _folder(db) / f"{digest}.mbtiles"


def archives(db: Database) -> list[KeptArchive]:
    """The archives that are kept, by name; a damaged one is left out."""
    found = []
    for path in sorted(_folder(db).glob("*.mbtiles")):
        try:
            found.append(KeptArchive(path.stem, about(path), path.stat().st_size))
        except BadFileError:
            continue
    return sorted(found, key=lambda kept: (kept.archive.name.casefold(), kept.digest))


def add_archive(db: Database, pieces: Iterable[bytes], name: str) -> KeptArchive:
    """Keep an archive that comes in pieces; the same file again is the same archive. Raises NotAllowedError."""
    folder = _folder(db)
    folder.mkdir(exist_ok=True)
    _sweep(folder)
    here = folder / f"{uuid.uuid4()}{_IN_WORK}"
    here.mkdir()
    came, made = here / "came", here / "made"
    try:
        sha, size = hashlib.sha256(), 0
        with came.open("wb") as file:
            for piece in pieces:
                size += len(piece)
                if size > MAX_ARCHIVE_BYTES:
                    raise NotAllowedError("map", "a larger file", f"at most {MAX_ARCHIVE_BYTES // 1_000_000} MB")
                sha.update(piece)
                file.write(piece)
        try:
            bounded.read(bounded.OF_A_MAP_ARCHIVE, readers.make_over, str(came), name, str(made), into=here)
            found = about(made)
        except BadFileError as error:
            raise NotAllowedError("map", error.given, error.allowed) from None
        made.replace(_path(db, sha.hexdigest()))
        return KeptArchive(sha.hexdigest(), found, _path(db, sha.hexdigest()).stat().st_size)
    finally:
        shutil.rmtree(here, ignore_errors=True)


def _sweep(folder: Path) -> None:
    """Take away what a Lark left that was killed while it took an archive in."""
    for left in folder.glob(f"*{_IN_WORK}"):
        with suppress(FileNotFoundError):
            if left.stat().st_mtime < time.time() - _STALE_S:
                shutil.rmtree(left, ignore_errors=True)


def remove_archive(db: Database, digest: str) -> None:
    """Delete an archive. Raises NotHereError."""
    if not (_DIGEST.fullmatch(digest) and _path(db, digest).is_file()):
        raise NotHereError(f"there is no map archive {digest[:12]}")
    _path(db, digest).unlink(missing_ok=True)


def tile_of(db: Database, digest: str, zoom: int, column: int, row: int) -> bytes | None:
    """A tile of an archive, None where it has none. Raises NotHereError."""
    if not (_DIGEST.fullmatch(digest) and _path(db, digest).is_file()):
        raise NotHereError(f"there is no map archive {digest[:12]}")
    return tile(_path(db, digest), zoom, column, row)

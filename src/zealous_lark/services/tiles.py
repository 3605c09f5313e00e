"""Map tiles from elsewhere, for those who are online. None are shipped."""

from __future__ import annotations

from urllib.parse import urlsplit

from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store import Database

_FACT = "tile address"


def tiles(db: Database) -> str | None:
    """The address that is set, or None."""
    return db.fact(_FACT) or None


def change_tiles(db: Database, address: str | None) -> None:
    """Set the address, or forget it. Raises NotAllowedError."""
    if address is not None and not all(part in address for part in ("{z}", "{x}", "{y}")):
        raise NotAllowedError("address", address, "an https address with {z}, {x} and {y} in it")
    db.remember(_FACT, address or "")


def tile_host(db: Database) -> str | None:
    """The origin that pictures may come from, for the page's policy."""
    address = tiles(db)
    if address is None:
        return None
    parts = urlsplit(address.replace("{s}", "a"))
    return f"{parts.scheme}://{parts.netloc}" if "{s}" not in address else f"https://*.{parts.netloc.partition('.')[2]}"

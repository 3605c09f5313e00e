"""What is to be served, as it goes from who watches to the server."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

ANY = "0.0.0.0"
FIELD_PORT = 5871


@dataclass(frozen=True, slots=True)
class Doors:
    """How Lark is reached from elsewhere: by its own listener on the local network, or behind a proxy, by its names."""

    field: bool = False
    address: str = ANY
    port: int = FIELD_PORT
    behind_proxy: bool = False
    names: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class DemoWish:
    """The demo: made again or not, its weather's address, its wind meter's port."""

    reset: bool
    weather: str
    wind_meter: int


@dataclass(frozen=True, slots=True)
class Wish:
    """What is to be served. ahead: of the real clock. demo: its data; else the pilot's own, backed up each day."""

    folder: Path
    host: str
    log_level: str
    doors: Doors
    ahead: timedelta = timedelta(0)
    weather: str | None = None
    aircraft: int | None = None
    wind_meter: tuple[str, int] | None = None
    demo: DemoWish | None = None

    def clock(self) -> datetime:
        """The time that it is for this Lark."""
        return datetime.now(UTC) + self.ahead

"""Time where it happens: the zone of a position, and moments by the clock on the wall there."""

from __future__ import annotations

from datetime import UTC, datetime, tzinfo
from functools import cache, lru_cache
from threading import Lock
from zoneinfo import ZoneInfo

from timezonefinder import TimezoneFinder

_ONE_AT_A_TIME = Lock()
"""Its own documents promise nothing of one finder that several threads ask, and it reads its borders by a file."""


@cache
def _borders() -> TimezoneFinder:
    return TimezoneFinder()


@lru_cache(maxsize=4096)
def zone_name(latitude: float, longitude: float) -> str:
    """The name of the time zone at a position [°], as in the IANA time zone database; UTC at sea."""
    with _ONE_AT_A_TIME:
        name = _borders().timezone_at(lat=latitude, lng=longitude)
    return "UTC" if name is None or name == "Etc/GMT" else name


@cache
def zone(name: str) -> tzinfo:
    """A time zone by its name."""
    return UTC if name == "UTC" else ZoneInfo(name)


def local(moment: datetime, latitude: float | None, longitude: float | None) -> datetime:
    """A moment (aware) by the clock at a position [°]; as it is where there is none."""
    if latitude is None or longitude is None:
        return moment
    return moment.astimezone(zone(zone_name(latitude, longitude)))

"""Upkeep of an aircraft: dated entries, and what they say is due.

All intervals are common practice; the aircraft's manual goes before them.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.units import day_of


class Work(StrEnum):
    """Kinds of entries. FLOWN: hours in the air since the last such entry."""

    COMPASS = "compass"
    SENSORS = "sensors"
    GIMBAL = "gimbal"
    FIRMWARE = "firmware"
    FIRMWARE_SEEN = "firmware_seen"
    KNOCK = "knock"
    PART = "part"
    PROPELLERS = "propellers"
    SCREWS = "screws"
    FLOWN = "flown"


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry: its day, what was done or happened, hours flown [h], where a compass was calibrated [°]."""

    day: date
    work: Work
    hours: float = 0.0
    position: tuple[float, float] | None = None
    note: str = ""


@dataclass(frozen=True, slots=True)
class Due:
    """Something to do to an aircraft, and why."""

    work: Work
    why: str


SCREWS_HOURS = 10.0
PROPELLER_HOURS = 25.0
FIRMWARE_AGE = timedelta(days=60)
FAR_M = 50_000.0
"""A compass calibrated further away than this is calibrated again [m]; common practice."""


def hours_flown(entries: Iterable[Entry]) -> float:
    """Hours in the air that are entered [h]."""
    return sum(e.hours for e in entries)


def due(entries: Sequence[Entry], today: date, position: tuple[float, float] | None = None) -> tuple[Due, ...]:
    """What is due on a day, and at a place [°] where one is given. Entries of one day count in the order given."""
    row = sorted(entries, key=lambda e: e.day)
    found = []
    compass = _compass(row, position)
    if compass:
        found.append(Due(Work.COMPASS, compass))
    for work in (Work.SENSORS, Work.GIMBAL):
        knock = _last(row, Work.KNOCK)
        if knock > _last(row, work):
            found.append(Due(work, f"Not done since the impact on {day_of(row[knock].day)}."))
    if _last(row, Work.KNOCK) > max(_last(row, Work.PROPELLERS), _last(row, Work.PART)):
        found.append(
            Due(
                Work.PROPELLERS, "After an impact, check every blade for nicks; replace both blades on a damaged motor."
            )
        )
    for work, limit in ((Work.SCREWS, SCREWS_HOURS), (Work.PROPELLERS, PROPELLER_HOURS)):
        hours = hours_flown(row[_last(row, work) + 1 :])
        if hours >= limit and not any(d.work is work for d in found):
            found.append(Due(work, f"{hours:.0f} h since the last check; due every {limit:.0f} h."))
    seen = max(_last(row, Work.FIRMWARE), _last(row, Work.FIRMWARE_SEEN))
    if seen < 0:
        found.append(Due(Work.FIRMWARE_SEEN, "No entry says which firmware is on it."))
    elif today - row[seen].day > FIRMWARE_AGE:
        days = (today - row[seen].day).days
        found.append(Due(Work.FIRMWARE_SEEN, f"Looked at {days} days ago; do it at home, on a good connection."))
    return tuple(found)


def _last(row: Sequence[Entry], work: Work) -> int:
    """Place of the last entry of a kind; −1 without one."""
    return max((n for n, e in enumerate(row) if e.work is work), default=-1)


def _compass(row: Sequence[Entry], position: tuple[float, float] | None) -> str | None:
    """Why the compass is due; None when it is not."""
    last = _last(row, Work.COMPASS)
    if last < 0:
        return "No calibration recorded."
    for work, name in ((Work.KNOCK, "an impact"), (Work.FIRMWARE, "new firmware")):
        if _last(row, work) > last:
            return f"There was {name} on {day_of(row[_last(row, work)].day)}, after the last calibration."
    there = row[last].position
    if position is not None and there is not None:
        away = bearing_and_distance(*there, *position)[1]
        if away > FAR_M:
            return f"It was last calibrated {away / 1000:.0f} km from this place."
    return None

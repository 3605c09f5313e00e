"""Calendar files (iCalendar, RFC 5545) with alarms. Times go out in UTC, which every calendar puts on its own wall."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry: begin and end (aware), a name that stays the same when it is written again, and its alarms.

    alarms: how long before the begin each rings. sequence: how often it was changed; a calendar takes the higher.
    """

    uid: str
    begin: datetime
    end: datetime
    title: str
    about: str = ""
    place: str = ""
    alarms: tuple[timedelta, ...] = ()
    sequence: int = 0


def write_calendar(entries: Sequence[Entry], now: datetime) -> bytes:
    """The entries as a calendar file."""
    calendar = Calendar()
    calendar.add("prodid", "-//Zealous Lark//lark//EN")
    calendar.add("version", "2.0")
    for entry in entries:
        event = Event()
        event.add("uid", entry.uid)
        event.add("dtstamp", now.astimezone(UTC))
        event.add("dtstart", entry.begin.astimezone(UTC))
        event.add("dtend", entry.end.astimezone(UTC))
        event.add("summary", entry.title)
        event.add("sequence", entry.sequence)
        if entry.about:
            event.add("description", entry.about)
        if entry.place:
            event.add("location", entry.place)
        for before in entry.alarms:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", entry.title)
            alarm.add("trigger", -before)
            event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())

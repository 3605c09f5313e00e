"""Calendar files, read back by a reader that Lark does not use."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import vobject

from zealous_lark.formats.calendar import Entry, write_calendar

TALLINN = ZoneInfo("Europe/Tallinn")
NOW = datetime(2026, 10, 20, 12, tzinfo=UTC)


def read(*entries: Entry) -> list[vobject.base.Component]:
    calendar = vobject.readOne(write_calendar(entries, NOW).decode())
    found: list[vobject.base.Component] = calendar.contents["vevent"]
    return found


def test_times_keep_their_wall_across_the_end_of_summer_time() -> None:
    # Clocks in Tallinn go back an hour in the night to 25 October 2026.
    evening = datetime(2026, 10, 24, 19, 0, tzinfo=TALLINN)
    morning = datetime(2026, 10, 25, 7, 30, tzinfo=TALLINN)
    charge, leave = read(
        Entry("a@lark", evening, evening + timedelta(hours=1), "Start charging"),
        Entry("b@lark", morning, morning + timedelta(minutes=10), "Leave"),
    )
    assert charge.dtstart.value.astimezone(TALLINN).isoformat() == "2026-10-24T19:00:00+03:00"
    assert leave.dtstart.value.astimezone(TALLINN).isoformat() == "2026-10-25T07:30:00+02:00"
    assert (leave.dtstart.value - charge.dtstart.value) == timedelta(hours=13, minutes=30)


def test_text_place_name_and_alarms_come_through() -> None:
    begin = datetime(2026, 10, 24, 19, 0, tzinfo=TALLINN)
    title, about = "Batteries; on, charge\\now – “C”", "First line\nsecond, with; marks"
    (event,) = read(
        Entry("a@lark", begin, begin, title, about, "Sarvik bog", (timedelta(minutes=10), timedelta())),
    )
    assert event.uid.value == "a@lark"
    assert event.summary.value == title
    assert event.description.value == about
    assert event.location.value == "Sarvik bog"
    alarms = event.contents["valarm"]
    assert [a.trigger.value for a in alarms] == [timedelta(minutes=-10), timedelta()]
    assert {a.action.value for a in alarms} == {"DISPLAY"}


def test_long_lines_are_folded_to_75_octets() -> None:
    begin = datetime(2026, 10, 24, 19, 0, tzinfo=TALLINN)
    data = write_calendar([Entry("a@lark", begin, begin, "ä" * 90)], NOW)
    assert max(len(line) for line in data.split(b"\r\n")) <= 75
    assert vobject.readOne(data.decode()).vevent.summary.value == "ä" * 90

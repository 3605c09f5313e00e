"""When each drill was done, when it is due again, and how far the course for first flights has come."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.practice.drills import BY_KEY, DRILLS, Drill

COURSE: tuple[tuple[str, ...], ...] = (
    ("square", "battery_change"),
    ("circle", "find_it"),
    ("automatic_return",),
    ("nose_in",),
    ("manual_return",),
)
"""Drills of the five sessions of first flights, from the easiest; common practice."""


@dataclass(frozen=True, slots=True)
class Done:
    """A drill as it ended: in which session (None: known from the logbook), when (aware), and whether done well."""

    drill: str
    session: int | None
    at: datetime
    well: bool


@dataclass(frozen=True, slots=True)
class Standing:
    """How a drill stands. last: when it was done well last; due_at: when again, None before the first time."""

    drill: Drill
    tries: int
    last: datetime | None

    @property
    def due_at(self) -> datetime | None:
        return None if self.last is None else self.last + timedelta(days=self.drill.every_days)

    def due(self, now: datetime) -> bool:
        """Whether it wants doing: out of date, or never done and everyone's."""
        return self.drill.everyone if self.due_at is None else self.due_at <= now


def standings(done: Iterable[Done]) -> tuple[Standing, ...]:
    """How every drill stands."""
    every = list(done)
    found = []
    for drill in DRILLS:
        mine = [d for d in every if d.drill == drill.key]
        found.append(Standing(drill, len(mine), max((d.at for d in mine if d.well), default=None)))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Course:
    """How far the course is. step: which of its sessions is next, from 1; None when it is done. left: its drills."""

    step: int | None
    left: tuple[Drill, ...]

    @property
    def done(self) -> bool:
        return self.step is None


def course(done: Iterable[Done]) -> Course:
    """The course after what was done. Each of its sessions is one of the pilot's: two are never done in one."""
    at, left = 0, set(COURSE[0])
    finished_in: int | None = None
    for one in sorted(done, key=lambda d: d.at):
        if at == len(COURSE) or not one.well or one.session is None or one.session == finished_in:
            continue
        left.discard(one.drill)
        if not left:
            finished_in, at = one.session, at + 1
            left = set(COURSE[at]) if at < len(COURSE) else set()
    if at == len(COURSE):
        return Course(None, ())
    return Course(at + 1, tuple(BY_KEY[key] for key in COURSE[at] if key in left))


def wanted(standing: Sequence[Standing], at: Course, now: datetime, *, first_flights: bool) -> tuple[Drill, ...]:
    """Drills to do next: on first flights what the course has next, then what is due; each once."""
    course_first = at.left if first_flights else ()
    due = [s.drill for s in standing if s.due(now)]
    if first_flights and not at.done:
        # What the course has not come to yet can wait for it.
        later = {key for step in COURSE[(at.step or 1) - 1 :] for key in step}
        due = [d for d in due if d.key not in later]
    return (*course_first, *(d for d in due if d not in course_first))

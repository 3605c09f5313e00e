"""What goes over the wire of drills."""

from __future__ import annotations

from datetime import datetime

from zealous_lark.core.checks import Status
from zealous_lark.web.answers import AnswerOut
from zealous_lark.web.schemas.common import Out


class DrillStanding(Out):
    """A drill and how it stands. last: when it was done well last; due_at: when again, null before the first time."""

    key: str
    name: str
    why: str
    tries: int
    last: datetime | None
    due_at: datetime | None


class DrillCourse(Out):
    """The course for first flights. step: its next session, from 1 of steps; null when it is done."""

    step: int | None
    steps: int
    left: list[str]


class DrillsNow(Out):
    """How the drills stand. wanted: keys of what to do next, the course of first flights first."""

    drills: list[DrillStanding]
    course: DrillCourse
    wanted: list[str]
    first_flights: bool


class DrillPoint(Out):
    """One thing that a drill needs, and how it stands here and now."""

    name: str
    status: Status
    sentence: str


class DrillCard(Out):
    """A drill for the field. asks: what is said yes to before it starts. status: the worst of its points.

    may_start: whether it may, by what Lark knows. answer: what was said of it in this session.
    """

    key: str
    steps: list[str]
    well: str
    asks: list[str]
    minutes: float
    height_m: float | None
    out_m: float
    room_m: float
    wind_ms: float | None
    status: Status
    may_start: bool
    points: list[DrillPoint]
    answer: AnswerOut | None


class DrillsHere(Out):
    """A session's drills, for its plan as it stands."""

    cards: list[DrillCard]
    now: DrillsNow

"""Drills in the field: what was done, what is due, and what may start in a session as it stands."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from zealous_lark.core.practice.course import Course, Done, Standing, course, standings, wanted
from zealous_lark.core.practice.drills import DRILLS, Drill
from zealous_lark.core.practice.start import Start, start
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.services import answers, minimums, weather
from zealous_lark.services.answers import DRILL_LIST
from zealous_lark.store import Database, flights
from zealous_lark.store import answers as stored
from zealous_lark.store.answers import Answer, Word


@dataclass(frozen=True, slots=True)
class Drilled:
    """How every drill stands, how far the course is, and what to do next: wanted."""

    standings: tuple[Standing, ...]
    course: Course
    wanted: tuple[Drill, ...]
    first_flights: bool


@dataclass(frozen=True, slots=True)
class Here:
    """A session's drills: whether each may start, what was said of it in this session, and how all stand."""

    starts: tuple[tuple[Drill, Start], ...]
    said: dict[str, Answer]
    drilled: Drilled


def done(db: Database) -> list[Done]:
    """Every drill that was done, in any session; a manual return of the logbook counts as one."""
    with db.transaction() as s:
        found = [
            Done(item, session, answer.said_at, answer.word is Word.DONE)
            for session, item, answer in stored.of_all_sessions(s, DRILL_LIST)
            if answer.word is not Word.SKIP
        ]
        by_hand = flights.latest(s, manual_return=True)
    return found if by_hand is None else [*found, Done("manual_return", None, by_hand, True)]


def drilled(db: Database, now: datetime, *, first_flights: bool | None = None) -> Drilled:
    """How the drills stand. first_flights: of a session; None: as the minimums say."""
    is_first = minimums.current(db).first_flights if first_flights is None else first_flights
    every = done(db)
    stand, far = standings(every), course(every)
    return Drilled(stand, far, wanted(stand, far, now, first_flights=is_first), is_first)


def here(db: Database, session_id: int, plan: PlanDocument, now: datetime) -> Here:
    """A session's drills, with a plan as it stands. Raises NotHereError, NotAllowedError."""
    said = answers.said(db, session_id, DRILL_LIST)
    situation = situation_of(plan, weather.known(db, plan, now))
    outing = plan.outing is not None and plan.outing.first_flights
    first_flights = outing or minimums.current(db).first_flights
    starts = tuple((drill, start(situation, drill)) for drill in DRILLS)
    return Here(starts, said, drilled(db, now, first_flights=first_flights))

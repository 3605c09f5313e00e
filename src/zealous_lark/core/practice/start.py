"""Whether a drill may start here and now: flown as a flight of its own in the session's place, weather and kit."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.assumed import Assumed
from zealous_lark.core.checks import Status
from zealous_lark.core.checks.base import SEVERITY, said
from zealous_lark.core.practice.drills import Drill
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.units import Units
from zealous_lark.core.verdict import Judgement, counts_as, judge_assessed

UNDER_M = 5.0
"""What stands in the room must stay so far below the aircraft [m]; common practice."""
NEAR_LIMIT = 0.8
"""From this share of the drill's wind on, care."""
PEOPLE = "rules.people"
"""What is said of a drill however it stands."""


@dataclass(frozen=True, slots=True)
class Point:
    """One thing that a drill needs, how it stands, and the sentence that says so in a pilot's units."""

    name: str
    status: Status
    say: Callable[[Units], str]


@dataclass(frozen=True, slots=True)
class Start:
    """Whether a drill may start: the worst of its points; pass and care may. wind_ms: the wind it takes [m/s]."""

    points: tuple[Point, ...]
    wind_ms: float | None = None

    @property
    def status(self) -> Status:
        return max((p.status for p in self.points), key=SEVERITY.__getitem__, default=Status.PASS)

    @property
    def may(self) -> bool:
        return self.status in (Status.PASS, Status.CARE)


def as_flown(situation: Situation, drill: Drill) -> Situation:
    """The session's situation with the drill in place of its flight."""
    assert drill.height_m is not None
    flight = replace(
        situation.flight,
        distance_m=drill.out_m,
        height_m=drill.height_m,
        station_min=drill.minutes,
        outbound_mode=SpeedMode.NORMAL,
        return_mode=drill.home,
        moves=(),
        station_radius_m=min(situation.flight.station_radius_m, drill.room_m / 2),
    )
    return replace(situation, flight=flight)


def start(situation: Situation, drill: Drill) -> Start:
    """What a drill needs: ground, room and wind of its own, then every check of its flight, the worst first.

    Checks that pass are left out, but for people.
    """
    if drill.height_m is None:
        return Start((Point("Nothing flies", Status.PASS, lambda _: "It stays on the ground."),))
    a = Assessment(as_flown(situation, drill))
    limit = drill.wind_share * situation.aircraft.rated_wind_ms
    own = _ground(situation), _room(a, drill), _wind(a, drill.height_m, limit)
    return Start((*own, *_checks(judge_assessed(a))), limit)


def _ground(s: Situation) -> Point:
    if s.site.indoors:
        return Point("Ground", Status.FAIL, lambda _: "Drills are for the open: here is a roof.")
    if s.site.from_deck:
        kind = s.site.platform.kind
        return Point("Ground", Status.FAIL, lambda _: f"Not from a {kind}: the home point is left behind.")
    if s.over_water:
        return Point("Ground", Status.FAIL, lambda _: "Not over water: a mistake there loses the aircraft.")
    return Point("Ground", Status.PASS, lambda _: "Firm ground, in the open.")


def _room(a: Assessment, drill: Drill) -> Point:
    assert drill.height_m is not None
    lowest, room = drill.height_m - UNDER_M, drill.room_m
    here = (0.0, 0.0)
    high = [near for near in a.world.beside(here, here, room) if near.top_m > max(lowest, 0.0)]
    sure = [near for near in high if not near.loosely]
    if high:
        near, status, words = (sure[0], Status.FAIL, "In") if sure else (high[0], Status.UNKNOWN, "Perhaps in")
        return Point(
            "Room",
            status,
            lambda u: (
                f"{words} the {u.length(room)} all round that it takes: {near.solid.called}, "
                f"{u.length(near.top_m)} high, {u.length(near.distance_m)} from you. Move to where it is open."
            ),
        )
    return Point(
        "Room", Status.PASS, lambda u: f"Nothing known within {u.length(room)} reaches up to it. Check by eye."
    )


def _wind(a: Assessment, height: float, limit: float) -> Point:
    if a.wind is None or Assumed.WINDS in a.situation.assumed:
        return Point(
            "Wind at its height", Status.UNKNOWN, lambda _: "Nobody has said the wind. Measure it, or take a forecast."
        )
    blows = a.wind.at(height).speed_ms
    if blows > limit:
        return Point(
            "Wind at its height",
            Status.FAIL,
            lambda u: f"Wind {u.speed(blows)} at {u.length(height)}; this drill takes {u.speed(limit)} at most.",
        )
    if a.wind.sheltered:
        return Point(
            "Wind at its height", Status.UNKNOWN, lambda _: "The wind was read in shelter. Read it where it blows."
        )
    status = Status.CARE if blows > NEAR_LIMIT * limit else Status.PASS
    return Point(
        "Wind at its height", status, lambda u: f"Wind {u.speed(blows)} at {u.length(height)}, of {u.speed(limit)}."
    )


def _checks(judged: Judgement) -> list[Point]:
    """What the checks of the drill's flight say; of what nobody has said, the question alone and not all it touches."""
    found = []
    for j in judged.judged:
        finding = j.finding
        # That nobody has looked for people keeps no plan from its verdict before the day; a drill is now.
        status = finding.status if j.check.id == PEOPLE else counts_as(finding)
        if status is Status.PASS and j.check.id != PEOPLE:
            continue
        if status is Status.UNKNOWN and (finding.follows is not None or finding.asks == Assumed.WINDS):
            continue
        asks = finding.question if status is Status.UNKNOWN and finding.asks is not None else None
        found.append(Point(j.check.label, status, finding.sentence if asks is None else partial(said, asks)))
    return found

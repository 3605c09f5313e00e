"""When to fly: the whole check for each half hour of a forecast, and the windows cut out of it."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from zealous_lark.core.assessment import REACH_BEARINGS_DEG, Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.checks.sight import GLARE_ANGLE_DEG, GLARE_HEIGHT_DEG
from zealous_lark.core.light import Glow, Sun, angle_from_sun_deg, glow, sun
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import STRICTER, Judgement, Verdict, judge

STEP = timedelta(minutes=30)
MINUTE = timedelta(minutes=1)
TWO_DAYS = 96
"""Half hours in two days."""

# What these checks say does not hang on the bearing: while one of them makes the verdict, none makes a better one.
_ON_ANY_BEARING = (
    "wind.steady", "wind.gust", "wind.shear", "weather.", "sight.daylight", "sight.distance", "rules.height",
    "rules.mass", "battery.temperature", "battery.charge", "signal.satellites", "signal.home_point", "return.lost_link",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Told:
    """A verdict on one bearing [°]: what decides it, as its name, its label and its sentence; share of its limit.

    clear: whether nothing asks for care but what does so on every flight with this aircraft.
    """

    bearing_deg: float
    verdict: Verdict
    check: str
    label: str
    sentence: str
    used: float | None
    clear: bool

    @property
    def flies(self) -> bool:
        """Whether the numbers leave a launch open, with care or without."""
        return self.verdict in (Verdict.LAUNCH, Verdict.CARE)


@dataclass(frozen=True, slots=True)
class Slot:
    """One half hour: the verdict as planned, the best that another bearing gives, the light."""

    at: datetime
    planned: Told | None
    best: Told | None
    sun: Sun
    glow: Glow
    glare_towards: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Window:
    """A time in which the numbers leave a launch open at every half hour, and up to the minute at both ends.

    begin, end: first and last minute of it, or the edge of what was looked at. first: what the first one says.
    opens, closes: what keeps the aircraft down in the minute before and after; None at the edge of what was looked
    at, or of the forecast.
    clear: whether some of it is clear.
    """

    begin: datetime
    end: datetime
    first: Told
    opens: Told | None
    closes: Told | None
    clear: bool


@dataclass(frozen=True, slots=True)
class Subject:
    """A subject as seen from the take-off point: bearing and elevation of the line of sight [°]."""

    name: str
    bearing_deg: float
    elevation_deg: float = 0.0


def half_hours(begin: datetime, count: int = TWO_DAYS) -> list[datetime]:
    """Half hours from the last full one at or before a moment (aware)."""
    first = begin.replace(minute=begin.minute // 30 * 30, second=0, microsecond=0)
    return [first + n * STEP for n in range(count)]


def _told(judgement: Judgement, units: Units) -> Told:
    of_the_day = [j for j in judgement.judged if j.finding.matters and not j.finding.standing]
    tightest = judgement.tightest
    return Told(
        bearing_deg=judgement.assessment.situation.flight.bearing_deg,
        verdict=judgement.verdict,
        check=tightest.check.id,
        label=tightest.check.label,
        sentence=tightest.finding.sentence(units),
        used=tightest.finding.used,
        clear=all(j.finding.status is Status.PASS for j in of_the_day),
    )


def _other_bearings(assessment: Assessment) -> list[float]:
    """Bearings worth a try: into the wind and to both sides of it, and where the reach is longest, in tens."""
    wind, reach = assessment.wind_return, assessment.reach
    if wind is None or reach is None:
        return []
    upwind = round(wind.direction_deg / 10) * 10
    farthest = max(range(len(REACH_BEARINGS_DEG)), key=lambda i: reach.distance_m[i])
    tried = [upwind, upwind + 40, upwind - 40, round(REACH_BEARINGS_DEG[farthest] / 10) * 10]
    own = assessment.situation.flight.bearing_deg
    return [b for b in dict.fromkeys(float(t % 360) for t in tried) if angle_between_deg(b, own) > 5]


def _best(judgement: Judgement, units: Units) -> Told:
    """The best verdict on the planned or another bearing; the planned one where it is as good."""
    planned = _told(judgement, units)
    counting = [j for j in judgement.judged if j.finding.matters and not j.finding.standing]
    worst = counting[0].finding.status
    deciding = [j.check.id for j in counting if j.finding.status is worst]
    if planned.clear or any(d.startswith(_ON_ANY_BEARING) for d in deciding):
        return planned
    best = planned
    situation = judgement.assessment.situation
    for bearing in _other_bearings(judgement.assessment):
        flight = replace(situation.flight, bearing_deg=bearing)
        told = _told(judge(replace(situation, flight=flight)), units)
        if _worth(told) < _worth(best):
            best = told
        if best.clear:
            break
    # A little more room is not worth another flight than the planned one.
    return best if _worth(best)[:2] < _worth(planned)[:2] else planned


def _worth(told: Told) -> tuple[int, bool, float]:
    """The less the better."""
    return STRICTER[told.verdict], not told.clear, told.used or 0.0


def slots(
    situation: Situation, times: Iterable[datetime], subjects: Sequence[Subject] = (), clock: Clock | None = None
) -> tuple[Slot, ...]:
    """The whole check at each time (aware), in the weather of the situation's forecast.

    planned, best: None where the forecast says nothing about the time. Without a forecast the weather
    as planned holds at every time. clock: to look at with, and to look for the edges of windows with afterwards.
    """
    site, clock = situation.site, clock or Clock(situation)
    found = []
    for at in times:
        stands = sun(site.latitude, site.longitude, at)
        blinded = tuple(s.name for s in subjects if _glare(stands, s))
        said = clock(at)
        planned, best = (None, None) if said is None else (said.planned, said.best)
        found.append(Slot(at, planned, best, stands, glow(stands.elevation_deg), blinded))
    return tuple(found)


def _glare(stands: Sun, subject: Subject) -> bool:
    if not -0.833 < stands.elevation_deg < GLARE_HEIGHT_DEG:
        return False
    return angle_from_sun_deg(stands, subject.bearing_deg, subject.elevation_deg) < GLARE_ANGLE_DEG


@dataclass(frozen=True, slots=True)
class Both:
    """What one time says: as planned, and on the best bearing."""

    planned: Told
    best: Told


class Clock:
    """The whole check at any time of a situation, each once."""

    def __init__(self, situation: Situation, units: Units = METRIC) -> None:
        self._situation, self._units = situation, units
        self._found: dict[datetime, Both | None] = {}

    def __call__(self, at: datetime) -> Both | None:
        """At a time (aware); None where the forecast says nothing of it."""
        if at not in self._found:
            forecast = self._situation.forecast
            known = forecast is None or forecast.at(at) is not None
            judgement = judge(self._situation.moved_to(at)) if known else None
            self._found[at] = (
                None if judgement is None else Both(_told(judgement, self._units), _best(judgement, self._units))
            )
        return self._found[at]


def _edge(
    told: Callable[[datetime], Told | None], flies: datetime, not_flies: datetime
) -> tuple[datetime, Told | None]:
    """The last minute that flies, going from one time that does to one that does not, and what the next one says."""
    after = told(not_flies)
    while abs(not_flies - flies) > MINUTE:
        minutes = (not_flies - flies) / MINUTE
        middle = flies + MINUTE * math.trunc(minutes / 2)
        said = told(middle)
        if said is not None and said.flies:
            flies = middle
        else:
            not_flies, after = middle, said
    return flies, after


def windows(looked_at: Sequence[Slot], clock: Clock, *, best: bool = False) -> tuple[Window, ...]:
    """Windows on the planned bearing, or on the best one; slots in a row, one step apart.

    Their edges are looked for to the minute, with the whole check at each try: the half hours only say between which
    two of them an edge lies.
    """

    def told(at: datetime) -> Told | None:
        both = clock(at)
        return None if both is None else both.best if best else both.planned

    # The last half hour begins, and does not end, what was looked at.
    times = [s.at for s in looked_at] + [looked_at[-1].at + STEP] if looked_at else []
    said = [s.best if best else s.planned for s in looked_at] + [told(t) for t in times[len(looked_at) :]]
    flies = [t is not None and t.flies for t in said]
    found = []
    start = 0
    while start < len(times):
        if not flies[start]:
            start += 1
            continue
        end = start
        while end < len(times) and flies[end]:
            end += 1
        begin, opens = (times[0], None) if start == 0 else _edge(told, times[start], times[start - 1])
        last, closes = (times[-1], None) if end == len(times) else _edge(told, times[end - 1], times[end])
        first = told(begin)
        assert first is not None  # it flies
        clear = any(t.clear for t in said[start:end] if t is not None)
        found.append(Window(begin, last, first, opens, closes, clear))
        start = end
    return tuple(found)

"""Counting back from a take-off: when to be there, leave, pack the bag, put the packs on charge."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta
from enum import StrEnum

EVENING = time(19, 0)
"""When packs go on charge the evening before [local]; common practice."""
NIGHT = (time(22, 0), time(6, 30))
"""Charging that would have to begin in these hours is begun the evening before: nobody is up to watch it."""


class Moment(StrEnum):
    CHARGE = "charge"
    BAG = "bag"
    LEAVE = "leave"
    ARRIVE = "arrive"
    TAKE_OFF = "take_off"
    HOME = "home"


@dataclass(frozen=True, slots=True)
class Step:
    """A moment of the countdown: when it is done, and the last time for it (aware), and a sentence on why."""

    what: Moment
    at: datetime
    latest: datetime
    why: str


@dataclass(frozen=True, slots=True)
class Outline:
    """How long things take [min]: the way there, setting up on site, packing the bag, the whole time on site."""

    travel_min: float
    setup_min: float
    bag_min: float
    on_site_min: float


def countdown(takeoff_at: datetime, outline: Outline, charging_s: float) -> tuple[Step, ...]:
    """The steps up to a take-off (aware), by the clock of its time zone; charging_s: how long charging takes [s].

    Time passes as it does: where the clocks are changed on the way, the clock on the wall shows an hour more or less.
    """
    arrive = _later(takeoff_at, minutes=-outline.setup_min)
    leave = _later(arrive, minutes=-outline.travel_min)
    bag = _later(leave, minutes=-outline.bag_min)
    latest = _later(bag, seconds=-charging_s)
    steps = []
    if charging_s > 0:
        minutes = _span(charging_s / 60)
        at, why = latest, f"Charging takes {minutes} and must be done when you pack the bag."
        if _at_night(latest.timetz().replace(tzinfo=None)) or _at_night(bag.timetz().replace(tzinfo=None)):
            at = _evening_before(latest)
            why = f"Charging takes {minutes}. Start in the evening, while you're awake to watch it."
        steps.append(Step(Moment.CHARGE, at, latest, why))
    steps += [
        Step(Moment.BAG, bag, bag, f"{_span(outline.bag_min)} to pack by the list."),
        Step(Moment.LEAVE, leave, leave, f"{_span(outline.travel_min)} to get there."),
        Step(Moment.ARRIVE, arrive, arrive, f"{_span(outline.setup_min)} for the site survey and preflight."),
        Step(Moment.TAKE_OFF, takeoff_at, takeoff_at, f"{_span(outline.on_site_min)} until the last landing."),
    ]
    home = _later(takeoff_at, minutes=outline.on_site_min + outline.travel_min)
    steps.append(Step(Moment.HOME, home, home, "Dry the gear, back up footage, bring batteries to storage charge."))
    return tuple(steps)


def _later(moment: datetime, **passed: float) -> datetime:
    """A moment after some time has passed, in the same time zone."""
    return (moment.astimezone(UTC) + timedelta(**passed)).astimezone(moment.tzinfo)


def _at_night(clock: time) -> bool:
    begin, end = NIGHT
    return clock >= begin or clock < end


def _evening_before(latest: datetime) -> datetime:
    """The last evening hour, by the clock on the wall, that leaves all the time that is needed."""
    evening = latest.replace(hour=EVENING.hour, minute=EVENING.minute, second=0, microsecond=0)
    return evening if evening <= latest else evening - timedelta(days=1)


def _span(minutes: float) -> str:
    """A duration in words.

    >>> _span(95)
    '1 h 35 min'
    """
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest} min" if hours and rest else f"{hours} h" if hours else f"{rest} min"

"""Out and home over the ground: the way against the wind, and with it."""

from __future__ import annotations

import math

from zealous_lark.core.air import Wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    check,
    share_of_ceiling,
    share_of_floor,
    wind_not_known,
)
from zealous_lark.core.minimums import StrongWindRule
from zealous_lark.core.motion import angle_between_deg, ground_speed_ms, wind_components_ms
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.units import Units, angle, percent


def mode_name(mode: SpeedMode) -> str:
    """A flight mode in a sentence."""
    return "return to home" if mode is SpeedMode.RTH else f"{mode} mode"


@check(
    "wind.return",
    "Ground speed home",
    "m/s",
    "Wind triangle. Least ground speed: " + OWN_MINIMUM,
    indoors=False,
    bound=Bound.AT_LEAST,
    above=True,
)
def homeward(a: Assessment) -> Finding:
    """Ground speed home in the planned return mode against the least that the minimums allow."""
    s = a.situation
    limit = s.minimums.return_speed_ms
    if a.trip is None or a.flyer is None or a.wind_return is None:
        return wind_not_known(limit)
    wind, mode = a.wind_return, s.flight.return_mode
    airspeed = s.aircraft.airspeed_ms(mode)
    # By automatic return it goes to where the home point was set, by hand to where a deck will be.
    straight_back = (s.flight.bearing_deg + 180) % 360
    course = straight_back if mode is SpeedMode.RTH else a.flyer.course_home(a.trip)[0]
    home = a.trip.ground_speed_home_ms

    def work(u: Units) -> tuple[str, ...]:
        head, cross = (float(x) for x in wind_components_ms(wind.speed_ms, wind.direction_deg, course))
        along = "headwind" if head >= 0 else "tailwind"
        lines = (
            f"Course home {angle(course)}, wind {u.speed(wind.speed_ms)} from {angle(wind.direction_deg)} "
            f"at {u.length(wind.height_m)}",
            f"{along.capitalize()} {u.speed(abs(head))}, crosswind {u.speed(abs(cross))}, "
            f"airspeed in {mode_name(mode)} {u.speed(airspeed)}",
        )
        if math.isnan(home):
            return lines
        sign = "−" if head >= 0 else "+"
        return (*lines, f"Ground speed: √(airspeed² − crosswind²) {sign} {along} = {u.speed(home)}")

    if math.isnan(home):
        across = abs(float(wind_components_ms(wind.speed_ms, wind.direction_deg, course)[1]))
        return Finding(
            Status.FAIL,
            None,
            limit,
            share_of_floor(0, limit),
            lambda u: (
                f"The crosswind on the flight home, {u.speed(across)}, is as fast as the aircraft flies in "
                f"{mode_name(mode)}: it can't hold the course home."
            ),
            work,
        )
    used = share_of_floor(home, limit)
    status = Status.FAIL if home < limit else Status.CARE if home < 2 * limit else Status.PASS

    def say(u: Units) -> str:
        speed = u.speed(home)
        sentence = {
            Status.FAIL: f"Ground speed home only {speed}; your minimum is {u.speed(limit)}.",
            Status.CARE: f"Slow flight home: {speed} ground speed into the headwind.",
            Status.PASS: f"Ground speed home {speed}.",
        }[status]
        if home <= 0:
            sentence = f"It can't get home in {mode_name(mode)}: the wind would carry it away at {u.speed(-home)}."
        return sentence if status is Status.PASS else f"{sentence} {_if_caught(a, u)}"

    return Finding(status, home, limit, used, say, work)


@check(
    "wind.outbound",
    "Ground speed out",
    "m/s",
    "Wind triangle. Least ground speed: that of the flight home. " + OWN_MINIMUM,
    indoors=False,
    bound=Bound.AT_LEAST,
    above=True,
)
def outward(a: Assessment) -> Finding:
    """Ground speed out in the planned mode: none at all fails, under the least wanted is care."""
    s = a.situation
    limit = s.minimums.return_speed_ms
    if a.trip is None or a.wind_planned is None:
        return wind_not_known(limit)
    wind, mode, out = a.wind_planned, s.flight.outbound_mode, a.trip.ground_speed_out_ms

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Course out {angle(s.flight.bearing_deg)}, wind {u.speed(wind.speed_ms)} from "
            f"{angle(wind.direction_deg)} at {u.length(wind.height_m)}, airspeed in {mode_name(mode)} "
            f"{u.speed(s.aircraft.airspeed_ms(mode))}",
        )

    def say(u: Units) -> str:
        if not out > 0:
            return (
                f"The aircraft can't make headway outbound in {mode_name(mode)}: wind {u.speed(wind.speed_ms)} at "
                f"{u.length(wind.height_m)} holds it or carries it off."
            )
        if out < limit:
            return f"Ground speed out only {u.speed(out)}: the headwind uses up the charge."
        return f"Ground speed out {u.speed(out)}."

    if not out > 0:
        return Finding(Status.FAIL, None if math.isnan(out) else out, limit, share_of_floor(0, limit), say, work)
    return Finding(Status.CARE if out < limit else Status.PASS, out, limit, share_of_floor(out, limit), say, work)


def _if_caught(a: Assessment, u: Units) -> str:
    """What to do when the wind is strong and the aircraft far out: the best way home, by the pilot's own school."""
    s = a.situation
    if s.minimums.strong_wind is StrongWindRule.AUTOMATIC and not s.site.from_deck:
        wind = a.wind_return
        if wind is None:
            return ""
        airspeed, height = s.aircraft.rth_speed_ms, a.working_height_m
        speed = float(ground_speed_ms(airspeed, wind.speed_ms, wind.direction_deg, s.flight.bearing_deg + 180))
        if not speed > 0:
            return f"If caught out there, it can't get home by return to home at {u.length(height)}."
        return f"If caught out there, return to home makes {u.speed(speed)} ground speed at {u.length(height)}."
    ways = a.best_way_home
    if ways is None or ways.fastest is None:
        return "If caught out there, it can't get home at any clear height, in any mode: land while you can."
    way = ways.best or ways.fastest
    slow = "" if ways.best is not None else ", and that is slow"
    return (
        f"If caught out there, fly home in {mode_name(way.mode)} at {u.length(way.height_m)}: "
        f"{u.speed(way.ground_speed_ms)} ground speed{slow}, landing with {percent(way.landing_pct)}."
    )


@check(
    "wind.first_leg",
    "First leg",
    "°",
    "Common practice: fly out into the wind, so that it helps you home. No published source.",
    indoors=False,
    above=True,
)
def first_leg(a: Assessment) -> Finding:
    """Angle of the first leg off upwind; it matters once the wind is over a third of the airspeed out."""
    s = a.situation
    limit = 90.0
    if a.wind_planned is None:
        return wind_not_known(limit)
    wind, above = a.wind_planned, a.wind_return or a.wind_planned

    def share(w: Wind, airspeed: float) -> float:
        # Both must be exceeded before it matters, so the lesser share is what is used.
        away = angle_between_deg(w.direction_deg, s.flight.bearing_deg)
        return min(share_of_ceiling(away, limit), share_of_ceiling(w.speed_ms, airspeed / 3))

    off = angle_between_deg(wind.direction_deg, s.flight.bearing_deg)
    third = s.aircraft.airspeed_ms(s.flight.outbound_mode) / 3
    here, there = share(wind, 3 * third), share(above, 3 * third)
    used = max(here, there)
    status = Status.CARE if used > 1 else Status.PASS

    def say(u: Units) -> str:
        blows = u.speed(wind.speed_ms)
        if here > 1:
            return (
                f"You'd fly out with a {blows} tailwind and home against it. "
                f"Fly out towards {angle(wind.direction_deg)} instead."
            )
        if there > 1:
            return f"At the return height of {u.length(above.height_m)} the headwind home is {u.speed(above.speed_ms)}."
        if off > limit:
            return f"The first leg goes with the wind, but {blows} is under a third of your airspeed."
        turns = angle_between_deg(above.direction_deg, s.flight.bearing_deg) > 60
        way, helps = "into" if off <= 60 else "across", "; the wind helps you home" if off <= 60 and not turns else ""
        return f"The first leg goes {way} the wind, {off:.0f}° off upwind{helps}."

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Bearing out {angle(s.flight.bearing_deg)}, wind from {angle(wind.direction_deg)}: {off:.0f}° off upwind",
            f"Wind at {u.length(wind.height_m)} {u.speed(wind.speed_ms)}; a third of the airspeed out is "
            f"{u.speed(third)}",
        )

    return Finding(status, off, limit, used, say, work)

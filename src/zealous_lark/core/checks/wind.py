"""Wind against the aircraft."""

from __future__ import annotations

import math

from zealous_lark.core.air import ROUGHNESS_M, SiteWind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    check,
    over_water,
    share_of_ceiling,
    share_of_floor,
    wind_not_known,
)
from zealous_lark.core.minimums import LandingRule, StrongWindRule
from zealous_lark.core.motion import angle_between_deg, ground_speed_ms, wind_components_ms
from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.units import Units, angle, percent

_PROFILE_SOURCE = (
    "Log profile with Davenport-Wieringa roughness (WMO Guide no. 8) and a 60 m blending height "
    "(Wieringa 1986), both from memory. "
)


def mode_name(mode: SpeedMode) -> str:
    """A flight mode in a sentence."""
    return "automatic return" if mode is SpeedMode.RTH else f"{mode} mode"


_SOURCE_WORDS = {WindSource.FORECAST: "Forecast for open ground", WindSource.MEASURED: "Measured here"}


def _profile_working(a: Assessment, u: Units, wind: SiteWind) -> tuple[str, ...]:
    site, height = a.situation.site, a.working_height_m
    lines = [
        f"{_SOURCE_WORDS[level.source]}: "
        f"{u.speed(level.speed_ms)} from {angle(level.direction_deg)} at {u.length(level.height_m)}"
        + (f", gusts {u.speed(level.gust_ms)}" if level.gust_ms is not None else ", no gust given")
        for profile in wind.profiles
        for level in profile.levels
    ]
    ground = (
        f"Ground {site.surroundings.replace('_', ' ')} (roughness length {ROUGHNESS_M[site.surroundings]:g} m), "
        f"at {u.length(height)}: "
    )
    means = {p.source: u.speed(float(p.speed_ms(height))) for p in wind.profiles}
    if len(means) == 1:
        lines.append(f"{ground}mean {next(iter(means.values()))}")
    else:
        said = ", ".join(f"{source} {speed}" for source, speed in means.items())
        lines.append(f"{ground}{said}; the stronger counts, here the {wind.deciding(height).source} one")
    return tuple(lines)


@check(
    "wind.steady",
    "Steady wind",
    "m/s",
    _PROFILE_SOURCE + "Share of the rated wind: " + OWN_MINIMUM,
    indoors=False,
)
def steady(a: Assessment, u: Units) -> Finding:
    """Mean wind at the higher of planned and return height against the share of the rated wind in use."""
    s = a.situation
    rated = s.aircraft.max_wind_ms
    limit = s.minimums.wind_fraction * rated
    if a.wind is None or a.wind_return is None:
        return wind_not_known(limit, follows=None)
    wind = a.wind_return
    used = share_of_ceiling(wind.speed_ms, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS
    where = f"{u.speed(wind.speed_ms)} of wind at {u.length(wind.height_m)}"
    sentence = {
        Status.FAIL: f"{where} is more than the {u.speed(limit)} you allow yourself.",
        Status.CARE: f"{where} is close to the {u.speed(limit)} you allow yourself.",
        Status.PASS: f"{where}, and you allow yourself {u.speed(limit)}.",
    }[status]
    working = (
        *_profile_working(a, u, a.wind),
        f"Limit: {percent(100 * s.minimums.wind_fraction)} of the rated {u.speed(rated)} = {u.speed(limit)}",
    )
    return Finding(status, wind.speed_ms, limit, used, sentence, working)


@check(
    "wind.gust",
    "Gusts",
    "m/s",
    _PROFILE_SOURCE + "Gust excess constant with height; without a reported gust Durst 1960 as in ASCE 7, from memory. "
    "Limit: the aircraft's own rating.",
    indoors=False,
)
def gust(a: Assessment, u: Units) -> Finding:
    """Gust at the higher of planned and return height against the rated wind."""
    limit = a.situation.aircraft.max_wind_ms
    if a.wind is None or a.wind_return is None:
        return wind_not_known(limit)
    wind = a.wind_return
    used = share_of_ceiling(wind.gust_ms, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS
    where = f"Gusts of {u.speed(wind.gust_ms)} at {u.length(wind.height_m)}"
    sentence = {
        Status.FAIL: f"{where} are past the aircraft's rated {u.speed(limit)}.",
        Status.CARE: f"{where} come close to the aircraft's rated {u.speed(limit)}. Expect it to lean and drift.",
        Status.PASS: f"{where}; the aircraft is rated to {u.speed(limit)}.",
    }[status]
    working = (
        *_profile_working(a, u, a.wind),
        f"Gust: {u.speed(wind.speed_ms)} + {u.speed(wind.gust_ms - wind.speed_ms)} = {u.speed(wind.gust_ms)}",
    )
    return Finding(status, wind.gust_ms, limit, used, sentence, working)


@check(
    "wind.return",
    "Ground speed home",
    "m/s",
    "Wind triangle. Least ground speed: " + OWN_MINIMUM,
    indoors=False,
    bound=Bound.AT_LEAST,
)
def homeward(a: Assessment, u: Units) -> Finding:
    """Ground speed home in the planned return mode against the least that the minimums allow."""
    s = a.situation
    limit = s.minimums.return_speed_ms
    if a.trip is None or a.wind_return is None:
        return wind_not_known(limit)
    wind, mode = a.wind_return, s.flight.return_mode
    airspeed = s.aircraft.airspeed_ms(mode)
    course = (s.flight.bearing_deg + 180) % 360
    head, cross = (float(x) for x in wind_components_ms(wind.speed_ms, wind.direction_deg, course))
    along = "headwind" if head >= 0 else "tailwind"
    working: tuple[str, ...] = (
        f"Course home {angle(course)}, wind {u.speed(wind.speed_ms)} from {angle(wind.direction_deg)} "
        f"at {u.length(wind.height_m)}",
        f"{along.capitalize()} {u.speed(abs(head))}, crosswind {u.speed(abs(cross))}, "
        f"airspeed in {mode_name(mode)} {u.speed(airspeed)}",
    )
    home = a.trip.ground_speed_home_ms
    if math.isnan(home):
        sentence = (
            f"The crosswind on the way home, {u.speed(abs(cross))}, is as fast as the aircraft flies in "
            f"{mode_name(mode)}: it cannot hold the way home."
        )
        return Finding(Status.FAIL, None, limit, share_of_floor(0, limit), sentence, working)
    working = (
        *working,
        f"Ground speed: √(airspeed² − crosswind²) {'−' if head >= 0 else '+'} {along} = {u.speed(home)}",
    )
    used = share_of_floor(home, limit)
    status = Status.FAIL if home < limit else Status.CARE if home < 2 * limit else Status.PASS
    if home <= 0:
        sentence = f"It cannot come home in {mode_name(mode)}: the wind carries it away at {u.speed(-home)}."
    else:
        sentence = {
            Status.FAIL: f"It comes home at only {u.speed(home)} over the ground; you want {u.speed(limit)} or more.",
            Status.CARE: f"It comes home slowly, {u.speed(home)} over the ground against the wind.",
            Status.PASS: f"It comes home at {u.speed(home)} over the ground.",
        }[status]
    if status is not Status.PASS:
        sentence += " " + _if_caught(a, u)
    return Finding(status, home, limit, used, sentence, working)


_LOW_M = 10.0
HAND_LANDING_GUST_MS = 6.0
"""Gust from which nobody should take the aircraft out of the air by hand [m/s]; common practice."""


def _if_caught(a: Assessment, u: Units) -> str:
    """What the pilot's own school does when the wind is strong and the aircraft far out, in numbers."""
    s = a.situation
    if s.minimums.strong_wind is StrongWindRule.AUTOMATIC:
        airspeed, height, way = s.aircraft.rth_speed_ms, a.working_height_m, "by automatic return"
    else:
        airspeed, height, way = s.aircraft.fastest_ms, _LOW_M, "low, by hand in fast mode"
    wind = a.wind.at(height) if a.wind else None
    if wind is None:
        return ""
    speed = float(ground_speed_ms(airspeed, wind.speed_ms, wind.direction_deg, s.flight.bearing_deg + 180))
    if not speed > 0:
        return f"Caught out there, it makes no way home {way} at {u.length(height)}."
    return f"Caught out there, come home {way}: {u.speed(speed)} over the ground at {u.length(height)}."


def _landed_by_hand(situation: Situation) -> bool:
    return situation.minimums.landing is LandingRule.HAND


@check(
    "wind.hand_landing",
    "Landing in the hand",
    "m/s",
    "Never in gusts over 6 m/s: common practice, no published source.",
    indoors=False,
    only=_landed_by_hand,
)
def hand_landing(a: Assessment, u: Units) -> Finding:
    """Gust at the pilot's hands against the most in which a landing in the hand is done."""
    limit = HAND_LANDING_GUST_MS
    if a.wind is None:
        return wind_not_known(limit)
    gust = a.wind.at(2.0).gust_ms
    used = share_of_ceiling(gust, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS
    where = f"Gusts of {u.speed(gust)} at your hands"
    sentence = {
        Status.FAIL: f"{where}: land on the pad. In the hand, {u.speed(limit)} is the most.",
        Status.CARE: f"{where} are close to the {u.speed(limit)} in which you still take it by hand.",
        Status.PASS: f"{where}; by hand up to {u.speed(limit)}.",
    }[status]
    return Finding(status, gust, limit, used, sentence, (f"Gust at {u.length(2)}: {u.speed(gust)}",))


@check(
    "wind.first_leg",
    "Into the wind first",
    "°",
    "Common practice: fly out into the wind, so that it helps you home. No published source.",
    indoors=False,
)
def first_leg(a: Assessment, u: Units) -> Finding:
    """Angle of the first leg off upwind; it matters once the wind is over a third of the airspeed out."""
    s = a.situation
    limit = 90.0
    if a.wind_planned is None:
        return wind_not_known(limit)
    wind = a.wind_planned
    off = float(angle_between_deg(wind.direction_deg, s.flight.bearing_deg))
    third = s.aircraft.airspeed_ms(s.flight.outbound_mode) / 3
    # Both must be exceeded before it matters, so the lesser share is what is used.
    used = min(share_of_ceiling(off, limit), share_of_ceiling(wind.speed_ms, third))
    status = Status.CARE if used > 1 else Status.PASS
    if status is Status.CARE:
        sentence = (
            f"You fly out with {u.speed(wind.speed_ms)} of wind behind you and come home against it. "
            f"Start towards {angle(wind.direction_deg)} instead."
        )
    elif off <= limit:
        way = "into" if off <= 60 else "across"
        helps = "; the wind helps you home" if off <= 60 else ""
        sentence = f"The first leg goes {way} the wind, {off:.0f}° off upwind{helps}."
    else:
        sentence = f"The first leg goes with the wind, but {u.speed(wind.speed_ms)} is under a third of your airspeed."
    working = (
        f"Bearing out {angle(s.flight.bearing_deg)}, wind from {angle(wind.direction_deg)}: {off:.0f}° off upwind",
        f"Wind at {u.length(wind.height_m)} {u.speed(wind.speed_ms)}; a third of the airspeed out is {u.speed(third)}",
    )
    return Finding(status, off, limit, used, sentence, working)


@check(
    "wind.shear",
    "Turn with height",
    "°",
    "Direction can differ by 90° or be opposite aloft: common practice, no published source.",
    indoors=False,
)
def shear(a: Assessment, u: Units) -> Finding:
    """Turn of the wind between the lowest level and the planned height."""
    limit = 45.0
    if a.wind is None or a.wind_planned is None:
        return wind_not_known(limit)
    lowest, planned = a.wind.lowest, a.wind_planned
    turn = float(angle_between_deg(lowest.direction_deg, planned.direction_deg))
    used = share_of_ceiling(turn, limit)
    status = Status.CARE if turn > limit else Status.PASS
    heights = f"between {u.length(lowest.height_m)} and {u.length(planned.height_m)}"
    if status is Status.CARE:
        sentence = f"The wind turns by {turn:.0f}° {heights}: what you feel is not what it meets."
    elif sum(len(p.levels) for p in a.wind.profiles) == 1:
        sentence = "With one reading no turn of the wind with height can be seen."
    else:
        sentence = f"The wind turns by {turn:.0f}° {heights}."
    working = (
        f"From {angle(lowest.direction_deg)} at {u.length(lowest.height_m)}, "
        f"from {angle(planned.direction_deg)} at {u.length(planned.height_m)}",
    )
    return Finding(status, turn, limit, used, sentence, working)


OFFSHORE_DEG = 60.0
OFFSHORE_CARE_MS = 2.0
OFFSHORE_SHARE = 0.6


@check(
    "wind.offshore",
    "Offshore wind",
    "m/s",
    "With an offshore wind, think twice: common practice. Share of the rated wind: " + OWN_MINIMUM,
    indoors=False,
    only=over_water,
)
def offshore(a: Assessment, u: Units) -> Finding:
    """Over water, wind that blows out along the bearing against a part of the wind in use."""
    s = a.situation
    limit = s.minimums.wind_fraction * s.aircraft.max_wind_ms * OFFSHORE_SHARE
    if a.wind_return is None:
        return wind_not_known(limit)
    wind = a.wind_return
    outwards = float(angle_between_deg(wind.direction_deg + 180, s.flight.bearing_deg)) <= OFFSHORE_DEG
    working = (
        f"Wind from {angle(wind.direction_deg)} blows towards {angle(wind.direction_deg + 180)}; "
        f"the flight goes out towards {angle(s.flight.bearing_deg)}",
        f"Limit: 0.6 of the steady wind you allow yourself = {u.speed(limit)}, care over {u.speed(OFFSHORE_CARE_MS)}",
    )
    if not outwards:
        return Finding(Status.PASS, 0.0, limit, 0.0, "The wind does not blow out along your way.", working,
                       shown="not offshore")  # fmt: skip
    used = share_of_ceiling(wind.speed_ms, limit)
    status = Status.FAIL if used > 1 else Status.CARE if wind.speed_ms > OFFSHORE_CARE_MS else Status.PASS
    sentence = {
        Status.FAIL: f"{u.speed(wind.speed_ms)} of wind carries it out over the water: too much to come home against.",
        Status.CARE: f"{u.speed(wind.speed_ms)} of wind carries it out over the water.",
        Status.PASS: f"Only {u.speed(wind.speed_ms)} of wind blows out over the water.",
    }[status]
    return Finding(status, wind.speed_ms, limit, used, sentence, working)

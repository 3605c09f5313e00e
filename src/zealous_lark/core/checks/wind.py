"""Wind against the aircraft."""

from __future__ import annotations

import math

from zealous_lark.core.air import ROUGHNESS_M, Wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Finding,
    Status,
    check,
    over_water,
    share_of_ceiling,
    wind_not_known,
)
from zealous_lark.core.minimums import LandingRule
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.readings import WindSource
from zealous_lark.core.site_wind import SiteWind
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import Units, angle, percent

_PROFILE_SOURCE = (
    "Log profile with Davenport-Wieringa roughness (WMO Guide no. 8) and a 60 m blending height "
    "(Wieringa 1986), both from memory. "
)


_SOURCE_WORDS = {
    WindSource.FORECAST: "Forecast for open ground",
    WindSource.MEASURED: "Measured here",
    WindSource.HOVER: "Read in the hover",
}


def _profile_working(a: Assessment, u: Units, wind: SiteWind, height: float) -> tuple[str, ...]:
    site = a.situation.site
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
    if wind.hover is not None:
        h = wind.hover
        lines.append(
            f"Read in the hover at {u.length(h.height_m)}: {h.ratio:.2f} of the forecast there; it counts "
            f"{percent(100 * h.weight)}, the stronger of both for the rest"
        )
        return (*lines, f"{ground}mean {u.speed(float(wind.speed_ms(height)))}")
    means = {p.source: u.speed(float(p.speed_ms(height))) for p in wind.profiles}
    if len(means) == 1:
        lines.append(f"{ground}mean {next(iter(means.values()))}")
    else:
        said = ", ".join(f"{source} {speed}" for source, speed in means.items())
        lines.append(f"{ground}{said}; the stronger counts, here the {wind.deciding(height).source} one")
    return tuple(lines)


@check(
    "wind.steady",
    "Wind",
    "m/s",
    _PROFILE_SOURCE + "Share of the rated wind: " + OWN_MINIMUM,
    indoors=False,
    above=True,
)
def steady(a: Assessment) -> Finding:
    """Strongest steady wind at any height flown against the share of the rated wind in use."""
    s = a.situation
    rated = s.aircraft.rated_wind_ms
    limit = s.minimums.wind_fraction * rated
    wind, blows = a.strongest_wind, a.wind
    if blows is None or wind is None:
        return wind_not_known(limit, follows=None)
    used = share_of_ceiling(wind.speed_ms, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS

    def say(u: Units) -> str:
        where, most = f"Wind {u.speed(wind.speed_ms)} at {u.length(wind.height_m)}", u.speed(limit)
        return {
            Status.FAIL: f"{where}: above your {most} limit.",
            Status.CARE: f"{where}: close to your {most} limit.",
            Status.PASS: f"{where}; your limit is {most}.",
        }[status]

    def work(u: Units) -> tuple[str, ...]:
        return (
            *_profile_working(a, u, blows, wind.height_m),
            f"Limit: {percent(100 * s.minimums.wind_fraction)} of the rated {u.speed(rated)} = {u.speed(limit)}",
            *_attached(a),
        )

    return Finding(status, wind.speed_ms, limit, used, say, work)


def _attached(a: Assessment) -> tuple[str, ...]:
    """What guards or floats do to the rated wind, in words; nothing without them."""
    count, aircraft = a.situation.aircraft.bulky_count, a.situation.aircraft
    if not count:
        return ()
    return (
        f"Guards or floats: rated wind and fast mode × {aircraft.bulky_speed**count:.2f}, power × "
        f"{aircraft.bulky_power**count:.2f}; assumed, no published number",
    )


@check(
    "wind.gust",
    "Gusts",
    "m/s",
    _PROFILE_SOURCE + "Gust excess constant with height; without a reported gust Durst 1960 as in ASCE 7, from memory. "
    "Limit: the aircraft's own rating.",
    indoors=False,
    above=True,
)
def gust(a: Assessment) -> Finding:
    """Strongest gust at any height flown against the rated wind."""
    limit = a.situation.aircraft.rated_wind_ms
    wind, blows = a.strongest_gust, a.wind
    if blows is None or wind is None:
        return wind_not_known(limit)
    used = share_of_ceiling(wind.gust_ms, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS

    def say(u: Units) -> str:
        where, most = f"Gusts of {u.speed(wind.gust_ms)} at {u.length(wind.height_m)}", u.speed(limit)
        return {
            Status.FAIL: f"{where}: above the aircraft's {most} wind rating.",
            Status.CARE: f"{where}, close to the aircraft's {most} wind rating. Expect it to tilt and drift.",
            Status.PASS: f"{where}; the aircraft is rated to {most}.",
        }[status]

    def work(u: Units) -> tuple[str, ...]:
        return (
            *_profile_working(a, u, blows, wind.height_m),
            f"Gust: {u.speed(wind.speed_ms)} + {u.speed(wind.gust_ms - wind.speed_ms)} = {u.speed(wind.gust_ms)}",
            *_attached(a),
        )

    return Finding(status, wind.gust_ms, limit, used, say, work)


HAND_LANDING_GUST_MS = 6.0
"""Gust from which nobody should take the aircraft out of the air by hand [m/s]; common practice."""


def _landed_by_hand(situation: Situation) -> bool:
    return situation.minimums.landing is LandingRule.HAND


@check(
    "wind.hand_landing",
    "Hand landing",
    "m/s",
    "Never in gusts over 6 m/s: common practice, no published source.",
    indoors=False,
    only=_landed_by_hand,
)
def hand_landing(a: Assessment) -> Finding:
    """Gust at the pilot's hands against the most in which a landing in the hand is done."""
    limit = HAND_LANDING_GUST_MS
    if a.wind is None:
        return wind_not_known(limit)
    gust = a.wind.at(2.0).gust_ms
    used = share_of_ceiling(gust, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS

    def say(u: Units) -> str:
        where, most = f"Gusts of {u.speed(gust)} at your hands", u.speed(limit)
        return {
            Status.FAIL: f"{where}: land on the pad. The limit for a hand landing is {most}.",
            Status.CARE: f"{where}: close to the {most} limit for a hand landing.",
            Status.PASS: f"{where}; hand landings up to {most}.",
        }[status]

    return Finding(status, gust, limit, used, say, lambda u: (f"Gust at {u.length(2)}: {u.speed(gust)}",))


@check(
    "wind.shear",
    "Wind shear",
    "°",
    "Direction can differ by 90° or be opposite aloft: common practice, no published source.",
    indoors=False,
    above=True,
)
def shear(a: Assessment) -> Finding:
    """Turn of the wind from the lowest level to the highest height flown, and to the next level above it."""
    s, limit = a.situation, 45.0
    if a.wind is None or a.wind_return is None:
        return wind_not_known(limit)
    top, lowest = a.wind_return, a.wind.lowest
    flown = [w for w in a.winds_flown if w.height_m >= lowest.height_m] or [top]
    next_up = next((x.height_m for x in a.wind.levels if x.height_m > top.height_m), None)

    def turn_of(w: Wind) -> float:
        return angle_between_deg(lowest.direction_deg, w.direction_deg)

    upper = max(flown, key=turn_of)
    turn = turn_of(upper)
    above = None if next_up is None else a.wind.at(next_up)
    third = s.aircraft.airspeed_ms(s.flight.return_mode) / 3
    reverses = [
        w
        for w in flown
        if turn_of(w) > REVERSED_DEG
        and w.speed_ms > third
        and angle_between_deg(w.direction_deg, s.flight.bearing_deg + 180) < 90
    ]
    shown = above if above is not None and turn_of(above) > turn else upper
    turn = turn_of(shown)
    used = share_of_ceiling(turn, limit)
    one_reading = len(a.wind.levels) == 1

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"From {angle(lowest.direction_deg)} at {u.length(lowest.height_m)}, "
            f"from {angle(shown.direction_deg)} at {u.length(shown.height_m)}",
        )

    def say(u: Units) -> str:
        heights = f"between {u.length(lowest.height_m)} and {u.length(shown.height_m)}"
        if reverses:
            against = f"at {u.length(reverses[-1].height_m)} it is {u.speed(reverses[-1].speed_ms)}"
            return f"The wind turns round {heights}: {against} against the flight home."
        if turn > limit:
            return f"The wind shifts {turn:.0f}° {heights}: what you feel isn't what the aircraft gets."
        if one_reading:
            return "Wind shear can't be checked with only one reading."
        return f"The wind shifts {turn:.0f}° {heights}."

    status = Status.FAIL if reverses else Status.CARE if turn > limit else Status.PASS
    return Finding(status, turn, limit, used, say, work)


REVERSED_DEG = 120.0
OFFSHORE_CARE_MS = 2.0
OFFSHORE_SHARE = 0.6


@check(
    "wind.offshore",
    "Offshore wind",
    "m/s",
    "With an offshore wind, think twice: common practice. Share of the rated wind: " + OWN_MINIMUM,
    indoors=False,
    only=over_water,
    above=True,
)
def offshore(a: Assessment) -> Finding:
    """Over water, wind that blows out along the bearing against a part of the wind in use."""
    s = a.situation
    limit = s.minimums.wind_fraction * s.aircraft.rated_wind_ms * OFFSHORE_SHARE
    if a.wind_return is None:
        return wind_not_known(limit)
    wind = a.wind_return
    outwards = s.flight.bearing_deg
    if s.land is not None:
        shore = s.land.towards_water_deg
        outwards = outwards if shore is None else shore
    off = angle_between_deg(wind.direction_deg + 180, outwards)
    value = max(wind.speed_ms * math.cos(math.radians(off)), 0.0)

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Wind {u.speed(wind.speed_ms)} from {angle(wind.direction_deg)}, {off:.0f}° off the flight out over the "
            f"water ({angle(outwards)}): {u.speed(value)} of it blows out",
            f"Limit: 0.6 of your wind limit = {u.speed(limit)}, care over {u.speed(OFFSHORE_CARE_MS)}",
        )

    used = share_of_ceiling(value, limit)
    if value <= 0:
        return Finding(Status.PASS, 0.0, limit, 0.0, "The wind does not blow out over the water.", work,
                       shown="not offshore")  # fmt: skip
    status = Status.FAIL if used > 1 else Status.CARE if value > OFFSHORE_CARE_MS else Status.PASS

    def say(u: Units) -> str:
        blows = f"{u.speed(value)} of wind blows out over the water"
        return {
            Status.FAIL: f"{blows}, above your {u.speed(limit)} limit: every fault ends out there.",
            Status.CARE: f"{blows}: a fault ends out there.",
            Status.PASS: f"Only {blows}.",
        }[status]

    return Finding(status, value, limit, used, say, work)

"""Line of sight."""

from __future__ import annotations

import math

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    MOST_USED,
    Bound,
    Finding,
    Status,
    check,
    share_of_ceiling,
    share_of_floor,
)
from zealous_lark.core.light import CIVIL_TWILIGHT_DEG, SUNRISE_DEG, angle_from_sun_deg
from zealous_lark.core.minimums import SightRule
from zealous_lark.core.radio import HAND_HEIGHT_M
from zealous_lark.core.sight import SightLimit
from zealous_lark.core.units import Units

_SIGHT_RULE = {
    SightRule.ATTITUDE: "attitude read by yourself",
    SightRule.OWN: "your own tested distance",
    SightRule.OBSERVER: "an observer who makes it out",
}
_CAN = {
    SightLimit.ATTITUDE: "tell which way it is pointing",
    SightLimit.OWN: "see it well, as you tested yourself",
    SightLimit.VISIBILITY: "make it out in this visibility",
}


@check(
    "sight.distance",
    "Sight",
    "m",
    "European guidance on line-of-sight distances for multirotors, from memory.",
)
def distance(a: Assessment) -> Finding:
    """Slant distance against how far the aircraft's attitude can be read."""
    s, sight = a.situation, a.sight
    value, limit = a.slant_m, sight.limit_m
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 2 else Status.CARE if used > 1 else Status.PASS

    def say(u: Units) -> str:
        can, at, most = _CAN[sight.limited_by], f"At {u.length(value)}", u.length(limit)
        return {
            Status.FAIL: f"{at} it is more than twice as far as you can {can} ({most}).",
            Status.CARE: f"{at} you can't {can}; the limit is {most}.",
            Status.PASS: f"{at} you can {can}, up to {most}.",
        }[status]

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Attitude: 327 × {s.aircraft.size_m:g} m + 20 m = {u.length(sight.attitude_m)}",
            f"Detection: 0.3 × visibility {u.length(s.weather.visibility_m)} (at most {u.length(5000)} of it) = "
            f"{u.length(sight.detection_m)}",
            f"You go by: {_SIGHT_RULE[s.minimums.sight_rule]}",
            f"From hand to aircraft: {u.length(a.farthest_m)} out and {u.length(s.flight.height_m)} up, "
            f"{u.length(value)} along the slant",
        )

    return Finding(status, value, limit, used, say, work)


_HIGH_SUN_DEG = 10.0
GLARE_HEIGHT_DEG, GLARE_ANGLE_DEG = 25.0, 30.0


@check(
    "sight.daylight",
    "Daylight",
    "°",
    "Sun by astral; civil twilight ends with the sun 6° under the horizon.",
    bound=Bound.AT_LEAST,
    indoors=False,
)
def daylight(a: Assessment) -> Finding:
    """The sun's height from take-off to landing against civil twilight."""
    s = a.situation
    begin, end = s.takeoff_at, a.landing_at
    first, last = a.suns
    lowest = min(first.elevation_deg, last.elevation_deg)
    used = min(max((_HIGH_SUN_DEG - lowest) / (_HIGH_SUN_DEG - CIVIL_TWILIGHT_DEG), 0.0), MOST_USED)
    dark = lowest < CIVIL_TWILIGHT_DEG
    night = s.flight.night_permitted and s.aircraft.has_light
    status = Status.FAIL if dark and not night else Status.CARE if lowest < SUNRISE_DEG else Status.PASS

    def say(_: Units) -> str:
        span, light = f"{begin:%H:%M} to {end:%H:%M}", a.light
        up = (
            f"sun up {light.sunrise:%H:%M} to {light.sunset:%H:%M}"
            if light.sunrise and light.sunset
            else "no sunrise or sunset that day"
        )
        if dark and night:
            return f"{span} is at night ({up}), with your permission and a light attached. Distances deceive."
        if dark:
            return f"{span} runs into darkness ({up}). At night only with permission and a light."
        if status is Status.CARE:
            return f"{span} runs into twilight ({up}): it's hard to tell which way the aircraft is pointing."
        return f"{span} is in daylight ({up})."

    def work(_: Units) -> tuple[str, ...]:
        return (
            f"Sun's height at take-off {first.elevation_deg:.1f}°, on landing {last.elevation_deg:.1f}°",
            f"On the horizon at {SUNRISE_DEG:g}°, civil twilight to {CIVIL_TWILIGHT_DEG:g}°",
        )

    return Finding(status, lowest, CIVIL_TWILIGHT_DEG, used, say, work)


@check(
    "sight.glare",
    "Glare",
    "°",
    "Sun under 25° high and within 30° of the line of sight: common practice.",
    bound=Bound.AT_LEAST,
    indoors=False,
)
def glare(a: Assessment) -> Finding:
    """Angle between the sun and the line of sight to the far point, at take-off and landing."""
    f = a.situation.flight
    up = math.degrees(math.atan2(f.height_m - HAND_HEIGHT_M, max(f.distance_m, 1.0)))
    suns = a.suns
    low = [x for x in suns if SUNRISE_DEG < x.elevation_deg < GLARE_HEIGHT_DEG]

    def work(_: Units) -> tuple[str, ...]:
        return (
            f"Line of sight towards {f.bearing_deg:.0f}°, {up:.0f}° up",
            f"Sun at take-off towards {suns[0].azimuth_deg:.0f}°, {suns[0].elevation_deg:.0f}° up",
        )

    if not low:
        word = "under the horizon" if suns[0].elevation_deg < GLARE_HEIGHT_DEG else "high enough"
        return Finding(Status.PASS, None, GLARE_ANGLE_DEG, 0.0, f"No glare: the sun is {word}.", work,
                       shown="none")  # fmt: skip
    angle = min(angle_from_sun_deg(x, f.bearing_deg, up) for x in low)
    used = share_of_floor(angle, GLARE_ANGLE_DEG)
    if angle < GLARE_ANGLE_DEG:
        sentence = f"You'd be looking into a low sun, {angle:.0f}° from the aircraft."
        return Finding(Status.CARE, angle, GLARE_ANGLE_DEG, used, sentence, work)
    sentence = f"The low sun is {angle:.0f}° from the aircraft."
    return Finding(Status.PASS, angle, GLARE_ANGLE_DEG, used, sentence, work)

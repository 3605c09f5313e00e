"""Rain, cloud, ice and the earth's magnetic field."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    check,
    share_of_ceiling,
)
from zealous_lark.core.readings import Figure, Precipitation, Weather
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import Units
from zealous_lark.core.weather import FOG_M, MIST_M, Icing, cloud_base_m, icing

CLOUD_ROOM_M = 50.0
"""Kept below the cloud base [m]; common practice."""
_CARE_ROOM_M = 65.0
"""Less than this beside it is little: half a degree between air and dew point moves the base by 62.5 m."""
_NONE_MELTS_C, _COMFORT_C = 2.0, 12.0


@check(
    "weather.precipitation",
    "Rain, snow, fog",
    "",
    "Common practice: don't launch in rain and snow. " + OWN_MINIMUM,
    indoors=False,
)
def precipitation(a: Assessment) -> Finding:
    """Whether anything falls or hangs in the air."""
    w = a.situation.weather
    given = kind = w.precipitation
    seen = w.visibility_m

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Precipitation: {given}; visibility {u.length(seen)}, under {u.length(FOG_M)} is fog, under "
            f"{u.length(MIST_M)} mist",
        )

    if seen < FOG_M and kind is not Precipitation.HEAVY:
        kind = Precipitation.FOG
    if kind is Precipitation.NONE and seen < MIST_M:
        return Finding(
            Status.CARE,
            None,
            None,
            0.9,
            lambda u: f"Mist, visibility {u.length(seen)}: it can thicken while you fly, and it fools sensors.",
            work,
            shown="mist",
        )
    if kind is Precipitation.NONE:
        return Finding(Status.PASS, None, None, 0.0, "No rain, snow or fog.", work, shown="none")
    if kind is Precipitation.LIGHT and a.situation.minimums.accept_light_rain:
        sentence = "Light rain or snow, which your minimums accept for a few minutes. Dry it afterwards."
        return Finding(Status.CARE, None, None, 1.01, sentence, work, shown="light")

    def say(u: Units) -> str:
        return {
            Precipitation.LIGHT: "Light rain or snow: water gets into motors and sensors.",
            Precipitation.HEAVY: "Heavy rain or snow.",
            Precipitation.FOG: f"Fog, visibility {u.length(seen)}: you lose sight of the aircraft, ice forms unseen, "
            "and the downward sensors are fooled at the landing.",
        }[kind]

    return Finding(Status.FAIL, None, None, 2.0, say, work, shown=str(kind))


@check("weather.cloud_base", "Cloud base", "m", "Espy's rule; 50 m below the base is common practice.", indoors=False)
def cloud_base(a: Assessment) -> Finding:
    """The higher of planned and return height, and 50 m more, against the cloud base."""
    base = a.cloud_base_m
    value = a.working_height_m + CLOUD_ROOM_M
    if base is None:
        return Finding(Status.UNKNOWN, None, None, None, "Without a dew point the cloud base is not known.",
                       question="What is the dew point, or how low is the cloud?")  # fmt: skip
    w = a.situation.weather
    used = share_of_ceiling(value, base)
    status = Status.FAIL if value > base else Status.CARE if value > base - _CARE_ROOM_M else Status.PASS

    def say(u: Units) -> str:
        high, below = u.length(a.working_height_m), f"the cloud base ({u.length(base)} above the site)"
        return {
            Status.FAIL: f"{high} is within {u.length(CLOUD_ROOM_M)} of {below}, or in cloud.",
            Status.CARE: f"{high} leaves little room under {below}.",
            Status.PASS: f"{high} stays well under {below}.",
        }[status]

    def work(u: Units) -> tuple[str, ...]:
        by_dew = () if w.dew_point_c is None else (
            f"Base: 125 m × ({w.temperature_c:.3g} − {w.dew_point_c:.3g}) °C = "
            f"{u.length(cloud_base_m(w.temperature_c, w.dew_point_c))}",
        )  # fmt: skip
        reported = () if w.cloud_base_m is None else (f"Reported base {u.length(w.cloud_base_m)}; the lower counts",)
        return (
            *by_dew,
            *reported,
            f"Height {u.length(a.working_height_m)} and {u.length(CLOUD_ROOM_M)} of room = {u.length(value)}",
        )

    return Finding(status, value, base, used, say, work)


@check(
    "weather.icing",
    "Ice",
    "°C",
    "Fog, rain, snow or a spread of 2 °C or less at 2 °C and colder; moist or misty air up to 5 °C: common practice.",
    bound=Bound.AT_LEAST,
    indoors=False,
)
def ice(a: Assessment) -> Finding:
    """Air temperature against the cold in which moist air leaves ice on propellers."""
    w = a.situation.weather
    spread = None if w.dew_point_c is None else w.temperature_c - w.dew_point_c
    found = icing(w.temperature_c, spread, w.precipitation, w.visibility_m)
    limit = _NONE_MELTS_C
    dry = w.temperature_c <= 5

    def say(u: Units) -> str:
        air = u.temperature(w.temperature_c)
        return {
            None: f"At {air} ice forms if the air is moist, and its dew point is not known.",
            Icing.NONE: f"At {air} the air is too dry for ice." if dry else f"At {air} it is too warm for ice.",
            Icing.LIKELY: f"Moist air at {air}: ice forms on the propellers, unseen.",
            Icing.POSSIBLE: f"Moist air at {air}: ice may form on the propellers. Heavy sticks or odd motion: land.",
        }[found]

    def work(u: Units) -> tuple[str, ...]:
        moisture = "no dew point given" if spread is None else f"spread {spread:.1f} °C"
        return (f"Air {u.temperature(w.temperature_c)}, {moisture}, precipitation {w.precipitation}",)

    if found is None:
        return Finding(Status.UNKNOWN, w.temperature_c, limit, None, say, question="What is the dew point?")
    if found is Icing.NONE:
        return Finding(Status.PASS, w.temperature_c, limit, 0.5 if dry else 0.0, say, work,
                       shown="dry" if dry else "warm")  # fmt: skip
    if found is Icing.LIKELY:
        used = 1.0 + min(max(limit - w.temperature_c, 0.1) / 10, 1.0)
        return Finding(Status.FAIL, w.temperature_c, limit, used, say, work, shown="likely")
    used = (_COMFORT_C - w.temperature_c) / (_COMFORT_C - limit)
    return Finding(Status.CARE, w.temperature_c, limit, used, say, work, shown="possible")


@check(
    "weather.geomagnetic",
    "Geomagnetic activity",
    "",
    "NOAA G-scale: Kp 5 and more is a storm. " + OWN_MINIMUM,
    indoors=False,
)
def geomagnetic(a: Assessment) -> Finding:
    """The planetary index Kp against the minimum, and a point above it."""
    value, limit = a.situation.weather.kp, a.situation.minimums.kp
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if value >= limit + 1 else Status.CARE if value >= limit else Status.PASS
    means = {
        Status.FAIL: "a geomagnetic storm. Position and compass cannot be relied on.",
        Status.CARE: "position and compass may wander. Be ready to fly manually.",
        Status.PASS: "the magnetic field is quiet enough.",
    }[status]
    work = (f"Kp {value:g}; care from {limit:g}, don't launch from {limit + 1:g}",)
    return Finding(status, value, limit, used, f"Kp {value:g}: {means}", work, shown=f"{value:g} of {limit:g}")


def _dated(situation: Situation) -> bool:
    """Confined to weather of which some figure is dated, judged at a known time."""
    w = situation.weather
    return situation.judged_at is not None and (w.as_of is not None or any(p.as_of for p in w.provenance))


_FIGURE_WORDS = {
    Figure.WINDS: "Wind",
    Figure.TEMPERATURE: "Temperature",
    Figure.DEW_POINT: "Dew point",
    Figure.VISIBILITY: "Visibility",
    Figure.PRECIPITATION: "Rain, snow, fog",
    Figure.KP: "Kp index",
    Figure.CLOUD_BASE: "Cloud base",
}


@check("weather.age", "Age of the weather", "h", OWN_MINIMUM, indoors=False, only=_dated)
def age(a: Assessment) -> Finding:
    """The oldest dated figure against the age that the pilot accepts; of a flight that is over, as it was then."""
    s = a.situation
    moment = s.takeoff_at if s.judged_at is None else min(s.judged_at, s.takeoff_at)
    own = {p.figure: (p.source, p.as_of) for p in s.weather.provenance}
    rest = ("as entered", s.weather.as_of)
    dated = [
        (_FIGURE_WORDS[f], source, max((moment - as_of).total_seconds() / 3600, 0.0))
        for f, (source, as_of) in ((f, own.get(f, rest)) for f in _FIGURE_WORDS if _used(f, s.weather))
        if as_of is not None
    ]
    # Only its cloud base or such may be dated, and that be left out: then nothing is known to be old.
    oldest = max((hours for _, _, hours in dated), default=0.0)
    limit = s.minimums.weather_age_h
    used = share_of_ceiling(oldest, limit)

    def work(_: Units) -> tuple[str, ...]:
        return tuple(f"{word}: {hours:.1f} h old, {source}" for word, source, hours in dated)

    if oldest > limit:
        old = [word for word, _, hours in dated if hours > limit]
        sentence = (
            f"{', '.join(old)}: {oldest:.0f} h old; your limit is {limit:g} h. "
            "Conditions at take-off can't be known from that."
        )
        return Finding(Status.UNKNOWN, oldest, limit, used, sentence, work,
                       question="What does a newer forecast say?")  # fmt: skip
    sentence = f"The weather is {oldest:.0f} h old; your limit is {limit:g} h."
    return Finding(Status.PASS, oldest, limit, used, sentence, work)


def _used(figure: Figure, weather: Weather) -> bool:
    return getattr(weather, figure.value) is not None

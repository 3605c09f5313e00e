"""Values that nobody has said: no pass rests on one whose worst plausible value would be judged worse.

A session begins with figures in its weather and its charge, so that there is something to look at. Until somebody
types, reads or measures one, or it comes from a forecast, what it makes pass is not known.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from enum import StrEnum

from propcache.api import cached_property

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import SEVERITY, Check, Finding, Status, lower_first
from zealous_lark.core.readings import Precipitation
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import Units, percent

WORST_WIND_MS, WORST_GUST_MS = 12.0, 18.0
"""Wind that may blow on any day that nobody has looked at [m/s]: a strong breeze; assumed."""
WORST_COLD_C, WORST_HEAT_C = -15.0, 40.0
"""Air and battery [°C]: a hard frost, a car in the sun; assumed."""
WORST_VISIBILITY_M, WORST_KP, WORST_CHARGE_PCT = 500.0, 7.0, 40.0
"""Fog [m], a storm of the sun, a battery that was flown [%]: assumed."""


class Assumed(StrEnum):
    """What a judgement may rest on without anybody having said it, by the plan document's key."""

    WINDS = "weather.winds"
    TEMPERATURE = "weather.temperature_c"
    DEW_POINT = "weather.dew_point_c"
    VISIBILITY = "weather.visibility_m"
    PRECIPITATION = "weather.precipitation"
    KP = "weather.kp"
    CHARGE = "pack.charge_pct"
    PACK_TEMPERATURE = "pack.temperature_c"


_FALLS = {
    Precipitation.NONE: "no rain or snow",
    Precipitation.LIGHT: "light rain or snow",
    Precipitation.HEAVY: "heavy rain or snow",
    Precipitation.FOG: "fog",
}


def _weather(s: Situation, **changes: object) -> Situation:
    return replace(s, weather=replace(s.weather, **changes))  # type: ignore[arg-type]


def _winds(s: Situation) -> list[Situation]:
    def blown(turn_deg: float) -> Situation:
        return _weather(
            s,
            winds=tuple(
                replace(
                    w,
                    speed_ms=max(w.speed_ms, WORST_WIND_MS),
                    gust_ms=max(w.gust_ms or 0.0, WORST_GUST_MS),
                    direction_deg=(w.direction_deg + turn_deg) % 360,
                )
                for w in s.weather.winds
            ),
        )

    return [blown(0.0), blown(180.0)]


def _temperatures(s: Situation) -> list[Situation]:
    return [_weather(s, temperature_c=t) for t in (WORST_COLD_C, WORST_HEAT_C)]


def _pack(s: Situation, **changes: float) -> list[Situation]:
    return [replace(s, pack=replace(s.pack, **changes))]


_WORST: dict[Assumed, Callable[[Situation], list[Situation]]] = {
    Assumed.WINDS: _winds,
    Assumed.TEMPERATURE: _temperatures,
    Assumed.DEW_POINT: lambda s: [_weather(s, dew_point_c=s.weather.temperature_c)],
    Assumed.VISIBILITY: lambda s: [_weather(s, visibility_m=min(s.weather.visibility_m, WORST_VISIBILITY_M))],
    Assumed.PRECIPITATION: lambda s: [_weather(s, precipitation=Precipitation.HEAVY)],
    Assumed.KP: lambda s: [_weather(s, kp=max(s.weather.kp, WORST_KP))],
    Assumed.CHARGE: lambda s: _pack(s, charge_pct=min(s.pack.charge_pct, WORST_CHARGE_PCT)),
    Assumed.PACK_TEMPERATURE: lambda s: _pack(s, temperature_c=WORST_COLD_C),
}


def _what(a: Assumed, s: Situation, u: Units) -> str:
    """What is assumed."""
    w = s.weather
    match a:
        case Assumed.WINDS:
            strongest = max(w.winds, key=lambda x: x.speed_ms)
            return f"a wind of {u.speed(strongest.speed_ms)} at {u.length(strongest.height_m)}"
        case Assumed.TEMPERATURE:
            return f"{u.temperature(w.temperature_c)} in the air"
        case Assumed.DEW_POINT:
            return f"a dew point of {u.temperature(w.dew_point_c or 0.0)}"
        case Assumed.VISIBILITY:
            return f"{u.length(w.visibility_m)} of visibility"
        case Assumed.PRECIPITATION:
            return _FALLS[w.precipitation]
        case Assumed.KP:
            return f"a Kp index of {w.kp:g}"
        case Assumed.CHARGE:
            return f"{percent(s.pack.charge_pct)} of charge"
        case Assumed.PACK_TEMPERATURE:
            return f"a battery of {u.temperature(s.pack.temperature_c or 0.0)}"


_ASKS = {
    Assumed.WINDS: "What is the wind, from a forecast or a meter?",
    Assumed.TEMPERATURE: "How warm is the air?",
    Assumed.DEW_POINT: "What is the dew point, or is it not known?",
    Assumed.VISIBILITY: "How far can you see?",
    Assumed.PRECIPITATION: "Does it rain or snow at take-off?",
    Assumed.KP: "What is the Kp index, from a forecast?",
    Assumed.CHARGE: "What does the battery read?",
    Assumed.PACK_TEMPERATURE: "How warm is the battery?",
}
"""What would settle it."""


@dataclass(frozen=True)
class Doubt:
    """One value that nobody has said, and what the checks would find at its worst."""

    value: Assumed
    assessment: Assessment

    @cached_property
    def worst(self) -> tuple[Assessment, ...]:
        return tuple(self.assessment.turned(s) for s in _WORST[self.value](self.assessment.situation))

    def moves(self, check: Check, status: Status) -> bool:
        """Whether a check would find worse at the worst plausible value."""
        return any(check.applies(a) and SEVERITY[check.find(a).status] > SEVERITY[status] for a in self.worst)


def doubted(assessment: Assessment, found: Iterable[tuple[Check, Finding]]) -> list[tuple[Check, Finding]]:
    """Findings in which no pass rests on what nobody has said. One check asks for each value, the others follow it."""
    doubts = [Doubt(value, assessment) for value in Assumed if value in assessment.situation.assumed]
    asked: dict[Assumed, str] = {}
    settled = []
    for check, finding in found:
        doubt = None
        if finding.status is Status.PASS:
            doubt = next((d for d in doubts if d.moves(check, finding.status)), None)
        if doubt is None:
            settled.append((check, finding))
            continue
        settled.append((check, _only_with(doubt, finding, check.id, asked.setdefault(doubt.value, check.id))))
    return settled


def _only_with(doubt: Doubt, finding: Finding, check: str, asks: str) -> Finding:
    """A pass that rests on what nobody has said. asks: the check that asks for it."""

    def what(u: Units) -> str:
        return _what(doubt.value, doubt.assessment.situation, u)

    first = asks == check
    return replace(
        finding,
        status=Status.UNKNOWN,
        used=None,
        say=lambda u: f"Only with {what(u)}, which nobody has confirmed: {lower_first(finding.sentence(u))}",
        follows=None if first else asks,
        question=(lambda u: f"{_ASKS[doubt.value]} Assumed: {what(u)}.") if first else None,
        asks=doubt.value.value if first else None,
        matters=True,
    )

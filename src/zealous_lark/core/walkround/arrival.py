"""On arrival: what to look for before the pad is put down, and the measured wind against the forecast."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.air import site_wind
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units


class Effect(StrEnum):
    """What a yes changes in the plan; ADVICE changes nothing by itself."""

    WIRES = "wires"
    TREES = "trees"
    NOISE = "noise"
    SHELTER = "shelter"
    BEARING = "bearing"
    ADVICE = "advice"


@dataclass(frozen=True, slots=True)
class Look:
    """A short question, what to do about a yes, and what that changes."""

    key: str
    question: str
    how: str
    then: str
    effect: Effect


_LOOKS = (
    (Look("wires", "Wires that are not drawn yet?", "Find the poles, then follow them, their stays too.",
          "They become an obstacle of the plan: say where and how high.", Effect.WIRES), True),
    (Look("trees", "Trees or hedges around you, that are not drawn yet?", "Between you and where it flies.",
          "They become an obstacle: leaves take the picture within a few hundred metres.", Effect.TREES), True),
    (Look("masts", "A mast, a dish, a substation, much metal?", "Look for aerials on roofs and towers.",
          "The radio noise of the place is set to much.", Effect.NOISE), True),
    (Look("shelter", "Trees or walls upwind, within ten times their height?", "Where you measure the wind.",
          "What you measure here says nothing of the wind above: hover, or take the forecast.", Effect.SHELTER), True),
    (Look("people", "People under the way out?", "Paths, boats, windows, cars.",
          "Another bearing: the way out is turned to where nobody is.", Effect.BEARING), True),
    (Look("birds", "Birds that gather, nest or circle?", "Watch for a minute.",
          "Another spot or another day: they are disturbed from far, and some attack.", Effect.ADVICE), True),
    (Look("overhead", "Anything above the pad?", "Branches, eaves, wires.",
          "Move the pad until the sky is open.", Effect.ADVICE), True),
    (Look("ground", "Sand, dust, long grass or a slope under the pad?", "Stand where it will stand.",
          "Lay the pad, or find flatter ground.", Effect.ADVICE), True),
    (Look("way_through", "Anything that hangs into the room?", "Beams, cables, chains, dust.",
          "Keep below it and away from it, or stay down.", Effect.ADVICE), False),
    (Look("floor", "A hole, water or glass on the floor?", "Where you walk while you look at the screen.",
          "Choose where you stand and stay there.", Effect.ADVICE), False),
)  # fmt: skip


def look_round(situation: Situation) -> tuple[Look, ...]:
    """The questions that fit a place."""
    indoors = situation.site.indoors
    return tuple(look for look, outdoors in _LOOKS if outdoors is not indoors)


@dataclass(frozen=True, slots=True)
class Difference:
    """A measured wind and what the forecast has at its height: speeds [m/s], turn between the two [°], in words."""

    height_m: float
    measured_ms: float
    forecast_ms: float
    turn_deg: float
    sentence: str
    stronger: bool


TOLERANCE_MS, TOLERANCE_DEG = 1.5, 40.0
"""Within these the forecast is taken as met [m/s, °]; common practice."""


def differences(situation: Situation, units: Units = METRIC) -> tuple[Difference, ...]:
    """Each measured wind against the forecast at its height; none where one of the two is missing."""
    winds = situation.weather.winds
    measured = [w for w in winds if w.source is WindSource.MEASURED]
    forecast = tuple(w for w in winds if w.source is WindSource.FORECAST)
    if not forecast and situation.forecast is not None:
        hour = situation.forecast.at(situation.takeoff_at)
        forecast = () if hour is None else hour.winds
    profile = site_wind(situation.site, forecast, situation.minimums.wind_aloft) if forecast else None
    if profile is None or situation.site.indoors:
        return ()
    found = []
    for level in measured:
        there = profile.at(level.height_m)
        turn = float(angle_between_deg(level.direction_deg, there.direction_deg))
        more = level.speed_ms - there.speed_ms
        at = f"At {units.length(level.height_m)} you measured {units.speed(level.speed_ms)}; "
        at += f"the forecast has {units.speed(there.speed_ms)}"
        if more > TOLERANCE_MS:
            sentence = f"{at}. It blows harder than forecast: expect more above, too."
        elif more < -TOLERANCE_MS:
            sentence = f"{at}. Less than forecast here; above the trees it may still be as forecast."
        else:
            sentence = f"{at}: as forecast."
        if turn > TOLERANCE_DEG and max(level.speed_ms, there.speed_ms) > 1.0:
            sentence += f" It comes from {turn:.0f}° beside the forecast."
        found.append(Difference(level.height_m, level.speed_ms, there.speed_ms, turn, sentence, more > TOLERANCE_MS))
    return tuple(found)

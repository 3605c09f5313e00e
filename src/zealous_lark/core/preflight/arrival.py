"""On arrival: what to look for before the pad is put down, and the measured wind against the forecast."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.readings import WindSource
from zealous_lark.core.site_wind import site_wind
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units


class Effect(StrEnum):
    """What a yes changes in the plan. SEEN, BEARING: it counts as seen; BEARING until the way is turned from it."""

    WIRES = "wires"
    TREES = "trees"
    MAST = "mast"
    NOISE = "noise"
    SHELTER = "shelter"
    BEARING = "bearing"
    SEEN = "seen"


@dataclass(frozen=True, slots=True)
class Look:
    """A short question, what to do about a yes, and what that changes."""

    key: str
    question: str
    how: str
    then: str
    effect: Effect


def _outdoors(s: Situation) -> bool:
    return not s.site.indoors


def _indoors(s: Situation) -> bool:
    return s.site.indoors


def _water(s: Situation) -> bool:
    return s.over_water and not s.site.indoors


def _boat(s: Situation) -> bool:
    return s.site.from_boat


_LOOKS: tuple[tuple[Look, Callable[[Situation], bool]], ...] = (
    (Look("wires", "Any wires not on the map?", "Find the poles, then follow them, their stays too.",
          "They become an obstacle of the plan: say where and how high.", Effect.WIRES), _outdoors),
    (Look("trees", "Trees or hedges around you, that are not drawn yet?", "Between you and where it flies.",
          "Add it as an obstacle: leaves block the video within a few hundred metres.", Effect.TREES), _outdoors),
    (Look("masts", "Any mast, dish, substation or large metal nearby?", "Look for antennas on roofs and towers.",
          "Radio interference is now set to High.", Effect.NOISE), _outdoors),
    (Look("shelter", "Trees or walls upwind, within ten times their height?", "Where you measure the wind.",
          "A reading here doesn't show the wind aloft: measure in a hover, or use the forecast.",
          Effect.SHELTER), _outdoors),
    (Look("people", "Any people under the route?", "Paths, boats, windows, cars.",
          "Choose another bearing, where nobody is.", Effect.BEARING), _outdoors),
    (Look("birds", "Birds that gather, nest or circle?", "Watch for a minute.",
          "Choose another spot or day: birds are disturbed from far off, and some attack.", Effect.SEEN), _outdoors),
    (Look("overhead", "Anything above the pad?", "Branches, eaves, wires.",
          "Move the pad until the sky is open.", Effect.SEEN), _outdoors),
    (Look("ground", "Sand, dust, long grass or a slope under the pad?", "Stand where it will stand.",
          "Lay the pad, or find flatter ground.", Effect.SEEN), _outdoors),
    (Look("way_through", "Anything hanging down into the room?", "Beams, cables, chains, dust.",
          "Keep below it and away from it, or don't launch.", Effect.SEEN), _indoors),
    (Look("floor", "A hole, water or glass on the floor?", "Where you walk while you look at the screen.",
          "Choose where you stand and stay there.", Effect.SEEN), _indoors),
    (Look("boats", "Boats, swimmers, people on the shore?", "Along the flight out and where it would come down.",
          "Another bearing, or wait until they have passed: never over them.", Effect.BEARING), _water),
    (Look("poles", "Poles, masts, nets or lines that stand in the water?", "Marks, piles, fishing gear, moored boats.",
          "They become an obstacle of the plan: say where and how high.", Effect.MAST), _water),
    (Look("waves", "Waves or spray where it flies?", "Twice the height of the waves between them, and above spray.",
          "Fly higher, or stay over land: the sensors that look down read up to a metre too high over waves, and more "
          "when it tilts.", Effect.SEEN), _water),
    (Look("shore_short", "Something between the waterline and you, where it would come in?",
          "Reeds, rocks, a fence, a hedge.", "Choose another pad: a landing that falls short ends there.",
          Effect.SEEN), _water),
    (Look("ship_radar", "A radar that turns, or big antennas on board?", "On the mast, on the roof of the bridge.",
          "Have it switched off, or do not start from here.", Effect.NOISE), _boat),
    (Look("rigging", "Rigging, rails and lines around the deck?", "All round, and above your head.",
          "Start and catch at arm's length outside of them, two people.", Effect.SEEN), _boat),
    (Look("swell", "Does the deck rise and fall?", "Watch three or four swells.",
          "Launch and catch in the calm between two swells, with somebody who counts them.", Effect.SEEN), _boat),
    (Look("emergency", "An emergency vehicle or a helicopter near?", "Listen, and look for blue lights.",
          "Don't launch until they have gone, and come down at once if one comes while you fly.", Effect.SEEN),
     _outdoors),
    (Look("quiet", "A landing ban, a quiet hour or a sign?", "At the gate, the car park, the notice board.",
          "Follow it, and write it into the place as a note.", Effect.SEEN), _outdoors),
)  # fmt: skip


def looks() -> tuple[Look, ...]:
    """All questions, whatever the place."""
    return tuple(look for look, _ in _LOOKS)


def look_round(situation: Situation) -> tuple[Look, ...]:
    """The questions that fit a place."""
    return tuple(look for look, fits in _LOOKS if fits(situation))


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
        turn = angle_between_deg(level.direction_deg, there.direction_deg)
        more = level.speed_ms - there.speed_ms
        at = f"At {units.length(level.height_m)} you measured {units.speed(level.speed_ms)}; "
        at += f"the forecast has {units.speed(there.speed_ms)}"
        if more > TOLERANCE_MS:
            sentence = f"{at}. Stronger than forecast: expect more higher up too."
        elif more < -TOLERANCE_MS:
            sentence = f"{at}. Less than forecast here; above the trees it may still be as forecast."
        else:
            sentence = f"{at}: as forecast."
        if turn > TOLERANCE_DEG and max(level.speed_ms, there.speed_ms) > 1.0:
            sentence += f" Its direction is {turn:.0f}° off the forecast."
        found.append(Difference(level.height_m, level.speed_ms, there.speed_ms, turn, sentence, more > TOLERANCE_MS))
    return tuple(found)


COLD_HANDS_C = 8.0
"""Under this the pilot's hands are thought of [°C]; common practice."""


def feels(a: Assessment, u: Units) -> str | None:
    """What the wind makes of the cold, for the pilot's hands; how long fingers last is not said, without a source."""
    if a.feels_c is None or a.situation.weather.temperature_c >= COLD_HANDS_C:
        return None
    return (
        f"{u.temperature(a.situation.weather.temperature_c)} feels like {u.temperature(a.feels_c)} in this wind: cold "
        "fingers are slow. Gloves on until you take off, and a short flight."
    )

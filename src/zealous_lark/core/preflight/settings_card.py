"""The settings to dial in for a session, each with its reason."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.checks.going_home import wanted_action
from zealous_lark.core.situation import RadioNoise, Situation, SpeedMode
from zealous_lark.core.units import METRIC, Units, percent

FIRST_CEILING_M, FIRST_DISTANCE_M = 90.0, 300.0
"""First flights: ceiling and distance [m]; common practice."""
LEAST_DISTANCE_M = 20.0


class Setting(StrEnum):
    """Settings in the order of the card."""

    RETURN_HEIGHT = "rth_altitude_m"
    CEILING = "max_altitude_m"
    DISTANCE = "max_distance_m"
    LOST_LINK = "lost_link"
    LOW_CHARGE = "low_charge_pct"
    BAND = "band_ghz"
    MODE = "mode"
    OBSTACLE_STOP = "obstacle_stop"


@dataclass(frozen=True, slots=True)
class Dial:
    """One line of the card: what to set, to what [SI, None where a word says it], as it is written, and why.

    planned: what the plan has, where it has it and it is another; last: as it was last time, where it differs.
    """

    setting: Setting
    label: str
    value: float | None
    shown: str
    why: str
    planned: str | None = None
    last: str | None = None


def settings_card(
    a: Assessment, *, first_flights: bool = False, last: Situation | None = None, units: Units = METRIC
) -> tuple[Dial, ...]:
    """The card of an assessed session; last: the session flown before it with the same aircraft."""
    s, u = a.situation, units
    ceiling, ceiling_why = _ceiling(a, first_flights, u)
    distance, distance_why = _distance(a, first_flights, u)
    action, action_why = wanted_action(a)
    low, low_why = _low_charge(a)
    before = None if last is None else last.settings
    band = "2.4 GHz" if s.site.radio_noise is not RadioNoise.URBAN else "5.8 GHz"
    height = a.return_height.recommended_m
    dials = [
        Dial(
            Setting.RETURN_HEIGHT, "Return height", height, "no height works" if height is None else u.length(height),
            _return_why(a, u), _differs(s.settings.rth_altitude_m, height, u),
            None if before is None else _differs(before.rth_altitude_m, height, u),
        ),
        Dial(
            Setting.CEILING, "Height limit", ceiling, u.length(ceiling), ceiling_why,
            _differs(s.settings.max_altitude_m, ceiling, u),
            None if before is None else _differs(before.max_altitude_m, ceiling, u),
        ),
        Dial(
            Setting.DISTANCE, "Distance limit", distance, "don't launch" if distance is None else u.length(distance),
            distance_why,
            _differs(s.settings.max_distance_m, distance, u),
            None if before is None else _differs(before.max_distance_m, distance, u),
        ),
        Dial(
            Setting.LOST_LINK, "Lost-link action", None, action.value, f"{action_why[0].upper()}{action_why[1:]}.",
            None if s.settings.lost_link is action else s.settings.lost_link.value,
            None if before is None or before.lost_link is action else before.lost_link.value,
        ),
        Dial(Setting.LOW_CHARGE, "Low-charge warning", low, percent(low), low_why),
        Dial(Setting.BAND, "Radio band", None, band, _band_why(s)),
        Dial(Setting.MODE, "Mode to start in", None, *_mode(s, first_flights)),
        Dial(Setting.OBSTACLE_STOP, "Obstacle avoidance", None, *_obstacle_stop(s)),
    ]  # fmt: skip
    if s.site.indoors:
        indoors = (Setting.CEILING, Setting.DISTANCE, Setting.RETURN_HEIGHT, Setting.LOW_CHARGE)
        dials = [d for d in dials if d.setting not in indoors]
        dials.insert(1, Dial(Setting.LOW_CHARGE, "Low-charge return", None, "off", "Indoors it climbs into the roof."))
    return tuple(dials)


def _differs(given: float | None, wanted: float | None, u: Units) -> str | None:
    if given is None or wanted is None or abs(given - wanted) < 0.5:
        return None
    return u.length(given)


def _return_why(a: Assessment, u: Units) -> str:
    r = a.return_height
    if r.recommended_m is None:
        return (
            f"Clearing obstacles takes {u.length(r.lowest_m)}, but it can't get home from that high: set lost link "
            "to hover."
        )
    return f"The lowest that clears is {u.length(r.lowest_m)}; counted from where it takes off."


def _up(value: float, step: float) -> float:
    return math.ceil(value / step - 1e-9) * step


def _ceiling(a: Assessment, first_flights: bool, u: Units) -> tuple[float, str]:
    s = a.situation
    needed = max(s.flight.height_m, a.return_height.recommended_m or 0.0)
    legal = s.minimums.legal_height_m
    wanted = min(_up(needed + 10, 5), legal)
    if first_flights and wanted > FIRST_CEILING_M:
        return FIRST_CEILING_M, "First flights stay lower."
    if wanted >= legal:
        return legal, f"No higher than {u.length(legal)} above ground, whatever the flight needs."
    return wanted, f"Just above the {u.length(needed)} that this flight needs."


def _distance(a: Assessment, first_flights: bool, u: Units) -> tuple[float | None, str]:
    s = a.situation
    limits = [
        (a.sight.limit_m, "you can tell which way it is pointing up to there"),
        (a.signal.range_m, "the picture holds up to there"),
    ]
    if a.reach_on_bearing is not None:
        limits.append((a.reach_on_bearing.distance_m[0], "the battery brings it home from there"))
    if s.over_water:
        limits.append((s.minimums.water_distance_m, "no further out over water"))
    if first_flights:
        limits.append((FIRST_DISTANCE_M, "first flights stay near"))
    least, why = min(limits)
    rounded = math.floor(least / 10) * 10.0
    if rounded < LEAST_DISTANCE_M:
        return None, f"{u.length(least)}: {why}. Change the plan before you dial anything in."
    return rounded, f"{u.length(least)}: {why}."


def _low_charge(a: Assessment) -> tuple[float, str]:
    s, trip = a.situation, a.trip
    if trip is None or trip.turn_back_pct is None:
        return max(s.reserve_pct, FORCED_LANDING_PCT), "Your reserve; the flight home is not known yet."
    value = min(_up(trip.turn_back_pct, 5), 95.0)
    return value, f"Home from the far point needs {percent(trip.turn_back_pct)}, your reserve included."


def _band_why(s: Situation) -> str:
    if s.site.radio_noise is RadioNoise.URBAN:
        return "In built-up areas 2.4 GHz is crowded; use 5.8 GHz if the aircraft has it."
    return "In the open the lower band reaches further and through leaves."


def _mode(s: Situation, first_flights: bool) -> tuple[str, str]:
    if first_flights or s.site.indoors:
        return "slow", "Slow mode leaves time to think."
    if s.flight.outbound_mode is SpeedMode.SLOW:
        return "slow", "As planned; fast mode is for coming home."
    return "normal", "Fast mode is kept for coming home; it switches the obstacle stop off."


def _obstacle_stop(s: Situation) -> tuple[str, str]:
    if s.site.indoors:
        return "on", "Off only if it blocks the way through."
    return "on", "Looks ahead, rarely sideways or up; doesn't see wires."

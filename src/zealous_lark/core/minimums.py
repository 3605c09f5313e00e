"""Personal minimums: limits that pilots set for themselves, stricter than the law.

The defaults are common practice, not sourced figures, except the 120 m height
that many authorities share; each pilot's own authority decides.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class WindAloft(StrEnum):
    """How a wind measured near the ground is carried up."""

    PROFILE = "profile"
    DOUBLING = "doubling"
    LARGER = "larger"


class HoverRule(StrEnum):
    """What a reading from the hover counts for."""

    BEST = "best"
    STRONGER = "stronger"


class SightRule(StrEnum):
    """What limits the line of sight."""

    ATTITUDE = "attitude"
    OWN = "own"
    OBSERVER = "observer"


class CompassRule(StrEnum):
    """When the compass is calibrated."""

    WHEN_DUE = "when_due"
    ALWAYS = "always"
    WHEN_ASKED = "when_asked"


class LostLinkRule(StrEnum):
    """What the aircraft is told to do when the link is lost."""

    BY_SITE = "by_site"
    RETURN = "return"
    HOVER = "hover"


class StrongWindRule(StrEnum):
    """How to come home when the wind is strong and the aircraft far out."""

    BY_HAND = "by_hand"
    AUTOMATIC = "automatic"


class LandingRule(StrEnum):
    PAD = "pad"
    HAND = "hand"


@dataclass(frozen=True, slots=True)
class Minimums:
    """Limits in force for one judgement.

    wind_fraction: share of the rated wind to use, 0 to 1.
    reserve_pct: charge to be on the ground with [%].
    rth_margin_m, rth_floor_m: clearance above obstacles and least return height [m].
    legal_height_m: greatest height above the ground [m].
    return_speed_ms: least ground speed on the way home [m/s].
    link_margin_db: signal margin wanted for the picture [dB].
    satellites: satellites to lift off with.
    min_takeoff_pct: charge to lift off with [%].
    kp: geomagnetic index from which care is due.
    water_distance_m: how far out over water [m].
    mass_steps_g: masses from which other rules apply [g], ascending.
    accept_light_rain: whether a few minutes of light rain or snow are accepted.
    wind_spread_pct, measured_spread_pct: one standard deviation of a forecast and of a
    measured wind [%]; consumption_spread_pct: of the power drawn [%];
    charge_spread_points: of the charge reading [points]. All common practice.
    turn_back_pct: a fixed charge to turn back at [%]; None: computed from wind and distance.
    wind_aloft: how a reading near the ground is carried up.
    rth_fixed_m: a return height that is always used [m]; None: the lowest that clears.
    sight_rule: what limits the line of sight; sight_own_m: the pilot's own tested distance [m].
    people_m, airfield_m: distances of the rules from uninvolved people and from airfields [m], None
    where they name none.
    weather_age_h: how old a forecast or reading may be [h].
    trust_water_sensors: whether downward sensors are trusted in a slow hover over water.
    hover_rule: whether a hover reading replaces the forecast for half an hour, or the stronger always counts.
    bulky_speed, bulky_power: what guards or floats leave of rated wind and fast mode (0 to 1), and what they
    multiply the power by; assumed, no published number.
    """

    wind_fraction: float = 0.5
    reserve_pct: float = 30.0
    rth_margin_m: float = 10.0
    rth_floor_m: float = 20.0
    legal_height_m: float = 120.0
    return_speed_ms: float = 3.0
    link_margin_db: float = 10.0
    satellites: int = 11
    min_takeoff_pct: float = 95.0
    kp: float = 5.0
    water_distance_m: float = 200.0
    accept_light_rain: bool = False
    mass_steps_g: tuple[float, ...] = (250.0,)
    wind_spread_pct: float = 20.0
    measured_spread_pct: float = 10.0
    consumption_spread_pct: float = 8.0
    charge_spread_points: float = 3.0
    turn_back_pct: float | None = None
    wind_aloft: WindAloft = WindAloft.PROFILE
    rth_fixed_m: float | None = None
    compass: CompassRule = CompassRule.WHEN_DUE
    lost_link: LostLinkRule = LostLinkRule.BY_SITE
    strong_wind: StrongWindRule = StrongWindRule.BY_HAND
    sight_rule: SightRule = SightRule.ATTITUDE
    sight_own_m: float = 150.0
    trust_water_sensors: bool = False
    landing: LandingRule = LandingRule.PAD
    people_m: float | None = None
    airfield_m: float | None = None
    weather_age_h: float = 12.0
    hover_rule: HoverRule = HoverRule.BEST
    bulky_speed: float = 0.8
    bulky_power: float = 1.15

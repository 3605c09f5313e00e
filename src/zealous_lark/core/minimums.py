"""Personal minimums: limits that pilots set for themselves, stricter than the law.

The defaults are common practice, not sourced figures, except the 120 m height
that many authorities share; each pilot's own authority decides.
"""

from __future__ import annotations

from dataclasses import dataclass


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

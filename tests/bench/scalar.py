"""The same check in plain scalar Python, one bearing and one height at a time.

Written for comparison only: the example's case of one forecast level over level ground.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from zealous_lark.core import radio, sight, weather
from zealous_lark.core.air import ROUGHNESS_M, density_kgm3
from zealous_lark.core.battery import usable_wh
from zealous_lark.core.situation import Situation


@dataclass(frozen=True)
class ScalarResult:
    """What is compared: reach per bearing [m], highest return height [m], landing charge [%]."""

    reach_m: list[float]
    highest_m: float
    landing_pct: float
    statuses: list[str]


def scalar_check(s: Situation) -> ScalarResult:
    """Some twenty statuses, 72 bearings and every return height."""
    a, f = s.aircraft, s.flight
    level = s.weather.winds[0]
    z0 = ROUGHNESS_M[s.site.surroundings]
    rho = density_kgm3(s.site.elevation_m, s.weather.temperature_c)
    relative = rho / 1.225
    loading = a.flying_mass_kg / (a.mass_g / 1000)
    hover = a.battery_wh * 60 / a.hover_time_min * loading**1.5 / math.sqrt(relative)
    blade, induced = 0.4 * hover, 0.6 * hover
    tip2 = 6400 * loading / relative
    weight = a.flying_mass_kg * 9.80665
    v0 = math.sqrt(weight / (2 * rho * a.rotor_count * math.pi * (a.rotor_diameter_m / 2) ** 2))
    drag = weight / loading * math.tan(math.radians(a.max_tilt_deg)) / a.fastest_ms**2 * relative
    usable = usable_wh(a, s.pack, s.weather.temperature_c)

    def wind(z: float) -> float:
        z = max(z, 1 + 2 * z0)
        if z >= 60:
            return level.speed_ms * math.log(z / 0.03) / math.log(level.height_m / 0.03)
        at_60 = level.speed_ms * math.log(60 / 0.03) / math.log(level.height_m / 0.03)
        return at_60 * math.log(z / z0) / math.log(60 / z0)

    def power(v: float) -> float:
        r = v * v / (2 * v0 * v0)
        return blade * (1 + 3 * v * v / tip2) + induced / math.sqrt(math.sqrt(1 + r * r) + r) + drag * v**3 / 0.6

    def ground(air: float, speed: float, course: float) -> float:
        angle = math.radians(level.direction_deg - course)
        room = air * air - (speed * math.sin(angle)) ** 2
        return math.sqrt(room) - speed * math.cos(angle) if room > 0 else math.nan

    out_air, home_air = a.airspeed_ms(f.outbound_mode), a.airspeed_ms(f.return_mode)
    base = blade + induced

    def fixed(height: float) -> float:
        climb_w = base + a.ascent_ms * induced / v0
        up = max(height - f.height_m, 0) / a.ascent_ms
        return (
            base * 60
            + climb_w * (f.height_m / a.ascent_ms + up)
            + base * height / a.descent_ms
            + power(wind(f.height_m)) * f.station_min * 60
        ) / 3600

    def per_metre(bearing: float, height: float) -> float:
        out, home = ground(out_air, wind(f.height_m), bearing), ground(home_air, wind(height), bearing + 180)
        return (power(out_air) / out + power(home_air) / home) / 3600

    def landing(height: float) -> float:
        spent = fixed(height) + per_metre(f.bearing_deg, height) * f.distance_m
        return s.pack.charge_pct - 100 * spent / usable

    def reach(bearing: float) -> float:
        height = s.return_height_m
        out, home = ground(out_air, wind(f.height_m), bearing), ground(home_air, wind(height), bearing + 180)
        if not (out > 0 and home > 0):
            return 0.0
        spend = (s.pack.charge_pct - s.reserve_pct) / 100 * usable - fixed(height)
        return max(spend, 0) / per_metre(bearing, height)

    highest = 0.0
    for h in range(int(s.minimums.legal_height_m) + 1):
        flown = max(float(h), f.height_m)
        if ground(home_air, wind(flown), f.bearing_deg + 180) < s.minimums.return_speed_ms:
            break
        if landing(flown) < s.reserve_pct:
            break
        highest = float(h)

    # Every height flown, and every part of the flight against what is named.
    strongest = max(wind(z) for z in (2, 5, 10, 20, 30, f.height_m, s.return_height_m))
    b = math.radians(f.bearing_deg)
    far = (f.distance_m * math.sin(b), f.distance_m * math.cos(b))
    gaps = []
    for start, end, room in (((0, 0), far, 10), (far, far, 20), ((0, 0), (0, 0), 10), ((0, 0), (0, 0), 10)):
        for o in s.site.obstacles:
            bearing = math.radians(o.bearing_deg)
            ends = [
                ((o.distance_m + d) * math.sin(bearing), (o.distance_m + d) * math.cos(bearing))
                for d in (0.0, o.depth_m)
            ]
            ux, uy = end[0] - start[0], end[1] - start[1]
            square = ux * ux + uy * uy
            for x, y in ends:
                t = min(1, max(0, ((x - start[0]) * ux + (y - start[1]) * uy) / square)) if square else 0
                apart = math.hypot(x - start[0] - t * ux, y - start[1] - t * uy)
                if apart <= room + max(10, o.distance_m / 10):
                    gaps.append(f.height_m - o.height_m)
    at = wind(s.return_height_m)
    gust = at + (level.gust_ms or 0) - level.speed_ms
    margin = radio.signal(s).margin_db
    seen = sight.sight(a.size_m, s.weather.visibility_m).limit_m
    weather.cloud_base_m(s.weather.temperature_c, s.weather.dew_point_c or 0)
    lowest = max(
        [20.0] + [o.height_m + max(10, o.height_m / 10) for o in s.site.obstacles if o.distance_m <= f.distance_m]
    )
    left = landing(s.return_height_m)
    shares = [
        strongest / (s.minimums.wind_fraction * a.max_wind_ms),
        gust / a.max_wind_ms,
        3 / ground(home_air, at, f.bearing_deg + 180),
        (100 - left) / (100 - s.reserve_pct),
        f.distance_m / reach(f.bearing_deg),
        lowest / s.settings.rth_altitude_m,
        s.settings.rth_altitude_m / highest,
        10 / margin,
        f.distance_m / seen,
        max(f.height_m, s.settings.rth_altitude_m) / s.minimums.legal_height_m,
        (100 - s.pack.charge_pct) / 5,
        *(10 / gap if gap > 0 else 9.0 for gap in gaps),
        (s.site.elevation_m + s.return_height_m) / 3000,
        abs((level.direction_deg - f.bearing_deg + 180) % 360 - 180) / 90,
    ]
    return ScalarResult(
        reach_m=[reach(5.0 * i) for i in range(72)],
        highest_m=highest,
        landing_pct=left,
        statuses=["fail" if x > 1 else "care" if x > 0.8 else "pass" for x in shares],
    )

"""Plans drawn by a seed over everything that a plan, a place and a pilot's limits can say."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from tests.make import at, changed, drawn, feature, made_terrain
from tests.plans.table import Row, plan_of, thing, wind
from zealous_lark.core import minimums as m
from zealous_lark.core.place import Feature, HeightReference, Restriction, Zone
from zealous_lark.core.readings import Precipitation
from zealous_lark.core.situation import Move, MoveKind, Situation
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units
from zealous_lark.plan import situation_of

JUDGED = datetime(2026, 6, 15, 9, 30, tzinfo=UTC)
KINDS = ("trees", "building", "wires", "mast", "terrain")


class Dice:
    """Draws by a seed; round numbers, so that limits are met exactly now and then."""

    def __init__(self, seed: Sequence[int]) -> None:
        self.rng = np.random.default_rng(seed)

    def one(self, *of: Any) -> Any:
        return of[int(self.rng.integers(len(of)))]

    def odds(self, share: float) -> bool:
        return bool(self.rng.random() < share)

    def number(self, low: float, high: float, step: float = 1) -> float:
        return round(low + step * int(self.rng.integers(0, int((high - low) / step) + 1)), 6)


def _weather(d: Dice) -> dict[str, Any]:
    towards = d.number(0, 350, 10)
    winds = [wind(d.number(0, 9, 0.5), d.one("forecast", "forecast", "measured"), d.one(2, 10), towards)]
    if d.odds(0.5):
        winds[0]["gust_ms"] = winds[0]["speed_ms"] + d.number(0, 6, 0.5)
    if d.odds(0.5):
        winds.append(wind(d.number(0, 14, 0.5), "forecast", d.one(40, 80, 120), (towards + d.one(0, 30, 180)) % 360))
    if d.odds(0.25):
        read = d.one("2026-06-15T12:50:00+03:00", "2026-06-15T11:00:00+03:00")
        winds.append(wind(d.number(0, 12, 0.5), "hover", d.one(20, 30, 60), towards, at=read))
    warm = d.one(-12, -10, -6, -5, -1, 0, 1, 4, 5, 10, 15, 25, 35, 36, 40, 41)
    return {
        "weather.winds": winds,
        "weather.temperature_c": warm,
        "weather.dew_point_c": d.one(None, warm - 0.5, warm - 2, warm - 3, warm - 6, warm - 10),
        "weather.visibility_m": d.one(700, 1000, 1500, 3000, 5000, 10_000),
        "weather.precipitation": d.one(*[str(p) for p in Precipitation], "none", "none", "none"),
        "weather.kp": d.one(0, 3, 4.7, 5, 6, 7),
    }


def _flight(d: Dice) -> dict[str, Any]:
    return {
        "flight.bearing_deg": d.number(0, 350, 10),
        "flight.distance_m": d.one(0, 20, 60, 100, 150, 200, 300, 500, 900),
        "flight.height_m": d.one(3, 10, 25, 40, 60, 90, 120),
        "flight.station_min": d.number(0, 14),
        "flight.station_radius_m": d.one(0, 15, 15, 60),
        "flight.outbound_mode": d.one("cine", "normal", "sport"),
        "flight.return_mode": d.one("rth", "rth", "normal", "sport"),
        "settings.rth_altitude_m": d.one(15, 20, 30, 40, 60, 90, 120),
        "settings.max_altitude_m": d.one(50, 120, 120),
        "settings.max_distance_m": d.one(None, None, 100, 300),
        "settings.lost_link": d.one("return", "return", "hover", "land"),
        "settings.satellites": d.one(None, 6, 10, 11, 16),
        "settings.home_point_set": d.one(None, True, True, False),
        "settings.compass_checked": d.one(None, True, False),
        "pack.charge_pct": d.one(40, 70, 90, 95, 100, 100),
        "pack.health_pct": d.one(70, 85, 100, 100),
        "pack.temperature_c": d.one(None, -5, 5, 15, 20, 22, 40, 45, 50, 51),
        "takeoff_at": f"2026-06-15T{int(d.number(0, 23)):02d}:{d.one('00', '30')}:00+03:00",
    }


def _site(d: Dice) -> dict[str, Any]:
    things = [thing(d.one(*KINDS), d.number(1, 90), d.one(3, 8, 20, 60, 150, 260), d.number(0, 350, 10),
                    d.one(0, 0, 30)) for _ in range(int(d.number(0, 3)))]  # fmt: skip
    form = d.one(*["flat"] * 3, "ridge", "escarpment", "hill")
    deck = {"kind": d.one("boat", "car"), "course_deg": d.number(0, 350, 10), "speed_ms": d.one(0, 0.1, 1, 3)}
    return {
        "site.latitude": d.one(58.62, 58.62, 0.01, -44, 66.6),
        "site.elevation_m": d.one(0, 42, 1500, 4500),
        "site.surroundings": d.one(
            "water", "smooth", "open", "roughly_open", "rough", "very_rough", "closed", "chaotic"
        ),
        "site.radio_noise": d.one("quiet", "suburban", "urban"),
        "site.obstacles": things,
        "site.over_water": d.odds(0.3),
        "site.indoors": d.odds(0.08),
        "site.sheltered": d.odds(0.15),
        "site.landform": {"kind": form, "height_m": 40 if form != "flat" else 0, "half_length_m": d.one(80, 200)},
        "site.platform": deck if d.odds(0.15) else {"kind": "ground"},
        "site.zones_looked_at": d.one(None, "2026-06-14", "2026-01-02"),
        "site.people_looked_at": d.one(None, "2026-06-15"),
        "site.seen": [[], [], ["birds"], ["people", "waves"]][int(d.number(0, 3))],
    }


def _aircraft(d: Dice) -> dict[str, Any]:
    attached = [{"kind": d.one("guards", "floats", "light", "filter"), "mass_g": d.one(5, 40)}]
    return {
        "aircraft.payload_g": d.one(0, 0, 0, 30, 100, 300),
        "aircraft.attachments": attached if d.odds(0.3) else [],
        "aircraft.max_takeoff_g": d.one(None, None, 300, 900),
        "aircraft.ceiling_m": d.one(None, 4000),
        "aircraft.link": {"band_ghz": d.one(2.4, 5.8), "range_m": d.one(2000, 8000)},
        "flight.night_permitted": d.odds(0.5),
    }


def _limits(d: Dice, s: Situation) -> Situation:
    """The pilot's answers to what the schools differ in."""
    return replace(s, minimums=replace(
        s.minimums,
        wind_fraction=d.one(0.33, 0.5, 0.66),
        reserve_pct=d.one(20.0, 30.0, 30.0, 40.0),
        kp=d.one(4.0, 5.0),
        accept_light_rain=d.odds(0.3),
        turn_back_pct=d.one(None, None, 50.0, 60.0),
        wind_aloft=d.one(*m.WindAloft),
        rth_fixed_m=d.one(None, None, 60.0),
        compass=d.one(*m.CompassRule),
        lost_link=d.one(*m.LostLinkRule),
        strong_wind=d.one(*m.StrongWindRule),
        sight_rule=d.one(*m.SightRule),
        trust_water_sensors=d.odds(0.5),
        landing=d.one(*m.LandingRule),
        people_m=d.one(None, 30.0, 50.0),
        airfield_m=d.one(None, 5500.0),
        weather_age_h=d.one(3.0, 12.0),
    ))  # fmt: skip


def _ground(d: Dice, s: Situation) -> Situation:
    """Land with ground, things, people, water, an airfield and zones."""
    way = s.flight.bearing_deg

    def place(low: float, high: float) -> tuple[float, float]:
        return at(s, way + d.one(-40, -5, 0, 0, 5, 90, 180), d.number(low, high, 5))

    def shape(low: float, high: float) -> BaseGeometry:
        one, two, three = place(low, high), place(low, high), place(low, high)
        return d.one(Point(one), LineString([one, two]), Polygon([one, two, three]).convex_hull)

    features: list[Feature] = [
        feature("obstacle", shape(5, 300), kind=d.one(*KINDS), height_m=d.number(2, 80), name=d.one("", "old mill"))
        for _ in range(int(d.number(0, 4)))
    ]
    features += [feature(role, shape(20, 400)) for role in ("people", "water", "landing") if d.odds(0.5)]
    if d.odds(0.3):
        features.append(feature("airfield", Point(place(500, 7000)), radius_m=d.one(None, 3000.0)))
    zones = []
    if d.odds(0.5):
        begins = d.one(None, s.takeoff_at - timedelta(hours=1), s.takeoff_at + timedelta(minutes=5))
        ends = None if begins is None else begins + timedelta(minutes=30)
        hull = Polygon([place(0, 500), place(0, 500), place(0, 500)]).convex_hull.buffer(1e-5)
        zones.append(Zone("North", hull, d.one(*Restriction), d.one(0.0, 50.0), d.one(*HeightReference),
                          d.one(None, 60.0, 300.0), d.one(*HeightReference), begins, ends))  # fmt: skip
    steep = d.one(-0.3, -0.05, 0, 0.05, 0.3)

    def height(x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
        hill = 35 * np.exp(-((x + 120) ** 2 + (y + 60) ** 2) / 3000)
        return s.site.elevation_m + steep * x + d_hill * hill + (np.nan if d_hole else 0) * ((x + 90) ** 2 + y**2 < 900)

    d_hill, d_hole = d.one(0, 1), d.odds(0.15)
    terrain = made_terrain(s, height, cell=20, half=1200) if d.odds(0.6) else None
    s = drawn(s, *features, zones=tuple(zones), terrain=terrain, looked_at=d.one(None, date(2026, 6, 1)))
    if d.odds(0.4):
        lon, lat = at(s, way, d.number(20, 200, 10))
        move = Move(d.one(*MoveKind), lat, lon, d.number(5, 60, 5), d.number(5, 40, 5), d.one(0.0, 20.0, -10.0),
                    d.number(10, 90, 10), d.number(0, 350, 10), d.one(0.5, 1.0, 2.0))  # fmt: skip
        s = changed(s, flight__moves=(move,))
    return s


def drawn_situation(*seed: int) -> tuple[Situation, Units]:
    """A plan, and the units that its pilot reads it in; the same for the same seed."""
    d = Dice(seed)
    changes = {**_weather(d), **_flight(d), **_site(d), **_aircraft(d)}
    # Most things are as on the calm day, so that the rest is seen.
    share = d.one(0.1, 0.2, 0.4)
    kept = {key: value for key, value in changes.items() if d.odds(share)}
    if "weather.temperature_c" not in kept:
        kept.pop("weather.dew_point_c", None)
    s = situation_of(plan_of(Row("drawn", kept, "", "", "", dunlin=d.odds(0.3))))
    s = replace(s, aimed=d.odds(0.5), judged_at=d.one(None, JUDGED))
    if d.odds(0.5):
        s = _limits(d, s)
    if d.odds(0.6):
        s = _ground(d, s)
    return s, Units(d.one(*SpeedUnit), d.one(*LengthUnit), d.one(*TemperatureUnit))

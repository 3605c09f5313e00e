"""Whole plans as a table that a pilot can read: what is changed on a calm day, the verdict, and what decides it.

A row: its name; whether the small "Dunlin" flies instead of the "Plover"; the changes by the plan document's keys;
the verdicts that a careful pilot would sign; the check that has to say so, with its status.
"""

from __future__ import annotations

import copy
import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from tests.make import EXAMPLES
from zealous_lark.plan import PlanDocument, read_plan

CALM = json.loads((Path(__file__).parent / "calm-day.json").read_text())
DUNLIN = json.loads((EXAMPLES / "example-plan.json").read_text())["aircraft"]

Changes = dict[str, Any]


@dataclass(frozen=True)
class Row:
    name: str
    changes: Changes
    verdicts: str
    check: str
    status: str
    dunlin: bool = False


def plan_dict(changes: Changes, dunlin: bool = False) -> dict[str, Any]:
    """The calm day with the changes; a key path of the document each."""
    plan = copy.deepcopy(CALM)
    if dunlin:
        plan["aircraft"] = copy.deepcopy(DUNLIN)
    for path, value in changes.items():
        node, *rest = path.split(".")
        at: Any = plan
        for step in [node, *rest][:-1]:
            at = at[int(step)] if isinstance(at, list) else at.setdefault(step, {})
        at[[node, *rest][-1]] = value
    return plan


def plan_of(row: Row) -> PlanDocument:
    return read_plan(json.dumps(plan_dict(row.changes, row.dunlin)))


def thing(kind: str, height: float, distance: float, bearing: float = 240, depth: float = 0) -> dict[str, Any]:
    return {"kind": kind, "height_m": height, "distance_m": distance, "bearing_deg": bearing, "depth_m": depth}


def wind(speed: float, source: str = "forecast", height: float = 10, towards: float = 240, **more: Any) -> Any:
    return {"height_m": height, "speed_ms": speed, "direction_deg": towards, "source": source, **more}


ALL_ROUND = [thing("building", 100, 60, b) for b in range(0, 360, 30)]
TURNS_ROUND = [wind(2, height=10), wind(2, height=40), wind(5.5, height=90, towards=60)]
COLD = {"pack.temperature_c": 20}
MILL = {"site.indoors": True, "settings.lost_link": "hover", "flight.height_m": 3, "flight.distance_m": 15,
        "site.surroundings": "closed", "settings.satellites": None}  # fmt: skip

FLYING_INTO_THINGS = (
    Row("Through an 11 m wire at 10 m",
        {"site.obstacles": [thing("wires", 11, 60)], "flight.height_m": 10, "flight.distance_m": 120,
         "settings.rth_altitude_m": 25}, "stay", "clear.outbound", "fail"),
    Row("Through tree tops at 17 m",
        {"site.obstacles": [thing("trees", 18, 60)], "flight.height_m": 17, "settings.rth_altitude_m": 30},
        "stay", "clear.outbound", "fail"),
    Row("Over a 45 m wire at 40 m, home at 60 m",
        {"site.obstacles": [thing("wires", 45, 60)], "flight.height_m": 40, "settings.rth_altitude_m": 60},
        "stay", "clear.outbound", "fail"),
    Row("Just over the tree tops",
        {"site.obstacles": [thing("trees", 18, 60)], "flight.height_m": 25, "settings.rth_altitude_m": 30},
        "care", "clear.outbound", "care"),
    Row("A mast a hand's breadth beyond the far point",
        {"site.obstacles": [thing("mast", 80, 150.1)], "settings.rth_altitude_m": 95}, "stay", "clear.station", "fail"),
    Row("A mast 35 m beyond the far point, paced",
        {"site.obstacles": [thing("mast", 80, 180)], "settings.rth_altitude_m": 95}, "care", "clear.station", "care"),
    Row("The same mast and a low return height: care, not a step",
        {"site.obstacles": [thing("mast", 80, 165)], "settings.rth_altitude_m": 20}, "stay care",
        "return.clearance", "care"),
    Row("Fast mode wants forty metres to stop",
        {"site.obstacles": [thing("building", 60, 185)], "flight.outbound_mode": "sport",
         "settings.rth_altitude_m": 75}, "stay", "clear.station", "fail"),
    Row("Slow mode stops before the same wall",
        {"site.obstacles": [thing("building", 60, 182)], "flight.outbound_mode": "cine",
         "settings.rth_altitude_m": 75}, "care", "clear.station", "care"),
    Row("Trees beside the way, badly paced",
        {"site.obstacles": [thing("trees", 60, 140, 248)], "settings.rth_altitude_m": 75},
        "stay care", "clear.outbound", "care"),
    Row("Wires square to their bearing reach across the way",
        {"site.obstacles": [thing("wires", 38, 60, 200)], "settings.rth_altitude_m": 60}, "stay", "clear.outbound",
        "fail"),
    Row("A tree beside the pad",
        {"site.obstacles": [thing("trees", 9, 4, 90)]}, "stay", "clear.takeoff", "fail"),
    Row("A tree eight metres from the pad",
        {"site.obstacles": [thing("trees", 9, 8, 90)]}, "care", "clear.takeoff", "care"),
    Row("A fence of one metre beside the pad is nothing",
        {"site.obstacles": [thing("building", 1, 4, 90)]}, "launch", "clear.takeoff", "pass"),
    Row("A wide circle of filming takes in the tower",
        {"site.obstacles": [thing("building", 42, 150, 210)], "flight.station_radius_m": 100,
         "settings.rth_altitude_m": 60}, "stay", "clear.station", "fail"),
    Row("No return height among high buildings, hover set: the height is what is wrong",
        {"site.obstacles": [thing("building", 115, 100, 0), thing("building", 100, 80, 90)],
         "settings.lost_link": "hover", "settings.rth_altitude_m": 120}, "care", "return.clearance", "care"),
    Row("The same with return set",
        {"site.obstacles": [thing("building", 115, 100, 0), thing("building", 100, 80, 90)],
         "settings.lost_link": "return", "settings.rth_altitude_m": 120}, "stay", "return.lost_link", "fail"),
    Row("Among walls, hover is right",
        {"site.obstacles": ALL_ROUND, "settings.lost_link": "hover", "flight.distance_m": 30,
         "settings.rth_altitude_m": 110}, "care stay", "return.lost_link", "pass"),
    Row("A return height a little under the margin",
        {"site.obstacles": [thing("trees", 28, 60, 0)], "settings.rth_altitude_m": 34}, "care", "return.clearance",
        "care"),
    Row("A return height under the trees",
        {"site.obstacles": [thing("trees", 28, 60, 0)], "settings.rth_altitude_m": 25}, "stay", "return.clearance",
        "fail"),
)  # fmt: skip

AIR = (
    Row("A hand meter under tall pines",
        {"site.surroundings": "closed", "site.obstacles": [thing("trees", 18, 40, 240), thing("trees", 18, 40, 60)],
         "weather.winds": [wind(1.2, "measured", 2)]}, "unknown", "wind.steady", "unknown"),
    Row("A hand meter in the lee of one row of trees",
        {"site.obstacles": [thing("trees", 18, 40, 240)], "weather.winds": [wind(1.2, "measured", 2)]},
        "unknown", "wind.steady", "unknown"),
    Row("The same trees on the other side shelter nothing",
        {"site.obstacles": [thing("trees", 18, 40, 60)], "weather.winds": [wind(1.2, "measured", 2)]},
        "launch", "wind.steady", "pass"),
    Row("Strong even in shelter is strong",
        {"site.surroundings": "closed", "weather.winds": [wind(4, "measured", 2)]}, "stay", "wind.steady", "fail"),
    Row("The wind turns round at the return height",
        {"weather.winds": TURNS_ROUND, "settings.rth_altitude_m": 90,
         "site.obstacles": [thing("building", 78, 100, 0)]}, "stay care", "wind.shear", "fail"),
    Row("Flying upwind against more than it flies",
        {"weather.winds": [wind(13.4, height=30)]}, "stay", "wind.outbound", "fail"),
    Row("Seven hundred metres to be seen is fog", {"weather.visibility_m": 700}, "stay", "weather.precipitation",
        "fail"),
    Row("Two kilometres is mist", {"weather.visibility_m": 2000}, "care", "weather.precipitation", "care"),
    Row("Freezing and misty", {"weather.temperature_c": 0, "weather.dew_point_c": -2.5, "weather.visibility_m": 1500},
        "care", "weather.icing", "care"),
    Row("A hundredth of a degree drier", {"weather.temperature_c": 1, "weather.dew_point_c": -1.01}, "care",
        "weather.icing", "care"),
    Row("Freezing, dry and clear", {"weather.temperature_c": 1, "weather.dew_point_c": -6, **COLD}, "care",
        "weather.icing", "pass"),
    Row("A hover reading counts for half an hour",
        {"weather.winds": [wind(5.2), wind(2, "hover", 30, at="2026-06-15T12:50:00+03:00")]},
        "launch care", "wind.steady", "pass"),
    Row("An hour later the forecast counts again",
        {"weather.winds": [wind(5.2), wind(2, "hover", 30, at="2026-06-15T11:50:00+03:00")]},
        "stay", "wind.steady", "fail"),
    Row("A hover reading over the forecast holds everywhere",
        {"weather.winds": [wind(2.5), wind(6, "hover", 30, at="2026-06-15T12:50:00+03:00")],
         "settings.rth_altitude_m": 100}, "stay", "wind.steady", "fail"),
    Row("Offshore, straight out", {"site.over_water": True, "flight.bearing_deg": 60, "weather.winds": [wind(4)]},
        "stay", "wind.offshore", "fail", dunlin=True),
    Row("Offshore by the cosine, at sixty degrees",
        {"site.over_water": True, "flight.bearing_deg": 120, "weather.winds": [wind(4)]}, "care", "wind.offshore",
        "care", dunlin=True),
    Row("Onshore", {"site.over_water": True, "weather.winds": [wind(3)], "site.surroundings": "water"}, "care launch",
        "wind.offshore", "pass"),
    Row("Over a cliff's edge the wind is more",
        {"site.landform": {"kind": "escarpment", "height_m": 40, "half_length_m": 80}, "weather.winds": [wind(4.2)]},
        "care", "wind.steady", "care"),
)  # fmt: skip

AIRCRAFT = (
    Row("More payload than it weighs", {"aircraft.payload_g": 300}, "stay", "rules.mass", "fail", dunlin=True),
    Row("Fifteen per cent more, no greatest mass known", {"aircraft.payload_g": 100}, "care", "rules.mass", "care"),
    Row("Within its own greatest mass", {"version": 2, "aircraft.max_takeoff_g": 900, "aircraft.payload_g": 100,
                                         "aircraft.speeds_ms": {"slow": 7, "normal": 12, "fast": 19}},
        "launch care unknown", "rules.mass", "pass"),
    Row("Guards past the mass step, and slower", {"aircraft.attachments": [{"kind": "guards", "mass_g": 40}],
                                                  "weather.winds": [wind(3.2)]},
        "care", "wind.steady", "care", dunlin=True),
    Row("A calm day with 249 g is a clean launch", {"flight.distance_m": 100, "settings.rth_altitude_m": 30},
        "launch", "rules.mass", "pass", dunlin=True),
    Row("The slant is what is looked along", {"flight.distance_m": 137, "flight.height_m": 115,
                                              "settings.rth_altitude_m": 115}, "care", "sight.distance", "care",
        dunlin=True),
    Row("A warm battery", {"pack.temperature_c": 39}, "launch", "battery.temperature", "pass"),
    Row("A hot battery", {"pack.temperature_c": 40.1}, "care", "battery.temperature", "care"),
    Row("A battery too hot to hold", {"pack.temperature_c": 51}, "stay", "battery.temperature", "fail"),
    Row("At 4,500 m, no ceiling known", {"site.elevation_m": 4500, "weather.temperature_c": 6,
                                         "weather.dew_point_c": -6}, "care stay", "aircraft.ceiling", "care"),
    Row("Over its own ceiling", {"site.elevation_m": 4500, "aircraft.ceiling_m": 4000, "weather.temperature_c": 6,
                                 "weather.dew_point_c": -6}, "stay", "aircraft.ceiling", "fail"),
    Row("A wall and thin charge at once", {"site.obstacles": [thing("building", 60, 150)], "pack.charge_pct": 80},
        "stay", "clear.station", "fail"),
)  # fmt: skip

SETTINGS_AND_CONTEXTS = (
    Row("A distance limit that stops it half-way", {"settings.max_distance_m": 100}, "care", "settings.limits", "care"),
    Row("A ceiling under the flight", {"settings.max_altitude_m": 30}, "care", "settings.limits", "care"),
    Row("A ceiling under the return height", {"settings.rth_altitude_m": 60, "settings.max_altitude_m": 50}, "care",
        "settings.limits", "care"),
    Row("No drawn place: zones are listed as not checked", {}, "launch", "rules.zone", "unknown"),
    Row("No drawn place: people are listed as not checked", {}, "launch", "rules.people", "unknown"),
    Row("Looked and said so", {"site.zones_looked_at": "2026-06-14", "site.people_looked_at": "2026-06-15"}, "launch",
        "rules.zone", "pass"),
    Row("Indoors in hover a home point is not asked", {**MILL, "settings.home_point_set": False}, "launch care",
        "return.lost_link", "pass"),
    Row("Indoors with return set", {**MILL, "settings.lost_link": "return"}, "stay", "return.lost_link", "fail"),
    Row("Sixteen satellites, home point not said yet", {"settings.home_point_set": None}, "launch",
        "signal.satellites", "pass"),
    Row("Land where it is, over water", {"site.over_water": True, "settings.lost_link": "land",
                                         "site.surroundings": "water"}, "stay", "return.lost_link", "fail"),
    Row("From a boat that moves, by return to home",
        {"site.platform": {"kind": "boat", "course_deg": 90, "speed_ms": 1}, "settings.lost_link": "hover",
         "site.over_water": True}, "stay", "return.home_drift", "fail"),
    Row("From a boat that moves, by hand",
        {"site.platform": {"kind": "boat", "course_deg": 90, "speed_ms": 0.1}, "settings.lost_link": "hover",
         "site.over_water": True, "flight.return_mode": "normal"}, "care", "return.home_drift", "care"),
    Row("A boat that runs away from where it films: out of sight while nobody moved a stick",
        {"site.platform": {"kind": "boat", "course_deg": 60, "speed_ms": 2}, "settings.lost_link": "hover",
         "site.over_water": True, "flight.return_mode": "normal"}, "stay", "sight.distance", "fail"),
    Row("From a boat with return set",
        {"site.platform": {"kind": "boat"}, "site.over_water": True}, "care", "return.lost_link", "care"),
    Row("Birds that circle", {"site.seen": ["birds"]}, "care", "site.seen", "care"),
    Row("People under the way", {"site.seen": ["people"]}, "stay", "site.seen", "fail"),
    Row("Birds, and a branch above the pad", {"site.seen": ["birds", "overhead"]}, "stay", "site.seen", "fail"),
    Row("A helicopter near, on a day of care", {"site.seen": ["emergency"], "weather.winds": [wind(3.2)]}, "stay",
        "site.seen", "fail"),
    Row("Waves from a boat, looked at", {"site.seen": ["waves", "swell", "rigging"], "site.over_water": True,
                                         "site.platform": {"kind": "boat"}, "settings.lost_link": "hover",
                                         "flight.return_mode": "normal", "site.wave_height_m": 0.3},
        "care stay", "site.seen", "care"),
    Row("At night without permission", {"takeoff_at": "2026-06-15T01:30:00+03:00", "site.latitude": 50}, "stay",
        "sight.daylight", "fail"),
    Row("At night with permission and a light",
        {"takeoff_at": "2026-06-15T01:30:00+03:00", "site.latitude": 50, "flight.night_permitted": True,
         "aircraft.attachments": [{"kind": "light", "mass_g": 12}]}, "care", "sight.daylight", "care"),
    Row("A mast on the bearing shades no radio",
        {"site.obstacles": [thing("mast", 30, 20)], "flight.height_m": 45, "settings.rth_altitude_m": 45,
         "flight.distance_m": 110}, "launch", "signal.margin", "pass", dunlin=True),
    Row("Wires on the bearing shade no radio",
        {"site.obstacles": [thing("wires", 11, 20)]}, "launch care", "signal.margin", "pass", dunlin=True),
    Row("In town at 5.8 GHz", {"site.radio_noise": "urban", "flight.distance_m": 130,
                               "aircraft.link": {"band_ghz": 5.8, "range_m": 6000}}, "launch care",
        "signal.margin", "pass", dunlin=True),
    Row("A region of less power", {"aircraft.region_power_db": -7, "site.radio_noise": "urban",
                                   "aircraft.link": {"band_ghz": 2.4, "range_m": 2000}}, "care stay",
        "signal.margin", "care"),
)  # fmt: skip

ROWS = (*FLYING_INTO_THINGS, *AIR, *AIRCRAFT, *SETTINGS_AND_CONTEXTS)

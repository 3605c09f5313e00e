"""Finding a take-off point: points over a grid of the place, scored, the best judged whole."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import polar
from zealous_lark.core.land import Land
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Role
from zealous_lark.core.situation import Situation
from zealous_lark.core.survey import STEEP_DEG
from zealous_lark.core.units import METRIC, Units, decibels
from zealous_lark.core.verdict import STRICTER, Verdict, judge
from zealous_lark.core.world import World

Floats = NDArray[np.float64]

WIRES_M, TREES_M, PEOPLE_M = 30.0, 15.0, 50.0
"""How far a take-off point wants to be from wires, trees and people [m]; common practice."""
_JUDGED = 18


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A point to take off from [°], with the verdict of the same flight from there, and why, best first.

    situation: the plan from there: towards the same subject, or the same far end.
    """

    latitude: float
    longitude: float
    situation: Situation
    verdict: Verdict
    score: float
    reasons: tuple[str, ...]


def _apart(x: Floats, y: Floats, land: Land, *wanted: Callable[..., bool]) -> Floats:
    """Distance [m] of points from the nearest drawn thing that is wanted; infinite without one."""
    shapes = [d.shape for d in land.drawn if all(test(d.feature) for test in wanted)]
    if not shapes:
        return np.full(x.shape, np.inf)
    return np.asarray(shapely.distance(shapely.points(x, y), shapely.union_all(shapes)))


def suggest(
    situation: Situation, units: Units = METRIC, step_m: float = 25.0, radius_m: float = 500.0
) -> tuple[Suggestion, ...]:
    """Up to three take-off points for a flight to the same far end, at least 60 m apart, best first.

    Points in water, in obstacles, under the way of wires, near people, on steep or unknown ground are
    left out; the rest are ranked by distance to the far end, room around, and signal; the best are judged whole.
    """
    land = situation.land
    if land is None:
        return ()
    f = situation.flight
    bearing = math.radians(f.bearing_deg)
    fx, fy = f.distance_m * math.sin(bearing), f.distance_m * math.cos(bearing)
    axis = np.arange(-radius_m, radius_m + 1, step_m)
    x, y = (v.ravel() for v in np.meshgrid(axis, axis))
    x, y = x + fx, y + fy

    wires = _apart(x, y, land, lambda d: d.kind is ObstacleKind.WIRES)
    trees = _apart(x, y, land, lambda d: d.kind is ObstacleKind.TREES)
    others = _apart(x, y, land, lambda d: d.role is Role.OBSTACLE)
    people = _apart(x, y, land, lambda d: d.role is Role.PEOPLE)
    water = _apart(x, y, land, lambda d: d.role is Role.WATER)
    away = np.hypot(x - fx, y - fy)
    slope = np.nan_to_num(land.slope_at(x, y), nan=0.0 if not land.has_terrain else 90.0)
    covered = np.zeros(x.shape, dtype=bool) if land.surface is None else land.surface.over_ground(x, y) > 0
    fits = ~covered & (wires >= WIRES_M) & (trees >= TREES_M) & (others >= 10) & (people >= PEOPLE_M)
    fits &= (water > 5) & (slope <= STEEP_DEG) & (away >= 20)
    if not fits.any():
        return ()
    x, y, away, slope = x[fits], y[fits], away[fits], slope[fits]
    room = np.minimum(np.minimum(trees[fits], others[fits]), 60) / 60
    sight = Assessment(situation).sight.limit_m
    rough = np.minimum(away / sight, 2) - 0.4 * room + slope / 60
    order = np.argsort(rough, kind="stable")

    found: list[Suggestion] = []
    judged = 0
    chosen: list[tuple[float, float]] = []
    for i in order:
        if judged >= _JUDGED:
            break
        px, py = float(x[i]), float(y[i])
        if any(math.hypot(px - cx, py - cy) < 60 for cx, cy in chosen):
            continue
        chosen.append((px, py))
        judged += 1
        found.append(_judged(situation, land, px, py, fx, fy, float(slope[i]), float(room[i]) * 60, units))
    return tuple(sorted(found, key=lambda s: (STRICTER[s.verdict], s.score))[:3])


def _judged(
    situation: Situation,
    land: Land,
    px: float,
    py: float,
    fx: float,
    fy: float,
    slope: float,
    room: float,
    u: Units,
) -> Suggestion:
    lat, lon = (float(v) for v in land.frame.to_geographic(px, py))
    towards, distance = (float(v) for v in polar(fx - px, fy - py))
    ground = float(land.elevation_at(px, py))
    elevation = situation.site.elevation_m if math.isnan(ground) else round(ground, 1)
    moved = replace(
        situation,
        site=replace(
            situation.site,
            latitude=lat,
            longitude=lon,
            elevation_m=elevation,
            obstacles=World(situation.site.obstacles, land).seen_from(px, py),
        ),
        flight=replace(situation.flight, bearing_deg=round(towards, 1) % 360, distance_m=round(distance, 1)),
        land=Land(land.place, lat, lon, elevation),
    )
    judgement = judge(moved)
    a = judgement.assessment
    margin, height = a.signal.margin_db, a.return_height
    used = [min(j.finding.used or 0.0, 2.0) for j in judgement.judged if not j.finding.standing]
    reasons = [
        f"{u.length(distance)} to the far point, sight ends at {u.length(a.sight.limit_m)}",
        f"{decibels(margin)} of signal there",
        f"return height {u.length(height.lowest_m)} clears",
        f"{u.length(room)} or more of room around" if room >= 59 else f"{u.length(room)} of room around",
    ]
    if land.has_terrain:
        reasons.append(f"ground slopes {slope:.0f}°")
    wind = a.wind_planned
    if wind is not None:
        off = abs((wind.direction_deg - towards + 180) % 360 - 180)
        reasons.append(
            "out into the wind" if off <= 60 else "out with the wind" if off > 120 else "out across the wind"
        )
    return Suggestion(lat, lon, moved, judgement.verdict, sum(sorted(used)[-5:]), tuple(reasons))

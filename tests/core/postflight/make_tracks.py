"""Synthetic tracks in a known wind."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tests.make import EXAMPLES
from zealous_lark.core.air import SEA_LEVEL_DENSITY
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.postflight.track import Track
from zealous_lark.core.power import PowerModel, power_model
from zealous_lark.plan import read_plan, situation_of

HOME = (58.62, 25.08)
NOISE_M = 0.4


def flown(
    rng: np.random.Generator,
    wind_ms: float,
    wind_from_deg: float,
    headings_deg: NDArray[np.float64],
    airspeed_ms: float = 8.0,
    piece_s: float = 20.0,
    noise_m: float = NOISE_M,
    gust_ms: float = 0.3,
) -> Track:
    """A track of pieces of steady heading in a wind with gusts, a point a second, positions with noise."""
    heading = np.radians(np.repeat(headings_deg, int(piece_s)))
    n = len(heading)
    angle = np.radians(wind_from_deg + 180)
    gust = rng.normal(0, gust_ms, (2, n))
    east = airspeed_ms * np.sin(heading) + wind_ms * np.sin(angle) + gust[0]
    north = airspeed_ms * np.cos(heading) + wind_ms * np.cos(angle) + gust[1]
    x = np.concatenate([[0.0], np.cumsum(east)]) + rng.normal(0, noise_m, n + 1)
    y = np.concatenate([[0.0], np.cumsum(north)]) + rng.normal(0, noise_m, n + 1)
    lat, lon = Frame(*HOME).to_geographic(x, y)
    time = np.arange(n + 1, dtype=float)
    nothing = np.full(n + 1, np.nan)
    return Track(time, lat, lon, np.full(n + 1, 40.0), nothing)


def lasting_gusts(rng: np.random.Generator, n: int, gust_ms: float, memory_s: float = 8.0) -> Any:
    """Gusts [m/s], a second apart, that are forgotten to a third in so many seconds. Shape (2, n)."""
    keeps = np.exp(-1 / memory_s)
    gusts = rng.normal(0, gust_ms, (2, n))
    for i in range(1, n):
        gusts[:, i] = keeps * gusts[:, i - 1] + gusts[:, i] * np.sqrt(1 - keeps**2)
    return gusts


@dataclass(frozen=True, slots=True)
class Pattern:
    """How a pattern is flown: turn_deg every `leg_s`, or round and round in `round_s`.

    holds: "air" or "ground" speed. limit_ms: airspeed that it cannot pass. slips: ground speed lost against the wind,
    as a share, where it is held badly. gap_s: without a point after a third.
    """

    holds: str
    speed_ms: float = 8.0
    seconds: int = 420
    turn_deg: float = 60.0
    leg_s: int = 30
    round_s: float = 0.0
    gust_ms: float = 0.8
    limit_ms: float = np.inf
    slips: float = 0.02
    gap_s: int = 0


def pattern(
    rng: np.random.Generator, p: Pattern, wind_ms: float, wind_from_deg: float, model: PowerModel, usable_wh: float
) -> tuple[Track, NDArray[np.float64]]:
    """A track of a pattern, a point a second, with whole percent of charge and a lean; with it the wind [m/s]."""
    t = np.arange(p.seconds)
    course = 2 * np.pi * t / p.round_s if p.round_s else np.radians((t // p.leg_s) * p.turn_deg)
    angle = np.radians(wind_from_deg + 180)
    wind = wind_ms * np.array([np.sin(angle), np.cos(angle)])
    along = np.array([np.sin(course), np.cos(course)])
    gusts = lasting_gusts(rng, p.seconds, p.gust_ms)
    if p.holds == "air":
        ground = p.speed_ms * along + wind[:, None] + gusts
    else:
        tail = wind @ along
        most = tail + np.sqrt(np.maximum(p.limit_ms**2 - (wind_ms**2 - tail**2), 0.0))
        speed = p.speed_ms * (1 + p.slips * tail / max(wind_ms, 1e-9)) + 0.15 * (gusts * along).sum(axis=0)
        ground = np.minimum(speed, most) * along
    air = np.hypot(*(ground - wind[:, None] - gusts))
    x, y = (np.cumsum(v) + rng.normal(0, NOISE_M, p.seconds) for v in ground)
    used = np.cumsum(model.cruise_w(air)) * rng.uniform(0.9, 1.15) / 3600
    tilt = np.degrees(np.arctan(model.drag_ns2_m2 * (rng.uniform(0.95, 1.05) * air) ** 2 / model.weight_n))
    lat, lon = Frame(*HOME).to_geographic(x, y)
    keep = (t < p.seconds // 3) | (t >= p.seconds // 3 + p.gap_s)
    return Track(
        t[keep].astype(float), lat[keep], lon[keep], np.full(int(keep.sum()), 40.0),
        np.floor(98 - 100 * used / usable_wh)[keep], np.maximum(tilt + rng.normal(0, 1, p.seconds), 0)[keep],
    ), wind  # fmt: skip


def _held(how: Pattern, wind_ms: float, seed: int = 0) -> Track:
    """A pattern flown by the example's aircraft at sea level in a wind from 240°."""
    situation = situation_of(read_plan((EXAMPLES / "example-plan.json").read_text()))
    model = power_model(situation.aircraft, SEA_LEVEL_DENSITY)
    return pattern(np.random.default_rng(seed), how, wind_ms, 240.0, model, situation.aircraft.battery_wh)[0]


def orbited(wind_ms: float) -> Track:
    """Rounds at a ground speed that is held, in a wind; neither lean nor charge is logged."""
    track = _held(Pattern("ground", speed_ms=5.0, round_s=90), wind_ms)
    return replace(track, charge_pct=np.full(len(track.time_s), np.nan), tilt_deg=None)


def on_long_legs(wind_ms: float) -> Track:
    """Six headings, two minutes each, at a ground speed that is held; lean and charge are logged."""
    return _held(Pattern("ground", leg_s=120, seconds=1440), wind_ms)


def there_and_back(
    bearing_deg: float = 240.0, distance_m: float = 300.0, height_m: float = 40.0, return_m: float = 50.0,
    station_s: float = 60.0,
) -> Track:  # fmt: skip
    """Up, straight out, a while there, up to the return height, home, down; the charge falls evenly from 98 to 62."""
    there = 10.0 + distance_m / 5
    legs = [
        (0.0, 0.0), (10.0, height_m), (there, height_m), (there + station_s, height_m),
        (there + station_s + 5, return_m), (there + station_s + 5 + distance_m / 10, return_m),
        (there + station_s + 25 + distance_m / 10, 0.0),
    ]  # fmt: skip
    away = [0.0, 0.0, distance_m, distance_m, distance_m, 0.0, 0.0]
    times = np.arange(0.0, legs[-1][0] + 0.5, 1.0)
    d = np.interp(times, [t for t, _ in legs], away)
    h = np.interp(times, [t for t, _ in legs], [z for _, z in legs])
    angle = np.radians(bearing_deg)
    lat, lon = Frame(*HOME).to_geographic(d * np.sin(angle), d * np.cos(angle))
    return Track(times, lat, lon, h, np.linspace(98, 62, len(times)))

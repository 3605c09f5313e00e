"""The wind over a site from every reading: forecast, hand meter and hover, and which of them counts.

The rules on which reading counts are common practice; the profiles are those of `air`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np
from numpy.typing import ArrayLike, NDArray

from zealous_lark.core.air import ROUGHNESS_M, Wind, WindProfile
from zealous_lark.core.minimums import HoverRule, WindAloft
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import Site, Surroundings

Floats = NDArray[np.float64]

SHELTER_HEIGHT_M = 10.0
"""A reading below this, or below the trees and buildings around, can be sheltered [m]."""

HOVER_FULL_MIN, HOVER_GONE_MIN = 30.0, 60.0
"""A hover reading counts in full so long, and no more than any other after so long [min]; common practice."""
_LEAST_FORECAST_MS = 0.5
"""Under this a forecast cannot be scaled by a ratio [m/s]."""
_FAR_RATIO = 0.7
"""A hover reading never lowers the forecast by more than this far from its own height."""


@dataclass(frozen=True, slots=True)
class HoverScale:
    """What a hover reading says of the forecast; common practice.

    height_m: of the reading. ratio: reading over forecast there. turn_deg: how far its direction is off the
    forecast's. weight: 1 while it counts in full, 0 when the stronger counts. excess_ms: its own gust excess.
    """

    height_m: float
    ratio: float
    turn_deg: float
    weight: float
    excess_ms: float

    def _tent(self, z: Floats, at: float, far: float) -> Floats:
        h = self.height_m
        logs = np.log([h / 4, h / 2, 1.5 * h, 3 * h])
        return np.asarray(np.interp(np.log(np.maximum(z, 1e-6)), logs, [far, at, at, far]))

    def factor(self, z: Floats) -> Floats:
        """The ratio from h/2 to 1.5·h, straight in ln z to no less than 0.7 at h/4 and 3·h; over 1 everywhere."""
        if self.ratio >= 1:
            return np.full_like(z, self.ratio)
        return self._tent(z, self.ratio, max(self.ratio, _FAR_RATIO))

    def scaled(self, forecast_ms: Floats, z: Floats) -> Floats:
        """The forecast [m/s] at heights [m] with the reading taken into account."""
        scaled = forecast_ms * self.factor(z)
        return np.asarray(self.weight * scaled + (1 - self.weight) * np.maximum(forecast_ms, scaled))

    def turned(self, direction_deg: Floats, z: Floats) -> Floats:
        """The forecast's direction [°] turned to the reading's around its height."""
        return np.asarray((direction_deg + self.weight * self.turn_deg * self._tent(z, 1.0, 0.0)) % 360)


def _strongest_of(values: list[Floats]) -> Floats:
    return values[0] if len(values) == 1 else np.asarray(np.max(np.stack(values), axis=0))


@dataclass(frozen=True, slots=True)
class SiteWind:
    """The wind over a site from every source: where they disagree, the stronger counts.

    profiles: one for each source that says something about the air above. hover: what a reading from the hover
    does to the forecast, None without both. sheltered: whether every reading was taken in the lee of something,
    so that none of them says anything good about the air above.
    """

    profiles: tuple[WindProfile, ...]
    hover: HoverScale | None = None
    sheltered: bool = False
    _known: dict[float, Wind] = field(default_factory=dict, init=False, repr=False, compare=False)

    def winds(self, heights_m: Iterable[float]) -> tuple[Wind, ...]:
        """The wind at each height [m]; each height is worked out once, whichever flight through this wind asks.

        Whoever works one out comes to the same, so that threads need not wait for each other.
        """
        heights = tuple(heights_m)
        if new := [h for h in heights if h not in self._known]:
            z = np.array(new)
            (speed, gust), direction = self.speed_and_gust_ms(z), self.direction_deg(z)
            found = zip(new, speed.tolist(), gust.tolist(), direction.tolist(), strict=True)
            self._known.update((h, Wind(h, u, g, d)) for h, u, g, d in found)
        return tuple(self._known[h] for h in heights)

    def _speeds(self, z: Floats) -> list[Floats]:
        return [
            self.hover.scaled(p.speed_ms(z), z)
            if self.hover is not None and p.source is WindSource.FORECAST
            else p.speed_ms(z)
            for p in self.profiles
        ]

    def _strongest(self, z: Floats) -> NDArray[np.intp]:
        return np.asarray(np.argmax(np.stack(self._speeds(z)), axis=0))

    def speed_ms(self, height_m: ArrayLike) -> Floats:
        """Mean wind [m/s] at heights [m]: the strongest source's."""
        return _strongest_of(self._speeds(np.asarray(height_m, dtype=float)))

    def gust_ms(self, height_m: ArrayLike) -> Floats:
        """Gust [m/s] at heights [m]: the strongest of all sources."""
        return self.speed_and_gust_ms(height_m)[1]

    def speed_and_gust_ms(self, height_m: ArrayLike) -> tuple[Floats, Floats]:
        """Mean wind and gust [m/s] at heights [m], each the strongest of all sources."""
        z = np.asarray(height_m, dtype=float)
        gusts, speeds = [], self._speeds(z)
        for profile, speed in zip(self.profiles, speeds, strict=True):
            excess = profile.gust_excess_ms(z)
            if self.hover is not None and profile.source is WindSource.FORECAST:
                excess = np.maximum(excess, self.hover.excess_ms)
            gusts.append(speed + excess)
        return _strongest_of(speeds), _strongest_of(gusts)

    def direction_deg(self, height_m: ArrayLike) -> Floats:
        """Direction [°] at heights [m], of the source whose mean wind counts there."""
        z = np.asarray(height_m, dtype=float)
        directions = [
            self.hover.turned(p.direction_deg(z), z)
            if self.hover is not None and p.source is WindSource.FORECAST
            else p.direction_deg(z)
            for p in self.profiles
        ]
        return directions[0] if len(directions) == 1 else np.asarray(np.choose(self._strongest(z), directions))

    def deciding(self, height_m: float) -> WindProfile:
        """The profile whose mean wind counts at a height [m]."""
        return self.profiles[int(self._strongest(np.asarray(height_m, dtype=float)))]

    @property
    def levels(self) -> tuple[WindLevel, ...]:
        """Every reading, the lowest first."""
        return tuple(sorted((x for p in self.profiles for x in p.levels), key=lambda level: level.height_m))

    @property
    def lowest(self) -> WindLevel:
        """The lowest reading of all."""
        return self.levels[0]

    def at(self, height_m: float) -> Wind:
        """The wind at one height [m]."""
        return Wind(
            height_m=height_m,
            speed_ms=float(self.speed_ms(height_m)),
            gust_ms=float(self.gust_ms(height_m)),
            direction_deg=float(self.direction_deg(height_m)),
        )


DOUBLING_ROUGHNESS_M = 0.131
"""Roughness length [m] with which the log law doubles a reading at 2 m by 100 ft; common practice."""


def measured_roughness_m(site: Site, rule: WindAloft) -> float:
    """Roughness length [m] by which a wind measured at a site is carried up: the site's, or the doubling rule's.

    A greater roughness always gives more wind above the reading, so the larger of the two
    winds is the one of the greater roughness.
    """
    z0 = ROUGHNESS_M[site.surroundings]
    return {WindAloft.PROFILE: z0, WindAloft.DOUBLING: DOUBLING_ROUGHNESS_M}.get(rule, max(z0, DOUBLING_ROUGHNESS_M))


_TALL = (Surroundings.CLOSED, Surroundings.CHAOTIC)


def _lee_m(site: Site, upwind_top_m: float) -> float:
    """Height [m] under which a reading says nothing good: what stands upwind; in a wood or town, the tops there."""
    if not (site.sheltered or site.surroundings in _TALL):
        return upwind_top_m
    tops = [o.height_m for o in site.obstacles if o.kind in (ObstacleKind.TREES, ObstacleKind.BUILDING)]
    return max([SHELTER_HEIGHT_M, upwind_top_m, *tops])


def _hover_scale(
    readings: list[WindLevel], forecast: WindProfile, at: datetime | None, rule: HoverRule
) -> HoverScale | None:
    """What the newest hover reading does to a forecast; None where the forecast is too calm to be scaled."""
    newest = max(readings, key=lambda x: (x.at is not None, x.at.timestamp() if x.at else 0.0))
    there = forecast.at(newest.height_m)
    if there.speed_ms < _LEAST_FORECAST_MS:
        return None
    weight = 0.0
    if rule is HoverRule.BEST and newest.at is not None and at is not None:
        minutes = max((at - newest.at).total_seconds() / 60, 0.0)
        weight = min(1.0, max(0.0, (HOVER_GONE_MIN - minutes) / (HOVER_GONE_MIN - HOVER_FULL_MIN)))
    turn = (newest.direction_deg - there.direction_deg + 180) % 360 - 180
    excess = 0.0 if newest.gust_ms is None else newest.gust_ms - newest.speed_ms
    return HoverScale(newest.height_m, newest.speed_ms / there.speed_ms, turn, weight, excess)


def site_wind(
    site: Site,
    winds: tuple[WindLevel, ...],
    wind_aloft: WindAloft = WindAloft.PROFILE,
    *,
    upwind_top_m: Callable[[float], float] = lambda _direction: 0.0,
    at: datetime | None = None,
    hover_rule: HoverRule = HoverRule.BEST,
) -> SiteWind | None:
    """The wind over a site, or None without any reading.

    Of several readings of one source at one height the strongest counts. A hover reading scales the forecast;
    without one it is carried as a measured reading is.

    upwind_top_m: top [m] of what shelters a meter here, by the direction that the wind comes from [°].
    at: when the flight is (aware), for the age of a hover reading; unknown: the stronger counts.
    """
    by_source: dict[WindSource, list[WindLevel]] = {source: [] for source in WindSource}
    sheltered = True
    for level in winds:
        by_source[level.source].append(level)
        in_lee = level.source is WindSource.MEASURED and level.height_m <= _lee_m(
            site, upwind_top_m(level.direction_deg)
        )
        sheltered = sheltered and in_lee
    local = measured_roughness_m(site, wind_aloft)
    roughness = {WindSource.FORECAST: ROUGHNESS_M[site.surroundings], WindSource.MEASURED: local,
                 WindSource.HOVER: local}  # fmt: skip
    profiles = []
    for source, levels in by_source.items():
        strongest: dict[float, WindLevel] = {}
        for level in levels:
            rival = strongest.get(level.height_m)
            if rival is None or level.speed_ms > rival.speed_ms:
                strongest[level.height_m] = level
        if strongest:
            ordered = tuple(strongest[h] for h in sorted(strongest))
            profiles.append(WindProfile(ordered, roughness[source], site.landform))
    if not profiles:
        return None
    hover = None
    if by_source[WindSource.HOVER] and by_source[WindSource.FORECAST]:
        hover = _hover_scale(by_source[WindSource.HOVER], profiles[0], at, hover_rule)
        if hover is not None:
            profiles = [p for p in profiles if p.source is not WindSource.HOVER]
    return SiteWind(tuple(profiles), hover, sheltered)

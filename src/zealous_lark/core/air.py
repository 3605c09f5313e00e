"""Air density, and the wind over a site at any height.

References
----------
.. [1] ISO 2533:1975, Standard Atmosphere.
.. [2] Davenport-Wieringa roughness classification, WMO Guide to Instruments and
   Methods of Observation, no. 8. Values quoted from memory.
.. [3] Wieringa, J. (1986). Roughness-dependent geographical interpolation of
   surface wind speed averages. Q. J. R. Meteorol. Soc. 112. Blending height of
   60 m quoted from memory.
.. [4] Durst, C. S. (1960), Wind speeds over short periods of time, as used in
   ASCE 7: 3-second gust in an hour over open ground 1.52. Quoted from memory.
.. [5] Taylor, P. A. and Lee, R. J. (1984). Simple guidelines for estimating wind
   speed variations due to small-scale topographic features. Quoted from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from propcache.api import cached_property

from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import Landform, LandformKind, Surroundings

Floats = NDArray[np.float64]

SEA_LEVEL_DENSITY = 1.225
"""ISA density at 0 m and 15 °C [kg/m³]."""
GRAVITY = 9.80665
"""Standard gravity [m/s²]."""
_EARTH_M = 6_356_766.0
"""Nominal earth radius of the standard [m]."""
OPEN_ROUGHNESS_M = 0.03
"""Roughness length that a forecast or station value stands for [m]."""
BLENDING_HEIGHT_M = 60.0
"""Height above which the wind no longer feels the local ground [m]."""
ROUGHNESS_M: dict[Surroundings, float] = {
    Surroundings.WATER: 0.0002,
    Surroundings.SMOOTH: 0.005,
    Surroundings.OPEN: 0.03,
    Surroundings.ROUGHLY_OPEN: 0.10,
    Surroundings.ROUGH: 0.25,
    Surroundings.VERY_ROUGH: 0.5,
    Surroundings.CLOSED: 1.0,
    Surroundings.CHAOTIC: 2.0,
}
"""Roughness length of each kind of surroundings [m] [2]_."""

_LANDFORM_FACTORS: dict[LandformKind, tuple[float, float]] = {
    LandformKind.RIDGE: (2.0, 3.0),
    LandformKind.ESCARPMENT: (0.8, 2.5),
    LandformKind.HILL: (1.6, 4.0),
}


def isa_pressure_pa(elevation_m: float) -> float:
    """Standard pressure [Pa] at a geometric elevation [m AMSL] in the troposphere [1]_."""
    return float(101_325.0 * (_isa_kelvin(elevation_m) / 288.15) ** (GRAVITY / (287.053 * 0.0065)))


def _isa_kelvin(elevation_m: float) -> float:
    # The standard's lapse rate is per metre of geopotential height, its table by geometric height.
    geopotential = _EARTH_M * elevation_m / (_EARTH_M + elevation_m)
    return 288.15 - 0.0065 * geopotential


def density_kgm3(elevation_m: float, temperature_c: float | None = None) -> float:
    """Air density [kg/m³]: standard pressure at the elevation with the actual temperature [1]_.

    Without a temperature [°C], the standard atmosphere's own.
    """
    kelvin = _isa_kelvin(elevation_m) if temperature_c is None else temperature_c + 273.15
    return isa_pressure_pa(elevation_m) / (287.053 * kelvin)


def relative_density(elevation_m: float, temperature_c: float) -> float:
    """Air density over that of the standard at sea level.

    >>> round(relative_density(2500, 5), 3)
    0.764
    """
    return density_kgm3(elevation_m, temperature_c) / SEA_LEVEL_DENSITY


def lowest_profile_height_m(roughness_m: float) -> float:
    """Height [m] under which the log law is not used: 1 + 2·z0."""
    return 1.0 + 2.0 * roughness_m


def log_profile(speed_ms: float, reading_height_m: float, height_m: ArrayLike, roughness_m: float) -> Floats:
    """Wind speed [m/s] at heights [m] from one reading, by the logarithmic law.

    Heights under 1 + 2·z0 are taken as that, the reading's own included.
    """
    floor = lowest_profile_height_m(roughness_m)
    z = np.maximum(np.asarray(height_m, dtype=float), floor)
    reading = max(reading_height_m, floor)
    return np.asarray(speed_ms * np.log(z / roughness_m) / math.log(reading / roughness_m))


def exposure(height_m: ArrayLike, roughness_m: float) -> Floats:
    """Ratio of the site's wind to the open-ground wind at the same height.

    Both meet at the blending height of 60 m [3]_; above it the ratio is one.
    """
    z = np.minimum(np.asarray(height_m, dtype=float), BLENDING_HEIGHT_M)
    site = log_profile(1.0, BLENDING_HEIGHT_M, z, roughness_m)
    return np.asarray(site / log_profile(1.0, BLENDING_HEIGHT_M, z, OPEN_ROUGHNESS_M))


def speed_up(landform: Landform, height_m: ArrayLike) -> Floats:
    """Factor by which a ridge, cliff or hill speeds the wind up at heights [m] above its top [5]_."""
    z = np.asarray(height_m, dtype=float)
    if landform.kind is LandformKind.FLAT or landform.height_m <= 0:
        return np.ones_like(z)
    b, a = _LANDFORM_FACTORS[landform.kind]
    length = max(landform.half_length_m, 2 * landform.height_m)
    return np.asarray(1 + b * landform.height_m / length * np.exp(-a * z / length))


@dataclass(frozen=True, slots=True)
class Wind:
    """Wind at one height: mean and gust [m/s], direction it comes from [°]."""

    height_m: float
    speed_ms: float
    gust_ms: float
    direction_deg: float


@dataclass(frozen=True)
class WindProfile:
    """The wind over one site at any height, from one or several readings of one source.

    A measured reading follows the log law with the site's roughness. A forecast
    stands for open ground and is carried to the site by `exposure`. Between two
    levels the speed is linear in ln z, beyond them the nearest level's own
    profile holds. The exposure is applied after the interpolation, so that a
    further forecast level that lies on the open-ground profile changes nothing,
    and the profile has no step at a level.

    levels: readings that say something about the air above, all of one source, lowest first.
    """

    levels: tuple[WindLevel, ...]
    roughness_m: float
    landform: Landform = Landform()

    @property
    def source(self) -> WindSource:
        """Where the readings come from."""
        return self.levels[0].source

    @cached_property
    def _log_heights(self) -> Floats:
        return np.log([level.height_m for level in self.levels])

    @cached_property
    def _bases(self) -> Floats:
        """Each level's speed [m/s] without what the site does to it, so that one factor for all brings it back."""
        speeds = np.array([level.speed_ms for level in self.levels])
        if self.source is WindSource.FORECAST:
            return speeds
        return np.asarray(speeds / speed_up(self.landform, [level.height_m for level in self.levels]))

    @cached_property
    def _pulls(self) -> tuple[Floats, Floats]:
        """East and north of each level's wind. A calm level still knows its direction; it counts for almost nothing."""
        angles = np.radians([level.direction_deg for level in self.levels])
        pull = np.maximum(self._bases, 1e-9)
        return pull * np.sin(angles), pull * np.cos(angles)

    def _site_factor(self, z: Floats) -> Floats:
        """What the site does to a speed at heights [m]."""
        if self.source is not WindSource.FORECAST:
            return speed_up(self.landform, z)
        carried = exposure(z, self.roughness_m)
        return carried if self.landform.kind is LandformKind.FLAT else carried * speed_up(self.landform, z)

    def _log_z(self, z: Floats) -> Floats:
        return np.log(np.maximum(z, 1e-6))

    def speed_ms(self, height_m: ArrayLike) -> Floats:
        """Mean wind speed [m/s] at heights [m], same shape as the heights."""
        z = np.asarray(height_m, dtype=float)
        lowest, highest = self.levels[0].height_m, self.levels[-1].height_m
        z0 = OPEN_ROUGHNESS_M if self.source is WindSource.FORECAST else self.roughness_m
        carried = log_profile(float(self._bases[0]), lowest, z, z0)
        if len(self.levels) > 1:
            between = np.interp(self._log_z(z), self._log_heights, self._bases)
            above = log_profile(float(self._bases[-1]), highest, z, z0)
            carried = np.where(z <= lowest, carried, np.where(z >= highest, above, between))
        return np.asarray(carried * self._site_factor(z))

    def direction_deg(self, height_m: ArrayLike) -> Floats:
        """Direction the wind comes from [°] at heights [m]: the vector mean between levels."""
        z = np.asarray(height_m, dtype=float)
        if len(self.levels) == 1:  # exactly the reading, not its way through sine and cosine
            return np.full_like(z, self.levels[0].direction_deg % 360)
        east, north = self._pulls
        at = self._log_z(z)
        there = np.interp(at, self._log_heights, east), np.interp(at, self._log_heights, north)
        return np.asarray(np.degrees(np.arctan2(*there)) % 360)

    def gust_excess_ms(self, height_m: ArrayLike) -> Floats:
        """How much the gust exceeds the mean wind [m/s] at heights [m].

        A reported gust's excess is nearly constant with height in the lowest 120 m.
        Without one: 3.0·U(10)/ln(10/z0), z0 at most 1.0 m, which is the factor 1.52
        of [4]_ over open ground.
        """
        z = np.asarray(height_m, dtype=float)
        reported = [(x.height_m, x.speed_ms, x.gust_ms) for x in self.levels if x.gust_ms is not None]
        if reported:
            excess = [max(0.0, gust - speed) for _, speed, gust in reported]
            logs = np.log([height for height, _, _ in reported])
            return np.asarray(np.interp(self._log_z(z), logs, excess))
        at_ten = float(self.speed_ms(10.0))
        return np.full_like(z, 3.0 * at_ten / math.log(10.0 / min(self.roughness_m, 1.0)))

    def gust_ms(self, height_m: ArrayLike) -> Floats:
        """Gust [m/s] at heights [m]."""
        return self.speed_ms(height_m) + self.gust_excess_ms(height_m)

    def at(self, height_m: float) -> Wind:
        """The wind at one height [m]."""
        return Wind(
            height_m=height_m,
            speed_ms=float(self.speed_ms(height_m)),
            gust_ms=float(self.gust_ms(height_m)),
            direction_deg=float(self.direction_deg(height_m)),
        )


def hover_wind_ms(
    tilt_deg: float, fastest_ms: float, max_tilt_deg: float, loading: float = 1.0, relative_density: float = 1.0
) -> float:
    """Wind [m/s] that an aircraft leans into while it holds still: V = Vmax·√(k·tan θ / (σ·tan θmax)).

    tilt_deg: the lean read in the hover, 0 up to the greatest [°]. fastest_ms: airspeed at the
    greatest tilt. loading: k, flying mass over own mass. relative_density: σ, over sea level's. The drag law is
    that of the power model; common practice. Raises ValueError outside the range.

    >>> round(hover_wind_ms(10, 16, 35), 1)
    8.0
    """
    if not 0 <= tilt_deg <= max_tilt_deg < 90:
        raise ValueError("the tilt must be from 0 to the greatest tilt")
    lean = math.tan(math.radians(tilt_deg)) / math.tan(math.radians(max_tilt_deg))
    return fastest_ms * math.sqrt(loading * lean / relative_density)

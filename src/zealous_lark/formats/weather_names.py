"""What forecasts call things in files of all kinds: names and units by the standards, and the hours made of them.

References
----------
.. [1] CF standard names, table 85; UCUM. Quoted from memory.
.. [2] Winds are measured at 10 m: WMO-No. 8, quoted from memory.
.. [3] Magnus' formula with the constants of Sonntag (1990), quoted from memory.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.formats.errors import BadFileError

STANDARD_HEIGHT_M = 10.0
"""Height of a wind that does not say its own [m] [2]_."""
MOST_TIMES = 400

Convert = Callable[[float], float]


def _times(factor: float) -> Convert:
    return lambda value: value * factor


_SPEEDS: Mapping[str, Convert] = {
    **dict.fromkeys(("m/s", "m.s-1", "m s-1", "ms-1", "m s**-1"), _times(1)),
    **dict.fromkeys(("km/h", "km h-1", "km.h-1", "kph"), _times(1 / 3.6)),
    **dict.fromkeys(("kn", "kt", "kts", "knot", "knots", "[kn_i]"), _times(1852 / 3600)),
    **dict.fromkeys(("mph", "mi/h", "[mi_i]/h"), _times(0.44704)),
}
_ANGLES: Mapping[str, Convert] = {
    **dict.fromkeys(("deg", "degree", "degrees", "°", "degree_true", "degrees_true"), _times(1)),
    "rad": math.degrees,
}
_TEMPERATURES: Mapping[str, Convert] = {
    **dict.fromkeys(("cel", "°c", "degc", "c", "degree_celsius", "celsius"), _times(1)),
    **dict.fromkeys(("k", "kelvin"), lambda k: k - 273.15),
    **dict.fromkeys(("[degf]", "°f", "degf", "f"), lambda f: (f - 32) / 1.8),
}
_SHARES: Mapping[str, Convert] = {
    **dict.fromkeys(("%", "percent"), _times(1)),
    **dict.fromkeys(("1", "", "(0 - 1)", "fraction"), _times(100)),
}
_LENGTHS: Mapping[str, Convert] = {
    **dict.fromkeys(("m", "metre", "meter", "metres", "meters"), _times(1)),
    "km": _times(1000),
    **dict.fromkeys(("[mi_i]", "mi", "mile", "miles"), _times(1609.344)),
    **dict.fromkeys(("ft", "[ft_i]"), _times(0.3048)),
}
# A kilogram of water on a square metre stands one millimetre high.
_RAINS: Mapping[str, Convert] = {
    **dict.fromkeys(("mm/h", "mm h-1", "mm.h-1", "kg/m2/h", "kg m-2 h-1"), _times(1)),
    **dict.fromkeys(("kg m-2 s-1", "kg.m-2.s-1", "kg/m2/s", "kg/(m2.s)", "mm/s"), _times(3600)),
    **dict.fromkeys(("m/s", "m s-1", "m.s-1"), _times(3.6e6)),
}
_PURE: Mapping[str, Convert] = dict.fromkeys(("1", "", "index"), _times(1))


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a standard name fills, and the units that it may come in."""

    fills: str
    units: Mapping[str, Convert]
    wind: bool = False


_MEANINGS: Mapping[str, Meaning] = {
    "wind_speed": Meaning("speed", _SPEEDS, wind=True),
    "wind_from_direction": Meaning("from", _ANGLES, wind=True),
    "wind_to_direction": Meaning("to", _ANGLES, wind=True),
    "wind_speed_of_gust": Meaning("gust", _SPEEDS, wind=True),
    "eastward_wind": Meaning("east", _SPEEDS, wind=True),
    "northward_wind": Meaning("north", _SPEEDS, wind=True),
    "air_temperature": Meaning("temperature_c", _TEMPERATURES),
    "dew_point_temperature": Meaning("dew_point_c", _TEMPERATURES),
    "relative_humidity": Meaning("humidity_pct", _SHARES),
    "cloud_area_fraction": Meaning("cloud_pct", _SHARES),
    "precipitation_flux": Meaning("rain_mmh", _RAINS),
    "rainfall_flux": Meaning("rain_mmh", _RAINS),
    "rainfall_rate": Meaning("rain_mmh", _RAINS),
    "lwe_precipitation_rate": Meaning("rain_mmh", _RAINS),
    "visibility_in_air": Meaning("visibility_m", _LENGTHS),
    "cloud_base_height": Meaning("cloud_base_m", _LENGTHS),
    "planetary_k_index": Meaning("kp", _PURE),
}
_SYNONYMS = {
    "wind_direction": "wind_from_direction",
    "wind_gust": "wind_speed_of_gust",
    "wind_gusts": "wind_speed_of_gust",
    "temperature": "air_temperature",
    "dew_point": "dew_point_temperature",
    "visibility": "visibility_in_air",
    "kp_index": "planetary_k_index",
}
_HEIGHT = re.compile(r"[ _-]*(?:at[ _])?(\d+(?:\.\d+)?)[ _-]?m(?:etres?)?(?:[ _]above[ _]ground)?$")


@dataclass(frozen=True, slots=True)
class PointForecast:
    """What was read: the forecast, and the point that it was worked out for [°]; None where it says none."""

    forecast: Forecast
    point: tuple[float, float] | None


@dataclass
class Moment:
    """What is said of one time: figures by name, and winds by their height [m]."""

    figures: dict[str, float] = field(default_factory=dict)
    winds: dict[float, dict[str, float]] = field(default_factory=dict)


def meaning_of(told: Iterable[str], also: Iterable[str] = ()) -> tuple[Meaning, float | None] | None:
    """What the first of some names that is known means, and the height in any of them or of the others [m].

    None for what Lark has no use for.
    """
    told = [t.strip().lower() for t in told]
    heights = [float(m[1]) for m in map(_HEIGHT.search, (*map(str.lower, also), *told)) if m]
    for name in told:
        plain = re.sub(r"[ -]+", "_", _HEIGHT.sub("", name))
        if found := _MEANINGS.get(_SYNONYMS.get(plain, plain)):
            return found, heights[0] if heights else None
    return None


def converter(key: str, written: Iterable[str], meaning: Meaning) -> Convert:
    """How a figure becomes SI, by the first way of writing its unit that is known. Raises BadFileError."""
    written = [w.strip().lower() for w in written]
    for one in written:
        if one in meaning.units:
            return meaning.units[one]
    allowed = ", ".join(u for u in meaning.units if u)
    raise BadFileError(f"{key} in the unit {next(filter(None, written), 'none')}", f"one of {allowed}")


def _level(height: float, said: dict[str, float]) -> WindLevel | None:
    """A wind, where speed and direction are known; a gust is never under the mean."""
    speed, towards = said.get("speed"), said.get("from")
    if towards is None and "to" in said:
        towards = said["to"] + 180
    if "east" in said and "north" in said:
        speed = math.hypot(said["east"], said["north"]) if speed is None else speed
        if towards is None:
            towards = math.degrees(math.atan2(-said["east"], -said["north"]))
    if speed is None or towards is None:
        return None
    gust = said.get("gust")
    return WindLevel(height, speed, towards % 360, WindSource.FORECAST, None if gust is None else max(gust, speed))


def dew_point_c(temperature_c: float, humidity_pct: float) -> float:
    """Dew point [°C] of air at a relative humidity [3]_.

    >>> round(dew_point_c(20, 50), 1)
    9.3
    """
    a, b = 17.62, 243.12
    share = math.log(max(humidity_pct, 1.0) / 100) + a * temperature_c / (b + temperature_c)
    return b * share / (a - share)


def hour_of(at: datetime, moment: Moment) -> Hour:
    """The hour of what is said of a moment; what needs another figure to be known is left out."""
    figures: dict[str, Any] = dict(moment.figures)
    humidity = figures.pop("humidity_pct", None)
    if humidity is not None and "temperature_c" in figures:
        figures.setdefault("dew_point_c", dew_point_c(figures["temperature_c"], humidity))
    if "rain_mmh" in figures:
        figures["rain_mmh"] = max(figures["rain_mmh"], 0.0)  # packed values end a little under nought
    if "cloud_pct" in figures:
        figures["cloud_pct"] = min(max(figures["cloud_pct"], 0.0), 100.0)
    winds = [w for h, said in sorted(moment.winds.items()) if (w := _level(h, said)) is not None]
    return Hour(at, tuple(winds), **figures)


def point_forecast(
    moments: Mapping[datetime, Moment],
    points: Iterable[tuple[float, float]],
    asked: tuple[float, float],
    source: str,
    issued_at: datetime,
    allowed: str,
) -> PointForecast:
    """The forecast for a point [°], and of the points that it says it is for the one farthest away.

    Raises BadFileError for too many times, and for hours without any wind.
    """
    hours = tuple(hour_of(at, moments[at]) for at in sorted(moments))
    if len(hours) > MOST_TIMES:
        raise BadFileError(f"{len(hours)} times", f"up to {MOST_TIMES}")
    if not any(hour.winds for hour in hours):
        raise BadFileError("no wind with its direction at a height above the ground", allowed)
    far = max(points, key=lambda p: bearing_and_distance(*asked, *p)[1], default=None)
    return PointForecast(Forecast(source, issued_at, hours), far)

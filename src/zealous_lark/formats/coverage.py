"""A forecast as CoverageJSON, the answer that OGC API – Environmental Data Retrieval gives for a position.

What a parameter is, it says itself: by the CF standard name at the end of its observed property's address, else by the
property's label, else by its own key; and by its unit, in UCUM or as people write it. Heights come from the vertical
axis, else from the parameter's own name ("wind_speed_10m"); a wind without any is taken to be that of 10 m.

References
----------
.. [1] CoverageJSON, OGC 21-069r2; OGC API – EDR, OGC 19-086r6. Quoted from memory.
.. [2] CF standard names, table 85; UCUM. Quoted from memory.
.. [3] Winds are measured at 10 m: WMO-No. 8, quoted from memory.
.. [4] Magnus' formula with the constants of Sonntag (1990), quoted from memory.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

import numpy as np
from covjson_pydantic.coverage import Coverage, CoverageCollection
from covjson_pydantic.domain import CompactAxis, Domain
from covjson_pydantic.ndarray import NdArrayFloat, NdArrayInt
from covjson_pydantic.parameter import Parameter
from pydantic import ValidationError

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.formats.errors import BadFileError, telling

STANDARD_HEIGHT_M = 10.0
"""Height of a wind that does not say its own [m] [3]_."""
MOST_TIMES = 400
_WHAT = "a coverage"
_ALLOWED = "CoverageJSON with winds and their directions, by time at one point"

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
class _Meaning:
    """What a standard name fills, and the units that it may come in."""

    fills: str
    units: Mapping[str, Convert]
    wind: bool = False


_MEANINGS: Mapping[str, _Meaning] = {
    "wind_speed": _Meaning("speed", _SPEEDS, wind=True),
    "wind_from_direction": _Meaning("from", _ANGLES, wind=True),
    "wind_to_direction": _Meaning("to", _ANGLES, wind=True),
    "wind_speed_of_gust": _Meaning("gust", _SPEEDS, wind=True),
    "eastward_wind": _Meaning("east", _SPEEDS, wind=True),
    "northward_wind": _Meaning("north", _SPEEDS, wind=True),
    "air_temperature": _Meaning("temperature_c", _TEMPERATURES),
    "dew_point_temperature": _Meaning("dew_point_c", _TEMPERATURES),
    "relative_humidity": _Meaning("humidity_pct", _SHARES),
    "cloud_area_fraction": _Meaning("cloud_pct", _SHARES),
    "precipitation_flux": _Meaning("rain_mmh", _RAINS),
    "rainfall_flux": _Meaning("rain_mmh", _RAINS),
    "rainfall_rate": _Meaning("rain_mmh", _RAINS),
    "lwe_precipitation_rate": _Meaning("rain_mmh", _RAINS),
    "visibility_in_air": _Meaning("visibility_m", _LENGTHS),
    "cloud_base_height": _Meaning("cloud_base_m", _LENGTHS),
    "planetary_k_index": _Meaning("kp", _PURE),
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
class CoverageForecast:
    """What was read: the forecast, and the point that it was worked out for [°]; None where it says none."""

    forecast: Forecast
    point: tuple[float, float] | None


@dataclass
class _Moment:
    """What is said of one time: figures by name, and winds by their height [m]."""

    figures: dict[str, float] = field(default_factory=dict)
    winds: dict[float, dict[str, float]] = field(default_factory=dict)


def _words(text: Any) -> str:
    """A label, which may come in several languages."""
    found = text if isinstance(text, str) else next(iter(getattr(text, "root", text or {"": ""}).values()), "")
    return str(found)


def _meaning(key: str, parameter: Parameter) -> tuple[_Meaning, float | None] | None:
    """What a parameter is, and the height in its name [m]; None for one that Lark has no use for."""
    observed = parameter.observedProperty
    told = re.split(r"[/#:]", str(observed.id or ""))[-1], _words(observed.label), key
    heights = [float(m[1]) for m in map(_HEIGHT.search, map(str.lower, (key, _words(parameter.label), *told))) if m]
    for name in told:
        plain = re.sub(r"[ -]+", "_", _HEIGHT.sub("", name.strip().lower()))
        if found := _MEANINGS.get(_SYNONYMS.get(plain, plain)):
            return found, heights[0] if heights else None
    return None


def _converter(key: str, parameter: Parameter, meaning: _Meaning) -> Convert:
    unit = parameter.unit
    symbol = None if unit is None else unit.symbol
    told = [] if unit is None else [symbol if isinstance(symbol, str) else getattr(symbol, "value", ""), unit.label]
    written = [_words(w).strip().lower() for w in told] or [""]
    for one in written:
        if one in meaning.units:
            return meaning.units[one]
    allowed = ", ".join(u for u in meaning.units if u)
    raise BadFileError(f"{key} in the unit {next(filter(None, written), 'none')}", f"one of {allowed}")


def _axis(axis: Any) -> list[float]:
    if axis is None:
        return []
    if isinstance(axis, CompactAxis):
        return [float(v) for v in np.linspace(axis.start, axis.stop, min(axis.num, 100_000))]
    return [float(v) for v in axis.values]


def _nearest(domain: Domain, latitude: float, longitude: float) -> tuple[int, int, tuple[float, float] | None]:
    """Index along x and y of the point that is nearest, and where that is [°]."""
    xs, ys = _axis(domain.axes.x), _axis(domain.axes.y)
    if not xs or not ys:
        return 0, 0, None
    if not all(-180 <= x <= 360 for x in xs) or not all(-90 <= y <= 90 for y in ys):
        raise BadFileError("a point that is not in degrees", "longitude and latitude (CRS84)")
    x = min(range(len(xs)), key=lambda i: abs((xs[i] - longitude + 180) % 360 - 180))
    y = min(range(len(ys)), key=lambda i: abs(ys[i] - latitude))
    return x, y, (ys[y], xs[x] - 360 if xs[x] > 180 else xs[x])


def _is_pressure(domain: Domain, shared: Any) -> bool:
    """Whether the vertical axis counts pressure, which falls from the ground up and is no height."""
    for reference in [*(domain.referencing or []), *(shared or [])]:
        if "z" in reference.coordinates and "pressure" in reference.model_dump_json().lower():
            return True
    return False


def _values(array: Any, times: int, x: int, y: int) -> Any:
    """Values by time and level, shape (t, z); one level where they have none."""
    if not isinstance(array, NdArrayFloat | NdArrayInt):
        raise BadFileError("values that are not numbers in the answer itself", "NdArray of float or integer")
    names, shape = array.axisNames or [], array.shape or []
    values = np.array([math.nan if v is None else float(v) for v in array.values]).reshape(shape)
    for name, at in (("x", x), ("y", y)):
        if name in names:
            place = names.index(name)
            values, names = np.take(values, at, place), [n for n in names if n != name]
    if set(names) - {"t", "z"}:
        raise BadFileError(f"values along {', '.join(names)}", "values along t, z, y and x")
    if names == ["z", "t"]:
        values = values.T
    elif names == ["t"]:
        values = values[:, None]
    elif names == ["z"]:
        values = values[None, :]
    return values.reshape(times, -1)


def _take(coverage: Coverage, shared: CoverageCollection | None, at: tuple[float, float], moments: Any) -> Any:
    """Put what a coverage says into the moments; the point that it is for."""
    domain = coverage.domain
    x, y, point = _nearest(domain, *at)
    times = [] if domain.axes.t is None else list(domain.axes.t.values)
    if not times:
        raise BadFileError("values without their times", "an axis t")
    if len(times) > MOST_TIMES:
        raise BadFileError(f"{len(times)} times", f"up to {MOST_TIMES}")
    levels = _axis(domain.axes.z)
    pressure = _is_pressure(domain, None if shared is None else shared.referencing)
    parameters = {**(shared.parameters.root if shared and shared.parameters else {})}
    parameters |= coverage.parameters.root if coverage.parameters else {}
    for key, array in coverage.ranges.items():
        told = None if key not in parameters else _meaning(key, parameters[key])
        if told is None:
            continue
        meaning, own_height = told
        convert = _converter(key, parameters[key], meaning)
        values = _values(array, len(times), x, y)
        heights = levels if values.shape[1] == len(levels) else [STANDARD_HEIGHT_M] * values.shape[1]
        for (row, column), value in np.ndenumerate(values):
            if math.isnan(value):
                continue
            moment = moments.setdefault(times[row], _Moment())
            if not meaning.wind:
                # Of several levels the one nearest to the ground says it, which of pressure is the highest.
                nearest = max(heights) if pressure else min(heights)
                if heights[column] == nearest:
                    moment.figures[meaning.fills] = round(convert(float(value)), 4)
                continue
            if pressure and own_height is None:
                continue
            height = own_height or heights[column]
            if 0.5 <= height <= 1000:
                moment.winds.setdefault(height, {})[meaning.fills] = round(convert(float(value)), 4)
    return point


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
    """Dew point [°C] of air at a relative humidity [4]_.

    >>> round(dew_point_c(20, 50), 1)
    9.3
    """
    a, b = 17.62, 243.12
    share = math.log(max(humidity_pct, 1.0) / 100) + a * temperature_c / (b + temperature_c)
    return b * share / (a - share)


def _hour(at: datetime, moment: _Moment) -> Hour:
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


def _coverages(data: bytes) -> Iterator[tuple[Coverage, CoverageCollection | None]]:
    try:
        # What a coverage is, its own `type` says; looked for in the beginning before all of it is taken apart.
        if re.search(rb'"type"\s*:\s*"CoverageCollection"', data):
            collection = CoverageCollection.model_validate_json(data)
            yield from ((one, collection) for one in collection.coverages)
        else:
            yield Coverage.model_validate_json(data), None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the beginning"
        raise BadFileError(f"no CoverageJSON: at {where[:80]}, {first['msg'][:80]}", _ALLOWED) from None


def read_coverage(data: bytes, source: str, issued_at: datetime, latitude: float, longitude: float) -> CoverageForecast:
    """A forecast for a point [°] out of CoverageJSON, issued at a time (aware). Raises BadFileError."""
    moments: dict[datetime, _Moment] = {}
    points: list[tuple[float, float]] = []
    with telling(_WHAT, _ALLOWED):
        for coverage, shared in _coverages(data):
            point = _take(coverage, shared, (latitude, longitude), moments)
            points += [] if point is None else [point]
    hours = tuple(_hour(at, moments[at]) for at in sorted(moments))
    if len(hours) > MOST_TIMES:
        raise BadFileError(f"{len(hours)} times", f"up to {MOST_TIMES}")
    if not any(hour.winds for hour in hours):
        raise BadFileError("no wind with its direction at a height above the ground", _ALLOWED)
    far = max(points, key=lambda p: bearing_and_distance(latitude, longitude, *p)[1], default=None)
    return CoverageForecast(Forecast(source, issued_at, hours), far)

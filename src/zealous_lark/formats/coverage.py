"""A forecast as CoverageJSON, the answer that OGC API – Environmental Data Retrieval gives for a position.

What a parameter is, it says itself: by the CF standard name at the end of its observed property's address, else by the
property's label, else by its own key; and by its unit, in UCUM or as people write it. Heights come from the vertical
axis, else from the parameter's own name ("wind_speed_10m"); a wind without any is taken to be that of 10 m.

References
----------
.. [1] CoverageJSON, OGC 21-069r2; OGC API – EDR, OGC 19-086r6. Quoted from memory.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from datetime import datetime
from typing import Any

import numpy as np
from covjson_pydantic.coverage import Coverage, CoverageCollection
from covjson_pydantic.domain import CompactAxis, Domain
from covjson_pydantic.ndarray import NdArrayFloat, NdArrayInt
from covjson_pydantic.parameter import Parameter
from pydantic import ValidationError

from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.formats.weather_names import (
    MOST_TIMES,
    STANDARD_HEIGHT_M,
    Convert,
    Meaning,
    Moment,
    PointForecast,
    converter,
    meaning_of,
    point_forecast,
)

_WHAT = "a coverage"
_ALLOWED = "CoverageJSON with winds and their directions, by time at one point"


def _words(text: Any) -> str:
    """A label, which may come in several languages."""
    found = text if isinstance(text, str) else next(iter(getattr(text, "root", text or {"": ""}).values()), "")
    return str(found)


def _meaning(key: str, parameter: Parameter) -> tuple[Meaning, float | None] | None:
    """What a parameter is, and the height in its name [m]; None for one that Lark has no use for."""
    observed = parameter.observedProperty
    told = re.split(r"[/#:]", str(observed.id or ""))[-1], _words(observed.label), key
    return meaning_of(told, (key, _words(parameter.label)))


def _converter(key: str, parameter: Parameter, meaning: Meaning) -> Convert:
    unit = parameter.unit
    symbol = None if unit is None else unit.symbol
    told = [] if unit is None else [symbol if isinstance(symbol, str) else getattr(symbol, "value", ""), unit.label]
    return converter(key, map(_words, told) if told else [""], meaning)


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
            moment = moments.setdefault(times[row], Moment())
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


def read_coverage(data: bytes, source: str, issued_at: datetime, latitude: float, longitude: float) -> PointForecast:
    """A forecast for a point [°] out of CoverageJSON, issued at a time (aware). Raises BadFileError."""
    moments: dict[datetime, Moment] = {}
    points: list[tuple[float, float]] = []
    with telling(_WHAT, _ALLOWED):
        for coverage, shared in _coverages(data):
            point = _take(coverage, shared, (latitude, longitude), moments)
            points += [] if point is None else [point]
    return point_forecast(moments, points, (latitude, longitude), source, issued_at, _ALLOWED)

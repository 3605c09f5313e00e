"""A forecast as a table: one row for each time and height, columns found by their names.

`time` with its UTC offset and `height_m` (or `height_ft`) are needed; speeds may be in m/s, km/h, knots or mph by the
ending of their column's name, temperatures in °C or °F. What holds for the whole hour may stand in any of its rows.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.tables import Table

MAX_ROWS = 10_000


@dataclass(frozen=True, slots=True)
class _Column:
    """What a column fills, how its number becomes SI, and the range that is allowed in SI."""

    fills: str
    to_si: Callable[[float], float]
    least: float
    most: float


def _times(factor: float) -> Callable[[float], float]:
    return lambda value: value * factor


_SPEEDS = {"ms": 1.0, "kmh": 1 / 3.6, "kn": 1852 / 3600, "mph": 0.44704}
_LENGTHS = {"m": 1.0, "ft": METRES_PER_FOOT}
_COLUMNS: dict[str, _Column] = {
    **{f"height_{u}": _Column("height_m", _times(f), 0.5, 1_000) for u, f in _LENGTHS.items()},
    **{f"{n}_{u}": _Column(f"{n}_ms", _times(f), 0, 75) for n in ("speed", "gust") for u, f in _SPEEDS.items()},
    "direction_deg": _Column("direction_deg", _times(1), 0, 360),
    **{f"{n}_c": _Column(f"{n}_c", _times(1), -60, 60) for n in ("temperature", "dew_point")},
    **{f"{n}_f": _Column(f"{n}_c", lambda f: (f - 32) / 1.8, -60, 60) for n in ("temperature", "dew_point")},
    "cloud_pct": _Column("cloud_pct", _times(1), 0, 100),
    "rain_mmh": _Column("rain_mmh", _times(1), 0, 500),
    **{f"visibility_{u}": _Column("visibility_m", _times(f), 0, 200_000) for u, f in (*_LENGTHS.items(), ("km", 1e3))},
    "kp": _Column("kp", _times(1), 0, 9),
}
COLUMNS = ("time", *_COLUMNS)
_WHEN = "a time with its UTC offset, like 2026-09-27T06:00+03:00"


def read_forecast_csv(data: bytes, name: str, now: datetime) -> Forecast:
    """A forecast from a table of comma-, semicolon- or tab-separated values, issued now as far as is known.

    Raises BadFileError naming the row and the column.
    """
    rows = Table(data)
    names = [n.strip().lower() for n in next(rows, [])]
    _check_names(names)
    hours: dict[datetime, dict[str, float]] = {}
    winds: dict[datetime, dict[float, WindLevel]] = {}
    for cells in rows:
        if not any(c.strip() for c in cells):
            continue
        if rows.line_num > MAX_ROWS:
            raise BadFileError(f"more than {MAX_ROWS:,} rows", f"{MAX_ROWS:,} at most")
        at, said = _row(names, cells, rows.line_num, rows.mark)
        whole = hours.setdefault(at, {})
        level = _level(said, rows.line_num)
        if level is not None:
            winds.setdefault(at, {})[level.height_m] = level
        whole.update({k: v for k, v in said.items() if k in _OF_THE_HOUR})
    if not hours:
        raise BadFileError("no rows", "at least one row under the names of the columns")
    found = tuple(
        replace(Hour(at, tuple(w for _, w in sorted(winds.get(at, {}).items()))), **hours[at])  # type: ignore[arg-type]
        for at in sorted(hours)
    )
    return Forecast(f"Table {name}"[:120], now, found)


_OF_THE_HOUR = ("temperature_c", "dew_point_c", "cloud_pct", "rain_mmh", "visibility_m", "kp")


def _check_names(names: list[str]) -> None:
    for i, column in enumerate(names):
        if column not in COLUMNS:
            raise BadFileError(f"row 1, column {i + 1}: {column or 'no name'}", "one of " + ", ".join(COLUMNS))
        if names.index(column) != i:
            raise BadFileError(f"row 1: {column} twice", "each column once")
    if "time" not in names:
        raise BadFileError("no column time", "a column time, " + _WHEN)


def _row(names: list[str], cells: list[str], line: int, mark: str) -> tuple[datetime, dict[str, float]]:
    if len(cells) > len(names):
        raise BadFileError(f"row {line}: {len(cells)} values", f"{len(names)}, one for each column")
    at = None
    said: dict[str, float] = {}
    for name, cell in zip(names, (c.strip() for c in cells), strict=False):
        if name == "time":
            try:
                at = datetime.fromisoformat(cell)
            except ValueError:
                at = None
            if at is None or at.tzinfo is None or not 1990 <= at.year <= 2100:
                raise BadFileError(f"row {line}, time: {cell or 'nothing'}", _WHEN)
        elif cell:
            column = _COLUMNS[name]
            said[column.fills] = _number(cell, name, column, line, mark)
    if at is None:
        raise BadFileError(f"row {line}, time: nothing", _WHEN)
    return at, said


def _number(cell: str, name: str, column: _Column, line: int, mark: str) -> float:
    try:
        value = column.to_si(float(cell if mark == "," else cell.replace(",", ".")))
    except ValueError:
        value = math.nan
    if not column.least <= value <= column.most:
        raise BadFileError(
            f"row {line}, {name}: {cell}", f"a number from {column.least:g} to {column.most:g} in SI units"
        )
    return value


def _level(said: dict[str, float], line: int) -> WindLevel | None:
    if "speed_ms" not in said:
        return None
    for needed in ("height_m", "direction_deg"):
        if needed not in said:
            raise BadFileError(
                f"row {line}: a wind speed without {needed}", "a height and a direction with each wind speed"
            )
    gust = said.get("gust_ms")
    if gust is not None and gust < said["speed_ms"]:
        raise BadFileError(f"row {line}: a gust under the mean speed", "a gust of the mean speed or more")
    return WindLevel(said["height_m"], said["speed_ms"], said["direction_deg"] % 360, WindSource.FORECAST, gust)

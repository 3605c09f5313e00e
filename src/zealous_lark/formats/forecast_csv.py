"""A forecast as a table: one row for each time and height, columns found by their names.

`time` with its UTC offset and `height_m` (or `height_ft`) are needed; speeds may be in m/s, km/h, knots or mph by the
ending of their column's name, temperatures in °C or °F. What holds for the whole hour may stand in any of its rows.
A table with other names is read by the pilot's word on which column is which.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.units import METRES_PER_FOOT
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.tables import Table
from zealous_lark.formats.weather_names import meaning_of

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
COLUMNS = ("time", "time_utc", *_COLUMNS)
"""time_utc: a time in UTC, written without an offset."""
_WHEN = "a time with its UTC offset, like 2026-09-27T06:00+03:00"
_TIMES = ("time", "time_utc")
_UNIT_ENDINGS = {
    "m/s": "ms", "ms": "ms", "km/h": "kmh", "kmh": "kmh", "kph": "kmh", "kn": "kn", "kt": "kn", "kts": "kn",
    "knots": "kn", "mph": "mph", "°c": "c", "c": "c", "°f": "f", "f": "f", "m": "m", "ft": "ft", "km": "km",
    "%": "pct", "°": "deg", "deg": "deg", "mm/h": "mmh",
}  # fmt: skip
_OWN_NAMES = {
    "speed": "speed", "gust": "gust", "from": "direction", "temperature_c": "temperature", "dew_point_c": "dew_point",
    "cloud_pct": "cloud", "rain_mmh": "rain", "visibility_m": "visibility", "kp": "kp",
}  # fmt: skip
_HEADINGS = {
    "wind": "wind_speed", "speed": "wind_speed", "direction": "wind_direction", "wind from": "wind_direction",
    "gust": "wind_gust", "gusts": "wind_gust", "temp": "temperature", "dewpoint": "dew_point", "dew point": "dew_point",
    "clouds": "cloud_area_fraction", "cloud cover": "cloud_area_fraction", "rain": "rainfall_rate", "kp": "kp_index",
}  # fmt: skip
"""How tables head what the standards call otherwise."""
_USUAL = {
    "direction": "direction_deg",
    "cloud": "cloud_pct",
    "rain": "rain_mmh",
    "kp": "kp",
    "temperature": "temperature_c",
}


@dataclass(frozen=True, slots=True)
class Chosen:
    """The pilot's word on a table: what each column is (one of COLUMNS), and the height of its winds [m]."""

    columns: dict[str, str]
    height_m: float | None = None


@dataclass(frozen=True, slots=True)
class ForecastHead:
    """What a table has: its columns, its first rows, and what they seem to be.

    known: whether the columns' names say it all, so that nobody needs to be asked.
    """

    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    guess: Chosen
    known: bool


def read_forecast_head(data: bytes) -> ForecastHead:
    """What a table of a forecast has, for the pilot to say which column is which. Raises BadFileError."""
    rows = Table(data)
    columns = tuple(c.strip() for c in next(rows, []))
    if len(columns) < 3 or len(set(columns)) != len(columns):
        raise BadFileError(
            f"a table of {len(set(columns))} different columns", "a time, a wind speed and its direction"
        )
    first = tuple(tuple(r) for _, r in zip(range(3), rows, strict=False))
    known = all(c.lower() in COLUMNS for c in columns)
    guess: dict[str, str] = {}
    heights = []
    for i, column in enumerate(columns):
        what, height = _guess(column, first[0][i] if first and i < len(first[0]) else "")
        if what is not None and what not in guess.values():
            guess[column] = what
            heights += [] if height is None else [height]
    return ForecastHead(columns, first, Chosen(guess, heights[0] if len(set(heights)) == 1 else None), known)


def _guess(column: str, sample: str) -> tuple[str | None, float | None]:
    """What a column seems to be, by its name and a unit in brackets or at its end; and a height in its name [m]."""
    plain = column.strip().lower()
    if plain in COLUMNS:
        return plain, None
    if re.match(r"(date|time|valid|hour)", plain):
        return ("time" if re.search(r"(Z|[+-]\d\d:?\d\d)$", sample.strip()) else "time_utc"), None
    bracket = re.match(r"(.+?)\s*[(\[](.+?)[)\]]$", plain)
    name, unit = (bracket[1], bracket[2]) if bracket else (plain, "")
    name = name.replace("_", " ")
    found = meaning_of([_HEADINGS.get(name, name)])
    if found is None or (own := _OWN_NAMES.get(found[0].fills)) is None:
        return None, None
    ending = _UNIT_ENDINGS.get(unit.replace(" ", ""))
    if unit and ending is None:
        return None, None  # a unit that is not known is not taken for another
    what = f"{own}_{ending}" if ending else _USUAL.get(own, f"{own}_ms" if found[0].wind else None)
    return (what if what in COLUMNS else _USUAL.get(own)), found[1]


def read_forecast_csv(data: bytes, name: str, now: datetime, chosen: Chosen | None = None) -> Forecast:
    """A forecast from a table of comma-, semicolon- or tab-separated values, issued now as far as is known.

    chosen: what its columns are, where their names do not say so; other columns are then left alone.
    Raises BadFileError naming the row and the column.
    """
    rows = Table(data)
    head = [n.strip() for n in next(rows, [])]
    if chosen is None:
        names = [n.lower() for n in head]
        _check_names(names)
    else:
        names = _chosen_names(head, chosen)
    height = None if chosen is None else chosen.height_m
    hours: dict[datetime, dict[str, float]] = {}
    winds: dict[datetime, dict[float, WindLevel]] = {}
    for cells in rows:
        if not any(c.strip() for c in cells):
            continue
        if rows.line_num > MAX_ROWS:
            raise BadFileError(f"more than {MAX_ROWS:,} rows", f"{MAX_ROWS:,} at most")
        at, said = _row(names, cells, rows.line_num, rows.mark)
        whole = hours.setdefault(at, {})
        if height is not None:
            said.setdefault("height_m", height)
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


def _chosen_names(head: list[str], chosen: Chosen) -> list[str]:
    """What each column is by the pilot's word; an empty name for what is left alone."""
    for column, what in chosen.columns.items():
        if column not in head:
            raise BadFileError(f"column {column[:60]!r}", "one of " + ", ".join(head))
        if what not in COLUMNS:
            raise BadFileError(f"column {column[:60]!r} as {what[:40]!r}", "one of " + ", ".join(COLUMNS))
    said = list(chosen.columns.values())
    twice = next((w for w in said if said.count(w) > 1), None)
    if twice:
        raise BadFileError(f"two columns as {twice}", "one column for each")
    if not set(_TIMES) & set(said):
        raise BadFileError("no column for the time", "one as time or time_utc")
    if chosen.height_m is not None and not 0.5 <= chosen.height_m <= 1_000:
        raise BadFileError(f"winds at {chosen.height_m:g} m", "a height from 0.5 to 1,000 m")
    return [chosen.columns.get(column, "") for column in head]


def _check_names(names: list[str]) -> None:
    for i, column in enumerate(names):
        if column not in COLUMNS:
            raise BadFileError(f"row 1, column {i + 1}: {column or 'no name'}", "one of " + ", ".join(COLUMNS))
        if names.index(column) != i:
            raise BadFileError(f"row 1: {column} twice", "each column once")
    if not set(_TIMES) & set(names):
        raise BadFileError("no column time", "a column time, " + _WHEN)


def _row(names: list[str], cells: list[str], line: int, mark: str) -> tuple[datetime, dict[str, float]]:
    if len(cells) > len(names):
        raise BadFileError(f"row {line}: {len(cells)} values", f"{len(names)}, one for each column")
    at = None
    said: dict[str, float] = {}
    for name, cell in zip(names, (c.strip() for c in cells), strict=False):
        if not name:
            continue
        if name in _TIMES:
            try:
                at = datetime.fromisoformat(cell)
            except ValueError:
                at = None
            if name == "time_utc" and at is not None and at.tzinfo is None:
                at = at.replace(tzinfo=UTC)
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

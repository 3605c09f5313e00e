"""A forecast for one point out of a grid: GRIB (1 or 2) or netCDF in the CF conventions, read by GDAL.

The nearest cell is taken, nothing is interpolated. Winds given by components are taken from grids in degrees only: on a
turned grid they often follow the grid's own axes, and nothing in the file says so plainly.

References
----------
.. [1] WMO Manual on Codes, GRIB edition 2, code tables 4.1, 4.2 and 4.5. Quoted from memory.
.. [2] CF conventions 1.10: time axes as "hours since ...", vertical axes in metres. Quoted from memory.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from tempfile import TemporaryDirectory

import rasterio
from rasterio.warp import transform
from rasterio.windows import Window

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.raster import alone
from zealous_lark.formats.weather_names import (
    STANDARD_HEIGHT_M,
    Convert,
    Meaning,
    Moment,
    PointForecast,
    converter,
    meaning_of,
    point_forecast,
)

_ALLOWED = "GRIB or classic netCDF with winds and their directions, by time, over the place"
_MOST_BANDS = 20_000
_ELEMENTS = {
    "UGRD": "eastward_wind", "VGRD": "northward_wind", "WIND": "wind_speed", "WDIR": "wind_from_direction",
    "GUST": "wind_speed_of_gust", "TMP": "air_temperature", "DPT": "dew_point_temperature",
    "RH": "relative_humidity", "TCDC": "cloud_area_fraction", "VIS": "visibility_in_air", "PRATE": "precipitation_flux",
}  # fmt: skip
"""Standard names of GRIB's elements [1]_, as GDAL abbreviates them."""
_LEVEL = re.compile(r"(\d+(?:\.\d+)?)-([A-Z]+)")
_SINCE = re.compile(r"\s*(second|minute|hour|day)s? since (.+)", re.IGNORECASE)
_COMPONENT = re.compile(r"[uv](\d+)$")
_PLAIN = re.compile(r"\w{1,64}$")
_COMPONENTS = ("east", "north")


@dataclass(frozen=True, slots=True)
class _Layer:
    """One layer of a grid: what it is, for when, at which height above the ground [m], None for the surface."""

    key: str
    meaning: Meaning
    convert: Convert
    at: datetime
    height_m: float | None


def is_grid(data: bytes) -> bool:
    """Whether bytes are GRIB or netCDF of any kind."""
    return data[:4] in (b"GRIB", b"\x89HDF") or data[:3] == b"CDF"


def read_forecast_grid(data: bytes, name: str, latitude: float, longitude: float, now: datetime) -> PointForecast:
    """A forecast for a point [°] out of a grid's file. It is as old as it says, at least as old as its first hour.

    Raises BadFileError.
    """
    if data[:4] == b"\x89HDF":
        # An HDF5 file may name other files of this computer as places of its values.
        raise BadFileError("netCDF-4, which is HDF5", "classic netCDF: nccopy -k classic in.nc out.nc makes it")
    grib = data[:4] == b"GRIB"
    taken = _Taken(latitude, longitude)
    with TemporaryDirectory() as folder:
        path = f"{folder}/{'grid.grb' if grib else 'grid.nc'}"
        with open(path, "wb") as file:
            file.write(data)
        with alone(path, "GRIB" if grib else "netCDF", _ALLOWED) as source:
            parts = source.subdatasets
            if not parts:
                taken.all_of(source, grib)
        for part in parts:
            variable = part.rsplit(":", 1)[-1]
            if not grib and _PLAIN.match(variable):
                with alone(f"netcdf:{path}:{variable}", "netCDF", _ALLOWED) as source:
                    taken.all_of(source, grib)
    first = min(taken.moments, default=now)
    issued = min([now, first, *taken.issued])
    return point_forecast(taken.moments, taken.points, (latitude, longitude), f"File {name}"[:120], issued, _ALLOWED)


class _Taken:
    """What was taken of the layers of a file."""

    def __init__(self, latitude: float, longitude: float) -> None:
        self._at = latitude, longitude
        self.moments: dict[datetime, Moment] = {}
        self.points: list[tuple[float, float]] = []
        self.issued: list[datetime] = []
        self._lowest: dict[tuple[datetime, str], float] = {}
        self._said: dict[tuple[datetime, str, float | None], float] = {}

    def all_of(self, source: rasterio.DatasetReader, grib: bool) -> None:
        """Take what Lark has a use for of one dataset."""
        if source.count > _MOST_BANDS:
            raise BadFileError(f"{source.count:,} layers", f"at most {_MOST_BANDS:,}: cut the file to what is needed")
        cell: tuple[int, int] | None = None
        for band, layer in _grib_layers(source) if grib else _netcdf_layers(source):
            if cell is None:
                row, column, point = _cell(source, *self._at)
                cell = row, column
                self.points.append(point)
            if layer.meaning.fills in _COMPONENTS and not _in_degrees(source):
                raise BadFileError(
                    f"{layer.key}, a component of the wind on a turned grid",
                    "wind speed and direction, or a grid in degrees",
                )
            values = source.read(band, window=Window(cell[1], cell[0], 1, 1), masked=True)
            if values.mask.any() or not math.isfinite(float(values[0, 0])):
                continue
            self._put(layer, round(layer.convert(float(values[0, 0])), 4))
            if grib and (told := source.tags(band).get("GRIB_REF_TIME")):
                self.issued.append(_epoch(told))

    def _put(self, layer: _Layer, value: float) -> None:
        what = layer.at, layer.meaning.fills, layer.height_m
        if abs(self._said.setdefault(what, value) - value) > 1e-3:
            raise BadFileError(
                f"{layer.key} twice for {layer.at:%Y-%m-%d %H:%M} UTC", "one forecast, not several members"
            )
        moment = self.moments.setdefault(layer.at, Moment())
        if layer.meaning.wind:
            height = STANDARD_HEIGHT_M if not layer.height_m else layer.height_m
            if 0.5 <= height <= 1000:
                moment.winds.setdefault(height, {})[layer.meaning.fills] = value
            return
        # Of several levels the one nearest to the ground says it.
        height, key = layer.height_m or 0.0, (layer.at, layer.meaning.fills)
        if height <= self._lowest.get(key, math.inf):
            self._lowest[key] = height
            moment.figures[layer.meaning.fills] = value


def _grib_layers(source: rasterio.DatasetReader) -> Iterator[tuple[int, _Layer]]:
    for band in source.indexes:
        told = source.tags(band)
        name = _ELEMENTS.get(told.get("GRIB_ELEMENT", ""))
        level = _LEVEL.match(told.get("GRIB_SHORT_NAME", ""))
        found = None if name is None else meaning_of([name])
        if found is None or level is None or level[2] not in ("HTGL", "SFC", "EATM", "CCY", "MSL"):
            continue
        meaning, key = found[0], told["GRIB_ELEMENT"]
        convert = converter(key, [told.get("GRIB_UNIT", "").strip("[] ")], meaning)
        height = float(level[1]) if level[2] == "HTGL" else None
        yield band, _Layer(key, meaning, convert, _epoch(told.get("GRIB_VALID_TIME", "")), height)


def _epoch(told: str) -> datetime:
    found = re.match(r"\s*(\d{1,12})", told)
    if not found:
        raise BadFileError("a layer without its time", _ALLOWED)
    return _year(datetime(1970, 1, 1, tzinfo=UTC) + timedelta(seconds=int(found[1])))


def _year(at: datetime) -> datetime:
    if not 1990 <= at.year <= 2100:
        raise BadFileError(f"a time in the year {at.year}", "years from 1990 to 2100")
    return at


def _netcdf_layers(source: rasterio.DatasetReader) -> Iterator[tuple[int, _Layer]]:
    whole = source.tags()
    for band in source.indexes:
        told = source.tags(band)
        key = told.get("NETCDF_VARNAME", "")
        found = meaning_of([told.get("standard_name", ""), told.get("long_name", ""), key], [key])
        if found is None:
            return
        meaning, own_height = found
        if own_height is None and (named := _COMPONENT.match(key)):
            own_height = float(named[1])
        convert = converter(key, [told.get("units", "")], meaning)
        at, height = None, None
        for dimension in (d for d in told if d.startswith("NETCDF_DIM_")):
            axis, value = dimension.removeprefix("NETCDF_DIM_"), told[dimension]
            unit = whole.get(f"{axis}#units", "")
            if _SINCE.match(unit):
                at = _moment(value, unit, whole.get(f"{axis}#calendar", "standard"))
            elif unit in ("m", "metre", "meter", "metres", "meters"):
                height = float(value)
            elif not re.fullmatch(r"\{1,\d+\}", whole.get(f"{dimension}_DEF", "{1,0}")):
                raise BadFileError(f"{key} along {axis}", "values by time and height in metres, one forecast to a file")
        if at is None:
            raise BadFileError(f"{key} without its times", "an axis of time, as “hours since …”")
        yield band, _Layer(key, meaning, convert, at, own_height if height is None else height)


def _moment(value: str, unit: str, calendar: str) -> datetime:
    found = _SINCE.match(unit)
    assert found is not None
    if calendar not in ("standard", "gregorian", "proleptic_gregorian"):
        raise BadFileError(f"the calendar {calendar[:40]}", "the standard calendar")
    try:
        since = datetime.fromisoformat(found[2].strip().removesuffix("UTC").strip())
        return _year(
            (since if since.tzinfo else since.replace(tzinfo=UTC)) + timedelta(**{f"{found[1].lower()}s": float(value)})
        )
    except (ValueError, OverflowError):
        raise BadFileError(f"times in {unit[:60]!r}", "an axis of time, as “hours since 2026-09-27 00:00”") from None


def _in_degrees(source: rasterio.DatasetReader) -> bool:
    return source.crs is None or source.crs.is_geographic


def _cell(source: rasterio.DatasetReader, latitude: float, longitude: float) -> tuple[int, int, tuple[float, float]]:
    """Row and column of the cell that a point [°] is in, and where its middle is [°]."""
    x, y = longitude, latitude
    if not _in_degrees(source):
        (x,), (y,) = transform("EPSG:4326", source.crs, [longitude], [latitude])
    inverse = ~source.transform
    places = [x, x + 360, x - 360] if _in_degrees(source) else [x]
    for across in places:
        column, row = (math.floor(v) for v in inverse @ (across, y))
        if 0 <= row < source.height and 0 <= column < source.width:
            there, up = source.transform @ (column + 0.5, row + 0.5)
            if not _in_degrees(source):
                (there,), (up,) = transform(source.crs, "EPSG:4326", [there], [up])
            return row, column, (up, (there + 180) % 360 - 180)
    raise BadFileError("a grid that does not cover the place", f"one around {latitude:.3f}, {longitude:.3f}")

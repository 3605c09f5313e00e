"""Forecasts out of files: GRIB, netCDF, CoverageJSON and tables, told apart by their first bytes."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from zealous_lark.core.forecast import Forecast
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_csv import Chosen, ForecastHead
from zealous_lark.formats.forecast_grid import is_grid
from zealous_lark.formats.weather_names import PointForecast
from zealous_lark.plan.forecast import MAX_HOURS, forecast_part
from zealous_lark.services.weather import keep
from zealous_lark.store import Database
from zealous_lark.store.reports import Report

MAX_FORECAST_BYTES = 60_000_000
SOURCE = "file"


def is_table(data: bytes) -> bool:
    """Whether a file is neither a grid nor a coverage."""
    return not is_grid(data) and data.lstrip()[:1] != b"{"


def head(data: bytes) -> ForecastHead | None:
    """The columns of a table; None for what says by itself what it is. Raises BadFileError."""
    return bounded.read(bounded.OF_A_FLIGHT, readers.read_forecast_head, data) if is_table(data) else None


def read(db: Database, data: bytes, name: str, chosen: Chosen | None, at: tuple[float, float], now: datetime) -> Report:
    """Read a forecast for a place [°] and keep it. Raises BadFileError."""
    found = _found(data, name, chosen, at, now)
    if len(found.forecast.hours) > MAX_HOURS:
        raise BadFileError(f"{len(found.forecast.hours)} hours", f"up to {MAX_HOURS}")
    point = {} if found.point is None else {"latitude": found.point[0], "longitude": found.point[1]}
    part = forecast_part(found.forecast).model_copy(update=point)
    return keep(db, SOURCE, *at, part, "", now)


def _found(data: bytes, name: str, chosen: Chosen | None, at: tuple[float, float], now: datetime) -> PointForecast:
    limits = bounded.OF_A_FLIGHT
    if is_grid(data):
        return bounded.read(limits, readers.read_forecast_grid, data, name, *at, now)
    if is_table(data):
        table: Forecast = bounded.read(limits, readers.read_forecast_csv, data, name, now, chosen)
        return PointForecast(_no_younger(table, now), None)
    found: PointForecast = bounded.read(limits, readers.read_coverage, data, f"File {name}"[:120], now, *at)
    return PointForecast(_no_younger(found.forecast, now), found.point)


def _no_younger(forecast: Forecast, now: datetime) -> Forecast:
    # Neither says when it was made: before its first hour, in doubt.
    return replace(forecast, issued_at=min(now, forecast.hours[0].at))

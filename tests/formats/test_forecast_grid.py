"""Forecasts out of GRIB and netCDF, written by other libraries than the one that reads them where there is one."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import rasterio
import xarray
from rasterio.crs import CRS
from rasterio.shutil import copy
from rasterio.transform import from_origin

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_grid import read_forecast_grid

LAT, LON = 58.62, 25.08
NOW = datetime(2026, 9, 27, 5, tzinfo=UTC)
REFERENCE = datetime(2026, 9, 27, tzinfo=UTC)
Field = tuple[int, int, int, int, int, float]
"""Category, number, level's kind, its height, hours ahead, value; temperatures in °C, as the writer takes them."""
UGRD, VGRD, TMP, GUST = (2, 2), (2, 3), (0, 0), (2, 22)


def grib(folder: Path, fields: list[Field], west: float = 24.5) -> bytes:
    """GRIB 2 of 5 × 4 cells of a quarter degree, each with its own value: the field's, and a hundredth a cell."""
    grid = {"width": 5, "height": 4, "dtype": "float64", "crs": CRS.from_epsg(4326)}
    with rasterio.open(
        folder / "a.tif", "w", "GTiff", count=len(fields), transform=from_origin(west, 59.0, 0.25, 0.25), **grid
    ) as file:
        for band, field in enumerate(fields, 1):
            file.write(field[5] + np.arange(20).reshape(4, 5) * 0.01, band)
    options = {}
    for band, (category, number, level, height, hours, _) in enumerate(fields, 1):
        options |= {
            f"BAND_{band}_DISCIPLINE": "0",
            f"BAND_{band}_IDS": f"CENTER=0 MASTER_TABLE=2 SIGNF_REF_TIME=1 REF_TIME={REFERENCE:%Y-%m-%dT%H:%M:%SZ}",
            f"BAND_{band}_PDS_PDTN": "0",
            f"BAND_{band}_PDS_TEMPLATE_ASSEMBLED_VALUES": (
                f"{category} {number} 2 0 0 0 0 1 {hours} {level} 0 {height} 255 0 0"
            ),
        }
    copy(folder / "a.tif", folder / "a.grb", driver="GRIB", **options)
    return (folder / "a.grb").read_bytes()


def usual(hours: tuple[int, ...] = (6, 7)) -> list[Field]:
    kinds = ((UGRD, 103, 10, 3.0), (VGRD, 103, 10, 4.0), (UGRD, 103, 100, 6.0), (VGRD, 103, 100, 8.0),
             (GUST, 1, 0, 11.0), (TMP, 103, 2, 7.0), (TMP, 103, 80, -3.0), (TMP, 100, 85_000, -13.0))  # fmt: skip
    return [(*kind, level, height, hour, value) for hour in hours for kind, level, height, value in kinds]


def test_grib_says_what_its_cell_says(tmp_path: Path) -> None:
    read = read_forecast_grid(grib(tmp_path, usual()), "a.grb", LAT, LON, NOW)
    # Row 1 (58.75 to 58.50), column 2 (25.00 to 25.25): the eighth cell.
    assert read.point == (pytest.approx(58.625), pytest.approx(25.125))
    first, second = read.forecast.hours
    assert (first.at, second.at) == (REFERENCE + timedelta(hours=6), REFERENCE + timedelta(hours=7))
    low, high = first.winds
    u, v = 3.07, 4.07
    assert (low.height_m, high.height_m) == (10, 100)
    assert low.speed_ms == pytest.approx(math.hypot(u, v), abs=1e-3)
    assert low.direction_deg == pytest.approx((270 - math.degrees(math.atan2(v, u))) % 360, abs=0.05)
    assert low.gust_ms == pytest.approx(11.07, abs=1e-3)
    # Two metres over the ground, not eighty, and not somewhere up in hectopascals.
    assert first.temperature_c == pytest.approx(7.07, abs=0.01)
    assert read.forecast.issued_at == REFERENCE


def test_the_other_way_of_counting_longitudes(tmp_path: Path) -> None:
    data = grib(tmp_path, usual((6,)), west=354.0)
    there = read_forecast_grid(data, "a.grb", LAT, -5.4, NOW)
    assert there.point == (pytest.approx(58.625), pytest.approx(-5.375))


def test_members_of_an_ensemble_are_no_one_forecast(tmp_path: Path) -> None:
    both = [*usual((6,)), (*UGRD, 103, 10, 6, 9.0)]
    with pytest.raises(BadFileError, match="one forecast, not several members"):
        read_forecast_grid(grib(tmp_path, both), "a.grb", LAT, LON, NOW)


def test_elsewhere_and_nothing_of_use(tmp_path: Path) -> None:
    with pytest.raises(BadFileError, match="does not cover the place"):
        read_forecast_grid(grib(tmp_path, usual()), "a.grb", 40.0, LON, NOW)
    with pytest.raises(BadFileError, match="no wind with its direction"):
        read_forecast_grid(grib(tmp_path, [(*TMP, 103, 2, 6, 7.0)]), "a.grb", LAT, LON, NOW)
    for data in (b"GRIB", grib(tmp_path, usual())[:400], b"CDF\x01" + bytes(40)):
        with pytest.raises(BadFileError):
            read_forecast_grid(data, "a.grb", LAT, LON, NOW)
    with pytest.raises(BadFileError, match="nccopy"):
        read_forecast_grid(b"\x89HDF\r\n\x1a\n" + bytes(40), "a.nc", LAT, LON, NOW)


def netcdf(folder: Path, change: Any = lambda d: d) -> bytes:
    """Winds at two heights, a temperature, a pressure that nobody asked for; CF, by SciPy's writer."""
    lat, lon = "lat", "lon"
    shape = (3, 2, 4, 5)
    cells = np.arange(20).reshape(4, 5) * 0.01
    axes = ("time", "height", lat, lon)
    speed = np.array([4.0, 8.0])[None, :, None, None] + cells + np.zeros(shape)
    data = xarray.Dataset(
        {
            "wspd": (axes, speed, {"standard_name": "wind_speed", "units": "m s-1"}),
            "wdir": (axes, np.full(shape, 240.0), {"standard_name": "wind_from_direction", "units": "degree"}),
            "t2m": (
                ("time", lat, lon),
                280 + cells + np.zeros((3, 4, 5)),
                {"long_name": "air temperature", "units": "K"},
            ),
            "sp": (("time", lat, lon), np.zeros((3, 4, 5)), {"standard_name": "surface_air_pressure", "units": "Pa"}),
        },
        coords={
            "time": ("time", [6.0, 7.0, 8.0], {"units": "hours since 2026-09-27 00:00:00", "calendar": "standard"}),
            "height": ("height", [10.0, 80.0], {"units": "m", "positive": "up"}),
            lat: (lat, 58.875 - np.arange(4) * 0.25, {"units": "degrees_north", "standard_name": "latitude"}),
            lon: (lon, 24.625 + np.arange(5) * 0.25, {"units": "degrees_east", "standard_name": "longitude"}),
        },
    )
    change(data).to_netcdf(folder / "a.nc", engine="scipy")
    return (folder / "a.nc").read_bytes()


def test_netcdf_by_its_standard_names(tmp_path: Path) -> None:
    read = read_forecast_grid(netcdf(tmp_path), "a.nc", LAT, LON, NOW)
    assert read.point == (pytest.approx(58.625), pytest.approx(25.125))
    assert [h.at.hour for h in read.forecast.hours] == [6, 7, 8]
    low, high = read.forecast.hours[0].winds
    assert (low.height_m, low.speed_ms, low.direction_deg) == (10, pytest.approx(4.07, abs=1e-3), 240)
    assert (high.height_m, high.speed_ms) == (80, pytest.approx(8.07, abs=1e-3))
    assert read.forecast.hours[0].temperature_c == pytest.approx(6.92, abs=0.01)
    # It does not say when it was made: not after now, and not after its first hour.
    assert read.forecast.issued_at == NOW
    late = read_forecast_grid(netcdf(tmp_path), "a.nc", LAT, LON, NOW + timedelta(days=2))
    assert late.forecast.issued_at == late.forecast.hours[0].at


def _units(data: xarray.Dataset) -> xarray.Dataset:
    data["wspd"].attrs["units"] = "furlongs per fortnight"
    return data


def _members(data: xarray.Dataset) -> xarray.Dataset:
    return data.expand_dims({"member": np.arange(2)})


def _calendar(data: xarray.Dataset) -> xarray.Dataset:
    data["time"].attrs["calendar"] = "360_day"
    return data


@pytest.mark.parametrize(("change", "said"), [(_units, "furlongs"), (_members, "along member"), (_calendar, "360_day")])
def test_what_netcdf_may_not_be(tmp_path: Path, change: Any, said: str) -> None:
    with pytest.raises(BadFileError, match=said):
        read_forecast_grid(netcdf(tmp_path, change), "a.nc", LAT, LON, NOW)


def test_a_height_in_a_components_name_counts(tmp_path: Path) -> None:
    def by_name(data: xarray.Dataset) -> xarray.Dataset:
        flat = data.isel(height=0, drop=True)
        flat["u100"] = flat["wspd"].assign_attrs(standard_name="eastward_wind")
        flat["v100"] = flat["wspd"].assign_attrs(standard_name="northward_wind")
        return flat.drop_vars(["wspd", "wdir"])

    read = read_forecast_grid(netcdf(tmp_path, by_name), "a.nc", LAT, LON, NOW)
    (wind,) = read.forecast.hours[0].winds
    assert (wind.height_m, wind.direction_deg) == (100, pytest.approx(225))

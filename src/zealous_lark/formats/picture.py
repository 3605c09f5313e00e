"""A picture from above, cut to the place and laid flat for a web map (EPSG:3857).

From a GeoTIFF in any projection, or from a scan without coordinates that is held by two points.

References
----------
.. [1] EPSG:3857, the spherical Mercator of web maps; its scale is 1 / cos(latitude).
"""

from __future__ import annotations

import math
import warnings
from dataclasses import dataclass
from pathlib import PurePath

import numpy as np
import rasterio
from affine import Affine
from rasterio.crs import CRS
from rasterio.enums import ColorInterp, Resampling
from rasterio.errors import NotGeoreferencedWarning
from rasterio.io import MemoryFile
from rasterio.transform import from_origin, xy
from rasterio.vrt import WarpedVRT
from rasterio.warp import transform, transform_bounds

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.raster import check_covers, check_size, opened, projection_of

HALF_M = 1_000.0
"""How far around the place a picture is kept [m]."""
MOST_SIDE = 2_048
"""Most pixels along a side."""
_ALLOWED = "a picture from above: a GeoTIFF of grey, of colours (three bands) or with a palette, eight bits each"
_SCAN = "a scan or screenshot as PNG, JPEG or TIFF, eight bits a colour"
_LEAST_APART_PX = 50
_FINEST_M, _COARSEST_M = 0.01, 25.0
_WEB = CRS.from_epsg(3857)


@dataclass(frozen=True, slots=True)
class Picture:
    """A JPEG whose edges are those of a box in longitude and latitude [°]; metres a pixel on the ground."""

    name: str
    data: bytes
    south: float
    west: float
    north: float
    east: float
    pixel_m: float


@dataclass(frozen=True, slots=True)
class Pin:
    """A point of a scan [pixels from its upper left corner] and where that is [°]."""

    column: float
    row: float
    latitude: float
    longitude: float


def read_picture(data: bytes, name: str, latitude: float, longitude: float, crs: str | None = None) -> Picture:
    """The picture around a place [°] out of a file's bytes. crs: as for `raster.read_terrain`. Raises BadFileError."""
    if PurePath(name).suffix.lower() not in (".tif", ".tiff"):
        raise BadFileError(f"{name[:80]!r}", _ALLOWED)
    with opened(data, name, _ALLOWED) as source:
        projection = projection_of(source, crs)
        return _cut(source, PurePath(name).name, latitude, longitude, projection, source.transform)


def read_scan(data: bytes, name: str, latitude: float, longitude: float, pins: tuple[Pin, Pin]) -> Picture:
    """The same out of a scan or screenshot without coordinates, held by two points of it. Raises BadFileError.

    It is taken as drawn to one scale in all directions, north wherever the two points have it.
    """
    with opened(data, name, _SCAN, scans=True) as source:
        if source.driver not in ("PNG", "JPEG", "GTiff"):
            raise BadFileError(f"{name[:80]!r}", _SCAN)
        local = CRS.from_proj4(f"+proj=aeqd +lat_0={latitude!r} +lon_0={longitude!r} +datum=WGS84 +units=m +no_defs")
        laid = _laid(pins, local, source.width, source.height)
        return _cut(source, PurePath(name).name, latitude, longitude, local, laid)


def _laid(pins: tuple[Pin, Pin], local: CRS, width: int, height: int) -> Affine:
    """From pixels to metres: the one way of turning, scaling and shifting that brings both points where they are."""
    if not all(0 <= p.column <= width and 0 <= p.row <= height for p in pins):
        raise BadFileError("a point beside the picture", f"two points on it, within {width} × {height} pixels")
    first, second = (complex(p.column, -p.row) for p in pins)
    if abs(second - first) < _LEAST_APART_PX:
        raise BadFileError("two points close together", f"two that are at least {_LEAST_APART_PX} pixels apart")
    xs, ys = transform("EPSG:4326", local, [p.longitude for p in pins], [p.latitude for p in pins])
    there = complex(xs[1] - xs[0], ys[1] - ys[0]) / (second - first)
    if not _FINEST_M <= abs(there) <= _COARSEST_M:
        raise BadFileError(
            f"points that make a pixel {abs(there):.3g} m wide",
            f"positions that are right for both: a pixel of {_FINEST_M} to {_COARSEST_M:.0f} m",
        )
    corner = complex(xs[0], ys[0]) - there * first
    return Affine(there.real, there.imag, corner.real, there.imag, -there.real, corner.imag)


def _bands(source: rasterio.DatasetReader) -> list[int]:
    if any(kind != "uint8" for kind in source.dtypes):
        raise BadFileError(f"values of the kind {source.dtypes[0]}", _ALLOWED)
    colours = [i for i, c in enumerate(source.colorinterp, 1) if c is not ColorInterp.alpha]
    if len(colours) not in (1, 3):
        raise BadFileError(f"{len(colours)} bands", _ALLOWED)
    return colours


def _cut(
    source: rasterio.DatasetReader, name: str, latitude: float, longitude: float, projection: CRS, laid: Affine
) -> Picture:
    """laid: from the pixels of the source to the units of the projection."""
    check_size(source)
    bands = _bands(source)
    down, across = (0, 0, source.height, source.height), (0, source.width, 0, source.width)
    eastings, northings = xy(laid, down, across, offset="ul")
    bounds = (min(eastings), min(northings), max(eastings), max(northings))
    check_covers(projection, bounds, latitude, longitude, "picture")
    (x,), (y,) = transform("EPSG:4326", _WEB, [longitude], [latitude])
    stretched = HALF_M / math.cos(math.radians(latitude))
    here = transform_bounds(projection, _WEB, *bounds)
    # No further than the picture goes, so that little of it is empty.
    west, south = max(x - stretched, here[0]), max(y - stretched, here[1])
    east, north = min(x + stretched, here[2]), min(y + stretched, here[3])
    around = transform_bounds(_WEB, projection, west, south, east, north)
    own = math.sqrt(abs(laid.determinant))
    pixel = max(own * (east - west) / (around[2] - around[0]), (east - west) / MOST_SIDE, (north - south) / MOST_SIDE)
    width, height = max(math.ceil((east - west) / pixel), 1), max(math.ceil((north - south) / pixel), 1)
    grid = from_origin(west, north, pixel, pixel)
    with WarpedVRT(
        source, src_crs=projection, src_transform=laid, crs=_WEB, transform=grid, width=width, height=height,
        add_alpha=True,
        resampling=Resampling.nearest if source.colorinterp[0] is ColorInterp.palette else Resampling.bilinear,
    ) as warped:  # fmt: skip
        found, seen = warped.read(bands), warped.dataset_mask()
    if not seen.any():
        raise BadFileError("nothing within a kilometre of the place", "a picture that covers it")
    if source.colorinterp[bands[0] - 1] is ColorInterp.palette:
        palette = source.colormap(bands[0])
        table = np.array([palette.get(i, (0, 0, 0, 0))[:3] for i in range(256)], dtype=np.uint8)
        found = np.moveaxis(table[found[0]], -1, 0)
    found = np.where(seen > 0, found, 255).astype(np.uint8)
    edges = transform_bounds(_WEB, "EPSG:4326", west, north - height * pixel, west + width * pixel, north)
    return Picture(name[:200], _jpeg(found), edges[1], edges[0], edges[3], edges[2],
                   pixel * math.cos(math.radians(latitude)))  # fmt: skip


def _jpeg(bands: np.ndarray) -> bytes:
    with MemoryFile() as memory, warnings.catch_warnings():
        warnings.simplefilter("ignore", NotGeoreferencedWarning)
        count, height, width = bands.shape
        with memory.open(driver="JPEG", width=width, height=height, count=count, dtype="uint8", quality=80) as jpeg:
            jpeg.write(bands)
        return bytes(memory.read())

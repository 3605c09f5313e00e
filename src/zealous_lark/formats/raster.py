"""Terrain from GeoTIFF, ESRI ASCII grid and .hgt, in any projection that PROJ knows; cut to the place.

Only the header is read before the size is judged, and only the window around the place
after it, so that a file that claims gigabytes costs nothing.
"""

from __future__ import annotations

import math
import os
import re
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import PurePath
from tempfile import TemporaryDirectory

import numpy as np
import rasterio
from rasterio._err import CPLE_BaseError  # what the library lets through of GDAL has no public name
from rasterio.crs import CRS
from rasterio.enums import Resampling
from rasterio.errors import NotGeoreferencedWarning, RasterioError
from rasterio.io import MemoryFile
from rasterio.transform import from_origin
from rasterio.vrt import WarpedVRT
from rasterio.warp import transform_bounds

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.terrain import Terrain
from zealous_lark.formats.errors import BadFileError

HALF_M = 2_500.0
"""How far around the place a terrain is kept [m]."""
MAX_SIDE = 1_000
"""Most cells along a side; finer terrain is coarsened to fit."""
_MAX_FILE_SIDE = 60_000
_LOWEST, _HIGHEST = -500.0, 9_000.0
_MAX_BLOCK = 64_000_000
"""The largest block that a file may be stored in [bytes]: one is read whole, whatever is in it."""
_WRITTEN_OUT = re.compile(r"(PROJCS|GEOGCS|COMPD_CS|PROJCRS|GEOGCRS|GEODCRS|COMPOUNDCRS|BOUNDCRS)\[")
"""How a projection begins that is written out as well-known text."""
_ALONE = {
    "GDAL_CACHEMAX": 64, "GDAL_DISABLE_READDIR_ON_OPEN": "EMPTY_DIR", "GDAL_PAM_ENABLED": "NO", "PROJ_NETWORK": "OFF",
    "GDAL_HTTP_TIMEOUT": "1", "CPL_VSIL_CURL_ALLOWED_EXTENSIONS": ".none",
}  # fmt: skip
"""The file and nothing beside it: no neighbours, no network."""
_ALLOWED = "a GeoTIFF, an ESRI ASCII grid (.asc) or an .hgt file with heights in metres"

_SCANS = "a scan or screenshot as PNG, JPEG or TIFF"


def _named(name: str, data: bytes, scans: bool) -> tuple[str, str]:
    """A file name that the reader of its kind knows, and that reader; an .hgt is told by its name alone."""
    suffix = PurePath(name).suffix.lower()
    if suffix == ".hgt":
        found = re.search(r"([NS]\d{2}[EW]\d{3})", PurePath(name).stem.upper())
        if not found:
            raise BadFileError(f"{name!r}", "an .hgt file named by its corner, like N58E025.hgt")
        return f"{found[1]}.hgt", "SRTMHGT"
    if suffix in (".asc", ".grd", ".txt"):
        return "grid.asc", "AAIGrid"
    if data[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
        return "grid.tif", "GTiff"
    if scans and data.startswith(b"\x89PNG\r\n\x1a\n"):
        return "scan.png", "PNG"
    if scans and data.startswith(b"\xff\xd8\xff"):
        return "scan.jpg", "JPEG"
    # No other reader is ever asked: some would follow an address that is in the file.
    raise BadFileError(f"{name[:80]!r}, which begins like none of these", _SCANS if scans else _ALLOWED)


def read_terrain(
    data: bytes, name: str, latitude: float, longitude: float, crs: str | None = None, *, tops: bool = False
) -> Terrain:
    """The terrain around a place [°] out of a file's bytes.

    crs: its projection, like EPSG:3301, where the file does not say. tops: it has tree tops and roofs, which are never
    smoothed. Raises BadFileError.
    """
    with opened(data, name, _ALLOWED) as source:
        return _cut(source, name, latitude, longitude, crs, tops=tops)


@contextmanager
def opened(data: bytes, name: str, allowed: str, *, scans: bool = False) -> Iterator[rasterio.DatasetReader]:
    """A file's bytes as a raster, alone and by a reader of our choice. Raises BadFileError for all that goes wrong.

    scans: pictures that have no coordinates are taken too.
    """
    if not data:
        raise BadFileError("an empty file", allowed)
    # A name of our own in a folder of its own: no name of the user's reaches the file system.
    with TemporaryDirectory() as folder, warnings.catch_warnings():
        warnings.simplefilter("ignore", NotGeoreferencedWarning)
        called, driver = _named(name, data, scans)
        path = f"{folder}/{called}"
        with open(path, "wb") as file:
            file.write(data)
        with alone(path, driver, allowed) as source:
            if source.driver == "AAIGrid" and len(data) < 2 * source.width * source.height - 1:
                cells = f"{source.width:,} × {source.height:,} cells"
                raise BadFileError(
                    f"{len(data):,} bytes that claim {cells}",
                    "a whole file with a value for each cell: download it again",
                )
            yield source


@contextmanager
def alone(path: str, driver: str, allowed: str) -> Iterator[rasterio.DatasetReader]:
    """A file of our own naming, opened by one reader and with nothing beside it. Raises BadFileError for all."""
    try:
        with rasterio.Env(**_ALONE), rasterio.open(path, driver=driver) as source:
            if source.transform.is_degenerate:
                raise BadFileError("a grid whose cells have no size", allowed)
            yield source
    except (RasterioError, CPLE_BaseError, ValueError, ArithmeticError) as error:
        if isinstance(error, BadFileError):
            raise
        folder = os.path.dirname(path)
        said = str(error).replace(f"{folder}/", "").replace(folder, "").strip() or type(error).__name__
        raise BadFileError(f"a file that cannot be read ({said[:160]})", allowed) from None


def read_surface(data: bytes, name: str, latitude: float, longitude: float, crs: str | None = None) -> Terrain:
    """A surface model, with tree tops and roofs, as `read_terrain` reads a terrain. Raises BadFileError."""
    return read_terrain(data, name, latitude, longitude, crs, tops=True)


def projection_of(source: rasterio.DatasetReader, crs: str | None) -> CRS:
    if crs is not None:
        # By number or written out, and nothing else: the library would open an address or a file under that name.
        try:
            if found := re.fullmatch(r"EPSG:(\d{4,6})", crs.strip(), re.IGNORECASE):
                return CRS.from_epsg(int(found[1]))
            if _WRITTEN_OUT.match(crs.strip()):
                return CRS.from_wkt(crs.strip())
        except (RasterioError, ValueError):
            pass
        raise BadFileError(f"the projection {crs[:80]!r}", "a projection such as EPSG:4326 or EPSG:3301")
    if source.crs is None:
        raise BadFileError("a file that does not name its projection", "the projection beside it, like EPSG:3301")
    if not (source.crs.is_projected or source.crs.is_geographic):
        # A drawing's own axes, which nobody can lay on the earth.
        raise BadFileError(
            "a file whose projection lies nowhere on the earth", "the projection beside it, like EPSG:3301"
        )
    return source.crs


def check_size(source: rasterio.DatasetReader) -> None:
    """Raises BadFileError for a raster that nobody should begin to read."""
    if max(source.width, source.height) > _MAX_FILE_SIDE:
        size = f"{source.width:,} × {source.height:,} cells"
        raise BadFileError(
            size, f"at most {_MAX_FILE_SIDE:,} cells a side: cut the file to the country around the place"
        )
    for (rows, columns), kind in zip(source.block_shapes, source.dtypes, strict=True):
        if rows * columns * np.dtype(kind).itemsize > _MAX_BLOCK:
            raise BadFileError(
                f"a file in blocks of {columns:,} × {rows:,} cells", "tiles, or strips of few rows: save it as tiled"
            )


Bounds = tuple[float, float, float, float]
"""West, south, east and north, in the units of a projection."""


def check_covers(projection: CRS, bounds: Bounds, latitude: float, longitude: float, what: str) -> None:
    """Raises BadFileError for a raster that does not lie over a point [°]."""
    west, south, east, north = transform_bounds(projection, "EPSG:4326", *bounds)
    if not all(map(math.isfinite, (west, south, east, north))):
        raise BadFileError("a projection that does not fit the coordinates", "the projection that the file was made in")
    if not (west <= longitude <= east and south <= latitude <= north):
        raise BadFileError(
            f"a {what} from {south:.3f} to {north:.3f} N and {west:.3f} to {east:.3f} E",
            f"one that covers the place at {latitude:.4f} N {longitude:.4f} E (is the projection right?)",
        )


def _cut(
    source: rasterio.DatasetReader, name: str, latitude: float, longitude: float, crs: str | None, *, tops: bool
) -> Terrain:
    check_size(source)
    if source.count != 1:
        raise BadFileError(f"{source.count} bands", "one band, of heights in metres")
    projection = projection_of(source, crs)
    check_covers(projection, source.bounds, latitude, longitude, "terrain")
    here = CRS.from_proj4(f"+proj=aeqd +lat_0={latitude!r} +lon_0={longitude!r} +datum=WGS84 +units=m +no_defs")
    around = transform_bounds(here, projection, -HALF_M, -HALF_M, HALF_M, HALF_M)
    # The file's cell in metres: in the projection's own units, by how long those are at the place.
    fine = math.sqrt(abs(source.transform.a * source.transform.e)) / ((around[2] - around[0]) / (2 * HALF_M))
    cell = max(fine, 2 * HALF_M / MAX_SIDE)
    # Coarsened, a cell holds its highest ground: a mean would cut off what the way home must clear.
    as_fine = fine > 0.75 * cell and not tops
    # The reader must not smooth over more than the four cells around a point.
    kernel = (
        {"resampling": Resampling.bilinear, "XSCALE": 1, "YSCALE": 1} if as_fine else {"resampling": Resampling.max}
    )
    side = math.ceil(2 * HALF_M / cell)
    half = side * cell / 2
    nodata = source.nodata
    with WarpedVRT(
        source, src_crs=projection, crs=here, tolerance=0.01, **kernel,
        transform=from_origin(-half, half, cell, cell), width=side, height=side,
        src_nodata=nodata, nodata=float("nan"), dtype="float32",
    ) as warped:  # fmt: skip
        heights = warped.read(1).astype(np.float32)
    heights[~np.isfinite(heights)] = np.nan
    # Values no ground has are voids under another name.
    heights[(heights < _LOWEST) | (heights > _HIGHEST)] = np.nan
    if np.isnan(heights).all():
        raise BadFileError("no height within 2.5 km of the place", "a terrain that covers it")
    return trimmed(Terrain(PurePath(name).name, Frame(latitude, longitude), cell, -half, half, heights))


def trimmed(terrain: Terrain) -> Terrain:
    """The terrain without the rows and columns along its edges that hold no height at all."""
    known = ~np.isnan(terrain.heights)
    rows, columns = np.flatnonzero(known.any(axis=1)), np.flatnonzero(known.any(axis=0))
    if rows.size < 2 or columns.size < 2:
        raise BadFileError("a terrain of less than two by two cells", "one that covers the place")
    return Terrain(
        terrain.name,
        terrain.frame,
        terrain.cell_m,
        terrain.west_m + columns[0] * terrain.cell_m,
        terrain.north_m - rows[0] * terrain.cell_m,
        terrain.heights[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1],
    )


def hillshade_png(terrain: Terrain) -> bytes:
    """A shade of the land as a PNG with grey and alpha: dark slopes over whatever is underneath; voids hatched."""
    shade = terrain.hillshade()
    flat = math.sin(math.radians(45))
    dark = np.clip((flat - shade) / flat, 0, 1)
    lit = np.clip((shade - flat) / (1 - flat), 0, 1)
    grey = np.where(lit > 0, 255, 0).astype(np.uint8)
    alpha = np.where(lit > 0, lit * 110, dark * 150)
    void = np.isnan(terrain.heights)
    rows, columns = np.indices(shade.shape)
    grey[void] = 90
    alpha = np.where(np.isnan(alpha), 0, alpha)
    alpha[void] = np.where((rows + columns) % 6 < 2, 130, 30)[void]
    with MemoryFile() as memory:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", NotGeoreferencedWarning)
            with memory.open(driver="PNG", width=shade.shape[1], height=shade.shape[0], count=2, dtype="uint8") as png:
                png.write(grey, 1)
                png.write(alpha.astype(np.uint8), 2)
        return bytes(memory.read())


def write_geotiff(terrain: Terrain) -> bytes:
    """A terrain as a GeoTIFF in its own projection; what goes out comes back the same."""
    rows, columns = terrain.heights.shape
    f = terrain.frame
    crs = CRS.from_proj4(f"+proj=aeqd +lat_0={f.latitude!r} +lon_0={f.longitude!r} +datum=WGS84 +units=m +no_defs")
    transform = from_origin(terrain.west_m, terrain.north_m, terrain.cell_m, terrain.cell_m)
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=columns, height=rows, count=1, dtype="float32", crs=crs, transform=transform,
            nodata=float("nan"), compress="deflate",
        ) as tiff:  # fmt: skip
            tiff.write(terrain.heights, 1)
        return bytes(memory.read())

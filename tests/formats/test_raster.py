"""Terrain files: the good in three formats and projections, the bad refused quickly and in little memory."""

import resource
import struct
import time
from collections.abc import Callable

import numpy as np
import pytest
from numpy.typing import NDArray
from pyproj import Transformer
from rasterio.crs import CRS
from rasterio.io import MemoryFile
from rasterio.transform import from_origin

from zealous_lark.core.geodesy import Frame
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.raster import hillshade_png, read_terrain, write_geotiff
from zealous_lark.plan.place import pack_terrain, unpack_terrain

LAT, LON = 58.62, 25.08
Floats = NDArray[np.float64]


def tiff(heights: Floats, crs: str, west: float, north: float, cell: float, nodata: float | None = None) -> bytes:
    rows, columns = heights.shape
    with MemoryFile() as memory:
        with memory.open(driver="GTiff", width=columns, height=rows, count=1, dtype="float32", crs=CRS.from_string(crs),
                         transform=from_origin(west, north, cell, cell), nodata=nodata) as file:  # fmt: skip
            file.write(heights.astype(np.float32), 1)
        return bytes(memory.read())


def hill(lat: Floats, lon: Floats) -> Floats:
    """A round hill 300 m to the north-east of the place, 60 m high."""
    x, y = Frame(LAT, LON).to_xy(lat, lon)
    return 40 + 60 * np.exp(-((x - 212) ** 2 + (y - 212) ** 2) / (2 * 120**2))


def estonian(cell: float = 10, nodata: float | None = None) -> bytes:
    """The hill in a national projection (EPSG:3301, its own grid north)."""
    e, n = Transformer.from_crs("EPSG:4326", "EPSG:3301", always_xy=True).transform(LON, LAT)
    half = 1200.0
    count = int(2 * half / cell)
    es = e - half + (np.arange(count) + 0.5) * cell
    ns = n + half - (np.arange(count) + 0.5) * cell
    inverse = Transformer.from_crs("EPSG:3301", "EPSG:4326", always_xy=True)
    lon, lat = inverse.transform(*np.meshgrid(es, ns))
    heights = hill(lat, lon)
    if nodata is not None:
        heights[20:40, 30:60] = nodata
    return tiff(heights, "EPSG:3301", e - half, n + half, cell, nodata)


def degrees(step: float = 1 / 7200) -> tuple[Floats, float, float]:
    """The hill on a grid in degrees: heights, west, north."""
    west, north = LON - 0.02, LAT + 0.012
    lon = west + (np.arange(int(0.04 / step)) + 0.5) * step
    lat = north - (np.arange(int(0.024 / step)) + 0.5) * step
    return hill(*np.meshgrid(lat, lon, indexing="ij")), west, north


def check(terrain: object, tolerance: float) -> None:
    x, y = np.meshgrid(np.arange(-600, 601, 60.0), np.arange(-600, 601, 60.0))
    frame = Frame(LAT, LON)
    exact = hill(*frame.to_geographic(x, y))
    found = terrain.sample(x, y)  # type: ignore[attr-defined]
    assert np.abs(found - exact).max() < tolerance


def test_a_geotiff_in_a_national_projection() -> None:
    check(read_terrain(estonian(), "hill.tif", LAT, LON), 0.25)


def test_cells_without_a_size_are_refused() -> None:
    with pytest.raises(BadFileError, match="cells have no size"):
        read_terrain(tiff(np.full((20, 20), 40.0), "EPSG:3301", 0, 200, 0), "a.tif", LAT, LON)


def test_a_drawings_own_axes_are_no_projection() -> None:
    data = tiff(np.full((20, 20), 40.0), 'LOCAL_CS["a drawing",UNIT["metre",1]]', 0, 200, 10)
    with pytest.raises(BadFileError, match="lies nowhere on the earth"):
        read_terrain(data, "a.tif", LAT, LON)


def test_an_ascii_grid_in_degrees_needs_its_projection_said() -> None:
    heights, west, north = degrees()
    rows, columns = heights.shape
    head = f"ncols {columns}\nnrows {rows}\nxllcorner {west}\nyllcorner {north - rows / 7200}\ncellsize {1 / 7200}\n"
    body = "\n".join(" ".join(f"{v:.2f}" for v in row) for row in heights)
    data = (head + "nodata_value -9999\n" + body).encode()
    with pytest.raises(BadFileError, match="does not name its projection"):
        read_terrain(data, "hill.asc", LAT, LON)
    check(read_terrain(data, "hill.asc", LAT, LON, "EPSG:4326"), 0.6)


def test_an_hgt_file_is_told_by_its_name() -> None:
    """Big-endian 16-bit metres, 3601 a side, named by its south-west corner; -32768 is a void."""
    lon, lat = 25 + np.arange(3601) / 3600, 59 - np.arange(3601) / 3600
    heights = np.full((3601, 3601), 40, dtype=">i2")
    near_lat, near_lon = np.abs(lat - LAT) < 0.02, np.abs(lon - LON) < 0.03
    heights[np.ix_(near_lat, near_lon)] = np.round(hill(*np.meshgrid(lat[near_lat], lon[near_lon], indexing="ij")))
    heights[:100, :100] = -32768
    data = heights.tobytes()
    check(read_terrain(data, "N58E025.hgt", LAT, LON), 2.5)  # whole metres, thirty metres apart
    with pytest.raises(BadFileError, match="named by its corner"):
        read_terrain(data, "somewhere.hgt", LAT, LON)


def test_voids_stay_unknown() -> None:
    terrain = read_terrain(estonian(nodata=-9999), "hill.tif", LAT, LON)
    assert 0.005 < terrain.void_share < 0.05
    assert np.nanmin(terrain.heights) > 30
    assert np.isnan(terrain.sample(-800, 900))


def test_coarsened_terrain_keeps_its_tops() -> None:
    """A spike of one metre's width stays as high as it is when cells of 1 m become cells of 5."""
    heights = np.full((800, 800), 40.0)
    heights[300, 500] = 95
    e, n = Transformer.from_crs("EPSG:4326", "EPSG:3301", always_xy=True).transform(LON, LAT)
    terrain = read_terrain(tiff(heights, "EPSG:3301", e - 400, n + 400, 1), "fine.tif", LAT, LON)
    assert terrain.cell_m == pytest.approx(5, abs=0.01)
    assert np.nanmax(terrain.heights) == 95


def test_what_goes_out_comes_back_the_same() -> None:
    terrain = read_terrain(estonian(nodata=-9999), "hill.tif", LAT, LON)
    again = read_terrain(write_geotiff(terrain), "again.tif", LAT, LON)
    assert again.heights.shape == terrain.heights.shape
    assert np.nanmax(np.abs(again.heights - terrain.heights)) < 1e-3
    kept = unpack_terrain(*pack_terrain(terrain))
    assert np.nanmax(np.abs(kept.heights - terrain.heights)) <= 0.0501  # decimetres
    assert np.array_equal(np.isnan(kept.heights), np.isnan(terrain.heights))


def test_the_shade_is_a_picture_of_the_grid() -> None:
    terrain = read_terrain(estonian(nodata=-9999), "hill.tif", LAT, LON)
    png = hillshade_png(terrain)
    with MemoryFile(png) as memory, memory.open() as picture:
        assert (picture.height, picture.width) == terrain.heights.shape
        grey, alpha = picture.read()
    assert alpha[np.isnan(terrain.heights)].max() == 130
    assert grey.min() == 0
    assert alpha.max() > 20


def lying_header() -> bytes:
    """A TIFF header that claims a picture of two gigabytes with nothing in it."""
    tags = [(256, 4, 1, 40_000), (257, 4, 1, 50_000), (258, 3, 1, 8), (259, 3, 1, 1), (262, 3, 1, 1), (273, 4, 1, 8),
            (277, 3, 1, 1), (278, 4, 1, 50_000), (279, 4, 1, 2_000_000_000)]  # fmt: skip
    body = b"".join(struct.pack("<HHII", *t) for t in tags)
    return b"II*\0" + struct.pack("<I", 8) + struct.pack("<H", len(tags)) + body + struct.pack("<I", 0)


BAD: list[tuple[str, str, Callable[[], bytes], str | None, str]] = [
    ("empty", "a.tif", lambda: b"", None, "an empty file"),
    ("junk", "a.tif", lambda: b"junk" * 1000, None, "begins like none"),
    ("truncated", "a.tif", lambda: estonian()[:4000], None, "it has"),
    ("two gigabytes", "a.tif", lying_header, "EPSG:3301", "it has"),
    ("elsewhere", "a.tif", lambda: tiff(np.zeros((50, 50)), "EPSG:3301", 400_000, 6_400_000, 10), None,
     "one that covers"),
    ("wrong projection", "a.tif", estonian, "EPSG:4326", "it has"),
    ("no such projection", "a.tif", estonian, "EPSG:99999999", "the projection 'EPSG:99999999'"),
    ("all void", "a.tif", lambda: tiff(np.full((300, 300), -9999.0), "EPSG:4326", 25.0, 58.7, 0.001, -9999), None,
     "no height within"),
    ("a picture", "a.png", lambda: hillshade_png(read_terrain(estonian(), "a.tif", LAT, LON)), "EPSG:3301",
     "begins like none"),
    ("ascii without numbers", "a.asc", lambda: b"ncols 10\nnrows 10\nxllcorner 0\n" * 20, "EPSG:3301",
     "cannot be read"),
    ("ascii of a billion cells", "a.asc",
     lambda: b"ncols 50000\nnrows 50000\nxllcorner 25\nyllcorner 58\ncellsize 0.00004\n1 2 3", "EPSG:4326",
     "that claim"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "make", "crs", "says"), [b[1:] for b in BAD], ids=[b[0] for b in BAD])
def test_bad_files_are_refused_quickly_and_in_little_memory(
    name: str, make: Callable[[], bytes], crs: str | None, says: str
) -> None:
    data = make()
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    begun = time.process_time()
    with pytest.raises(BadFileError, match=says) as refused:
        read_terrain(data, name, LAT, LON, crs)
    assert time.process_time() - begun < 2
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 300_000  # kB
    assert "/tmp" not in str(refused.value)

"""Aerial pictures: laid where they belong whatever their projection, and refused where they are none."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray
from pyproj import Transformer
from rasterio.crs import CRS
from rasterio.io import MemoryFile
from rasterio.transform import from_origin

from tests.make import EXAMPLES
from zealous_lark.formats import bounded
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.picture import MOST_SIDE, Picture, Pin, read_picture, read_scan

HERE = 58.62, 25.08


def tiff(bands: NDArray[np.uint8], crs: str | None, west: float, north: float, pixel: float, **more: object) -> bytes:
    """A GeoTIFF of bands, shape (bands, rows, columns)."""
    count, rows, columns = bands.shape
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=columns, height=rows, count=count, dtype=bands.dtype, compress="deflate",
            crs=None if crs is None else CRS.from_user_input(crs), transform=from_origin(west, north, pixel, pixel),
            **more,
        ) as out:  # fmt: skip
            out.write(bands)
        return bytes(memory.read())


def marked(crs: str, pixel: float, side: int = 400) -> tuple[bytes, tuple[float, float]]:
    """A grey picture with one white square, and longitude and latitude of its middle by PROJ alone."""
    x, y = Transformer.from_crs("EPSG:4326", crs, always_xy=True).transform(HERE[1], HERE[0])
    west, north = x - side / 2 * pixel, y + side / 2 * pixel
    bands = np.full((3, side, side), 60, dtype=np.uint8)
    row, column = 120, 290
    bands[:, row - 4 : row + 4, column - 4 : column + 4] = 255
    back = Transformer.from_crs(crs, "EPSG:4326", always_xy=True)
    lon, lat = back.transform(west + column * pixel, north - row * pixel)
    return tiff(bands, crs, west, north, pixel), (lon, lat)


def shown(picture: Picture) -> NDArray[np.uint8]:
    with MemoryFile(picture.data) as memory, memory.open() as jpeg:
        found: NDArray[np.uint8] = jpeg.read()
        return found


@pytest.mark.parametrize(
    ("crs", "pixel"), [("EPSG:3301", 1.0), ("EPSG:32635", 1.0), ("EPSG:3857", 2.0), ("EPSG:4326", 1e-5)]
)
def test_a_spot_lies_where_its_projection_says(crs: str, pixel: float) -> None:
    data, (lon, lat) = marked(crs, pixel)
    picture = read_picture(data, "a.tif", *HERE)
    grey = shown(picture).mean(axis=0)
    assert picture.south < HERE[0] < picture.north
    assert picture.west < HERE[1] < picture.east
    # Between its edges a web map's picture is even in longitude, and in Mercator's latitude.
    rows, columns = np.nonzero((grey > 200) & (grey < 256) & ~_empty(grey))
    mercator = Transformer.from_crs("EPSG:4326", "EPSG:3857", always_xy=True)
    (west, south), (east, north) = (
        mercator.transform(picture.west, picture.south), mercator.transform(picture.east, picture.north)
    )  # fmt: skip
    height, width = grey.shape
    x = west + (columns.mean() + 0.5) / width * (east - west)
    y = north - (rows.mean() + 0.5) / height * (north - south)
    want = mercator.transform(lon, lat)
    assert np.hypot(x - want[0], y - want[1]) < 2.5, "metres on the map, which are half of that on the ground"


def _empty(grey: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Outside of what was in the file: corners that the turned grid leaves white."""
    found = np.zeros(grey.shape, dtype=bool)
    found[:60], found[-60:], found[:, :60], found[:, -60:] = True, True, True, True
    return found


def test_grey_and_palettes_are_pictures_too() -> None:
    data = tiff(np.full((1, 300, 300), 90, dtype=np.uint8), "EPSG:3857", *_corner(), 2.0)
    assert shown(read_picture(data, "a.tif", *HERE)).shape[0] == 1
    with MemoryFile() as memory:
        with memory.open(
            driver="GTiff", width=300, height=300, count=1, dtype="uint8", crs=CRS.from_epsg(3857),
            transform=from_origin(*_corner(), 2.0, 2.0), photometric="palette",
        ) as out:  # fmt: skip
            out.write(np.full((300, 300), 7, dtype=np.uint8), 1)
            out.write_colormap(1, {7: (200, 40, 10, 255)})
        indexed = bytes(memory.read())
    middle = shown(read_picture(indexed, "a.tif", *HERE))[:, 150, 150]
    assert np.abs(middle.astype(int) - (200, 40, 10)).max() < 12


def _corner() -> tuple[float, float]:
    x, y = Transformer.from_crs("EPSG:4326", "EPSG:3857", always_xy=True).transform(HERE[1], HERE[0])
    return x - 300, y + 300


def test_a_fine_picture_is_made_coarser_and_cut_to_the_place() -> None:
    x, y = Transformer.from_crs("EPSG:4326", "EPSG:3301", always_xy=True).transform(HERE[1], HERE[0])
    data = tiff(np.full((3, 6000, 6000), 80, dtype=np.uint8), "EPSG:3301", x - 3000, y + 3000, 1.0, tiled=True)
    picture = read_picture(data, "a.tif", *HERE)
    assert max(shown(picture).shape) <= MOST_SIDE
    assert 1900 < (picture.north - picture.south) * 111_200 < 2100


@pytest.mark.parametrize(
    ("data", "name", "said"),
    [
        (b"", "a.tif", "an empty file"),
        (b"\xff\xd8\xff", "photo.jpg", "photo.jpg"),
        (b"not a picture", "a.tif", "begins like none"),
        (tiff(np.zeros((3, 9, 9), dtype=np.uint8), None, 0, 9, 1), "a.tif", "does not name its projection"),
        (tiff(np.zeros((3, 9, 9), dtype=np.uint8), "EPSG:3301", 0, 9, 1), "a.tif", "a picture from"),
        (tiff(np.zeros((2, 9, 9), dtype=np.uint8), "EPSG:3857", *_corner(), 60), "a.tif", "2 bands"),
        (tiff(np.zeros((1, 9, 9), dtype=np.float32), "EPSG:3857", *_corner(), 60), "a.tif", "float32"),  # type: ignore[arg-type]
        ((EXAMPLES / "sarvik-picture.tif").read_bytes()[:5_000], "a.tif", "cannot be read"),
    ],
)
def test_what_is_no_picture_of_the_place_is_refused(data: bytes, name: str, said: str) -> None:
    with pytest.raises(BadFileError, match=said):
        bounded.read(bounded.OF_A_PLACE, read_picture, data, name, *HERE)


def pinned(side: int, metres: float, turned_deg: float, crs: str = "EPSG:32635") -> tuple[bytes, tuple[Pin, Pin]]:
    """A turned scan with a white spot off its middle, and two of its points with their positions by PROJ alone."""
    bands = np.full((3, side, side), 60, dtype=np.uint8)
    bands[:, 96:104, 216:224] = 255
    with MemoryFile() as memory:
        with memory.open(driver="PNG", width=side, height=side, count=3, dtype="uint8") as out:
            out.write(bands)
        data = bytes(memory.read())
    to, back = (Transformer.from_crs(a, b, always_xy=True) for a, b in (("EPSG:4326", crs), (crs, "EPSG:4326")))
    x, y = to.transform(HERE[1], HERE[0])
    turn = np.exp(1j * np.radians(turned_deg)) * metres

    def pin(column: float, row: float) -> Pin:
        away = complex(column - side / 2, side / 2 - row) * turn
        lon, lat = back.transform(x + away.real, y + away.imag)
        return Pin(column, row, lat, lon)

    return data, (pin(40, 50), pin(side - 30, side - 80))


@pytest.mark.parametrize("turned", [0.0, 30.0, -140.0])
def test_a_scan_is_held_by_two_of_its_points(turned: float) -> None:
    data, pins = pinned(400, 1.5, turned)
    picture = read_scan(data, "map.png", *HERE, pins)
    grey = shown(picture).mean(axis=0)
    rows, columns = np.nonzero(grey == grey.max())
    # White is also where there is no scan: the spot is what is white within the scan's inside.
    _, (spot, _) = pinned(400, 1.5, turned)
    assert spot == pins[0]
    away = complex(220 - 200, 200 - 100) * 1.5 * np.exp(1j * np.radians(turned))
    back = Transformer.from_crs("EPSG:32635", "EPSG:4326", always_xy=True)
    x, y = Transformer.from_crs("EPSG:4326", "EPSG:32635", always_xy=True).transform(HERE[1], HERE[0])
    lon, lat = back.transform(x + away.real, y + away.imag)
    column = (lon - picture.west) / (picture.east - picture.west) * grey.shape[1]
    row = (picture.north - lat) / (picture.north - picture.south) * grey.shape[0]
    near = np.hypot(rows - row, columns - column)
    assert near.min() < 3
    assert grey[int(row), int(column)] > 200
    assert picture.pixel_m == pytest.approx(1.5, rel=0.02)


def test_points_that_hold_no_scan_are_refused() -> None:
    data, (first, second) = pinned(400, 1.5, 0)
    for pins, said in (
        ((first, first), "close together"),
        ((first, replace(second, column=900)), "beside the picture"),
        ((first, replace(second, latitude=first.latitude + 5)), "pixel"),
        ((first, replace(first, column=300, row=300)), "a pixel 0 m wide"),
    ):
        with pytest.raises(BadFileError, match=said):
            read_scan(data, "map.png", *HERE, pins)
    with pytest.raises(BadFileError, match="covers the place"):
        read_scan(data, "map.png", 59.0, 25.0, (first, second))
    with pytest.raises(BadFileError, match="begins like none"):
        read_scan(b"<svg/>", "map.svg", *HERE, (first, second))

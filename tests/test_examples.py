"""What stands under examples/ is what the demo's scripts write."""

from __future__ import annotations

import numpy as np
import rasterio

from tests.make import EXAMPLES
from zealous_lark.demo.map_data import extract
from zealous_lark.demo.picture import picture
from zealous_lark.demo.surface import surface
from zealous_lark.formats.raster import write_geotiff


def test_the_picture_is_that_of_its_script() -> None:
    """As it is seen: the bytes hang on how a JPEG is written."""
    bands, (west, north) = picture()
    with rasterio.open(EXAMPLES / "sarvik-picture.tif") as kept:
        assert (kept.transform.c, kept.transform.f) == (west, north)
        assert np.abs(kept.read().astype(int) - bands).mean() < 6


def test_the_map_and_the_surface_are_those_of_their_scripts() -> None:
    assert (EXAMPLES / "sarvik-map.osm").read_text() == extract()
    assert (EXAMPLES / "sarvik-surface.tif").read_bytes() == write_geotiff(surface())

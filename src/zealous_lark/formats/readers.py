"""Every reader of files that come from strangers, in one place: what the process that they are forked from imports."""

from __future__ import annotations

from zealous_lark.formats.aerodrome import read_metar, read_taf
from zealous_lark.formats.coverage import read_coverage
from zealous_lark.formats.features import features_of
from zealous_lark.formats.forecast_csv import read_forecast_csv, read_forecast_head
from zealous_lark.formats.forecast_grid import read_forecast_grid
from zealous_lark.formats.geojson import read_features
from zealous_lark.formats.gpx import read_gpx
from zealous_lark.formats.kml import read_placemarks
from zealous_lark.formats.map_archive import make_over
from zealous_lark.formats.map_data import read_map_data
from zealous_lark.formats.photo import read_photo
from zealous_lark.formats.picture import read_picture, read_scan
from zealous_lark.formats.raster import read_surface, read_terrain
from zealous_lark.formats.track_files import read_gpx_track, read_table_head, read_table_track
from zealous_lark.formats.zones import read_zones
from zealous_lark.plan.place import FeaturePart, ZonePart

__all__ = [
    "make_over",
    "read_coverage",
    "read_drawn",
    "read_forecast_csv",
    "read_forecast_grid",
    "read_forecast_head",
    "read_gpx_track",
    "read_map_data",
    "read_metar",
    "read_photo",
    "read_picture",
    "read_scan",
    "read_surface",
    "read_table_head",
    "read_table_track",
    "read_taf",
    "read_terrain",
    "read_zones",
]


def read_drawn(data: bytes) -> tuple[list[FeaturePart], list[ZonePart]]:
    """What was drawn elsewhere, told by what is in the file: KML, KMZ, GPX or GeoJSON. Raises BadFileError."""
    if data[:2] == b"PK" or data.lstrip()[:1] == b"<":
        return features_of(read_gpx(data) if b"<gpx" in data[:2000] else read_placemarks(data))
    return features_of(read_features(data))

"""Files as nobody means them: of every kind that Lark reads, damaged in their bytes or in what they say."""

from __future__ import annotations

import copy
import io
import json
import random
import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from tests.conftest import NOW
from tests.core.postflight.make_tracks import there_and_back
from tests.formats.test_forecast_csv import OTHERS
from tests.formats.test_forecast_grid import grib, netcdf, usual
from tests.formats.test_raster import LAT, LON, estonian
from tests.formats.test_track_files import as_csv, as_gpx
from tests.make import EXAMPLES
from zealous_lark.demo.places import BOG_AT
from zealous_lark.formats import readers

COLUMNS = ("time", "latitude", "longitude", "height", "charge")
METAR = b"METAR ZZZZ 260450Z 24006G12MPS 200V280 9999 -RADZ BKN012 OVC030CB M06/M08 Q1018 BECMG 27010KT TEMPO 2000 SN"
TAF = (
    b"TAF AMD ZZZZ 260430Z 2605/2614 24012G22KT 9999 BKN025 FM260900 27015G28KT "
    b"PROB30 TEMPO 2609/2611 1500 +SHRA BECMG 2612/2614 18005KT"
)
FORECAST = (
    b"time,height_m,speed_ms,direction_deg,gust_ms,temperature_c\n"
    b"2026-09-27T05:00Z,10,3,240,5,6\n2026-09-27T06:00Z,10,4,250,6,7\n2026-09-27T06:00Z,80,6,250,9,7\n"
)
WAYPOINT = (
    b'<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">'
    b'<wpt lat="58.6" lon="25.0"><name>a</name></wpt></gpx>'
)
ZONES = (EXAMPLES / "sarvik-zones.json").read_bytes()
MAP = (EXAMPLES / "sarvik-map.osm").read_bytes()
_RING = [[25, 58], [25.1, 58], [25.1, 58.1], [25, 58]]


def _feature(shape: str, coordinates: Any, **properties: Any) -> dict[str, Any]:
    return {"type": "Feature", "properties": properties, "geometry": {"type": shape, "coordinates": coordinates}}


COLLECTION: dict[str, Any] = {
    "type": "FeatureCollection",
    "features": [
        _feature("Polygon", [_RING], name="a", height_m=3, lark_type="feature", id="w", role="obstacle", kind="trees"),
        _feature("Point", [25.05, 58.05], name="mast", lark_type="feature", id="m", role="subject", height_m=30),
        _feature("MultiPolygon", [[_RING]], name="z", lark_type="zone", restriction="prohibited", lower="0 m AGL",
             upper="400 ft", begin="2026-01-01T00:00Z"),
        _feature("Point", [25.05, 58.05], name="c", radius=200),
    ],
}  # fmt: skip
FEATURES = json.dumps(COLLECTION).encode()
KML = b"""<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Placemark><name>a</name>
<ExtendedData><Data name="lower"><value>0 m</value></Data><Data name="lark">
<value>{"lark_type": "zone", "restriction": "prohibited"}</value></Data>
</ExtendedData><TimeSpan><begin>2026-09-27T05:00Z</begin></TimeSpan><Polygon><outerBoundaryIs><LinearRing><coordinates>
25,58,0 25.1,58,0 25.1,58.1,0 25,58,0</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark>
<Placemark><name>p</name><Point><coordinates>25,58</coordinates></Point></Placemark></Document></kml>"""


def kmz(inside: bytes, how: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as archive:
        archive.writestr("doc.kml", inside)
    return out.getvalue()


def _shortened(data: bytes, upto: int, after: bytes, tail: bytes) -> bytes:
    return data[:upto].rsplit(after, 1)[0] + tail


def _asc() -> bytes:
    head = f"ncols 40\nnrows 40\nxllcorner {LON - 0.05}\nyllcorner {LAT - 0.025}\ncellsize 0.0025\nNODATA_value -9999\n"
    heights = np.round(40 + 5 * np.random.default_rng(1).random((40, 40)), 1)
    return (head + "\n".join(" ".join(map(str, row)) for row in heights)).encode()


def _grid(kind: str) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        return grib(Path(folder), usual()) if kind == "grb" else netcdf(Path(folder))


def read_head(data: bytes) -> Any:
    """The head of a forecast's table, and the table by what it seems to be."""
    return readers.read_forecast_csv(data, "a.csv", NOW, readers.read_forecast_head(data).guess)


def read_map(data: bytes) -> Any:
    """As `read_map_data`, of a file with these bytes."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "extract"
        path.write_bytes(data)
        return readers.read_map_data(str(path), *BOG_AT, 2_000)


Reader = tuple[Callable[..., Any], tuple[Any, ...]]
SEEDS: dict[str, tuple[bytes, Callable[[bytes], Reader]]] = {
    "metar": (METAR, lambda d: (readers.read_metar, (d.decode("utf-8", "replace"), NOW))),
    "taf": (TAF, lambda d: (readers.read_taf, (d.decode("utf-8", "replace"), NOW))),
    "forecast": (FORECAST, lambda d: (readers.read_forecast_csv, (d, "a.csv", NOW))),
    "gpx track": (
        _shortened(as_gpx(there_and_back(), NOW), 9_000, b"<trkpt", b"</trkseg></trk></gpx>"),
        lambda d: (readers.read_gpx_track, (d,)),
    ),
    "table": (
        _shortened(as_csv(there_and_back(), COLUMNS), 4_000, b"\n", b""),
        lambda d: (readers.read_table_track, (d, {name: name for name in COLUMNS})),
    ),
    "ed-269": (ZONES, lambda d: (readers.read_zones, (d, "z.json"))),
    "zones in GeoJSON": (FEATURES, lambda d: (readers.read_zones, (d, "z.geojson"))),
    "zones in KML": (KML, lambda d: (readers.read_zones, (d, "z.kml"))),
    "zones in KMZ": (kmz(KML), lambda d: (readers.read_zones, (d, "z.kmz"))),
    "drawn in GeoJSON": (FEATURES, lambda d: (readers.read_drawn, (d,))),
    "drawn in KML": (KML, lambda d: (readers.read_drawn, (d,))),
    "drawn in KMZ": (kmz(KML), lambda d: (readers.read_drawn, (d,))),
    "drawn in GPX": (WAYPOINT, lambda d: (readers.read_drawn, (d,))),
    "forecast in GRIB": (_grid("grb"), lambda d: (readers.read_forecast_grid, (d, "a.grb", LAT, LON, NOW))),
    "forecast in netCDF": (_grid("nc"), lambda d: (readers.read_forecast_grid, (d, "a.nc", LAT, LON, NOW))),
    "forecast in a table": (OTHERS, lambda d: (read_head, (d,))),
    "terrain in GeoTIFF": (estonian(80), lambda d: (readers.read_terrain, (d, "a.tif", LAT, LON))),
    "map data": (MAP, lambda d: (read_map, (d,))),
    "terrain in an ASCII grid": (_asc(), lambda d: (readers.read_terrain, (d, "a.asc", LAT, LON, "EPSG:4326"))),
}
_ODD = (
    b"", b"0", b"-", b"9999999", b"1e400", b"NaN", b"null", b"\x00", b"/", b",", b"\xff", b" ", b"{}", b"[]", b'""',
    b"T", b"Z", b"KT", b"\r", b"\n", b"1e308", b"0e-320", b"0001-01-01T00:00+14:00", b"9999-12-31T23:59-14:00",
    b"9" * 400, b"\xed\xa0\x80", b"\\ud800", b"[" * 50, b"<a>" * 50, b"<name/>",
)  # fmt: skip
_OTHER: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, 10**400, "", "x", "\x02", "\ud800", [], [[]], {}, {"a": {}}, [[[1e308, 1e308]]],
    "9999-12-31T23:59:59-14:00", "0001-01-01T00:00:00+14:00", [25, 58], 7,
)  # fmt: skip


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Turned bits, bytes lost, odd ones put in, pieces doubled; of JSON also one value in place of another."""
    if data[:1] == b"{" and rng.random() < 0.6:
        return _said_otherwise(json.loads(data), rng)
    if data[:2] == b"PK" and rng.random() < 0.5:
        return kmz(damaged(KML, rng))
    raw = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 4))):
        at, kind = rng.randrange(len(raw)), rng.random()
        if kind < 0.35:
            raw[at] ^= 1 << rng.randrange(8)
        elif kind < 0.6:
            del raw[at : at + rng.randrange(1, 9)]
        elif kind < 0.9:
            raw[at : at + rng.randrange(6)] = rng.choice(_ODD)
        else:
            raw[at:at] = raw[at : at + rng.randrange(1, 40)]
    return bytes(raw)


def _said_otherwise(document: Any, rng: random.Random) -> bytes:
    """A JSON document with one of its values, at any depth, in place of which something else stands."""
    changed = copy.deepcopy(document)
    places: list[tuple[Any, Any]] = []

    def walk(value: Any) -> None:
        for key in value if isinstance(value, dict) else range(len(value)):
            places.append((value, key))
            if isinstance(value[key], dict | list):
                walk(value[key])

    walk(changed)
    within, key = rng.choice(places)
    within[key] = copy.deepcopy(rng.choice(_OTHER))
    return json.dumps(changed, ensure_ascii=True).encode()

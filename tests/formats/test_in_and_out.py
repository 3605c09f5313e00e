"""Places going out and coming back, opened by independent readers: gpxpy, fastkml, shapely."""

import json
from datetime import date
from typing import Any

import gpxpy
import pytest
from fastkml import KML
from fastkml.features import Placemark
from fastkml.utils import find_all
from shapely.geometry import shape

from zealous_lark.core.place import Restriction
from zealous_lark.demo import places
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.features import Exported, features_of, items_of
from zealous_lark.formats.geojson import read_features, write_geojson
from zealous_lark.formats.gpx import read_gpx, write_gpx
from zealous_lark.formats.kml import read_placemarks, write_kml
from zealous_lark.plan.place import PlacePart, ZonePart


@pytest.fixture(scope="module")
def bog() -> PlacePart:
    return places.bog(date(2026, 9, 20))


@pytest.fixture(scope="module")
def exported(bog: PlacePart) -> Exported:
    return Exported(bog.name, items_of(bog))


@pytest.mark.parametrize(
    ("write", "read"),
    [(write_geojson, read_features), (write_kml, read_placemarks), (write_gpx, read_gpx)],
    ids=["geojson", "kml", "gpx"],
)
def test_a_zone_of_two_areas_with_a_hole_comes_back_the_same(write: Any, read: Any) -> None:
    square = [[25.0, 58.6], [25.1, 58.6], [25.1, 58.7], [25.0, 58.7]]
    hole = [[25.04, 58.64], [25.06, 58.64], [25.06, 58.66], [25.04, 58.66]]
    east = [[lon + 0.2, lat] for lon, lat in square]
    zone = ZonePart(name="Two", areas=[[square, hole], [east]], restriction=Restriction.PROHIBITED)
    place = PlacePart(name="P", zones=[zone])
    _, zones = features_of(read(write(Exported("P", items_of(place)))))
    assert zones == [zone]


def by_id(features: list[Any]) -> dict[str, dict[str, Any]]:
    return {f.id: f.model_dump() for f in features}


@pytest.mark.parametrize(
    ("write", "read"),
    [(write_geojson, read_features), (write_kml, read_placemarks), (write_gpx, read_gpx)],
    ids=["geojson", "kml", "gpx"],
)
def test_what_goes_out_comes_back_the_same(bog: PlacePart, exported: Exported, write: Any, read: Any) -> None:
    features, zones = features_of(read(write(exported)))
    assert by_id(features) == by_id(bog.features)
    assert [z.model_dump() for z in zones] == [z.model_dump() for z in bog.zones]


def test_geojson_is_read_by_shapely(bog: PlacePart, exported: Exported) -> None:
    document = json.loads(write_geojson(exported))
    shapes = {f["properties"].get("id"): shape(f["geometry"]) for f in document["features"]}
    for feature in bog.features:
        assert shapes[feature.id].equals(feature.geometry())
    assert all(s.is_valid for s in shapes.values())
    assert "Not permission to fly" in document["caution"]


def test_kml_is_read_by_fastkml(bog: PlacePart, exported: Exported) -> None:
    document = KML.from_string(
        write_kml(exported).decode().split("?>", 1)[1]
    )  # its reader takes no declaration in a text
    marks = list(find_all(document, of_type=Placemark))
    assert len(marks) == len(bog.features) + len(bog.zones)
    named = {m.name: m.geometry for m in marks}
    assert shape(named["pines"].__geo_interface__).equals(next(f for f in bog.features if f.name == "pines").geometry())


def test_gpx_is_read_by_gpxpy(bog: PlacePart, exported: Exported) -> None:
    document = gpxpy.parse(write_gpx(exported).decode())
    points = [f for f in bog.features if f.shape == "point"]
    assert [w.name for w in document.waypoints] == [f.name for f in points]
    assert document.waypoints[0].latitude == pytest.approx(points[0].coordinates[0][1], abs=1e-9)
    wires = next(r for r in document.routes if r.name == "20 kV line")
    assert len(wires.points) == 5


def test_points_of_others_come_in_as_notes() -> None:
    data = b"""<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">
    <wpt lat="58.62" lon="25.08"><name>Stile</name></wpt></gpx>"""
    features, zones = features_of(read_gpx(data))
    assert [(f.role.value, f.name, f.coordinates) for f in features] == [("note", "Stile", [[25.08, 58.62]])]
    assert zones == []


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "x">]><gpx>&a;</gpx>', "entities"),
        (b"<kml/>", "begins with <kml>"),
        (b"<gpx><wpt lat='x' lon='1'/></gpx>", "it has"),
        (b"<gpx version='1.1'></gpx>", "without waypoints"),
    ],
)
def test_bad_gpx_is_refused(data: bytes, says: str) -> None:
    with pytest.raises(BadFileError, match=says):
        read_gpx(data)


def test_a_feature_that_is_wrong_is_named() -> None:
    point = {"type": "Point", "coordinates": [25.08, 58.62]}
    properties = {"lark_type": "feature", "id": "a", "role": "obstacle", "name": "pole", "height_m": -3}
    wrong = {"type": "Feature", "geometry": point, "properties": properties}
    with pytest.raises(BadFileError, match=r"feature 1 \(pole\): height_m -3"):
        features_of([wrong])
    with pytest.raises(BadFileError, match="no feature that Lark knows"):
        features_of([{"type": "Feature", "geometry": {"type": "LineString", "coordinates": []}, "properties": {}}])

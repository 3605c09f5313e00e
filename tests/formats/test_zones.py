"""Zones in: GeoJSON, KML, KMZ and ED-269 (from memory); what is wrong is named, and nothing of it kept."""

import io
import json
import math
import random
import time
import zipfile
from typing import Any

import pytest
from geographiclib.geodesic import Geodesic
from shapely.geometry import Point, Polygon

from zealous_lark.core.place import HeightReference, Restriction
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.zones import circle, read_zones

RING = [[25.0, 58.6], [25.1, 58.6], [25.1, 58.7], [25.0, 58.7], [25.0, 58.6]]
HOLE = [[25.04, 58.64], [25.06, 58.64], [25.06, 58.66], [25.04, 58.66], [25.04, 58.64]]


def geojson(geometry: dict[str, Any], **properties: Any) -> bytes:
    feature = {"type": "Feature", "properties": properties, "geometry": geometry}
    return json.dumps({"type": "FeatureCollection", "features": [feature]}).encode()


def polygon(*rings: list[list[float]]) -> dict[str, Any]:
    return {"type": "Polygon", "coordinates": list(rings)}


def test_geojson_with_a_hole_limits_and_times() -> None:
    (zone,) = read_zones(
        geojson(polygon(RING, HOLE), name="Reserve", restriction="conditional", lower="0 m AGL", upper="400 ft AMSL",
                begins="2026-03-01T00:00:00Z", authority="Office", message="Quiet"),
        "z.json",
    )  # fmt: skip
    assert (zone.name, zone.restriction, zone.authority) == ("Reserve", Restriction.CONDITIONAL, "Office")
    assert zone.upper_m == pytest.approx(121.92)
    assert zone.upper_from is HeightReference.SEA_LEVEL
    assert zone.begins is not None
    assert not zone.geometry().contains(Point(25.05, 58.65))
    assert zone.geometry().contains(Point(25.02, 58.62))


def test_geojson_of_several_areas_and_of_a_point_with_a_radius() -> None:
    east = [[x + 1, y] for x, y in RING]
    (zone,) = read_zones(geojson({"type": "MultiPolygon", "coordinates": [[RING, HOLE], [east]]}, name="Two"), "z.json")
    assert zone.geometry().contains(Point(25.02, 58.62))
    assert not zone.geometry().contains(Point(25.05, 58.65))
    assert zone.geometry().contains(Point(26.05, 58.65))

    (round_one,) = read_zones(geojson({"type": "Point", "coordinates": [25.08, 58.62]}, radius_m=800), "z.json")
    for degrees in range(0, 360, 30):
        for metres, inside in ((795, True), (805, False)):
            there = Geodesic.WGS84.Direct(58.62, 25.08, degrees, metres)
            assert round_one.geometry().contains(Point(there["lon2"], there["lat2"])) is inside
    # A point without a radius is no zone, and does not stand in the way of those that are.
    document = json.loads(geojson({"type": "Point", "coordinates": [25.08, 58.62]}, name="Only a mark"))
    document["features"] += json.loads(geojson(polygon(RING), name="Real"))["features"]
    assert [z.name for z in read_zones(json.dumps(document).encode(), "z.json")] == ["Real"]


def test_a_zone_whose_rules_are_not_understood_is_closed_and_its_limit_unknown() -> None:
    (zone,) = read_zones(geojson(polygon(RING), name="?", restriction="whatever"), "z.json")
    assert zone.restriction is Restriction.PROHIBITED
    assert zone.upper_m is None


def test_a_circle_covers_its_radius() -> None:
    """Every corner and the middle of every side is at or beyond the radius, none by more than a thousandth."""
    ring = circle([25.08, 58.62], 1500)
    shape = Polygon(ring)
    for degrees in range(0, 360, 7):
        far = Geodesic.WGS84.Direct(58.62, 25.08, degrees, 1499.9)
        assert shape.contains(Point(far["lon2"], far["lat2"]))
        far = Geodesic.WGS84.Direct(58.62, 25.08, degrees, 1500 / math.cos(math.pi / 72) + 0.1)
        assert not shape.contains(Point(far["lon2"], far["lat2"]))


KML = """<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Placemark><name>Range</name>
<TimeSpan><begin>2026-09-01T00:00:00Z</begin><end>2026-10-01T00:00:00Z</end></TimeSpan>
<ExtendedData><Data name="upper"><value>150 m AGL</value></Data></ExtendedData>
<Polygon><outerBoundaryIs><LinearRing><coordinates>25,58.6,0 25.1,58.6,0 25.1,58.7,0 25,58.6,0</coordinates>
</LinearRing></outerBoundaryIs></Polygon></Placemark></Document></kml>"""


def zipped(*files: tuple[str, bytes]) -> bytes:
    memory = io.BytesIO()
    with zipfile.ZipFile(memory, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files:
            archive.writestr(name, data)
    return memory.getvalue()


@pytest.mark.parametrize("data", [KML.encode(), zipped(("doc.kml", KML.encode()))])
def test_kml_and_kmz(data: bytes) -> None:
    (zone,) = read_zones(data, "range.kml")
    assert (zone.name, zone.upper_m, zone.upper_from) == ("Range", 150, HeightReference.GROUND)
    assert zone.begins is not None
    assert zone.ends is not None
    assert zone.geometry().area == pytest.approx(0.005)


def ed269(**volume: Any) -> bytes:
    """As the standard is remembered: features with a list of volumes."""
    feature = {
        "identifier": "EEX1",
        "country": "EST",
        "name": "Airport",
        "type": "COMMON",
        "restriction": "REQ_AUTHORISATION",
        "zoneAuthority": [{"name": "Tower", "phone": "0"}],
        "applicability": [{"permanent": "YES"}],
        "geometry": [
            {
                "uomDimensions": "M",
                "lowerLimit": 0,
                "lowerVerticalReference": "AGL",
                "upperLimit": 120,
                "upperVerticalReference": "AGL",
                "horizontalProjection": {"type": "Circle", "center": [25.08, 58.62], "radius": 2000},
                **volume,
            }
        ],
    }
    return json.dumps({"title": "zones", "features": [feature]}).encode()


def test_ed269_circle_polygon_and_feet() -> None:
    (zone,) = read_zones(ed269(), "ed.json")
    assert (zone.name, zone.restriction, zone.authority) == ("Airport", Restriction.AUTHORISATION, "Tower")
    assert zone.geometry().contains(Point(25.08, 58.637))
    shape = {"type": "Polygon", "coordinates": [RING]}
    (zone,) = read_zones(ed269(uomDimensions="FT", upperLimit=1000, upperVerticalReference="AMSL",
                               horizontalProjection=shape), "ed.json")  # fmt: skip
    assert zone.upper_m == pytest.approx(304.8)
    assert zone.upper_from is HeightReference.SEA_LEVEL
    assert len(zone.areas[0][0]) == 4


@pytest.mark.parametrize(
    ("limit", "unit", "metres"),
    [
        (120, "M", 120),
        (400, "FT", 121.92),
        ("400 ft", "FT", 121.92),
        ("400 ft AGL", "M", 121.92),
        ("120 m", "FT", 120),
        ("400", "FT", 121.92),
        (0, "FT", 0),
        (1e3, "M", 1000),
        (True, "M", None),
        ("unlimited", "M", None),
    ],
)
def test_a_limits_own_unit_counts_before_the_volumes(limit: Any, unit: str, metres: float | None) -> None:
    (zone,) = read_zones(ed269(upperLimit=limit, uomDimensions=unit), "ed.json")
    assert zone.upper_m == (None if metres is None else pytest.approx(metres))


def test_ed269_without_an_upper_limit_has_an_unknown_one() -> None:
    (zone,) = read_zones(ed269(upperLimit=None), "ed.json")
    assert zone.upper_m is None


def test_ed269_times() -> None:
    document = json.loads(ed269())
    document["features"][0]["applicability"] = [
        {"permanent": "NO", "startDateTime": "2026-09-01T00:00:00Z", "endDateTime": "2026-09-02T00:00:00Z"},
        {"permanent": "NO", "startDateTime": "2026-10-01T00:00:00Z", "endDateTime": "2026-10-02T00:00:00Z"},
    ]
    found = read_zones(json.dumps(document).encode(), "ed.json")
    assert [z.begins.month for z in found if z.begins] == [9, 10]


ENTITY = '<?xml version="1.0"?><!DOCTYPE k [<!ENTITY x SYSTEM "file:///etc/passwd">]><kml>&x;</kml>'
LAUGHS = (
    '<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha">'
    + "".join(f'<!ENTITY {chr(98 + i)} "{f"&{chr(97 + i)};" * 10}">' for i in range(9))
    + "]><kml>&j;</kml>"
)
CROSSED = [[25.0, 58.6], [25.1, 58.7], [25.1, 58.6], [25.0, 58.7], [25.0, 58.6]]
SWAPPED = [[y, x] for x, y in [[125.0, 58.6], [125.1, 58.6], [125.1, 58.7], [125.0, 58.6]]]


@pytest.mark.parametrize("seed", range(40))
def test_a_kmz_with_one_bit_turned_is_read_the_same_or_refused(seed: int) -> None:
    document = "<kml><Document><Placemark><name>Range</name><Polygon><outerBoundaryIs><LinearRing><coordinates>"
    document += " ".join(f"{x},{y}" for x, y in RING)
    document += "</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark></Document></kml>"
    data = zipped(("doc.kml", document.encode()))
    whole = read_zones(data, "z.kmz")
    rng = random.Random(seed)
    spoiled = bytearray(data)
    spoiled[rng.randrange(len(data))] ^= 1 << rng.randrange(8)
    try:
        found = read_zones(bytes(spoiled), "z.kmz")
    except BadFileError:
        return
    assert found == whole


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (ENTITY.encode(), "document type or entities"),
        (LAUGHS.encode(), "document type or entities"),
        (zipped(("doc.kml", b" " * 21_000_000)), "unpacks to more than"),
        (zipped(("readme.txt", b"x")), "without a KML document"),
        (b"PK\x03\x04" + b"\0" * 100, "cannot be read"),
        (b"<kml><unclosed>", "cannot be read"),
        (b"<gpx></gpx>", "begins with <gpx>"),
        (b"not json", "not JSON"),
        (b"[1, 2]", "not a FeatureCollection"),
        (b'{"type": "FeatureCollection", "features": [7]}', "feature 1"),
        (b'{"type": "FeatureCollection", "features": []}', "no polygon or circle"),
        (geojson(polygon(CROSSED), name="Bow"), r"zone 1 \(Bow\).*does not cross itself"),
        (geojson(polygon(SWAPPED), name="Swap"), r"zone 1 \(Swap\).*look swapped"),
        (geojson(polygon(RING[:2]), name="Two"), r"zone 1 \(Two\)"),
        (geojson({"type": "Polygon", "coordinates": "x"}, name="X"), "cannot be read"),
        (geojson(polygon([[25.0, float("nan")], *RING[1:]]), name="NaN"), "NaN"),
        (geojson(polygon(RING), name="Late", begins="tomorrow"), "a time like"),
        (geojson(polygon(RING), name="Where", ends="2026-03-01T00:00:00"), "a time with its UTC offset"),
        (geojson({"type": "Point", "coordinates": [58.62, 125.08]}, radius=500), "look swapped"),
        (
            geojson({"type": "Point", "coordinates": [25.08]}, radius=500, name="Half"),
            r"zone 1 \(Half\).*cannot be read",
        ),
        (geojson({"type": "MultiPolygon", "coordinates": [7]}, name="Seven"), r"zone 1 \(Seven\).*cannot be read"),
        (geojson(polygon(RING), name="Upside", lower=200, upper=100), "upper_m over the lower_m"),
        (ed269(horizontalProjection={"type": "Circle"}), "a Polygon or a Circle"),
        (json.dumps({"features": [{"geometry": [{}], "name": "E"}]}).encode(), r"zone 1 \(E\)"),
        (b"[" * 100_000, "not JSON"),
    ],
)
def test_bad_files_are_refused_and_quickly(data: bytes, says: str) -> None:
    begun = time.process_time()
    with pytest.raises(BadFileError, match=says):
        read_zones(data, "bad")
    assert time.process_time() - begun < 2

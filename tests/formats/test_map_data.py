"""Open map data: what an extract has around a place, against readings of it that know nothing of ours."""

from __future__ import annotations

import gzip
import math
from collections import Counter
from pathlib import Path

import defusedxml.ElementTree as ET
import osmium
import pytest
import shapely
from shapely.geometry import Point, Polygon
from shapely.geometry.base import BaseGeometry

from tests.make import EXAMPLES
from zealous_lark.core.geodesy import Frame, bearing_and_distance, destination
from zealous_lark.core.place import Role, flattened
from zealous_lark.demo.map_data import extract
from zealous_lark.demo.places import BOG_AT
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.map_data import Found, read_map_data
from zealous_lark.formats.map_meaning import MapGroup, height_of, meaning_of
from zealous_lark.plan.place import height_assumed, read_digest

MAP = EXAMPLES / "sarvik-map.osm"


def bog(path: Path = MAP, radius_m: float = 2_000) -> tuple[Found, ...]:
    return read_map_data(str(path), *BOG_AT, radius_m)


def by_id(found: tuple[Found, ...]) -> dict[str, Found]:
    return {f.feature.id: f for f in found}


def test_the_example_is_what_its_script_writes() -> None:
    assert MAP.read_text() == extract()


def test_the_counts_are_those_of_the_tags() -> None:
    """Read by an XML parser alone: what carries a tag that matters, within the circle."""
    root = ET.parse(MAP).getroot()
    tags = [{t.get("k"): t.get("v") for t in e.findall("tag")} for e in root if e.tag != "relation"]
    assert sum(t.get("power") in ("line", "minor_line") for t in tags) == 2
    counted = Counter(f.group for f in bog())
    assert counted[MapGroup.WIRES] == 2
    assert counted[MapGroup.BUILDINGS] == sum("building" in t for t in tags)
    assert counted[MapGroup.TALL] == sum(
        t.get("power") in ("tower", "pole", "generator") or t.get("man_made") == "mast" for t in tags
    )


def test_heights_are_given_or_assumed_and_said_to_be() -> None:
    found = by_id(bog())
    line, small, house = found["osm-w101"].feature, found["osm-w100"].feature, found["osm-w103"].feature
    assert (line.height_m, height_assumed(line)) == (28, False)
    assert (small.height_m, height_assumed(small)) == (10, True)
    assert (house.height_m, height_assumed(house)) == (6, True)  # two storeys
    for f in found.values():
        assert f.feature.origin is not None
        assert f.feature.origin.digest == read_digest(f.feature)


@pytest.mark.parametrize(
    ("tags", "height", "assumed"),
    [
        ({"height": "12.5"}, 12.5, False),
        ({"height": "40 ft"}, 12.192, False),
        ({"est_height": "9 m"}, 9, False),
        ({"height": "tall", "building:levels": "3"}, 9, True),
        ({"height": "-4"}, 8, True),
        ({"height": "99999"}, 8, True),
        ({}, 8, True),
    ],
)
def test_a_height(tags: dict[str, str], height: float, assumed: bool) -> None:
    assert height_of(tags, 8.0) == (pytest.approx(height), assumed)


@pytest.mark.parametrize(
    ("tags", "group"),
    [
        ({"power": "cable", "location": "underground"}, None),
        ({"power": "line", "location": "underground"}, None),
        ({"building": "no"}, None),
        ({"amenity": "bench"}, None),
        ({"aerialway": "gondola"}, MapGroup.WIRES),
        ({"communication": "line"}, MapGroup.WIRES),
        ({"power": "cable", "location": "overhead"}, MapGroup.WIRES),
        ({"power": "catenary_mast"}, MapGroup.TALL),
        ({"man_made": "chimney"}, MapGroup.TALL),
        ({"landuse": "forest"}, MapGroup.TREES),
        ({"waterway": "riverbank"}, MapGroup.WATER),
        ({"aeroway": "helipad"}, MapGroup.AIRFIELDS),
        ({"railway": "rail"}, MapGroup.BUSY_WAYS),
        ({"railway": "rail", "tunnel": "yes"}, None),
        ({"highway": "track"}, MapGroup.PATHS),
        ({"boundary": "national_park"}, MapGroup.ASK),
        ({"landuse": "military"}, MapGroup.ASK),
    ],
)
def test_what_tags_mean(tags: dict[str, str], group: MapGroup | None) -> None:
    meaning = meaning_of(tags)
    assert (meaning and meaning.group) == group


@pytest.mark.parametrize(("voltage", "height"), [("", 30), ("110000", 35), ("330000;110000", 50), ("junk", 30)])
def test_wires_hang_by_their_voltage_where_nobody_says(voltage: str, height: float) -> None:
    meaning = meaning_of({"power": "line", "voltage": voltage})
    assert meaning is not None
    assert meaning.height_m == height


def test_a_clearing_stays_one() -> None:
    """A wood with a hole comes in pieces that leave the hole open."""
    wood = [f.feature for f in bog() if f.feature.id.startswith("osm-r900")]
    assert len(wood) > 1

    def in_wood(bearing: float, distance: float) -> bool:
        lat, lon = destination(*BOG_AT, bearing, distance)
        return any(f.geometry().contains(Point(lon, lat)) for f in wood)

    assert in_wood(240, 600)
    assert in_wood(215, 400)
    assert not in_wood(228, 475)
    assert not in_wood(100, 100)


def test_everything_is_cut_to_the_circle_but_airfields() -> None:
    for f in bog(radius_m=500):
        for lon, lat in f.feature.coordinates:
            assert bearing_and_distance(*BOG_AT, lat, lon)[1] <= (10_000 if f.feature.role is Role.AIRFIELD else 501)
    assert any(f.feature.role is Role.AIRFIELD for f in bog(radius_m=500))
    distances = [f.distance_m for f in bog()]
    assert distances == sorted(distances)


def test_a_line_that_begins_far_away_is_not_missed(tmp_path: Path) -> None:
    """A power line of sixty kilometres, with no point of it near: it still hangs over the place."""
    ends = [destination(*BOG_AT, bearing, 30_000) for bearing in (10.0, 190.0)]
    nodes = "".join(f'<node id="{n}" version="1" lat="{lat}" lon="{lon}"/>' for n, (lat, lon) in enumerate(ends, 1))
    way = '<way id="1" version="1"><nd ref="1"/><nd ref="2"/><tag k="power" v="line"/></way>'
    path = tmp_path / "a.osm"
    path.write_text(f'<?xml version="1.0"?><osm version="0.6">{nodes}{way}</osm>')
    (line,) = bog(path)
    assert line.group is MapGroup.WIRES
    assert line.distance_m < 50


def test_an_outline_that_crosses_itself_still_stands_there(tmp_path: Path) -> None:
    """A wood drawn like a bow tie: all of its corners are in what comes in."""
    corners = [destination(*BOG_AT, b, d) for b, d in ((300, 300), (320, 600), (300, 600), (320, 300))]
    nodes = "".join(f'<node id="{n}" version="1" lat="{lat}" lon="{lon}"/>' for n, (lat, lon) in enumerate(corners, 1))
    refs = "".join(f'<nd ref="{n}"/>' for n in (1, 2, 3, 4, 1))
    path = tmp_path / "a.osm"
    way = f'<way id="1" version="1">{refs}<tag k="natural" v="wood"/></way>'
    path.write_text(f'<?xml version="1.0"?><osm version="0.6">{nodes}{way}</osm>')
    woods = [f.feature.geometry() for f in bog(path)]
    for lat, lon in corners:
        assert min(w.distance(Point(lon, lat)) for w in woods) * 111_320 < 3


def test_the_packed_form_says_the_same(tmp_path: Path) -> None:
    packed = tmp_path / "sarvik.osm.pbf"
    with osmium.SimpleWriter(str(packed)) as writer:
        for thing in osmium.FileProcessor(str(MAP)):
            writer.add(thing)
    assert bog(packed) == bog()


def test_a_name_that_would_spoil_others_comes_in_without_its_marks(tmp_path: Path) -> None:
    spoilt = tmp_path / "a.osm"
    spoilt.write_text(MAP.read_text().replace("Bog hut", "Bog\u2066 \u202ehut"))
    assert by_id(bog(spoilt))["osm-w102"].feature.name == "Bog hut (building)"


@pytest.mark.parametrize(
    ("content", "why"),
    [
        (b"", "something else"),
        (b"junk" * 999, "something else"),
        (MAP.read_bytes()[:3_000], "cannot be read"),
        (gzip.compress(MAP.read_bytes()), "something else"),
        (b'<?xml version="1.0"?><!DOCTYPE osm [<!ENTITY a "b">]><osm version="0.6"></osm>', "document type"),
        (b'<?xml version="1.0"?><osm version="0.6"></osm>', "nothing within 2000 m"),
        (b"\x00\x00\x00\x0d\x0a\x09OSMHeader\x18\xff\xff\xff\x7f" + b"\xff" * 400, "cannot be read"),
    ],
)
def test_what_is_no_extract_is_refused_by_name(tmp_path: Path, content: bytes, why: str) -> None:
    path = tmp_path / "a"
    path.write_bytes(content)
    with pytest.raises(BadFileError, match=why):
        bounded.read(bounded.OF_MAP_DATA, readers.read_map_data, str(path), *BOG_AT, 2_000)


def test_another_country_is_said_to_have_nothing_here() -> None:
    with pytest.raises(BadFileError, match="nothing within 2000 m of this place"):
        read_map_data(str(MAP), -33.0, 151.0, 2_000)


def coast(path: Path, *ways: tuple[tuple[float, float], ...]) -> Path:
    """An extract of coastlines, each of points east and north of the bog [m]."""
    number, parts = 0, []
    for way, points in enumerate(ways, 1):
        ids = []
        for east, north in points:
            lat, lon = destination(*BOG_AT, math.degrees(math.atan2(east, north)), math.hypot(east, north))
            number += 1
            ids.append(number)
            parts.insert(0, f'<node id="{number}" lat="{lat:.7f}" lon="{lon:.7f}"/>')
        refs = "".join(f'<nd ref="{i}"/>' for i in ids)
        parts.append(f'<way id="{way}">{refs}<tag k="natural" v="coastline"/></way>')
    path.write_text(f'<?xml version="1.0"?><osm version="0.6">{"".join(parts)}</osm>')
    return path


def wet(found: tuple[Found, ...]) -> BaseGeometry:
    """What is water, east and north of the bog [m]."""
    assert {(f.group, f.feature.role) for f in found} == {(MapGroup.WATER, Role.WATER)}
    areas = [Polygon(f.feature.coordinates) for f in found]
    return shapely.union_all([flattened(area, Frame(*BOG_AT)) for area in areas])


def test_the_sea_lies_right_of_the_coast(tmp_path: Path) -> None:
    """A coast from south to north, 300 m east: the land is west of it, and half a circle less 300 m is water."""
    eastern = wet(read_map_data(str(coast(tmp_path / "a.osm", ((300, -5_000), (300, 5_000)))), *BOG_AT, 1_000))
    assert eastern.contains(Point(301, 0))
    assert not eastern.intersects(Point(299, 0))
    # A segment of a circle: r² acos(d / r) − d √(r² − d²)
    assert eastern.area == pytest.approx(1e6 * math.acos(0.3) - 300 * math.sqrt(1e6 - 9e4), rel=0.01)
    western = wet(read_map_data(str(coast(tmp_path / "b.osm", ((300, 5_000), (300, -5_000)))), *BOG_AT, 1_000))
    assert western.contains(Point(0, 0))
    assert western.area + eastern.area == pytest.approx(math.pi * 1e6, rel=0.01)


def test_an_island_and_a_coast_of_two_pieces(tmp_path: Path) -> None:
    island = ((200, 0), (300, 100), (400, 0), (300, -100), (200, 0))[::-1]  # anticlockwise: the land is inside
    pieces = ((100, -3_000), (100, -50)), ((100, -50), (100, 3_000))
    found = wet(read_map_data(str(coast(tmp_path / "a.osm", *pieces, island)), *BOG_AT, 1_000))
    assert found.contains(Point(150, 0))
    assert found.contains(Point(500, 0))
    assert not found.intersects(Point(300, 0))
    assert not found.intersects(Point(50, 0))


def test_a_coast_that_ends_within_says_nothing_of_the_sea(tmp_path: Path) -> None:
    with pytest.raises(BadFileError, match="nothing within"):
        read_map_data(str(coast(tmp_path / "a.osm", ((100, -3_000), (100, 50)))), *BOG_AT, 1_000)

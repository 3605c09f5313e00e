"""The place document: what it refuses, and that it loses nothing on the way to the core and back."""

import base64
import json
import zlib
from datetime import date
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import HeightReference, Restriction, Role
from zealous_lark.core.terrain import Terrain
from zealous_lark.formats.features import Exported, features_of, items_of
from zealous_lark.formats.geojson import read_features, write_geojson
from zealous_lark.formats.gpx import read_gpx, write_gpx
from zealous_lark.formats.kml import read_placemarks, write_kml
from zealous_lark.plan import PlanRefusedError, read_document
from zealous_lark.plan.place import (
    MAX_CELLS,
    FeaturePart,
    PlacePart,
    TerrainPart,
    ZonePart,
    pack_terrain,
    place_of,
    unpack_terrain,
    with_heights,
)

SQUARE = [[25.0, 58.6], [25.1, 58.6], [25.1, 58.7], [25.0, 58.7]]


def terrain(heights: Any = None) -> Terrain:
    given_heights = np.arange(12.0).reshape(3, 4) if heights is None else heights
    return Terrain("t", Frame(58.62, 25.08), 10, -20, 15, np.asarray(given_heights, dtype=np.float32))


def refusals(document: dict[str, Any]) -> list[tuple[str, str]]:
    with pytest.raises(PlanRefusedError) as refused:
        read_document(PlacePart, json.dumps(document))
    return [(r.key, r.allowed) for r in refused.value.refusals]


@pytest.mark.parametrize(
    ("zone", "allowed"),
    [
        ({"areas": [[[[200, 58], [25, 59], [26, 59]]]]}, "longitude from -180 to 180"),
        ({"areas": [[[[25, 58], [26, 59], [26, 58], [25, 59]]]]}, "does not cross itself"),
        ({"areas": [[SQUARE]], "lower_m": 200, "upper_m": 100}, "an upper_m over the lower_m"),
        ({"areas": []}, "1"),
        ({"areas": [[SQUARE[:2]]]}, "3"),
    ],
)
def test_a_wrong_zone_says_what_is_allowed(zone: dict[str, Any], allowed: str) -> None:
    found = refusals({"name": "P", "zones": [{"name": "Z", "restriction": "prohibited", **zone}]})
    assert len(found) == 1
    assert found[0][0].startswith("zones[0]")
    assert allowed in found[0][1]


def test_limits_from_different_levels_are_not_compared() -> None:
    """200 m above the ground may well be under 150 m above a sea that lies far below."""
    ZonePart(name="Z", areas=[[SQUARE]], restriction=Restriction.PROHIBITED, lower_m=200, upper_m=150,
             upper_from=HeightReference.SEA_LEVEL)  # fmt: skip


def test_every_fault_is_named_at_once() -> None:
    bad = {"id": "a", "role": "takeoff", "shape": "point", "coordinates": [[25, 58]], "height_m": -1, "colour": 1}
    keys = [key for key, _ in refusals({"name": "", "features": [bad]})]
    assert keys == ["name", "features[0].height_m", "features[0].colour"]


@pytest.mark.parametrize(
    ("change", "allowed"),
    [
        ({"heights": "!!"}, "deflated heights in base64"),
        ({"heights": base64.b64encode(b"plain").decode()}, "deflated heights in base64"),
        ({"heights": base64.b64encode(zlib.compress(b"\0" * 10)).decode()}, "24 bytes of heights for 4 × 3 cells"),
        ({"heights": base64.b64encode(zlib.compress(b"\0" * 10_000_000)).decode()}, "24 bytes of heights"),
        ({"columns": 5000, "rows": 5000, "heights": None}, f"{MAX_CELLS:,} cells at most"),
        ({"sha256": "../../etc"}, "a text"),
    ],
)
def test_wrong_heights_are_refused_without_being_unpacked_whole(change: dict[str, Any], allowed: str) -> None:
    whole = with_heights(*pack_terrain(terrain())).model_dump(mode="json")
    ((key, says),) = refusals({"name": "P", "terrain": {**whole, **change}})
    assert key.startswith("terrain")
    assert allowed in says


def test_heights_are_kept_to_the_decimetre_and_voids_as_voids() -> None:
    heights = np.array([[41.23, np.nan, 3000.04], [-12.0, 41.26, 0.0]])
    header, grid = pack_terrain(terrain(heights))
    again = unpack_terrain(header, grid)
    assert np.nanmax(np.abs(again.heights - heights)) <= 0.0501
    assert np.array_equal(np.isnan(again.heights), np.isnan(heights))
    assert (again.cell_m, again.west_m, again.north_m, again.name) == (10, -20, 15, "t")


def test_a_terrain_of_voids_alone_packs_too() -> None:
    header, grid = pack_terrain(terrain(np.full((2, 2), np.nan)))
    assert np.isnan(unpack_terrain(header, grid).heights).all()


def test_a_document_becomes_the_cores_place() -> None:
    part = PlacePart(
        name="P",
        features=[
            FeaturePart(id="a", role=Role.AIRFIELD, shape="point", coordinates=[[25.08, 58.62]], radius_m=900, note="n")
        ],
        zones=[ZonePart(name="Z", areas=[[SQUARE]], restriction=Restriction.CONDITIONAL, authority="A", message="M")],
        zones_looked_at=date(2026, 9, 20),
        terrain=with_heights(*pack_terrain(terrain())),
    )
    place = place_of(read_document(PlacePart, part.model_dump_json()))
    assert place.features[0].geometry.equals(Point(25.08, 58.62))
    assert (place.features[0].radius_m, place.features[0].note) == (900, "n")
    assert place.zones[0].geometry.contains(Point(25.05, 58.65))
    assert (place.zones[0].authority, place.zones[0].message) == ("A", "M")
    assert place.zones_looked_at == date(2026, 9, 20)
    assert place.terrain is not None
    assert place.terrain.heights[2, 3] == 11


def test_heights_kept_elsewhere_come_from_there() -> None:
    header = pack_terrain(terrain())[0].model_copy(update={"sha256": "0" * 64})
    part = PlacePart(name="P", terrain=TerrainPart.model_validate(header.model_dump()))
    assert place_of(part).terrain is None
    kept = terrain()
    assert place_of(part, kept).terrain is kept


WORDS = st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Co", "Cn")), max_size=20)
DEGREES = st.integers(-5_000, 5_000).map(lambda n: n / 1e5)


@st.composite
def features(draw: st.DrawFn) -> FeaturePart:
    """Points and lines with any words in them."""
    shape = draw(st.sampled_from(["point", "line"]))
    count = 1 if shape == "point" else draw(st.integers(2, 6))
    spots = [[25 + draw(DEGREES), 58 + draw(DEGREES)] for _ in range(count)]
    return FeaturePart(
        id="f",
        role=Role.OBSTACLE,
        name=draw(WORDS),
        shape=shape,
        coordinates=spots,
        kind=draw(st.sampled_from(list(ObstacleKind))),
        height_m=draw(st.floats(0.1, 300)),
        note=draw(WORDS),
    )


@given(st.lists(features(), min_size=1, max_size=4))
def test_whatever_is_drawn_and_written_comes_back_the_same(drawn: list[FeaturePart]) -> None:
    """Through GeoJSON, KML and GPX, with any words, marks and quotes in the names."""
    numbered = [f.model_copy(update={"id": f"f{i}"}) for i, f in enumerate(drawn)]
    exported = Exported("P", items_of(PlacePart(name="P", features=numbered)))
    for write, read in ((write_geojson, read_features), (write_kml, read_placemarks), (write_gpx, read_gpx)):
        back, _ = features_of(read(write(exported)))
        assert sorted(back, key=lambda f: f.id) == numbered

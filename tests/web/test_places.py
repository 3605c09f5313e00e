"""Places through the API: kept, changed, brought in, taken out; and what a session there is judged by."""

import json
import math
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from tests.formats.test_raster import estonian
from tests.formats.test_zones import ed269
from tests.make import EXAMPLES
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.terrain import Terrain
from zealous_lark.formats.raster import write_geotiff
from zealous_lark.plan.place import TerrainPart, unpack_terrain
from zealous_lark.store import Database

BYTES = {"Content-Type": "application/octet-stream"}


def takeoff(**more: Any) -> dict[str, Any]:
    return {"id": "t", "role": "takeoff", "shape": "point", "coordinates": [[25.08, 58.62]], **more}


def pole(**more: Any) -> dict[str, Any]:
    return {"id": "p", "role": "obstacle", "kind": "mast", "height_m": 60, "shape": "point",
            "coordinates": [[25.0775, 58.6193]], **more}  # fmt: skip


def made(client: FlaskClient, *features: dict[str, Any], **more: Any) -> dict[str, Any]:
    answer = client.post("/api/places", json={"name": "Hill", "features": [takeoff(), *features], **more})
    assert answer.status_code == 201, answer.json
    found: dict[str, Any] = answer.json
    return found


def send(client: FlaskClient, place: dict[str, Any], kind: str, data: bytes, name: str, crs: str = "") -> Any:
    query = f"name={name}&revision={place['revision']}" + (f"&crs={crs}" if crs else "")
    return client.post(f"/api/places/{place['id']}/{kind}?{query}", data=data, headers=BYTES)


def count(db: Database, table: str) -> int:
    with db.engine.connect() as c:
        return int(c.exec_driver_sql(f"SELECT count(*) FROM {table}").scalar_one())


def test_a_place_is_kept_changed_deleted_and_brought_back(client: FlaskClient) -> None:
    place = made(client, pole())
    changed = {**place["place"], "name": "Mound"}
    saved = client.put(f"/api/places/{place['id']}", json={"revision": 1, "place": changed}).json
    assert (saved["revision"], saved["place"]["name"]) == (2, "Mound")
    late = client.put(f"/api/places/{place['id']}", json={"revision": 1, "place": changed})
    assert late.status_code == 409
    assert client.delete(f"/api/places/{place['id']}").status_code == 204
    assert client.get("/api/places").json["places"] == []
    assert client.get(f"/api/places/{place['id']}").status_code == 404
    client.post(f"/api/places/{place['id']}/restore")
    (listed,) = client.get("/api/places").json["places"]
    assert (listed["name"], listed["drawn"], listed["terrain"], listed["latitude"]) == ("Mound", 2, False, 58.62)


@pytest.mark.parametrize(
    ("feature", "key", "allowed"),
    [
        (pole(height_m=0), "features[1]", "height_m of more than 0"),
        (pole(kind=None), "features[1]", "a kind"),
        (pole(coordinates=[[58.62, 125.08]]), "features[1].coordinates", "they look swapped"),
        (pole(coordinates=[]), "features[1].coordinates", "1"),
        (pole(shape="line"), "features[1]", "2 or more positions"),
        (pole(role="takeoff", shape="area"), "features[1]", "a takeoff drawn as point"),
        (pole(colour="red"), "features[1].colour", "no such key"),
        (pole(id="t"), "place.features[1].id", "an id of its own"),
        (
            pole(shape="area", coordinates=[[25.0, 58.6], [25.1, 58.7], [25.1, 58.6], [25.0, 58.7]]),
            "features[1]",
            "does not cross itself",
        ),
    ],
)
def test_bad_features_are_named_and_nothing_is_kept(
    client: FlaskClient, database: Database, feature: dict[str, Any], key: str, allowed: str
) -> None:
    answer = client.post("/api/places", json={"name": "Hill", "features": [takeoff(), feature]})
    assert answer.status_code == 422
    (refusal,) = answer.json["refusals"]
    assert refusal["key"] == key
    assert allowed in refusal["allowed"]
    assert count(database, "places") == 0


def test_a_session_is_judged_by_what_is_drawn_there(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    place = made(client, pole(), zones_looked_at="2026-09-20")
    plan_dict["site"].update(place=place["id"], obstacles=[])
    before = client.post("/api/check", json=plan_dict).json
    assert before["rth"]["lowest_m"] == 70
    assert before["tightest"] == "clear.outbound"
    document = {"revision": 1, "place": {**place["place"], "features": [takeoff()]}}
    client.put(f"/api/places/{place['id']}", json=document)
    assert client.post("/api/check", json=plan_dict).json["rth"]["lowest_m"] == 20


def test_a_place_that_never_was_is_refused(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    plan_dict["site"]["place"] = 77
    for answer in (client.post("/api/check", json=plan_dict), client.post("/api/sessions/import", json=plan_dict)):
        assert answer.status_code == 422
        assert answer.json["refusals"][0]["key"] == "site.place"
    assert client.get("/api/sessions").json["sessions"] == []


def test_sessions_keep_a_deleted_place(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    place = made(client, pole())
    plan_dict["site"].update(place=place["id"], obstacles=[])
    session = client.post("/api/sessions/import", json=plan_dict).json
    client.delete(f"/api/places/{place['id']}")
    assert client.post("/api/check", json=plan_dict).json["rth"]["lowest_m"] == 70
    assert client.get(f"/api/places/{place['id']}").status_code == 404
    assert client.get(f"/api/places/{place['id']}?also_deleted=true").json["place"]["name"] == "Hill"
    assert client.get(f"/api/sessions/{session['id']}/export.kml").status_code == 200


def test_a_session_begins_at_a_drawn_place(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    place = send(client, made(client, pole(), zones_looked_at="2026-09-20"), "terrain", estonian(), "hill.tif").json
    first = client.post("/api/sessions/import", json=plan_dict).json
    body = {"title": "There", "takeoff_at": "2026-09-28T08:00:00+03:00", "start_from": first["id"]}
    begun = client.post("/api/sessions", json={**body, "at_place": place["id"]}).json
    site = begun["plan"]["site"]
    assert (site["place"], site["name"], site["obstacles"]) == (place["id"], "Hill", [])
    assert site["elevation_m"] == pytest.approx(42.6, abs=0.3)  # the hill's foot: 40 m and its far slope, by hand 42.6
    assert begun["result"]["rth"]["lowest_m"] > 60
    assert client.post("/api/sessions", json={**body, "at_place": 99}).status_code == 404


def test_a_decision_keeps_the_place_as_it_was(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    place = made(client, pole())
    plan_dict["site"].update(place=place["id"], obstacles=[])
    session = client.post("/api/sessions/import", json=plan_dict).json
    kept = client.post(f"/api/sessions/{session['id']}/decisions", json={"word": "wait", "revision": 1}).json
    client.put(f"/api/places/{place['id']}", json={"revision": 1, "place": {"name": "Gone"}})
    again = client.get(f"/api/decisions/{kept['id']}").json
    assert again["result"]["rth"]["lowest_m"] == 70
    assert [f["id"] for f in again["plan"]["place"]["features"]] == ["t", "p"]


def test_a_plan_travels_with_its_place_and_terrain_and_comes_back_the_same(
    client: FlaskClient, plan_dict: dict[str, Any]
) -> None:
    place = send(client, made(client, pole(), zones_looked_at="2026-09-20"), "terrain", estonian(), "hill.tif").json
    plan_dict["site"].update(place=place["id"], obstacles=[])
    plan_dict["flight"].update(bearing_deg=45.0, distance_m=320.0)
    session = client.post("/api/sessions/import", json=plan_dict).json
    there = client.get(f"/api/sessions/{session['id']}/plan.json").json
    assert there["site"]["place"] is None
    assert there["place"]["terrain"]["heights"]
    result = client.post("/api/check?levers=false", json=there).json
    assert result == session["result"]
    back = client.post("/api/sessions/import", json=there).json
    assert back["plan"]["site"]["place"] not in (None, place["id"])
    assert back["result"] == session["result"]


def test_a_terrain_raises_the_return_height_and_has_a_shade(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    """A hill of 60 m, 300 m to the north-east, on ground of about 43 m under the pad: 57 m over it, and 10 more."""
    place = send(client, made(client), "terrain", estonian(), "hill.tif")
    assert place.status_code == 200, place.json
    terrain = place.json["terrain"]
    assert terrain["highest_m"] == pytest.approx(100, abs=0.5)
    plan_dict["site"].update(place=place.json["id"], obstacles=[])
    plan_dict["flight"].update(bearing_deg=45.0, distance_m=320.0)
    assert client.post("/api/check", json=plan_dict).json["rth"]["lowest_m"] == pytest.approx(67, abs=1)
    shade = client.get(f"/api/terrains/{terrain['sha256']}/hillshade.png")
    assert (shade.mimetype, shade.data[:4]) == ("image/png", b"\x89PNG")
    assert client.get(f"/api/terrains/{terrain['sha256']}/terrain.tif").data[:2] == b"II"
    assert client.get("/api/terrains/nothing/hillshade.png").status_code == 404


@pytest.mark.parametrize(
    ("kind", "data", "name", "key"),
    [
        ("terrain", b"junk" * 99, "a.tif", "terrain"),
        ("zones", b"{}", "z.json", "zones"),
        ("features", b"<kml/>", "f.kml", "features"),
    ],
)
def test_a_bad_file_is_named_and_changes_nothing(
    client: FlaskClient, database: Database, kind: str, data: bytes, name: str, key: str
) -> None:
    place = made(client)
    answer = send(client, place, kind, data, name)
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["key"] == key
    assert client.get(f"/api/places/{place['id']}").json == place
    assert count(database, "terrains") == 0


def test_a_text_in_a_file_that_would_spoil_others_is_refused_by_name(client: FlaskClient) -> None:
    place = made(client)
    ring = [[25, 58], [25.1, 58], [25.1, 58.1], [25, 58]]
    feature = {
        "type": "Feature",
        "properties": {"name": "bell \x07"},
        "geometry": {"type": "Polygon", "coordinates": [ring]},
    }
    data = json.dumps({"type": "FeatureCollection", "features": [feature]}).encode()
    answer = send(client, place, "zones", data, "z.json")
    assert answer.status_code == 422
    assert "U+0007" in answer.json["refusals"][0]["given"]
    assert client.get(f"/api/places/{place['id']}").json == place


def test_a_file_is_sent_as_bytes_for_the_revision_that_was_seen(client: FlaskClient) -> None:
    place = made(client)
    form = client.post(f"/api/places/{place['id']}/zones?name=a&revision=1", data={"file": "x"})
    assert form.status_code == 415
    assert send(client, {**place, "revision": 9}, "zones", ed269(), "z.json").status_code == 409
    assert client.post(f"/api/places/{place['id']}/zones?revision=1", data=b"x", headers=BYTES).status_code == 422
    large = client.post(f"/api/places/{place['id']}/zones?name=a&revision=1", data=b" " * 16_000_001, headers=BYTES)
    assert large.status_code == 413


def test_zones_come_in_and_the_same_file_replaces_them(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    place = made(client)
    plan_dict["site"].update(place=place["id"], obstacles=[])
    unasked = client.post("/api/check", json=plan_dict).json
    assert next(c for c in unasked["checks"] if c["id"] == "rules.zone")["status"] == "unknown"
    once = send(client, place, "zones", ed269(), "z.json").json
    twice = send(client, once, "zones", ed269(), "z.json").json
    assert len(twice["place"]["zones"]) == 1
    judged = client.post("/api/check", json=plan_dict).json
    assert judged["tightest"] == "rules.zone"
    assert "An authorisation is needed in Airport" in judged["checks"][0]["sentence"]


@pytest.mark.parametrize("form", ["geojson", "kml", "gpx"])
def test_a_place_goes_out_and_comes_back(client: FlaskClient, demo: Database, form: str) -> None:
    assert demo.engine is not None
    bog = next(p for p in client.get("/api/places").json["places"] if p["name"] == "Sarvik bog")
    out = client.get(f"/api/places/{bog['id']}/export.{form}")
    assert f"lark-place-{bog['id']}.{form}" in out.headers["Content-Disposition"]
    empty = made(client)
    back = send(client, empty, "features", out.data, f"bog.{form}").json["place"]
    here = client.get(f"/api/places/{bog['id']}").json["place"]
    keyed = {f["id"]: f for f in back["features"]}
    assert [keyed[f["id"]] for f in here["features"]] == here["features"]
    assert back["zones"] == here["zones"]


def test_a_place_file_comes_back_with_its_terrain(client: FlaskClient, demo: Database) -> None:
    assert demo.engine is not None
    whole = client.get("/api/places/1/export.json").json
    again = client.post("/api/places", json=whole).json
    first = client.get("/api/places/1").json
    assert again["terrain"] == first["terrain"]  # the very same heights, under the same digest
    assert again["place"] == first["place"]


@pytest.mark.parametrize("form", ["geojson", "kml", "gpx"])
def test_a_session_goes_out(client: FlaskClient, demo: Database, form: str) -> None:
    assert demo.engine is not None
    out = client.get(f"/api/sessions/1/export.{form}")
    assert out.status_code == 200
    for words in (b"Take-off", b"Far point", b"Leg", b"Reach", b"pines", b"Not permission to fly"):
        assert words in out.data
    if form == "geojson":
        kinds = [f["properties"]["lark_type"] for f in json.loads(out.data)["features"]]
        assert kinds[:4] == ["takeoff", "far_end", "leg", "reach"]
    assert client.get("/api/sessions/1/export.doc").status_code == 404


def test_looking_at_the_land(client: FlaskClient, demo: Database) -> None:
    """The demo's north-east leg: the esker's wood is in the section, and its top in the return height."""
    assert demo.engine is not None
    plan = client.get("/api/sessions/2").json["plan"]
    plan["flight"].update(bearing_deg=50.0, distance_m=430.0)
    cut = client.post("/api/section?bearing_deg=50&upto_m=600", json=plan).json
    wood = next(s for s in cut["standing"] if s["name"] == "wood on the esker")
    # By hand: the crest is 420 m out and 34 m up there (35 less its dip and the cells' rounding), the trees 16 m.
    assert wood["top_m"] == pytest.approx(35 + 16, abs=1)
    result = client.post("/api/check?levers=false", json=plan).json
    assert result["rth"]["lowest_m"] == pytest.approx(51 + 10, abs=1.2)
    seen = client.post("/api/survey", json=plan).json
    assert {s["name"] for s in seen["subjects"]} == {"Lookout tower", "Crane meadow", "Black pool"}
    assert len(seen["signal_m"]) == 72
    found = client.post("/api/takeoffs", json=plan).json["suggestions"]
    assert 1 <= len(found) <= 3
    for s in found:
        moved = {**plan, "site": {**plan["site"], **{k: s[k] for k in ("latitude", "longitude", "elevation_m")}},
                 "flight": {**plan["flight"], **{k: s[k] for k in ("bearing_deg", "distance_m")}}}  # fmt: skip
        assert client.post("/api/check?levers=false", json=moved).json["verdict"] == s["verdict"]


def test_looking_needs_a_place(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    for address in ("/api/survey", "/api/takeoffs"):
        answer = client.post(address, json=plan_dict)
        assert answer.json["refusals"][0]["key"] == "site.place"
    level = client.post("/api/section?bearing_deg=240&upto_m=300", json=plan_dict).json
    assert set(level["ground_m"]) == {0}
    assert [s["kind"] for s in level["standing"]] == ["trees", "mast"]
    assert client.post("/api/section?bearing_deg=400&upto_m=300", json=plan_dict).status_code == 422


def test_heights_from_afar(client: FlaskClient) -> None:
    assert client.get("/api/height/angle?distance_m=50&angle_deg=20").json["height_m"] == pytest.approx(19.8, abs=0.01)
    noon = "shadow_m=20&latitude=58.62&longitude=25.08&at=2026-06-21T13:20:00%2B03:00"
    found = client.get(f"/api/height/shadow?{noon}").json
    assert found["sun_elevation_deg"] == pytest.approx(90 - 58.62 + 23.44, abs=0.1)  # the solstice noon
    night = client.get("/api/height/shadow?shadow_m=20&latitude=58.62&longitude=25.08&at=2026-06-21T01:00:00%2B03:00")
    assert night.status_code == 422
    assert night.json["refusals"][0]["key"] == "at"


def surface_file(place: dict[str, Any], offset_m: float = 0.0) -> bytes:
    """The demo's ground with a spruce of 25 m on the low flight that nobody drew, as a GeoTIFF of 2 m cells."""
    frame = Frame(58.62, 25.08)
    axis = -400 + (np.arange(400) + 0.5) * 2
    x, y = np.meshgrid(axis, axis[::-1])
    header = TerrainPart.model_validate(place["terrain"])
    ground = unpack_terrain(header, header.unpacked()).sample(x, y)
    towards = math.radians(240)
    tree = np.hypot(x - 60 * math.sin(towards), y - 60 * math.cos(towards)) < 4
    return write_geotiff(Terrain("s", frame, 2.0, -400, 400, (ground + 25.0 * tree + offset_m).astype(np.float32)))


def test_a_surface_model_is_brought_in_measures_and_decides(demo_client: FlaskClient) -> None:
    whole = demo_client.get("/api/places/1/export.json").json
    opened = demo_client.get("/api/places/1").json
    plan = demo_client.get("/api/sessions/1").json["plan"]
    low = {**plan, "flight": {**plan["flight"], "bearing_deg": 240, "distance_m": 120, "height_m": 14, "moves": []}}

    def outbound() -> dict[str, Any]:
        checks = demo_client.post("/api/check", json=low).json["checks"]
        return next(c for c in checks if c["id"] == "clear.outbound")  # type: ignore[no-any-return]

    before = outbound()
    feet = send(demo_client, opened, "surface", surface_file(whole, offset_m=95.0), "sarvik-surface.tif")
    assert feet.status_code == 422
    assert "not in feet" in feet.json["refusals"][0]["allowed"]
    answer = send(demo_client, opened, "surface", surface_file(whole), "sarvik-surface.tif")
    assert answer.status_code == 200
    kept = answer.json["place"]["surface"]
    assert kept["heights"] is None
    assert kept["cell_m"] == 5.0
    after = outbound()
    assert after["status"] == "fail"
    assert "trees or roofs of the surface model (25 m)" in after["sentence"]
    assert before["sentence"] != after["sentence"]
    cut = demo_client.post("/api/section", query_string={"bearing_deg": 240, "upto_m": 120}, json=low)
    assert max(v for v in cut.json["surface_m"] if v is not None) == pytest.approx(25, abs=1)
    # It travels with the place, and is judged alike there.
    travelled = demo_client.get("/api/places/1/export.json").json
    assert travelled["surface"]["heights"]
    copy = demo_client.post("/api/places", json=travelled).json
    there = {**low, "site": {**low["site"], "place": copy["id"]}}
    assert [c["sentence"] for c in demo_client.post("/api/check", json=there).json["checks"]] == [
        c["sentence"] for c in demo_client.post("/api/check", json=low).json["checks"]
    ]
    measured = demo_client.get("/api/places/1/measured").json["measured"]
    assert all(m["measured_m"] > 2 for m in measured)
    # Taken out again, it counts no more.
    place = {**answer.json["place"], "surface": None}
    saved = demo_client.put("/api/places/1", json={"place": place, "revision": answer.json["revision"]})
    assert saved.status_code == 200
    assert outbound()["sentence"] == before["sentence"]


def test_a_surface_needs_the_ground_under_it(client: FlaskClient) -> None:
    answer = send(client, made(client), "surface", b"II*\0", "a.tif")
    assert answer.status_code == 422
    assert "terrain first" in answer.json["refusals"][0]["allowed"]


def test_a_picture_lies_under_the_drawing_and_stays_here(demo_client: FlaskClient) -> None:
    opened = demo_client.get("/api/places/1").json
    data = (EXAMPLES / "sarvik-picture.tif").read_bytes()
    answer = send(demo_client, opened, "picture", data, "sarvik-picture.tif")
    assert answer.status_code == 200
    picture = answer.json["place"]["picture"]
    assert picture["south"] < 58.62 < picture["north"]
    assert picture["pixel_m"] == pytest.approx(1, abs=0.1)
    image = demo_client.get(f"/api/pictures/{picture['sha256']}.jpg")
    assert image.mimetype == "image/jpeg"
    assert "immutable" in image.headers["Cache-Control"]
    assert image.data[:2] == b"\xff\xd8"
    assert demo_client.get(f"/api/pictures/{'0' * 64}.jpg").status_code == 404
    # It is too large to travel in a document, and is left out of those.
    assert demo_client.get("/api/places/1/export.json").json["picture"] is None
    unknown = {**answer.json["place"], "picture": {**picture, "sha256": "0" * 64}}
    refused = demo_client.put("/api/places/1", json={"place": unknown, "revision": answer.json["revision"]})
    assert refused.status_code == 422
    assert refused.json["refusals"][0]["key"] == "place.picture"
    wrong = send(demo_client, answer.json, "picture", b"II*\0", "a.tif")
    assert wrong.status_code == 422
    assert wrong.json["refusals"][0]["key"] == "picture"

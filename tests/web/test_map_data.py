"""Open map data into a place: reviewed, taken, judged by, and merged by identity when it comes again."""

from __future__ import annotations

from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.make import EXAMPLES
from tests.web.test_places import BYTES, made, takeoff

MAP = (EXAMPLES / "sarvik-map.osm").read_bytes()


def look(client: FlaskClient, place: int, data: bytes = MAP, radius: float | None = None) -> Any:
    query = "" if radius is None else f"?radius_m={radius}"
    return client.post(f"/api/places/{place}/map-data{query}", data=data, headers=BYTES)


def take(client: FlaskClient, place: dict[str, Any], *groups: str) -> dict[str, Any]:
    """Draw what the map has of some groups, as the screen does."""
    fresh = [
        t["feature"]
        for t in look(client, place["id"]).json["things"]
        if t["group"] in groups and t["state"] in ("new", "changed")
    ]
    ids = {f["id"] for f in fresh}
    drawn = [*(f for f in place["place"]["features"] if f["id"] not in ids), *fresh]
    body = {"revision": place["revision"], "place": {**place["place"], "features": drawn}}
    saved = client.put(f"/api/places/{place['id']}", json=body)
    assert saved.status_code == 200, saved.json
    found: dict[str, Any] = saved.json
    return found


def states(client: FlaskClient, place: dict[str, Any], data: bytes = MAP) -> dict[str, str]:
    return {t["feature"]["id"]: t["state"] for t in look(client, place["id"], data).json["things"]}


def test_a_review_keeps_nothing(client: FlaskClient) -> None:
    place = made(client, takeoff(id="x"))
    found = look(client, place["id"]).json
    assert found["attribution"].startswith("© OpenStreetMap")
    assert found["left_out_first"] == ["paths"]
    assert (found["too_many"], len(found["things"])) == (0, 24)
    assert client.get(f"/api/places/{place['id']}").json == place


def test_a_wire_that_only_the_map_knows_turns_a_low_flight(demo_client: FlaskClient) -> None:
    """The demo's flight along the pines, with its return height put right: nothing but the wire is in its way."""
    low = next(s for s in demo_client.get("/api/sessions").json["sessions"] if s["title"].startswith("Low along"))
    plan = demo_client.get(f"/api/sessions/{low['id']}").json["plan"]
    plan["settings"]["rth_altitude_m"] = 40
    before = demo_client.post("/api/check", json=plan).json
    assert before["verdict"] in ("launch", "care")
    place = demo_client.get(f"/api/places/{plan['site']['place']}").json
    take(demo_client, place, "wires", "tall")
    after = demo_client.post("/api/check", json=plan).json
    assert after["verdict"] == "stay"
    failed = {c["id"] for c in after["checks"] if c["status"] == "fail"}
    assert "clear.outbound" in failed <= {"clear.outbound", "clear.station"}
    told = next(c for c in after["checks"] if c["id"] == "clear.outbound")
    assert "small power line" in told["sentence"]
    assert any("its height assumed" in line for line in told["working"])


def test_again_it_merges_by_identity_and_leaves_what_the_pilot_changed(client: FlaskClient) -> None:
    place = take(client, made(client), "wires", "buildings", "trees")
    assert set(states(client, place).values()) == {"new", "same"}
    mine = next(f for f in place["place"]["features"] if f["id"] == "osm-w102")
    mine["height_m"] = 9
    body = {"revision": place["revision"], "place": place["place"]}
    place = client.put(f"/api/places/{place['id']}", json=body).json
    higher = MAP.replace(b'v="28 m"', b'v="31 m"')
    said = states(client, place, higher)
    assert said["osm-w102"] == "yours"
    assert said["osm-w101"] == "changed"
    assert said["osm-w100"] == "same"
    assert said["osm-n14"] == "new"


def test_a_confirmed_height_is_no_longer_assumed(client: FlaskClient) -> None:
    place = take(client, made(client), "wires")
    wire = next(f for f in place["place"]["features"] if f["id"] == "osm-w100")
    assert wire["origin"]["assumed_height_m"] == wire["height_m"] == 10
    wire["origin"]["assumed_height_m"] = None
    body = {"revision": place["revision"], "place": place["place"]}
    assert client.put(f"/api/places/{place['id']}", json=body).status_code == 200
    assert states(client, place)["osm-w100"] == "same"  # said, and not changed


def test_a_place_holds_the_nearest_and_says_how_many_it_cannot(client: FlaskClient) -> None:
    others = [takeoff(id=f"p{n}", role="note") for n in range(989)]
    place = made(client, *others)
    found = look(client, place["id"]).json
    assert (len(found["things"]), found["too_many"]) == (10, 14)
    assert all(t["group"] != "paths" for t in found["things"])


def test_what_came_from_another_extract_takes_room_too(client: FlaskClient) -> None:
    origin = {"source": "OpenStreetMap", "digest": "0" * 16, "assumed_height_m": None}
    others = [takeoff(id=f"osm-n9{n}", role="note", origin=origin) for n in range(989)]
    found = look(client, made(client, *others)["id"]).json
    assert (len(found["things"]), found["too_many"]) == (10, 14)


@pytest.mark.parametrize(
    ("data", "given"),
    [(b"junk", "something else than map data"), (b"", "something else"), (MAP[:2_000], "cannot be read")],
)
def test_what_is_no_map_is_named_and_nothing_is_kept(client: FlaskClient, data: bytes, given: str) -> None:
    place = made(client)
    answer = look(client, place["id"], data)
    assert answer.status_code == 422
    (refusal,) = answer.json["refusals"]
    assert refusal["key"] == "file"
    assert given in refusal["given"]
    assert client.get(f"/api/places/{place['id']}").json == place


def test_a_place_without_a_point_and_one_that_is_not_there(client: FlaskClient) -> None:
    empty = client.post("/api/places", json={"name": "Nowhere"}).json
    assert "take-off point first" in look(client, empty["id"]).json["refusals"][0]["allowed"]
    assert look(client, 999).status_code == 404
    assert look(client, empty["id"], radius=9).status_code == 422


@pytest.mark.parametrize("form", ["geojson", "kml", "json"])
def test_where_a_thing_comes_from_travels_with_it(client: FlaskClient, form: str) -> None:
    place = take(client, made(client), "wires", "buildings")
    wrote = client.get(f"/api/places/{place['id']}/export.{form}").data
    if form == "json":
        again = client.post("/api/places", data=wrote, headers={"Content-Type": "application/json"}).json
    else:
        other = made(client)
        query = f"name=a.{form}&revision={other['revision']}"
        again = client.post(f"/api/places/{other['id']}/features?{query}", data=wrote, headers=BYTES).json
    here, there = ({f["id"]: f for f in p["place"]["features"]} for p in (place, again))
    assert there["osm-w100"]["origin"] == here["osm-w100"]["origin"]
    assert set(states(client, again).values()) == {"new", "same"}

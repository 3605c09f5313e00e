"""The logbook through the API: search, sums, edits with history, tracks, learning, files out."""

from __future__ import annotations

import csv
import io
import json
import shutil
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import gpxpy
import numpy as np
import pytest
from fastkml import KML
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.core.postflight.make_tracks import HOME, flown, orbited, there_and_back
from tests.flying import fly
from tests.formats.test_track_files import as_csv, as_gpx
from zealous_lark.services import sessions, tracks
from zealous_lark.services.errors import NotHereError
from zealous_lark.store import Database
from zealous_lark.store.tracks import find as find_track
from zealous_lark.store.tracks import put

BYTES = {"Content-Type": "application/octet-stream"}


def entry(day: int = 0, **more: Any) -> dict[str, Any]:
    return {
        "started_at": (NOW - timedelta(days=day)).isoformat(), "place": "Sarvik bog", "aircraft": "Dunlin", "pack": "A",
        "latitude": HOME[0], "longitude": HOME[1], "seconds": 600.0, "charge_from_pct": 98.0, "charge_to_pct": 60.0,
        "predicted_to_pct": 64.0, "wind_predicted_ms": 4.0, "distance_m": 200.0, "height_m": 40.0, "verdict": "launch",
        "word": "launch", **more,
    }  # fmt: skip


def added(client: FlaskClient, **more: Any) -> dict[str, Any]:
    answer = client.post("/api/flights", json={"entry": entry(**more)})
    assert answer.status_code == 201, answer.json
    made: dict[str, Any] = answer.json
    return made


def listed(client: FlaskClient, **query: Any) -> dict[str, Any]:
    found: dict[str, Any] = client.get("/api/flights", query_string=query).json
    return found


def test_search_filter_and_sums(client: FlaskClient) -> None:
    added(client, day=1, note="Cranes at the pool")
    added(client, day=40, pack="B", place="Lake jetty", note="calm")
    added(client, day=70, aircraft="Plover", pack="1", charge_to_pct=50.0)
    assert [f["entry"]["pack"] for f in listed(client)["flights"]] == ["A", "B", "1"]
    assert listed(client)["total"] == {"name": "", "flights": 3, "seconds": 1800.0, "spent_pct": 124.0}
    assert [f["entry"]["place"] for f in listed(client, text="crane POOL")["flights"]] == ["Sarvik bog"]
    assert listed(client, text="100%")["total"]["flights"] == 0
    assert listed(client, aircraft="Plover")["total"]["flights"] == 1
    assert listed(client, since=(NOW - timedelta(days=45)).isoformat())["total"]["flights"] == 2
    assert listed(client, until=(NOW - timedelta(days=45)).isoformat())["total"]["flights"] == 1
    summary = client.get("/api/logbook/summary").json
    assert [(m["name"], m["flights"]) for m in summary["months"]] == [("2026-07", 1), ("2026-08", 1), ("2026-09", 1)]
    assert {p["name"]: p["spent_pct"] for p in summary["packs"]} == {"A": 38, "B": 38, "1": 48}
    assert summary["names"]["place"] == ["Lake jetty", "Sarvik bog"]
    assert [p["spent_pct"] for p in summary["points"]] == [48, 38, 38]
    assert client.get("/api/flights?since=yesterday").status_code == 422
    assert client.get("/api/flights?colour=red").status_code == 422


def test_pages(client: FlaskClient) -> None:
    for day in range(53):
        added(client, day=day)
    first, second = listed(client), listed(client, page=2)
    assert (len(first["flights"]), len(second["flights"]), first["pages"]) == (50, 3, 2)
    assert first["total"]["flights"] == second["total"]["flights"] == 53


def test_currency_says_what_is_due(client: FlaskClient) -> None:
    assert client.get("/api/logbook/summary").json["words"] == []
    added(client, day=45)
    words = client.get("/api/logbook/summary").json["words"]
    assert words[0].startswith("Last flight 45 days ago")
    assert words[1].startswith("No manual return")
    added(client, day=1, manual_return=True)
    summary = client.get("/api/logbook/summary").json
    assert summary["words"] == []
    assert summary["last_manual_return"] == summary["last_flight"]
    added(client, day=0)
    later = client.get("/api/logbook/summary").json
    assert later["last_manual_return"] == summary["last_manual_return"] < later["last_flight"]


def test_edits_keep_history_and_a_stale_one_is_refused(client: FlaskClient) -> None:
    made = added(client)
    for n, note in enumerate(("first", "second"), 1):
        body = {"entry": entry(note=note), "revision": n}
        assert client.put(f"/api/flights/{made['uid']}", json=body).status_code == 200
    assert client.put(f"/api/flights/{made['uid']}", json=body).status_code == 409
    found = client.get(f"/api/flights/{made['uid']}").json
    assert found["flight"]["entry"]["note"] == "second"
    assert [h["before"]["note"] for h in found["history"]] == ["first", ""]


def test_a_deleted_flight_comes_back(client: FlaskClient) -> None:
    made = added(client)
    address = f"/api/flights/{made['uid']}"
    assert client.delete(address).status_code == 204
    assert client.get(address).status_code == 404
    assert listed(client)["total"]["flights"] == 0
    assert client.delete(address).status_code == 404
    assert client.post(f"{address}/restore").status_code == 204
    assert client.get(address).json["flight"]["entry"] == made["entry"]


@pytest.mark.parametrize(
    ("change", "key"),
    [
        ({"charge_to_pct": 99.0}, "entry"),
        ({"latitude": None}, "entry"),
        ({"aircraft": ""}, "entry.aircraft"),
        ({"seconds": -5}, "entry.seconds"),
        ({"started_at": (NOW + timedelta(days=2)).isoformat()}, "entry.started_at"),
        ({"colour": "red"}, "entry.colour"),
    ],
)
def test_a_bad_entry_is_refused_by_name(client: FlaskClient, change: dict[str, Any], key: str) -> None:
    answer = client.post("/api/flights", json={"entry": {**entry(), **change}})
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["key"] == key
    assert listed(client)["total"]["flights"] == 0


def put_track(client: FlaskClient, uid: str, data: bytes, **query: Any) -> Any:
    return client.post(f"/api/flights/{uid}/track", data=data, query_string=query, headers=BYTES)


def test_a_gpx_track_tells_what_was_flown(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    answer = put_track(client, uid, as_gpx(there_and_back(), NOW), name="evening.gpx")
    assert answer.status_code == 200
    facts = answer.json["facts"]
    assert facts["farthest_m"] == pytest.approx(300, abs=0.2)
    assert facts["return_height_m"] == pytest.approx(50, abs=1)
    assert "why" in facts["wind"]
    found = client.get(f"/api/flights/{uid}").json
    assert found["flight"]["has_track"] is True
    assert found["flight"]["entry"]["distance_m"] == pytest.approx(300, abs=0.2)
    assert found["flight"]["entry"]["height_m"] == pytest.approx(50)
    assert found["history"][0]["before"]["distance_m"] == 200
    assert client.get(f"/api/flights/{uid}/track").json == answer.json
    assert client.delete(f"/api/flights/{uid}/track").status_code == 204
    assert client.get(f"/api/flights/{uid}/track").status_code == 404


def test_what_is_mended_while_a_track_is_read_is_kept(client: FlaskClient, database: Database) -> None:
    flight = added(client)
    uid = flight["uid"]
    reading = tracks.attach(database, uid, as_gpx(there_and_back(), NOW), {}, "evening.gpx", NOW)
    next(reading)
    mended = {**flight["entry"], "note": "Written meanwhile", "seconds": 611.0}
    assert client.put(f"/api/flights/{uid}", json={"entry": mended, "revision": flight["revision"]}).status_code == 200
    *_, last = reading
    assert last.kept is not None
    entry = client.get(f"/api/flights/{uid}").json["flight"]["entry"]
    assert (entry["note"], entry["seconds"]) == ("Written meanwhile", 611)
    assert entry["distance_m"] == pytest.approx(300, abs=0.2)


def test_a_flight_that_is_deleted_while_its_track_is_read_gets_none(client: FlaskClient, database: Database) -> None:
    uid = added(client)["uid"]
    reading = tracks.attach(database, uid, as_gpx(there_and_back(), NOW), {}, "evening.gpx", NOW)
    next(reading)
    assert client.delete(f"/api/flights/{uid}").status_code == 204
    with pytest.raises(NotHereError):
        list(reading)
    client.post(f"/api/flights/{uid}/restore")
    assert client.get(f"/api/flights/{uid}").json["flight"]["has_track"] is False


def test_the_wind_of_a_track_becomes_the_wind_met(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    track = flown(np.random.default_rng(4), 5.0, 235.0, np.arange(0.0, 360.0, 30.0))
    facts = put_track(client, uid, as_gpx(track, NOW)).json["facts"]
    assert facts["wind"]["speed_ms"] == pytest.approx(5, abs=0.5)
    met = client.get(f"/api/flights/{uid}").json["flight"]["entry"]["wind_met_ms"]
    assert met == pytest.approx(facts["wind"]["speed_ms"], abs=0.01)


def as_kept_before(client: FlaskClient, database: Database, points: bytes | None = None, **more: Any) -> str:
    """A flight whose track was measured when a ground speed that was held told a wind; its number."""
    uid: str = added(client, **more)["uid"]
    put_track(client, uid, as_gpx(orbited(6.0), NOW))
    with database.transaction() as s:
        kept = find_track(s, uid)
        assert kept is not None
        document = json.loads(kept.document)
        del document["measured"]
        document["facts"]["wind"] = {
            "speed_ms": 0.03, "speed_pm_ms": 0.26, "direction_deg": 10.0, "direction_pm_deg": 180.0,
            "airspeed_ms": 5.0, "samples": 9, "how": "circle",
        }  # fmt: skip
        put(s, uid, replace(kept, document=json.dumps(document), points=points or kept.points), NOW)
    return uid


def test_a_track_that_was_measured_in_an_earlier_way_is_measured_anew(client: FlaskClient, database: Database) -> None:
    """What told a wind from a ground speed that was held tells none now; what the pilot wrote stays."""
    uid = as_kept_before(client, database)
    entry = client.get(f"/api/flights/{uid}").json["flight"]
    body = {"entry": {**entry["entry"], "wind_met_ms": 0.03}, "revision": entry["revision"]}
    assert client.put(f"/api/flights/{uid}", json=body).status_code == 200
    assert tracks.measure_anew(database, NOW) == 1
    assert "the same on many headings" in client.get(f"/api/flights/{uid}/track").json["facts"]["wind"]["why"]
    assert client.get(f"/api/flights/{uid}").json["flight"]["entry"]["wind_met_ms"] is None
    assert tracks.measure_anew(database, NOW) == 0


def test_no_track_keeps_lark_from_starting(client: FlaskClient, database: Database) -> None:
    """One of a flight that was deleted, and one whose points cannot be read: all others are measured."""
    lost = as_kept_before(client, database, day=3)
    broken = as_kept_before(client, database, points=b"no points at all", day=4)
    whole = as_kept_before(client, database, day=5)
    assert client.delete(f"/api/flights/{lost}").status_code == 204
    assert tracks.measure_anew(database, NOW) == 1
    assert "why" in client.get(f"/api/flights/{whole}/track").json["facts"]["wind"]
    assert client.get(f"/api/flights/{broken}/track").json["facts"]["wind"]["speed_ms"] == 0.03
    # Brought back, it is measured at the next start.
    client.post(f"/api/flights/{lost}/restore")
    assert tracks.measure_anew(database, NOW) == 1


def test_a_track_that_cannot_tell_the_wind_takes_the_earlier_one_out(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    put_track(client, uid, as_gpx(flown(np.random.default_rng(4), 5.0, 235.0, np.arange(0.0, 360.0, 30.0)), NOW))
    calm = flown(np.random.default_rng(4), 0.0, 235.0, np.arange(0.0, 360.0, 30.0))
    facts = put_track(client, uid, as_gpx(calm, NOW)).json["facts"]
    assert "cannot tell" in facts["wind"]["why"]
    assert client.get(f"/api/flights/{uid}").json["flight"]["entry"]["wind_met_ms"] is None
    # What the pilot wrote stays, whatever the track says.
    flight = client.get(f"/api/flights/{uid}").json["flight"]
    said = {"entry": {**flight["entry"], "wind_met_ms": 6.5}, "revision": flight["revision"]}
    assert client.put(f"/api/flights/{uid}", json=said).status_code == 200
    put_track(client, uid, as_gpx(calm, NOW))
    assert client.get(f"/api/flights/{uid}").json["flight"]["entry"]["wind_met_ms"] == 6.5


def test_a_table_needs_its_columns_chosen(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    data = as_csv(there_and_back(), ("t", "where_n", "where_e", "up", "left"))
    head = client.post("/api/tracks/head", data=data, headers=BYTES).json
    assert head["columns"] == ["t", "where_n", "where_e", "up", "left"]
    assert head["guess"] == {}
    assert len(head["rows"]) == 3
    refused = put_track(client, uid, data)
    assert refused.status_code == 422
    assert refused.json["refusals"][0]["given"] == "no column for the time"
    chosen = {"time": "t", "latitude": "where_n", "longitude": "where_e", "height": "up", "charge": "left"}
    facts = put_track(client, uid, data, **chosen).json["facts"]
    assert facts["pct_per_100m"] == pytest.approx(6, abs=0.05)


def test_progress_line_by_line_and_a_late_fault_changes_nothing(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    answer = put_track(client, uid, as_gpx(there_and_back(), NOW), progress="true")
    lines = [json.loads(line) for line in answer.text.splitlines()]
    done = [line["done"] for line in lines]
    assert done == sorted(done)
    assert done[-1] == 1
    assert lines[-1]["track"]["facts"]["points"] > 50
    other = added(client)["uid"]
    rows = as_csv(there_and_back(), ("time", "lat", "lon", "alt", "charge")).decode().splitlines()
    spoiled = "\n".join([*rows * 60, "9999,not,a,number,here"]).encode()
    spoiled = "\n".join([rows[0], *(r for r in spoiled.decode().splitlines() if r != rows[0])]).encode()
    late = put_track(client, other, spoiled, progress="true", time="time", latitude="lat", longitude="lon")
    last = json.loads(late.text.splitlines()[-1])
    assert "row" in last["refusals"][0]["given"]
    assert client.get(f"/api/flights/{other}").json["flight"]["has_track"] is False


def test_who_hangs_up_has_changed_nothing(client: FlaskClient) -> None:
    uid = added(client)["uid"]
    answer = client.post(
        f"/api/flights/{uid}/track?progress=true", data=as_gpx(there_and_back(), NOW), headers=BYTES, buffered=False
    )
    next(answer.iter_encoded())
    answer.close()
    assert client.get(f"/api/flights/{uid}").json["flight"]["has_track"] is False


def test_a_track_from_elsewhere_is_refused(client: FlaskClient) -> None:
    uid = added(client, latitude=60.0, longitude=20.0)["uid"]
    answer = put_track(client, uid, as_gpx(there_and_back(), NOW))
    assert answer.status_code == 422
    assert "km from" in answer.json["refusals"][0]["given"]


def test_the_logbook_as_files_read_by_others(client: FlaskClient) -> None:
    uid = added(client, note="=1+1")["uid"]
    added(client, day=3, latitude=None, longitude=None)
    put_track(client, uid, as_gpx(there_and_back(), NOW))

    rows = list(csv.DictReader(io.StringIO(client.get("/api/logbook/export/csv").text)))
    assert [r["aircraft"] for r in rows] == ["Dunlin", "Dunlin"]
    assert rows[0]["note"] == "'=1+1"
    assert (rows[0]["distance_m"], rows[0]["wind_met_ms"]) == ("300", "")
    assert datetime.fromisoformat(rows[0]["started_at"]).utcoffset() == timedelta(hours=3)

    gpx = gpxpy.parse(client.get("/api/logbook/export/gpx").text)
    assert [w.latitude for w in gpx.waypoints] == [pytest.approx(HOME[0])]
    points = gpx.tracks[0].segments[0].points
    assert len(points) == len(there_and_back().time_s)
    assert points[-1].time - points[0].time == timedelta(seconds=len(points) - 1)

    text = client.get("/api/logbook/export/kml").text
    root = ElementTree.fromstring(text)
    assert len(root.findall(".//{http://www.opengis.net/kml/2.2}Placemark")) == 2
    assert len(list(KML.from_string(text.split("?>", 1)[1]).features)) == 1

    geo = client.get("/api/logbook/export/geojson").get_json(force=True)
    assert [f["geometry"]["type"] for f in geo["features"]] == ["Point", "LineString"]
    assert geo["features"][0]["properties"]["pack"] == "A"
    assert client.get("/api/logbook/export/doc").status_code == 422
    assert client.get("/api/logbook/export/csv?aircraft=Plover").text.count("\n") == 1


@pytest.fixture(scope="session")
def taught_data(kept_data: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder, made once: the demo, and thirty flights of Plover that drained 1.15 times as fast as planned."""
    folder = tmp_path_factory.mktemp("taught") / "data"
    shutil.copytree(kept_data / "demo", folder)
    db = Database(folder)
    session = next(s.id for s, plan in sessions.plans(db) if "first light" in plan.title)
    rng = np.random.default_rng(11)
    for n in range(30):
        fly(db, session, NOW - timedelta(days=3 * n + 1), 1.15, rng.uniform(700, 1100), rng)
    db.close()
    return folder


@pytest.fixture
def database(tmp_path: Path, kept_data: Path, taught_data: Path, request: pytest.FixtureRequest) -> Iterator[Database]:
    """An empty Lark, or one that has been taught."""
    shutil.copytree(taught_data if "taught" in request.fixturenames else kept_data / "empty", tmp_path / "data")
    db = Database(tmp_path / "data")
    yield db
    db.close()


@pytest.fixture
def taught(client: FlaskClient) -> dict[str, Any]:
    """The session that those flights were flown in."""
    found = client.get("/api/sessions").json["sessions"]
    session: dict[str, Any] = next(s for s in found if "first light" in s["title"])
    return session


def offer_of(client: FlaskClient, name: str = "Plover") -> dict[str, Any]:
    """The offer about an aircraft."""
    return next(o for o in client.get("/api/learning").json["offers"] if o["kind"] == "drain" and o["name"] == name)


def change_of(offer: dict[str, Any], kind: str = "consumption") -> dict[str, Any]:
    return next(c for c in offer["changes"] if c["kind"] == kind)


def test_learning_is_offered_taken_and_undone_as_one(client: FlaskClient, taught: dict[str, Any]) -> None:
    offer = offer_of(client)
    factor, health = change_of(offer), change_of(offer, "health")
    quotient = factor["value"] / (health["value"] / 100)
    before = client.get(f"/api/sessions/{taught['id']}").json
    planned = 1.15 / (before["plan"]["pack"]["health_pct"] / 100)
    assert quotient == pytest.approx(planned, rel=0.04)
    assert health["value"] <= 100
    assert offer["offered"] is True
    assert len(offer["flights"]) == 30
    mine = next(e for e in offer["effects"] if e["session_id"] == taught["id"])
    assert mine["landing_after_pct"] < mine["landing_before_pct"]
    # Nothing is changed until it is taken.
    assert before["plan"]["aircraft"]["consumption_factor"] == 1

    body = {"kind": "drain", "target": offer["target"]}
    taken = client.post("/api/learning", json=body).json
    changed = client.get(f"/api/sessions/{taught['id']}").json
    assert changed["plan"]["aircraft"]["consumption_factor"] == factor["value"]
    assert changed["plan"]["pack"]["health_pct"] == pytest.approx(health["value"], abs=0.2)
    assert changed["result"]["energy"]["landing_pct"] == pytest.approx(mine["landing_after_pct"], abs=0.01)
    assert {t["kind"] for t in taken["taken"]} == {"consumption", "health"}
    assert offer_of(client)["offered"] is False
    assert client.post("/api/learning", json=body).status_code == 422

    # One of them undone is all of them undone: a factor alone would count a weak battery twice.
    done = client.delete(f"/api/learning/{taken['taken'][0]['id']}").json
    assert all(t["undone_at"] is not None for t in done["taken"])
    back = client.get(f"/api/sessions/{taught['id']}").json
    assert back["plan"]["aircraft"]["consumption_factor"] == 1
    assert back["plan"]["pack"]["health_pct"] == pytest.approx(before["plan"]["pack"]["health_pct"], abs=0.2)
    assert client.delete(f"/api/learning/{taken['taken'][0]['id']}").status_code == 404


@pytest.mark.usefixtures("taught")
def test_flights_that_met_another_wind_teach_nothing_of_the_aircraft(client: FlaskClient) -> None:
    mine = [f for f in listed(client)["flights"] if f["entry"]["aircraft"] == "Plover"]
    for kept in mine[:6]:
        entry = {**kept["entry"], "wind_met_ms": kept["entry"]["wind_predicted_ms"] + 5}
        body = {"entry": entry, "revision": kept["revision"]}
        assert client.put(f"/api/flights/{kept['uid']}", json=body).status_code == 200
    offer = offer_of(client)
    assert (len(offer["flights"]), offer["set_aside"]) == (24, 6)
    assert not {f["uid"] for f in mine[:6]} & set(offer["flights"])


def test_what_was_learned_goes_into_new_sessions(client: FlaskClient, taught: dict[str, Any]) -> None:
    offer = offer_of(client)
    client.post("/api/learning", json={"kind": "drain", "target": offer["target"]})
    begun = client.post(
        "/api/sessions",
        json={"title": "Again", "takeoff_at": "2026-10-03T07:00:00+03:00", "start_from": taught["id"]},
    ).json
    assert begun["plan"]["aircraft"]["consumption_factor"] == change_of(offer)["value"]


def test_a_place_learns_from_where_the_picture_broke_up(client: FlaskClient, taught: dict[str, Any]) -> None:
    uid = listed(client)["flights"][0]["uid"]
    kept = client.get(f"/api/flights/{uid}").json["flight"]
    mark = {"kind": "signal", "at_s": 100.0, "distance_m": 120.0, "bearing_deg": None, "text": "broke up"}
    client.put(
        f"/api/flights/{uid}",
        json={"entry": {**kept["entry"], "marks": [mark]}, "revision": kept["revision"]},
    )
    offer = next(o for o in client.get("/api/learning").json["offers"] if o["kind"] == "radio")
    assert offer["name"] == "Sarvik bog"
    loss = change_of(offer, "radio")["value"]
    assert loss > 2
    before = client.get(f"/api/sessions/{taught['id']}").json["result"]["signal"]["margin_db"]
    client.post("/api/learning", json={"kind": "radio", "target": offer["target"]})
    after = client.get(f"/api/sessions/{taught['id']}").json["result"]["signal"]["margin_db"]
    assert before - after == pytest.approx(loss, abs=0.11)

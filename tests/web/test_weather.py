"""Weather through the API, with the simulated services running."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW
from tests.formats.test_coverage import series
from tests.formats.test_forecast_csv import OTHERS
from tests.formats.test_forecast_grid import grib, usual
from zealous_lark.core.geodesy import destination
from zealous_lark.simulators.days import Day
from zealous_lark.simulators.services import Behave, Manner, Running
from zealous_lark.simulators.sources import simulated_sources
from zealous_lark.store import Database
from zealous_lark.web import create_app

JSON = {"Content-Type": "application/json"}


@pytest.fixture(scope="module")
def running() -> Iterator[Running]:
    made = Running(Manner(slow_s=3.0), clock=lambda: NOW)
    yield made
    made.close()


@pytest.fixture
def service(running: Running) -> Running:
    """The simulated service, as if it had just begun."""
    running.manner.day, running.manner.behave = Day.FAIR, Behave.WELL
    return running


NAMES = ("Morning side", "Evening side")


def patient_for(database: Database, service: Running, seconds: float) -> FlaskClient:
    """A client of a Lark that is connected to the simulated services and gives up after so many seconds."""
    sources = simulated_sources(service.url, longest_s=seconds)
    return create_app(database, clock=lambda: NOW, sources=sources).test_client()


@pytest.fixture
def client(database: Database, service: Running) -> FlaskClient:
    """One with all the patience that a busy machine needs."""
    return patient_for(database, service, 60.0)


def fetched(client: FlaskClient, plan: dict[str, Any], source: str = "forecast") -> Any:
    return client.post("/api/weather/fetch", json={"source": source, "plan": plan})


def near(client: FlaskClient, plan: dict[str, Any]) -> list[dict[str, Any]]:
    site = plan["site"]
    answer = client.get("/api/weather/reports", query_string={k: site[k] for k in ("latitude", "longitude")})
    reports: list[dict[str, Any]] = answer.json["reports"]
    return reports


def test_a_forecast_is_fetched_kept_and_filled_into_a_plan(
    client: FlaskClient, service: Running, plan_dict: dict[str, Any]
) -> None:
    service.manner.day = Day.FROST_FOG
    report = fetched(client, plan_dict)
    assert report.status_code == 201
    assert report.json["name"] == "Simulated forecast service"
    assert near(client, plan_dict) == [report.json]
    hours = client.get(f"/api/weather/reports/{report.json['id']}").json["forecast"]["hours"]
    assert [w["height_m"] for w in hours[0]["winds"]] == [10, 30, 60, 80, 100, 120]

    filled = client.post("/api/weather/fill", json={"report": report.json["id"], "plan": plan_dict}).json
    at = datetime.fromisoformat(plan_dict["takeoff_at"])
    hour = next(h for h in hours if abs(datetime.fromisoformat(h["at"]) - at) <= timedelta(minutes=30))
    weather = filled["weather"]
    assert [w["height_m"] for w in weather["winds"]] == [10, 30, 60, 80, 100, 120]
    assert weather["precipitation"] == "fog"
    assert abs(weather["temperature_c"] - hour["temperature_c"]) < 2
    assert {p["source"] for p in weather["provenance"]} == {"Simulated forecast service"}
    assert weather["report"] == report.json["id"]
    judged = client.post("/api/check", json={**plan_dict, "weather": weather}).json
    assert judged["verdict"] == "stay"
    age = next(c for c in judged["checks"] if c["id"] == "weather.age")
    issued = datetime.fromisoformat(report.json["issued_at"])
    assert age["value"] == pytest.approx(max((NOW - issued) / timedelta(hours=1), 0), abs=0.01)


def test_the_same_seed_gives_the_same_day(client: FlaskClient, service: Running, plan_dict: dict[str, Any]) -> None:
    ids = []
    for day in (Day.FRONT, Day.FRONT, Day.STORM):
        service.manner.day = day
        ids.append(fetched(client, plan_dict).json["id"])
    a, b, c = (client.get(f"/api/weather/reports/{i}").json["forecast"]["hours"] for i in ids)
    assert a == b != c
    assert max(w["gust_ms"] for h in c for w in h["winds"]) > 20
    assert max(h["rain_mmh"] for h in a) > 2.5


@pytest.mark.parametrize(
    ("behave", "why"),
    [
        ("slow", "it did not answer within 0.5 s"),
        ("down", "it answered 503 SERVICE UNAVAILABLE"),
        ("rubbish", "it sent no forecast that Lark can read"),
    ],
)
@pytest.mark.parametrize("source", ["forecast", "station"])
def test_a_source_that_behaves_badly_leaves_the_last_data(
    client: FlaskClient,
    database: Database,
    service: Running,
    plan_dict: dict[str, Any],
    source: str,
    behave: str,
    why: str,
) -> None:
    kept = fetched(client, plan_dict, source).json
    impatient = patient_for(database, service, 0.5 if behave == "slow" else 60.0)
    service.manner.behave = Behave(behave)
    answer = fetched(impatient, plan_dict, source)
    assert answer.status_code == 502
    assert why in answer.json["message"]
    assert "The last data from it are still there" in answer.json["message"]
    assert near(client, plan_dict) == [kept]


def test_a_source_that_is_not_there(database: Database, plan_dict: dict[str, Any]) -> None:
    gone = create_app(database, clock=lambda: NOW, sources=simulated_sources("http://127.0.0.1:9")).test_client()
    answer = fetched(gone, plan_dict)
    assert answer.status_code == 502
    assert "could not be reached" in answer.json["message"]
    assert near(gone, plan_dict) == []


def test_a_source_that_is_not_connected_is_refused(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    answer = fetched(client, plan_dict, "weather.example")
    assert answer.status_code == 422
    assert answer.json["refusals"][0] == {
        "key": "source", "given": "weather.example", "allowed": "forecast, coarse, station"
    }  # fmt: skip


def test_a_metar_is_read_and_filled(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    plan_dict["takeoff_at"] = "2026-09-26T21:10:00+03:00"
    text = "METAR EEXX 261750Z 24008G18KT 9999 BKN012 06/04 Q1013"
    report = client.post("/api/weather/read", json={"kind": "metar", "text": text, "plan": plan_dict}).json
    assert (report["name"], report["raw"]) == ("METAR EEXX", text)
    weather = client.post("/api/weather/fill", json={"report": report["id"], "plan": plan_dict}).json["weather"]
    assert weather["winds"][0]["gust_ms"] == pytest.approx(9.26)
    assert weather["cloud_base_m"] == 366
    plan_dict["takeoff_at"] = "2026-09-27T07:10:00+03:00"
    late = client.post("/api/weather/fill", json={"report": report["id"], "plan": plan_dict})
    assert late.status_code == 422
    assert late.json["refusals"][0]["allowed"] == "a time that METAR EEXX covers: 26 Sep 17:50 to 26 Sep 18:50 UTC"


def test_a_broken_text_is_refused_with_its_fault(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    text = "METAR EEXX 261750Z 24O08KT 9999 06/04 Q1013"
    answer = client.post("/api/weather/read", json={"kind": "metar", "text": text, "plan": plan_dict})
    assert answer.status_code == 422
    assert answer.json["refusals"] == [
        {"key": "text", "given": "24O08KT (group 3, from letter 20)", "allowed": "a group of a METAR"}
    ]
    assert near(client, plan_dict) == []


def test_windows_of_two_days(client: FlaskClient, service: Running, plan_dict: dict[str, Any]) -> None:
    plan_dict["flight"].update(distance_m=90, station_min=3)
    service.manner.day = Day.FROST_FOG
    fetched(client, plan_dict)
    seen = client.post("/api/windows", json={"plan": plan_dict}).json
    assert len(seen["slots"]) == 96
    assert seen["report"]["name"] == "Simulated forecast service"
    (today, _tomorrow) = seen["planned"]
    assert today["opens"]["check"].startswith("weather.")
    assert today["closes"]["check"] == "sight.daylight"
    # The minutes in it and outside it, judged by themselves, say the same.
    minute = timedelta(minutes=1)
    begin, end = (datetime.fromisoformat(today[k]) for k in ("begin", "end"))
    for moment, flies in ((begin - minute, False), (begin, True), (end, True), (end + minute, False)):
        at = moment.isoformat()
        filled = client.post(
            "/api/weather/fill", json={"report": seen["report"]["id"], "takeoff_at": at, "plan": plan_dict}
        ).json
        verdict = client.post("/api/check", json={**plan_dict, **filled}).json["verdict"]
        assert (verdict in ("launch", "care")) is flies
    curtain = seen["curtain"]
    assert len(curtain["used"]) == 96
    assert all(len(row) == len(curtain["height_m"]) for row in curtain["used"])


def test_glare_is_told_for_the_subjects_of_the_session(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    site = plan_dict["site"]
    plan_dict["outing"] = {
        "shots": [
            {"name": name, "latitude": lat, "longitude": lon, "height_m": 20, "minutes": 3}
            for name, bearing in (("Morning side", 95), ("Evening side", 265))
            for lat, lon in [destination(site["latitude"], site["longitude"], bearing, 200)]
        ]
    }
    slots = client.post("/api/windows", json={"plan": plan_dict}).json["slots"]
    told = {name: {s["sun_azimuth_deg"] for s in slots if name in s["glare_towards"]} for name in NAMES}
    # Late in September the sun rises nearly in the east and sets nearly in the west, each seen twice in two days.
    assert len(told["Morning side"]) >= 4
    assert all(60 < azimuth < 130 for azimuth in told["Morning side"])
    assert len(told["Evening side"]) >= 4
    assert all(230 < azimuth < 300 for azimuth in told["Evening side"])
    # Without subjects of its own it is the far end of the flight.
    del plan_dict["outing"]
    slots = client.post("/api/windows", json={"plan": plan_dict}).json["slots"]
    assert {name for s in slots for name in s["glare_towards"]} == {"the far point"}


def test_without_a_forecast_the_light_decides(client: FlaskClient, plan_dict: dict[str, Any]) -> None:
    seen = client.post("/api/windows", json={"plan": plan_dict}).json
    assert seen["report"] is None
    assert {s["planned"]["check"] for s in seen["slots"] if s["glow"] == "night"} == {"sight.daylight"}
    assert seen["planned"]


def test_a_forecast_travels_with_the_plan(client: FlaskClient, plan_dict: dict[str, Any], tmp_path: Path) -> None:
    report = fetched(client, plan_dict).json["id"]
    weather = client.post("/api/weather/fill", json={"report": report, "plan": plan_dict}).json["weather"]
    session = client.post("/api/sessions/import", json={**plan_dict, "weather": weather}).json
    file = client.get(f"/api/sessions/{session['id']}/plan.json")
    assert file.json["weather"]["report"] is None
    assert len(file.json["forecast"]["hours"]) == 61

    other = Database(tmp_path / "other")
    other.migrate()
    away = create_app(other, clock=lambda: NOW).test_client()
    there = away.post("/api/sessions/import", data=file.data, headers=JSON).json
    assert there["result"] == session["result"]
    assert (
        away.post("/api/windows", json={"plan": there["plan"]}).json["planned"]
        == client.post("/api/windows", json={"plan": session["plan"]}).json["planned"]
    )
    other.close()
    refused = away.put(
        f"/api/sessions/{there['id']}",
        json={"revision": there["revision"], "plan": {**there["plan"], "weather": {**weather, "report": 99}}},
    )
    assert refused.json["refusals"][0]["key"] == "weather.report"


BYTES = {"Content-Type": "application/octet-stream"}
AT = "latitude=58.62&longitude=25.08"


def test_a_forecast_out_of_a_file_is_kept_with_its_point(client: FlaskClient, tmp_path: Path) -> None:
    kept = client.post(f"/api/weather/file?{AT}&name=a.grb", data=grib(tmp_path, usual()), headers=BYTES)
    assert kept.status_code == 201
    assert (kept.json["name"], kept.json["hours"]) == ("File a.grb", 2)
    whole = client.get(f"/api/weather/reports/{kept.json['id']}").json["forecast"]
    assert (whole["latitude"], whole["longitude"]) == (58.625, 25.125)
    winds = {"wind_speed_10m": ("m/s", [3.0, 4.0]), "wind_from_direction_10m": ("deg", [240.0, 250.0])}
    coverage = json.dumps(series(winds)).encode()
    answer = client.post(f"/api/weather/file?{AT}", data=coverage, headers=BYTES)
    assert (answer.status_code, answer.json["hours"]) == (201, 2)
    # It does not say when it was made: not after now, and not after its first hour.
    said = datetime.fromisoformat(answer.json["issued_at"])
    assert said == min(NOW, datetime.fromisoformat("2026-09-27T06:00:00Z"))


def test_a_table_asks_which_column_is_which(client: FlaskClient) -> None:
    assert client.post("/api/weather/file/head", data=b"GRIB", headers=BYTES).json["known"]
    head = client.post("/api/weather/file/head", data=OTHERS, headers=BYTES).json
    assert not head["known"]
    assert head["columns"][0] == "Date"
    assert set(head["guess"].values()) <= set(head["kinds"])
    refused = client.post(f"/api/weather/file?{AT}&name=a.csv", data=OTHERS, headers=BYTES)
    assert refused.status_code == 422
    chosen = quote(json.dumps(head["guess"]))
    kept = client.post(f"/api/weather/file?{AT}&columns={chosen}&height_m=10", data=OTHERS, headers=BYTES)
    assert (kept.status_code, kept.json["hours"]) == (201, 2)
    for bad in ("[]", "nothing", '{"Date": 5}'):
        answer = client.post(f"/api/weather/file?{AT}&columns={quote(bad)}", data=OTHERS, headers=BYTES)
        assert (answer.status_code, answer.json["refusals"][0]["key"]) == (422, "columns")

"""The stand-in against the standard, and the adapter against services that are slow, down, far or wrong.

What is asked of a server is written from OGC 19-086r6 (API – EDR) and 21-069r2 (CoverageJSON), quoted from memory.
"""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from threading import Thread
from typing import Any

import httpx
import pytest
from covjson_pydantic.coverage import Coverage
from werkzeug import Request, Response
from werkzeug.serving import make_server

from zealous_lark.simulators.days import Day
from zealous_lark.simulators.services import Behave, Manner, Running
from zealous_lark.sources import Asked, EdrSource, SourceFailedError, collections_of
from zealous_lark.sources.edr import ISSUED_BEFORE

NOW = datetime(2026, 9, 26, 18, 20, tzinfo=UTC)
WHERE = "POINT(25.08 58.62)"


@pytest.fixture(scope="module")
def service() -> Iterator[Running]:
    running = Running(Manner(), clock=lambda: NOW)
    yield running
    running.close()


def asked(begin: datetime = NOW, hours: int = 12, longitude: float = 25.08) -> Asked:
    return Asked(58.62, longitude, begin, hours, NOW)


def test_the_stand_in_offers_what_the_standard_asks_for(service: Running) -> None:
    landing = httpx.get(service.url).json()
    assert {link["rel"] for link in landing["links"]} >= {"self", "conformance", "data"}
    for link in landing["links"]:
        assert httpx.get(link["href"]).status_code == 200
    conforms = httpx.get(f"{service.url}/conformance").json()["conformsTo"]
    assert any(uri.endswith("/conf/core") for uri in conforms)
    assert any(uri.endswith("/conf/covjson") for uri in conforms)
    collections = httpx.get(f"{service.url}/collections").json()["collections"]
    for one in collections:
        assert one["extent"]["spatial"]["bbox"]
        assert one["parameter_names"]
        assert "CoverageJSON" in one["output_formats"]
        position = one["data_queries"]["position"]["link"]
        assert position["variables"]["query_type"] == "position"
        answer = httpx.get(position["href"], params={"coords": WHERE})
        assert answer.headers["Content-Type"].startswith("application/prs.coverage+json")
        Coverage.model_validate(answer.json())
        assert httpx.get(f"{service.url}/collections/{one['id']}").json()["id"] == one["id"]
    assert httpx.get(f"{service.url}/collections/none").status_code == 404


@pytest.mark.parametrize(
    "wrong",
    [
        {"coords": "58.62,25.08"},
        {"coords": "POINT(200 58)"},
        {"coords": WHERE, "datetime": "tomorrow"},
        {"coords": WHERE, "datetime": "2026-09-27T00:00"},
        {"coords": WHERE, "datetime": "2026-09-27T00:00Z/2026-09-26T00:00Z"},
        {"coords": WHERE, "parameter-name": "sea_level"},
    ],
)
def test_the_stand_in_refuses_what_it_does_not_understand(service: Running, wrong: dict[str, str]) -> None:
    assert httpx.get(f"{service.url}/collections/fine/position", params=wrong).status_code == 400


def test_an_interval_and_a_choice_of_parameters_are_kept_to(service: Running) -> None:
    query = {"coords": WHERE, "datetime": "2026-09-27T06:00Z/2026-09-27T09:00Z", "parameter-name": "wind_speed"}
    said = httpx.get(f"{service.url}/collections/fine/position", params=query).json()
    assert said["domain"]["axes"]["t"]["values"] == [f"2026-09-27T0{h}:00:00Z" for h in range(6, 10)]
    assert list(said["ranges"]) == ["wind_speed"]


def test_it_is_told_what_to_make_up_on_its_own_page(service: Running) -> None:
    page = httpx.get(f"{service.url}/control").text
    assert "Kind of day" in page
    try:
        told = httpx.post(f"{service.url}/control", data={"day": "storm", "behave": "well"})
        assert told.status_code == 303
        part = EdrSource(service.url, "fine", "a", "A", own_network=True).fetch(asked())
        assert max(w.gust_ms or 0 for h in part.hours for w in h.winds) > 20
        assert httpx.post(f"{service.url}/control", data={"day": "sunny"}).status_code == 400
    finally:
        service.manner.day, service.manner.told_at = Day.FAIR, None


def test_two_models_of_the_same_air_differ_and_each_renewal_too(service: Running) -> None:
    fine, coarse = (EdrSource(service.url, c, c, c, own_network=True).fetch(asked()) for c in ("fine", "coarse"))
    assert [w.height_m for w in fine.hours[0].winds] == [10, 30, 60, 80, 100, 120]
    assert [w.height_m for w in coarse.hours[0].winds] == [10, 100]
    assert fine.hours[3].winds[0].speed_ms != coarse.hours[3].winds[0].speed_ms
    assert fine.issued_at == NOW.replace(minute=0)
    later = Running(Manner(), clock=lambda: NOW + timedelta(hours=3))
    try:
        again = EdrSource(later.url, "fine", "fine", "fine", own_network=True).fetch(
            replace(asked(), now=NOW + timedelta(hours=3))
        )
    finally:
        later.close()
    assert again.issued_at == fine.issued_at + timedelta(hours=3)
    assert again.hours[0].winds != fine.hours[0].winds


def test_a_station_holds_an_hour(service: Running) -> None:
    part = EdrSource(service.url, "station", "s", "S", own_network=True).fetch(asked())
    assert (len(part.hours), part.holds_min) == (1, 60)
    assert [w.height_m for w in part.hours[0].winds] == [10]


def test_collections_are_listed(service: Running) -> None:
    found = {c.id: c for c in collections_of(service.url, {}, own_network=True)}
    assert set(found) == {"fine", "coarse", "station"}
    assert found["fine"].title == "Fine model, 2 km"
    assert "wind_speed" in found["fine"].parameters


@contextmanager
def serving(answer: Callable[[Request], Response]) -> Iterator[str]:
    """A service of the test's own."""
    server = make_server("127.0.0.1", 0, lambda env, start: answer(Request(env))(env, start))
    thread = Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    thread.join()


def told(change: Callable[[dict[str, Any]], None] = lambda _: None) -> dict[str, Any]:
    """A small coverage, changed."""
    document: dict[str, Any] = {
        "type": "Coverage",
        "domain": {"type": "Domain", "domainType": "PointSeries", "axes": {
            "x": {"values": [25.08]}, "y": {"values": [58.62]}, "z": {"values": [10]},
            "t": {"values": ["2026-09-26T19:00:00Z", "2026-09-26T20:00:00Z"]}}},
        "parameters": {n: {"type": "Parameter", "observedProperty": {"label": {"en": n}}, "unit": {"symbol": u}}
                       for n, u in (("wind_speed", "m/s"), ("wind_from_direction", "deg"))},
        "ranges": {n: {"type": "NdArray", "dataType": "float", "axisNames": ["t"], "shape": [2], "values": [4.0, 5.0]}
                   for n in ("wind_speed", "wind_from_direction")},
    }  # fmt: skip
    change(document)
    return document


def test_a_key_goes_out_in_its_header_and_into_no_log(caplog: pytest.LogCaptureFixture) -> None:
    seen: list[dict[str, str]] = []

    def answer(request: Request) -> Response:
        seen.append(dict(request.headers))
        return Response(json.dumps(told()), mimetype="application/prs.coverage+json")

    with caplog.at_level(logging.DEBUG), serving(answer) as url:
        source = EdrSource(url, "a", "a", "A", headers={"X-Api-Key": "s3cret"}, own_network=True)
        part = source.fetch(asked())
    assert seen[0]["X-Api-Key"] == "s3cret"
    assert "s3cret" not in caplog.text + repr(source) + part.model_dump_json()


def test_a_service_that_does_not_say_when_it_ran_is_taken_to_be_old() -> None:
    for last in (None, "yesterday", "Sat, 26 Sep 2037 18:00:00 GMT"):
        headers = {} if last is None else {"Last-Modified": last}
        with serving(lambda _, headers=headers: Response(json.dumps(told()), headers=headers)) as url:  # type: ignore[misc]
            assert EdrSource(url, "a", "a", "A", own_network=True).fetch(asked()).issued_at == NOW - ISSUED_BEFORE


def test_a_point_far_away_is_told() -> None:
    far = told(lambda d: d["domain"]["axes"].update(x={"values": [25.77]}))
    with serving(lambda _: Response(json.dumps(far))) as url:
        part = EdrSource(url, "a", "a", "A", own_network=True).fetch(asked())
    assert (part.latitude, part.longitude) == (58.62, 25.77)


@pytest.mark.parametrize(
    ("answer", "why"),
    [
        (lambda: Response("no", 503), "it answered 503"),
        (lambda: Response("", 302, {"Location": "http://elsewhere.example/"}), "it answered 302"),
        (lambda: Response("<html>"), "no forecast that Lark can read"),
        (lambda: Response("x" * 2_100_000), "more than 2 MB"),
        (
            lambda: Response(json.dumps(told(lambda d: d["ranges"]["wind_speed"].update(values=[4.0, 900.0])))),
            "a number that can't be: speed_ms is 900",
        ),
        (
            lambda: Response(json.dumps(told(lambda d: d["parameters"]["wind_speed"]["unit"].update(symbol="bft")))),
            "wind_speed in the unit bft",
        ),
    ],
)
def test_what_is_wrong_with_an_answer_is_said(answer: Callable[[], Response], why: str) -> None:
    with serving(lambda _: answer()) as url, pytest.raises(SourceFailedError, match=why):
        EdrSource(url, "a", "a", "A", own_network=True).fetch(asked())


@pytest.mark.parametrize("body", ["{}", "[]", '{"collections": 5}', '{"collections": [{"id": "a"}]}', "<html>"])
def test_what_is_no_such_service_is_told(body: str) -> None:
    with serving(lambda _: Response(body)) as url, pytest.raises(SourceFailedError, match="collections"):
        collections_of(url, {}, own_network=True)


def test_a_slow_and_a_broken_one_are_given_up(service: Running) -> None:
    service.manner.slow_s = 2.0
    try:
        for behave, why in ((Behave.SLOW, "did not answer within 0.4 s"), (Behave.RUBBISH, "can read")):
            service.manner.behave = behave
            patience = 0.4 if behave is Behave.SLOW else 60.0
            with pytest.raises(SourceFailedError, match=why):
                EdrSource(service.url, "fine", "a", "A", longest_s=patience, own_network=True).fetch(asked())
    finally:
        service.manner.behave = Behave.WELL

"""The simulated weather service, for this machine only: OGC API – EDR with three collections.

    GET /collections
    GET /collections/fine/position?coords=POINT(25.08 58.62)&datetime=2026-09-27T00:00Z/2026-09-29T12:00Z
    GET /control                                the page on which it is told what to make up, and how to answer

`fine` and `coarse` are two models of the same air; `station` is what a mast of ten metres reads now. Behaving badly is
part of its work: slow, down, rubbish.

References
----------
.. [1] OGC 19-086r6, API – EDR; OGC 21-069r2, CoverageJSON. Quoted from memory.
"""

from __future__ import annotations

import re
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from email.utils import format_datetime
from enum import StrEnum
from html import escape
from typing import Any

from flask import Flask, Response, jsonify, redirect, request
from werkzeug.serving import BaseWSGIServer, WSGIRequestHandler, make_server
from werkzeug.wrappers import Response as AnyResponse

from zealous_lark.plan.forecast import ForecastPart, HourPart, LevelPart
from zealous_lark.simulators.days import ABOUT, Day, made_forecast

MOST_HOURS = 240
SLOW_S = 20.0
"""How long a slow service takes [s]: longer than anybody waits."""
CRS84 = "http://www.opengis.net/def/crs/OGC/1.3/CRS84"
CLASSES = [f"http://www.opengis.net/spec/ogcapi-edr-1/1.1/conf/{name}" for name in ("core", "collections", "covjson")]


class Behave(StrEnum):
    WELL = "well"
    SLOW = "slow"
    DOWN = "down"
    RUBBISH = "rubbish"


BEHAVES = {
    Behave.WELL: "as it should",
    Behave.SLOW: "too slowly",
    Behave.DOWN: "not at all",
    Behave.RUBBISH: "with rubbish",
}


@dataclass(slots=True)
class Manner:
    """What a service makes up and how it answers, until it is told otherwise. told_at: when that was."""

    day: Day = Day.FAIR
    behave: Behave = Behave.WELL
    seed: int = 0
    slow_s: float = SLOW_S
    told_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class _Model:
    """A collection: its grid [°], the heights that it has [m], how far its winds are off."""

    title: str
    grid_deg: float
    heights_m: tuple[float, ...]
    seed: int
    factor: float = 1.0
    now_only: bool = False


MODELS = {
    "fine": _Model("Fine model, 2 km", 0.02, (10.0, 30.0, 60.0, 80.0, 100.0, 120.0), 0),
    "coarse": _Model("Coarse model, 10 km", 0.1, (10.0, 100.0), 7, factor=1.12),
    "station": _Model("Station", 0.01, (10.0,), 1, now_only=True),
}
_WINDS = {
    "wind_speed": ("speed_ms", "m/s"),
    "wind_from_direction": ("direction_deg", "deg"),
    "wind_speed_of_gust": ("gust_ms", "m/s"),
}
_FIGURES: dict[str, tuple[str, str, Callable[[float], float]]] = {
    # As models have them, in SI.
    "air_temperature": ("temperature_c", "K", lambda c: c + 273.15),
    "dew_point_temperature": ("dew_point_c", "K", lambda c: c + 273.15),
    "cloud_area_fraction": ("cloud_pct", "1", lambda p: p / 100),
    "precipitation_flux": ("rain_mmh", "kg m-2 s-1", lambda r: r / 3600),
    "visibility_in_air": ("visibility_m", "m", lambda v: v),
    "planetary_k_index": ("kp", "1", lambda k: k),
}


class _NotUnderstoodError(ValueError):
    pass


def _utc_now() -> datetime:
    return datetime.now(UTC)


def _point(coords: str) -> tuple[float, float]:
    """Longitude and latitude of a WKT point."""
    found = re.fullmatch(r"\s*POINT\s*\(\s*(-?\d+(?:\.\d+)?)\s+(-?\d+(?:\.\d+)?)\s*\)\s*", coords, re.IGNORECASE)
    if not found or not (abs(float(found[1])) <= 180 and abs(float(found[2])) <= 90):
        raise _NotUnderstoodError("coords: a point in WKT, like POINT(25.08 58.62)")
    return float(found[1]), float(found[2])


def _span(text: str | None, now: datetime) -> tuple[datetime, int]:
    """Begin (UTC) and number of hours of an RFC 3339 time or interval; the next two days when left out."""
    if text is None:
        return now, 48
    try:
        ends = [None if part in ("", "..") else datetime.fromisoformat(part) for part in text.split("/")]
    except ValueError:
        ends = []
    if len(ends) not in (1, 2) or any(end is not None and end.tzinfo is None for end in ends):
        raise _NotUnderstoodError("datetime: a time with its offset, or two with / between")
    begin = (ends[0] or now).astimezone(UTC)
    end = (ends[-1] or begin + timedelta(hours=MOST_HOURS)).astimezone(UTC)
    hours = int((end - begin) / timedelta(hours=1)) + 1
    if not 1 <= hours <= MOST_HOURS + 1:
        raise _NotUnderstoodError(f"datetime: an interval of up to {MOST_HOURS} hours")
    return begin, min(hours, MOST_HOURS)


def _parameter(name: str, unit: str) -> dict[str, Any]:
    label = name.replace("_", " ").capitalize()
    return {
        "type": "Parameter",
        "description": {"en": label},
        "unit": {"label": {"en": unit}, "symbol": {"value": unit, "type": "http://www.opengis.net/def/uom/UCUM/"}},
        "observedProperty": {
            "id": f"http://vocab.nerc.ac.uk/standard_name/{name}",
            "label": {"en": label},
        },
    }


PARAMETERS = {
    **{name: _parameter(name, unit) for name, (_, unit) in _WINDS.items()},
    **{name: _parameter(name, unit) for name, (_, unit, _) in _FIGURES.items()},
}


def coverage(part: ForecastPart, longitude: float, latitude: float, names: set[str]) -> dict[str, Any]:
    """A forecast as a CoverageJSON object: a grid of one point, by time and height."""
    times = [hour.at.strftime("%Y-%m-%dT%H:%M:%SZ") for hour in part.hours]
    heights = [w.height_m for w in part.hours[0].winds]
    ranges: dict[str, Any] = {}
    for name, (key, _) in _WINDS.items():
        values = [getattr(w, key) for hour in part.hours for w in hour.winds]
        ranges[name] = {"axisNames": ["t", "z"], "shape": [len(times), len(heights)], "values": values}
    for name, (key, _, convert) in _FIGURES.items():
        said = [getattr(hour, key) for hour in part.hours]
        values = [None if v is None else convert(v) for v in said]
        ranges[name] = {"axisNames": ["t"], "shape": [len(times)], "values": values}
    wanted = {n: {"type": "NdArray", "dataType": "float", **r} for n, r in ranges.items() if n in names}
    return {
        "type": "Coverage",
        "domain": {
            "type": "Domain",
            "domainType": "Grid",
            "axes": {
                "x": {"values": [longitude]},
                "y": {"values": [latitude]},
                "z": {"values": heights},
                "t": {"values": times},
            },
            "referencing": [
                {"coordinates": ["x", "y"], "system": {"type": "GeographicCRS", "id": CRS84}},
                {"coordinates": ["z"], "system": {"type": "VerticalCRS", "cs": {"csAxes": [
                    {"name": {"en": "Height above ground"}, "direction": "up", "unit": {"symbol": "m"}}]}}},
                {"coordinates": ["t"], "system": {"type": "TemporalRS", "calendar": "Gregorian"}},
            ],
        },
        "parameters": {n: PARAMETERS[n] for n in wanted},
        "ranges": wanted,
    }  # fmt: skip


def _seen(model: _Model, hour: HourPart, at: datetime) -> HourPart:
    """What of an hour a model has, with its own error."""
    winds = [
        LevelPart(
            height_m=w.height_m,
            speed_ms=round(w.speed_ms * model.factor, 2),
            direction_deg=w.direction_deg,
            gust_ms=None if w.gust_ms is None else round(w.gust_ms * model.factor, 2),
        )
        for w in hour.winds
        if w.height_m in model.heights_m
    ]
    # A mast knows nothing of the earth's magnetic field.
    return hour.model_copy(update={"at": at, "winds": winds, "kp": None if model.now_only else hour.kp})


def weather_app(manner: Manner, clock: Callable[[], datetime] = _utc_now) -> Flask:
    """The service as a WSGI application. Its kind of day is counted from the day on which it begins."""
    app = Flask("zealous_lark.simulators")
    day_zero = clock().astimezone(UTC)

    @app.errorhandler(_NotUnderstoodError)
    def not_understood(error: _NotUnderstoodError) -> tuple[Response, int]:
        return jsonify(code="InvalidParameterValue", description=f"not understood: {error}"), 400

    def links(*of: tuple[str, str]) -> list[dict[str, str]]:
        return [
            {"rel": rel, "href": f"{request.host_url.rstrip('/')}{to}", "type": "application/json"} for rel, to in of
        ]

    @app.get("/")
    def landing() -> dict[str, Any]:
        about = ("self", "/"), ("conformance", "/conformance"), ("data", "/collections")
        return {"title": "Simulated weather service", "links": links(*about)}

    @app.get("/conformance")
    def conformance() -> dict[str, Any]:
        return {"conformsTo": CLASSES}

    def described(name: str) -> dict[str, Any]:
        model = MODELS[name]
        query = {"variables": {"query_type": "position", "output_formats": ["CoverageJSON"]}}
        href = f"{request.host_url.rstrip('/')}/collections/{name}/position"
        return {
            "id": name,
            "title": model.title,
            "extent": {"spatial": {"bbox": [[-180, -90, 180, 90]], "crs": CRS84}},
            "links": links(("self", f"/collections/{name}")),
            "data_queries": {"position": {"link": {"href": href, "rel": "data", **query}}},
            "crs": ["CRS84"],
            "output_formats": ["CoverageJSON"],
            "parameter_names": PARAMETERS,
        }

    @app.get("/collections")
    def collections() -> dict[str, Any]:
        return {"links": links(("self", "/collections")), "collections": [described(name) for name in MODELS]}

    @app.get("/collections/<name>")
    def collection(name: str) -> Any:
        return described(name) if name in MODELS else (jsonify(code="NotFound", description=f"no {name}"), 404)

    @app.get("/collections/<name>/position")
    def position(name: str) -> Any:
        if name not in MODELS:
            return jsonify(code="NotFound", description=f"no {name}"), 404
        model, now = MODELS[name], clock().astimezone(UTC)
        longitude, latitude = _point(request.args.get("coords", ""))
        names = set(request.args.get("parameter-name", ",".join(PARAMETERS)).split(","))
        if names - set(PARAMETERS):
            raise _NotUnderstoodError(f"parameter-name: some of {', '.join(PARAMETERS)}")
        begin, hours = _span(request.args.get("datetime"), now)
        # Issued every three hours, as services do; each issue is off in another way.
        issued = now.replace(minute=0, second=0, microsecond=0) - timedelta(hours=now.hour % 3)
        if manner.told_at is not None:
            issued = max(issued, manner.told_at)  # another day is a new run of the models
        if model.now_only:
            begin, hours, issued = now, 1, now
        x, y = (round(round(v / model.grid_deg) * model.grid_deg, 5) for v in (longitude, latitude))
        if manner.behave is Behave.SLOW:
            time.sleep(manner.slow_s)
        if manner.behave is Behave.DOWN:
            return Response("the service is down for maintenance", 503, mimetype="text/plain")
        seed = manner.seed + model.seed + (0 if model.now_only else int(issued.timestamp()) // 10_800)
        made = made_forecast(manner.day, begin, hours, x, issued, seed=seed, day_zero=day_zero)
        told = [_seen(model, h, begin if model.now_only else h.at) for h in made.hours]
        answer = jsonify(coverage(made.model_copy(update={"hours": told}), x, y, names))
        if manner.behave is Behave.RUBBISH:
            # Cut off in the middle: what a broken service sends.
            answer.set_data(answer.get_data()[: len(answer.get_data()) // 2])
        answer.mimetype = "application/prs.coverage+json"
        answer.headers["Last-Modified"] = format_datetime(issued, usegmt=True)
        return answer

    @app.get("/control")
    def control() -> str:
        return _control_page(manner)

    @app.post("/control")
    def told() -> AnyResponse:
        try:
            manner.day = Day(request.form.get("day", manner.day))
            manner.behave = Behave(request.form.get("behave", manner.behave))
        except ValueError as error:
            raise _NotUnderstoodError(str(error)) from None
        manner.told_at = clock().astimezone(UTC).replace(microsecond=0)
        return redirect("/control", 303)

    return app


def _control_page(manner: Manner) -> str:
    def choice(name: str, label: str, values: dict[Any, str], chosen: str) -> str:
        options = "".join(
            f'<option value="{v}"{" selected" if v == chosen else ""}>{escape(w)}</option>' for v, w in values.items()
        )
        return f'<p><label for="{name}">{label}</label><br><select id="{name}" name="{name}">{options}</select></p>'

    return (
        '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
        "<title>Simulated weather</title><style>body{font:1.1rem/1.5 system-ui;margin:2rem;max-width:30rem;"
        "color-scheme:light dark}select,button{font:inherit;padding:.6rem;min-height:48px;width:100%}</style>"
        "<h1>Simulated weather</h1><p>What this stand-in makes up, and how it answers. Get the forecasts in Lark to "
        'see it.</p><form method="post">'
        + choice("day", "Kind of day", dict(ABOUT), manner.day)
        + choice("behave", "It answers", dict(BEHAVES), manner.behave)
        + "<button>Set</button></form></html>"
    )


class _Quiet(WSGIRequestHandler):
    """Logs no request: its address says where somebody means to fly."""

    def log_request(self, code: int | str = "-", size: int | str = "-") -> None:
        """Nothing."""


class Running:
    """A service in a thread of this process, on a free port of the loopback."""

    def __init__(self, manner: Manner, port: int = 0, clock: Callable[[], datetime] = _utc_now) -> None:
        """Start serving. Raises OSError where the port is taken."""
        self.manner = manner
        self._server: BaseWSGIServer = make_server(
            "127.0.0.1", port, weather_app(manner, clock), threaded=True, request_handler=_Quiet
        )
        self._thread = threading.Thread(target=self._server.serve_forever, daemon=True)
        self._thread.start()

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self._server.server_port}"

    def wait(self) -> None:
        """Serve until interrupted."""
        self._thread.join()

    def close(self) -> None:
        """Stop serving."""
        self._server.shutdown()
        self._thread.join()

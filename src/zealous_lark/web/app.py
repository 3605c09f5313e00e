"""The application: API, OpenAPI document, built screens."""

from __future__ import annotations

import logging
import re
from collections.abc import Callable, Sequence
from contextlib import suppress
from datetime import UTC, datetime
from html import escape
from pathlib import Path
from secrets import token_urlsafe
from time import perf_counter
from typing import Any

from apiflask import APIFlask
from flask import Response, g, request
from flask_compress import Compress
from sqlalchemy.exc import DBAPIError
from werkzeug.routing import IntegerConverter, Map
from whitenoise import WhiteNoise

from zealous_lark import __version__
from zealous_lark.core.verdict import VERDICT_WORDS
from zealous_lark.formats.bounded import asker_is_gone
from zealous_lark.services.access import Doors
from zealous_lark.services.devices import Devices
from zealous_lark.services.field import FieldListener
from zealous_lark.services.session_list import saved_verdict
from zealous_lark.services.tiles import tile_host
from zealous_lark.sources import WeatherSource
from zealous_lark.store import Database
from zealous_lark.store.trouble import DataGoneError
from zealous_lark.web import (
    access,
    answers,
    drilling,
    eyesight,
    flights,
    forecasts,
    homeward,
    kit,
    logbook,
    outing,
    photos,
    place_files,
    places,
    practising,
    preflight,
    sharing,
    tiles,
    weather,
)
from zealous_lark.web import devices as device_routes
from zealous_lark.web import sources as source_routes
from zealous_lark.web.context import CLOCK, DATABASE, DEVICES, DOORS, FIELD, SOURCES
from zealous_lark.web.http import handle_problems, one_transaction_each, problem
from zealous_lark.web.openapi import document_refusals, share_components
from zealous_lark.web.origins import POLICY, own_pages_only
from zealous_lark.web.routes import api
from zealous_lark.web.schemas.common import ProblemOut

log = logging.getLogger(__name__)
STATIC = Path(__file__).parent / "static"
_POLICY = "default-src 'self'; style-src 'self'{style}; img-src 'self' data: blob:{tiles}; frame-ancestors 'none'"
_VERDICT = "__VERDICT__"
_NONCE = "__NONCE__"
"""Stands in the one page for a word that is new each time: only styles that carry it are taken."""


class Numbers(IntegerConverter):
    """Numbers in addresses that a database can hold; there is nothing under any other."""

    def __init__(self, url_map: Map, *args: Any, **kwargs: Any) -> None:
        super().__init__(url_map, *args, **{"max": 2**53 - 1, **kwargs})


def _problem_schema() -> dict[str, Any]:
    """The schema of problems in one piece; the framework takes no model with parts here."""
    schema = ProblemOut.model_json_schema()
    schema["properties"]["refusals"]["items"] = schema.pop("$defs")["RefusalOut"]
    return schema


def _utc_now() -> datetime:
    return datetime.now(UTC)


def create_app(
    database: Database,
    *,
    clock: Callable[[], datetime] = _utc_now,
    trusted_hosts: tuple[str, ...] = ("127.0.0.1", "localhost"),
    static: Path = STATIC,
    sources: Sequence[WeatherSource] = (),
    devices: Devices = Devices(),  # noqa: B008 - nothing is connected, and it does not change
    field: FieldListener | None = None,
    doors_shut: bool = False,
) -> APIFlask:
    """The WSGI application over a migrated database.

    sources: where weather can be fetched from. devices: what is listened to on site.
    trusted_hosts: names under which it answers; a foreign name that points here is refused.
    field: what listens on the local network, for the page that starts it. doors_shut: every request has to be signed
    in, not only those that come in by `field`.
    """
    app = APIFlask(
        "zealous_lark.web",
        title="Zealous Lark",
        version=__version__,
        spec_path="/api/openapi.json",
        docs_path=None,
        static_folder=None,  # type: ignore[arg-type]  # Flask takes None for: no files of its own
        json_errors=False,
    )
    app.url_map.converters["int"] = Numbers
    app.config[DATABASE], app.config[CLOCK], app.config[SOURCES] = database, clock, sources
    app.config["TRUSTED_HOSTS"] = list(trusted_hosts)
    app.config["AUTO_VALIDATION_ERROR_RESPONSE"] = False
    app.config["HTTP_ERROR_SCHEMA"] = _problem_schema()
    app.config[DEVICES], app.config[FIELD] = devices, field
    app.config[DOORS] = Doors(database.folder, clock)
    handle_problems(app, database)
    app.register_blueprint(api)
    app.register_blueprint(places.api)
    app.register_blueprint(place_files.api)
    app.register_blueprint(photos.api)
    app.register_blueprint(practising.api)
    app.register_blueprint(homeward.api)
    app.register_blueprint(drilling.api)
    app.register_blueprint(eyesight.api)
    app.register_blueprint(sharing.api)
    app.register_blueprint(tiles.api)
    app.register_blueprint(weather.api)
    app.register_blueprint(source_routes.api)
    app.register_blueprint(forecasts.api)
    app.register_blueprint(kit.api)
    app.register_blueprint(outing.api)
    app.register_blueprint(answers.api)
    app.register_blueprint(preflight.api)
    app.register_blueprint(device_routes.api)
    app.register_blueprint(flights.api)
    app.register_blueprint(logbook.api)
    access.guard(app, shut=doors_shut)
    app.register_blueprint(access.api)
    one_transaction_each(app, database)

    app.spec_processor(lambda spec: document_refusals(share_components(spec)))

    @app.get("/api/<path:path>")
    @app.doc(hide=True)
    def no_such_route(path: str) -> Response:
        return problem(404, f"There is nothing under /api/{path}.")

    @app.get("/")
    @app.get("/<path:path>")
    @app.doc(hide=True)
    def screens(path: str = "") -> Response:
        """The one page, whose own router knows the rest; built files were answered before."""
        if not (static / "index.html").is_file():
            return problem(503, "The screens are not built yet; run make demo, or make build.")
        if path.startswith("assets/"):
            # Not the page in its place: who asks for a script of an earlier Lark must be told that it is gone.
            return Response("not here", 404, mimetype="text/plain")
        g.nonce = token_urlsafe(16)
        # Whoever has not signed in is shown the way in, and no word of what is kept.
        word = first_word(path) if access.let_in() else ""
        page = (static / "index.html").read_text().replace(_NONCE, g.nonce).replace(_VERDICT, word)
        return Response(page, mimetype="text/html", headers={"Cache-Control": "no-cache"})

    def first_word(path: str) -> str:
        """What is saved of a session, in words, until its screens have come: on a slow phone that takes seconds."""
        asked = re.fullmatch(r"sessions/(\d{1,15})(?:/(?:plan|prepare|site|preflight))?", path)
        found = None
        with suppress(DBAPIError, DataGoneError):  # the page opens, and what it asks for says what is wrong
            found = saved_verdict(database, int(asked[1]), clock()) if asked else None
        if found is None:
            return ""
        verdict, tightest = found
        word = escape(VERDICT_WORDS[verdict], quote=False)
        return f"<b>{word}</b><br>Tightest: {escape(tightest)}.<br>As last saved; the rest is on its way."

    @app.before_request
    def begun() -> None:
        g.begun = perf_counter()
        # Waitress reports a closed connection; under other servers a reader runs to its end.
        asker_is_gone.set(request.environ.get("waitress.client_disconnected", lambda: False))

    @app.after_request
    def logged(response: Response) -> Response:
        # The path and no more: what is asked for in a query or a body may say where the pilot is.
        took_ms = 1000 * (perf_counter() - g.get("begun", perf_counter()))
        log.info("%s %s %d %.0f ms", request.method, request.path, response.status_code, took_ms)
        return response

    @app.after_request
    def headers(response: Response) -> Response:
        if request.path.startswith("/api/"):
            # What a plan said a moment ago must not come out of a cache; a picture of the land says how long it keeps.
            response.headers.setdefault("Cache-Control", "no-store")
        # The one thing that may come from elsewhere: map tiles, where the pilot has set their address.
        host = None
        with suppress(DBAPIError, DataGoneError):
            host = tile_host(database) if response.mimetype == "text/html" else None
        # Styles inside a page only with the word of this one answer, or where they are the very ones that Lark wrote.
        style = f" 'nonce-{g.nonce}'" if "nonce" in g else f" '{g.style}'" if "style" in g else ""
        response.headers["Content-Security-Policy"] = _POLICY.format(style=style, tiles=f" {host}" if host else "")
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers[POLICY[0]] = POLICY[1]
        response.headers["Referrer-Policy"] = "no-referrer"
        return response

    # A well-kept server of files in front: packed ones where the browser takes them, for ever where a name has a hash.
    files = WhiteNoise(
        app.wsgi_app,
        immutable_file_test=_is_hashed,
        max_age=0,
        index_file=False,
        allow_all_origins=False,
        add_headers_function=_file_headers,
    )
    if (static / "index.html").is_file():
        files.add_files(str(static), prefix="/")
        files.files.pop("/index.html", None)  # written for each answer
    app.wsgi_app = own_pages_only(files)  # type: ignore[assignment, method-assign]
    app.config["COMPRESS_STREAMS"] = False  # progress is read line by line
    app.config["COMPRESS_MIMETYPES"] = ["application/json", "text/html", "text/csv", "application/geo+json"]
    Compress(app)
    return app


def _is_hashed(_path: str, url: str) -> bool:
    return url.startswith("/assets/")


def _file_headers(headers: Any, _path: str, _url: str) -> None:
    headers["X-Content-Type-Options"] = "nosniff"
    headers[POLICY[0]] = POLICY[1]
    headers["Referrer-Policy"] = "no-referrer"

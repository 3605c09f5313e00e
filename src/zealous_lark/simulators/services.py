"""The simulated forecast service and weather station: small HTTP services, for this machine only.

    GET /forecast?latitude=58.62&longitude=25.08&from=2026-09-27T00:00Z&hours=60&day=front
    GET /observation?latitude=58.62&longitude=25.08

Both take `day` and `behave` for one request; what is left out is as the service was started. Behaving badly is part
of their work: slow, down, rubbish.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from enum import StrEnum

from flask import Flask, Response, request
from werkzeug.serving import BaseWSGIServer, make_server

from zealous_lark.simulators.days import ABOUT, Day, made_forecast

MOST_HOURS = 240
SLOW_S = 20.0
"""How long a slow service takes [s]: longer than anybody waits."""


class Behave(StrEnum):
    WELL = "well"
    SLOW = "slow"
    DOWN = "down"
    RUBBISH = "rubbish"


@dataclass(frozen=True, slots=True)
class Manner:
    """How a service answers when it is not told otherwise."""

    day: Day = Day.FAIR
    behave: Behave = Behave.WELL
    seed: int = 0
    slow_s: float = SLOW_S


def _utc_now() -> datetime:
    return datetime.now(UTC)


def weather_app(manner: Manner, clock: Callable[[], datetime] = _utc_now) -> Flask:
    """Both services as one WSGI application."""
    app = Flask("zealous_lark.simulators")

    def asked() -> tuple[Day, Behave, float]:
        day = Day(request.args.get("day", manner.day))
        behave = Behave(request.args.get("behave", manner.behave))
        longitude = float(request.args.get("longitude", "0"))
        if not -180 <= longitude <= 180:
            raise ValueError("longitude")
        return day, behave, longitude

    def answer(make: Callable[[Day, float], str]) -> Response:
        try:
            day, behave, longitude = asked()
            text = make(day, longitude)
        except ValueError as error:
            return Response(f'{{"message": "not understood: {error}"}}', 400, mimetype="application/json")
        if behave is Behave.SLOW:
            time.sleep(manner.slow_s)
        if behave is Behave.DOWN:
            return Response("the service is down for maintenance", 503, mimetype="text/plain")
        if behave is Behave.RUBBISH:
            # Cut off in the middle, with a number that cannot be: what a broken service sends.
            return Response(text[: len(text) // 2] + '"speed_ms": 1e9', mimetype="application/json")
        return Response(text, mimetype="application/json")

    @app.get("/forecast")
    def forecast() -> Response:
        def make(day: Day, longitude: float) -> str:
            begin = datetime.fromisoformat(request.args.get("from", clock().isoformat()))
            hours = int(request.args.get("hours", "60"))
            if not 1 <= hours <= MOST_HOURS or begin.tzinfo is None:
                raise ValueError("from with its UTC offset, hours from 1 to 240")
            # Issued every three hours, as services do.
            now = clock().astimezone(UTC).replace(minute=0, second=0, microsecond=0)
            issued = now - timedelta(hours=now.hour % 3)
            made = made_forecast(day, begin.astimezone(UTC), hours, longitude, issued, seed=manner.seed)
            return made.model_dump_json()

        return answer(make)

    @app.get("/observation")
    def observation() -> Response:
        def make(day: Day, longitude: float) -> str:
            now = clock().astimezone(UTC)
            made = made_forecast(day, now, 1, longitude, now, seed=manner.seed + 1, source="Simulated weather station")
            hour = made.hours[0]
            # A mast of ten metres has one wind, and knows nothing of the earth's magnetic field.
            seen = hour.model_copy(update={"at": now, "winds": hour.winds[:1], "kp": None})
            return made.model_copy(update={"hours": [seen], "holds_min": 60}).model_dump_json()

        return answer(make)

    @app.get("/days")
    def days() -> dict[str, str]:
        return {day.value: words for day, words in ABOUT.items()}

    return app


class Running:
    """A service in a thread of this process, on a free port of the loopback."""

    def __init__(self, manner: Manner, port: int = 0, clock: Callable[[], datetime] = _utc_now) -> None:
        """Start serving. Raises OSError where the port is taken."""
        self._server: BaseWSGIServer = make_server("127.0.0.1", port, weather_app(manner, clock), threaded=True)
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

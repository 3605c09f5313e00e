"""What every route needs: the database, the time, and answers as JSON."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime

from flask import Response, current_app
from pydantic import BaseModel

from zealous_lark.services import sources
from zealous_lark.services.access import Doors
from zealous_lark.services.devices import Devices
from zealous_lark.services.field import FieldListener
from zealous_lark.sources import WeatherSource
from zealous_lark.store import Database

DATABASE = "LARK_DATABASE"
CLOCK = "LARK_CLOCK"
SOURCES = "LARK_SOURCES"
DEVICES = "LARK_DEVICES"
DOORS = "LARK_DOORS"
FIELD = "LARK_FIELD"


def database() -> Database:
    """The application's database."""
    found: Database = current_app.config[DATABASE]
    return found


def now() -> datetime:
    """The application's time."""
    clock: Callable[[], datetime] = current_app.config[CLOCK]
    return clock()


def connected() -> Sequence[WeatherSource]:
    """The weather sources that can be asked: the pilot's own, then those that this Lark was started with."""
    given: Sequence[WeatherSource] = current_app.config[SOURCES]
    return sources.connected(database(), given)


def devices() -> Devices:
    """The devices that are listened to."""
    found: Devices = current_app.config[DEVICES]
    return found


def doors() -> Doors:
    """Who may use this Lark from elsewhere."""
    found: Doors = current_app.config[DOORS]
    return found


def field() -> FieldListener | None:
    """What listens on the local network; None where this Lark cannot."""
    found: FieldListener | None = current_app.config[FIELD]
    return found


def json_answer(document: BaseModel, status: int = 200) -> Response:
    """A model as an answer."""
    return Response(document.model_dump_json(by_alias=True), status, mimetype="application/json")

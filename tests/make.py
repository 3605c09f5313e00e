"""Making situations for tests: the example plan with something changed."""

from __future__ import annotations

import math
import os
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date, datetime
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Finding, Status, all_checks
from zealous_lark.core.checks.base import said
from zealous_lark.core.geodesy import Frame, destination
from zealous_lark.core.land import Land
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Feature, Place, Role, Zone
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import Situation
from zealous_lark.core.terrain import Terrain
from zealous_lark.core.units import METRIC, Units
from zealous_lark.services.sessions import Opened, open_session, plans
from zealous_lark.store import Database

ROOT = Path(__file__).parent.parent
SOME_SEEDS = int(os.environ.get("LARK_SEEDS", "20"))
"""How many truths are drawn where a share is asked for; `make soak` draws a hundred."""

SOME_FILES = int(os.environ.get("LARK_FILES", "25"))
"""How many damaged files of each kind are read; `make soak` reads 700, ten thousand in all."""


def share_of(share: float, drawn: int) -> float:
    """How many of so many drawn a share asks for at least: all of it from a hundred on, else less by two deviations."""
    slack = 0.0 if drawn >= 100 else 2 * math.sqrt(drawn * share * (1 - share))
    return share * drawn - slack


EXAMPLES = ROOT / "examples"


def changed(situation: Situation, **values: Any) -> Situation:
    """A situation with fields replaced, named part__field, as in flight__height_m=30."""
    for name, value in values.items():
        part, _, field = name.partition("__")
        new = replace(getattr(situation, part), **{field: value}) if field else value
        situation = replace(situation, **{part: new})
    return situation


def forecast(speed: float, direction: float = 240, gust: float | None = None, height: float = 10) -> WindLevel:
    return WindLevel(height, speed, direction, WindSource.FORECAST, gust)


def measured(speed: float, direction: float = 240, gust: float | None = None, height: float = 2) -> WindLevel:
    return WindLevel(height, speed, direction, WindSource.MEASURED, gust)


def wind(situation: Situation, *levels: WindLevel) -> Situation:
    return changed(situation, weather__winds=levels)


@dataclass(frozen=True)
class Read:
    """What a check found, read in a pilot's units."""

    status: Status
    value: float | None
    limit: float | None
    used: float | None
    sentence: str
    working: tuple[str, ...]
    follows: str | None
    shown: str | None
    question: str | None
    asks: str | None
    standing: bool
    matters: bool


def read(found: Finding, units: Units = METRIC) -> Read:
    """A finding with its words."""
    f = found
    shown, question = (None if words is None else said(words, units) for words in (f.shown, f.question))
    return Read(f.status, f.value, f.limit, f.used, f.sentence(units), f.working(units), f.follows, shown, question,
                f.asks, f.standing, f.matters)  # fmt: skip


def find(situation: Situation, check_id: str, units: Units = METRIC) -> Read:
    """What one check finds, and says."""
    check = next(c for c in all_checks() if c.id == check_id)
    return read(check.find(Assessment(situation)), units)


def at(situation: Situation, bearing: float, distance: float) -> tuple[float, float]:
    """Longitude and latitude of a point seen from the take-off point."""
    lat, lon = destination(situation.site.latitude, situation.site.longitude, bearing, distance)
    return lon, lat


def drawn(
    situation: Situation,
    *features: Feature,
    zones: tuple[Zone, ...] = (),
    terrain: Terrain | None = None,
    surface: Terrain | None = None,
    looked_at: date | None = date(2026, 9, 20),
) -> Situation:
    """The situation at a place where things are drawn."""
    site = situation.site
    place = Place("Drawn", tuple(features), zones, looked_at, terrain, surface)
    return changed(situation, land=Land(place, site.latitude, site.longitude, site.elevation_m))


def feature(role: str, geometry: BaseGeometry, **more: Any) -> Feature:
    kind = ObstacleKind(more.pop("kind")) if "kind" in more else None
    named = {"id": "f", "name": "", **more}
    return Feature(role=Role(role), geometry=geometry, kind=kind, **named)


def made_terrain(
    situation: Situation,
    height: Callable[[NDArray[np.float64], NDArray[np.float64]], NDArray[np.float64]],
    cell: float = 10,
    half: float = 1500,
) -> Terrain:
    """A terrain around the take-off point from a function of east and north [m]."""
    n = int(2 * half / cell)
    axis = -half + (np.arange(n) + 0.5) * cell
    x, y = np.meshgrid(axis, axis[::-1])
    frame = Frame(situation.site.latitude, situation.site.longitude)
    return Terrain("made", frame, cell, -half, half, height(x, y).astype(np.float32))


def opened_sessions(db: Database, now: datetime) -> list[Opened]:
    """Every session by take-off time, opened."""
    return [open_session(db, session.id, now) for session, _ in plans(db)]

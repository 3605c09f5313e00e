"""Forecasts held against what came: what each said a day, half a day and three hours before, and the wind met."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import mean

from zealous_lark.core.site_wind import site_wind
from zealous_lark.plan import Known, situation_of
from zealous_lark.plan.forecast import read_forecast_text
from zealous_lark.services import places
from zealous_lark.services.flights import Flight, flight_of
from zealous_lark.services.weather import NEAR_M
from zealous_lark.store import Database, flights, reports
from zealous_lark.store.flights import Filter

LEADS_H = (24, 12, 3)
_LONGEST = timedelta(hours=72)
"""No older report is looked at: none goes further ahead."""
MOST = 300
"""The latest flights: what a source was like years ago says little of it now."""
LEAST = 3
"""Fewer flights than this say nothing about a forecast."""


@dataclass(frozen=True, slots=True)
class Held:
    """What one source said so many hours before a flight, at its height [m/s]; off_ms: over what was met."""

    source: str
    lead_h: int
    issued_at: datetime
    speed_ms: float
    off_ms: float


@dataclass(frozen=True, slots=True)
class HeldOver:
    """How far a source is off at a place, so many hours before: over all flights there that met a known wind.

    off_ms: the mean of said less met; size_ms: the mean of how far, either way.
    """

    source: str
    place: str
    lead_h: int
    count: int
    off_ms: float
    size_ms: float


def of_flight(db: Database, flight: Flight, names: Mapping[str, str]) -> tuple[Held, ...]:
    """What the forecasts that were kept said about a flight; none where it met no known wind, or has no plan.

    names: of the sources, by their keys.
    """
    entry, plan = flight.entry, flight.plan
    if entry.wind_met_ms is None or plan is None or plan.site.indoors:
        return ()
    begun = entry.started_at
    room = NEAR_M / 111_000
    with db.transaction() as s:
        kept = reports.taken(s, plan.site.latitude - room, plan.site.latitude + room, begun - _LONGEST, begun)
    moved = plan.model_copy(update={"takeoff_at": begun})
    situation = situation_of(moved, Known(places.core_place(db, moved), None, begun))
    height = entry.height_m or plan.flight.height_m
    found = []
    for lead in LEADS_H:
        last: dict[str, reports.Report] = {}
        for report in kept:  # the latest first
            near = abs(report.longitude - plan.site.longitude) < 2 * room
            if near and report.fetched_at <= begun - timedelta(hours=lead):
                last.setdefault(report.source, report)
        for key, report in sorted(last.items()):
            forecast = read_forecast_text(report.document)
            there = situation.in_forecast(forecast) if len(forecast.hours) > 1 else None
            wind = None if there is None else site_wind(there.site, there.weather.winds, there.minimums.wind_aloft)
            if wind is None:
                continue
            said = wind.at(height).speed_ms
            found.append(Held(names.get(key, key), lead, forecast.issued_at, said, said - entry.wind_met_ms))
    return tuple(found)


def over_logbook(db: Database, names: Mapping[str, str]) -> tuple[HeldOver, ...]:
    """How far each source is off at each place, the places by name and the shortest lead first."""
    with db.transaction() as s:
        flown = [flight_of(f) for f in flights.search(s, Filter(), size=MOST)]
    off: dict[tuple[str, str, int], list[float]] = defaultdict(list)
    for flight in flown:
        for held in of_flight(db, flight, names):
            off[flight.entry.place, held.source, -held.lead_h].append(held.off_ms)
    return tuple(
        HeldOver(source, place, -lead, len(each), mean(each), mean(map(abs, each)))
        for (place, source, lead), each in sorted(off.items(), key=lambda row: (row[0][0], row[0][1], -row[0][2]))
        if len(each) >= LEAST
    )

"""The forecasts that were kept, held against the flights of the logbook."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import mean

from zealous_lark.core.postflight.held_forecasts import Held, HeldOver, Off, held_over, said_ms
from zealous_lark.plan import Known, situation_of
from zealous_lark.plan.forecast import read_forecast_text
from zealous_lark.services.flights import Flight, flight_of
from zealous_lark.services.places import core_place
from zealous_lark.services.weather import reports_before
from zealous_lark.store import Database, flights
from zealous_lark.store.flights import Filter
from zealous_lark.store.reports import Report

LEADS_H = (24, 12, 3)
_LONGEST = timedelta(hours=72)
"""No older report is looked at: none goes further ahead."""
MOST = 300
"""The latest flights: what a source was like years ago says little of it now."""


def of_flight(db: Database, flight: Flight, names: Mapping[str, str]) -> tuple[Held, ...]:
    """What the forecasts that were kept said about a flight; none where it met no known wind, or has no plan.

    names: of the sources, by their keys.
    """
    entry, plan = flight.entry, flight.plan
    if entry.wind_met_ms is None or plan is None or plan.site.indoors:
        return ()
    begun = entry.started_at
    kept = reports_before(db, plan.site.latitude, plan.site.longitude, begun - _LONGEST, begun)
    moved = plan.model_copy(update={"takeoff_at": begun})
    flown = situation_of(moved, Known(core_place(db, moved), None, begun))
    height = plan.flight.height_m if entry.height_m is None else entry.height_m
    found = []
    for lead in LEADS_H:
        last: dict[str, Report] = {}
        for report in kept:  # the latest first
            if report.fetched_at <= begun - timedelta(hours=lead):
                last.setdefault(report.source, report)
        for key, report in sorted(last.items()):
            forecast = read_forecast_text(report.document)
            said = said_ms(flown, forecast, height)
            if said is not None:
                name = names.get(key, forecast.source)
                found.append(Held(key, name, lead, forecast.issued_at, said, said - entry.wind_met_ms))
    return tuple(found)


def over_logbook(db: Database, names: Mapping[str, str]) -> tuple[HeldOver, ...]:
    """How far each source is off at each place, over the latest flights."""
    with db.transaction() as s:
        flown = [flight_of(f) for f in flights.search(s, Filter(), size=MOST)]
    return held_over((flight.entry.place, of_flight(db, flight, names)) for flight in flown)


@dataclass(frozen=True, slots=True)
class SourceOff:
    """A source by the name that it gave itself last, and how far it was off before flights at a place."""

    name: str
    offs: list[Off]


def off_at_places(db: Database, flown: Sequence[Flight], now: datetime) -> dict[tuple[int, str], SourceOff]:
    """How far sources were off before the latest flights, by the place's number and the source's key.

    Over the leads that are held of a flight, their mean: what is raised by it is looked at a day ahead and an hour.
    """
    found: dict[tuple[int, str], SourceOff] = {}
    for flight in flown[:MOST]:
        place = None if flight.plan is None else flight.plan.site.place
        if place is None:
            continue
        by_source: dict[str, list[Held]] = defaultdict(list)
        for each in of_flight(db, flight, {}):
            by_source[each.key].append(each)
        for key, all_held in by_source.items():
            off = Off(flight.uid, mean(h.off_ms for h in all_held), now - flight.entry.started_at)
            found.setdefault((place, key), SourceOff(all_held[0].source, [])).offs.append(off)
    return found

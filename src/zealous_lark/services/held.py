"""The forecasts that were kept, held against the flights of the logbook."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import timedelta

from zealous_lark.core.postflight.held_forecasts import Held, HeldOver, held_over, said_ms
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
                found.append(Held(name, lead, forecast.issued_at, said, said - entry.wind_met_ms))
    return tuple(found)


def over_logbook(db: Database, names: Mapping[str, str]) -> tuple[HeldOver, ...]:
    """How far each source is off at each place, over the latest flights."""
    with db.transaction() as s:
        flown = [flight_of(f) for f in flights.search(s, Filter(), size=MOST)]
    return held_over((flight.entry.place, of_flight(db, flight, names)) for flight in flown)

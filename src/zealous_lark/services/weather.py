"""Forecasts and observations: fetched, pasted, kept, filled into plans, and the windows that they leave."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import lru_cache

from zealous_lark.core.forecast import Forecast
from zealous_lark.core.forecasts import spread_of, strictest
from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.place import Role
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units, day_of
from zealous_lark.core.windows import TWO_DAYS, Clock, Slot, Subject, Window, half_hours, slots, windows
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.plan import Known, PlanDocument, situation_of
from zealous_lark.plan.convert import weather_of, weather_part
from zealous_lark.plan.document import WeatherPart
from zealous_lark.plan.forecast import ForecastPart, forecast_part, read_forecast_text
from zealous_lark.plan.outing import shots_of
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.learned_values import more_wind_of
from zealous_lark.services.places import core_place
from zealous_lark.sources import Asked, SourceFailedError, WeatherSource
from zealous_lark.store import Database
from zealous_lark.store import reports as stored
from zealous_lark.store.reports import Report

NEAR_M = 10_000.0
"""A report counts for places within this distance [m]."""
HOURS_AHEAD = 60
_BEFORE = timedelta(hours=24)


class SourceDownError(Exception):
    """A source that gave nothing usable: its name, why, and the last report from it that is kept."""

    def __init__(self, name: str, why: str, last: Report | None) -> None:
        super().__init__(f"{name}: {why}")
        self.name, self.why, self.last = name, why, last


@dataclass(frozen=True, slots=True)
class Windows:
    """Half hours of two days, and the windows on the planned and on the best bearing."""

    report: Report | None
    forecast: Forecast | None
    situation: Situation
    slots: tuple[Slot, ...]
    planned: tuple[Window, ...]
    best: tuple[Window, ...]


def _utc(at: datetime) -> str:
    at = at.astimezone(UTC)
    return f"{day_of(at)} {at:%H:%M}"


def known(db: Database, plan: PlanDocument, now: datetime) -> Known:
    """What this Lark knows beyond a plan: its place, its forecast, the time (aware). Raises NotAllowedError."""
    report = stored_report(db, plan)
    forecast = None if report is None else forecast_of(db, report, plan)
    place = core_place(db, plan)
    fresh = fresh_near(db, plan, now)
    spread = spread_of(situation_of(plan, Known(place, forecast, now)), fresh) if len(fresh) > 1 else None
    return Known(place, forecast, now, None if spread is None else round(spread.share, 4))


def fresh_near(db: Database, plan: PlanDocument, now: datetime) -> list[Forecast]:
    """Forecasts by the hour near a plan that are younger than its pilot accepts; the latest of each source."""
    return [f for _, f in forecasts_near(db, plan) if is_fresh(f, plan, now)]


def forecasts_near(db: Database, plan: PlanDocument) -> list[tuple[Report, Forecast]]:
    """The latest report of each source near a plan, the latest first, and what each says for its place."""
    more = more_wind_of(db, plan.site.place)
    near = reports_near(db, plan.site.latitude, plan.site.longitude)
    return [(r, raised(r.document, more.get(r.source, 0.0))) for r in near]


def forecast_of(db: Database, report: Report, plan: PlanDocument) -> Forecast:
    """What a report says for a plan's place, with the wind that the pilot lets flights there add to its source."""
    return raised(report.document, more_wind_of(db, plan.site.place).get(report.source, 0.0))


@lru_cache(maxsize=64)
def raised(document: str, more_ms: float) -> Forecast:
    """What a kept document says, with so much more wind [m/s]."""
    forecast = read_forecast_text(document)
    return forecast.with_more_wind(more_ms) if more_ms > 0 else forecast


def is_fresh(forecast: Forecast, plan: PlanDocument, now: datetime) -> bool:
    """Whether it goes by the hour, and is no older than a plan's pilot accepts."""
    return len(forecast.hours) > 1 and forecast.issued_at >= now - timedelta(hours=plan.minimums.weather_age_h)


def stored_report(db: Database, plan: PlanDocument) -> Report | None:
    """The kept report that a plan names. Raises NotAllowedError."""
    number = plan.weather.report
    if number is None:
        return None
    with db.transaction() as s:
        found = stored.find(s, number)
    if found is None:
        raise NotAllowedError("weather.report", str(number), "the number of a forecast that is kept here, or null")
    return found


def open_report(db: Database, report_id: int) -> Report:
    """A kept report. Raises NotHereError."""
    with db.transaction() as s:
        found = stored.find(s, report_id)
    if found is None:
        raise NotHereError(f"there is no forecast {report_id}")
    return found


def reports_near(db: Database, latitude: float, longitude: float) -> list[Report]:
    """The latest report of each source for a place [°], the latest first."""
    latest: dict[str, Report] = {}
    for report in _near(db, latitude, longitude):
        latest.setdefault(_kind(report), report)
    return list(latest.values())


def reports_before(db: Database, latitude: float, longitude: float, since: datetime, until: datetime) -> list[Report]:
    """Every report for a place [°] that was taken in between two times (aware), the latest first."""
    return _near(db, latitude, longitude, since, until)


def _near(
    db: Database, latitude: float, longitude: float, since: datetime | None = None, until: datetime | None = None
) -> list[Report]:
    room = NEAR_M / 111_000
    with db.transaction() as s:
        found = stored.around(s, latitude - room, latitude + room, since, until)
    return [r for r in found if bearing_and_distance(latitude, longitude, r.latitude, r.longitude)[1] <= NEAR_M]


def away_m(report: Report) -> float | None:
    """How far the point is that a report was worked out for [m]; None: it doesn't say."""
    part = ForecastPart.model_validate_json(report.document)
    if part.latitude is None or part.longitude is None:
        return None
    return bearing_and_distance(report.latitude, report.longitude, part.latitude, part.longitude)[1]


def _kind(report: Report) -> str:
    # Reports of two aerodromes stand side by side; a second one of the same takes the place of the first.
    return f"{report.source} {_said_by(report.document)}"


@lru_cache(maxsize=512)
def _said_by(document: str) -> str:
    """Whose a kept forecast is, without reading all of it: hundreds of them pile up for one place."""
    return str(json.loads(document)["source"])


def fetch(db: Database, sources: Sequence[WeatherSource], key: str, plan: PlanDocument, now: datetime) -> Report:
    """Fetch from a source what it says around a plan's take-off, and keep it.

    Raises NotAllowedError for an unknown source; SourceDownError when it gives nothing usable: what
    was kept before stays.
    """
    source = next((s for s in sources if s.key == key), None)
    if source is None:
        connected = ", ".join(s.key for s in sources)
        raise NotAllowedError("source", key, connected or "none is connected yet: add one under Forecasts")
    site = plan.site
    try:
        part = source.fetch(asked_for(plan, now))
    except SourceFailedError as error:
        last = [r for r in reports_near(db, site.latitude, site.longitude) if r.source == key]
        raise SourceDownError(source.name, str(error), last[0] if last else None) from None
    return keep(db, key, site.latitude, site.longitude, part, "", now)


def asked_for(plan: PlanDocument, now: datetime) -> Asked:
    """What a source is asked about a plan: from now on, or for a take-off far ahead from the day before it on."""
    site = plan.site
    begin = max(now, min(plan.takeoff_at, now + timedelta(days=3650)) - _BEFORE)
    return Asked(site.latitude, site.longitude, begin, HOURS_AHEAD, now)


def keep(
    db: Database, source: str, latitude: float, longitude: float, part: ForecastPart, raw: str, now: datetime
) -> Report:
    """Keep a report for a place [°]."""
    with db.transaction() as s:
        return stored.add(s, source, latitude, longitude, part.model_dump_json(), raw, now)


def read_text(db: Database, kind: str, text: str, name: str, plan: PlanDocument, now: datetime) -> Report:
    """Read a pasted METAR or TAF, or a table, and keep it for a plan's place. Raises NotAllowedError."""
    read: dict[str, tuple[Callable[..., Forecast], *tuple[object, ...]]] = {
        "metar": (readers.read_metar, text, now),
        "taf": (readers.read_taf, text, now),
        "csv": (readers.read_forecast_csv, text.encode(), name or "pasted", now),
    }
    try:
        part = forecast_part(bounded.read(bounded.OF_A_PLACE, *read[kind]))
    except BadFileError as error:
        raise NotAllowedError("text", error.given, error.allowed) from None
    return keep(db, kind, plan.site.latitude, plan.site.longitude, part, text, now)


def filled(db: Database, plan: PlanDocument, report_id: int, takeoff_at: datetime) -> WeatherPart:
    """A plan's weather at a time, out of a kept report. Raises NotAllowedError where that says nothing about it."""
    report = open_report(db, report_id)
    return filled_from(forecast_of(db, report, plan), plan, report.id, takeoff_at)


def filled_from(forecast: Forecast, plan: PlanDocument, report_id: int, takeoff_at: datetime) -> WeatherPart:
    """The same, out of what a report says. Raises NotAllowedError."""
    weather = forecast.weather_at(takeoff_at, weather_of(plan.weather))
    if weather is None:
        span = f"{_utc(forecast.begin)} to {_utc(forecast.end)} UTC"
        allowed = f"a time that {forecast.source} covers: {span}"
        raise NotAllowedError("takeoff_at", f"{day_of(takeoff_at)} {takeoff_at:%H:%M}", allowed)
    return weather_part(weather, report_id)


def in_kept_forecast(db: Database, plan: PlanDocument) -> PlanDocument:
    """A plan in the weather of the latest forecast that is kept near it and covers its take-off; else as it is."""
    for report, forecast in forecasts_near(db, plan):
        if forecast.at(plan.takeoff_at) is not None:
            return plan.model_copy(update={"weather": filled(db, plan, report.id, plan.takeoff_at)})
    return plan


def look(db: Database, plan: PlanDocument, report_id: int | None, now: datetime, units: Units = METRIC) -> Windows:
    """The windows of a plan in the forecast that is asked for, else its own, else the strictest fresh one near.

    Without any forecast the weather as planned holds at every time. Half hours from now on, or for a take-off
    that is further ahead from the forecast's own begin on. Raises NotHereError.
    """
    report = _chosen(db, plan, report_id, now)
    forecast = None if report is None else forecast_of(db, report, plan)
    base = known(db, plan, now)
    situation = situation_of(plan, Known(base.place, forecast or base.forecast, now))
    begin = max(now, forecast.begin) if forecast is not None else max(now, plan.takeoff_at - timedelta(hours=12))
    if forecast is not None and now > forecast.end:
        begin = forecast.begin
    begin = begin.astimezone(plan.takeoff_at.tzinfo)
    clock = Clock(situation, units)
    found = slots(situation, half_hours(begin, TWO_DAYS), _subjects(plan, situation), clock)
    planned, best = windows(found, clock), windows(found, clock, best=True)
    return Windows(report, situation.forecast, situation, found, planned, best)


def _chosen(db: Database, plan: PlanDocument, report_id: int | None, now: datetime) -> Report | None:
    """The report asked for, else the plan's own, else of those near the strictest fresh one, else the latest."""
    if report_id is not None:
        return open_report(db, report_id)
    own = stored_report(db, plan)
    if own is not None:
        return own
    by_hour = [(r, f) for r, f in forecasts_near(db, plan) if len(f.hours) > 1]
    fresh = [(r, f) for r, f in by_hour if is_fresh(f, plan, now)]
    found = strictest(situation_of(plan, known(db, plan, now)), [f for _, f in fresh]) if len(fresh) > 1 else None
    return next((r for r, f in (fresh if found else by_hour) if found is None or f is found[0]), None)


def _subjects(plan: PlanDocument, situation: Situation) -> list[Subject]:
    """What is filmed: the session's own subjects, else those drawn at the place, else the far end of the flight."""
    flight, site, land = situation.flight, situation.site, situation.land

    def up(height_m: float, distance_m: float) -> float:
        return math.degrees(math.atan2(height_m, max(distance_m, 1.0)))

    if plan.outing is not None and plan.outing.shots:
        shots = shots_of(plan.outing, site.latitude, site.longitude)
        return [Subject(s.name, s.bearing_deg, up(s.height_m, s.distance_m)) for s in shots]
    drawn = [] if land is None else [f for f in land.place.features if f.role is Role.SUBJECT]
    if not drawn:
        return [Subject("the far point", flight.bearing_deg, up(flight.height_m, flight.distance_m))]
    found = []
    for feature in drawn:
        lon, lat = feature.geometry.representative_point().coords[0][:2]
        bearing, distance = bearing_and_distance(site.latitude, site.longitude, lat, lon)
        found.append(Subject(feature.name or "subject", bearing, up(feature.height_m or 0.0, distance)))
    return found

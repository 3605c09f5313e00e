"""The API of weather reports and launch windows."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response
from pydantic import ValidationError

from zealous_lark.core.time_height import HEIGHTS_M, curtain, limits_ms
from zealous_lark.core.units import Units
from zealous_lark.core.windows import Slot, Told, Window
from zealous_lark.formats.forecast_csv import COLUMNS, Chosen
from zealous_lark.plan.forecast import ForecastPart, read_forecast_text
from zealous_lark.services import forecast_files, weather
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.store.reports import Report
from zealous_lark.web.context import connected, database, json_answer, now
from zealous_lark.web.http import body, file, query, reads_first, units, writes_nothing
from zealous_lark.web.schemas import weather as b

api = APIBlueprint("weather", __name__, url_prefix="/api")

_FILE = {413: "Too large", 415: "Not bytes", 422: "Refused"}


def report_out(report: Report) -> b.ReportOut:
    forecast = read_forecast_text(report.document)
    return b.ReportOut(
        id=report.id,
        source=report.source,
        name=forecast.source,
        issued_at=forecast.issued_at,
        fetched_at=report.fetched_at,
        begin=forecast.begin,
        end=forecast.end,
        hours=len(forecast.hours),
        away_m=weather.away_m(report),
        raw=report.raw if len(report.raw) < 5_000 else report.raw[:5_000] + "…",
    )


@api.get("/weather/sources")
@api.output(b.SourceList)
@api.doc(summary="Where weather can be fetched from")
def list_sources() -> Response:
    """The sources that are connected."""
    found = [b.SourceOut(key=s.key, name=s.name, simulated=s.simulated, control=s.control) for s in connected()]
    return json_answer(b.SourceList(sources=found))


@api.get("/weather/reports")
@api.output(b.ReportList)
@api.doc(summary="The latest report of each source for a place", responses={422: "Refused"})
@query(api, b.NearQuery)
def list_reports(asked: b.NearQuery) -> Response:
    """Reports that count for a place."""
    found = weather.reports_near(database(), asked.latitude, asked.longitude)
    return json_answer(b.ReportList(reports=[report_out(r) for r in found]))


@api.get("/weather/reports/<int:report_id>")
@api.output(b.ReportWhole)
@api.doc(summary="One report with its hours", responses={404: "Not here"})
def open_report(report_id: int) -> Response:
    """A report as it was taken in."""
    report = weather.open_report(database(), report_id)
    forecast = ForecastPart.model_validate_json(report.document)
    return json_answer(b.ReportWhole(**report_out(report).model_dump(), forecast=forecast))


@api.post("/weather/fetch")
@api.output(b.ReportOut, status_code=201)
@api.doc(
    summary="Fetch a report for a plan's place and time",
    responses={422: "Refused", 502: "The source gave nothing usable; what was kept stays"},
)
@body(api, b.FetchIn)
@writes_nothing
def fetch(document: b.FetchIn) -> Response:
    """A new report from a source."""
    report = weather.fetch(database(), connected(), document.source, document.plan, now())
    return json_answer(report_out(report), 201)


@api.post("/weather/read")
@api.output(b.ReportOut, status_code=201)
@api.doc(summary="Read a METAR, a TAF or a table for a plan's place", responses={422: "Refused"})
@body(api, b.ReadIn)
def read(document: b.ReadIn) -> Response:
    """A new report from a text."""
    report = weather.read_text(database(), document.kind, document.text, document.name, document.plan, now())
    return json_answer(report_out(report), 201)


@api.post("/weather/file/head")
@api.output(b.ForecastHeadOut)
@api.doc(summary="The columns of a forecast in a table", responses=_FILE)
@file(api, forecast_files.MAX_FORECAST_BYTES)
@writes_nothing
def file_head(data: bytes) -> Response:
    """What a table has, so that the pilot can say which column is which."""
    head = forecast_files.head(data)
    found = (
        b.ForecastHeadOut(columns=[], rows=[], guess={}, height_m=None, known=True, kinds=[])
        if head is None
        else b.ForecastHeadOut(
            columns=list(head.columns),
            rows=[list(r) for r in head.rows],
            guess=head.guess.columns,
            height_m=head.guess.height_m,
            known=head.known,
            kinds=list(COLUMNS),
        )
    )
    return json_answer(found)


@api.post("/weather/file")
@api.output(b.ReportOut, status_code=201)
@api.doc(summary="Keep a forecast for a place, from GRIB, netCDF, CoverageJSON or a table", responses=_FILE)
@query(api, b.ForecastFileQuery)
@file(api, forecast_files.MAX_FORECAST_BYTES)
@reads_first
def read_file(data: bytes, asked: b.ForecastFileQuery) -> Response:
    """A new report from a file."""
    chosen = None
    if asked.columns:
        try:
            columns = b.ForecastColumns.model_validate_json(asked.columns).root
        except ValidationError:
            raise NotAllowedError(
                "columns", asked.columns[:60], "a JSON object from the columns' names to their kinds"
            ) from None
        chosen = Chosen(columns, asked.height_m)
    at = asked.latitude, asked.longitude
    return json_answer(report_out(forecast_files.read(database(), data, asked.name, chosen, at, now())), 201)


@api.post("/weather/fill")
@api.output(b.FillOut)
@api.doc(summary="A plan's weather at a time, out of a report", responses={404: "Not here", 422: "Refused"})
@body(api, b.FillIn)
@writes_nothing
def fill(document: b.FillIn) -> Response:
    """The weather to put into a plan; nothing is kept."""
    at = document.takeoff_at or document.plan.takeoff_at
    return json_answer(b.FillOut(takeoff_at=at, weather=weather.filled(database(), document.plan, document.report, at)))


def _told(told: Told | None) -> b.ToldOut | None:
    return None if told is None else b.ToldOut(**asdict(told))


def _slot(slot: Slot) -> b.SlotOut:
    return b.SlotOut(
        at=slot.at,
        planned=_told(slot.planned),
        best=_told(slot.best),
        sun_elevation_deg=slot.sun.elevation_deg,
        sun_azimuth_deg=slot.sun.azimuth_deg,
        glow=slot.glow,
        glare_towards=list(slot.glare_towards),
    )


def _window(window: Window) -> b.WindowOut:
    return b.WindowOut(
        begin=window.begin,
        end=window.end,
        first=_told(window.first),
        opens=_told(window.opens),
        closes=_told(window.closes),
        clear=window.clear,
    )


@api.post("/windows")
@api.output(b.WindowsOut)
@api.doc(
    summary="The whole check for each half hour of two days, and the windows",
    description="Nothing is kept.",
    responses={404: "Not here", 422: "Refused"},
)
@units(api)
@body(api, b.LookIn)
@writes_nothing
def look(document: b.LookIn, units: Units) -> Response:
    """When to fly."""
    found = weather.look(database(), document.plan, document.report, now(), units)
    columns = curtain(found.situation, [s.at for s in found.slots])
    steady, gust = limits_ms(found.situation)
    hours = [c.hour for c in columns]
    out = b.WindowsOut(
        report=None if found.report is None else report_out(found.report),
        slots=[_slot(s) for s in found.slots],
        planned=[_window(w) for w in found.planned],
        best=[_window(w) for w in found.best],
        curtain=b.CurtainOut(
            height_m=list(HEIGHTS_M),
            speed_ms=[list(c.speed_ms) for c in columns],
            gust_ms=[list(c.gust_ms) for c in columns],
            direction_deg=[list(c.direction_deg) for c in columns],
            used=[list(c.used) for c in columns],
            rain_mmh=[None if h is None else h.rain_mmh for h in hours],
            falls=[None if h is None or h.falls is None else h.falls.value for h in hours],
            temperature_c=[None if h is None else h.temperature_c for h in hours],
            visibility_m=[None if h is None else h.visibility_m for h in hours],
        ),
        working_height_m=found.situation.flight.height_m,
        return_height_m=found.situation.return_height_m,
        steady_limit_ms=steady,
        gust_limit_ms=gust,
    )
    return json_answer(out)

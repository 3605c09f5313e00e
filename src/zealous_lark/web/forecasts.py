"""The API of several forecasts side by side, and of the watch over the sessions ahead."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.air import Wind
from zealous_lark.core.units import Units
from zealous_lark.services import forecasts, watch
from zealous_lark.store.watched import Watched
from zealous_lark.web.context import connected, database, json_answer, now
from zealous_lark.web.http import body, units, writes_nothing
from zealous_lark.web.schemas import forecasts as b
from zealous_lark.web.weather import report_out

api = APIBlueprint("forecasts", __name__, url_prefix="/api")


def _wind(wind: Wind | None) -> b.HomeWindOut | None:
    if wind is None:
        return None
    return b.HomeWindOut(speed_ms=wind.speed_ms, gust_ms=wind.gust_ms, direction_deg=wind.direction_deg)


def _heard(asked: forecasts.Asked) -> b.HeardOfOut:
    report = None if asked.report is None else report_out(asked.report)
    return b.HeardOfOut(key=asked.source.key, name=asked.source.name, report=report, why=asked.why)


def _watched(one: Watched) -> b.WatchedOut:
    found = watch.Found.model_validate_json(one.document)
    return b.WatchedOut(session_id=one.session_id, at=one.at, seen=one.seen, found=found)


@api.post("/weather/compare")
@api.output(b.ComparisonOut)
@api.doc(summary="What each forecast says about a plan's take-off, and how far they differ", responses={422: "Refused"})
@units(api)
@body(api, b.OfAPlan)
@writes_nothing
def compare(document: b.OfAPlan, units: Units) -> Response:
    """Side by side; nothing is kept."""
    found = forecasts.compared(database(), document.plan, now(), units)
    said = [
        b.SaidOut(
            report=report_out(s.report), fresh=s.fresh, plans=s.plans, strictest=s.strictest, wind=_wind(s.wind),
            temperature_c=s.temperature_c, falls=s.falls, verdict=s.verdict, tightest=s.tightest,
        )
        for s in found.said
    ]  # fmt: skip
    spread = None if found.spread is None else b.ForecastSpreadOut(**asdict(found.spread))
    return json_answer(b.ComparisonOut(said=said, spread=spread, height_m=found.height_m, against=list(found.against)))


@api.post("/weather/fetch-all")
@api.output(b.AskedOut, status_code=201)
@api.doc(summary="Ask every source about a plan's take-off at once", responses={422: "Refused"})
@body(api, b.OfAPlan)
@writes_nothing
def fetch_all(document: b.OfAPlan) -> Response:
    """What each gave, or why it gave nothing; what was kept before stays."""
    asked = forecasts.ask_all(database(), connected(), document.plan, now())
    return json_answer(b.AskedOut(asked=[_heard(a) for a in asked]), 201)


@api.get("/sessions/<int:session_id>/watch")
@api.output(b.WatchHistory)
@api.doc(summary="What was found of a session as its forecasts were renewed", responses={404: "Not here"})
def history(session_id: int) -> Response:
    """The latest first."""
    return json_answer(b.WatchHistory(watched=[_watched(w) for w in watch.history(database(), session_id)]))


@api.post("/sessions/<int:session_id>/watch/seen")
@api.output({}, status_code=204)
@api.doc(summary="The pilot has seen what was found of a session", responses={404: "Not here"})
def see(session_id: int) -> tuple[str, int]:
    """It is not counted as news any more."""
    watch.see(database(), session_id)
    return "", 204


@api.get("/watch")
@api.output(b.NewsList)
@api.doc(summary="Changes of sessions ahead that were not seen yet")
def news() -> Response:
    """For a notification."""
    found = watch.news(database(), now())
    return json_answer(
        b.NewsList(news=[b.NewsOut(title=n.title, takeoff_at=n.takeoff_at, change=_watched(n.change)) for n in found])
    )


@api.post("/watch")
@api.output(b.LookedOut)
@api.doc(summary="Look at the sessions ahead now, as is done by itself every half hour")
@writes_nothing
def look() -> Response:
    """Ask the sources, judge again, keep what has changed."""
    found = watch.look(database(), connected(), now())
    return json_answer(
        b.LookedOut(changes=[_watched(w) for w in found.changes], asked=[_heard(a) for a in found.asked])
    )

"""Several forecasts of one flight side by side, and all of them asked at once."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import datetime

from zealous_lark.core.air import Wind
from zealous_lark.core.forecasts import Spread, spread_of, strictness, wind_home
from zealous_lark.core.readings import Precipitation
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.forecast import ForecastPart, read_forecast_text
from zealous_lark.services.session_list import Tightest, tightest_of
from zealous_lark.services.weather import asked_for, forecasts_near, fresh_near, is_fresh, keep, known, reports_near
from zealous_lark.sources import SourceFailedError, WeatherSource
from zealous_lark.store import Database
from zealous_lark.store.reports import Report


@dataclass(frozen=True, slots=True)
class Said:
    """What one report says about a flight. fresh: young enough to count; strictest: the one that plans by default.

    wind: at the height of the way home; None where it has none. plans: whether the plan stands on it now.
    """

    report: Report
    fresh: bool
    plans: bool
    strictest: bool
    wind: Wind | None
    temperature_c: float | None
    falls: Precipitation | None
    verdict: Verdict
    tightest: Tightest


@dataclass(frozen=True, slots=True)
class Comparison:
    """Every report that covers a take-off; spread: of the fresh ones; None for fewer than two.

    against: what the flight fails by in the fresh ones, where it fails in all of them and flies as it is planned.
    """

    said: tuple[Said, ...]
    spread: Spread | None
    height_m: float
    against: tuple[str, ...]


def compared(db: Database, plan: PlanDocument, now: datetime, units: Units = METRIC) -> Comparison:
    """What each forecast that is kept near a plan says about its take-off. Raises NotAllowedError."""
    situation = situation_of(plan, known(db, plan, now))
    rows: list[tuple[tuple[int, float], Said]] = []
    for report, forecast in forecasts_near(db, plan):
        there = situation.in_forecast(forecast)
        if there is None:
            continue
        judgement = judge(there)
        said = Said(
            report, is_fresh(forecast, plan, now), plan.weather.report == report.id, False, wind_home(there),
            there.weather.temperature_c, there.weather.precipitation, judgement.verdict, tightest_of(judgement, units),
        )  # fmt: skip
        rows.append((strictness(judgement), said))
    strictest = max((row for row in rows if row[1].fresh), key=lambda row: row[0], default=None)
    said_by_all = tuple(replace(row[1], strictest=row is strictest) for row in rows)
    fresh = [said for said in said_by_all if said.fresh]
    fails = [said for said in fresh if said.verdict is Verdict.STAY]
    flies = bool(fails) and len(fails) == len(fresh) and judge(situation).verdict is not Verdict.STAY
    against = dict.fromkeys(said.tightest.label for said in fails) if flies else ()
    spread = spread_of(situation, fresh_near(db, plan, now))
    return Comparison(said_by_all, spread, situation.return_height_m, tuple(against))


@dataclass(frozen=True, slots=True)
class Asked:
    """What came of asking a source: the report that is kept now, or why there is none; neither: nothing new."""

    source: WeatherSource
    report: Report | None
    why: str | None


def ask_all(
    db: Database, sources: Sequence[WeatherSource], plan: PlanDocument, now: datetime, *, only_renewed: bool = False
) -> list[Asked]:
    """Ask every source about a plan's take-off, all at once: a slow one does not keep the others waiting.

    only_renewed: keep only forecasts by the hour that were issued again since the last that is kept.
    """

    def ask(source: WeatherSource) -> ForecastPart | SourceFailedError:
        try:
            return source.fetch(asked_for(plan, now))
        except SourceFailedError as error:
            return error

    if not sources:
        return []
    with ThreadPoolExecutor(len(sources)) as pool:
        answers = list(pool.map(ask, sources))
    found = []
    for source, answer in zip(sources, answers, strict=True):
        if isinstance(answer, SourceFailedError):
            found.append(Asked(source, None, str(answer)))
        elif only_renewed and not _renewed(db, source, plan, answer):
            found.append(Asked(source, None, None))
        else:
            site = plan.site
            found.append(Asked(source, keep(db, source.key, site.latitude, site.longitude, answer, "", now), None))
    return found


def _renewed(db: Database, source: WeatherSource, plan: PlanDocument, part: ForecastPart) -> bool:
    kept = [r for r in reports_near(db, plan.site.latitude, plan.site.longitude) if r.source == source.key]
    before = max((read_forecast_text(r.document).issued_at for r in kept), default=None)
    return len(part.hours) > 1 and (before is None or part.issued_at > before)

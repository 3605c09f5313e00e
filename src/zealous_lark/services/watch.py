"""Sessions ahead are judged again as their forecasts are renewed, and each change of verdict or window is kept.

The plan itself stays as its pilot left it: what is found is told, and taken by the pilot or not.
"""

from __future__ import annotations

import logging
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from pydantic import AwareDatetime, BaseModel, ConfigDict

from zealous_lark.core.checks import Status
from zealous_lark.core.forecasts import strictest
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import Verdict
from zealous_lark.core.windows import Clock, half_hours, slots, windows
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.services import sessions, weather
from zealous_lark.services.forecasts import Asked, ask_all
from zealous_lark.sources import WeatherSource
from zealous_lark.store import Database, watched
from zealous_lark.store.watched import Watched

AHEAD = timedelta(hours=72)
"""Sessions further ahead are not watched: forecasts say too little about them."""
LEAST_MOVE = timedelta(minutes=10)
"""A window that opens or closes by less than this earlier or later is no news."""

log = logging.getLogger(__name__)


class WindowFound(BaseModel):
    """A launch window on the day of the take-off. closes: label of the check that ends it; null at the day's end."""

    model_config = ConfigDict(extra="forbid")

    begin: AwareDatetime
    end: AwareDatetime
    closes: str | None


class Found(BaseModel):
    """What was found of a session: verdict at its take-off, the label of what decides, and the day's windows.

    source, issued_at: the forecast that it rests on, the strictest of the fresh ones. revision: of the plan.
    """

    model_config = ConfigDict(extra="forbid")

    verdict: Verdict
    label: str
    status: Status
    windows: list[WindowFound]
    source: str
    issued_at: AwareDatetime
    revision: int


@dataclass(frozen=True, slots=True)
class Looked:
    """What came of a look at all sessions ahead: what has changed, and what was heard from the sources."""

    changes: tuple[Watched, ...]
    asked: tuple[Asked, ...]


def look(db: Database, sources: Sequence[WeatherSource], now: datetime) -> Looked:
    """Ask the sources about every session that is soon, and keep what has changed. One fault stops no other."""
    changes: list[Watched] = []
    heard: list[Asked] = []
    for session, plan in sessions.plans_ahead(db, now):
        if plan.site.indoors or plan.takeoff_at - now > AHEAD:
            continue
        try:
            heard += ask_all(db, sources, plan, now, only_renewed=True)
            found = find(db, session.revision, plan, now)
            if found is not None and (kept := _keep(db, session.id, found, now)) is not None:
                changes.append(kept)
        except Exception:
            # Whatever is wrong with one plan must not leave the others unwatched.
            log.exception("session %d cannot be watched", session.id)
    return Looked(tuple(changes), tuple(heard))


def find(db: Database, revision: int, plan: PlanDocument, now: datetime) -> Found | None:
    """What the strictest of the fresh forecasts says of a plan at a revision; None where none covers its take-off."""
    situation = situation_of(plan, weather.known(db, plan, now))
    found = strictest(situation, weather.fresh_near(db, plan, now))
    if found is None:
        return None
    forecast, judgement = found
    first = judgement.tightest
    return Found(
        verdict=judgement.verdict,
        label=first.check.label,
        status=first.finding.status,
        windows=_windows(judgement.assessment.situation, now),
        source=forecast.source,
        issued_at=forecast.issued_at,
        revision=revision,
    )


def _windows(there: Situation, now: datetime) -> list[WindowFound]:
    """The launch windows of the day of a take-off, in the forecast of a flight."""
    at, forecast = there.takeoff_at, there.forecast
    assert forecast is not None
    day = at.replace(hour=0, minute=0, second=0, microsecond=0)
    begin = max(day, forecast.begin.astimezone(at.tzinfo), now.astimezone(at.tzinfo))
    end = min(day + timedelta(days=1), forecast.end)
    count = int((end - begin) / timedelta(minutes=30))
    if count < 1:
        return []
    clock = Clock(there, METRIC)
    found = windows(slots(there, half_hours(begin, count), [], clock), clock)
    return [WindowFound(begin=w.begin, end=w.end, closes=None if w.closes is None else w.closes.label) for w in found]


def _keep(db: Database, session_id: int, found: Found, now: datetime) -> Watched | None:
    """Keep what is news. The first finding of a session, and of a plan that its pilot changed, counts as seen."""
    with db.writing() as s:
        latest = watched.of_session(s, session_id, most=1)
        before = Found.model_validate_json(latest[0].document) if latest else None
        if before is not None and not _is_news(before, found, now):
            return None
        by_forecast = before is not None and before.revision == found.revision
        kept = watched.add(s, session_id, now, found.model_dump_json(), seen=not by_forecast)
        return kept if by_forecast else None


def _is_news(before: Found, found: Found, now: datetime) -> bool:
    """Whether the verdict changed, or a window that is still ahead opens or closes at another time."""
    if before.verdict is not found.verdict:
        return True
    # What has only gone by is no news: both are looked at from now on.
    old, new = ([w for w in f.windows if w.end > now] for f in (before, found))
    if len(old) != len(new):
        return True
    return any(
        abs(max(a.begin, now) - max(b.begin, now)) >= LEAST_MOVE or abs(a.end - b.end) >= LEAST_MOVE
        for a, b in zip(old, new, strict=True)
    )


def history(db: Database, session_id: int) -> list[Watched]:
    """What was found of a session, the latest first. Raises NotHereError."""
    sessions.plan_of(db, session_id)
    with db.transaction() as s:
        return watched.of_session(s, session_id)


def see(db: Database, session_id: int) -> None:
    """The pilot has seen what was found of a session. Raises NotHereError."""
    sessions.plan_of(db, session_id)
    with db.writing() as s:
        watched.see(s, session_id)


@dataclass(frozen=True, slots=True)
class News:
    """A change that the pilot has not seen, with the title of its session."""

    title: str
    takeoff_at: datetime
    change: Watched


def news(db: Database, now: datetime) -> list[News]:
    """Of each session ahead the latest change that was not seen."""
    with db.transaction() as s:
        found = watched.latest_unseen(s, now)
    plans = [(change, sessions.plan_of(db, change.session_id)) for change in found]
    return [News(plan.title, plan.takeoff_at, change) for change, plan in plans]

"""The list of sessions: a page of them, each with its verdict as it stands.

A verdict is kept under a digest of everything that it rests on, so that what has not changed is not judged again.
"""

from __future__ import annotations

import logging
import zlib
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path

from pydantic import BaseModel, ConfigDict

import zealous_lark
from zealous_lark.core.checks import Status
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Judgement, Verdict, judge
from zealous_lark.plan import situation_of
from zealous_lark.services import minimums
from zealous_lark.services.judging import moment_of, planned
from zealous_lark.services.local_time import local
from zealous_lark.services.minimums import PilotSettings
from zealous_lark.services.sessions import Opened
from zealous_lark.services.weather import known
from zealous_lark.store import Database, PilotsWord, decisions, sessions, verdicts, watched
from zealous_lark.store.sessions import Headline, Line
from zealous_lark.store.verdicts import StoredVerdict

PAGE = 30


class Tightest(BaseModel):
    """The check that decides a verdict; used: share of its limit, null when not known."""

    model_config = ConfigDict(extra="forbid")

    id: str
    label: str
    status: Status
    used: float | None
    sentence: str


def tightest_of(judgement: Judgement, units: Units) -> Tightest:
    """The check that decides a judgement, in a pilot's units."""
    check, finding = judgement.tightest.check, judgement.tightest.finding
    return Tightest(
        id=check.id, label=check.label, status=finding.status, used=finding.used, sentence=finding.sentence(units)
    )


@dataclass(frozen=True, slots=True)
class Listed:
    """A session in the list, its take-off by the clock where it is. changes: of its forecasts, not seen yet."""

    id: int
    headline: Headline
    revision: int
    changed_at: datetime
    verdict: Verdict
    tightest: Tightest
    word: PilotsWord | None
    changes: int


@dataclass(frozen=True, slots=True)
class Page:
    """A page of the list; total: how many sessions have the words."""

    sessions: tuple[Listed, ...]
    page: int
    pages: int
    total: int


@cache
def _code() -> str:
    """A digest of what judges: a verdict of another Lark is found again."""
    folder = Path(zealous_lark.__file__).parent
    digest = 0
    for part in ("core", "plan", "rulesets"):
        for path in sorted(p for p in (folder / part).rglob("*") if p.suffix in (".py", ".json")):
            digest = zlib.crc32(path.read_bytes(), digest)
    return f"{digest:08x}"


def _rests_on(line: Line, settings_text: str, units: Units) -> str:
    settings = zlib.crc32(settings_text.encode())
    where = f"{line.headline.place_id}.{line.place_revision}"
    in_units = f"{units.speed_unit}.{units.length_unit}.{units.temperature_unit}"
    return f"{_code()} {line.revision} {settings:08x} {where} {in_units}"


@dataclass(frozen=True, slots=True)
class _Age:
    """The age of the weather as it was judged: status, hours now, and hours that are accepted."""

    status: Status
    hours: float
    limit_h: float


def _kept(verdict: str, tightest: Tightest, age: _Age | None, rests_on: str, moment: datetime) -> StoredVerdict:
    """age: None where no figure of the weather is dated; else the verdict holds until the age changes it."""
    return StoredVerdict(rests_on + _holds(tightest, age, moment), verdict, tightest.model_dump_json())


_FORMAT = "%Y%m%dT%H%MZ"


def _holds(tightest: Tightest, age: _Age | None, moment: datetime) -> str:
    """Until when a verdict holds as time passes: nothing else in it but the age of the weather depends on that."""
    if age is None:
        return ""
    if tightest.id == "weather.age":
        return f" until {moment:{_FORMAT}}"
    if age.status is not Status.PASS:
        return ""
    # It decides once it is too old, or, while all passes, once more of it is used than of what decides now.
    share = min(tightest.used or 0.0, 1.0) if tightest.status is Status.PASS else 1.0
    left = timedelta(hours=max(age.limit_h * share - age.hours, 0.0))
    return f" until {moment + left:{_FORMAT}}"


def _still_holds(kept: StoredVerdict, rests_on: str, moment: datetime) -> bool:
    if kept.rests_on == rests_on:
        return True
    begin = f"{rests_on} until "
    return kept.rests_on.startswith(begin) and f"{moment:{_FORMAT}}" <= kept.rests_on.removeprefix(begin)


def _moment(line: Line, now: datetime) -> datetime:
    return moment_of(now, line.headline.takeoff_at)


def _found(db: Database, line: Line, settings: PilotSettings, now: datetime, units: Units, rests: str) -> StoredVerdict:
    with db.transaction() as s:
        session = sessions.find(s, line.id)
    assert session is not None
    try:
        # The verdict alone: the list shows neither reach nor chance.
        plan = planned(session.plan, settings)
        moment = moment_of(now, plan.takeoff_at)
        judgement = judge(situation_of(plan, known(db, plan, moment)))
        tightest = tightest_of(judgement, units)
        found = next((j.finding for j in judgement.judged if j.check.id == "weather.age"), None)
        age = None if found is None else _Age(found.status, found.value or 0.0, found.limit or 0.0)
        return _kept(judgement.verdict, tightest, age, rests, moment)
    except Exception as error:
        # Whatever is wrong with one plan (geometry that its library refuses, too), it must not take the others off.
        logging.getLogger(__name__).exception("session %d cannot be checked", line.id)
        tightest = Tightest(
            id="plan", label="This plan", status=Status.UNKNOWN, used=None, sentence=f"It cannot be checked: {error}."
        )
        return StoredVerdict(rests, Verdict.UNKNOWN, tightest.model_dump_json())


def keep_verdict(db: Database, opened: Opened, now: datetime, units: Units) -> None:
    """Keep the verdict of a session that was just judged, for the list."""
    settings_text = minimums.current(db).model_dump_json()
    with db.transaction() as s:
        line = sessions.line(s, opened.session.id)
        assert line is not None
        rests = _rests_on(line, settings_text, units)
        result, first = opened.result, opened.result.checks[0]
        tightest = Tightest(
            id=first.id, label=first.label, status=first.status, used=first.used, sentence=first.sentence
        )  # fmt: skip
        found = next((c for c in result.checks if c.id == "weather.age"), None)
        age = None if found is None else _Age(found.status, found.value or 0.0, found.limit or 0.0)
        kept = _kept(result.verdict, tightest, age, rests, _moment(line, now))
        verdicts.put(s, line.id, kept)


def saved_verdict(db: Database, session_id: int, now: datetime) -> tuple[Verdict, str] | None:
    """The verdict on a session as it is saved, and what is tightest, without numbers; None where there is no such one.

    For what is shown before anybody can ask: the pilot's units are not known then.
    """
    with db.transaction() as s:
        line = sessions.line(s, session_id)
    if line is None:
        return None
    settings = minimums.current(db)
    found = _found(db, line, settings, now, METRIC, "")
    return Verdict(found.verdict), Tightest.model_validate_json(found.tightest).label


def list_sessions(db: Database, now: datetime, units: Units = METRIC, words: str = "", page: int = 1) -> Page:
    """A page of the sessions that have all the words: what is still to come first, then what is over.

    now: the time (aware), for the age of the weather. Each is judged as it stands.
    """
    with db.transaction() as s:
        total = sessions.count(s, words)
        lines = sessions.page(s, now, words, page, PAGE)
        numbers = [line.id for line in lines]
        said = decisions.latest_words(s, numbers)
        kept = verdicts.of_sessions(s, numbers)
        changes = watched.unseen(s, numbers)
    settings = minimums.current(db)
    settings_text = settings.model_dump_json()
    found, new = [], {}
    for line in lines:
        rests = _rests_on(line, settings_text, units)
        verdict = kept.get(line.id)
        if verdict is None or not _still_holds(verdict, rests, _moment(line, now)):
            verdict = new[line.id] = _found(db, line, settings, now, units, rests)
        head = line.headline
        head = replace(head, takeoff_at=local(head.takeoff_at, head.latitude, head.longitude))
        found.append(
            Listed(
                line.id, head, line.revision, line.changed_at, Verdict(verdict.verdict),
                Tightest.model_validate_json(verdict.tightest), said.get(line.id),
                changes.get(line.id, 0),
            )
        )  # fmt: skip
    if new:
        with db.transaction() as s:
            for number, verdict in new.items():
                verdicts.put(s, number, verdict)
    return Page(tuple(found), page, max(-(-total // PAGE), 1), total)

"""Loading the demo scenario."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import date, datetime, timedelta
from pathlib import Path

from zealous_lark.demo import kit, places, scenario
from zealous_lark.demo.load_flights import load_flights
from zealous_lark.services import kit as kit_service
from zealous_lark.services.decisions import OPEN, OpenWord, record_decision
from zealous_lark.services.places import add_place
from zealous_lark.services.sessions import add_session
from zealous_lark.services.weather import HOURS_AHEAD, keep
from zealous_lark.simulators.days import Day, made_forecast
from zealous_lark.store import Database, PilotsWord
from zealous_lark.store.database import FILE_NAME
from zealous_lark.store.models import FactRow

_FACT = "demo loaded"


def _load_kit(db: Database, today: date, now: datetime) -> None:
    numbers = {}
    for part, entries in kit.aircraft(today):
        kept = kit_service.add(db, kit.aircraft_item(part), now)
        numbers[part.name] = kept.id
        for entry in entries:
            kit_service.add_entry(db, kept.id, entry, now)
    for item in [*kit.packs(numbers, now), *kit.the_rest()]:
        kit_service.add(db, item, now)


def has_demo(folder: Path) -> bool:
    """Whether the demo's data are in a folder, whole; read only, so that nothing is made there."""
    file = folder / FILE_NAME
    if not file.is_file():
        return False
    try:
        with closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True)) as db:
            return db.execute("SELECT 1 FROM facts WHERE name = ?", (_FACT,)).fetchone() is not None
    except sqlite3.OperationalError:
        return False


def load_demo(db: Database, now: datetime) -> bool:
    """Put the demo sessions into a database that never had them; days are those of `now` (aware). False when it had."""
    now = now.astimezone(scenario.ZONE)
    today = now.date()
    if db.fact(_FACT) is not None:
        return False
    kept = {
        place.name: add_place(db, place, now).stored.id
        for place in (places.bog(today - timedelta(days=6)), places.jetty(today - timedelta(days=6)))
    }
    _load_kit(db, today, now)
    for demo in scenario.sessions(today, now - timedelta(hours=2)):
        site = demo.plan.site.model_copy(update={"place": kept.get(demo.plan.site.name or "")})
        opened = add_session(db, demo.plan.model_copy(update={"site": site}), now)
        if demo.word is not None:
            record_decision(
                db,
                opened.session.id,
                word=PilotsWord(demo.word),
                note=demo.note,
                revision=opened.session.revision,
                now=demo.plan.takeoff_at,
                said=dict.fromkeys([*(q.id for q in opened.result.questions), *OPEN], OpenWord.IN_ORDER),
            )
    load_flights(db, now - timedelta(days=1))
    # After what was forecast for those flights, since the last report to come is the latest.
    begin = now.replace(minute=0, second=0, microsecond=0)
    fair = made_forecast(Day.FAIR, begin, HOURS_AHEAD, places.BOG_AT[1], now - timedelta(hours=2))
    keep(db, "forecast", *places.BOG_AT, fair, "", now - timedelta(minutes=40))
    with db.transaction() as s:
        s.add(FactRow(name=_FACT, value=today.isoformat()))
    return True

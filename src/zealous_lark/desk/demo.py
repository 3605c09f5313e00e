"""Loading the demo scenario."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from zealous_lark.demo import places, scenario
from zealous_lark.desk.decisions import record_decision
from zealous_lark.desk.places import add_place
from zealous_lark.desk.sessions import add_session
from zealous_lark.store import Database, PilotsWord
from zealous_lark.store.models import FactRow

_FACT = "demo loaded"


def load_demo(db: Database, today: date, now: datetime) -> bool:
    """Put the demo sessions into a database that never had them. False when it had."""
    if db.fact(_FACT) is not None:
        return False
    kept = {
        place.name: add_place(db, place, now).stored.id
        for place in (places.bog(today - timedelta(days=6)), places.jetty(today - timedelta(days=6)))
    }
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
            )
    with db.transaction() as s:
        s.add(FactRow(name=_FACT, value=today.isoformat()))
    return True

"""Sessions: list, begin, open, save, duplicate, delete and bring back.

Whatever minimums a plan came with, it is judged under the pilot's own.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from zealous_lark.core.prepare.packs import PUT_ASIDE
from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import PlanDocument, ResultDocument
from zealous_lark.plan.document import PackPart
from zealous_lark.plan.kit import AircraftItem, PackItem, pack_of
from zealous_lark.services import kit, minimums, places, travelling, weather
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.judging import judged, planned
from zealous_lark.services.learned_values import up_to_date
from zealous_lark.services.local_time import local
from zealous_lark.services.starters import nobodys_weather
from zealous_lark.store import Database, Session, sessions
from zealous_lark.store.sessions import Headline


@dataclass(frozen=True, slots=True)
class Opened:
    """A session with its plan, judged."""

    session: Session
    plan: PlanDocument
    result: ResultDocument


def headline(plan: PlanDocument) -> Headline:
    """What lists show of a plan."""
    return Headline(
        title=plan.title,
        place=plan.site.name or "",
        aircraft=plan.aircraft.name,
        pack=plan.pack.label or "",
        takeoff_at=plan.takeoff_at,
        latitude=plan.site.latitude,
        longitude=plan.site.longitude,
        place_id=plan.site.place,
        aircraft_kit=plan.aircraft.kit,
        pack_kit=plan.pack.kit,
    )


def _text(plan: PlanDocument) -> str:
    return plan.model_dump_json()


def _opened(db: Database, session: Session, now: datetime, units: Units) -> Opened:
    plan, result = judged(db, session.plan, minimums.current(db), now, units)
    return Opened(session, plan, result)


def plans(db: Database) -> list[tuple[Session, PlanDocument]]:
    """All sessions by take-off time with their plans under the pilot's minimums; nothing is judged."""
    with db.transaction() as s:
        found = sessions.every(s)
    settings = minimums.current(db)
    return [(x, planned(x.plan, settings)) for x in found]


def plans_ahead(db: Database, now: datetime) -> list[tuple[Session, PlanDocument]]:
    """Sessions that are still to come with their plans under the pilot's minimums; nothing is judged."""
    with db.transaction() as s:
        found = sessions.ahead(s, now)
    settings = minimums.current(db)
    return [(x, planned(x.plan, settings)) for x in found]


def next_plan(db: Database, now: datetime) -> PlanDocument | None:
    """The plan of the session that is next, else of the last one, under the pilot's minimums; None without any."""
    with db.transaction() as s:
        lines = sessions.page(s, now, "", 1, 1)
    return plan_of(db, lines[0].id) if lines else None


def plan_of(db: Database, session_id: int) -> PlanDocument:
    """The plan of a session under the pilot's minimums; nothing is judged. Raises NotHereError."""
    return planned(_find(db, session_id).plan, minimums.current(db))


def open_session(db: Database, session_id: int, now: datetime, units: Units = METRIC) -> Opened:
    """One session; now (aware): for the age of the weather. Raises NotHereError."""
    return _opened(db, _find(db, session_id), now, units)


def _find(db: Database, session_id: int) -> Session:
    with db.transaction() as s:
        found = sessions.find(s, session_id)
    if found is None:
        raise NotHereError(f"session {session_id} doesn't exist; it may have been deleted")
    return found


def add_session(db: Database, plan: PlanDocument, now: datetime, units: Units = METRIC) -> Opened:
    """A new session from a plan, judged. Raises NotAllowedError."""
    return _opened(db, put_session(db, plan, now), now, units)


def put_session(db: Database, plan: PlanDocument, now: datetime) -> Session:
    """A new session without judging it. A place and a forecast that it carries are kept. Raises NotAllowedError."""
    plan = travelling.taken_in(db, plan, now)
    places.stored_place(db, plan)
    with db.transaction() as s:
        return sessions.add(s, headline(plan), _text(plan), now)


_AS_IT_COMES = {"packs": None, "flights": None, "charge_min": None}
"""Of an outing: what belongs to one day."""


@dataclass(frozen=True, slots=True)
class Flies:
    """Aircraft and pack of the kit by their numbers; None: as the plan has it, and not said."""

    aircraft: int | None = None
    pack: int | None = None


def begin_session(
    db: Database,
    title: str,
    takeoff_at: datetime,
    base: PlanDocument,
    now: datetime,
    flies: Flies = Flies(),
) -> Session:
    """A new session with the place, aircraft, subjects, flight and settings of a plan; the rest is asked again.

    Its lift-off is by the clock at the place. Raises NotAllowedError.
    """
    plan = _for_another_day(up_to_date(db, base))
    at = local(takeoff_at, plan.site.latitude, plan.site.longitude)
    # A fixed offset is what the document can say, and what it reads back.
    plan = plan.model_copy(update={"title": title, "takeoff_at": datetime.fromisoformat(at.isoformat())})
    plan = flown_with(db, plan, flies)
    return put_session(db, weather.in_kept_forecast(db, plan), now)


def flown_with(db: Database, plan: PlanDocument, flies: Flies) -> PlanDocument:
    """A plan with an aircraft and a pack of the kit. Its charge is not said by that. Raises NotAllowedError."""
    have = {k.id: k.item for k in kit.items(db)}
    if flies.aircraft is not None:
        item = have.get(flies.aircraft)
        if not isinstance(item, AircraftItem):
            raise NotAllowedError("aircraft", str(flies.aircraft), "the number of an aircraft of the kit, or null")
        plan = plan.model_copy(update={"aircraft": item.aircraft.model_copy(update={"kit": flies.aircraft})})
    if flies.pack is not None:
        item = have.get(flies.pack)
        if not isinstance(item, PackItem) or item.state in PUT_ASIDE:
            raise NotAllowedError("pack", str(flies.pack), "the number of a battery that may be flown, or null")
        health = min(max(round(pack_of(item).health_for(plan.aircraft.battery_wh)), 1), 110)
        pack = PackPart(label=item.label, kit=flies.pack, charge_pct=100, health_pct=health)
        plan = plan.model_copy(update={"pack": pack})
    return plan


def _for_another_day(plan: PlanDocument) -> PlanDocument:
    """A plan without what belongs to its day: the weather, the battery, and what was seen, set or looked for there."""
    site: dict[str, object] = {
        "zones_looked_at": None,
        "people_looked_at": None,
        "wave_height_m": None,
        "sheltered": False,
        "seen": [],
    }
    settings = {"satellites": None, "home_point_set": None, "compass_checked": None}
    return plan.model_copy(
        update={
            "weather": nobodys_weather(),
            "forecast": None,
            "pack": PackPart(charge_pct=100),
            "outing": None if plan.outing is None else plan.outing.model_copy(update=_AS_IT_COMES),
            "site": plan.site.model_copy(update=site),
            "settings": plan.settings.model_copy(update=settings),
            "flight": plan.flight.model_copy(update={"night_permitted": False}),
            "evidence": {},
        }
    )


def save_session(db: Database, session_id: int, plan: PlanDocument, revision: int, now: datetime) -> Session:
    """Save a changed plan, without judging it. Raises NotHereError, NotAllowedError, or RevisionConflictError."""
    places.stored_place(db, plan)
    weather.stored_report(db, plan)
    with db.transaction() as s:
        saved = sessions.save(s, session_id, headline(plan), _text(plan), revision, now)
    if saved is None:
        raise NotHereError(f"session {session_id} doesn't exist; it may have been deleted")
    return saved


def duplicate_session(db: Database, session_id: int, now: datetime) -> Session:
    """A copy of a session for another day under a title that says so; its decisions stay with the first."""
    plan = _for_another_day(up_to_date(db, plan_of(db, session_id)))
    ending = " (copy)"
    copy = plan.model_copy(update={"title": plan.title.removesuffix(ending)[: 120 - len(ending)] + ending})
    return put_session(db, copy, now)


def delete_session(db: Database, session_id: int, now: datetime) -> None:
    """Take a session off the list. It is kept, so that it can be brought back. Raises NotHereError."""
    with db.transaction() as s:
        if not sessions.set_deleted(s, session_id, now):
            raise NotHereError(f"session {session_id} doesn't exist; it may have been deleted already")


def restore_session(db: Database, session_id: int) -> None:
    """Bring a deleted session back. Raises NotHereError."""
    with db.transaction() as s:
        if not sessions.set_deleted(s, session_id, None):
            raise NotHereError(f"there is no deleted session {session_id}")

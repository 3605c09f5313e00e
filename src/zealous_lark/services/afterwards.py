"""After landing: what is left to do, the pack, the drying and warming of the gear."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from zealous_lark.core.postflight.afterwards import Aftercare, Chore, chores
from zealous_lark.core.postflight.indoors_again import DRYING
from zealous_lark.core.prepare.lists import COLD_C
from zealous_lark.core.readings import Precipitation
from zealous_lark.plan.kit import PackItem
from zealous_lark.services import answers, kit, sessions
from zealous_lark.services.flights import Flight, flight_of, landed_at
from zealous_lark.store import Database, flights
from zealous_lark.store.answers import Answer


@dataclass(frozen=True, slots=True)
class PackAfter:
    """A pack as it came down, and what to do with it."""

    label: str
    charge_pct: float
    state: str
    advice: str


@dataclass(frozen=True, slots=True)
class Afterwards:
    """What the After stage shows. dry_until: for gear that got wet; gear_c: how cold it comes in."""

    flights: tuple[Flight, ...]
    chores: tuple[Chore, ...]
    said: dict[str, Answer]
    pack: PackAfter | None
    dry_until: datetime | None
    gear_c: float


def afterwards(db: Database, session_id: int, now: datetime) -> Afterwards:
    """A session after its flights. Raises NotHereError."""
    plan = sessions.plan_of(db, session_id)
    with db.transaction() as s:
        flown = tuple(flight_of(f) for f in flights.of_session(s, session_id))
    wet = plan.weather.precipitation is not Precipitation.NONE or any(f.entry.wet for f in flown)
    care = Aftercare(
        cold=not plan.site.indoors and plan.weather.temperature_c < COLD_C,
        wet=wet,
        water=plan.site.over_water,
        risky=plan.outing is not None and plan.outing.risky,
        near_miss=any(m.kind == "near_miss" for f in flown for m in f.entry.marks),
    )
    last = flown[-1] if flown else None
    dry_until = None
    if last is not None and wet:
        dry_until = landed_at(last.entry) + DRYING
    return Afterwards(
        flights=flown,
        chores=chores(care),
        said=answers.said(db, session_id, answers.AFTER),
        pack=_pack(db, last, now, plan.minimums.min_takeoff_pct),
        dry_until=dry_until,
        gear_c=plan.weather.temperature_c,
    )


def _pack(db: Database, last: Flight | None, now: datetime, least_pct: float) -> PackAfter | None:
    number = None if last is None else last.entry.pack_kit
    item = next((k.item for k in kit.items(db) if k.id == number), None)
    if not isinstance(item, PackItem):
        return None
    told = kit.pack_now(item, now, least_pct)
    return PackAfter(item.label, told.charge_pct, item.state.value, told.advice.sentence)

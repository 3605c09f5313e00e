"""Learning from the logbook: offered with the evidence and what it would change, taken by the pilot, undone at will."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from zealous_lark.core.flown.learning import (
    BrokeUp,
    Factor,
    Spent,
    consumption,
    differs,
    health,
    radio_loss,
)
from zealous_lark.core.radio import signal
from zealous_lark.core.units import METRIC
from zealous_lark.desk import kit, places, sessions, weather
from zealous_lark.desk.errors import NotAllowedError, NotHereError
from zealous_lark.desk.flights import Flight, flight_of
from zealous_lark.desk.judging import judged
from zealous_lark.desk.learned_values import CONSUMPTION, HEALTH, RADIO
from zealous_lark.desk.minimums import current
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.flight import FlightEntry
from zealous_lark.plan.kit import AircraftItem, PackItem
from zealous_lark.store import Database, flights, learned
from zealous_lark.store.flights import Filter
from zealous_lark.store.learned import Learned

WORTH_DB = 2.0
_LIMITS = {CONSUMPTION: (0.5, 2.0), HEALTH: (1.0, 110.0), RADIO: (0.0, 60.0)}
_DIGITS = {CONSUMPTION: 3, HEALTH: 1, RADIO: 1}


@dataclass(frozen=True, slots=True)
class Effect:
    """What a change does to a session that is still to come: verdict and charge on landing [%], before and after."""

    session_id: int
    title: str
    verdict_before: str
    verdict_after: str
    landing_before_pct: float | None
    landing_after_pct: float | None


@dataclass(frozen=True, slots=True)
class Offer:
    """A value that flights teach: for what, the one in use and the learned one with its interval, the evidence.

    offered: whether it is surely another; else it is shown as agreeing with what is in use.
    set_aside: how many flights met another wind than they were planned with, and are left out.
    """

    kind: str
    target: int
    name: str
    now: float
    value: float
    pm: float
    flights: tuple[str, ...]
    set_aside: int
    offered: bool
    effects: tuple[Effect, ...]


def offers(db: Database, now: datetime) -> tuple[Offer, ...]:
    """All that the logbook teaches at this moment (aware)."""
    with db.transaction() as s:
        flown = [flight_of(f) for f in flights.search(s, Filter(), size=None)]
    told = [f for f in flown if f.plan is not None and f.landed]
    found = [*_of_aircraft(db, told, now), *_of_packs(db, told, now), *_of_places(db, told, now)]
    return tuple(replace(o, effects=_effects(db, o, now)) if o.offered else o for o in found)


def _offer(kind: str, target: int, name: str, now: float, factor: Factor, worth: float) -> Offer:
    least, most = _LIMITS[kind]
    value = round(min(max(factor.value, least), most), _DIGITS[kind])
    offered = differs(factor, now, worth)
    return Offer(kind, target, name, now, value, factor.pm, factor.flights, factor.set_aside, offered, ())


def _spent(told: Sequence[Flight], now: datetime, planned: Callable[[Flight, PlanDocument], float]) -> list[Spent]:
    found = []
    for f in told:
        e, plan = f.entry, f.plan
        if plan is None or f.planned_pct is None or e.charge_from_pct is None or e.charge_to_pct is None:
            continue
        actual = e.charge_from_pct - e.charge_to_pct
        known = e.wind_met_ms is not None and e.wind_predicted_ms is not None
        off = (e.wind_met_ms or 0.0) - (e.wind_predicted_ms or 0.0) if known else None
        found.append(Spent(f.uid, planned(f, plan), actual, now - e.started_at, _pack_key(e), off))
    return found


def _of_aircraft(db: Database, told: Sequence[Flight], now: datetime) -> list[Offer]:
    found = []
    for kept in kit.items(db):
        if not isinstance(kept.item, AircraftItem):
            continue
        own = [f for f in told if f.entry.aircraft_kit == kept.id]
        # As if the spec sheet's own consumption had been planned with, so that the ratio is the factor itself.
        spent = _spent(own, now, lambda f, plan: (f.planned_pct or 0.0) / plan.aircraft.consumption_factor)
        factor = consumption(spent)
        if factor is not None:
            found.append(
                _offer(CONSUMPTION, kept.id, kept.name, kept.item.aircraft.consumption_factor, factor, worth=0.03)
            )
    return found


def _of_packs(db: Database, told: Sequence[Flight], now: datetime) -> list[Offer]:
    packs = {k.id: (k.name, k.item.health_pct) for k in kit.items(db) if isinstance(k.item, PackItem)}

    def planned(f: Flight, plan: PlanDocument) -> float:
        _, health_now = packs.get(f.entry.pack_kit or 0, ("", plan.pack.health_pct))
        return (f.planned_pct or 0.0) * plan.pack.health_pct / health_now

    found = []
    for number, (label, health_now) in packs.items():
        aircraft = {_aircraft_key(f.entry) for f in told if f.entry.pack_kit == number}
        spent = _spent([f for f in told if _aircraft_key(f.entry) in aircraft], now, planned)
        factor = health(spent, str(number), health_now)
        if factor is not None:
            found.append(_offer(HEALTH, number, label, health_now, factor, worth=0.04))
    return found


def _pack_key(entry: FlightEntry) -> str:
    """What tells packs apart: the number, or the label of one that is not in the kit."""
    return str(entry.pack_kit) if entry.pack_kit is not None else f"label {entry.pack}"


def _aircraft_key(entry: FlightEntry) -> str:
    return str(entry.aircraft_kit) if entry.aircraft_kit is not None else f"name {entry.aircraft}"


def _of_places(db: Database, told: Sequence[Flight], now: datetime) -> list[Offer]:
    names = {p.stored.id: p.place.name for p in places.list_places(db)}
    marks: dict[int, list[BrokeUp]] = {}
    wanted: dict[int, float] = {}
    with db.transaction() as s:
        loss_now = {place: learned.in_force(s, RADIO, place) or 0.0 for place in names}
    for f in told:
        plan = f.plan
        if plan is None or plan.site.place not in names:
            continue
        for mark in f.entry.marks:
            if mark.kind != "signal" or not mark.distance_m:
                continue
            place = plan.site.place
            assert place is not None
            bearing = plan.flight.bearing_deg if mark.bearing_deg is None else mark.bearing_deg
            flight = plan.flight.model_copy(update={"distance_m": mark.distance_m, "bearing_deg": bearing})
            there = situation_of(plan.model_copy(update={"flight": flight}), weather.known(db, plan, now))
            margin = signal(there).margin_db + plan.site.radio_loss_db - loss_now[place]
            marks.setdefault(place, []).append(BrokeUp(f.uid, mark.distance_m, margin, now - f.entry.started_at))
            wanted[place] = plan.minimums.link_margin_db
    found = []
    for place, broke in marks.items():
        factor = radio_loss(broke, wanted[place], loss_now[place])
        if factor is not None:
            offer = _offer(RADIO, place, names[place], loss_now[place], factor, worth=0.0)
            found.append(replace(offer, offered=offer.value - offer.now >= WORTH_DB))
    return found


def _with(plan: PlanDocument, kind: str, target: int, value: float) -> PlanDocument | None:
    """A plan with a learned value in it; None where it is not about this plan."""
    if kind == CONSUMPTION and plan.aircraft.kit == target:
        return plan.model_copy(
            update={"aircraft": plan.aircraft.model_copy(update={"consumption_factor": value})}
        )  # fmt: skip
    if kind == HEALTH and plan.pack.kit == target:
        return plan.model_copy(update={"pack": plan.pack.model_copy(update={"health_pct": value})})
    if kind == RADIO and plan.site.place == target:
        return plan.model_copy(update={"site": plan.site.model_copy(update={"radio_loss_db": value})})
    return None


def _effects(db: Database, offer: Offer, now: datetime) -> tuple[Effect, ...]:
    settings, found = current(db), []
    for session, plan in sessions.plans_ahead(db, now):
        changed = _with(plan, offer.kind, offer.target, offer.value)
        if changed is None:
            continue
        _, before = judged(db, session.plan, settings, now, METRIC)
        _, after = judged(db, changed.model_dump_json(), settings, now, METRIC)
        found.append(
            Effect(
                session.id,
                plan.title,
                str(before.verdict),
                str(after.verdict),
                None if before.energy is None else before.energy.landing_pct,
                None if after.energy is None else after.energy.landing_pct,
            )
        )
    return tuple(found)


def _put(db: Database, kind: str, target: int, value: float, now: datetime) -> None:
    """Put a value into the kit and into the sessions that are still to come."""
    if kind != RADIO:
        kept = kit.open_item(db, target)
        if isinstance(kept.item, AircraftItem):
            part = kept.item.aircraft.model_copy(update={"consumption_factor": value})
            kit.save(db, target, kept.item.model_copy(update={"aircraft": part}), kept.revision, now)
        elif isinstance(kept.item, PackItem):
            kit.save(db, target, kept.item.model_copy(update={"health_pct": value}), kept.revision, now)
    for session, plan in sessions.plans_ahead(db, now):
        changed = _with(plan, kind, target, value)
        if changed is not None:
            sessions.save_session(db, session.id, changed, session.revision, now)


def take(db: Database, kind: str, target: int, now: datetime) -> Learned:
    """Take an offer as it stands now. Raises NotAllowedError when there is none."""
    offer = next((o for o in offers(db, now) if (o.kind, o.target) == (kind, target) and o.offered), None)
    if offer is None:
        raise NotAllowedError("kind", f"{kind} of {target}", "an offer that stands; the logbook may have changed")
    _put(db, kind, target, offer.value, now)
    with db.transaction() as s:
        return learned.add(
            s,
            Learned(
                0, kind, target, offer.name, offer.now, offer.value, offer.pm, len(offer.flights), now, None
            ),
        )  # fmt: skip


def undo(db: Database, learned_id: int, now: datetime) -> None:
    """Put back what was before. Raises NotHereError, NotAllowedError where something newer stands on it."""
    with db.transaction() as s:
        found = learned.find(s, learned_id)
        newer = [
            x for x in learned.every(s) if found is not None and x.id > found.id and x.undone_at is None
            and (x.kind, x.target) == (found.kind, found.target)
        ]  # fmt: skip
    if found is None or found.undone_at is not None:
        raise NotHereError(f"there is nothing taken under {learned_id} that could be undone")
    if newer:
        raise NotAllowedError("id", str(learned_id), f"the newest of its kind, {newer[0].id}, first")
    _put(db, found.kind, found.target, found.before, now)
    with db.transaction() as s:
        learned.undo(s, learned_id, now)


def taken(db: Database) -> list[Learned]:
    """All that was taken, the latest first."""
    with db.transaction() as s:
        return learned.every(s)

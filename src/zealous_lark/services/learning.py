"""Learning from the logbook: offered with the evidence and what it would change, taken by the pilot, undone at will."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from zealous_lark.core.postflight.drain import BatteryKnown, Cost, Drain, differs, drain_of, hanging_together
from zealous_lark.core.postflight.held_forecasts import WORTH_MS, more_wind
from zealous_lark.core.postflight.radio_loss import BrokeUp, radio_loss
from zealous_lark.core.radio import signal
from zealous_lark.core.units import METRIC
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.kit import AircraftItem, PackItem, pack_of
from zealous_lark.services import held, kit, places, sessions, weather
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.flights import Flight, flight_of
from zealous_lark.services.judging import judged
from zealous_lark.services.learned_values import CONSUMPTION, FORECAST, HEALTH, RADIO, health_in_plan, more_wind_of
from zealous_lark.services.minimums import current
from zealous_lark.store import Database, flights, learned
from zealous_lark.store.flights import Filter
from zealous_lark.store.learned import Learned

DRAIN = "drain"
WORTH_DB = 2.0
_LIMITS = {CONSUMPTION: (0.5, 2.0), HEALTH: (1.0, 100.0), RADIO: (0.0, 60.0), FORECAST: (0.0, 15.0)}
_DIGITS = {CONSUMPTION: 3, HEALTH: 1, RADIO: 1, FORECAST: 1}


@dataclass(frozen=True, slots=True)
class LearnedEffect:
    """What a change does to a session that is still to come: verdict and charge on landing [%], before and after."""

    session_id: int
    title: str
    verdict_before: str
    verdict_after: str
    landing_before_pct: float | None
    landing_after_pct: float | None


@dataclass(frozen=True, slots=True)
class Change:
    """One value that flights teach: whose, the one in use and the learned one with its interval, its own flights.

    source: of a forecast, the key of whose it is.
    """

    kind: str
    target: int
    name: str
    now: float
    value: float
    pm: float
    flights: tuple[str, ...]
    source: str = ""


@dataclass(frozen=True, slots=True)
class Offer:
    """What flights teach of things that hang together, taken or left as one.

    kind: drain (aircraft and batteries that flew together), radio (a place) or forecast (a source at a place);
    target: number of the first of them; source: the source's key.
    offered: whether it is surely another than what is in use; else it is shown as agreeing with it.
    set_aside: how many flights met another wind than they were planned with, and are left out.
    level_known: whether the aircraft's share is told from the batteries'. drifts: whether fresh flights say another
    thing than old ones, and weigh more.
    """

    kind: str
    target: int
    name: str
    changes: tuple[Change, ...]
    flights: tuple[str, ...]
    set_aside: int
    offered: bool
    level_known: bool
    drifts: bool
    effects: tuple[LearnedEffect, ...]
    source: str = ""


def offers(db: Database, now: datetime) -> tuple[Offer, ...]:
    """All that the logbook teaches at this moment (aware)."""
    with db.transaction() as s:
        flown = [flight_of(f) for f in flights.search(s, Filter(), size=None)]
    told = [f for f in flown if f.plan is not None and f.landed]
    found = [*_of_drain(db, told, now), *_of_places(db, told, now), *_of_forecasts(db, told, now)]
    return tuple(replace(o, effects=_effects(db, o, now)) if o.offered else o for o in found)


def _change(kind: str, target: int, name: str, now: float, value: float, pm: float, of: tuple[str, ...]) -> Change:
    least, most = _LIMITS[kind]
    return Change(kind, target, name, now, round(min(max(value, least), most), _DIGITS[kind]), pm, of)


@dataclass(frozen=True, slots=True)
class _Gear:
    """Aircraft and batteries of the kit, by their numbers."""

    aircraft: dict[int, AircraftItem]
    batteries: dict[int, PackItem]


def _gear(db: Database) -> _Gear:
    kept = kit.items(db)
    return _Gear(
        {k.id: k.item for k in kept if isinstance(k.item, AircraftItem)},
        {k.id: k.item for k in kept if isinstance(k.item, PackItem)},
    )


def _costs(told: Sequence[Flight], gear: _Gear, now: datetime) -> list[Cost]:
    """Flights of aircraft that are in the kit, against what the spec sheet and a battery of full health would cost.

    A battery that is not in the kit has a negative number, by its label.
    """
    found, others = [], dict[str, int]()
    for f in told:
        e, plan = f.entry, f.plan
        aircraft, battery = e.aircraft_kit, gear.batteries.get(e.pack_kit or 0)
        if plan is None or aircraft not in gear.aircraft:
            continue
        number = e.pack_kit if battery and e.pack_kit else -others.setdefault(e.pack, len(others) + 1)
        if not f.planned_pct or e.charge_from_pct is None or e.charge_to_pct is None:
            continue
        spent = e.charge_from_pct - e.charge_to_pct
        # A plan has the health against the aircraft's own battery: another size is more or less of it.
        planned_with = plan.aircraft.consumption_factor / (plan.pack.health_pct / 100)
        size = 1.0 if battery is None else pack_of(battery).energy_wh / plan.aircraft.battery_wh
        known = e.wind_met_ms is not None and e.wind_predicted_ms is not None
        off = (e.wind_met_ms or 0.0) - (e.wind_predicted_ms or 0.0) if known else None
        quotient = spent / f.planned_pct * planned_with * size
        found.append(Cost(f.uid, aircraft, number, quotient, spent, now - e.started_at, off))
    return found


def _known(gear: _Gear, every: Sequence[Learned]) -> dict[int, BatteryKnown]:
    """What the kit says of batteries; of their health what the pilot said, not what was learned of it."""
    found = {}
    for number, battery in gear.batteries.items():
        of_it = [x.before for x in every if (x.kind, x.target) == (HEALTH, number) and x.undone_at is None]
        said = of_it[-1] if of_it else battery.health_pct
        counted = battery.cycles > 0 or battery.bought is not None
        # A hundred is what a battery has when nobody has said anything.
        found[number] = BatteryKnown(
            battery.cycles if counted else None, battery.tested_pct, said if said < 100 else None
        )
    return found


def _of_drain(db: Database, told: Sequence[Flight], now: datetime) -> list[Offer]:
    gear = _gear(db)
    known = _known(gear, taken(db))
    found = []
    for group in hanging_together(_costs(told, gear, now)):
        drain = drain_of(group, known)
        if drain is not None:
            found.append(_drain_offer(drain, gear))
    return sorted(found, key=lambda o: o.target)


def _drain_offer(drain: Drain, gear: _Gear) -> Offer:
    """Everything of a group at once: a factor without the healths that it was found with would count twice."""
    factors = [
        _change(CONSUMPTION, a, gear.aircraft[a].aircraft.name, gear.aircraft[a].aircraft.consumption_factor,
                drain.cautious_factor(a), e.pm, e.flights)
        for a, e in drain.factor.items()
    ]  # fmt: skip
    healths = [
        _change(HEALTH, b, gear.batteries[b].label, gear.batteries[b].health_pct, e.value, e.pm, e.flights)
        for b, e in drain.health.items()
        if b in gear.batteries
    ]
    in_use = {
        (a, b): gear.aircraft[a].aircraft.consumption_factor / (gear.batteries[b].health_pct / 100)
        for a, b in drain.quotient
        if b in gear.batteries
    }
    offered = any(differs(e.value, e.pm, in_use[pair]) for pair, e in drain.quotient.items() if pair in in_use) or (
        not in_use and any(differs(c.value, c.pm, c.now) for c in factors)
    )
    names = " and ".join(c.name for c in factors)
    return Offer(
        DRAIN, factors[0].target, names, (*factors, *healths), drain.flights, drain.set_aside, offered,
        drain.level_known, drain.drifts, (),
    )  # fmt: skip


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
            change = _change(RADIO, place, names[place], loss_now[place], factor.value, factor.pm, factor.flights)
            found.append(
                Offer(
                    RADIO, place, names[place], (change,), factor.flights, 0, change.value - change.now >= WORTH_DB,
                    True, False, (),
                )
            )  # fmt: skip
    return found


def _of_forecasts(db: Database, told: Sequence[Flight], now: datetime) -> list[Offer]:
    names = {p.stored.id: p.place.name for p in places.list_places(db)}
    found = []
    for (place, source), off in held.off_at_places(db, told, now).items():
        more = more_wind(off.offs)
        if more is None or place not in names:
            continue
        in_use = more_wind_of(db, place).get(source, 0.0)
        name = f"{off.name}, {names[place]}"
        change = replace(_change(FORECAST, place, name, in_use, more.value, more.pm, more.flights), source=source)
        offered = abs(change.value - in_use) >= WORTH_MS and abs(change.value - in_use) > more.pm
        found.append(Offer(FORECAST, place, name, (change,), more.flights, 0, offered, True, False, (), source))
    return sorted(found, key=lambda o: o.name)


def _in_raised_wind(db: Database, plan: PlanDocument, source: str, more_ms: float) -> PlanDocument:
    """A plan in its forecast's wind with so much more of it; as it is where it flies by something else by now."""
    report = weather.stored_report(db, plan)
    if report is None or report.source != source:
        return plan
    try:
        if weather.filled(db, plan, report.id, plan.takeoff_at) != plan.weather:
            return plan
        raised = weather.raised(report.document, more_ms)
        part = weather.filled_from(raised, plan, report.id, plan.takeoff_at)
    except NotAllowedError:  # It says nothing of that time any more.
        return plan
    return plan.model_copy(update={"weather": part})


Value = tuple[str, int, float, str]
"""Kind, target, value, and of a forecast its source."""


def _with(db: Database, plan: PlanDocument, values: Sequence[Value]) -> PlanDocument | None:
    """A plan with learned values in it; None where none of them is about this plan."""
    changed = plan
    for kind, target, value, source in values:
        if kind == CONSUMPTION and plan.aircraft.kit == target:
            part = changed.aircraft.model_copy(update={"consumption_factor": value})
            changed = changed.model_copy(update={"aircraft": part})
        if kind == HEALTH and plan.pack.kit == target:
            item = kit.open_item(db, target).item
            assert isinstance(item, PackItem)
            health = health_in_plan(item.model_copy(update={"health_pct": value}), plan.aircraft.battery_wh)
            changed = changed.model_copy(update={"pack": changed.pack.model_copy(update={"health_pct": health})})
        if kind == RADIO and plan.site.place == target:
            changed = changed.model_copy(update={"site": plan.site.model_copy(update={"radio_loss_db": value})})
        if kind == FORECAST and plan.site.place == target:
            changed = _in_raised_wind(db, changed, source, value)
    return None if changed == plan else changed


def _effects(db: Database, offer: Offer, now: datetime) -> tuple[LearnedEffect, ...]:
    settings, found = current(db), []
    values = [(c.kind, c.target, c.value, c.source) for c in offer.changes]
    for session, plan in sessions.plans_ahead(db, now):
        changed = _with(db, plan, values)
        if changed is None:
            continue
        _, before = judged(db, session.plan, settings, now, METRIC)
        _, after = judged(db, changed.model_dump_json(), settings, now, METRIC)
        found.append(
            LearnedEffect(
                session.id,
                plan.title,
                str(before.verdict),
                str(after.verdict),
                None if before.energy is None else before.energy.landing_pct,
                None if after.energy is None else after.energy.landing_pct,
            )
        )
    return tuple(found)


def _put(db: Database, values: Sequence[Value], now: datetime) -> None:
    """Put values into the kit and into the sessions that are still to come."""
    for kind, target, value, _ in values:
        if kind in (RADIO, FORECAST):
            continue
        kept = kit.open_item(db, target)
        if isinstance(kept.item, AircraftItem):
            part = kept.item.aircraft.model_copy(update={"consumption_factor": value})
            kit.save(db, target, kept.item.model_copy(update={"aircraft": part}), kept.revision, now)
        elif isinstance(kept.item, PackItem):
            kit.save(db, target, kept.item.model_copy(update={"health_pct": value}), kept.revision, now)
    for session, plan in sessions.plans_ahead(db, now):
        changed = _with(db, plan, values)
        if changed is not None:
            sessions.save_session(db, session.id, changed, session.revision, now)


def take(db: Database, kind: str, target: int, source: str, now: datetime) -> list[Learned]:
    """Take an offer as it stands now, all of it; of a forecast by its source's key. Raises NotAllowedError for none."""
    wanted = (kind, target, source)
    offer = next((o for o in offers(db, now) if (o.kind, o.target, o.source) == wanted and o.offered), None)
    if offer is None:
        raise NotAllowedError("kind", f"{kind} of {target}", "an offer that stands; the logbook may have changed")
    _put(db, [(c.kind, c.target, c.value, c.source) for c in offer.changes], now)
    with db.transaction() as s:
        return [
            learned.add(
                s, Learned(0, c.kind, c.target, c.name, c.now, c.value, c.pm, len(c.flights), now, None, c.source)
            )
            for c in offer.changes
        ]


def undo(db: Database, learned_id: int, now: datetime) -> None:
    """Put back what was before, with all that was taken with it.

    Raises NotHereError, NotAllowedError where something newer stands on it.
    """
    with db.transaction() as s:
        every = [x for x in learned.every(s) if x.undone_at is None]
    found = next((x for x in every if x.id == learned_id), None)
    if found is None:
        raise NotHereError(f"there is nothing taken under {learned_id} that could be undone")
    # What was taken as one has one time.
    together = [x for x in every if x.taken_at == found.taken_at]
    of = {(x.kind, x.target, x.source) for x in together}
    newer = [x for x in every if x.taken_at > found.taken_at and (x.kind, x.target, x.source) in of]
    if newer:
        raise NotAllowedError("id", str(learned_id), f"the newest of its kind, {newer[0].id}, first")
    _put(db, [(x.kind, x.target, x.before, x.source) for x in together], now)
    with db.transaction() as s:
        for x in together:
            learned.undo(s, x.id, now)


def taken(db: Database) -> list[Learned]:
    """All that was taken, the latest first."""
    with db.transaction() as s:
        return learned.every(s)

"""What happens before leaving: charging, the countdown, flights per pack, the kit list, the calendar."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import usable_wh
from zealous_lark.core.light import Glow, glow
from zealous_lark.core.prepare.banks import Recharges, recharges
from zealous_lark.core.prepare.charging import (
    Charger,
    ChargingPlan,
    Job,
    JobKind,
    plan_charging,
)
from zealous_lark.core.prepare.countdown import Moment, Step, countdown
from zealous_lark.core.prepare.filming import FilmingPlan, judge_filming, plan_filming
from zealous_lark.core.prepare.flight_verdicts import FlightVerdict, judge_flight
from zealous_lark.core.prepare.lists import COLD_C, Context, Item, kit_list, warm_gain_min
from zealous_lark.core.prepare.packs import PUT_ASIDE, charge_left_pct
from zealous_lark.core.prepare.subjects import Outing, ShotPack
from zealous_lark.core.prepare.upkeep import Due
from zealous_lark.core.situation import Pack, Situation
from zealous_lark.core.units import METRIC, Units, day_of
from zealous_lark.core.verdict import VERDICT_WORDS
from zealous_lark.formats.calendar import Entry, write_calendar
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.kit import (
    AircraftItem,
    BankItem,
    ChargerItem,
    DeviceItem,
    OwnItem,
    PackItem,
    bank_of,
    charger_of,
    pack_of,
)
from zealous_lark.plan.outing import OutingPart, outline_of, shots_of
from zealous_lark.services import kit, sessions, watch, weather
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.kit import Kept, PackNow
from zealous_lark.services.local_time import local
from zealous_lark.store import Database

POCKET_C = 20.0
"""A pack that is kept in an inside pocket [°C]; common practice."""
FAR_MIN = 60.0
BRIGHT_DEG = 10.0


@dataclass(frozen=True, slots=True)
class PackChoice:
    """A pack of the kit for a session: whether it can be chosen and is, why not, charge [%] at take-off as it is."""

    kept: Kept
    now: PackNow
    fits: bool
    choosable: bool
    chosen: bool
    why_not: str | None
    charge_then_pct: float
    charged_pct: float


@dataclass(frozen=True, slots=True)
class Schedule:
    """The charging plan with its jobs and chargers; available_s: when there is less time than it takes [s].

    begins_at: when it is best begun, ends_at: when it must be done (aware).
    """

    jobs: tuple[Job, ...]
    chargers: tuple[Charger, ...]
    full: ChargingPlan
    plan: ChargingPlan
    available_s: float | None
    begins_at: datetime
    ends_at: datetime
    banks: tuple[Recharges, ...]


@dataclass(frozen=True, slots=True)
class Warm:
    """What keeping packs warm gives in a cold session: minutes in the air with a pack as cold as the air, and warm."""

    air_c: float
    pack_c: float
    cold_min: float
    warm_min: float
    gain_min: float


@dataclass(frozen=True, slots=True)
class Ready:
    """Everything that the Pack stage shows. best: the best way, where flights are set by hand.

    verdicts: of the flights of `filming`, each judged whole.
    """

    outing: OutingPart
    aircraft: Kept | None
    due: tuple[Due, ...]
    packs: tuple[PackChoice, ...]
    steps: tuple[Step, ...]
    schedule: Schedule
    warm: Warm | None
    taken: tuple[PackChoice, ...]
    filming: FilmingPlan | None
    verdicts: tuple[FlightVerdict, ...]
    best: FilmingPlan | None
    wind_known: bool
    items: tuple[Item, ...]


def prepare(db: Database, plan: PlanDocument, now: datetime, units: Units = METRIC) -> Ready:
    """The whole preparation of a plan's session. now: aware. Raises NotAllowedError."""
    part = plan.outing or OutingPart()
    every = kit.items(db)
    situation = situation_of(plan, weather.known(db, plan, now))
    aircraft = next((k for k in every if isinstance(k.item, AircraftItem) and k.id == plan.aircraft.kit), None)
    choices = _choices(every, aircraft, part, plan, now)
    schedule, steps = _schedule(every, choices, part, plan, now)
    packs = _charged(choices, schedule)
    taken = tuple(p for p in packs if p.chosen)
    filmed = _outing(situation, part, taken)
    filming, best = _filming(filmed, part, taken, units)
    verdicts = () if filming is None else tuple(judge_flight(filmed, f, units) for f in filming.flights)
    context = _context(situation, part, len(taken))
    return Ready(
        outing=part,
        aircraft=aircraft,
        due=() if aircraft is None else kit.record(db, aircraft.id, now, _position(plan)).due,
        packs=packs,
        steps=steps,
        schedule=schedule,
        warm=_warm(situation),
        taken=taken,
        filming=filming,
        verdicts=verdicts,
        best=best,
        wind_known=Assessment(situation).flyer is not None,
        items=(*kit_list(context), *_own(every, context)),
    )


def _position(plan: PlanDocument) -> tuple[float, float]:
    return plan.site.latitude, plan.site.longitude


def _choices(
    every: Sequence[Kept], aircraft: Kept | None, part: OutingPart, plan: PlanDocument, now: datetime
) -> tuple[PackChoice, ...]:
    found = []
    least = plan.minimums.min_takeoff_pct
    for kept in every:
        item = kept.item
        if not isinstance(item, PackItem):
            continue
        fits = aircraft is not None and item.aircraft in (None, aircraft.id)
        why = PUT_ASIDE.get(item.state)
        if not fits:
            why = f"It is not for {plan.aircraft.name}."
        chosen = why is None and (part.packs is None or kept.id in part.packs)
        then = charge_left_pct(pack_of(item), max(plan.takeoff_at, now))
        told = kit.pack_now(item, now, least, plan.takeoff_at if chosen else None)
        found.append(PackChoice(kept, told, fits, why is None, chosen, why, then, then))
    known = {c.kept.id for c in found}
    for number in [*(part.packs or []), *(f.pack for f in part.flights or [])]:
        if number not in known:
            allowed = ", ".join(f"{c.kept.id} ({c.kept.name})" for c in found) or "none is in the kit"
            raise NotAllowedError("outing.packs", str(number), f"batteries of the kit: {allowed}")
    return tuple(found)


def _schedule(
    every: Sequence[Kept], choices: Sequence[PackChoice], part: OutingPart, plan: PlanDocument, now: datetime
) -> tuple[Schedule, tuple[Step, ...]]:
    devices = [k.item for k in every if isinstance(k.item, DeviceItem)]
    jobs = [Job(d.name, JobKind.DEVICE, d.battery_wh, d.charge_pct) for d in devices]
    # A worn pack holds less: what is missing is missing from what it can still hold.
    chosen = [(c, c.kept.item) for c in choices if c.chosen and isinstance(c.kept.item, PackItem)]
    packs = [
        Job(
            c.kept.name, JobKind.PACK, c.now.energy_wh * item.health_pct / 100, c.charge_then_pct,
            plan.aircraft.charge_power_w,
        )
        for c, item in chosen
    ]  # fmt: skip
    jobs += packs
    chargers = [charger_of(k.item) for k in every if isinstance(k.item, ChargerItem)]
    try:
        full = plan_charging(jobs, chargers)
    except ValueError as error:
        raise NotAllowedError("outing.packs", f"{len(jobs)} things to charge", str(error)) from None
    takeoff_at = local(plan.takeoff_at, *_position(plan))
    steps = countdown(takeoff_at, outline_of(part), full.seconds)
    ends = next(s.at for s in steps if s.what is Moment.BAG)
    available = None if part.charge_min is None else part.charge_min * 60
    # Once the session is near, there is no more time than is left.
    if now < plan.takeoff_at:
        left = max((ends - now).total_seconds(), 0.0)
        if left < full.seconds and (available is None or left < available):
            available = left
    if available is not None and available >= full.seconds:
        available = None
    planned = full if available is None else plan_charging(jobs, chargers, available)
    empty = [(replace(j, charge_pct=0.0), pack_of(i).full_v) for j, (_, i) in zip(packs, chosen, strict=True)]
    banks = tuple(recharges(bank_of(k.item), empty) for k in every if isinstance(k.item, BankItem))
    begins = next((s.at for s in steps if s.what is Moment.CHARGE), ends)
    if available is not None:
        begins = ends - timedelta(seconds=available)
    return Schedule(tuple(jobs), tuple(chargers), full, planned, available, begins, ends, banks), steps


def _charged(choices: Sequence[PackChoice], schedule: Schedule) -> tuple[PackChoice, ...]:
    """The packs with the charge that they come with."""
    after = schedule.plan.charge_pct(schedule.jobs)
    by_name = {j.name: pct for j, pct in zip(schedule.jobs, after, strict=True) if j.kind is JobKind.PACK}
    return tuple(replace(c, charged_pct=by_name.get(c.kept.name, c.charge_then_pct)) for c in choices)


def _outing(situation: Situation, part: OutingPart, taken: Sequence[PackChoice]) -> Outing:
    packs = []
    for choice in taken:
        assert isinstance(choice.kept.item, PackItem)
        health = pack_of(choice.kept.item).health_for(situation.aircraft.battery_wh)
        packs.append(ShotPack(choice.kept.name, Pack(choice.charged_pct, health, situation.pack.temperature_c)))
    return Outing(
        assessment=Assessment(situation),
        shots=shots_of(part, situation.site.latitude, situation.site.longitude),
        packs=tuple(packs),
        session_s=part.on_site_min * 60,
        changeover_s=part.changeover_min * 60,
    )


def _filming(
    outing: Outing, part: OutingPart, taken: Sequence[PackChoice], units: Units
) -> tuple[FilmingPlan | None, FilmingPlan | None]:
    if not part.shots:
        return None, None
    best = plan_filming(outing, units)
    if part.flights is None:
        return best, None
    places = {c.kept.id: n for n, c in enumerate(taken)}
    gone = [f.pack for f in part.flights if f.pack not in places]
    if gone:
        names = ", ".join(f"{c.kept.id} ({c.kept.name})" for c in taken)
        raise NotAllowedError("outing.flights", f"battery {gone[0]}", f"batteries that are taken: {names or 'none'}")
    return judge_filming(outing, [(places[f.pack], f.shots) for f in part.flights]), best


def _warm(situation: Situation) -> Warm | None:
    flyer = Assessment(situation).flyer
    air = situation.weather.temperature_c
    if flyer is None or situation.site.indoors or air >= COLD_C:
        return None
    second_wh = flyer.costs.station(1.0).wh
    spend = (situation.pack.charge_pct - situation.reserve_pct) / 100

    def seconds(pack_c: float) -> float:
        pack = replace(situation.pack, temperature_c=pack_c)
        return usable_wh(situation.aircraft, pack, air) * spend / second_wh

    cold, warm = seconds(air), seconds(POCKET_C)
    return Warm(air, POCKET_C, cold / 60, warm / 60, warm_gain_min(cold, warm))


def _context(situation: Situation, part: OutingPart, packs: int) -> Context:
    begin = situation.takeoff_at - timedelta(minutes=part.setup_min)
    end = situation.takeoff_at + timedelta(minutes=part.on_site_min)
    assessed = Assessment(situation)
    heights = [assessed.sun_at(begin + (end - begin) * n / 8).elevation_deg for n in range(9)]
    site = situation.site
    return Context(
        packs=packs,
        rotor_count=situation.aircraft.rotor_count,
        cold=not site.indoors and situation.weather.temperature_c < COLD_C,
        water=situation.over_water,
        boat=site.from_boat,
        indoors=site.indoors,
        first_flights=part.first_flights,
        far=part.travel_min > FAR_MIN,
        risky=part.risky,
        dark=not site.indoors and any(glow(h) in (Glow.NIGHT, Glow.TWILIGHT) for h in heights),
        bright=not site.indoors and max(heights) > BRIGHT_DEG,
        feels_c=assessed.feels_c,
    )


def _own(every: Sequence[Kept], context: Context) -> list[Item]:
    found = []
    for kept in every:
        item = kept.item
        if isinstance(item, OwnItem) and context.has(item.when):
            found.append(Item(f"own-{kept.id}", item.name, item.count, "Your own.", item.group, item.days_before))
    return found


_TITLES = {
    Moment.CHARGE: "Batteries on charge", Moment.BAG: "Pack the bag", Moment.LEAVE: "Leave", Moment.ARRIVE: "On site",
}  # fmt: skip


def calendar(db: Database, session_id: int, now: datetime) -> tuple[str, bytes]:
    """A session's countdown as a calendar file, under the session's title. Raises NotHereError, NotAllowedError."""
    plan = sessions.plan_of(db, session_id)
    ready = prepare(db, plan, now)
    place = plan.site.name or ""
    by_moment = {step.what: step for step in ready.steps}
    entries = []
    for what, title in _TITLES.items():
        step = by_moment.get(what)
        if step is None or what is Moment.ARRIVE:
            continue
        length = timedelta(seconds=ready.schedule.full.seconds) if what is Moment.CHARGE else timedelta(minutes=10)
        entries.append(
            Entry(f"session-{session_id}-{what.value}@zealous-lark", step.at, step.at + length,
                  f"{title}: {plan.title}", _about(ready, step), place if what is not Moment.CHARGE else "",
                  (timedelta(),) if what is not Moment.LEAVE else (timedelta(minutes=10), timedelta()))
        )  # fmt: skip
    begin = by_moment[Moment.ARRIVE].at
    end = by_moment[Moment.TAKE_OFF].at + timedelta(minutes=ready.outing.on_site_min)
    about = f"First take-off {plan.takeoff_at:%H:%M}. Check it again on site with what you measure there."
    found = watch.history(db, session_id)
    if found:
        about += f" {_found_last(watch.Found.model_validate_json(found[0].document), plan.takeoff_at)}"
    entries.append(
        Entry(f"session-{session_id}@zealous-lark", begin, end, plan.title, about, place, sequence=len(found))
    )
    return plan.title, write_calendar(entries, now)


def _found_last(found: watch.Found, takeoff_at: datetime) -> str:
    """What the forecasts said last, by the clock at the place."""
    zone = takeoff_at.tzinfo
    spans = [f"{w.begin.astimezone(zone):%H:%M} to {w.end.astimezone(zone):%H:%M}" for w in found.windows]
    open_at = f"open {', '.join(spans)}" if spans else "no launch window that day"
    word = VERDICT_WORDS[found.verdict]
    issued = found.issued_at.astimezone(zone)
    return f"By {found.source} of {day_of(issued)} {issued:%H:%M}: {word}, {found.label}; {open_at}."


def _about(ready: Ready, step: Step) -> str:
    if step.what is not Moment.CHARGE:
        return step.why
    lines = [step.why]
    for row in ready.schedule.full.chargers:
        names = ", ".join(ready.schedule.jobs[j.job].name for j in row.jobs)
        lines.append(f"{ready.schedule.chargers[row.charger].name}: {names}")
    return "\n".join(lines)

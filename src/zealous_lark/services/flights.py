"""Flights: the card that goes into the air, what comes back of it, and what landing changes.

A flight is born on the device beside the controller and goes on without this server. What happened comes in as events
under numbers of their own, as often as the device likes: what is there already is left as it is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import FlightCard, flight_card
from zealous_lark.core.flight.clock import Moment, drained_pct
from zealous_lark.core.flight.emergency import EmergencyCard, emergency_cards
from zealous_lark.core.prepare.lists import COLD_C
from zealous_lark.core.prepare.packs import PUT_ASIDE, PackState
from zealous_lark.core.prepare.upkeep import Work
from zealous_lark.core.readings import Precipitation
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import PlanDocument, read_plan, situation_of
from zealous_lark.plan.document import EvidencePart, How
from zealous_lark.plan.flight import EventKind, EventPart, FlightEntry, MarkPart, card_text, read_card
from zealous_lark.plan.kit import AircraftItem, PackItem, UpkeepPart, read_item
from zealous_lark.services import decisions, sessions, weather
from zealous_lark.services.decisions import Recorded
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.local_time import local
from zealous_lark.store import Database, PilotsWord, flights
from zealous_lark.store import kit as stored_kit
from zealous_lark.store import sessions as stored_sessions
from zealous_lark.store.flights import Event, Filter, Listed, StoredFlight
from zealous_lark.store.kit import StoredItem

WINDY_SHARE = 0.5
"""From this share of the rated wind on, wind is a reason for a fast fall of the charge."""
PACK_HISTORY = 6
STORAGE_PCT = (35.0, 65.0)
_MARKS = (EventKind.SIGNAL, EventKind.NEAR_MISS, EventKind.NOTE)


@dataclass(frozen=True, slots=True)
class Flight:
    """A flight with its entry in the logbook. plan, card: as it was flown; None for one entered by hand."""

    uid: str
    session_id: int | None
    decision_id: int | None
    landed: bool
    planned_pct: float | None
    entry: FlightEntry
    plan: PlanDocument | None
    card: FlightCard | None
    revision: int


def flight_of(stored: StoredFlight) -> Flight:
    """A flight that was kept; its time by the clock where it was flown."""
    entry = FlightEntry.model_validate_json(stored.document)
    return Flight(
        stored.uid, stored.session_id, stored.decision_id, stored.landed, stored.planned_pct,
        entry.model_copy(update={"started_at": local(entry.started_at, entry.latitude, entry.longitude)}),
        None if stored.plan is None else read_plan(stored.plan),
        None if stored.card is None else read_card(stored.card),
        stored.revision,
    )  # fmt: skip


def stored_flight(flight: Flight) -> StoredFlight:
    """A flight to be kept; the inverse of `flight_of`."""
    return StoredFlight(
        flight.uid, flight.session_id, flight.decision_id, flight.landed, flight.planned_pct,
        flight.entry.model_dump_json(),
        None if flight.plan is None else flight.plan.model_dump_json(),
        None if flight.card is None else card_text(flight.card),
        flight.revision,
    )  # fmt: skip


def listed(entry: FlightEntry) -> Listed:
    """What of an entry is searched and summed."""
    return Listed(**{name: getattr(entry, name) for name in Listed.__slots__})


@dataclass(frozen=True, slots=True)
class Airborne:
    """What the Airborne stage needs, and keeps on the device. card: None while nothing can be predicted.

    decision: the launch that the next flight rests on; None when there is none that has not flown yet.
    look_at: what this flight has that makes the charge fall faster (cold, windy, fast mode).
    history: the latest flights of the same pack, as they fell.
    """

    plan: PlanDocument
    card: FlightCard | None
    emergencies: tuple[EmergencyCard, ...]
    decision: Recorded | None
    verdict: str
    cold: bool
    windy: bool
    fast_mode: bool
    flights: tuple[Flight, ...]
    history: tuple[Flight, ...]


def airborne(db: Database, session_id: int, now: datetime, units: Units = METRIC) -> Airborne:
    """A session in the air, by the plan that was decided on, or as it is saved. Raises NotHereError."""
    opened = sessions.open_session(db, session_id, now)
    with db.transaction() as s:
        flown = tuple(flight_of(f) for f in flights.of_session(s, session_id))
    decided = _next_decision(db, session_id, flown)
    plan = opened.plan if decided is None else decided.plan
    situation = situation_of(plan, weather.known(db, plan, now))
    a = Assessment(situation)
    wind = a.wind_return
    return Airborne(
        plan=plan,
        card=flight_card(a, with_winds=True),
        emergencies=emergency_cards(a, units),
        decision=decided,
        verdict=str(opened.result.verdict) if decided is None else decided.decision.verdict,
        cold=situation.weather.temperature_c < COLD_C,
        windy=wind is not None and wind.speed_ms > WINDY_SHARE * situation.aircraft.rated_wind_ms,
        fast_mode=SpeedMode.FAST in (situation.flight.outbound_mode, situation.flight.return_mode),
        flights=flown,
        history=_of_pack(db, plan.pack.kit),
    )


def _of_pack(db: Database, pack: int | None) -> tuple[Flight, ...]:
    """The latest whole flights of a pack of the kit."""
    if pack is None:
        return ()
    with db.transaction() as s:
        found = [flight_of(f) for f in flights.search(s, Filter(pack_kit=pack), size=2 * PACK_HISTORY)]
    whole = [f for f in found if f.entry.seconds and f.entry.charge_from_pct and f.entry.charge_to_pct is not None]
    return tuple(whole[:PACK_HISTORY])


def _next_decision(db: Database, session_id: int, flown: Sequence[Flight]) -> Recorded | None:
    """The latest decision, where it is a launch that no flight rests on yet."""
    found = decisions.list_decisions(db, session_id)
    if not found or found[0].decision.word is not PilotsWord.LAUNCH:
        return None
    used = {f.decision_id for f in flown}
    return None if found[0].decision.id in used else found[0]


@dataclass(frozen=True, slots=True)
class TakenIn:
    """A flight as it stands after events came in, and how many of them were new."""

    flight: Flight
    new: int


def take_in(
    db: Database,
    uid: str,
    session_id: int,
    decision_id: int | None,
    events: Sequence[EventPart],
    now: datetime,
    sent_at: datetime | None = None,
) -> TakenIn:
    """Keep what happened in a flight. Raises NotHereError, NotAllowedError.

    sent_at: when this was sent, by the clock of the device that sent it, which may be another than ours; None: ours.
    Whole or not at all: the flight, its events, and with the landing the pack and the aircraft's hours.
    """
    begun = None
    with db.transaction() as s:
        known = flights.exists(s, uid)
    if not known:
        begun = _begun(db, uid, session_id, decision_id, events, now)
    with db.transaction() as s:
        foreign = flights.foreign_events(s, uid, [e.uid for e in events])
        if foreign:
            raise NotAllowedError("events.uid", foreign[0], "a number that no other flight's event has")
        if begun is not None and not flights.exists(s, uid):
            flights.add(s, stored_flight(begun), listed(begun.entry), now)
        kept = flights.find(s, uid) or flights.find(s, uid, deleted=True)
        assert kept is not None
        found = flight_of(kept)
        if found.session_id != session_id:
            raise NotAllowedError("session", str(session_id), f"{found.session_id}, in which the flight began")
        before = [event_part(e) for e in flights.events(s, uid)]
        new = flights.add_events(s, uid, [_event(e, now - (sent_at or now)) for e in events])
        if not new:
            return TakenIn(found, 0)
        told = _told(found, [event_part(e) for e in flights.events(s, uid)])
        flight = replace(told, entry=_mended(found.entry, _told(found, before).entry, told.entry))
        if flight != found:
            flight = flight_of(flights.put(s, stored_flight(flight), listed(flight.entry), now))
        changes = []
        if told.landed and any(e.uid in new and e.kind is EventKind.LANDED for e in events):
            again = any(e.kind is EventKind.LANDED for e in before)
            changes = _landed(told, stored_kit.every(s), again=again)
        for change in changes:
            if isinstance(change.item, UpkeepPart):
                stored_kit.add_entry(s, change.id, change.item.model_dump_json(), now)
            else:
                stored_kit.save(s, change.id, change.item.kind, change.item.model_dump_json(), change.revision, now)
        if told.landed and any(e.uid in new and e.kind is EventKind.LANDED for e in events):
            # Also a battery that is not in the kit is no longer full.
            _set_down(db, session_id, told, now)
        return TakenIn(flight, len(new))


def _set_down(db: Database, session_id: int, flight: Flight, now: datetime) -> None:
    """Leave the session with its pack as the flight left it, so that the next flight is not planned with a full one."""
    with db.transaction() as s:
        session = stored_sessions.find(s, session_id)
    if session is None:
        return
    after = _plan_after(read_plan(session.plan), flight)
    if after is not None:
        sessions.save_session(db, session_id, after, session.revision, now)


def _mended(entry: FlightEntry, before: FlightEntry, after: FlightEntry) -> FlightEntry:
    """What the events say now, but what the pilot corrected: that differs from what they said before."""
    said = {
        name: getattr(after, name) for name in FlightEntry.model_fields if getattr(entry, name) == getattr(before, name)
    }
    return entry.model_copy(update=said)


def _event(e: EventPart, behind: timedelta) -> Event:
    """behind: by how much the device's clock is behind this computer's."""
    return Event(e.uid, e.kind.value, e.at_s, e.at, e.value, e.bearing_deg, e.text, e.at + behind)


def event_part(e: Event) -> EventPart:
    return EventPart(
        uid=e.uid, kind=EventKind(e.kind), at_s=e.at_s, at=e.at, value=e.value, bearing_deg=e.bearing_deg, text=e.text
    )


def _begun(
    db: Database, uid: str, session_id: int, decision_id: int | None, events: Sequence[EventPart], now: datetime
) -> Flight:
    """A flight that begins with the events: what it was planned with."""
    takeoff = next((e for e in events if e.kind is EventKind.TAKEOFF), None)
    if takeoff is None or takeoff.value is None:
        raise NotAllowedError("events", "no take-off", "a flight that begins with its take-off")
    opened = sessions.open_session(db, session_id, now)
    plan, verdict, word = opened.plan, str(opened.result.verdict), ""
    if decision_id is not None:
        recorded = decisions.open_decision(db, decision_id)
        if recorded.decision.session_id != session_id:
            raise NotAllowedError("decision", str(decision_id), "a decision of this session")
        plan, verdict, word = recorded.plan, recorded.decision.verdict, recorded.decision.word.value
    a = Assessment(situation_of(plan, weather.known(db, plan, now)))
    card, wind, trip = flight_card(a, with_winds=True), a.wind_planned, a.trip
    entry = FlightEntry(
        started_at=takeoff.at,
        place=plan.site.name or "",
        aircraft=plan.aircraft.name,
        pack=plan.pack.label or "",
        aircraft_kit=plan.aircraft.kit,
        pack_kit=plan.pack.kit,
        latitude=plan.site.latitude,
        longitude=plan.site.longitude,
        charge_from_pct=takeoff.value,
        predicted_to_pct=None if trip is None or trip.landing_pct is None else max(trip.landing_pct, 0.0),
        wind_predicted_ms=None if wind is None else round(wind.speed_ms, 2),
        distance_m=plan.flight.distance_m,
        height_m=plan.flight.height_m,
        verdict=verdict,
        word=word,
    )
    return Flight(uid, session_id, decision_id, False, None, entry, plan, card, 1)


def standing(events: Sequence[EventPart]) -> list[EventPart]:
    """Events without the slips that were taken back."""
    withdrawn = {e.text for e in events if e.kind is EventKind.WITHDRAWN}
    return [e for e in events if e.kind is not EventKind.WITHDRAWN and e.uid not in withdrawn]


def _told(flight: Flight, events: Sequence[EventPart]) -> Flight:
    """A flight with what its events say."""
    told = standing(events)
    landed = next((e for e in told if e.kind is EventKind.LANDED), None)
    turned = next((e for e in told if e.kind is EventKind.TURNED), None)
    distances = [e.value for e in told if e.kind is EventKind.DISTANCE and e.value is not None]
    marks = [
        MarkPart(kind=e.kind.value, at_s=e.at_s, distance_m=e.value, bearing_deg=e.bearing_deg, text=e.text)
        for e in told
        if e.kind in _MARKS
    ]
    planned_far = flight.entry.distance_m if flight.plan is None else flight.plan.flight.distance_m
    update: dict[str, object] = {"marks": marks, "distance_m": max(distances, default=planned_far)}
    planned_pct = None
    if landed is not None and landed.value is not None:
        start = flight.entry.charge_from_pct
        update |= {
            "seconds": landed.at_s,
            "charge_to_pct": landed.value if start is None else min(landed.value, start),
        }
        if flight.card is not None:
            where = distances[-1] if distances else planned_far or 0.0
            m = Moment(landed.at_s, where, turned_s=None if turned is None else turned.at_s)
            planned_pct = drained_pct(flight.card, m, landed.at_s)
            update["predicted_to_pct"] = max((start or 0.0) - planned_pct, 0.0)
    return replace(
        flight, landed=landed is not None, planned_pct=planned_pct, entry=flight.entry.model_copy(update=update)
    )


def landed_at(entry: FlightEntry) -> datetime:
    """When a flight ended (aware)."""
    return entry.started_at + timedelta(seconds=entry.seconds or 0.0)


def _plan_after(plan: PlanDocument, flight: Flight) -> PlanDocument | None:
    """A session's plan once a flight of it has landed: its pack is as it came down. None where it flew with another."""
    entry, pack = flight.entry, plan.pack
    if (pack.kit, pack.label or "") != (entry.pack_kit, entry.pack) or entry.charge_to_pct is None:
        return None
    known = plan.evidence.get("pack.charge_pct")
    if known is not None and known.at is not None and known.at > landed_at(entry):
        return None
    evidence = {key: of for key, of in plan.evidence.items() if key != "pack.temperature_c"}
    evidence["pack.charge_pct"] = EvidencePart(how=How.READ, source="as it landed", at=landed_at(entry))
    down = pack.model_copy(update={"charge_pct": entry.charge_to_pct, "temperature_c": None})
    return plan.model_copy(update={"pack": down, "evidence": evidence})


@dataclass(frozen=True, slots=True)
class _Change:
    """An item of the kit as it is now, or an upkeep entry about it."""

    id: int
    revision: int
    item: PackItem | UpkeepPart


def _landed(flight: Flight, every: Sequence[StoredItem], *, again: bool) -> list[_Change]:
    """What landing changes in the kit: the pack's charge, cycles and state; the aircraft's hours.

    again: a landing was entered before and taken back; cycle and hours were counted then.
    """
    entry = flight.entry
    if entry.charge_to_pct is None or entry.seconds is None:
        return []
    found = []
    for row in every:
        item = read_item(row.document)
        if isinstance(item, PackItem) and row.id == entry.pack_kit:
            left = entry.charge_to_pct
            state = PackState.STORAGE if STORAGE_PCT[0] <= left <= STORAGE_PCT[1] else PackState.PARTLY
            changed: dict[str, object] = {"cycles": item.cycles + (0 if again else 1)}
            # News of a flight of days ago says nothing of a pack that was charged since.
            if item.charged_at is None or item.charged_at <= landed_at(entry):
                changed |= {
                    "charge_pct": left,
                    "charged_at": landed_at(entry),
                    "state": item.state if item.state in PUT_ASIDE else state,
                }
            found.append(_Change(row.id, row.revision, item.model_copy(update=changed)))
        if isinstance(item, AircraftItem) and row.id == entry.aircraft_kit and not again:
            hours = round(entry.seconds / 3600, 4)
            day = entry.started_at.date()
            flown = UpkeepPart(day=day, work=Work.FLOWN, hours=hours, note="From the logbook")
            found.append(_Change(row.id, row.revision, flown))
    return found


def open_flight(db: Database, uid: str) -> Flight:
    """One flight. Raises NotHereError."""
    with db.transaction() as s:
        found = flights.find(s, uid)
    if found is None:
        raise NotHereError(f"there is no flight {uid}; it may have been deleted")
    return flight_of(found)


def events_of(db: Database, uid: str) -> list[EventPart]:
    """A flight's events in order. Raises NotHereError."""
    open_flight(db, uid)
    with db.transaction() as s:
        return [event_part(e) for e in flights.events(s, uid)]


def is_wet(plan: PlanDocument) -> bool:
    """Whether rain, snow or fog was in the plan's weather."""
    return plan.weather.precipitation is not Precipitation.NONE

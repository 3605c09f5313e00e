"""The demo's logbook: flights flown by the plans of its sessions, as if they had been."""

from __future__ import annotations

from datetime import datetime, timedelta

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import flight_card
from zealous_lark.core.flight.clock import Moment, drained_pct
from zealous_lark.core.verdict import judge
from zealous_lark.demo import flights as made
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.flight import FlightEntry, MarkPart
from zealous_lark.plan.forecast import ForecastPart, HourPart, LevelPart
from zealous_lark.services import kit, sessions, tracks, weather
from zealous_lark.services.flights import Flight, listed, open_flight, stored_flight
from zealous_lark.simulators.sources import NAMES
from zealous_lark.store import Database, flights

AIRCRAFT = "Dunlin"
_LONG_PAST = timedelta(days=5)
_FORECAST, _AHEAD_H = 8, 30


def load_flights(db: Database, now: datetime) -> None:
    """Put the demo's flights into the logbook; the kit is left as it is."""
    flown = [p for _, p in sessions.plans(db) if p.aircraft.name == AIRCRAFT and not p.site.indoors]
    usable = [plan for plan in flown if _home(db, plan, now)]
    numbers = []
    for n, flight in enumerate(made.flights(now)):
        plan = usable[n % len(usable)]
        uid = f"demo-flight-{n:03d}"
        if _keep(db, uid, flight, plan, now):
            numbers.append((uid, plan, flight))
    _forecasts_before(db, [uid for uid, _, flight in numbers if now - flight.started_at > _LONG_PAST], now)
    for uid, plan, flight in numbers[-1:]:
        entry = open_flight(db, uid).entry
        rows = made.track_rows(
            made.FlownSo(
                begun=flight.started_at,
                at=(plan.site.latitude, plan.site.longitude),
                bearing_deg=plan.flight.bearing_deg,
                distance_m=flight.distance_m,
                seconds=flight.seconds,
                spent_pct=100.0 - (entry.charge_to_pct or 0.0),
                wind_ms=entry.wind_met_ms or 0.0,
                wind_from_deg=plan.weather.winds[0].direction_deg,
            )
        )
        columns = {"time": "time", "latitude": "latitude", "longitude": "longitude", "height": "height_m"}
        for _ in tracks.attach(db, uid, rows.encode(), {**columns, "charge": "charge_pct"}, "evening.csv", now):
            pass


def _forecasts_before(db: Database, uids: list[str], now: datetime) -> None:
    """What two sources said before the latest of some flights: one a little much, one too little, the more the earlier.

    Of flights long past alone, so that none of it says anything about the sessions ahead.
    """
    for uid in uids[-_FORECAST:]:
        entry = open_flight(db, uid).entry
        if entry.wind_met_ms is None or entry.latitude is None or entry.longitude is None:
            continue
        for lead_h in (24, 12, 3):
            taken = entry.started_at - timedelta(hours=lead_h + 1)
            for key, share in zip(NAMES, (1 + lead_h / 200, 1 - lead_h / 80), strict=False):
                speed = round(entry.wind_met_ms * share, 1)
                hours = [
                    HourPart(
                        at=taken + timedelta(hours=n),
                        winds=[
                            LevelPart(height_m=60, speed_ms=speed, direction_deg=240, gust_ms=round(1.4 * speed, 1))
                        ],
                        temperature_c=9,
                    )
                    for n in range(_AHEAD_H)
                ]
                part = ForecastPart(
                    format="zealous-lark.forecast", version=1, source=NAMES[key][1], issued_at=taken, hours=hours
                )
                weather.keep(db, key, entry.latitude, entry.longitude, part, "", min(taken, now))


def _home(db: Database, plan: PlanDocument, now: datetime) -> bool:
    card = flight_card(Assessment(situation_of(plan, weather.known(db, plan, now))))
    return card is not None and card.home is not None


def _keep(db: Database, uid: str, flight: made.DemoFlight, plan: PlanDocument, now: datetime) -> bool:
    pack = plan.pack.model_copy(
        update={
            "label": flight.pack,
            "kit": kit.numbers_of(db, plan.aircraft.name, flight.pack)[1],
            "charge_pct": 100.0,
            "health_pct": made.HEALTH[flight.pack],
        }
    )
    leg = plan.flight.model_copy(update={"distance_m": flight.distance_m})
    plan = plan.model_copy(update={"takeoff_at": flight.started_at, "pack": pack, "flight": leg})
    a = Assessment(situation_of(plan, weather.known(db, plan, now)))
    card = flight_card(a)
    if card is None or card.home is None or a.wind_planned is None:
        return False
    turned = max(flight.seconds - card.home.seconds(flight.distance_m), 0.0)
    planned = drained_pct(card, Moment(flight.seconds, flight.distance_m, turned_s=turned), flight.seconds)
    entry = FlightEntry(
        started_at=flight.started_at,
        place=plan.site.name or "",
        aircraft=plan.aircraft.name,
        pack=flight.pack,
        aircraft_kit=plan.aircraft.kit,
        pack_kit=plan.pack.kit,
        latitude=plan.site.latitude,
        longitude=plan.site.longitude,
        seconds=flight.seconds,
        charge_from_pct=100.0,
        charge_to_pct=float(round(max(100 - planned * flight.drain, 8.0))),
        predicted_to_pct=round(max(100 - planned, 0.0), 1),
        wind_predicted_ms=round(a.wind_planned.speed_ms, 2),
        wind_met_ms=round(a.wind_planned.speed_ms * flight.wind, 1),
        distance_m=flight.distance_m,
        height_m=plan.flight.height_m,
        verdict=judge(a.situation).verdict,
        word="launch",
        marks=[]
        if flight.broke_up_m is None
        else [MarkPart(kind="signal", at_s=300.0, distance_m=round(flight.broke_up_m), text="Picture broke up")],
        manual_return=flight.manual_return,
        note=flight.note,
    )
    kept = Flight(uid, None, None, True, planned, entry, plan, card, 1)
    with db.transaction() as s:
        flights.add(s, stored_flight(kept), listed(entry), now)
    return True

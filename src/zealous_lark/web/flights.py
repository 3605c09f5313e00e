"""The API of the Airborne and After stages."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.postflight.indoors_again import warm_up
from zealous_lark.core.units import Units
from zealous_lark.services import afterwards, flights
from zealous_lark.services.devices import follow
from zealous_lark.services.observing import observed
from zealous_lark.web.context import database, devices, json_answer, now
from zealous_lark.web.http import body, query, units
from zealous_lark.web.schemas import flights as b

api = APIBlueprint("flights", __name__, url_prefix="/api", tag="Flights")


@api.get("/sessions/<int:session_id>/airborne")
@api.output(b.AirborneOut)
@api.doc(summary="What the flight clock and the emergency cards need", responses={404: "Not here"})
@units(api)
def airborne(session_id: int, units: Units) -> Response:
    """The flight card, the emergency cards, the flights so far."""
    found = flights.airborne(database(), session_id, now(), units)
    plan = found.plan
    look_at = [name for name in ("cold", "windy", "fast_mode") if getattr(found, name)]
    return json_answer(
        b.AirborneOut(
            session_id=session_id,
            title=plan.title,
            aircraft=plan.aircraft.name,
            pack=plan.pack.label or "",
            place=plan.site.name or "",
            verdict=found.verdict,
            decision_id=None if found.decision is None else found.decision.decision.id,
            charge_pct=plan.pack.charge_pct,
            bearing_deg=plan.flight.bearing_deg,
            card=found.card,
            emergencies=list(found.emergencies),
            look_at=look_at,
            flights=[b.flight_out(f) for f in found.flights],
            history=[
                b.PastDrain(
                    seconds=f.entry.seconds or 0,
                    from_pct=f.entry.charge_from_pct or 0,
                    to_pct=f.entry.charge_to_pct or 0,
                )
                for f in found.history
            ],
        )
    )


@api.get("/sessions/<int:session_id>/observed")
@api.output(b.ObservedOut)
@api.doc(summary="The flight in the air, for an observer on another device", responses={404: "Not here"})
def observe(session_id: int) -> Response:
    """Where to look, how long it has flown, what happened in it."""
    found = observed(database(), session_id, now())
    plan = found.plan
    return json_answer(
        b.ObservedOut(
            title=plan.title,
            place=plan.site.name or "",
            aircraft=plan.aircraft.name,
            flight=None if found.flight is None else b.flight_out(found.flight),
            events=list(found.events),
            at_s=found.at_s,
            distance_m=found.distance_m,
            lookout=found.lookout,
        )
    )


@api.put("/flights/<string:uid>/events")
@api.output(b.EventsOut)
@api.doc(
    summary="Keep what happened in a flight",
    description="A flight is made with its first events. Events that are there already are left as they are.",
    responses={404: "Not here", 422: "Refused"},
)
@body(api, b.EventsIn)
def put_events(document: b.EventsIn, uid: str) -> Response:
    """Events from the device."""
    done = flights.take_in(
        database(), uid, document.session, document.decision, document.events, now(), document.sent_at
    )
    if done.new:
        follow(devices(), done.flight, document.events)
    return json_answer(b.EventsOut(flight=b.flight_out(done.flight), new=done.new))


@api.get("/sessions/<int:session_id>/after")
@api.output(b.AfterOut)
@api.doc(summary="What is left to do after landing", responses={404: "Not here"})
def after(session_id: int) -> Response:
    """The After stage."""
    found = afterwards.afterwards(database(), session_id, now())
    pack = found.pack
    return json_answer(
        b.AfterOut(
            flights=[b.flight_out(f) for f in found.flights],
            chores=[b.ChoreOut(key=c.key, text=c.text, why=c.why) for c in found.chores],
            said={key: answer.said_at for key, answer in found.said.items()},
            pack=None
            if pack is None
            else b.PackLeft(label=pack.label, charge_pct=pack.charge_pct, state=pack.state, advice=pack.advice),
            dry_until=found.dry_until,
            gear_c=found.gear_c,
        )
    )


@api.get("/warm-up")
@api.output(b.WarmUpOut)
@api.doc(summary="How long cold gear stays in its closed bag", responses={422: "Refused"})
@query(api, b.WarmUpQuery)
def warming(asked: b.WarmUpQuery) -> Response:
    """Until the gear is at the room's dew point."""
    found = warm_up(asked.room_c, asked.humidity_pct, asked.gear_c)
    return json_answer(b.WarmUpOut(dew_point_c=found.dew_point_c, wait_s=found.wait.total_seconds()))

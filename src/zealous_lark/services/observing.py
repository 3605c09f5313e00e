"""What an observer beside the pilot sees on a device of his own: the flight in the air, by what has come in of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.flight.clock import Moment
from zealous_lark.core.flight.lookout import Lookout, far_point, where_to_look
from zealous_lark.plan import PlanDocument, read_plan
from zealous_lark.plan.flight import EventKind, EventPart
from zealous_lark.services.errors import NotHereError
from zealous_lark.services.flights import Flight, event_part, flight_of, standing
from zealous_lark.store import Database, flights
from zealous_lark.store import sessions as stored_sessions
from zealous_lark.store.flights import Event


@dataclass(frozen=True, slots=True)
class Observed:
    """A session as its observer sees it. plan: as it is flown, or as it is saved while nothing is in the air.

    flight: the latest; None before the first. at_s: since its take-off; None unless it is in the air.
    distance_m: as far out as the pilot said last. lookout: where it should be, on the ground where it will be; None in
    the air while nothing can be predicted.
    """

    plan: PlanDocument
    flight: Flight | None
    events: tuple[EventPart, ...]
    at_s: float | None
    distance_m: float
    lookout: Lookout | None


def observed(db: Database, session_id: int, now: datetime) -> Observed:
    """The flight of a session that is in the air now. Raises NotHereError."""
    with db.transaction() as s:
        session = stored_sessions.find(s, session_id)
        if session is None:
            raise NotHereError(f"there is no session {session_id}; it may have been deleted")
        flown = [flight_of(f) for f in flights.of_session(s, session_id)]
        # One that never landed, as its device was lost, is not in the air for ever: the next one takes its place.
        flight = flown[-1] if flown else None
        came = flights.events(s, flight.uid) if flight is not None else []
    plan = read_plan(session.plan) if flight is None or flight.plan is None or flight.landed else flight.plan
    there = plan.flight
    if flight is None or flight.landed:
        ahead = far_point(there.bearing_deg, there.distance_m, there.height_m)
        return Observed(plan, flight, (), None, there.distance_m, ahead)
    told = standing([event_part(e) for e in came])
    distance = next((e.value for e in reversed(told) if e.kind is EventKind.DISTANCE and e.value is not None), None)
    distance = there.distance_m if distance is None else distance
    at_s = max((now - _began(came, flight.entry.started_at)).total_seconds(), 0.0)
    turned = next((e.at_s for e in told if e.kind is EventKind.TURNED), None)
    lookout = None
    if flight.card is not None:
        m = Moment(at_s, distance, turned_s=turned)
        lookout = where_to_look(flight.card, m, there.bearing_deg, there.height_m, plan.settings.rth_altitude_m)
    return Observed(plan, flight, tuple(told), at_s, distance, lookout)


def _began(came: Sequence[Event], said: datetime) -> datetime:
    """When a flight began, by this computer's clock.

    The pilot's device may set its clock in the air, which the flight's own does not follow: the earliest counts, as it
    makes the time in the air longest.
    """
    return min((e.happened_at - timedelta(seconds=e.at_s) for e in came if e.happened_at is not None), default=said)

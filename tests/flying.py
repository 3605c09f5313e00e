"""Flights for tests: what a device sends, and whole flights flown with a known drain."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from flask.testing import FlaskClient

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import flight_card
from zealous_lark.core.flight.clock import Moment, drained_pct
from zealous_lark.plan import situation_of
from zealous_lark.plan.flight import EventKind, EventPart
from zealous_lark.services import sessions, weather
from zealous_lark.services.flights import take_in
from zealous_lark.store import Database


def number() -> str:
    return str(uuid.uuid4())


def event(kind: str, at_s: float, begun: datetime, value: float | None = None, **more: Any) -> dict[str, Any]:
    """An event as the device sends it."""
    return {
        "uid": number(), "kind": kind, "at_s": at_s, "at": (begun + timedelta(seconds=at_s)).isoformat(),
        "value": value, **more,
    }  # fmt: skip


def send(client: FlaskClient, uid: str, session: int, events: list[dict[str, Any]], **more: Any) -> Any:
    return client.put(f"/api/flights/{uid}/events", json={"session": session, "events": events, **more})


def fly(
    db: Database,
    session: int,
    begun: datetime,
    factor: float = 1.0,
    seconds: float = 900.0,
    rng: np.random.Generator | None = None,
) -> str:
    """A whole flight of a session that drains `factor` times as fast as planned; its number."""
    plan = sessions.plan_of(db, session)
    card = flight_card(Assessment(situation_of(plan, weather.known(db, plan, begun))))
    assert card is not None
    turned = seconds - 120
    planned = drained_pct(card, Moment(seconds, card.distances_m[2], turned_s=turned), seconds)
    noise = 1.0 if rng is None else rng.normal(1, 0.04)
    left = round(max(card.charge_pct - planned * factor * noise, 0))
    rows = [("takeoff", 0.0, card.charge_pct), ("turned", turned, None), ("landed", seconds, float(left))]
    events = [
        EventPart(uid=number(), kind=EventKind(k), at_s=t, at=begun + timedelta(seconds=t), value=v) for k, t, v in rows
    ]
    uid = number()
    take_in(db, uid, session, None, events, begun + timedelta(seconds=seconds))
    # The battery came down with the flight; the next one begins as planned again.
    opened = sessions.open_session(db, session, begun)
    sessions.save_session(db, session, plan, opened.session.revision, begun)
    return uid

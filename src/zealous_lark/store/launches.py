"""Decisions to launch, as later sessions ask about them: on that day, near there, with that aircraft."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import LaunchRow, SessionRow


@dataclass(frozen=True, slots=True)
class Launch:
    """day: of take-off, by the clock where it was. The numbers of the kit are None where the plan named none."""

    decision_id: int
    session_id: int
    day: str
    latitude: float
    longitude: float
    aircraft: str
    aircraft_kit: int | None
    pack: str
    pack_kit: int | None


def add(s: OrmSession, launch: Launch) -> None:
    """Keep what will be asked of a decision to launch."""
    s.add(LaunchRow(**{f.name: getattr(launch, f.name) for f in fields(launch)}))
    s.flush()


def _found(s: OrmSession, but: int, *where: ColumnElement[bool]) -> list[Launch]:
    """Launches of other sessions that are not deleted, the latest first."""
    asked = (
        select(LaunchRow)
        .join(SessionRow, SessionRow.id == LaunchRow.session_id)
        .where(SessionRow.deleted_at.is_(None), LaunchRow.session_id != but, *where)
        .order_by(LaunchRow.decision_id.desc())
    )
    return [Launch(**{f.name: getattr(r, f.name) for f in fields(Launch)}) for r in s.scalars(asked)]


def on_day(s: OrmSession, day: str, but: int) -> Sequence[Launch]:
    """Launches of a day (2026-09-26), of other sessions than one."""
    return _found(s, but, LaunchRow.day == day)


def around(s: OrmSession, south: float, north: float, but: int) -> Sequence[Launch]:
    """Launches between two latitudes [°], of other sessions than one."""
    return _found(s, but, LaunchRow.latitude.between(south, north))


def with_aircraft(s: OrmSession, kit: int | None, name: str, but: int) -> Sequence[Launch]:
    """Launches with an aircraft: by its number, or by its name where it has none; of other sessions than one."""
    same = LaunchRow.aircraft_kit == kit if kit is not None else LaunchRow.aircraft == name
    return _found(s, but, same)

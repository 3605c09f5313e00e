"""One flight as it was flown: where it was, second by second, and how it ended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from zealous_lark.core.homeward.acts import Doing
from zealous_lark.core.homeward.flying import CONTROL_DB, STEP_S, Acts, Flights, Normals
from zealous_lark.core.homeward.mishap import Mishap
from zealous_lark.core.homeward.sheet import Sheet
from zealous_lark.core.homeward.state import Ended

EVERY_S = 1.0


@dataclass(frozen=True, slots=True)
class Moment:
    """x, y: east and north of the home point, z: above it [m]."""

    at_s: float
    x: float
    y: float
    z: float
    charge_pct: float
    ground_ms: float
    doing: Doing
    picture: bool
    control: bool
    forced: bool


@dataclass(frozen=True, slots=True)
class Flown:
    """Its moments, one each second, and its end."""

    moments: tuple[Moment, ...]
    ended: Ended


def flown(sheet: Sheet, mishap: Mishap, normals: Sequence[Normals], acts: Acts) -> Flown:
    """Fly one flight to its end."""
    flights = Flights(sheet, mishap, normals, [list(acts)])
    every = int(EVERY_S / STEP_S)
    moments = []
    while not flights.over:
        for _ in range(every):
            flights.step()
        moments.append(_moment(flights))
    return Flown(tuple(moments), flights.ended()[0])


def _moment(flights: Flights) -> Moment:
    s = flights.state
    return Moment(
        flights.at_s, float(s.x[0]), float(s.y[0]), float(s.z[0]), float(flights.charge_pct[0]),
        float(s.ground_ms[0]), Doing(int(s.doing[0])), bool(flights.picture[0]), bool(s.margin_db[0] >= CONTROL_DB),
        bool(s.forced[0]),
    )  # fmt: skip

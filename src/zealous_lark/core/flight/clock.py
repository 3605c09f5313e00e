"""The flight clock: charge now, when to turn back, when to be down, and what to call.

The screens run the same rules where no server is in reach; both are held against one set of cases.

What is read goes before what was predicted, and the worse of the two counts, unless the pilot asks for the
hopeful one: a pack that seems better than planned does not make the turn-back later by itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from zealous_lark.core.flight.card import FlightCard

SOON_S = 60.0
BAND = 1.645
"""Standard deviations on each side of the prediction: nine flights in ten lie in the band."""
MOST_DOUBT = 0.25
"""How much the first readings may add to the drain by being coarse: more would call everybody back at once; assumed."""
JUMP_POINTS = 8.0
"""More of a fall than expected since the last reading is a jump, whatever the band says; common practice."""


class Call(StrEnum):
    """What the clock calls, the most urgent last."""

    HALF = "half"
    MISSED = "missed"
    SOON = "soon"
    FAST = "fast"
    TURN_BACK = "turn_back"
    LAND = "land"


@dataclass(frozen=True, slots=True)
class Reading:
    """A charge [%] read after take-off [s]."""

    at_s: float
    charge_pct: float


@dataclass(frozen=True, slots=True)
class Moment:
    """Where a flight is: seconds since take-off, distance [m], readings in order of time, when it turned back [s]."""

    at_s: float
    distance_m: float
    readings: tuple[Reading, ...] = ()
    turned_s: float | None = None
    hopeful: bool = False


@dataclass(frozen=True, slots=True)
class ClockState:
    """What the clock shows.

    predicted_pct: as planned; low_pct, high_pct: its band. charge_pct: what counts now.
    factor: measured drain over the planned one; 1 without readings.
    turn_back_pct: charge to turn back at from here; turn_back_s: seconds until then; land_by_s: seconds since
    take-off at which to be down. None without a way home, and turn_back_s once it has turned.
    landing_pct: charge on landing when it turns back now.
    calls: what holds now, the most urgent last.
    """

    predicted_pct: float
    low_pct: float
    high_pct: float
    charge_pct: float
    factor: float
    turn_back_pct: float | None
    turn_back_s: float | None
    land_by_s: float | None
    landing_pct: float | None
    calls: tuple[Call, ...]


def drained_pct(card: FlightCard, m: Moment, at_s: float) -> float:
    """Points that the plan has spent by a time since take-off [s]; after turning back, those of the way home."""
    upto = at_s if m.turned_s is None else min(at_s, m.turned_s)
    spent, left = 0.0, max(upto, 0.0)
    for n, step in enumerate(card.out):
        last = n == len(card.out) - 1
        here = left if last else min(left, step.seconds)
        spent += here * step.pct_per_s
        left -= here
    if m.turned_s is not None and at_s > m.turned_s:
        spent += (at_s - m.turned_s) * _home_rate(card, m.distance_m)
    return spent


def _home_rate(card: FlightCard, distance_m: float) -> float:
    """Points a second on the way home; while none is known, as on station."""
    if card.home is None:
        return card.out[-1].pct_per_s
    return card.home.pct(distance_m) / card.home.seconds(distance_m)


def falling(readings: Sequence[Reading]) -> tuple[Reading, ...]:
    """Readings without the slips: no battery gains charge in the air, so a higher one than before is none.

    >>> [r.charge_pct for r in falling([Reading(60, 90), Reading(120, 70), Reading(180, 95)])]
    [90, 70]
    """
    kept: list[Reading] = []
    for r in readings:
        if not kept or r.charge_pct <= kept[-1].charge_pct:
            kept.append(r)
    return tuple(kept)


def greatest_factor(card: FlightCard, m: Moment) -> float:
    """The most drain over the planned one that the readings allow, nine times in ten; 1 at least, and without any.

    Least squares through the take-off, without a prior: a drain that is really fast is not averaged away.
    """
    rows = [(drained_pct(card, m, r.at_s), card.charge_pct - r.charge_pct) for r in m.readings]
    square = sum(planned**2 for planned, _ in rows)
    if square <= 0:
        return 1.0
    off = BAND * max(card.reading_points, 0.5) / math.sqrt(square)
    return max(sum(planned * spent for planned, spent in rows) / square + min(off, MOST_DOUBT), 1.0)


def measured_factor(card: FlightCard, m: Moment) -> float:
    """Measured drain over the planned one.

    Least squares through the take-off, with the planned drain as a prior of the card's own spread, so that one
    reading in whole fives does not throw it about.
    """
    top = bottom = 1 / card.spread**2 if card.spread > 0 else 1e6
    for r in m.readings:
        planned = drained_pct(card, m, r.at_s)
        weight = 1 / max(card.reading_points, 0.5) ** 2
        top += planned * (card.charge_pct - r.charge_pct) * weight
        bottom += planned**2 * weight
    return top / bottom


def falls_fast(card: FlightCard, m: Moment) -> bool:
    """Whether the last reading is under the band, or jumped down from the one before."""
    if not m.readings:
        return False
    last = m.readings[-1]
    planned = drained_pct(card, m, last.at_s)
    low = card.charge_pct - band_of(planned, card.spread, card.reading_points)[1]
    before = m.readings[-2] if len(m.readings) > 1 else Reading(0.0, card.charge_pct)
    expected = planned - drained_pct(card, m, before.at_s)
    jump = before.charge_pct - last.charge_pct - expected * (1 + BAND * card.spread)
    return last.charge_pct < low or jump > JUMP_POINTS


def band_of(planned_pct: float, spread: float, reading_points: float) -> tuple[float, float]:
    """Least and most charge [points] that nine flights in ten spend where so many points were planned.

    spread: one standard deviation of the drain, as a share; reading_points: of a reading.
    """
    off = BAND * math.hypot(spread * planned_pct, reading_points)
    return max(planned_pct - off, 0.0), planned_pct + off


def clock_state(card: FlightCard, m: Moment) -> ClockState:
    """What the clock shows at a moment. The turn-back counts the most drain that the readings allow."""
    m = replace(m, readings=falling(m.readings))
    planned = drained_pct(card, m, m.at_s)
    predicted = card.charge_pct - planned
    least, most = band_of(planned, card.spread, card.reading_points)
    factor = measured_factor(card, m)
    fast = falls_fast(card, m)
    counted = factor if m.hopeful else greatest_factor(card, m)
    if m.readings:
        last = m.readings[-1]
        since = planned - drained_pct(card, m, last.at_s)
        read = last.charge_pct - counted * since
        charge = read if m.hopeful else min(read, predicted)
    else:
        charge = predicted
    charge = max(charge, 0.0)

    turn_back = turn_back_in = land_by = landing = None
    if card.home is not None:
        cost = counted * card.home.pct(m.distance_m)
        turn_back = card.reserve_pct + cost
        home_s = card.home.seconds(m.distance_m)
        if m.turned_s is None:
            turn_back_in = _until(card, m, (charge - turn_back) / counted)
            landing = charge - cost
            land_by = m.at_s + turn_back_in + home_s
        else:
            left_s = max(m.turned_s + home_s - m.at_s, 0.0)
            landing = charge - counted * left_s * _home_rate(card, m.distance_m)
            land_by = m.turned_s + home_s
    return ClockState(
        predicted_pct=max(predicted, 0.0),
        low_pct=max(card.charge_pct - most, 0.0),
        high_pct=max(card.charge_pct - least, 0.0),
        charge_pct=charge,
        factor=factor,
        turn_back_pct=turn_back,
        turn_back_s=turn_back_in,
        land_by_s=land_by,
        landing_pct=None if landing is None else max(landing, 0.0),
        calls=_calls(card, m, charge, turn_back, turn_back_in, fast),
    )


def _until(card: FlightCard, m: Moment, points: float) -> float:
    """Seconds until the plan has spent so many more points; 0 when there are none left."""
    at, left = m.at_s, points
    if left <= 0:
        return 0.0
    begun = 0.0
    for step in card.out[:-1]:
        ends = begun + step.seconds
        if at < ends:
            here = (ends - at) * step.pct_per_s
            if here >= left:
                return at + left / step.pct_per_s - m.at_s
            left -= here
            at = ends
        begun = ends
    return at + left / card.out[-1].pct_per_s - m.at_s


def _calls(
    card: FlightCard,
    m: Moment,
    charge: float,
    turn_back: float | None,
    turn_back_in: float | None,
    fast: bool,
) -> tuple[Call, ...]:
    last_read = m.readings[-1].at_s if m.readings else 0.0
    holds: list[Call] = []
    if turn_back is not None and turn_back_in is not None:
        if charge <= card.charge_pct - (card.charge_pct - turn_back) / 2:
            holds.append(Call.HALF)
        if m.at_s - last_read > card.read_every_s:
            holds.append(Call.MISSED)
        if 0 < turn_back_in <= SOON_S:
            holds.append(Call.SOON)
        if fast:
            holds.append(Call.FAST)
        if turn_back_in <= 0:
            holds.append(Call.TURN_BACK)
    else:
        holds += [Call.MISSED] if m.at_s - last_read > card.read_every_s else []
        holds += [Call.FAST] if fast else []
    if charge <= card.reserve_pct:
        holds.append(Call.LAND)
    return tuple(holds)


def reasons(readings: Sequence[Reading], *, cold: bool, windy: bool, fast_mode: bool) -> tuple[str, ...]:
    """What to look at when the charge falls faster than it should, the likeliest first; common practice."""
    found = []
    if len(readings) > 1 and readings[-2].charge_pct - readings[-1].charge_pct > 2 * JUMP_POINTS:
        found.append("A sudden drop: a cell may be failing. Come down now, gently.")
    if cold:
        found.append("Cold: the voltage sags. Fly gently, no fast mode.")
    if windy:
        found.append("Wind: is it leaning more than in the hover check? Come lower.")
    if fast_mode:
        found.append("Fast mode: slow down.")
    found.append("Something dragging or bent: listen, then land and check.")
    return tuple(found)

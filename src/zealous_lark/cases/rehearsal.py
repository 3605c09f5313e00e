"""A flight to rehearse the clock's alerts with: a card of the pilot's own aircraft, and what the battery really does.

The clock knows the card alone, as in the air. What the battery does more than that, or at once, it only hears of when
the pilot reads the charge.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.cases.dice import Dice
from zealous_lark.cases.drawing import NoCaseError, draw
from zealous_lark.cases.families import BY_KEY
from zealous_lark.cases.scenes import Own
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import FlightCard, flight_card
from zealous_lark.plan import situation_of

SPEED = 10.0
"""So much faster than in the air the rehearsal goes: a flight takes about a minute."""
FROM = "cold"
"""The family whose flights are flown, without its cause: within limits."""
SEEDS_TRIED = 20


class Trouble(StrEnum):
    """What the battery does that the card does not say."""

    NONE = "none"
    DRAINS = "drains"
    DROPS = "drops"


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """A flight to rehearse.

    factor: what it drains over what the card says. drop_at_s, drop_points: when a cell gives way, in flight time [s],
    and by how much the charge falls then [points]; None and 0 where none does. distance_m: how far out it is.
    """

    seed: int
    aircraft: str
    card: FlightCard
    trouble: Trouble
    factor: float
    drop_at_s: float | None
    drop_points: float
    distance_m: float


def rehearse(seed: int, own: Own) -> Rehearsal:
    """The flight of a seed, the same on every machine. Raises NoCaseError where no flight is within limits."""
    dice = Dice("rehearsal", seed)
    # Half have nothing: who turns back at the first sound learns nothing.
    trouble = dice.one((Trouble.NONE, Trouble.NONE, Trouble.DRAINS, Trouble.DROPS))
    for n in range(SEEDS_TRIED):
        try:
            case = draw(BY_KEY[FROM], 1 + (seed * SEEDS_TRIED + n) % 100_000, own)
        except NoCaseError:
            continue
        card = flight_card(Assessment(situation_of(case.without)))
        if card is None or card.home is None:
            continue
        factor = dice.between(1.25, 1.5) if trouble is Trouble.DRAINS else dice.between(0.95, 1.08)
        drops = trouble is Trouble.DROPS
        return Rehearsal(
            seed, own.aircraft.name, card, trouble, factor,
            drop_at_s=dice.between(120.0, 300.0) if drops else None,
            drop_points=dice.between(14.0, 22.0) if drops else 0.0,
            distance_m=case.without.flight.distance_m,
        )  # fmt: skip
    raise NoCaseError("rehearsal")

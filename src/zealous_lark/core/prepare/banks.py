"""Charging in the field from a power bank: whether it can, how many packs it fills, and how long each takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .charging import Job, charge_seconds

BANK_EFFICIENCY = 0.85
"""Share of a power bank's energy that reaches a pack; common practice."""


@dataclass(frozen=True, slots=True)
class Bank:
    """A power bank: energy [Wh]; the most that it gives: volts [V] and amps [A], None: not known."""

    name: str
    energy_wh: float
    volts: float | None = None
    amps: float | None = None

    @property
    def power_w(self) -> float | None:
        return None if self.volts is None or self.amps is None else self.volts * self.amps


@dataclass(frozen=True, slots=True)
class Recharges:
    """What a bank does for the packs: how many it fills, in order; the longest that one of those takes [s].

    seconds: None where its volts or amps are not known. needs_volts: what the first pack asks for that it does not
    give [V], else None.
    """

    bank: Bank
    fills: int
    seconds: float | None
    needs_volts: float | None


def recharges(bank: Bank, packs: Sequence[tuple[Job, float]]) -> Recharges:
    """What a bank does for packs, taken in order, each with the voltage that it is charged with [V].

    It must hold their energy over its own efficiency and give their voltage.

    >>> from zealous_lark.core.prepare.charging import JobKind
    >>> pack = Job("A", JobKind.PACK, 18.1, 0.0)
    >>> recharges(Bank("Bank", 50.0, 20.0, 3.0), [(pack, 8.7)] * 3).fills
    2
    >>> recharges(Bank("Bank", 50.0, 5.0, 2.0), [(pack, 8.7)] * 3).needs_volts
    8.7
    """
    left, count, longest = bank.energy_wh * BANK_EFFICIENCY, 0, 0.0
    for job, volts in packs:
        if bank.volts is not None and volts > bank.volts:
            return Recharges(bank, count, None if count == 0 else longest, volts)
        missing_wh = job.full_wh * (1 - job.charge_pct / 100)
        if missing_wh > left:
            break
        left, count = left - missing_wh, count + 1
        if bank.power_w is not None:
            longest = max(longest, charge_seconds(job, bank.power_w))
    return Recharges(bank, count, None if bank.power_w is None else longest, None)

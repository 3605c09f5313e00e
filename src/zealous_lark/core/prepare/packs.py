"""The packs of a kit: how much is left in one after lying about, and what to do with it before a session.

References
----------
.. [1] Packs left charged drop to 50 to 60 % within 5 to 7 days, since they discharge themselves; common practice.
.. [2] Lithium cells lose about 2 % a month at 20 °C and twice as much for every 10 °C more: general knowledge of
   their chemistry, quoted from memory; common practice.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

import numpy as np

from zealous_lark.core.battery import FORCED_LANDING_PCT
from zealous_lark.core.units import day_of, percent


class Chemistry(StrEnum):
    LIPO = "lipo"
    LIPO_HV = "lipo_hv"
    LI_ION = "li_ion"


CELL_V = {Chemistry.LIPO: 3.7, Chemistry.LIPO_HV: 3.85, Chemistry.LI_ION: 3.6}
"""Nominal voltage of a cell [V]."""
FULL_V = {Chemistry.LIPO: 4.2, Chemistry.LIPO_HV: 4.35, Chemistry.LI_ION: 4.2}
"""Voltage that a cell is charged with [V]; from memory, as packs have it printed."""
STORAGE_V = 3.8
"""Voltage of a cell in storage [V]; common practice."""
STORAGE_PCT = 50.0
"""Charge at about the storage voltage [%]; common practice."""
TOO_FULL_PCT, TOO_EMPTY_PCT = 65.0, 30.0
"""Outside this a pack should not lie for days [%]; common practice."""
_STAYS_FULL = timedelta(days=5)
_IS_DOWN = timedelta(days=7)
_DOWN_TO_PCT = 55.0
_MONTH = timedelta(days=30)
_SLOW_PCT_PER_MONTH = 2.0


class PackState(StrEnum):
    """How a pack is: by its charge, or put aside."""

    FULL = "full"
    PARTLY = "partly"
    STORAGE = "storage"
    SWOLLEN = "swollen"
    WET = "wet"
    RETIRED = "retired"


PUT_ASIDE = {
    PackState.SWOLLEN: "Swollen: never fly or charge it again. Take it to a battery collection point.",
    PackState.WET: "It got wet: it is retired, even if it seems to work. Take it to a collection point.",
    PackState.RETIRED: "It is retired.",
}
"""Packs that cannot be chosen, and why."""


@dataclass(frozen=True, slots=True)
class KitPack:
    """A pack of the kit.

    charge_pct: at `charged_at` (aware), when it was last charged or read; None: not known.
    storage_c: where it lies [°C].
    """

    label: str
    cells: int
    capacity_mah: float
    chemistry: Chemistry = Chemistry.LIPO_HV
    health_pct: float = 100.0
    state: PackState = PackState.STORAGE
    charge_pct: float = STORAGE_PCT
    charged_at: datetime | None = None
    storage_c: float = 20.0
    cycles: int = 0
    bought: date | None = None

    @property
    def energy_wh(self) -> float:
        """Nominal energy [Wh]: capacity times cells times their nominal voltage.

        >>> round(KitPack("A", 2, 2350).energy_wh, 1)
        18.1
        """
        return self.capacity_mah / 1000 * self.cells * CELL_V[self.chemistry]

    @property
    def full_v(self) -> float:
        """Voltage that the whole pack is charged with [V]."""
        return self.cells * FULL_V[self.chemistry]

    @property
    def storage_v(self) -> float:
        """Voltage of the whole pack in storage [V]."""
        return self.cells * STORAGE_V

    def health_for(self, battery_wh: float) -> float:
        """Health against an aircraft's own battery [% of `battery_wh`]: another size is more or less of it."""
        return self.health_pct * self.energy_wh / battery_wh


def charge_left_pct(pack: KitPack, when: datetime) -> float:
    """Estimated charge [%] at a time (aware): what is over 55 % goes between day 5 and 7 [1]_, the rest slowly [2]_.

    Before it was charged, and where that is not known, as it was.
    """
    if pack.charged_at is None or when <= pack.charged_at:
        return pack.charge_pct
    lain = when - pack.charged_at
    slow = _SLOW_PCT_PER_MONTH * 2 ** ((pack.storage_c - 20) / 10) * (lain / _MONTH)
    left = pack.charge_pct - slow
    if left > _DOWN_TO_PCT:
        days = [_STAYS_FULL.total_seconds(), _IS_DOWN.total_seconds()]
        left = float(np.interp(lain.total_seconds(), days, [left, _DOWN_TO_PCT]))
    return max(left, 0.0)


class Care(StrEnum):
    """What to do with a pack."""

    CHARGE = "charge"
    TOP_UP = "top_up"
    READY = "ready"
    STORE = "store"
    RAISE = "raise"
    LEAVE = "leave"
    PUT_ASIDE = "put_aside"


@dataclass(frozen=True, slots=True)
class Advice:
    """What to do with a pack, why, and by when (aware; None: no day)."""

    care: Care
    sentence: str
    by: datetime | None = None


OLD_CYCLES, WORN_PCT = 200, 80.0
"""Cycles, and health [%], from which a pack is watched more closely; common practice."""


def advice(pack: KitPack, now: datetime, takeoff_at: datetime | None, min_takeoff_pct: float) -> Advice:
    """What to do with a pack now, with the session that it is taken to, or without one. Times aware."""
    if pack.state in PUT_ASIDE:
        return Advice(Care.PUT_ASIDE, PUT_ASIDE[pack.state])
    left = charge_left_pct(pack, now)
    if takeoff_at is not None and now <= takeoff_at:
        then = charge_left_pct(pack, takeoff_at)
        if then >= min_takeoff_pct:
            return Advice(Care.READY, f"About {percent(then)} at take-off.")
        if takeoff_at - now <= _STAYS_FULL:
            word = Care.TOP_UP if left >= min_takeoff_pct - 20 else Care.CHARGE
            return Advice(word, f"About {percent(then)} at take-off if left as it is.", takeoff_at)
        day = takeoff_at - timedelta(days=1)
        return _resting(pack, left, now, f" Charge it the evening before, on {day_of(day)}.")
    return _resting(pack, left, now, "")


def _resting(pack: KitPack, left: float, now: datetime, then: str) -> Advice:
    """A pack that is not needed within days."""
    if left > TOO_FULL_PCT:
        full_since = pack.charged_at or now
        by = max(full_since + timedelta(days=2), now)
        sentence = (
            f"About {percent(left)}. Bring it to storage charge ({pack.storage_v:.1f} V) by {day_of(by)}: "
            f"batteries left full swell.{then}"
        )
        return Advice(Care.STORE, sentence, by)
    if left < TOO_EMPTY_PCT:
        danger = " Deep discharge ruins it." if left < FORCED_LANDING_PCT else ""
        storage = f"{STORAGE_V:g} V a cell ({pack.storage_v:.1f} V)"
        sentence = f"About {percent(left)}. To {storage}.{danger}{then}"
        return Advice(Care.RAISE, sentence, now)
    return Advice(Care.LEAVE, f"About {percent(left)}, near storage.{then}")


def worn(pack: KitPack) -> str | None:
    """A word about a pack that is old or weak; None for one that is not."""
    if pack.state in PUT_ASIDE:
        return None
    if pack.health_pct < WORN_PCT:
        return f"Health {percent(pack.health_pct)}: plan shorter flights with it, and think of retiring it."
    if pack.cycles >= OLD_CYCLES:
        return f"{pack.cycles} cycles: watch it for swelling and sudden drops."
    return None

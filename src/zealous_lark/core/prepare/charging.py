"""Charging before a session: which charger takes what, in which order, when to begin, what is ready with less time.

The plan is exact: among all ways to put the jobs on the chargers, the one that may begin last; with too little time,
one that has most ready. A charger takes its jobs in the order of what matters, or the longest first where that is
sooner; what is plugged in together shares the power in equal parts, and what one does not take is lost to the others.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from .cell_charging import FULL_PCT, Cells

NEAR_FULL_PCT = 99.0
"""From here on nothing is put on a charger [%]."""
MOST_JOBS = 12
_SOON = 1e-6
Masks = npt.NDArray[np.int64]
Times = npt.NDArray[np.float64]


class ChargerMode(StrEnum):
    """One after another, or all that are plugged in at the same time, sharing the power."""

    IN_TURN = "in_turn"
    TOGETHER = "together"


class JobKind(StrEnum):
    PACK = "pack"
    DEVICE = "device"


class Takes(StrEnum):
    """What a charger takes."""

    PACKS = "packs"
    DEVICES = "devices"
    BOTH = "both"


@dataclass(frozen=True, slots=True)
class Charger:
    """A charger: power [W], how it charges, what it takes; slots: how many at once when together."""

    name: str
    power_w: float
    mode: ChargerMode = ChargerMode.IN_TURN
    takes: Takes = Takes.BOTH
    slots: int = 1

    def takes_job(self, job: Job) -> bool:
        return self.takes is Takes.BOTH or (self.takes is Takes.PACKS) == (job.kind is JobKind.PACK)

    @property
    def at_once(self) -> int:
        """How many things it charges at the same time."""
        return self.slots if self.mode is ChargerMode.TOGETHER else 1


@dataclass(frozen=True, slots=True)
class Job:
    """Something to charge: full energy [Wh], charge [%]; most_w: its greatest charging power [W].

    Where the greatest power is not known it is the full energy in an hour.
    """

    name: str
    kind: JobKind
    full_wh: float
    charge_pct: float
    most_w: float | None = None

    @property
    def cells(self) -> Cells:
        return Cells(self.full_wh, self.full_wh if self.most_w is None else self.most_w)

    @property
    def is_full(self) -> bool:
        """Full but for a point: no charger is needed."""
        return self.charge_pct >= NEAR_FULL_PCT


@dataclass(frozen=True, slots=True)
class Charged:
    """One job on a charger: begin and end [s] after that charger is switched on, and the charge then [%]."""

    job: int
    begins_s: float
    ends_s: float
    charge_pct: float


@dataclass(frozen=True, slots=True)
class ChargerPlan:
    """What one charger does, in order; seconds: how long it takes [s]."""

    charger: int
    jobs: tuple[Charged, ...]
    seconds: float


@dataclass(frozen=True, slots=True)
class ChargingPlan:
    """All chargers; nowhere: jobs (by number) that no charger takes."""

    chargers: tuple[ChargerPlan, ...]
    nowhere: tuple[int, ...]

    @property
    def seconds(self) -> float:
        """Time until all is full [s]."""
        return max((c.seconds for c in self.chargers), default=0.0)

    def charge_pct(self, jobs: Sequence[Job]) -> list[float]:
        """Charge of each job at the end [%]."""
        found = [job.charge_pct for job in jobs]
        for plan in self.chargers:
            for done in plan.jobs:
                found[done.job] = done.charge_pct
        return found


@dataclass(frozen=True, slots=True)
class _Row:
    """What a charger takes: the first ones in order, and the others once all of those are full."""

    first: tuple[int, ...] = ()
    then: tuple[int, ...] = ()


def charge_seconds(job: Job, power_w: float) -> float:
    """Time [s] until a job is full, alone on a charger of so much power [W].

    >>> round(charge_seconds(Job("A", JobKind.PACK, 18.1, 30.0), 45.0) / 60)
    60
    """
    return job.cells.seconds(job.charge_pct / 100, 1.0, power_w)


def plan_charging(jobs: Sequence[Job], chargers: Sequence[Charger], available_s: float | None = None) -> ChargingPlan:
    """The plan that is done soonest; with less time [s] than that, one that has most ready: devices, then packs.

    Jobs come in the order of what matters first: among as many, the earlier ones are ready, and what cannot be ready
    has the power that those leave. Jobs that are full need no charger. Raises ValueError for more than `MOST_JOBS`
    jobs that need charging.
    """
    wanting = [i for i, job in enumerate(jobs) if not job.is_full]
    if len(wanting) > MOST_JOBS:
        raise ValueError(f"up to {MOST_JOBS} things to charge")
    nowhere = tuple(i for i in wanting if not any(c.takes_job(jobs[i]) for c in chargers))
    sharing = _Sharing(jobs, [i for i in wanting if i not in nowhere], chargers)
    plan = sharing.plan(sharing.soonest())
    if available_s is not None and plan.seconds > available_s + _SOON:
        plan = sharing.plan(sharing.most_ready(available_s), available_s)
    return ChargingPlan(tuple(c for c in plan.chargers if c.jobs), nowhere)


class _Sharing:
    """All ways to share the jobs among the chargers: sets of jobs are masks of bits, one time for each set."""

    def __init__(self, jobs: Sequence[Job], wanting: Sequence[int], chargers: Sequence[Charger]) -> None:
        self.jobs, self.wanting, self.chargers = jobs, wanting, chargers
        self.times = [self._times(charger) for charger in chargers]

    def plan(self, rows: Sequence[_Row], stop_s: float = float("inf")) -> ChargingPlan:
        """What the chargers do with their rows, until a time [s] or until all is full."""
        numbered = enumerate(zip(rows, self.chargers, strict=True))
        return ChargingPlan(tuple(_run(self.jobs, row, charger, n, stop_s) for n, (row, charger) in numbered), ())

    def soonest(self) -> list[_Row]:
        """Rows that are done soonest, and among those with the least time on all chargers together."""
        whole = (1 << len(self.wanting)) - 1
        if not self.wanting:
            return [_Row() for _ in self.chargers]
        most = _best(self.times, np.maximum)[-1][whole]
        allowed = [np.where(t <= most + _SOON, t, np.inf) for t in self.times]
        return [_Row(self._order(c, m)) for c, m in enumerate(_shares(allowed, np.add, whole))]

    def most_ready(self, available_s: float) -> list[_Row]:
        """Rows with most ready in so much time [s], and the rest where it takes nothing from those."""
        in_time = _best(self.times, np.maximum)[-1] <= available_s + _SOON
        ready = max((int(m) for m in np.flatnonzero(in_time)), key=self._worth)
        allowed = [np.where(t <= available_s + _SOON, t, np.inf) for t in self.times]
        rows = [_Row(self._order(c, m)) for c, m in enumerate(_shares(allowed, np.add, ready))]
        for place, i in enumerate(self.wanting):
            if not ready >> place & 1:
                rows = self._with_one_more(rows, i, available_s)
        return rows

    def _worth(self, mask: int) -> tuple[int, int, tuple[int, ...]]:
        places = self._members(mask)
        devices = sum(self.jobs[self.wanting[p]].kind is JobKind.DEVICE for p in places)
        return devices, len(places), tuple(-p for p in places)

    def _members(self, mask: int) -> list[int]:
        return [p for p in range(len(self.wanting)) if mask >> p & 1]

    def _with_one_more(self, rows: list[_Row], i: int, available_s: float) -> list[_Row]:
        """A job that cannot be ready goes where it gets most, without taking from what was placed before."""
        before = self._charges(rows, available_s)
        found: list[tuple[float, list[_Row]]] = []
        for c, charger in enumerate(self.chargers):
            if not charger.takes_job(self.jobs[i]):
                continue
            beside, after = _Row((*rows[c].first, i), rows[c].then), _Row(rows[c].first, (*rows[c].then, i))
            for row in (beside, after):
                tried = [*rows[:c], row, *rows[c + 1 :]]
                charges = self._charges(tried, available_s)
                if all(charges.get(j, 0.0) >= pct - _SOON for j, pct in before.items()):
                    found.append((charges.get(i, 0.0), tried))
        return max(found, key=lambda f: f[0])[1] if found else rows

    def _charges(self, rows: Sequence[_Row], available_s: float) -> dict[int, float]:
        return {done.job: done.charge_pct for row in self.plan(rows, available_s).chargers for done in row.jobs}

    def _times(self, charger: Charger) -> Times:
        """Time [s] that a charger takes for each set; infinite where it does not take one of them."""
        alone = [
            charge_seconds(self.jobs[i], charger.power_w) if charger.takes_job(self.jobs[i]) else np.inf
            for i in self.wanting
        ]
        times = np.zeros(1 << len(alone))
        for place, seconds in enumerate(alone):
            times[1 << place : 2 << place] = times[: 1 << place] + seconds
        if charger.at_once > 1:
            for mask in np.flatnonzero(np.isfinite(times)):
                times[mask] = min(self._took(charger, row) for row in self._orders(int(mask)))
        return times

    def _took(self, charger: Charger, row: tuple[int, ...]) -> float:
        return _run(self.jobs, _Row(row), charger, 0).seconds

    def _orders(self, mask: int) -> tuple[tuple[int, ...], tuple[int, ...]]:
        """What matters first, and what takes longest first."""
        row = tuple(self.wanting[p] for p in self._members(mask))
        return row, tuple(sorted(row, key=lambda i: -charge_seconds(self.jobs[i], 1e9)))

    def _order(self, charger: int, mask: int) -> tuple[int, ...]:
        return min(self._orders(mask), key=lambda row: self._took(self.chargers[charger], row))


@lru_cache(maxsize=MOST_JOBS)
def _pairs(count: int) -> tuple[Masks, Masks, Masks]:
    """Each set with each part of it (3 to the count), by set; and where the rows of a set begin."""
    numbers = np.arange(3**count)
    sets, parts = np.zeros_like(numbers), np.zeros_like(numbers)
    for place in range(count):
        digit = numbers // 3**place % 3
        sets += (digit > 0).astype(np.int64) << place
        parts += (digit == 2).astype(np.int64) << place
    order = np.argsort(sets, kind="stable")
    sets, parts = sets[order], parts[order]
    return sets, parts, np.searchsorted(sets, np.arange(1 << count))


def _best(times: Sequence[Times], join: np.ufunc) -> list[Times]:
    """For the first chargers, more and more: the least of each set's time [s] over all ways to share it."""
    count = int(times[0].size).bit_length() - 1
    sets, parts, begins = _pairs(count)
    reached = np.full(1 << count, np.inf)
    reached[0] = 0.0
    found = [reached]
    for own in times:
        found.append(np.minimum.reduceat(join(found[-1][sets - parts], own[parts]), begins))
    return found


def _shares(times: Sequence[Times], join: np.ufunc, whole: int) -> list[int]:
    """The part of a set that each charger has, in a best way to share it."""
    found, left = [], whole
    steps = _best(times, join)
    for own, before in zip(reversed(times), reversed(steps[:-1]), strict=True):
        parts = [part for part in range(left + 1) if part & left == part]
        part = min(parts, key=lambda p: float(join(before[left - p], own[p])))
        found.append(part)
        left -= part
    return found[::-1]


def _run(jobs: Sequence[Job], row: _Row, charger: Charger, number: int, stop_s: float = float("inf")) -> ChargerPlan:
    """What a charger does with a row of jobs, until a time [s] or until all is full."""
    waiting, later = list(row.first), list(row.then)
    share = {i: jobs[i].charge_pct / 100 for i in (*waiting, *later)}
    plugged: list[int] = []
    began: dict[int, float] = {}
    clock, done = 0.0, []
    while (waiting or plugged or later) and clock < stop_s - 1e-9:
        if not waiting and not plugged:
            waiting, later = later, []
        while waiting and len(plugged) < charger.at_once:
            plugged.append(waiting.pop(0))
            began[plugged[-1]] = clock
        each_w = charger.power_w / len(plugged)
        left = {i: jobs[i].cells.seconds(share[i], 1.0, each_w) for i in plugged}
        step = min(*left.values(), stop_s - clock)
        clock += step
        for i in list(plugged):
            if left[i] <= step + _SOON:
                plugged.remove(i)
                done.append(Charged(i, began[i], clock, FULL_PCT))
            else:
                share[i] = jobs[i].cells.after(share[i], step, each_w)
    done += [Charged(i, began[i], clock, 100 * share[i]) for i in plugged]
    return ChargerPlan(number, tuple(sorted(done, key=lambda d: (d.begins_s, d.ends_s))), clock)

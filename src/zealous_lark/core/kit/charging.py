"""Charging before a session: which charger takes what, in which order, when to begin, what is ready with less time.

Time is missing energy over charger power times efficiency. The plan is exact: among all ways to put the jobs on the
chargers the one that may begin last.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

CHARGER_EFFICIENCY = 0.9
"""Share of a charger's power that reaches the pack; common practice."""
BANK_EFFICIENCY = 0.85
"""Share of a power bank's energy that reaches a pack; common practice."""
FULL_PCT = 100.0
NEAR_FULL_PCT = 99.0
"""From here on nothing is put on a charger [%]."""
MOST_JOBS = 12


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
    def useful_w(self) -> float:
        """Power that reaches what is charged [W]."""
        return self.power_w * CHARGER_EFFICIENCY


@dataclass(frozen=True, slots=True)
class Job:
    """Something to charge: full energy [Wh], charge [%]."""

    name: str
    kind: JobKind
    full_wh: float
    charge_pct: float

    @property
    def missing_wh(self) -> float:
        """What a charger has to put in [Wh]; nothing where it is full but for a point."""
        if self.charge_pct >= NEAR_FULL_PCT:
            return 0.0
        return self.full_wh * max(FULL_PCT - self.charge_pct, 0.0) / 100


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


def charge_seconds(missing_wh: float, charger: Charger) -> float:
    """Time [s] that a charger takes for so much energy [Wh].

    >>> round(charge_seconds(18.1, Charger("Hub", 45.0)) / 60, 2)
    26.81
    """
    return missing_wh / charger.useful_w * 3600


def plan_charging(jobs: Sequence[Job], chargers: Sequence[Charger], available_s: float | None = None) -> ChargingPlan:
    """The plan that is done soonest; with less time [s] than that, the one that has most ready, then most charge in.

    Jobs come in the order of what matters first: with less time the earlier ones are charged first. Jobs that are
    full need no charger. Raises ValueError for more than `MOST_JOBS` jobs that need charging.
    """
    open_jobs = [i for i, job in enumerate(jobs) if job.missing_wh > 1e-9]
    if len(open_jobs) > MOST_JOBS:
        raise ValueError(f"up to {MOST_JOBS} things to charge")
    nowhere = tuple(i for i in open_jobs if not any(c.takes_job(jobs[i]) for c in chargers))
    open_jobs = [i for i in open_jobs if i not in nowhere]
    rows = _soonest(jobs, open_jobs, chargers)
    plan = ChargingPlan(tuple(_run(jobs, row, chargers, c, None) for c, row in enumerate(rows) if row), nowhere)
    if available_s is None or plan.seconds <= available_s + 1e-6:
        return plan
    ready, rest = _most_ready(jobs, open_jobs, chargers, available_s)
    rows = _with_the_rest(jobs, ready, rest, chargers)
    return ChargingPlan(tuple(_run(jobs, row, chargers, c, available_s) for c, row in enumerate(rows) if row), nowhere)


def _seconds(jobs: Sequence[Job], row: Sequence[int], charger: Charger) -> float:
    """Time [s] for a row of jobs. Shared or in turn, the power is used whole while anything is charging."""
    return sum(charge_seconds(jobs[i].missing_wh, charger) for i in row)


def _soonest(jobs: Sequence[Job], open_jobs: Sequence[int], chargers: Sequence[Charger]) -> list[list[int]]:
    """Rows per charger that are done soonest: all ways, but those that another beats on every charger."""
    states: dict[tuple[float, ...], list[list[int]]] = {(0.0,) * len(chargers): [[] for _ in chargers]}
    for i in open_jobs:
        later: dict[tuple[float, ...], list[list[int]]] = {}
        for loads, rows in states.items():
            for c, charger in enumerate(chargers):
                if charger.takes_job(jobs[i]):
                    took = charge_seconds(jobs[i].missing_wh, charger)
                    key = tuple(load + took if n == c else load for n, load in enumerate(loads))
                    later.setdefault(key, [[*row, i] if n == c else row for n, row in enumerate(rows)])
        states = _unbeaten(later)
    return min(states.items(), key=lambda item: (max(item[0], default=0.0), sum(item[0])))[1]


def _unbeaten(states: dict[tuple[float, ...], list[list[int]]]) -> dict[tuple[float, ...], list[list[int]]]:
    kept: dict[tuple[float, ...], list[list[int]]] = {}
    for loads in sorted(states):
        if not any(all(a <= b for a, b in zip(other, loads, strict=True)) for other in kept):
            kept[loads] = states[loads]
    return kept


def _most_ready(
    jobs: Sequence[Job], open_jobs: Sequence[int], chargers: Sequence[Charger], available_s: float
) -> tuple[list[list[int]], list[int]]:
    """Rows of jobs that are full in time, and the rest: devices first, then as many as possible, then the earlier."""
    states: dict[tuple[float, ...], tuple[tuple[int, int, tuple[int, ...]], list[list[int]]]] = {
        (0.0,) * len(chargers): ((0, 0, ()), [[] for _ in chargers])
    }
    for place, i in enumerate(open_jobs):
        later = dict(states)
        for loads, ((devices, count, places), rows) in states.items():
            for c, charger in enumerate(chargers):
                load = loads[c] + charge_seconds(jobs[i].missing_wh, charger)
                if not charger.takes_job(jobs[i]) or load > available_s + 1e-6:
                    continue
                key = tuple(load if n == c else other for n, other in enumerate(loads))
                worth = (devices + (jobs[i].kind is JobKind.DEVICE), count + 1, (*places, -place))
                if key not in later or later[key][0] < worth:
                    later[key] = (worth, [[*row, i] if n == c else row for n, row in enumerate(rows)])
        states = later
    _, rows = max(states.values(), key=lambda state: state[0])
    taken = {i for row in rows for i in row}
    return rows, [i for i in open_jobs if i not in taken]


def _with_the_rest(
    jobs: Sequence[Job], rows: list[list[int]], rest: Sequence[int], chargers: Sequence[Charger]
) -> list[list[int]]:
    """The rest goes, in order, where there is most time left for it."""
    rows = [list(row) for row in rows]
    for i in rest:
        fit = [c for c, charger in enumerate(chargers) if charger.takes_job(jobs[i])]
        rows[min(fit, key=lambda c: _seconds(jobs, rows[c], chargers[c]))].append(i)
    return rows


def _run(
    jobs: Sequence[Job], row: Sequence[int], chargers: Sequence[Charger], number: int, stop_s: float | None
) -> ChargerPlan:
    """What a charger does with a row of jobs, until a time [s] or until all is full."""
    charger = chargers[number]
    slots = charger.slots if charger.mode is ChargerMode.TOGETHER else 1
    waiting = list(row)
    charging: dict[int, float] = {}
    clock, done = 0.0, []
    began: dict[int, float] = {}
    stop = float("inf") if stop_s is None else stop_s
    while (waiting or charging) and clock < stop - 1e-9:
        while waiting and len(charging) < slots:
            i = waiting.pop(0)
            charging[i], began[i] = jobs[i].missing_wh, clock
        share_w = charger.useful_w / len(charging)
        step = min(min(charging.values()) / share_w * 3600, stop - clock)
        clock += step
        for i in list(charging):
            charging[i] -= share_w * step / 3600
            if charging[i] <= 1e-9:
                del charging[i]
                done.append(Charged(i, began[i], clock, FULL_PCT))
    for i, missing in charging.items():
        done.append(Charged(i, began[i], clock, FULL_PCT - 100 * missing / jobs[i].full_wh))
    return ChargerPlan(number, tuple(sorted(done, key=lambda d: (d.begins_s, d.ends_s))), clock)


def bank_recharges(bank_wh: float, missing_wh: Sequence[float]) -> int:
    """How many packs, taken in order, a power bank fills [Wh]: it must hold their energy over its own efficiency.

    >>> bank_recharges(50.0, [18.1, 18.1, 18.1])
    2
    """
    left, count = bank_wh * BANK_EFFICIENCY, 0
    for missing in missing_wh:
        if missing > left:
            break
        left, count = left - missing, count + 1
    return count

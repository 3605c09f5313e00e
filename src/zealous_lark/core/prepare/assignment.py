"""Which pack for which shot: subjects into flights, exactly.

A flight takes one pack, films one or several subjects in an order, and is home with its reserve. Flights follow one
another and may wait on the ground for their light. Among all ways the best one films most subjects, then uses the
fewest packs, then starts most flights into the wind, then is done first.

The search is exact: orders within a flight by dynamic programming over subsets (Held and Karp 1962), keeping every
way that is better in energy, time or first leg; flights in a row by dynamic programming over what is filmed and which
packs are used, keeping every way that is better in first legs or time. To use k packs only the k fullest matter:
whatever fits other packs fits them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import TypeVar

MOST_SUBJECTS = 10
"""Up to so many subjects the search is exact and quick; more are refused."""
LIGHT_STEP_S = 300.0
"""Light is looked at every five minutes [s]."""


@dataclass(frozen=True, slots=True)
class Costs:
    """What it costs to film subjects 0 to n − 1: energies [Wh] and times [s], infinite where there is no way.

    out: hover check, climb and way from the take-off point to a subject. stay: filming it. hop: from one to another.
    home: the way home from it, down and landing. downwind: whether a flight that begins there starts with the wind.
    light: for each subject, whether its light is there, from the start of the session on every `LIGHT_STEP_S`.
    ends_s: the last landing, from the start of the session [s].
    """

    out_wh: tuple[float, ...]
    out_s: tuple[float, ...]
    stay_wh: tuple[float, ...]
    stay_s: tuple[float, ...]
    hop_wh: tuple[tuple[float, ...], ...]
    hop_s: tuple[tuple[float, ...], ...]
    home_wh: tuple[float, ...]
    home_s: tuple[float, ...]
    downwind: tuple[bool, ...]
    light: tuple[tuple[bool, ...], ...]
    ends_s: float = math.inf

    @property
    def count(self) -> int:
        return len(self.out_wh)

    def flight(self, order: Sequence[int]) -> tuple[float, float]:
        """Energy [Wh] and time [s] of a flight that films subjects in an order."""
        wh, seconds = self.out_wh[order[0]], self.out_s[order[0]]
        for i, here in enumerate(order):
            if i:
                wh += self.hop_wh[order[i - 1]][here]
                seconds += self.hop_s[order[i - 1]][here]
            wh += self.stay_wh[here]
            seconds += self.stay_s[here]
        return wh + self.home_wh[order[-1]], seconds + self.home_s[order[-1]]

    def begins_s(self, subjects: Iterable[int], seconds: float, ready_s: float) -> float:
        """First start [s] at or after a time so that all subjects have their light from lift-off to landing.

        Infinite where there is none before the session ends.
        """
        rows = [row for row in (self.light[i] for i in subjects) if not all(row)]
        start = ready_s
        while start + seconds <= self.ends_s:
            first, last = int(start // LIGHT_STEP_S), int((start + seconds) // LIGHT_STEP_S)
            bad = [t for row in rows for t in range(first, last + 1) if t >= len(row) or not row[t]]
            if not bad:
                return start
            if rows and max(bad) >= len(rows[0]):
                return math.inf
            start = (max(bad) + 1) * LIGHT_STEP_S
        return math.inf


@dataclass(frozen=True, slots=True)
class PlannedFlight:
    """A flight: the pack by its place in the given list, subjects in order, start [s], energy [Wh], time [s]."""

    pack: int
    order: tuple[int, ...]
    begins_s: float
    wh: float
    seconds: float
    downwind: bool


@dataclass(frozen=True, slots=True)
class Assignment:
    """Flights in the order in which they are flown, and the subjects that do not fit."""

    flights: tuple[PlannedFlight, ...]
    left_out: tuple[int, ...]

    @property
    def worth(self) -> tuple[int, int, int, float]:
        """Subjects left out, packs used, starts with the wind, last landing [s]: the less the better."""
        return (
            len(self.left_out),
            len(self.flights),
            sum(f.downwind for f in self.flights),
            max((f.begins_s + f.seconds for f in self.flights), default=0.0),
        )


@dataclass(frozen=True, slots=True)
class _Way:
    """One way to fly a set of subjects in one flight."""

    wh: float
    seconds: float
    downwind: bool
    order: tuple[int, ...]

    def beats(self, other: _Way) -> bool:
        return self.wh <= other.wh and self.seconds <= other.seconds and self.downwind <= other.downwind


@dataclass(frozen=True, slots=True)
class _State:
    """One way to have filmed something and be ready for the next flight at a time [s]."""

    downwind: int
    ready_s: float
    flights: tuple[PlannedFlight, ...]

    def beats(self, other: _State) -> bool:
        return self.downwind <= other.downwind and self.ready_s <= other.ready_s


_T = TypeVar("_T", _Way, _State)


def _kept(known: list[_T], new: _T) -> list[_T]:
    """The ways of which none beats another, with a new one."""
    if any(old.beats(new) for old in known):
        return known
    return [old for old in known if not new.beats(old)] + [new]


def _ways(costs: Costs, most_wh: float) -> dict[int, list[_Way]]:
    """For each set of subjects (as bits) that one flight can film with so much energy, the ways worth keeping."""
    n = costs.count
    ending: dict[tuple[int, int], list[_Way]] = {}
    for i in range(n):
        wh, seconds = costs.out_wh[i] + costs.stay_wh[i], costs.out_s[i] + costs.stay_s[i]
        if wh <= most_wh:
            ending[1 << i, i] = [_Way(wh, seconds, costs.downwind[i], (i,))]
    found: dict[int, list[_Way]] = {}
    for mask in range(1, 1 << n):
        for last in range(n):
            for way in ending.get((mask, last), ()):
                whole = _Way(way.wh + costs.home_wh[last], way.seconds + costs.home_s[last], way.downwind, way.order)
                if whole.wh <= most_wh:
                    found[mask] = _kept(found.get(mask, []), whole)
                for nxt in range(n):
                    if mask >> nxt & 1:
                        continue
                    wh = way.wh + costs.hop_wh[last][nxt] + costs.stay_wh[nxt]
                    if wh > most_wh:
                        continue
                    seconds = way.seconds + costs.hop_s[last][nxt] + costs.stay_s[nxt]
                    key = (mask | 1 << nxt, nxt)
                    ending[key] = _kept(ending.get(key, []), _Way(wh, seconds, way.downwind, (*way.order, nxt)))
    return found


def _in_their_light(costs: Costs, ways: dict[int, list[_Way]]) -> dict[int, list[_Way]]:
    """The ways that can be flown at some time of the session."""
    found = {}
    for mask, choices in ways.items():
        subjects = [i for i in range(costs.count) if mask >> i & 1]
        lit = [way for way in choices if not math.isinf(costs.begins_s(subjects, way.seconds, 0.0))]
        if lit:
            found[mask] = lit
    return found


def _fewest_flights(count: int, ways: dict[int, list[_Way]], most: int) -> list[list[float]]:
    """Lower bound, per set of subjects and number of them that may stay out: flights it takes, light not looked at."""
    size = 1 << count
    fewest = [[math.inf] * (count + 1) for _ in range(size)]
    fewest[0] = [0.0] * (count + 1)
    for mask in range(1, size):
        low, part = mask & -mask, mask
        best = math.inf
        # The lowest subject is in some flight: only the sets that hold it need a look.
        while part:
            if part & low and part in ways:
                best = min(best, 1 + fewest[mask ^ part][0])
            part = (part - 1) & mask
        fewest[mask][0] = best if best <= most else math.inf
        for out in range(1, count + 1):
            without = min(fewest[mask ^ (1 << i)][out - 1] for i in range(count) if mask >> i & 1)
            fewest[mask][out] = min(fewest[mask][out - 1], without)
    return fewest


def assign(costs: Costs, budgets_wh: Sequence[float], changeover_s: float) -> Assignment:
    """The best flights for subjects and packs. budgets_wh: what each pack can spend above its reserve [Wh].

    changeover_s: from a landing to the next lift-off [s]. Raises ValueError for more than `MOST_SUBJECTS`.
    """
    n = costs.count
    if n > MOST_SUBJECTS:
        raise ValueError(f"up to {MOST_SUBJECTS} subjects")
    everything = (1 << n) - 1
    fullest = sorted(range(len(budgets_wh)), key=lambda i: (-budgets_wh[i], i))
    ways = _in_their_light(costs, _ways(costs, max(budgets_wh, default=0.0)))
    fewest = _fewest_flights(n, ways, len(fullest))
    for out in range(n + 1):
        if math.isinf(fewest[everything][out]):
            continue
        for count in range(int(fewest[everything][out]), len(fullest) + 1):
            found = _search(costs, ways, budgets_wh, fullest[:count], changeover_s, fewest, out)
            if found:
                return min(found, key=lambda a: (a.worth, a.left_out, [(f.pack, f.order) for f in a.flights]))
    raise AssertionError("leaving everything out always fits")


def _search(
    costs: Costs,
    ways: dict[int, list[_Way]],
    budgets_wh: Sequence[float],
    packs: Sequence[int],
    changeover_s: float,
    fewest: list[list[float]],
    out: int,
) -> list[Assignment]:
    """Ways to film all but `out` subjects, one flight with each of the packs; empty where there is none."""
    n = costs.count
    everything = (1 << n) - 1
    sets = [tuple(i for i in range(n) if mask >> i & 1) for mask in range(everything + 1)]
    # Where every hour has the light, the order of flights changes nothing: the one with the first subject goes first.
    in_any_order = out == 0 and all(all(row) for row in costs.light)
    by_mask = sorted(ways.items())
    layer: dict[tuple[int, int], list[_State]] = {(0, 0): [_State(0, 0.0, ())]}
    for turn in range(len(packs)):
        later: dict[tuple[int, int], list[_State]] = {}
        for (done, used), states in layer.items():
            rest = everything & ~done
            low = rest & -rest if in_any_order else 0
            for mask, choices in by_mask:
                if mask & done or mask & low != low or fewest[rest ^ mask][out] > len(packs) - turn - 1:
                    continue
                for way in choices:
                    # The least pack that is enough: what another flight could do with it, it can with the larger one.
                    place = next((p for p in reversed(range(len(packs)))
                                  if not used >> p & 1 and way.wh <= budgets_wh[packs[p]]), None)  # fmt: skip
                    if place is None:
                        continue
                    key = (done | mask, used | 1 << place)
                    for state in states:
                        begins = costs.begins_s(sets[mask], way.seconds, state.ready_s)
                        if math.isinf(begins):
                            continue
                        flight = PlannedFlight(packs[place], way.order, begins, way.wh, way.seconds, way.downwind)
                        ready = begins + way.seconds + changeover_s
                        flown = _State(state.downwind + way.downwind, ready, (*state.flights, flight))
                        later[key] = _kept(later.get(key, []), flown)
        layer = later
    return [
        Assignment(state.flights, tuple(i for i in range(n) if not done >> i & 1))
        for (done, _), states in layer.items()
        if n - done.bit_count() <= out
        for state in states
    ]

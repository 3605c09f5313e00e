"""The flights that film subjects, and the same flights as set by hand, with the charge at each step."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.battery import LEAST_TAKEOFF_PCT
from zealous_lark.core.prepare.assignment import Costs, assign
from zealous_lark.core.prepare.left_out import LeftOut, Others, left_out
from zealous_lark.core.prepare.subjects import LIGHT_WORDS, Outing, costs
from zealous_lark.core.units import METRIC, Units, percent


@dataclass(frozen=True, slots=True)
class Step:
    """A part of a flight: what is done, at which subject (its number), time [s], energy [Wh], charge after it [%]."""

    what: str
    shot: int | None
    seconds: float
    wh: float
    charge_after_pct: float


@dataclass(frozen=True, slots=True)
class Filming:
    """A flight: pack by its number, begin and landing, steps, charges [%], and what is wrong with it, in words."""

    pack: int
    order: tuple[int, ...]
    begins_at: datetime
    lands_at: datetime
    steps: tuple[Step, ...]
    landing_pct: float
    downwind: bool
    faults: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FilmingPlan:
    flights: tuple[Filming, ...]
    left_out: tuple[LeftOut, ...]
    reserve_pct: float

    @property
    def holds(self) -> bool:
        """Whether everything is filmed and no flight has a fault."""
        return not self.left_out and not any(f.faults for f in self.flights)


def plan_filming(outing: Outing, units: Units = METRIC) -> FilmingPlan | None:
    """The best flights (see `assign`); None while the wind is not known. Raises ValueError for too many subjects."""
    c = costs(outing)
    if c is None:
        return None
    budgets = [outing.budget_wh(i) for i in range(len(outing.packs))]
    best = assign(c, budgets, outing.changeover_s)
    flights = [(f.pack, f.order) for f in best.flights]
    others = Others(outing, c, budgets)
    return FilmingPlan(
        flights=_flown(outing, c, flights),
        left_out=tuple(left_out(outing, c, budgets, best, others, i, units) for i in best.left_out),
        reserve_pct=outing.reserve_pct,
    )


def judge_filming(outing: Outing, flights: Sequence[tuple[int, Sequence[int]]]) -> FilmingPlan | None:
    """Flights as set by hand, (pack, subjects in order) in a row: charge at each step and what is wrong with them."""
    c = costs(outing)
    if c is None:
        return None
    filmed = {i for _, order in flights for i in order}
    left = [LeftOut(i, "It is in no flight.", ()) for i in range(len(outing.shots)) if i not in filmed]
    return FilmingPlan(_flown(outing, c, flights), tuple(left), outing.reserve_pct)


def _flown(outing: Outing, c: Costs, flights: Sequence[tuple[int, Sequence[int]]]) -> tuple[Filming, ...]:
    begin, ready = outing.situation.takeoff_at, 0.0
    used: set[int] = set()
    found = []
    for pack, order in flights:
        wh, seconds = c.flight(order)
        faults = []
        begins = c.begins_s(order, seconds, ready)
        if math.isinf(wh):
            faults.append("A leg makes no headway against the wind.")
            begins, seconds = ready, 0.0
        elif math.isinf(begins):
            begins = ready
            faults.append(_no_time(outing, c, order, seconds, ready))
        steps = _steps(outing, c, pack, order)
        landing = steps[-1].charge_after_pct if steps else outing.packs[pack].pack.charge_pct
        label = outing.packs[pack].label
        if pack in used:
            faults.append(f"Battery {label} has flown already: a part-used battery starts no second flight.")
        if outing.packs[pack].pack.charge_pct < LEAST_TAKEOFF_PCT:
            faults.append(f"Battery {label} is under {percent(LEAST_TAKEOFF_PCT)}: it starts no flight.")
        if steps and landing < outing.reserve_pct:
            faults.append(f"It lands with {percent(landing)}; you keep {percent(outing.reserve_pct)}.")
        used.add(pack)
        at = begin + timedelta(seconds=begins)
        lands = at + timedelta(seconds=seconds)
        found.append(Filming(pack, tuple(order), at, lands, steps, landing, c.downwind[order[0]], tuple(faults)))
        ready = begins + seconds + outing.changeover_s
    return tuple(found)


def _no_time(outing: Outing, c: Costs, order: Sequence[int], seconds: float, ready: float) -> str:
    if ready + seconds > c.ends_s:
        return "It would land after the session ends."
    unlit = [outing.shots[i] for i in order if not all(c.light[i])]
    wanted = ", ".join(f"{s.name} ({LIGHT_WORDS[s.light]})" for s in unlit)
    return f"The light is not there from take-off to landing: {wanted}."


def _steps(outing: Outing, c: Costs, pack: int, order: Sequence[int]) -> tuple[Step, ...]:
    """The steps of a flight with the charge after each; none where a leg makes no headway."""
    parts: list[tuple[str, int | None, float, float]] = [("out", order[0], c.out_s[order[0]], c.out_wh[order[0]])]
    for n, i in enumerate(order):
        if n:
            before = order[n - 1]
            parts.append(("over", i, c.hop_s[before][i], c.hop_wh[before][i]))
        parts.append(("film", i, c.stay_s[i], c.stay_wh[i]))
    parts.append(("home", None, c.home_s[order[-1]], c.home_wh[order[-1]]))
    if any(math.isinf(wh) for _, _, _, wh in parts):
        return ()
    spent, found = 0.0, []
    for what, shot, seconds, wh in parts:
        spent += wh
        left = outing.packs[pack].pack.charge_pct - 100 * spent / outing.usable_wh(pack)
        found.append(Step(what, shot, seconds, wh, left))
    return tuple(found)

"""Why a subject is in no flight, and what would bring it in."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import timedelta

from propcache.api import cached_property

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import LEAST_TAKEOFF_PCT
from zealous_lark.core.prepare.assignment import Assignment, Costs, assign
from zealous_lark.core.prepare.subjects import LIGHT_WORDS, Outing, Shot, ShotPack, costs
from zealous_lark.core.units import Units, percent


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A subject (its number) that is in no flight: why, and what would bring it in; each way was tried."""

    shot: int
    why: str
    ways: tuple[str, ...]


WARM_PACK_C = 25.0


@dataclass(frozen=True)
class Others:
    """The best flights with one thing changed; each is sought once, for all subjects that are left out."""

    outing: Outing
    costs: Costs
    budgets_wh: list[float]

    @cached_property
    def one_more_pack(self) -> Assignment:
        return assign(self.costs, [*self.budgets_wh, max(self.budgets_wh)], self.outing.changeover_s)

    @cached_property
    def longer_session(self) -> Assignment:
        return assign(replace(self.costs, ends_s=math.inf), self.budgets_wh, self.outing.changeover_s)


def left_out(
    outing: Outing, c: Costs, budgets: Sequence[float], best: Assignment, others: Others, i: int, u: Units
) -> LeftOut:
    """Why a subject is left out, and what would bring it in."""
    shot = outing.shots[i]
    wh, seconds = c.flight([i])
    if math.isinf(wh):
        return LeftOut(i, "Too little headway against the wind on the flight there or home.", _lower(outing, i, u))
    most = max(budgets, default=0.0)
    if wh <= most and math.isinf(c.begins_s([i], seconds, 0.0)):
        if seconds > outing.session_s:
            return LeftOut(i, "The session is too short for it.", (f"Stay {math.ceil(seconds / 60)} min on site.",))
        return LeftOut(
            i,
            f"Not long enough in the light it wants during the session: {LIGHT_WORDS[shot.light]}.",
            _later(outing, i),
        )
    if wh > most:
        why = (
            "No battery can be taken."
            if most <= 0
            else "This needs more charge than your fullest battery has above the reserve."
        )
        return LeftOut(i, why, _shorter(outing, c, most, i) + _fuller(outing, wh, i, u))
    one_more, longer = others.one_more_pack, others.longer_session
    ways: tuple[str, ...] = ("One more battery like your fullest would film it.",) if i not in one_more.left_out else ()
    if i not in longer.left_out and longer.flights:
        end = max(f.begins_s + f.seconds for f in longer.flights)
        ways += (f"Stay {math.ceil(end / 60)} min on site.",)
    packs = len(best.flights)
    return LeftOut(i, f"The {'battery is' if packs == 1 else f'{packs} batteries are'} used up by the others.", ways)


def _fits_alone(outing: Outing, shot: Shot, packs: Sequence[ShotPack]) -> bool:
    alone = replace(outing, shots=(shot,), packs=tuple(packs))
    c = costs(alone)
    return c is not None and not assign(c, [alone.budget_wh(n) for n in range(len(packs))], 0.0).left_out


def _shorter(outing: Outing, c: Costs, most_wh: float, i: int) -> tuple[str, ...]:
    shot = outing.shots[i]
    room = most_wh - (c.out_wh[i] + c.home_wh[i])
    if room <= 0 or shot.minutes <= 0:
        return ()
    minutes = math.floor(2 * shot.minutes * room / c.stay_wh[i]) / 2
    if minutes < 0.5 or not _fits_alone(outing, replace(shot, minutes=minutes), outing.packs):
        return ()
    return (f"{minutes:g} min of filming instead of {shot.minutes:g} min would fit.",)


def _fuller(outing: Outing, wh: float, i: int, u: Units) -> tuple[str, ...]:
    ways = []
    for n, taken in enumerate(outing.packs):
        full = ShotPack(taken.label, replace(taken.pack, charge_pct=100.0))
        warm = ShotPack(taken.label, replace(full.pack, temperature_c=WARM_PACK_C))
        if taken.pack.charge_pct < 100 and _fits_alone(outing, outing.shots[i], [full]):
            need = outing.reserve_pct + 100 * wh / outing.usable_wh(n)
            need = max(math.ceil(need), math.ceil(LEAST_TAKEOFF_PCT))
            ways.append(f"Battery {taken.label} at {percent(need)} or more would do it.")
        elif _fits_alone(outing, outing.shots[i], [warm]):
            ways.append(f"Battery {taken.label} full and kept warm at {u.temperature(WARM_PACK_C)} would do it.")
    return tuple(ways[:1])


def _lower(outing: Outing, i: int, u: Units) -> tuple[str, ...]:
    shot = outing.shots[i]
    for height in range(int(shot.height_m // 10) * 10, 9, -10):
        if height < shot.height_m and _fits_alone(outing, replace(shot, height_m=float(height)), outing.packs):
            return (f"At {u.length(height)} there's less wind and it fits.",)
    return ()


def _later(outing: Outing, i: int) -> tuple[str, ...]:
    """The next time within a day at which a session begun then has the subject's light."""
    s = outing.situation
    for n in range(1, 96):
        at = s.takeoff_at + timedelta(minutes=15 * n)
        moved = replace(outing, assessment=Assessment(replace(s, takeoff_at=at)))
        if _fits_alone(moved, outing.shots[i], outing.packs):
            return (f"Starting at {at:%H:%M} would give it that light.",)
    return ()

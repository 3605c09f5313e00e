"""The way through what stands there: every part of the flight against one world of obstacles."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import SEVERITY, Bound, Finding, Lines, Status, Words, check, share_of_floor
from zealous_lark.core.land import LATERAL_M
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.units import Units, percent
from zealous_lark.core.world import EDGE_M, GROUND, Near

HITS_M, CLEARS_M = 5.0, 10.0
"""Over a top by less than the first counts as into it, by less than the second as close [m]; common practice."""
OVERSHOOT_M = {SpeedMode.SLOW: 10.0, SpeedMode.NORMAL: 20.0, SpeedMode.FAST: 40.0, SpeedMode.RTH: 20.0}
"""Room beyond and beside the far end by mode [m]; in fast mode the obstacle stop is off. Common practice."""
PAD_FAIL_M, PAD_CARE_M = 5.0, 10.0
PAD_HIGH_M, PAD_LOW_M = 2.0, 1.5
"""What is higher than the first [m] stands in the way of a pad; from the second it asks for care."""
_SOURCE = (
    "Room of 10 m beside the way; under 5 m over a top is into it, under 10 m care; what is paced may be 10% and 5° "
    "off: common practice, no published source."
)


@dataclass(frozen=True, slots=True)
class Met:
    """How one thing stands to a part of the flight: status, height over its top [m], and the thing."""

    status: Status
    gap_m: float
    near: Near


def meets(near: Near, height_m: float) -> Met:
    """Height over what is near: below its top plus 5 m no, plus 10 m care; care at most where it is only loosely near.

    Of what hardly stands up (under 2 m) less is asked, so that nothing appears at once.
    """
    share = min(1.0, max(near.top_m, 0.0) / 2)
    gap = height_m - near.top_m
    if gap >= CLEARS_M * share:
        return Met(Status.PASS, gap, near)
    return Met(Status.FAIL if gap < HITS_M * share and not near.loosely else Status.CARE, gap, near)


def worst(found: list[Met]) -> Met | None:
    """The most severe, then the least clear; None for nothing."""
    return max(found, key=lambda m: (SEVERITY[m.status], -m.gap_m), default=None)


def called(near: Near) -> str:
    """What it is, in a sentence."""
    name = near.solid.called
    return name if name == GROUND or name.startswith("the ") else f"the {name}"


def _title(near: Near) -> str:
    return called(near).removeprefix("the ").capitalize()


def _far(near: Near, u: Units) -> str:
    if near.loosely:
        return f"{u.length(near.distance_m)} beside it, or nearer, as it was only paced"
    return "in it" if near.distance_m < 1 else f"{u.length(near.distance_m)} beside it"


def _nothing(limit: float, shown: str, say: Words, work: Lines) -> Finding:
    return Finding(Status.PASS, None, limit, 0.0, say, work, shown=shown)


def _found(met: Met, part: str, work: Lines, goes: str) -> Finding:
    near, gap = met.near, met.gap_m
    used = share_of_floor(gap, CLEARS_M)

    def say(u: Units) -> str:
        what = f"{called(near)} ({u.length(near.top_m)})"
        where = f"{u.length(near.along_m)} out" if part == "way out" else f"{u.length(near.distance_m)} from it"
        unseen = " No screen shows wires." if near.solid.kind is ObstacleKind.WIRES else ""
        if met.status is Status.FAIL:
            into, need = "into" if gap <= 0 else "only just over", u.length(near.top_m + CLEARS_M)
            return f"{goes} {into} {what}, {where}: {need} or more, or another way.{unseen}"
        if met.status is Status.CARE and near.loosely:
            return f"{goes} close to {what}, {_far(near, u)}. Look before you fly it.{unseen}"
        if met.status is Status.CARE:
            return f"{goes} over {what} by only {u.length(gap)}, {where}.{unseen}"
        return f"{goes} clear of {what}, by {u.length(gap)}."

    if met.status is Status.FAIL:
        used = max(used, 1.01)
    elif met.status is Status.CARE and near.loosely:
        used = min(max(used, 0.81), 1.0) if gap > 0 else 1.0
    return Finding(met.status, gap, CLEARS_M, used, say, work)


def _working(found: list[Met], height: float, room: float) -> Callable[[Units], tuple[str, ...]]:
    def work(u: Units) -> tuple[str, ...]:
        lines = [f"Flown at {u.length(height)}; room of {u.length(room)} asked for"]
        for met in sorted(found, key=lambda m: m.gap_m)[:4]:
            near = met.near
            lines.append(
                f"{_title(near)}, {near.solid.how_known}: top {u.length(near.top_m)}, "
                f"{_far(near, u)}, {u.length(near.along_m)} along; {u.length(met.gap_m)} over it"
            )
        return tuple(lines)

    return work


@check("clear.outbound", "Clearance outbound", "m", _SOURCE, bound=Bound.AT_LEAST, indoors=False)
def outbound(a: Assessment) -> Finding:
    """The way out at the planned height against everything within 10 m of it."""
    height = a.situation.flight.height_m
    found = [meets(near, height) for near in a.world.beside((0.0, 0.0), a.far_end, LATERAL_M)]
    met, work = worst(found), _working(found, height, LATERAL_M)
    unknown = a.world.unknown_ground((0.0, 0.0), a.far_end)
    if unknown and (met is None or met.status is not Status.FAIL):
        return Finding(Status.UNKNOWN, None if met is None else met.gap_m, CLEARS_M, None,
                       f"{percent(100 * unknown)} of the ground along the way is not known.", work,
                       question="How high is the ground along the way, where the terrain has holes?")  # fmt: skip
    if met is None:
        return _nothing(CLEARS_M, "nothing there", "Nothing that is known stands beside the flight out.", work)
    return _found(met, "way out", work, "The flight out goes")


@check("clear.station", "Room at the far point", "m", _SOURCE, bound=Bound.AT_LEAST, indoors=False)
def station(a: Assessment) -> Finding:
    """What is flown over at the far end, and the room to stop in, against everything there."""
    f = a.situation.flight
    room = max(f.station_radius_m, OVERSHOOT_M[f.outbound_mode])
    found = [meets(near, f.height_m) for near in a.world.beside(a.far_end, a.far_end, room)]
    met, work = worst(found), _working(found, f.height_m, room)
    unknown = a.world.unknown_ground(a.far_end, a.far_end)
    if unknown and (met is None or met.status is not Status.FAIL):
        return Finding(Status.UNKNOWN, None if met is None else met.gap_m, CLEARS_M, None,
                       "The ground at the far point is not known.", work,
                       question="How high is the ground at the far point, where the terrain has a hole?")  # fmt: skip
    if met is None:
        return _nothing(
            CLEARS_M,
            "nothing there",
            lambda u: f"Nothing that is known stands within {u.length(room)} of the far point.",
            work,
        )
    return _found(met, "far point", work, "At the far point it flies")


def _pad(a: Assessment, does: str, follows: str | None) -> Finding:
    near = [
        n for n in a.world.beside((0.0, 0.0), (0.0, 0.0), PAD_CARE_M)
        if not n.loosely and n.top_m > PAD_LOW_M
    ]  # fmt: skip

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Over {u.length(PAD_HIGH_M)} high within {u.length(PAD_FAIL_M)} is in the way, within "
            f"{u.length(PAD_CARE_M)} asks for care",
            *(f"{_title(n)} {u.length(n.top_m)} at {u.length(n.distance_m)}" for n in near),
        )

    if not near:
        return _nothing(
            PAD_CARE_M,
            "clear",
            lambda u: f"Nothing that is known stands within {u.length(PAD_CARE_M)} of the pad.",
            work,
        )
    # The ground is sampled between cells, and is never right at the pad: care at the most.
    tall = [n for n in near if n.top_m > PAD_HIGH_M and n.solid.called != GROUND]
    first = min(tall or near, key=lambda n: n.distance_m)
    used = share_of_floor(first.distance_m, PAD_CARE_M)
    hits = bool(tall) and first.distance_m <= PAD_FAIL_M + EDGE_M

    def say(u: Units) -> str:
        what, away = f"{called(first)} ({u.length(first.top_m)})", u.length(first.distance_m)
        if hits:
            return f"It {does} {away} from {what}: move the pad {u.length(PAD_CARE_M)} away."
        return f"It {does} only {away} from {what}: a gust is enough. Move the pad if you can."

    if hits:
        return Finding(Status.FAIL, first.distance_m, PAD_CARE_M, used, say, work, follows)
    return Finding(Status.CARE, first.distance_m, PAD_CARE_M, min(used, 1.5), say, work, follows)


@check("clear.takeoff", "Room over the pad", "m", _SOURCE, bound=Bound.AT_LEAST, indoors=False)
def takeoff(a: Assessment) -> Finding:
    """The climb over the pad against everything within 10 m of it."""
    return _pad(a, "climbs", None)


@check("clear.descent", "Room to come down", "m", _SOURCE, bound=Bound.AT_LEAST, indoors=False)
def descent(a: Assessment) -> Finding:
    """The descent to the pad against everything within 10 m of it; on a deck, with rigging all round."""
    found = _pad(a, "comes down", "clear.takeoff")
    if a.situation.site.from_boat and found.status is Status.PASS:
        sentence = "On a boat there is rigging all round, and the deck moves: two people, one to catch it, in the calm."
        return Finding(Status.CARE, None, PAD_CARE_M, 0.9, sentence, found.work, shown="on deck")
    return found

"""Planned flights judged whole: not only their charge, but sight, signal, reach, what stands there, the light, the air.

A flight with several subjects is judged at each as a flight straight there and back; what its legs and its time at
all of them cost is the filming plan's own (`filming`), which is exact, so that charge and reach are not asked again.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from zealous_lark.core.checks.base import SEVERITY, Status
from zealous_lark.core.fixes import fixes
from zealous_lark.core.prepare.filming import Filming
from zealous_lark.core.prepare.subjects import Outing, to_subject
from zealous_lark.core.units import METRIC, Units, percent
from zealous_lark.core.verdict import VERDICT_OF, Judged, Judgement, Verdict, judge

OF_THE_WHOLE_FLIGHT = frozenset({"battery.budget", "battery.reach", "battery.turn_back"})
_MOVES_IT = frozenset({"flight.bearing_deg", "flight.distance_m"})


@dataclass(frozen=True, slots=True)
class AtSubject:
    """What is found at a subject: verdict, the check that decides it with its sentence, what would help (or None)."""

    shot: int
    verdict: Verdict
    label: str
    sentence: str
    helps: str | None


@dataclass(frozen=True, slots=True)
class FlightVerdict:
    """The verdict of a planned flight, the worst of what its subjects and its charge have."""

    verdict: Verdict
    subjects: tuple[AtSubject, ...]


def judge_flight(outing: Outing, filming: Filming, units: Units = METRIC) -> FlightVerdict:
    """A planned flight, judged whole for each of its subjects.

    The weather is that of the session's take-off throughout; the light and the battery are the flight's own.
    """
    found = tuple(_at(outing, filming, shot, units) for shot in filming.order)
    worst = max((f.verdict for f in found), key=_gravity, default=Verdict.UNKNOWN)
    if filming.faults or filming.landing_pct < outing.reserve_pct:
        worst = Verdict.STAY
    return FlightVerdict(worst, found)


_GRAVITY = (Verdict.LAUNCH, Verdict.CARE, Verdict.UNKNOWN, Verdict.STAY)


def _gravity(verdict: Verdict) -> int:
    return _GRAVITY.index(verdict)


def _at(outing: Outing, filming: Filming, shot: int, units: Units) -> AtSubject:
    pack = outing.packs[filming.pack].pack
    there = replace(to_subject(outing.situation, outing.shots[shot]), aimed=True, takeoff_at=filming.begins_at)
    judgement = judge(replace(there, pack=pack))
    counted = [j for j in judgement.judged if j.check.id not in OF_THE_WHOLE_FLIGHT]
    first = counted[0]
    status = first.finding.status if first.finding.matters else Status.PASS
    sentence = first.finding.sentence(units)
    return AtSubject(shot, VERDICT_OF[status], first.check.label, sentence, _helps(outing, judgement, first, units))


def _helps(outing: Outing, judgement: Judgement, first: Judged, units: Units) -> str | None:
    """What would bring a subject within the limits, without leaving it."""
    if SEVERITY[first.finding.status] <= SEVERITY[Status.PASS]:
        return None
    if first.check.id == "sight.distance":
        near = units.length(judgement.assessment.sight.limit_m)
        return f"Start within {near} of it, or film it from nearer."
    if first.check.id == "battery.charge":
        return f"Charge it: a flight starts with {percent(outing.situation.minimums.min_takeoff_pct)} or more."
    for fix in fixes(judgement, first.check, units):
        if not {key for key, _ in fix.changes} & _MOVES_IT:
            return fix.sentence
    return None

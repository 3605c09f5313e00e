"""Levers: the smallest changes a pilot can make that clear a check.

Every fix that is offered is proven: the changed situation is judged whole, its verdict
is shown with it, and what it would worsen is named. A reserve is no fix.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import islice
from typing import Any

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Check, Finding, Status
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.situation import LostLink, Situation, SpeedMode
from zealous_lark.core.units import METRIC, Units, angle, day_of
from zealous_lark.core.verdict import STRICTER, Judgement, Verdict, judge_assessed

MOST_OFFERED = 3
_MOST_TRIED = 6
WARM_PACK_C = 25.0
LONGEST_WAIT = timedelta(hours=12)
_WAIT_STEP = timedelta(minutes=15)


@dataclass(frozen=True, slots=True)
class Fix:
    """Changes by the plan document's own keys, what the pilot does, what the verdict then is.

    worsens: labels of the checks that would get worse.
    """

    changes: tuple[tuple[str, Any], ...]
    sentence: str
    verdict: Verdict
    worsens: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Parameter:
    """One thing a pilot can change.

    key: the plan document's key. stops: values from the one in force on, the nearest first,
    ordered so that further on the effect grows; empty where it cannot be turned.
    graded: whether one good stop makes all later ones good, so that halving finds the first.
    cost: how much a change is felt, about 1 for a plain nuisance.
    only: the checks that it can move at all, None where that has to be tried.
    """

    key: str
    stops: Callable[[Assessment], list[Any]]
    graded: bool
    cost: Callable[[Situation, Any], float]
    say: Callable[[Any, Units], str]
    only: Callable[[Assessment], frozenset[str] | None] = lambda _a: None


def _get(situation: Situation, key: str) -> Any:
    node: Any = situation
    for step in key.split("."):
        node = getattr(node, step)
    return node


def changed(situation: Situation, key: str, value: Any) -> Situation:
    """The situation with one of the plan document's keys at another value; at another time, in that time's weather.

    A value that somebody sets is no longer assumed.
    """
    if key in situation.assumed:
        situation = replace(situation, assumed=situation.assumed - {key})
    if key == "takeoff_at":
        return situation.moved_to(value)
    part, _, name = key.partition(".")
    if not name:
        return replace(situation, **{part: value})
    return replace(situation, **{part: replace(getattr(situation, part), **{name: value})})


Stops = Callable[[Assessment], list[Any]]


def _down(key: str, step: float, least: float = 0.0) -> Stops:
    def stops(a: Assessment) -> list[Any]:
        now = _get(a.situation, key)
        first = int(-(-now // step)) - 1  # the last whole step below
        found = [n * step for n in range(first, -1, -1) if n * step >= least]
        return found

    return stops


def _up(key: str, step: float, most: Callable[[Situation], float]) -> Stops:
    def stops(a: Assessment) -> list[Any]:
        now, top = _get(a.situation, key), most(a.situation)
        first = math.floor(now / step + 1e-9) + 1
        return [n * step for n in range(first, math.floor(top / step) + 1)]

    return stops


def _towards_recommended(a: Assessment) -> list[Any]:
    """The return height that would do; nothing between, which would only be half wrong."""
    best, now = a.return_height.recommended_m, a.situation.settings.rth_altitude_m
    return [] if best is None or best == now else [best]


def _bearings(a: Assessment) -> list[Any]:
    s = a.situation
    if s.aimed:  # there is nothing to film on another bearing
        return []
    now = round(s.flight.bearing_deg / 5) * 5
    turns = [t for n in range(1, 37) for t in ((5 * n, -5 * n) if n < 36 else (180,))]
    return [float((now + t) % 360) for t in turns]


def _modes(key: str, *modes: SpeedMode) -> Stops:
    return lambda a: [m for m in modes if m is not _get(a.situation, key)]


def _ways_home(a: Assessment) -> list[Any]:
    """Modes to come home in; from a deck never by automatic return, which goes to where the deck was."""
    modes = _modes("flight.return_mode", SpeedMode.NORMAL, SpeedMode.FAST, SpeedMode.RTH)(a)
    return [m for m in modes if not (m is SpeedMode.RTH and a.situation.site.from_deck)]


def _waits(a: Assessment) -> list[Any]:
    """Later times of which a forecast says something; without one nothing is known of them."""
    s, forecast = a.situation, a.situation.forecast
    if forecast is None:
        return []
    first = s.takeoff_at.replace(second=0, microsecond=0)
    first -= timedelta(minutes=first.minute % 15)
    later = [first + n * _WAIT_STEP for n in range(1, LONGEST_WAIT // _WAIT_STEP + 1)]
    return [t for t in later if forecast.at(t) is not None]


def _warms(a: Assessment) -> list[Any]:
    now = a.situation.pack.temperature_c
    return [WARM_PACK_C] if now is None or now < WARM_PACK_C else []


def _per(key: str, unit: float) -> Callable[[Situation, Any], float]:
    return lambda s, value: abs(value - _get(s, key)) / unit


def _fixed(cost: float) -> Callable[[Situation, Any], float]:
    return lambda _s, _value: cost


def _turned(s: Situation, value: float) -> float:
    return abs((value - s.flight.bearing_deg + 180) % 360 - 180) / 45


_MODE_WORDS = {
    SpeedMode.RTH: "by return to home",
    SpeedMode.SLOW: "manually in slow mode",
    SpeedMode.NORMAL: "manually in normal mode",
    SpeedMode.FAST: "manually in fast mode",
}
_OUT_WORDS = {SpeedMode.SLOW: "slow mode", SpeedMode.NORMAL: "the usual mode", SpeedMode.FAST: "fast mode"}
_HEIGHTS = frozenset({"flight.height_m", "settings.rth_altitude_m"})
_PLACES = frozenset({"flight.distance_m", "flight.bearing_deg", "flight.height_m"})
_LOWEST_M = 10.0
"""No fix asks for flying lower than this [m]: nobody would."""
_CLIMB_CURES = frozenset({"signal.margin", "clear.outbound", "clear.station", "land.moves"})


def _only(*checks: str) -> Callable[[Assessment], frozenset[str]]:
    return lambda _a: frozenset(checks)


def _hover_cures(a: Assessment) -> frozenset[str]:
    """Hover is an answer to a lost link, and to a return height only where none works."""
    none = a.return_height.recommended_m is None
    return frozenset({"return.lost_link", "return.clearance"} if none else {"return.lost_link"})


def _limit_stops(name: str) -> Stops:
    """The limit, in steps of ten metres, that just lets the flight and the return through."""

    def stops(a: Assessment) -> list[Any]:
        s = a.situation
        now = getattr(s.settings, name)
        needs = s.return_height_m if name == "max_altitude_m" else s.flight.distance_m
        wanted = math.ceil(needs / 10 + 1e-9) * 10.0
        return [] if now is None or now >= needs else [wanted]

    return stops


PARAMETERS: tuple[Parameter, ...] = (
    Parameter("flight.distance_m", _down("flight.distance_m", 5, 5), True, _per("flight.distance_m", 100),
              lambda v, u: f"Stay within {u.length(v)}"),
    Parameter("flight.height_m", _down("flight.height_m", 1, _LOWEST_M), True, _per("flight.height_m", 15),
              lambda v, u: f"Fly at {u.length(v)}"),
    Parameter("flight.height_m", _up("flight.height_m", 1, lambda s: 0.9 * s.minimums.legal_height_m), True,
              _per("flight.height_m", 15), lambda v, u: f"Climb to {u.length(v)}", only=lambda _a: _CLIMB_CURES),
    Parameter("flight.station_min", _down("flight.station_min", 0.5), True, _per("flight.station_min", 4),
              lambda v, _u: f"Stay {v:g} min filming"),
    Parameter("settings.rth_altitude_m", _towards_recommended, True, _per("settings.rth_altitude_m", 30),
              lambda v, u: f"Set the return height to {u.length(v)}"),
    Parameter("flight.bearing_deg", _bearings, False, _turned, lambda v, _u: f"Fly out towards {angle(v)}"),
    Parameter("flight.return_mode", _ways_home, False,
              _fixed(0.6), lambda v, _u: f"Fly home {_MODE_WORDS[v]}"),
    Parameter("flight.outbound_mode", _modes("flight.outbound_mode", SpeedMode.SLOW, SpeedMode.NORMAL, SpeedMode.FAST),
              False, _fixed(0.8), lambda v, _u: f"Fly out in {_OUT_WORDS[v]}",
              only=_only("battery.budget", "battery.reach", "clear.station", "wind.outbound")),
    Parameter("pack.charge_pct", lambda a: [100.0] if a.situation.pack.charge_pct < 100 else [], False, _fixed(0.7),
              lambda _v, _u: "Use a full battery"),
    Parameter("pack.temperature_c",
              _warms, False, _fixed(0.7), lambda v, u: f"Warm the battery to {u.temperature(v)} first"),
    Parameter("settings.lost_link", lambda a: [x for x in LostLink if x is not a.situation.settings.lost_link], False,
              _fixed(0.2), lambda v, _u: f"Set lost link to {v}", only=_hover_cures),
    Parameter("settings.max_altitude_m", _limit_stops("max_altitude_m"), False, _fixed(0.2),
              lambda v, u: f"Set the height limit to {u.length(v)}", only=_only("settings.limits")),
    Parameter("settings.max_distance_m", _limit_stops("max_distance_m"), False, _fixed(0.2),
              lambda v, u: f"Set the distance limit to {u.length(v)}", only=_only("settings.limits")),
    Parameter("aircraft.payload_g", lambda a: [0.0] if a.situation.aircraft.payload_g > 0 else [], False, _fixed(0.8),
              lambda _v, _u: "Take the payload off"),
    Parameter("aircraft.attachments", lambda a: [()] if a.situation.aircraft.attachments else [], False, _fixed(0.9),
              lambda _v, _u: "Take off what is attached"),
    Parameter("takeoff_at", _waits, False, lambda s, v: (v - s.takeoff_at) / timedelta(hours=1),
              lambda v, _u: f"Wait until {day_of(v)}, {v:%H:%M}"),
)  # fmt: skip


class Probes:
    """An assessed situation with one parameter turned, at any stop: assessed once, whichever checks ask."""

    def __init__(self, assessment: Assessment) -> None:
        self.assessment = assessment
        self._assessed: dict[tuple[str, Any], Assessment] = {}
        self._stops: dict[Parameter, list[Any]] = {}
        self._judged: dict[tuple[tuple[str, Any], ...], Judgement] = {}

    @property
    def situation(self) -> Situation:
        return self.assessment.situation

    def stops(self, parameter: Parameter) -> list[Any]:
        if parameter not in self._stops:
            self._stops[parameter] = parameter.stops(self.assessment)
        return self._stops[parameter]

    def assessed(self, key: str, value: Any) -> Assessment:
        """The situation with a key of the plan document at a value."""
        turn = key, value
        if turn not in self._assessed:
            self._assessed[turn] = self.assessment.turned(changed(self.situation, *turn))
        return self._assessed[turn]

    def finding(self, check: Check, parameter: Parameter, value: Any) -> Finding | None:
        """What a check finds with a parameter at a stop; None where it does not apply then."""
        return _finding(check, self.assessed(parameter.key, value))

    def judged(self, turns: tuple[tuple[str, Any], ...]) -> Judgement:
        """The situation with keys of the plan document at values, judged whole."""
        if turns not in self._judged:
            first, *others = turns
            turned = self.assessed(*first)
            for key, value in others:
                turned = turned.turned(changed(turned.situation, key, value))
            self._judged[turns] = judge_assessed(turned)
        return self._judged[turns]


def _finding(check: Check, assessment: Assessment) -> Finding | None:
    return check.find(assessment) if check.applies(assessment) else None


def _touches(check: Check, probes: Probes, parameter: Parameter, now: Finding | None) -> bool:
    """Whether turning a parameter, a little, half or all the way, moves what the check finds now."""
    only = parameter.only(probes.assessment)
    if only is not None and check.id not in only:
        return False
    stops = probes.stops(parameter)
    if only is not None or not stops:
        return bool(stops)
    if now is not None and now.value is None:
        return True  # what has no number may move without showing it
    tried = {0, len(stops) // 2, len(stops) - 1}
    return any(probes.finding(check, parameter, stops[i]) != now for i in tried)


def _first_good(check: Check, probes: Probes, parameter: Parameter) -> Any | None:
    """The nearest stop of a parameter that clears a check, or None."""
    stops = probes.stops(parameter)

    def good(value: Any) -> bool:
        found = probes.finding(check, parameter, value)
        return found is not None and found.status is Status.PASS

    if not parameter.graded:
        return next((value for value in stops if good(value)), None)
    if not stops or not good(stops[-1]):
        # The far end may be too far (a return height under the trees); nearby may still do.
        return next((value for value in islice(stops, 3) if good(value)), None)
    low, high = 0, len(stops) - 1
    while low < high:
        middle = (low + high) // 2
        if good(stops[middle]):
            high = middle
        else:
            low = middle + 1
    return stops[low]


Found = tuple[float, tuple[tuple[Parameter, Any], ...]]


def _singles(check: Check, probes: Probes, parameters: Sequence[Parameter]) -> Iterator[Found]:
    for parameter in parameters:
        value = _first_good(check, probes, parameter)
        if value is not None:
            yield parameter.cost(probes.situation, value), ((parameter, value),)


def _some_stops(stops: list[Any], parameter: Parameter) -> list[Any]:
    """A few stops to combine with another parameter: halfway and the far end, or each kind."""
    if parameter.key == "flight.bearing_deg":
        return stops[5::18]
    return stops[len(stops) // 2 :: max(1, (len(stops) - 1) // 2)] if parameter.graded else stops


def _pairs(check: Check, probes: Probes, parameters: Sequence[Parameter]) -> Iterator[Found]:
    situation = probes.situation
    for i, first in enumerate(parameters):
        for value in _some_stops(probes.stops(first), first):
            turned = Probes(probes.assessed(first.key, value))
            for second in parameters[i + 1 :]:
                if second.key == first.key or not second.graded:
                    continue
                other = _first_good(check, turned, second)
                if other is not None:
                    cost = first.cost(situation, value) + second.cost(situation, other)
                    yield cost, ((first, value), (second, other))


def _prove(
    before: Judgement, probes: Probes, check: Check, found: Found, units: Units
) -> tuple[tuple[bool, float], Fix] | None:
    """Judge the changed plan whole; the rank and the fix.

    None when the check itself would not pass, as by what nobody has said; when the verdict would be worse, or when
    another check would fail for it: clearing one door by closing another is no fix.
    """
    cost, turns = found
    after = probes.judged(tuple((parameter.key, value) for parameter, value in turns))
    if not any(j.check.id == check.id and j.finding.status is Status.PASS for j in after.judged):
        return None
    was = {j.check.id: SEVERITY[j.finding.status] for j in before.judged}
    worse = [j for j in after.judged if SEVERITY[j.finding.status] > was.get(j.check.id, 0)]
    if STRICTER[after.verdict] > STRICTER[before.verdict] or any(j.finding.status is Status.FAIL for j in worse):
        return None
    if any(parameter.key in _PLACES for parameter, _ in turns) and any(
        j.check.id.startswith("clear.") and j.finding.status is not Status.PASS for j in worse
    ):
        return None  # no way out ends at or beside something
    if any(parameter.key == "settings.rth_altitude_m" for parameter, _ in turns) and any(
        j.check.id == "return.clearance" and j.finding.status is not Status.PASS for j in after.judged
    ):
        return None  # no fix leaves the return height wrong
    said = [parameter.say(value, units) for parameter, value in turns]
    sentence = " and ".join([said[0], *(w[0].lower() + w[1:] for w in said[1:])])
    if worse:
        sentence += f", but this makes worse: {', '.join(j.check.label.lower() for j in worse)}"
    fix = Fix(
        changes=tuple((parameter.key, value) for parameter, value in turns),
        sentence=sentence + ".",
        verdict=after.verdict,
        worsens=tuple(j.check.label for j in worse),
    )
    return (bool(worse), cost), fix


def fixes(judgement: Judgement, check: Check, units: Units = METRIC, probes: Probes | None = None) -> tuple[Fix, ...]:
    """Up to three fixes that clear a check, the smallest first, those that worsen something last.

    The smallest single change of each kind; where no single one clears it, the smallest pair.
    Nothing for a check that passes or is not known. probes: of the judged situation, where other checks ask too.
    """
    found = next((j.finding for j in judgement.judged if j.check.id == check.id), None)
    if found is None or found.status in (Status.PASS, Status.UNKNOWN):
        return ()
    probes = probes or Probes(judgement.assessment)
    now = _finding(check, judgement.assessment)
    touching = [p for p in PARAMETERS if _touches(check, probes, p, now)]
    # The higher of the two heights decides, so each alone may move nothing and both together much.
    together = [p for p in PARAMETERS if p in touching or (p.key in _HEIGHTS and p.only(judgement.assessment) is None)]
    for search, parameters in ((_singles, touching), (_pairs, together)):
        ways = sorted(search(check, probes, parameters), key=lambda way: way[0])[:_MOST_TRIED]
        proven = [p for p in (_prove(judgement, probes, check, way, units) for way in ways) if p is not None]
        if proven:
            return tuple(fix for _, fix in sorted(proven, key=lambda p: p[0])[:MOST_OFFERED])
    return ()


def written_value(value: Any) -> Any:
    """A fix's value as the plan document writes it."""
    if value == ():
        return []
    return value.isoformat() if isinstance(value, datetime) else value

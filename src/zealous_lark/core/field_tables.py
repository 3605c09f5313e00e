"""Field tables: what a flight would be judged at other readings, made ahead, looked up where nothing can be computed.

Aviation's performance charts do the same. Of every check a table holds the status at the nodes of a lattice: speed and
direction of a reading, and charge; beside it the gust, and for each value that hangs on no wind a line of its own.
Looked up is the worst of the nodes around a value, never what lies between them. What no table covers is not known.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Literal

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.assumed import Assumed, doubted
from zealous_lark.core.battery import usable_wh
from zealous_lark.core.checks import Check, Finding, Status, all_checks
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import counts_as

CHARGES_PCT = tuple(float(c) for c in range(100, 39, -3))
_SPEEDS, _TURN_DEG = 12, 20
_COARSE_SPEEDS, _COARSE_TURN_DEG = 5, 30
_EXCESSES_MS = (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.5, 8.0, 11.0, 15.0)
"""Gust over the mean wind of a reading [m/s]."""
_COARSE_EXCESSES_MS = (0.0, 1.0, 2.0, 3.0, 5.0, 8.0, 15.0)
STRONGEST_MS = 24.0
_GUST_SPEEDS, _COARSE_GUST_SPEEDS = 30, 15
_STEPS = 12
_TEMPERATURES_C = tuple(float(t) for t in range(-20, 46))
_SATELLITES = (None, *(float(n) for n in range(25)))
NEVER_SAID = frozenset({Assumed.CHARGE.value, Assumed.PACK_TEMPERATURE.value, Assumed.WINDS.value})
"""What is read on site. Tables take it as said: they hold for a plan only once somebody has said it."""


ON_CHARGE = frozenset({"battery.charge"})
"""Checks of what the gauge reads, whatever energy that is: the same however cold the battery is."""
HAND_M, BEAUFORT_M = 2.0, 10.0
"""Heights of a reading by meter, and of one by what leaves and waves do [m]."""


class Key(StrEnum):
    """What may be another on site, by the plan document's key."""

    CHARGE = "pack.charge_pct"
    PACK_TEMPERATURE = "pack.temperature_c"
    DISTANCE = "flight.distance_m"
    HEIGHT = "flight.height_m"
    RETURN_HEIGHT = "settings.rth_altitude_m"
    SATELLITES = "settings.satellites"
    HOME_POINT = "settings.home_point_set"
    COMPASS = "settings.compass_checked"


Value = float | bool | None
Statuses = dict[str, str]
"""By check, a digit for each node: 0 pass, 1 care, 2 not known, 3 fail."""


@dataclass(frozen=True, slots=True)
class Grid:
    """Statuses by speed [m/s], direction [°] and charge [%], the last index moving fastest; and by speed and gust.

    gusts: of each check that the gust moves, or the speed whatever its direction, by speed and excess over the mean
    [m/s]; the first is: none read.
    """

    speeds_ms: tuple[float, ...]
    directions_deg: tuple[float, ...]
    charges_pct: tuple[float, ...]
    checks: Statuses
    gust_speeds_ms: tuple[float, ...]
    excesses_ms: tuple[float | None, ...]
    gusts: Statuses


@dataclass(frozen=True, slots=True)
class Shape:
    """The grid of a flight of another distance, height or return height; key None: as planned."""

    key: Key | None
    value: float | None
    grid: Grid


@dataclass(frozen=True, slots=True)
class Line:
    """Statuses along one value that no wind moves, with the home point as it is given; home "any": however it is."""

    key: Key
    nodes: tuple[Value, ...]
    home: bool | Literal["any"] | None
    checks: Statuses


@dataclass(frozen=True, slots=True)
class FieldTables:
    """The tables of one plan for one kind of reading; source None: for its wind as planned.

    values: what may be another, as planned. planned: the statuses as planned, which hold for every check that no table
    has. usable: of battery temperatures [°C], the share of the energy as planned that is left, never over 1.
    """

    source: WindSource | None
    height_m: float | None
    values: dict[Key, Value]
    planned: dict[str, int]
    shapes: tuple[Shape, ...]
    lines: tuple[Line, ...]
    usable: tuple[tuple[float, float], ...]


def _set(situation: Situation, key: Key, value: Value) -> Situation:
    part, name = key.split(".")
    return replace(situation, **{part: replace(getattr(situation, part), **{name: value})})


def _value(situation: Situation, key: Key) -> Value:
    part, name = key.split(".")
    found: Value = getattr(getattr(situation, part), name)
    return found if found is None or isinstance(found, bool) else float(found)


@dataclass(frozen=True)
class _Prober:
    """Judges a situation at other values: only checks that one of them moves; what rests on none is computed once.

    still: how much every other check counts.
    """

    base: Assessment
    moving: tuple[Check, ...]
    still: dict[str, int]

    @classmethod
    def of(cls, base: Assessment, tried: Iterable[Situation], without: Iterable[str] = ()) -> _Prober:
        """Checks move whose findings differ anywhere in what is tried; those named are left out altogether."""
        kept = [c for c in all_checks() if c.id not in without]

        def findings(a: Assessment) -> dict[str, Finding]:
            return {c.id: c.find(a) for c in kept if c.applies(a)}

        here = findings(base)
        moved = {c for s in tried for c, f in _differing(here, findings(base.turned(s)))}
        moving = tuple(c for c in kept if c.id in moved)
        others = [c for c in kept if c.id not in moved]
        return cls(base, moving, _severities(base, others))

    def moved(self, situation: Situation) -> dict[str, int]:
        """How much the checks that move count: what is still may be put right by a line."""
        return _severities(self.base.turned(situation), self.moving)

    def along(self, situation: Situation, charges: Sequence[float], tried: Iterable[int]) -> list[dict[str, int]]:
        """Statuses at falling charges, each check taken to get worse with them: only where one turns is looked at.

        Once something fails it fails at every lower charge, and what else turns there no longer matters.
        tried: where they turned close by, and therefore probably do here.
        """
        found: dict[int, dict[str, int]] = {}

        def look(n: int) -> dict[str, int]:
            if n not in found:
                found[n] = self.moved(_set(situation, Key.CHARGE, charges[n]))
            return found[n]

        def between(a: int, b: int) -> None:
            if b - a < 2 or _fails(look(a)) or look(a) == look(b):
                return
            middle = next((t for t in near if a < t < b), (a + b) // 2)
            look(middle)
            between(a, middle)
            between(middle, b)

        near = sorted({n for t in tried for n in (t - 1, t)})
        if not _fails(look(0)):
            between(0, len(charges) - 1)
        looked = sorted(found)
        # Between two that agree everything agrees; the worse side of a turn is always looked at itself.
        return [self.still | found[max(k for k in looked if k <= n)] for n in range(len(charges))]


def _differing(a: Mapping[str, Finding], b: Mapping[str, Finding]) -> Iterator[tuple[str, Finding | None]]:
    for check in {*a, *b}:
        if a.get(check) != b.get(check):
            yield check, b.get(check)


def _severities(assessment: Assessment, checks: Iterable[Check]) -> dict[str, int]:
    found = [(c, c.find(assessment)) for c in checks if c.applies(assessment)]
    if assessment.situation.assumed:
        found = doubted(assessment, found)
    return {c.id: severity for c, f in found if (severity := SEVERITY[counts_as(f)])}


def _read(s: Situation, source: WindSource | None, height_m: float, speed: float, direction: float,
          gust: float | None) -> Situation:  # fmt: skip
    """Another reading of the wind, added to those that are there."""
    if source is None:
        return s
    level = WindLevel(height_m, speed, direction, source, gust, s.takeoff_at)
    return replace(s, weather=replace(s.weather, winds=(*s.weather.winds, level)))


def _fails(statuses: Mapping[str, int]) -> bool:
    return SEVERITY[Status.FAIL] in statuses.values()


def _turns(row: Sequence[dict[str, int]]) -> list[int]:
    return [n for n in range(1, len(row)) if row[n] != row[n - 1]]


def _moved(
    nodes: Sequence[Mapping[str, int]], planned: Mapping[str, int], skip: Iterable[str] = (), always: Iterable[str] = ()
) -> Statuses:
    """The statuses of every check that is anywhere another than planned, and of some always, as digits."""
    every = {check for node in nodes for check in node} | set(planned)
    moved = {c for c in every if any(node.get(c, 0) != planned.get(c, 0) for node in nodes)} | set(always)
    moved -= set(skip)
    return {c: "".join(str(node.get(c, 0)) for node in nodes) for c in sorted(moved)}


@dataclass(frozen=True)
class _Maker:
    """Makes the grids of one plan for readings of a kind.

    planned: how much its checks count. energy: checks of the energy in the battery, which every grid has.
    """

    source: WindSource | None
    height_m: float
    planned: dict[str, int]
    energy: frozenset[str]

    def read(self, s: Situation, speed: float, direction: float, gust: float | None) -> Situation:
        return _read(s, self.source, self.height_m, speed, direction, gust)

    def prober(self, s: Situation) -> _Prober:
        """What moves anywhere between calm and the strongest wind, a full and an empty battery."""
        winds = ((0.0, 0.0), (3.0, 2.0), (7.0, 5.0), (STRONGEST_MS, 0.0)) if self.source else ((0.0, 0.0),)
        tried = [
            _set(self.read(s, speed, direction, speed + more), Key.CHARGE, charge)
            for speed, more in winds
            for direction in ((5.0, 95.0, 185.0, 275.0) if self.source else (0.0,))
            for charge in (CHARGES_PCT[0], 60.0, CHARGES_PCT[-1])
        ]
        # What no reading moves may still be another than without one.
        return _Prober.of(Assessment(tried[0]), tried, ON_CHARGE)

    def strongest(self, prober: _Prober, s: Situation) -> float:
        """The least speed [m/s], to a tenth, from which on a reading keeps it down from every side."""
        full = _set(s, Key.CHARGE, CHARGES_PCT[0])

        def down(speed: float) -> bool:
            return all(_fails(prober.moved(self.read(full, speed, d, speed))) for d in (0.0, 90.0, 180.0, 270.0))

        low, high = 0.0, STRONGEST_MS
        if not down(high):
            return high
        while high - low > 0.1:
            middle = (low + high) / 2
            low, high = (low, middle) if down(middle) else (middle, high)
        # Where it is down even in a calm, the grid still has steps.
        return max(math.ceil(high * 10) / 10, 0.6)

    def grid(self, s: Situation, *, coarse: bool) -> Grid:
        """The grid of a situation."""
        prober = self.prober(s)
        if self.source is None:
            nodes = prober.along(s, CHARGES_PCT, ())
            checks = _moved(nodes, self.planned, ON_CHARGE, self.energy)
            return Grid((0.0,), (0.0,), CHARGES_PCT, checks, (0.0,), (None,), {})
        count, turn = (_COARSE_SPEEDS, _COARSE_TURN_DEG) if coarse else (_SPEEDS, _TURN_DEG)
        top = self.strongest(prober, s)
        speeds = tuple(round(top * n / count, 2) for n in range(count + 1))
        directions = tuple(float(d) for d in range(0, 360, turn))
        excesses = (None, *(_COARSE_EXCESSES_MS if coarse else _EXCESSES_MS))
        by_gust, by_speed = self._by_gust(prober, s, top, 4 if coarse else 10)
        steps = _COARSE_GUST_SPEEDS if coarse else _GUST_SPEEDS
        gust_speeds = tuple(round(top * n / steps, 2) for n in range(steps + 1))
        gusts = self._gusts(prober, s, by_gust | by_speed, gust_speeds, excesses)
        rest = replace(prober, moving=tuple(c for c in prober.moving if c.id not in by_speed))
        nodes = []
        beside: list[list[int]] = [[] for _ in directions]
        for speed in speeds:
            for n, direction in enumerate(directions):
                there = self.read(s, speed, direction, speed)
                row = rest.along(there, CHARGES_PCT, beside[n] or beside[n - 1])
                beside[n] = _turns(row)
                nodes += row
        checks = _moved(nodes, self.planned, ON_CHARGE | by_speed, self.energy)
        return Grid(speeds, directions, CHARGES_PCT, checks, gust_speeds, excesses, gusts)

    def _gusts(
        self, prober: _Prober, s: Situation, of: set[str], speeds: Sequence[float], excesses: Sequence[float | None]
    ) -> Statuses:
        checks = [c for c in prober.moving if c.id in of]
        rows = [
            _severities(prober.base.turned(self.read(s, v, s.flight.bearing_deg, None if e is None else v + e)), checks)
            for v in speeds
            for e in excesses
        ]
        return {c: "".join(str(row.get(c, 0)) for row in rows) for c in sorted(of)}

    def _by_gust(self, prober: _Prober, s: Situation, top: float, steps: int) -> tuple[set[str], set[str]]:
        """Checks that the gust moves, and those that neither direction nor charge does, in steps up to a top speed."""
        ahead = s.flight.bearing_deg
        by_gust: set[str] = set()
        other: set[str] = set()
        for v in (top * n / steps for n in range(steps + 1)):
            first, *more = self._findings(prober, [self.read(s, v, ahead, g) for g in (v, None, v + 3, v + 15)])
            by_gust |= {check for findings in more for check, _ in _differing(first, findings)}
            turned = [self.read(s, v, ahead + d, v) for d in (0, 40, 85, 130, 180, 230, 275, 320)]
            spent = [_set(x, Key.CHARGE, c) for x in (turned[0], turned[4]) for c in (100.0, 70.0, 40.0)]
            first, *more = self._findings(prober, turned + spent)
            other |= {check for findings in more for check, _ in _differing(first, findings)}
        return by_gust, {c.id for c in prober.moving} - other

    @staticmethod
    def _findings(prober: _Prober, tried: Iterable[Situation]) -> list[dict[str, Finding]]:
        return [{c.id: c.find(a) for c in prober.moving if c.applies(a)} for a in map(prober.base.turned, tried)]


_SHAPES_OF: dict[Key, Callable[[float], list[float]]] = {
    Key.DISTANCE: lambda d: [round(share * d, 1) for share in (0.75, 0.5)],
    Key.HEIGHT: lambda h: [round(share * h, 1) for share in (0.75, 0.5)],
    Key.RETURN_HEIGHT: lambda h: [h - 10, h + 10, h + 20],
}
"""Flights beside the planned one, by the value that is another."""


def _other_shapes(situation: Situation) -> Iterator[tuple[Key, float]]:
    for key, others in _SHAPES_OF.items():
        planned = _number(situation, key)
        for value in others(planned):
            if value > 0 and value != planned:
                yield key, value


def _number(situation: Situation, key: Key) -> float:
    found = _value(situation, key)
    assert isinstance(found, int | float)
    return float(found)


def _line(
    s: Situation, key: Key, nodes: Sequence[Value], planned: dict[str, int], skip: Iterable[str],
    home: bool | Literal["any"] | None = "any",
) -> Line:  # fmt: skip
    there = s if home == "any" else _set(s, Key.HOME_POINT, home)
    at = [_set(there, key, value) for value in nodes]
    prober = _Prober.of(Assessment(there), at[:: max(len(at) // 8, 1)] + at[-1:], skip)
    return Line(key, tuple(nodes), home, _moved([prober.still | prober.moved(s) for s in at], planned, skip))


def _of_energy(s: Situation) -> frozenset[str]:
    """Checks that the energy in the battery moves."""
    found = [Assessment(_set(s, Key.CHARGE, c)) for c in (100.0, 80.0, 60.0, 40.0)]
    first, *others = [{c.id: c.find(a) for c in all_checks() if c.applies(a)} for a in found]
    return frozenset({check for other in others for check, _ in _differing(first, other)} - ON_CHARGE)


def _usable(s: Situation) -> tuple[tuple[float, float], ...]:
    def energy(temperature: float | None) -> float:
        return usable_wh(s.aircraft, replace(s.pack, temperature_c=temperature), s.weather.temperature_c)

    as_planned = energy(s.pack.temperature_c)
    return tuple((t, min(energy(t) / as_planned, 1.0)) for t in _TEMPERATURES_C)


def field_tables(situation: Situation, source: WindSource | None, height_m: float = HAND_M) -> FieldTables:
    """The tables of a plan for readings of a kind at a height [m]; source None: for its wind as planned.

    A reading is taken as one of the take-off's time.
    """
    said = NEVER_SAID if source is not None else NEVER_SAID - {Assumed.WINDS.value}
    s = replace(situation, assumed=situation.assumed - said)
    planned = _severities(Assessment(s), all_checks())
    deck = s.site.from_deck
    maker = _Maker(source, height_m, planned, _of_energy(s))
    shapes = [Shape(None, None, maker.grid(s, coarse=deck))]
    if source is None or (source is WindSource.MEASURED and height_m <= HAND_M and not deck):
        shapes += [Shape(k, v, maker.grid(_set(s, k, v), coarse=True)) for k, v in _other_shapes(s)]
    by_wind = {c for shape in shapes for c in (*shape.grid.checks, *shape.grid.gusts)}
    lines = [
        _line(s, Key.CHARGE, tuple(float(c) for c in range(100, 39, -1)), planned, by_wind - ON_CHARGE),
        _line(s, Key.PACK_TEMPERATURE, _TEMPERATURES_C, planned, by_wind),
        # While neither satellites nor home point are known they do not count yet: they are looked at together.
        *(_line(s, Key.SATELLITES, _SATELLITES, planned, by_wind, home) for home in (None, False, True)),
        _line(s, Key.COMPASS, (None, False, True), planned, by_wind),
    ]
    for key in _SHAPES_OF:
        others = [shape.value for shape in shapes if shape.key is key and shape.value is not None]
        if others:
            now = _number(s, key)
            low, high = min(*others, now), max(*others, now)
            nodes = sorted({now, *(round(low + (high - low) * n / _STEPS, 1) for n in range(_STEPS + 1))})
            # The best that could be read there: what fails even then fails between two grids too.
            best = maker.read(_set(s, Key.CHARGE, CHARGES_PCT[0]), 0.0, s.flight.bearing_deg, 0.0)
            lines.append(_line(best, key, nodes, _severities(Assessment(best), all_checks()), ()))
    values = {key: _value(s, key) for key in Key}
    height = None if source is None else height_m
    return FieldTables(source, height, values, planned, tuple(shapes), tuple(lines), _usable(s))

"""Looking up in field tables: the worst of the nodes around what was read, never better than the whole check.

The device does the same without the server (`along/fieldTables.ts`, held against this by shared cases).
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from zealous_lark.core.checks.base import SEVERITY, Status
from zealous_lark.core.field_tables import STRONGEST_MS, FieldTables, Grid, Key, Line, Value

_SHAPES = (Key.DISTANCE, Key.HEIGHT, Key.RETURN_HEIGHT)
_DOWN = {"wind.steady": SEVERITY[Status.FAIL]}


@dataclass(frozen=True, slots=True)
class Reading:
    """What was read on site: the wind where the tables are for one, and every value that is another than planned."""

    speed_ms: float = 0.0
    direction_deg: float = 0.0
    gust_ms: float | None = None
    changed: Mapping[Key, Value] = field(default_factory=dict)


class _NotCoveredError(Exception):
    """No table has it."""


def look_up(tables: FieldTables, reading: Reading) -> dict[str, int] | None:
    """How much each check counts at a reading: 0 pass, 1 care, 2 not known, 3 fail; None where no table covers it."""
    try:
        return _looked_up(tables, reading)
    except _NotCoveredError:
        return None


def worst(statuses: Mapping[str, int]) -> int:
    """The worst of all."""
    return max(statuses.values(), default=0)


def _around(nodes: Sequence[float], value: float) -> set[int]:
    """The nodes at, or on both sides of, a value."""
    if not nodes[0] <= value <= nodes[-1]:
        raise _NotCoveredError
    return {bisect_right(nodes, value) - 1, bisect_left(nodes, value)}


def _looked_up(tables: FieldTables, reading: Reading) -> dict[str, int]:
    now = {**tables.values, **reading.changed}
    changed = {key for key in Key if now[key] != tables.values[key]}
    shaped = [key for key in _SHAPES if key in changed]
    if len(shaped) > 1:
        raise _NotCoveredError
    found: dict[str, list[int]] = defaultdict(list)
    charge = _charge(tables, now)
    for grid in _grids(tables, shaped[0] if shaped else None, now):
        for check, digit in _in_grid(grid, reading, charge):
            found[check].append(digit)
    for line in tables.lines:
        home_changed = Key.HOME_POINT in changed and line.key is Key.SATELLITES
        if (line.key in changed or home_changed) and line.home in ("any", now[Key.HOME_POINT]):
            for check, digit in _on_line(line, now[line.key]):
                found[check].append(digit)
    return {**tables.planned, **{check: max(digits) for check, digits in found.items()}}


def _charge(tables: FieldTables, now: Mapping[Key, Value]) -> float:
    """The charge [%] that would hold as much energy in a battery as warm as planned."""
    charge, temperature = now[Key.CHARGE], now[Key.PACK_TEMPERATURE]
    assert isinstance(charge, int | float)
    if temperature == tables.values[Key.PACK_TEMPERATURE]:
        return charge
    if temperature is None:
        raise _NotCoveredError
    nodes = [t for t, _ in tables.usable]
    return charge * min(tables.usable[n][1] for n in _around(nodes, float(temperature)))


def _grids(tables: FieldTables, key: Key | None, now: Mapping[Key, Value]) -> Iterator[Grid]:
    own = next(s.grid for s in tables.shapes if s.key is None)
    if key is None:
        yield own
        return
    of_key = {s.value: s.grid for s in tables.shapes if s.key is key} | {tables.values[key]: own}
    nodes = sorted(float(v) for v in of_key if v is not None)
    value = now[key]
    assert isinstance(value, int | float)
    for n in _around(nodes, float(value)):
        yield of_key[nodes[n]]


def _in_grid(grid: Grid, reading: Reading, charge: float) -> Iterator[tuple[str, int]]:
    charges, turns = grid.charges_pct, len(grid.directions_deg)
    at = next((n for n, c in enumerate(charges) if c <= charge + 1e-9), None)
    if at is None:
        raise _NotCoveredError
    if turns == 1:
        for check, digits in grid.checks.items():
            yield check, int(digits[at])
        return
    turn = 360 / turns
    # Between two directions the wind may come straighter from ahead than in either of them.
    speed = reading.speed_ms / math.cos(math.radians(turn / 2))
    if speed > grid.speeds_ms[-1]:
        if grid.speeds_ms[-1] >= STRONGEST_MS:
            raise _NotCoveredError
        yield from _DOWN.items()
        return
    speeds = _around(grid.speeds_ms, reading.speed_ms) | {bisect_left(grid.speeds_ms, speed)}
    left = math.floor(reading.direction_deg % 360 / turn)
    sides = {left % turns, math.ceil(reading.direction_deg % 360 / turn) % turns}
    for check, digits in grid.checks.items():
        for s in speeds:
            for d in sides:
                yield check, int(digits[(s * turns + d) * len(charges) + at])
    gusts = _gust_nodes(grid, reading)
    for check, digits in grid.gusts.items():
        for s in _around(grid.gust_speeds_ms, reading.speed_ms):
            for g in gusts:
                yield check, int(digits[s * len(grid.excesses_ms) + g])


def _gust_nodes(grid: Grid, reading: Reading) -> set[int]:
    if reading.gust_ms is None:
        return {0}
    excesses = [e for e in grid.excesses_ms if e is not None]
    return {n + 1 for n in _around(excesses, max(reading.gust_ms - reading.speed_ms, 0.0))}


def _on_line(line: Line, value: Value) -> Iterator[tuple[str, int]]:
    if value is None or isinstance(value, bool):
        if value not in line.nodes:
            raise _NotCoveredError
        nodes = {line.nodes.index(value)}
    else:
        numbers = [(float(v), n) for n, v in enumerate(line.nodes) if v is not None]
        numbers.sort()
        # More satellites than any table asks for are never worse.
        most = numbers[-1][0] if line.key is Key.SATELLITES else math.inf
        nodes = {numbers[n][1] for n in _around([v for v, _ in numbers], min(value, most))}
    for check, digits in line.checks.items():
        for n in nodes:
            yield check, int(digits[n])

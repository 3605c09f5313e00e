"""Mutants of the core: one small fault at a time in the running code, and whether the tests find it.

`python -m tests.soak.mutants [COUNT] [SEED] [PROCESSES]` prints a point for each that is found, each survivor as a
line, and the share that was found at the end. `make soak` runs it through `test_mutants`. Comparisons are turned, signs
and factors swapped, numbers moved, `and` and `or` exchanged, conditions negated; docstrings, sentences and annotations
are left alone.
"""

from __future__ import annotations

import ast
import gc
import os
import random
import signal
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from types import CodeType, FunctionType

import pytest

from tests.make import ROOT

SOURCE = ROOT / "src"
CORE = "zealous_lark/core"
TARGETS = (
    "air.py", "site_wind.py", "motion.py", "power.py", "trip.py", "radio.py", "sight.py", "return_height.py",
    "world.py", "best_way_home.py", "weather.py", "checks/base.py", "checks/battery.py", "checks/clear.py",
    "checks/going_home.py", "checks/land.py", "checks/over_ground.py", "checks/rules.py", "checks/settings.py",
    "checks/sight.py", "checks/signal.py", "checks/water.py", "checks/weather.py", "checks/wind.py",
)  # fmt: skip
OWN = {
    "air.py": "test_air.py", "site_wind.py": "test_air.py", "motion.py": "test_motion_power_battery.py",
    "power.py": "test_motion_power_battery.py", "trip.py": "test_trip.py", "radio.py": "test_radio_sight.py",
    "sight.py": "test_radio_sight.py", "return_height.py": "test_return_height.py",
    "best_way_home.py": "test_best_way_home.py", "weather.py": "test_checks_conditions.py",
    "checks/going_home.py": "test_checks.py", "checks/battery.py": "test_checks.py",
    "checks/over_ground.py": "test_checks.py", "checks/land.py": "test_moves_zones.py",
}  # fmt: skip
"""The tests that are most about a file, to be run first; of the others the whole plans are."""
PLANS = ("tests/plans/test_written.py", "tests/plans/test_whole_plans.py")
ALL = ("tests/core", "tests/plan/test_result.py")
SLOW = ("tests/core/prepare", "tests/core/postflight", "tests/core/preflight", "tests/core/test_threads.py",
        "tests/core/test_windows.py")  # fmt: skip
LONGEST_S = 600
"""A fault that keeps the tests this long counts as found."""
COMPARED = {ast.Lt: ast.GtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Lt, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
            ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}  # fmt: skip
RECKONED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Pow: ast.Mult}


_ZERO = "a speed of exactly nothing: divided by it, the way costs infinitely much, and is none in either case"
_EDGE = "an edge between two real numbers that no plan meets to the last digit; on both sides of it the same is found"
EQUIVALENT = {
    ("trip.py", "home >= 0"): _ZERO, ("trip.py", "out >= 0"): _ZERO, ("trip.py", "wh < to_spend"): _EDGE,
    ("trip.py", "ray.top_m >= 0"): "what is as high as the ground at hand needs no more than the floor",
    ("best_way_home.py", "way.landing_pct >= rival.landing_pct"): _EDGE,
    ("checks/battery.py", "used >= 0.8"): _EDGE, ("checks/battery.py", "lands >= FORCED_LANDING_PCT"): _EDGE,
    ("checks/clear.py", "first.distance_m < PAD_FAIL_M + EDGE_M"): _EDGE,
    ("checks/going_home.py", "fixed >= r.highest_m"): _EDGE, ("checks/over_ground.py", "out >= 0"): _ZERO,
    ("trip.py", "41"): "one more halving of what is below a micrometre",
    ("world.py", "0.1"): "less than the least spread", ("world.py", "0.113"): "no way is that short",
    ("checks/land.py", "swept.highest_agl_m >= ceiling"): _EDGE, ("checks/over_ground.py", "home < 0"): _ZERO,
    ("checks/over_ground.py", "a.trip is None and a.wind_planned is None"): "there is a trip where there is a wind",
    ("checks/wind.py", "a.wind is None and a.wind_return is None"): "the two are known or unknown together",
    ("checks/wind.py", "used >= 1"): _EDGE, ("checks/wind.py", "used >= 0.8"): _EDGE,
    ("checks/wind.py", "a.wind is None and wind is None"): "the two are known or unknown together",
    ("checks/wind.py", "w.speed_ms >= third"): _EDGE,
    ("checks/wind.py", "x.height_m >= top.height_m"): "the level at that height is the top itself",
    ("radio.py", "tree >= solid"): _EDGE, ("radio.py", "v >= -0.78"): "the loss is nothing at the edge",
    ("radio.py", "self.distance_m >= 0"): "nothing stands at no distance",
}  # fmt: skip
"""Faults that no plan can tell from the code, with the reason; they are not counted."""


@dataclass(frozen=True)
class Mutant:
    """A fault: file, line, what it says now, and the whole mutated file, compiled."""

    path: str
    line: int
    says: str
    code: CodeType


def _sites(tree: ast.Module) -> list[ast.AST]:
    """Nodes inside functions that can be mutated; what only words and types are made of is left out."""
    found: list[ast.AST] = []

    def walk(node: ast.AST) -> None:
        for child in ast.iter_child_nodes(node):
            if isinstance(child, (ast.JoinedStr, ast.Raise, ast.Assert, ast.arguments)):
                continue
            if isinstance(child, ast.AnnAssign):
                if child.value is not None:
                    walk(ast.Expr(child.value))
                continue
            swaps = (
                (isinstance(child, ast.Compare) and type(child.ops[0]) in COMPARED)
                or (isinstance(child, ast.BinOp) and type(child.op) in RECKONED and not _words(child))
                or isinstance(child, (ast.BoolOp, ast.IfExp))
                or (isinstance(child, ast.UnaryOp) and isinstance(child.op, (ast.Not, ast.USub)))
                or (isinstance(child, ast.Constant) and type(child.value) in (int, float) and child.value != 1e-9)
            )
            if swaps:
                found.append(child)
            walk(child)

    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            for part in node.body:
                walk(part if isinstance(part, ast.stmt) else ast.Expr(part))
    return list(dict.fromkeys(found))


def _words(node: ast.BinOp) -> bool:
    return any(isinstance(x, ast.JoinedStr) or (isinstance(x, ast.Constant) and isinstance(x.value, str))
               for x in ast.walk(node))  # fmt: skip


def _turn(node: ast.AST) -> None:
    match node:
        case ast.Compare():
            node.ops[0] = COMPARED[type(node.ops[0])]()
        case ast.BinOp():
            node.op = RECKONED[type(node.op)]()
        case ast.BoolOp():
            node.op = ast.And() if isinstance(node.op, ast.Or) else ast.Or()
        case ast.IfExp():
            node.body, node.orelse = node.orelse, node.body
        case ast.UnaryOp():
            node.op = ast.UAdd() if isinstance(node.op, ast.USub) else node.op
            if isinstance(node.op, ast.Not):
                node.operand = ast.UnaryOp(ast.Not(), node.operand)
        case ast.Constant(value=value):
            node.value = value + 1 if isinstance(value, int) else value * 1.3 + 0.1


def mutants(count: int, seed: int) -> list[Mutant]:
    """So many mutants, drawn over all targets; fewer by those that no plan can tell from the code."""
    rng = random.Random(seed)
    every = []
    for target in TARGETS:
        path = f"{CORE}/{target}"
        text = (SOURCE / path).read_text()
        every += [(path, text, n) for n in range(len(_sites(ast.parse(text))))]
    made = []
    for path, text, n in sorted(rng.sample(every, min(count, len(every)))):
        tree = ast.parse(text)
        node = _sites(tree)[n]
        _turn(node)
        says = ast.unparse(node)[:100]
        if (path.removeprefix(f"{CORE}/"), says) in EQUIVALENT:
            continue
        code = compile(ast.fix_missing_locations(tree), str(SOURCE / path), "exec")
        made.append(Mutant(path, getattr(node, "lineno", 0), says, code))
    return made


def _functions(code: CodeType) -> Iterator[CodeType]:
    for inner in code.co_consts:
        if isinstance(inner, CodeType):
            yield inner
            yield from _functions(inner)


def _put_in(mutant: Mutant) -> None:
    """Give every living function of the mutated file its mutated code: all mutations are inside of functions."""
    mutated = {(code.co_qualname, code.co_firstlineno): code for code in _functions(mutant.code)}
    replaced = 0
    for function in gc.get_objects():
        if isinstance(function, FunctionType) and function.__code__.co_filename == mutant.code.co_filename:
            function.__code__ = mutated[function.__code__.co_qualname, function.__code__.co_firstlineno]
            replaced += 1
    if not replaced:
        raise LookupError(f"{mutant.path} is not imported: its mutants would all survive")


def _pytest(step: Sequence[str], *more: str) -> int:
    ignored = [f"--ignore={slow}" for slow in SLOW]
    words = ["-x", "-q", "-p", "no:randomly", "-p", "no:cacheprovider", "--timeout=60"]
    return int(pytest.main([*words, *ignored, *more, *step]))


def _child(mutant: Mutant | None) -> int:
    """In a process of its own: 1 if a test finds the fault, 0 if all pass, as they must without one."""
    own = None
    if mutant is not None:
        _put_in(mutant)
        own = OWN.get(mutant.path.removeprefix(f"{CORE}/"))
    steps = [[f"tests/core/{own}"]] if own else []
    steps += [list(PLANS), ["tests/core/test_checks.py", "tests/core/test_checks_conditions.py"], list(ALL)]
    return int(any(_pytest(step) for step in steps))


def _fork(mutant: Mutant | None) -> int:
    child = os.fork()
    if child == 0:
        result = 1
        try:
            signal.alarm(LONGEST_S)
            result = _child(mutant)
        finally:
            os._exit(result)
    return child


def survivors(count: int, seed: int, workers: int = 2) -> tuple[int, list[Mutant]]:
    """How many mutants there were, and those that no test found; one process of its own for each, forked from this."""
    made = mutants(count, seed)
    os.chdir(ROOT)
    os.environ["LARK_TRIES"] = "5"
    quiet = os.open(os.devnull, os.O_WRONLY)
    said = os.dup(1)
    os.dup2(quiet, 1)
    left: list[Mutant] = []
    running: dict[int, Mutant] = {}
    waiting = list(reversed(made))
    try:
        if _pytest([*PLANS, *ALL], "--collect-only"):
            raise LookupError("the tests cannot be collected")
        if os.waitpid(_fork(None), 0)[1]:
            raise LookupError("a test fails without any fault")
        while waiting or running:
            while waiting and len(running) < workers:
                mutant = waiting.pop()
                running[_fork(mutant)] = mutant
            child, status = os.wait()
            mutant = running.pop(child)
            if status == 0:
                left.append(mutant)
                os.write(said, f"\n{mutant.path}:{mutant.line}: {mutant.says}\n".encode())
            else:
                os.write(said, b".")
    finally:
        os.dup2(said, 1)
    return len(made), left


if __name__ == "__main__":
    wanted, drawn_by, beside = (int(x) for x in [*sys.argv[1:], *("150", "1", "2")[len(sys.argv) - 1 :]])
    total, left = survivors(wanted, drawn_by, beside)
    sys.stdout.write(f"\n{total - len(left)} of {total} found, {100 * (1 - len(left) / total):.1f}%\n")

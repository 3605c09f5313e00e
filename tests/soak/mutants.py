"""Mutants of the core: one small fault at a time in a copy of the source, and whether the tests find it.

`python -m tests.soak.mutants [COUNT] [SEED]` prints a point for each that is found, each survivor as a line, and the
share that was found at the end. `make soak` runs it through `test_mutants`. Comparisons are turned, signs and factors
swapped, numbers moved, `and` and `or` exchanged, conditions negated; docstrings, sentences and annotations are left
alone.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

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
    "air.py": "test_air.py", "site_wind.py": "test_air.py", "motion.py": "test_motion_power_pack.py",
    "power.py": "test_motion_power_pack.py", "trip.py": "test_trip.py", "radio.py": "test_radio_sight.py",
    "sight.py": "test_radio_sight.py", "return_height.py": "test_return_height.py",
    "best_way_home.py": "test_best_way_home.py", "weather.py": "test_checks_conditions.py",
    "checks/going_home.py": "test_checks.py", "checks/battery.py": "test_checks.py",
    "checks/over_ground.py": "test_checks.py", "checks/land.py": "test_moves_zones.py",
}  # fmt: skip
"""The tests that are most about a file, to be run first; of the others the whole plans are."""
PLANS = "tests/plans/test_whole_plans.py"
ALL = ("tests/core", "tests/plan/test_result.py")
SLOW = ("tests/core/kit", "tests/core/flown", "tests/core/walkround", "tests/core/test_threads.py",
        "tests/core/test_windows.py")  # fmt: skip
COMPARED = {ast.Lt: ast.GtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Lt, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
            ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}  # fmt: skip
RECKONED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Pow: ast.Mult}


@dataclass(frozen=True)
class Mutant:
    """A fault: file, line, what it says now, and the whole mutated source."""

    path: str
    line: int
    says: str
    source: str


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
    """So many mutants, drawn over all targets."""
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
        line = getattr(node, "lineno", 0)
        made.append(Mutant(path, line, ast.unparse(node)[:100], ast.unparse(ast.fix_missing_locations(tree))))
    return made


def found(mutant: Mutant, copy: Path) -> bool:
    """Whether the tests fail on a mutant, in a copy of the source that is put right again."""
    file = copy / mutant.path
    right = file.read_text()
    _write(file, mutant.source)
    own = OWN.get(mutant.path.removeprefix(f"{CORE}/"))
    steps = [[f"tests/core/{own}"]] if own else []
    steps += [[PLANS], ["tests/core/test_checks.py", "tests/core/test_checks_conditions.py"], list(ALL)]
    try:
        env = {**os.environ, "PYTHONPATH": str(copy), "LARK_TRIES": "5"}
        ignored = [f"--ignore={slow}" for slow in SLOW]
        words = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:randomly", "-p", "no:cacheprovider",
                 "--timeout=60", *ignored]  # fmt: skip
        return any(
            subprocess.run([*words, *step], cwd=ROOT, env=env, capture_output=True, timeout=600).returncode != 0
            for step in steps
        )
    except subprocess.TimeoutExpired:
        return True
    finally:
        _write(file, right)


def _write(file: Path, text: str) -> None:
    """Write a source; a second later than before at least, so that what was compiled of the old one is not used."""
    before = file.stat().st_mtime
    file.write_text(text)
    os.utime(file, (before + 2, before + 2))


def survivors(count: int, seed: int, workers: int = 2) -> tuple[int, list[Mutant]]:
    """How many mutants there were, and those that no test found."""
    made = mutants(count, seed)
    with tempfile.TemporaryDirectory() as folder:
        copies: Queue[Path] = Queue()
        for n in range(workers):
            copy = Path(folder) / str(n)
            shutil.copytree(SOURCE, copy, ignore=shutil.ignore_patterns("static", "__pycache__"))
            copies.put(copy)

        def tried(mutant: Mutant) -> bool:
            copy = copies.get()
            try:
                was_found = found(mutant, copy)
            finally:
                copies.put(copy)
            sys.stdout.write("." if was_found else f"\n{mutant.path}:{mutant.line}: {mutant.says}\n")
            sys.stdout.flush()
            return was_found

        with ThreadPoolExecutor(workers) as pool:
            results = list(pool.map(tried, made))
    return len(made), [m for m, was_found in zip(made, results, strict=True) if not was_found]


if __name__ == "__main__":
    wanted, drawn_by = (int(x) for x in [*sys.argv[1:], "150", "1"][:2])
    total, left = survivors(wanted, drawn_by)
    sys.stdout.write(f"\n{total - len(left)} of {total} found, {100 * (1 - len(left) / total):.1f} %\n")

"""Figures of what is waited for first: a session on a slow phone that was never here, and the command line."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
from datetime import datetime, timedelta
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.bench.land import Timed
from tests.browser.conftest import CHROMIUM, FLAGS, Server
from tests.browser.weight import cold_open
from tests.make import EXAMPLES
from zealous_lark.demo.load import load_demo
from zealous_lark.store import Database

ROUNDS = 5


def _run(code: str) -> None:
    subprocess.run([sys.executable, "-c", code], check=False, stdout=subprocess.DEVNULL)


def _lark(*words: str) -> str:
    return f"import sys; sys.argv = {['lark', *words]!r}; from zealous_lark.cli import main; main()"


def figures(timed: Timed) -> None:
    """Print them; the commands as ratios to the import of NumPy, taken in turns."""
    codes = {
        "import numpy": "import numpy",
        "lark --help": _lark("--help"),
        "lark check": _lark("check", str(EXAMPLES / "example-plan.json")),
    }
    took: dict[str, list[float]] = {name: [] for name in codes}
    for _ in range(ROUNDS):
        for name, code in codes.items():
            took[name].append(timed(lambda code=code: _run(code)))  # type: ignore[misc]
    least = statistics.median(took["import numpy"])
    for name, values in took.items():
        middle = statistics.median(values)
        sys.stdout.write(f"{name:<58} median {middle:7.0f} ms, {middle / least:.1f} of importing NumPy\n")
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "demo")
        database.migrate()
        load_demo(database, datetime.now().astimezone())
        database.close()
        server = Server(Path(folder), away=timedelta())
        server.start()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            runs = [cold_open(browser, server, "/sessions/1/plan", slow=True) for _ in range(ROUNDS)]
            browser.close()
        server.kill()
    first, verdict = (statistics.median(run[i] for run in runs) for i in (0, 1))  # type: ignore[misc]
    script = statistics.median(run[2]["Script"] for run in runs)
    sys.stdout.write(
        f"1.6 Mbit/s, 150 ms, a quarter of the processor, nothing kept: a word as saved after {first:.1f} s,"
        f" its verdict on its own screen after {verdict:.1f} s, {script:.0f} kB of script\n"
    )

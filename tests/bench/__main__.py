"""`make bench`: what is fast enough, measured against plainer ways of doing the same in the same run."""

from __future__ import annotations

import json
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from pathlib import Path

from tests.bench.land import figures
from tests.bench.light import figures as light_figures
from tests.bench.logbook import figures as logbook_figures
from tests.bench.map_data import figures as map_figures
from tests.bench.practice import figures as practice_figures
from tests.bench.scalar import scalar_check
from tests.bench.sessions import session_figures
from tests.bench.tables import tables
from tests.bench.under import figures as under_figures
from tests.bench.windows import windows
from tests.make import EXAMPLES
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.fixes import PARAMETERS, changed
from zealous_lark.core.verdict import judge
from zealous_lark.plan import judge_plan, read_plan, situation_of
from zealous_lark.store import Database
from zealous_lark.web import create_app

ROUNDS = 200


def timed(work: Callable[[], object]) -> float:
    begin = time.perf_counter()
    work()
    return 1000 * (time.perf_counter() - begin)


def side_by_side(one: Callable[[], object], other: Callable[[], object]) -> tuple[list[float], list[float]]:
    """Milliseconds of each, taken in turns so that a busy moment hits both."""
    for _ in range(10):
        one(), other()
    pairs = [(timed(one), timed(other)) for _ in range(ROUNDS)]
    return [a for a, _ in pairs], [b for _, b in pairs]


def line(name: str, ms: list[float]) -> str:
    cuts = statistics.quantiles(ms, n=20)
    return f"{name:<58} median {statistics.median(ms):7.2f} ms   p95 {cuts[18]:7.2f} ms"


def main() -> None:
    """Print the figures."""
    raw = (EXAMPLES / "example-plan.json").read_bytes()
    plan = read_plan(raw)
    situation = situation_of(plan)

    def ours() -> object:
        judgement = judge(situation)
        return judgement.assessment.reach, judgement.assessment.other_way

    reach, plain_reach = judge(situation).assessment.reach, scalar_check(situation).reach_m
    assert reach is not None
    worst = max(abs(a - b) for a, b in zip(reach.distance_m, plain_reach, strict=True))
    assert worst < 1e-6, f"the two ways differ by {worst} m"

    core, plain = side_by_side(ours, lambda: scalar_check(situation))
    ratio = statistics.median(plain) / statistics.median(core)
    out = sys.stdout.write
    out(line("core: every check, 72 bearings, NumPy", core) + "\n")
    out(line("the same formulas in plain scalar Python", plain) + "\n")
    out(f"plain over NumPy {ratio:.2f} (reach agrees within {worst:.1e} m)\n")

    def one_by_one() -> object:
        """Levers and chances as single evaluations: each stop of each parameter judged whole, in turn."""
        found = []
        for judged in judge(situation).judged:
            if judged.finding.status not in (Status.CARE, Status.FAIL):
                continue
            for parameter in PARAMETERS:
                for value in parameter.stops(Assessment(situation)):
                    after = judge(changed(situation, parameter.key, value))
                    if any(j.check is judged.check and j.finding.status is Status.PASS for j in after.judged):
                        found.append((judged.check.id, parameter.key, value))
                        break
        return found

    whole = [timed(lambda: judge_plan(plan)) for _ in range(ROUNDS)]
    plain_whole = [timed(one_by_one) for _ in range(5)]
    out(line("whole check with levers and chances", whole) + "\n")
    out(f"{'the same levers as repeated single evaluations':<58} median {statistics.median(plain_whole):7.2f} ms\n")
    out(f"single over whole {statistics.median(plain_whole) / statistics.median(whole):.1f}\n")

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        database.migrate()
        app = create_app(database, clock=lambda: datetime.now(UTC))

        def post() -> object:
            answer = app.test_client().post("/api/check?levers=false", data=raw, content_type="application/json")
            assert answer.status_code == 200
            return json.loads(answer.data)

        def ask(_n: int) -> float:
            return timed(post)

        document, served = side_by_side(
            lambda: judge_plan(read_plan(raw), with_fixes=False).model_dump_json(by_alias=True), post
        )
        out(line("plan document in, result document out", document) + "\n")
        out(line("POST /api/check through Flask", served) + "\n")
        with ThreadPoolExecutor(4) as pool:
            crowd = list(pool.map(ask, range(ROUNDS)))
        out(line("the same from four clients at once, in one process", crowd) + "\n")
        database.close()
    figures(situation, timed)
    windows(plan, situation, timed)
    tables(timed)
    logbook_figures(timed)
    session_figures(timed)
    map_figures(timed)
    under_figures(timed)
    practice_figures(situation, timed)
    light_figures(timed)


if __name__ == "__main__":
    main()

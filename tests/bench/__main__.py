"""`make bench`: what is fast enough, measured against plainer ways of doing the same in the same run."""

from __future__ import annotations

import json
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from tests.bench.scalar import scalar_check
from tests.make import EXAMPLES
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
    out(line("core: 12 checks, 72 bearings, NumPy", core) + "\n")
    out(line("the same formulas in plain scalar Python", plain) + "\n")
    out(f"plain over NumPy {ratio:.2f} (reach agrees within {worst:.1e} m)\n")

    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder))
        database.migrate()
        client = create_app(database, clock=lambda: datetime.now(UTC)).test_client()

        def post() -> object:
            answer = client.post("/api/check", data=raw, content_type="application/json")
            assert answer.status_code == 200
            return json.loads(answer.data)

        document, served = side_by_side(lambda: judge_plan(read_plan(raw)).model_dump_json(by_alias=True), post)
        out(line("plan document in, result document out", document) + "\n")
        out(line("POST /api/check through Flask", served) + "\n")
        database.close()


if __name__ == "__main__":
    main()

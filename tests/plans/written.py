"""What every check says of many whole plans, written down: `python -m tests.plans.written` writes it anew.

Two files. In `written/table.txt` the plans of the table stand with their words, each line a check that finds
something else than on the calm day; in `written/drawn.txt` plans drawn over everything that can be said, with the
words as a number only, and what passes as one number for all of it. A change of the core shows as a difference of
these files, to be read before it is kept.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from pathlib import Path

from tests.make import read
from tests.plans.drawn import drawn_situation
from tests.plans.table import ROWS, Row, plan_of
from zealous_lark.core.checks import Status
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Judged, judge
from zealous_lark.plan import situation_of

FOLDER = Path(__file__).parent / "written"
DRAWN = 600
CALM = Row("A calm day", {}, "launch", "", "")


def _number(x: float | None) -> str:
    return "-" if x is None else f"{x + 0.0:.4g}"


def _words(j: Judged, units: Units) -> str:
    f = read(j.finding, units)
    asks = " ".join(x for x in (f.follows and f"[{f.follows}]", f.question and f"? {f.question}") if x)
    return " | ".join(x for x in (f.sentence, f.shown or "", *f.working, asks) if x)


def _figures(j: Judged) -> str:
    f = j.finding
    return f"{j.check.id}: {f.status} {_number(f.value)} of {_number(f.limit)}, {_number(f.used)}"


def _told(s: Situation) -> tuple[str, list[Judged]]:
    judgement = judge(s)
    verdict = f"{judgement.verdict}, {judgement.tightest.check.id}"
    return verdict, sorted(judgement.judged, key=lambda j: j.check.id)


def _lines(s: Situation, units: Units) -> tuple[str, list[str]]:
    verdict, judged = _told(s)
    return verdict, [f"{_figures(j)} | {_words(j, units)}" for j in judged]


def _number_of(*words: str) -> str:
    return f"{zlib.crc32(chr(10).join(words).encode()):08x}"


def of_table() -> Iterator[str]:
    """The plans of the table, with their words."""
    calm, usual = _lines(situation_of(plan_of(CALM)), METRIC)
    yield f"# {CALM.name}: {calm}\n" + "".join(f"{line}\n" for line in usual)
    for row in ROWS:
        verdict, lines = _lines(situation_of(plan_of(row)), METRIC)
        yield f"\n# {row.name}: {verdict}\n" + "".join(f"{x}\n" for x in lines if x not in usual)


def of_drawn() -> Iterator[str]:
    """Drawn plans, with their words as a number."""
    for seed in range(DRAWN):
        s, units = drawn_situation(7, seed)
        try:
            verdict, judged = _told(s)
        except ValueError as error:
            yield f"# {seed}: refused: {error}\n"
            continue
        passes = [f"{_figures(j)} {_words(j, units)}" for j in judged if j.finding.status is Status.PASS]
        others = [
            f"{_figures(j)} | {_number_of(_words(j, units))}\n" for j in judged if j.finding.status is not Status.PASS
        ]
        yield f"# {seed}: {verdict}; {len(passes)} pass, {_number_of(*passes)}\n" + "".join(others)


WRITTEN = {"table.txt": of_table, "drawn.txt": of_drawn}

if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name, made in WRITTEN.items():
        (FOLDER / name).write_text("".join(made()))

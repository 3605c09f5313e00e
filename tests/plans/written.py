"""What every check says of many whole plans, written down: `python -m tests.plans.written` writes it anew.

Two files. In `written/table.txt` the plans of the table stand with their words, each line a check that finds
something else than on the calm day; in `written/drawn.txt` plans drawn over everything that can be said, with the
words as a number only. A change of the core shows as a difference of these files, to be read before it is kept.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from pathlib import Path

from tests.plans.drawn import drawn_situation
from tests.plans.table import ROWS, Row, plan_of
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC, Units
from zealous_lark.core.verdict import Judged, judge
from zealous_lark.plan import situation_of

FOLDER = Path(__file__).parent / "written"
DRAWN = 200
CALM = Row("A calm day", {}, "launch", "", "")


def _number(x: float | None) -> str:
    return "-" if x is None else f"{x + 0.0:.4g}"


def _words(j: Judged) -> str:
    f = j.finding
    asks = " ".join(x for x in (f.follows and f"[{f.follows}]", f.question and f"? {f.question}") if x)
    return " | ".join(x for x in (f.sentence, f.shown or "", *f.working, asks) if x)


def _figures(j: Judged) -> str:
    f = j.finding
    return f"{j.check.id}: {f.status} {_number(f.value)} of {_number(f.limit)}, {_number(f.used)}"


def _lines(s: Situation, units: Units, whole_words: bool) -> tuple[str, list[str]]:
    judgement = judge(s, units)
    verdict = f"{judgement.verdict}, {judgement.tightest.check.id}"
    lines = []
    for j in sorted(judgement.judged, key=lambda j: j.check.id):
        words = _words(j)
        lines.append(f"{_figures(j)} | {words if whole_words else format(zlib.crc32(words.encode()), '08x')}")
    return verdict, lines


def of_table() -> Iterator[str]:
    """The plans of the table, with their words."""
    calm, usual = _lines(situation_of(plan_of(CALM)), METRIC, True)
    yield f"# {CALM.name}: {calm}\n" + "".join(f"{line}\n" for line in usual)
    for row in ROWS:
        verdict, lines = _lines(situation_of(plan_of(row)), METRIC, True)
        yield f"\n# {row.name}: {verdict}\n" + "".join(f"{x}\n" for x in lines if x not in usual)


def of_drawn() -> Iterator[str]:
    """Drawn plans, with their words as a number."""
    for seed in range(DRAWN):
        s, units = drawn_situation(7, seed)
        try:
            verdict, lines = _lines(s, units, False)
        except ValueError as error:
            verdict, lines = f"refused: {error}", []
        yield f"# {seed}: {verdict}\n" + "".join(f"{x}\n" for x in lines)


WRITTEN = {"table.txt": of_table, "drawn.txt": of_drawn}

if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name, made in WRITTEN.items():
        (FOLDER / name).write_text("".join(made()))

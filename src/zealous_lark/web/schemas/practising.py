"""What goes over the wire of practice."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from zealous_lark.cases.marking import Calibration, Going, Grade, PracticeWord
from zealous_lark.cases.rehearsal import Trouble
from zealous_lark.core.flight.card import FlightCard
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan import PlanDocument, ResultDocument
from zealous_lark.plan.base import HeightM, Percent
from zealous_lark.plan.flight import Uid
from zealous_lark.web.schemas.common import MONTH_S, In, Out

Seed = Annotated[int, Field(ge=1, le=1_000_000)]


class PracticePoint(Out):
    at: datetime
    cost: float
    grade: Grade


class PracticeFamily(Out):
    """A family of cases and how it goes. going, calibration: over the latest five answers.

    remembered: the chance that it is, 0 to 1. All null before the first answer. none: whether it was looked for and
    has no case with the pilot's aircraft and minimums.
    """

    key: str
    name: str
    teaches: str
    answers: int
    due: datetime | None
    remembered: float | None
    going: Going | None
    calibration: Calibration | None
    seed: int
    none: bool
    points: list[PracticePoint]


class PracticeToday(Out):
    family: str
    why: Literal["due", "weak", "new"]


class PracticeRoom(Out):
    """What there is to do, and how every family goes. weakest: the family that costs most.

    aircraft: null while the gear has none, and cases are for a usual light one.
    """

    today: list[PracticeToday]
    families: list[PracticeFamily]
    weakest: str | None
    aircraft: str | None


class CaseFound(Out):
    name: str
    lines: list[str]


class CaseChoice(Out):
    check: str
    label: str


class CasePosed(Out):
    """A case as the pilot finds it. numbers: whether turn-back charge and return height are asked for by feel."""

    family: str
    name: str
    seed: int
    title: str
    found: list[CaseFound]
    choices: list[CaseChoice]
    numbers: bool


class CaseKey(Out):
    """What an answer is marked by. word_costs: of each word; turn_back_pct, return_height_m: as they are."""

    verdict: Verdict
    deciding: str
    word_costs: dict[PracticeWord, float]
    turn_back_pct: float | None
    return_height_m: float | None


class CaseAhead(Out):
    """A case made ahead, with all that it takes to mark it on the device."""

    posed: CasePosed
    key: CaseKey
    teaches: str
    plan: PlanDocument
    result: ResultDocument


class CasesAhead(Out):
    """The next cases of a family; fewer, or none, where there are no more with the pilot's aircraft and minimums."""

    cases: list[CaseAhead]


class RehearsalOut(Out):
    """A flight to rehearse the clock's alerts with. speed: how much faster than in the air it goes.

    factor: what it drains over what the card says. drop_at_s, drop_points: when a cell gives way, in flight time,
    and by how much the charge falls then. All of these are for the device, not for the pilot's eyes.
    """

    seed: int
    aircraft: str
    card: FlightCard
    trouble: Trouble
    factor: float
    drop_at_s: float | None
    drop_points: float
    distance_m: float
    speed: float


class CaseAnswer(In):
    """What the pilot says of a case; ago_s: how long ago, where it waited on the device."""

    uid: Uid
    word: PracticeWord
    sure_pct: Annotated[float, Field(ge=50, le=100)]
    tightest: Annotated[str, Field(max_length=40)]
    turn_back_pct: Percent | None = None
    return_height_m: HeightM | None = None
    ago_s: Annotated[float, Field(ge=0, le=MONTH_S)] = 0


class CaseMarked(Out):
    """What the answer cost, and what the case came to. turn_back_pct, return_height_m: as they are."""

    word: PracticeWord
    right: bool
    word_cost: float
    tightest: str
    sure_pct: float
    sure_cost: float
    tightest_cost: float
    turn_back_pct: float | None
    turn_back_cost: float
    return_height_m: float | None
    return_height_cost: float
    brier: float
    cost: float
    grade: Grade
    verdict: Verdict
    deciding: str
    teaches: str
    due: datetime
    plan: PlanDocument
    result: ResultDocument

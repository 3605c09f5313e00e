"""The room to practise in: cases for the pilot's own aircraft and minimums, marks, and what is due."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from statistics import fmean

from zealous_lark.cases.drawing import Case, NoCaseError, draw
from zealous_lark.cases.families import BY_KEY, FAMILIES, Family
from zealous_lark.cases.marking import Answer, Going, Grade, Marked, going, mark
from zealous_lark.cases.scenes import Own
from zealous_lark.cases.schedule import Standing, standing
from zealous_lark.cases.telling import Found, told
from zealous_lark.core.checks import all_checks
from zealous_lark.core.prepare.packs import PUT_ASIDE
from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import ResultDocument, judge_plan
from zealous_lark.plan.document import PackPart
from zealous_lark.plan.kit import AircraftItem, PackItem
from zealous_lark.plan.typical import DUNLIN
from zealous_lark.services import kit, minimums
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.learned_values import health_in_plan
from zealous_lark.store import Database, practice
from zealous_lark.store.practice import Practised

LATEST = 5
"""How many of its latest answers say how a family goes now."""
NEW_A_DAY = 3
"""So many families are begun on one day: more would all be due again together."""


@dataclass(frozen=True, slots=True)
class Choice:
    """A check to choose as the tightest: its key and its label."""

    check: str
    label: str


@dataclass(frozen=True, slots=True)
class Posed:
    """A case as the pilot finds it. numbers: whether the two numbers by feel are asked for."""

    case: Case
    found: tuple[Found, ...]
    choices: tuple[Choice, ...]
    numbers: bool


@dataclass(frozen=True, slots=True)
class Answered:
    """An answer with its marks, and what the case came to. due: when the family is, from now on (aware)."""

    marked: Marked
    case: Case
    result: ResultDocument
    due: datetime


def own(db: Database) -> Own:
    """The pilot's first aircraft, a battery that may be flown, and the minimums in force; else a usual aircraft."""
    have = [k.item for k in kit.items(db)]
    aircraft = next((i.aircraft for i in have if isinstance(i, AircraftItem)), DUNLIN)
    battery = next((i for i in have if isinstance(i, PackItem) and i.state not in PUT_ASIDE), None)
    pack = PackPart(charge_pct=100.0)
    if battery is not None:
        health = health_in_plan(battery, aircraft.battery_wh)
        pack = PackPart(label=battery.label, charge_pct=100.0, health_pct=health)
    return Own(aircraft, pack, minimums.in_force(minimums.current(db), aircraft.takeoff_mass_g))


def flown(db: Database) -> str | None:
    """The name of the pilot's own aircraft that cases are for; None while the gear has none."""
    return next((k.item.aircraft.name for k in kit.items(db) if isinstance(k.item, AircraftItem)), None)


def _family(key: str) -> Family:
    found = BY_KEY.get(key)
    if found is None:
        raise NotHereError(f"there is no family {key}; there are {', '.join(BY_KEY)}")
    return found


def _drawn(db: Database, key: str, seed: int) -> Case:
    try:
        return draw(_family(key), seed, own(db))
    except NoCaseError:
        raise NotHereError(f"with your aircraft and minimums there is no case {seed} of {key}; take the next") from None


def pose(db: Database, key: str, seed: int, units: Units = METRIC) -> Posed:
    """A case by its family and seed. Raises NotHereError."""
    case = _drawn(db, key, seed)
    labels = {check.id: check.label for check in all_checks()}
    choices = tuple(Choice(check, labels[check]) for check in case.options)
    return Posed(case, told(case, units), choices, not case.family.indoors)


def answer(db: Database, uid: str, key: str, seed: int, said: Answer, at: datetime, units: Units = METRIC) -> Answered:
    """Mark an answer and keep it; sent again, it is there once. Raises NotHereError, NotAllowedError."""
    case = _drawn(db, key, seed)
    if said.tightest not in case.options:
        raise NotAllowedError("tightest", said.tightest, ", ".join(case.options))
    marked = mark(case, said)
    document = json.dumps({"answer": asdict(said), "marked": asdict(marked), "verdict": case.verdict})
    kept = Practised(uid, key, seed, at, marked.grade.value, marked.cost, document)
    with db.transaction() as s:
        if not practice.add(s, kept):
            before = practice.find(s, uid)
            if before is None or (before.family, before.seed) != (key, seed):
                raise NotAllowedError("uid", uid, "a number that no other answer has")
        every = [p for p in practice.every(s) if p.family == key]
    found = standing([(p.answered_at, Grade(p.grade)) for p in every], at)
    assert found is not None
    return Answered(marked, case, judge_plan(case.plan, units), found.due)


@dataclass(frozen=True, slots=True)
class FamilyNow:
    """How a family goes. mean_cost, brier: over the latest answers; None before the first. seed: of its next case.

    brier: the mean score. points: each answer's time, cost and grade, the first first.
    """

    family: Family
    answers: int
    standing: Standing | None
    mean_cost: float | None
    brier: float | None
    seed: int
    points: tuple[tuple[datetime, float, Grade], ...]


@dataclass(frozen=True, slots=True)
class Room:
    """What there is to do. today: keys of families to practise now, and why; weakest: the one that costs most."""

    families: tuple[FamilyNow, ...]
    today: tuple[tuple[str, str], ...]
    weakest: str | None


def room(db: Database, now: datetime) -> Room:
    """How every family goes, and what to do today: what is due, then what is weak, then a few that are new."""
    with db.transaction() as s:
        every = practice.every(s)
    families = tuple(_now(family, [p for p in every if p.family == family.key], now) for family in FAMILIES)
    seen = [f for f in families if f.standing is not None]
    worst = max(seen, key=lambda f: f.mean_cost or 0.0, default=None)
    weakest = None if worst is None or not worst.mean_cost else worst.family.key
    due = sorted(
        (f for f in seen if f.standing is not None and f.standing.due <= now),
        key=lambda f: f.standing.remembered if f.standing else 1.0,
    )
    today = {f.family.key: "due" for f in due}
    if worst is not None and weakest is not None and going(worst.mean_cost or 0.0) is Going.WEAK:
        today.setdefault(weakest, "weak")
    first = {p.family: p.answered_at for p in reversed(every)}
    begun = sum(at.date() == now.date() for at in first.values())
    fresh = [f.family.key for f in families if f.standing is None][: max(NEW_A_DAY - begun, 0)]
    for key in fresh:
        today.setdefault(key, "new")
    return Room(families, tuple(today.items()), weakest)


def _now(family: Family, answers: Sequence[Practised], now: datetime) -> FamilyNow:
    latest = answers[-LATEST:]
    briers = [json.loads(p.document)["marked"]["brier"] for p in latest]
    return FamilyNow(
        family,
        len(answers),
        standing([(p.answered_at, Grade(p.grade)) for p in answers], now),
        fmean(p.cost for p in latest) if latest else None,
        fmean(briers) if briers else None,
        max((p.seed for p in answers), default=0) + 1,
        tuple((p.answered_at, p.cost, Grade(p.grade)) for p in answers),
    )


COLUMNS = ("answered_at", "family", "seed", "verdict", "word", "sure_pct", "tightest", "right", "cost", "grade")


def rows(db: Database) -> list[list[str]]:
    """All answers for a table, a heading first."""
    with db.transaction() as s:
        every = practice.every(s)
    found = [list(COLUMNS)]
    for p in every:
        kept = json.loads(p.document)
        said, marked = kept["answer"], kept["marked"]
        found.append([
            p.answered_at.isoformat(), p.family, str(p.seed), kept["verdict"], said["word"], f"{said['sure_pct']:g}",
            said["tightest"], str(marked["right"]).lower(), f"{p.cost:.2f}", p.grade,
        ])  # fmt: skip
    return found

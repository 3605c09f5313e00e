"""The room to practise in: cases for the pilot's own aircraft and minimums, marks, and what is due."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from functools import lru_cache
from statistics import fmean

from zealous_lark.cases.drawing import Case, NoCaseError, draw
from zealous_lark.cases.families import BY_KEY, FAMILIES, Family
from zealous_lark.cases.marking import Answer, Going, Grade, Key, Marked, going, key_of, mark
from zealous_lark.cases.rehearsal import Rehearsal, rehearse
from zealous_lark.cases.scenes import Own
from zealous_lark.cases.schedule import Standing, standing
from zealous_lark.cases.telling import Found, told
from zealous_lark.core.checks import all_checks
from zealous_lark.core.prepare.packs import PUT_ASIDE
from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import ResultDocument, judge_plan
from zealous_lark.plan.document import AircraftPart, MinimumsPart, PackPart
from zealous_lark.plan.kit import AircraftItem, PackItem
from zealous_lark.plan.typical import DUNLIN
from zealous_lark.services import kit, minimums
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.learned_values import health_in_plan
from zealous_lark.store import Database, practice
from zealous_lark.store.practice import Practised

LATEST = 5
"""How many of its latest answers say how a family goes now."""
AHEAD = 20
"""So many cases of a family are made ahead."""
NONE_AFTER = 4
"""A family whose next seeds, so many, have no case has none with this aircraft and these minimums."""
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


@lru_cache(maxsize=512)
def _case(key: str, seed: int, aircraft: str, pack: str, limits: str) -> Case | None:
    """A case for what is the pilot's own, each as JSON text; None where there is none."""
    try:
        return draw(BY_KEY[key], seed, own_of(aircraft, pack, limits))
    except NoCaseError:
        return None


def texts_of(mine: Own) -> tuple[str, str, str]:
    """What is the pilot's own, each as JSON text: what is drawn for it is known by these."""
    return mine.aircraft.model_dump_json(), mine.pack.model_dump_json(), mine.minimums.model_dump_json()


def own_of(aircraft: str, pack: str, limits: str) -> Own:
    """As `texts_of` has it, read again."""
    return Own(
        AircraftPart.model_validate_json(aircraft),
        PackPart.model_validate_json(pack),
        MinimumsPart.model_validate_json(limits),
    )


def _drawn(db: Database, key: str, seed: int) -> Case:
    case = _case(_family(key).key, seed, *texts_of(own(db)))
    if case is None:
        raise NotHereError(f"with your aircraft and minimums there is no case {seed} of {key}; take another family")
    return case


def _next_cases(key: str, after: int, count: int, mine: tuple[str, str, str]) -> Iterator[Case]:
    """The next so many cases of a family; none where the first few seeds have none: then no other has."""
    found, empty = 0, 0
    for seed in range(after, after + 2 * count + NONE_AFTER):
        case = _case(key, seed, *mine)
        if case is None:
            empty += 1
            if empty == NONE_AFTER and not found:
                return
            continue
        yield case
        found += 1
        if found == count:
            return


def pose(db: Database, key: str, seed: int, units: Units = METRIC) -> Posed:
    """A case by its family and seed. Raises NotHereError."""
    return _posed(_drawn(db, key, seed), units)


def _posed(case: Case, units: Units) -> Posed:
    labels = {check.id: check.label for check in all_checks()}
    choices = tuple(Choice(check, labels[check]) for check in case.options)
    return Posed(case, told(case, units), choices, not case.family.indoors)


@dataclass(frozen=True, slots=True)
class Ahead:
    """A case made ahead, with all that it is marked by: to be answered without the server."""

    posed: Posed
    key: Key
    result: ResultDocument


def ahead(db: Database, key: str, units: Units = METRIC) -> tuple[Ahead, ...]:
    """The next cases of a family, `AHEAD` of them where there are so many. Raises NotHereError (no such family)."""
    family = _family(key)
    with db.transaction() as s:
        seed = _seed_after([p for p in practice.every(s) if p.family == family.key])
    cases = _next_cases(family.key, seed, AHEAD, texts_of(own(db)))
    return tuple(Ahead(_posed(case, units), key_of(case), judge_plan(case.plan, units)) for case in cases)


def answer(db: Database, uid: str, key: str, seed: int, said: Answer, at: datetime, units: Units = METRIC) -> Answered:
    """Mark an answer and keep it; sent again, it is there once. Raises NotHereError, NotAllowedError."""
    case = _drawn(db, key, seed)
    if said.tightest not in case.options:
        raise NotAllowedError("tightest", said.tightest, ", ".join(case.options))
    marked = mark(case, said)
    document = json.dumps({"answer": asdict(said), "marked": asdict(marked), "verdict": case.verdict})
    kept = Practised(uid, key, seed, at, marked.grade.value, marked.cost, document)
    result = judge_plan(case.plan, units)
    with db.transaction() as s:
        if not practice.add(s, kept):
            before = practice.find(s, uid)
            if before is None or (before.family, before.seed) != (key, seed):
                raise NotAllowedError("uid", uid, "a number that no other answer has")
        every = [p for p in practice.every(s) if p.family == key]
    found = standing([(p.answered_at, Grade(p.grade)) for p in every], at)
    assert found is not None
    return Answered(marked, case, result, found.due)


def rehearsal(db: Database, seed: int) -> Rehearsal:
    """A flight to rehearse the alerts with. Raises NotHereError where no flight of the pilot's is within limits."""
    try:
        return rehearse(seed, own(db))
    except NoCaseError:
        raise NotHereError("with your aircraft and minimums no flight is within limits to rehearse with") from None


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
    """What there is to do. today: keys of families to practise now, and why; weakest: the one that costs most.

    none: keys of families that were looked for and have no case for the pilot's aircraft and minimums.
    """

    families: tuple[FamilyNow, ...]
    today: tuple[tuple[str, str], ...]
    weakest: str | None
    none: tuple[str, ...]


def room(db: Database, now: datetime) -> Room:
    """How every family goes, and what to do today: what is due, then what is weak, then a few that are new."""
    with db.transaction() as s:
        every = [p for p in practice.every(s) if p.family in BY_KEY]
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
    fresh = [f.family.key for f in families if f.standing is None]
    mine, by_key = texts_of(own(db)), {f.family.key: f for f in families}
    none: list[str] = []
    room_for = max(NEW_A_DAY - begun, 0)
    found: dict[str, str] = {}
    for key, why in [*today.items(), *((k, "new") for k in fresh if k not in today)]:
        if why == "new" and room_for == 0:
            break
        case = next(_next_cases(key, by_key[key].seed, 1, mine), None)
        if case is None:
            none.append(key)
            continue
        found[key] = why
        room_for -= why == "new"
        by_key[key] = replace(by_key[key], seed=case.seed)
    return Room(tuple(by_key.values()), tuple(found.items()), weakest, tuple(none))


def _seed_after(answers: Sequence[Practised]) -> int:
    return max((p.seed for p in answers), default=0) + 1


def _now(family: Family, answers: Sequence[Practised], now: datetime) -> FamilyNow:
    latest = answers[-LATEST:]
    briers = [json.loads(p.document)["marked"]["brier"] for p in latest]
    return FamilyNow(
        family,
        len(answers),
        standing([(p.answered_at, Grade(p.grade)) for p in answers], now),
        fmean(p.cost for p in latest) if latest else None,
        fmean(briers) if briers else None,
        _seed_after(answers),
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
        if "acts" in kept:  # a flight to bring home: its end is what there is to say
            said = [kept["end"], "", "", "", str(kept["end"] == "home").lower()]
        else:
            answer, marked = kept["answer"], kept["marked"]
            said = [
                kept["verdict"], answer["word"], f"{answer['sure_pct']:g}", answer["tightest"],
                str(marked["right"]).lower(),
            ]  # fmt: skip
        found.append([p.answered_at.isoformat(), p.family, str(p.seed), *said, f"{p.cost:.2f}", p.grade])
    return found

"""Flights to bring home: flown on the device, flown again here for what is kept, due again by what goes wrong."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache

from zealous_lark.cases.drawing import NoCaseError
from zealous_lark.cases.homeward import Scene, draw_flight, kind_of
from zealous_lark.cases.marking import Grade
from zealous_lark.cases.schedule import Standing, standing
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.emergency import EmergencyCard, emergency_cards
from zealous_lark.core.homeward.acts import End
from zealous_lark.core.homeward.flying import Acts, Flights
from zealous_lark.core.homeward.mishap import Kind
from zealous_lark.core.homeward.outcome import worth
from zealous_lark.core.homeward.state import Ended
from zealous_lark.core.units import METRIC, Units
from zealous_lark.plan import situation_of
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.practising import flown, own, own_of, texts_of
from zealous_lark.store import Database, practice
from zealous_lark.store.practice import Practised

PREFIX = "home."
"""Begins the family of these answers, before what went wrong."""
LAST_SEED = 1_000_000
_LOOKED_AT = 60
"""So many seeds ahead one is looked for with what is due."""
_FLAWLESS, _WORTH_OF_ONE = 100.0, 20.0
"""Worth of a flight home with its reserve, and so much less costs one: somebody hurt costs 10, as the worst case."""
_CARDS: dict[Kind, str] = {
    Kind.HEADWIND: "no_way_home", Kind.DRAIN: "charge", Kind.PICTURE: "picture", Kind.LINK: "control",
    Kind.FOG: "fog", Kind.BIRD: "bird", Kind.PAD: "landing", Kind.BOAT: "no_way_home",
}  # fmt: skip
"""The emergency text that each is for."""


@dataclass(frozen=True, slots=True)
class Posed:
    """A flight to bring home. card: the emergency text for what goes wrong, None where nothing does.

    own: whether the aircraft is the pilot's; else it is a usual light one.
    """

    scene: Scene
    card: EmergencyCard | None
    own: bool


@dataclass(frozen=True, slots=True)
class Landed:
    """A flight as it was kept: its end, how well it went, and when its like is due (aware)."""

    ended: Ended
    grade: Grade
    due: datetime


@dataclass(frozen=True, slots=True)
class KindNow:
    """How flights of a kind go. ends: how each ended, the first first. standing: None before the first."""

    kind: Kind
    ends: tuple[End, ...]
    standing: Standing | None


@dataclass(frozen=True, slots=True)
class Homing:
    """How it goes with all kinds. seed: of the flight to take next. due: whether one that went before is due again."""

    kinds: tuple[KindNow, ...]
    seed: int
    due: bool


@lru_cache(maxsize=128)
def _scene(seed: int, aircraft: str, pack: str, limits: str) -> Scene | None:
    """The flight of a seed for what is the pilot's own, each as JSON text; None where there is none."""
    try:
        return draw_flight(seed, own_of(aircraft, pack, limits))
    except NoCaseError:
        return None


def _drawn(db: Database, seed: int) -> Scene:
    if not 1 <= seed <= LAST_SEED:
        raise NotHereError(f"there is no flight {seed}; they are numbered from 1 to {LAST_SEED:,}")
    scene = _scene(seed, *texts_of(own(db)))
    if scene is None:
        raise NotHereError(f"with your aircraft and minimums there is no flight {seed} within limits; take another")
    return scene


def pose(db: Database, seed: int, units: Units = METRIC) -> Posed:
    """A flight by its seed. Raises NotHereError."""
    scene = _drawn(db, seed)
    cards = emergency_cards(Assessment(situation_of(scene.plan)), units)
    return Posed(scene, next((c for c in cards if c.key == _CARDS.get(scene.mishap.kind)), None), flown(db) is not None)


def grade_of(ended: Ended, reserve_pct: float) -> Grade:
    """How well a flight went: home with the reserve, home or whole without, or not."""
    if ended.end is End.HOME:
        return Grade.GOOD if ended.charge_pct >= reserve_pct else Grade.HARD
    return Grade.HARD if ended.end is End.AWAY else Grade.AGAIN


def answer(db: Database, uid: str, seed: int, acts: Acts, at: datetime) -> Landed:
    """Fly what the pilot did, and keep it; sent again, it is there once. Raises NotHereError, NotAllowedError."""
    scene = _drawn(db, seed)
    ended = Flights(scene.sheet, scene.mishap, scene.normals, [acts]).to_the_end()[0]
    reserve = scene.sheet.situation.reserve_pct
    grade = grade_of(ended, reserve)
    family = PREFIX + scene.mishap.kind
    did = [[when, act.value] for when, act in acts]
    document = json.dumps({"acts": did, "end": ended.end, "charge_pct": ended.charge_pct, "at_s": ended.at_s})
    cost = (_FLAWLESS - worth(ended, reserve)) / _WORTH_OF_ONE
    kept = Practised(uid, family, seed, at, grade.value, cost, document)
    with db.transaction() as s:
        if not practice.add(s, kept):
            before = practice.find(s, uid)
            if before is None or (before.family, before.seed) != (family, seed):
                raise NotAllowedError("uid", uid, "a number that no other answer has")
        every = [p for p in practice.every(s) if p.family == family]
    now = _standing(every, at)
    assert now is not None
    return Landed(ended, grade, now.due)


def _standing(answers: Sequence[Practised], now: datetime) -> Standing | None:
    return standing([(p.answered_at, Grade(p.grade)) for p in answers], now)


def homing(db: Database, now: datetime) -> Homing:
    """How it goes, and which flight is next: of a kind that is due, else of one that was not flown yet."""
    with db.transaction() as s:
        every = [p for p in practice.every(s) if p.family.startswith(PREFIX)]
    kinds = tuple(_now(kind, [p for p in every if p.family == PREFIX + kind], now) for kind in Kind)
    due = {k.kind for k in kinds if k.standing is not None and k.standing.due <= now}
    new = {k.kind for k in kinds if k.standing is None}
    after = max((p.seed for p in every), default=0) + 1
    return Homing(kinds, _next(db, after, due or new), bool(due))


def _next(db: Database, after: int, wanted: set[Kind]) -> int:
    """The first flight from a number on that is of a kind that is wanted, and that there is; else any that there is."""
    none: set[Kind] = set()
    seeds = range(after, after + _LOOKED_AT)
    for seed in [*(n for n in seeds if kind_of(n) in wanted), *(n for n in seeds if kind_of(n) not in wanted)]:
        if kind_of(seed) in none:
            continue
        if _is(db, seed):
            return seed
        none.add(kind_of(seed))
    return after


def _is(db: Database, seed: int) -> bool:
    try:
        _drawn(db, seed)
    except NotHereError:
        return False
    return True


def _now(kind: Kind, answers: Sequence[Practised], now: datetime) -> KindNow:
    ends = tuple(End(json.loads(p.document)["end"]) for p in answers)
    return KindNow(kind, ends, _standing(answers, now))

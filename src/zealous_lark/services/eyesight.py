"""The eye: what the pilot's answers tell, and what may be taken for a line of sight."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from enum import StrEnum

from zealous_lark.core.practice.eye import Eye, Trial, Way, eye
from zealous_lark.core.sight import attitude_distance_m
from zealous_lark.plan.kit import AircraftItem
from zealous_lark.plan.typical import DUNLIN
from zealous_lark.services import kit
from zealous_lark.services.errors import NotHereError
from zealous_lark.store import Database, practice
from zealous_lark.store.practice import Looked


class Background(StrEnum):
    """What the aircraft is seen against."""

    BRIGHT = "bright"
    DULL = "dull"
    TREES = "trees"


@dataclass(frozen=True, slots=True)
class Said:
    """One answer: at which distance it was shown [m], which way it pointed, and which way the pilot said."""

    distance_m: float
    way: Way
    said: Way


@dataclass(frozen=True, slots=True)
class Seen:
    """An aircraft to look for. own: whether it is the pilot's."""

    name: str
    size_m: float
    formula_m: float
    own: bool


@dataclass(frozen=True, slots=True)
class Found:
    """A look and what came of it. timed: shown for two seconds each; else it is practice and offers nothing."""

    uid: str
    looked_at: datetime
    aircraft: str
    size_m: float
    background: Background
    timed: bool
    eye: Eye


def aircraft(db: Database) -> tuple[Seen, ...]:
    """The pilot's aircraft by their sizes; a usual one while the gear has none."""
    own = [k.item.aircraft for k in kit.items(db) if isinstance(k.item, AircraftItem)]
    return tuple(Seen(a.name, a.size_m, attitude_distance_m(a.size_m), bool(own)) for a in own or [DUNLIN])


def keep(
    db: Database, uid: str, name: str, background: Background, said: Sequence[Said], at: datetime, *, timed: bool
) -> Found:
    """Work out a look and keep it; sent again, it is there once. Raises NotHereError for an aircraft there is not."""
    known = next((a for a in aircraft(db) if a.name == name), None)
    if known is None:
        raise NotHereError(f"no aircraft in your gear is called {name}; it may have been renamed")
    found = eye([Trial(x.distance_m, x.way is x.said) for x in said], known.size_m)
    document = json.dumps({"background": background, "timed": timed, "said": [asdict(x) for x in said]})
    looked = Looked(uid, at, name, known.size_m, found.seen_m, found.low_m, found.high_m, document)
    with db.transaction() as s:
        practice.add_look(s, looked)
        kept = next(x for x in practice.looks(s) if x.uid == uid)
    return _found(kept)


def every(db: Database) -> tuple[Found, ...]:
    """All looks, the latest first."""
    with db.transaction() as s:
        return tuple(_found(x) for x in practice.looks(s))


def _found(looked: Looked) -> Found:
    how = json.loads(looked.document)
    seen = Eye(looked.seen_m, looked.low_m, looked.high_m, attitude_distance_m(looked.size_m))
    return Found(
        looked.uid, looked.looked_at, looked.aircraft, looked.size_m, Background(how["background"]), how["timed"], seen
    )

"""Flights to bring home as the device flies them: the cases that its own physics is held against."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict
from datetime import date
from typing import Any

from tests.cases.test_drawing import OWN
from tests.conftest import SOAK
from tests.make import ROOT
from zealous_lark.cases.homeward import Scene, draw_flight, kind_of
from zealous_lark.core.homeward.acts import Act
from zealous_lark.core.homeward.flown import flown
from zealous_lark.core.homeward.flying import Acts, Normals
from zealous_lark.core.homeward.mishap import Kind
from zealous_lark.core.homeward.outcome import review
from zealous_lark.services.homeward import Posed
from zealous_lark.web.homeward import flight_out

CASES = ROOT / "frontend" / "tests" / "homeward.cases.json"
EVERY = 15
_GUSTS = 40


def _ways(scene: Scene) -> list[Acts]:
    """Ways of flying it that between them do all there is."""
    at, turn = scene.decides_from_s + 4.0, scene.turn_s
    return [
        [(turn, Act.TURN_BACK)],
        [],
        [(at, Act.FAST), (at, Act.BY_HAND), (at + 4, Act.LOWER), (at + 20, Act.CLIMB), (at + 25, Act.LAND)],
        [(at, Act.WALK), (at + 12, Act.WAIT), (at + 60, Act.RETURN_HOME), (at + 64, Act.LOWER), (at + 66, Act.BY_HAND)],
        [(at, Act.LOWER), (at, Act.LOWER), (at, Act.LOWER), (at + 20, Act.BY_HAND), (at + 24, Act.LAND),
         (at + 26, Act.CLIMB), (at + 40, Act.TURN_BACK)],
    ]  # fmt: skip


def _case(kind: Kind, *, reviewed: bool) -> dict[str, Any]:
    scene = draw_flight(next(seed for seed in range(1, 200) if kind_of(seed) is kind), OWN)
    gusts: tuple[Normals, ...] = scene.normals[:_GUSTS]
    sent = flight_out(Posed(scene, None, own=True)).model_dump(mode="json")
    sent |= {"normals": [round(1000 * x) for three in gusts for x in three], "plan": None}
    flights = []
    for acts in _ways(scene):
        track = flown(scene.sheet, scene.mishap, gusts, acts)
        flights.append(
            {
                "acts": [{"at_s": at, "act": act} for at, act in acts],
                "moments": [[m.at_s, m.x, m.y, m.z, m.charge_pct, m.ground_ms] for m in track.moments[::EVERY]],
                "ended": asdict(track.ended),
            }
        )
    case: dict[str, Any] = {"flight": sent, "flights": flights, "review": None}
    if reviewed:
        acts = _ways(scene)[0]
        own = flown(scene.sheet, scene.mishap, gusts, acts).ended
        found = review(scene.sheet, scene.mishap, gusts, acts, scene.decides_from_s, own.at_s)
        case["review"] = {
            "moments": found.moments,
            "choices": [[c.at_s, c.act, c.alone.end, c.ended.end, c.ended.charge_pct, c.worth] for c in found.choices],
            "last_home_s": found.last_home_s,
            "last_reserve_s": found.last_reserve_s,
        }
    return case


def device_cases(kinds: Iterable[Kind] = Kind, *, reviewed: bool = True) -> list[dict[str, Any]]:
    """One flight of each kind, flown in several ways; what else could have been done on two of them."""
    return [_case(kind, reviewed=reviewed and kind in (Kind.DRAIN, Kind.PAD)) for kind in kinds]


def _near(kept: Any, fresh: Any) -> bool:
    if isinstance(kept, dict):
        return kept.keys() == fresh.keys() and all(_near(kept[k], fresh[k]) for k in kept)
    if isinstance(kept, list):
        return len(kept) == len(fresh) and all(_near(a, b) for a, b in zip(kept, fresh, strict=True))
    if isinstance(kept, float) or isinstance(fresh, float):
        return abs(kept - fresh) < 1e-6
    return bool(kept == fresh)


def test_the_cases_of_the_device_are_the_cores() -> None:
    """A third of the kinds, another one each day. In the soak all, and what else could have been done on two."""
    kept = json.loads(CASES.read_text())
    assert [case["flight"]["mishap"]["kind"] for case in kept] == list(Kind)
    assert sum(case["review"] is not None for case in kept) == 2
    now = slice(None) if SOAK else slice(date.today().toordinal() % 3, None, 3)
    fresh = json.loads(json.dumps(device_cases(list(Kind)[now], reviewed=SOAK is not None)))
    compared = kept[now] if SOAK else [case | {"review": None} for case in kept[now]]
    assert _near(compared, fresh)
    # A case that ends alike whatever is done holds nothing.
    for case in kept:
        assert len({flight["ended"]["charge_pct"] for flight in case["flights"]}) >= 3
    assert not _near(kept[0]["flights"][0], replace_charge(kept[0]["flights"][0]))


def replace_charge(flight: dict[str, Any]) -> dict[str, Any]:
    """The same flight with a little more charge left at its end."""
    return flight | {"ended": flight["ended"] | {"charge_pct": flight["ended"]["charge_pct"] + 1e-4}}


if __name__ == "__main__":
    CASES.write_text(json.dumps(device_cases()))

"""What else could have been done: the search is never worse than what was offered, or done, and it can be flown."""

from __future__ import annotations

from itertools import pairwise

import pytest

from tests.cases.test_drawing import OWN
from zealous_lark.cases.homeward import Scene, draw_flight, kind_of
from zealous_lark.core.homeward.acts import LOST, Act, End
from zealous_lark.core.homeward.flying import Acts, Flights
from zealous_lark.core.homeward.mishap import Kind
from zealous_lark.core.homeward.outcome import LEAST_APART_S, MOST_MOMENTS, Review, moments, review, worth
from zealous_lark.core.homeward.state import Ended


def done(scene: Scene, acts: Acts) -> Ended:
    return Flights(scene.sheet, scene.mishap, scene.normals, [acts]).to_the_end()[0]


def reviewed(kind: Kind) -> tuple[Scene, Acts, Review]:
    scene = draw_flight(next(seed for seed in range(1, 200) if kind_of(seed) is kind), OWN)
    acts = [(scene.turn_s, Act.TURN_BACK)]
    own = done(scene, acts)
    return scene, acts, review(scene.sheet, scene.mishap, scene.normals, acts, scene.decides_from_s, own.at_s)


@pytest.fixture(scope="module", params=[Kind.DRAIN, Kind.PAD, Kind.HEADWIND], ids=str)
def found(request: pytest.FixtureRequest) -> tuple[Scene, Acts, Review]:
    return reviewed(request.param)


def test_every_choice_at_every_moment_was_tried(found: tuple[Scene, Acts, Review]) -> None:
    _, _, r = found
    assert {(c.at_s, c.act) for c in r.choices} == {(at, act) for at in r.moments for act in Act}


def test_the_best_is_no_worse_than_any_offered_or_done(found: tuple[Scene, Acts, Review]) -> None:
    scene, acts, r = found
    best = max(r.own_worth, r.best.worth if r.best else r.own_worth)
    assert best >= max(c.worth for c in r.choices)
    # The choice alone, and before each way home: what is offered is never better than what was found for it.
    tried = [
        (c, [*[a for a in acts if a[0] < c.at_s], (c.at_s, c.act), *((c.at_s + 6, act) for act in then)])
        for c in r.choices[::3]
        for then in ([], [Act.TURN_BACK], [Act.BY_HAND], [Act.RETURN_HOME], [Act.LAND])
    ]
    ends = Flights(scene.sheet, scene.mishap, scene.normals, [way for _, way in tried]).to_the_end()
    for (choice, _), end in zip(tried, ends, strict=True):
        assert worth(end, scene.sheet.situation.reserve_pct) <= choice.worth <= best


def test_what_was_found_flies_as_it_says(found: tuple[Scene, Acts, Review]) -> None:
    scene, acts, r = found
    assert r.own == done(scene, acts)
    some = r.choices[::7]
    ways = [[*[a for a in acts if a[0] < c.at_s], (c.at_s, c.act), *c.then] for c in some]
    assert Flights(scene.sheet, scene.mishap, scene.normals, ways).to_the_end() == [c.ended for c in some]


def test_a_choice_alone_is_what_it_says(found: tuple[Scene, Acts, Review]) -> None:
    scene, acts, r = found
    some = r.choices[::7]
    ways = [[*[a for a in acts if a[0] < c.at_s], (c.at_s, c.act)] for c in some]
    assert Flights(scene.sheet, scene.mishap, scene.normals, ways).to_the_end() == [c.alone for c in some]


def test_after_the_last_moment_nothing_brings_it_home(found: tuple[Scene, Acts, Review]) -> None:
    _, _, r = found
    assert r.last_home_s is not None
    later = [c for c in r.choices if c.at_s > r.last_home_s]
    assert all(c.ended.end is not End.HOME for c in later)
    if r.last_reserve_s is not None:
        assert r.last_reserve_s <= r.last_home_s


def test_worth() -> None:
    def of(end: End, charge: float = 40.0, apart: float = 0.0) -> float:
        return worth(Ended(600.0, end, charge, apart), 30.0)

    assert of(End.HOME) == of(End.HOME, 80) > of(End.HOME, 29) > of(End.AWAY) > of(End.AWAY, apart=300.0)
    assert of(End.AWAY, apart=1e6) > max(of(end) for end in LOST)
    assert of(End.HURT, 90) < min(of(end) for end in LOST)


@pytest.mark.parametrize(("begins", "ends"), [(100.0, 103.0), (100.0, 150.0), (100.0, 1200.0)])
def test_moments(begins: float, ends: float) -> None:
    found = moments(begins, ends)
    assert found[0] == begins
    assert len(found) <= MOST_MOMENTS
    assert all(b - a >= LEAST_APART_S - 1 for a, b in pairwise(found))
    assert found[-1] < ends

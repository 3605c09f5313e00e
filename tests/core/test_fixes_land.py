"""Levers, chances and verdicts where things are drawn: what is offered works there too."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon

from tests.core.test_laws import BASE
from tests.make import at, changed, drawn, feature, forecast, made_terrain, wind
from zealous_lark.core.checks import Status
from zealous_lark.core.checks.base import SEVERITY
from zealous_lark.core.fixes import changed as turned
from zealous_lark.core.fixes import fixes
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import Judgement, Verdict, judge

RANK = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.UNKNOWN: 2, Verdict.STAY: 3}


def bog(situation: Situation, *more: object) -> Situation:
    """Pines on the way, a wire behind, a pool aside, people to the south."""
    ring = [at(situation, b, d) for b, d in ((225, 60), (255, 60), (252, 85), (228, 85))]
    pool = [at(situation, b, d) for b, d in ((330, 120), (350, 120), (350, 200), (330, 200))]
    wires = LineString([at(situation, 20, 300), at(situation, 100, 120)])
    return drawn(
        changed(situation, site__obstacles=()),
        feature("obstacle", Polygon(ring), id="pines", kind="trees", height_m=18, name="pines"),
        feature("obstacle", wires, id="wires", kind="wires", height_m=11),
        feature("water", Polygon(pool), id="pool"),
        feature("people", Point(at(situation, 180, 160)), id="people", name="walkers"),
        *more,  # type: ignore[arg-type]
    )


def finding(judgement: Judgement, check_id: str) -> Status | None:
    return next((j.finding.status for j in judgement.judged if j.check.id == check_id), None)


def offered(situation: Situation) -> list[tuple[str, tuple[tuple[str, object], ...], Verdict]]:
    judgement = judge(situation)
    return [(j.check.id, x.changes, x.verdict) for j in judgement.judged for x in fixes(judgement, j.check)]


def applied(situation: Situation, changes: tuple[tuple[str, object], ...]) -> Situation:
    for key, value in changes:
        situation = turned(situation, key, value)
    return situation


@settings(max_examples=12)
@given(
    st.integers(0, 35).map(lambda n: n * 10.0), st.floats(60, 300), st.floats(8, 60), st.floats(15, 60), st.floats(0, 6)
)
def test_a_lever_that_is_offered_at_a_place_always_works(
    bearing: float, distance: float, height: float, back: float, speed: float
) -> None:
    s = changed(
        bog(wind(BASE, forecast(speed, 240, speed + 2))),
        flight__bearing_deg=bearing,
        flight__distance_m=distance,
        flight__height_m=height,
        settings__rth_altitude_m=back,
    )
    before = judge(s)
    was = {j.check.id: SEVERITY[j.finding.status] for j in before.judged}
    for check_id, changes, verdict in offered(s):
        after = judge(applied(s, changes))
        assert finding(after, check_id) in (Status.PASS, None), (check_id, changes)
        assert after.verdict is verdict
        assert RANK[verdict] <= RANK[before.verdict]
        for j in after.judged:
            assert not (j.finding.status is Status.FAIL and was.get(j.check.id, 0) < SEVERITY[Status.FAIL]), changes


def test_below_the_trees_the_lever_is_higher_or_round_them() -> None:
    s = changed(bog(BASE), flight__height_m=12.0, flight__distance_m=120.0)
    keys = {key for check_id, changes, _ in offered(s) if check_id == "clear.outbound" for key, _ in changes}
    assert "flight.height_m" in keys  # up over them
    climbs = [v for check_id, changes, _ in offered(s) if check_id == "clear.outbound" for k, v in changes
              if k == "flight.height_m"]  # fmt: skip
    assert all(v >= 28 for v in climbs)  # 18 m and 10 m over them


def test_people_in_the_way_are_flown_round_or_left_out() -> None:
    s = changed(bog(BASE), flight__bearing_deg=180.0, flight__distance_m=160.0)
    judgement = judge(s)
    assert finding(judgement, "rules.people") is Status.FAIL
    ways = [changes for check_id, changes, _ in offered(s) if check_id == "rules.people"]
    assert any(key in ("flight.distance_m", "flight.bearing_deg") for way in ways for key, _ in way)


def test_a_return_height_under_the_pines_is_raised_to_what_clears() -> None:
    s = changed(bog(BASE), settings__rth_altitude_m=20.0, flight__height_m=40.0)
    way = next(changes for check_id, changes, _ in offered(s) if check_id == "return.clearance")
    assert way == (("settings.rth_altitude_m", 30.0),)  # 18 m and 10 m over them, in steps of five


@pytest.mark.parametrize(
    ("bearing", "floor", "reserve"), [(340.0, Status.PASS, 40.0), (240.0, Status.PASS, 30.0), (20.0, Status.PASS, 30.0)]
)
def test_over_the_pool_the_reserve_is_ten_points_more(bearing: float, floor: Status, reserve: float) -> None:
    s = changed(bog(BASE), flight__bearing_deg=bearing, flight__distance_m=180.0)
    assert s.reserve_pct == reserve
    judgement = judge(s)
    assert finding(judgement, "battery.budget") is floor
    assert (finding(judgement, "water.distance") is not None) == (reserve == 40)


def test_a_hill_between_closes_more_than_one_door() -> None:
    """Ground of 60 m between hand and aircraft: the return height, the way out and the signal all say so."""

    def ridge(x, y):  # type: ignore[no-untyped-def]
        import numpy as np

        return 42 + 60 * np.exp(-((np.hypot(x, y) - 180) ** 2) / 700)

    flat = drawn(changed(BASE, site__obstacles=()))
    hilly = drawn(changed(BASE, site__obstacles=()), terrain=made_terrain(BASE, ridge))
    assert finding(judge(flat), "clear.outbound") is Status.PASS
    judgement = judge(hilly)
    assert finding(judgement, "clear.outbound") is Status.FAIL
    assert finding(judgement, "return.clearance") is Status.FAIL
    assert finding(judgement, "signal.margin") in (Status.CARE, Status.FAIL)
    assert judgement.verdict is Verdict.STAY

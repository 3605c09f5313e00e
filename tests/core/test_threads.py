"""A place is read by many threads, and nothing of it changes while it is."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

from shapely.geometry import Point, box

from tests.core.test_land import cone, made_terrain
from tests.make import at, changed, drawn, feature
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import judge


def test_eight_threads_judge_one_place_alike(situation: Situation) -> None:
    """Each from its own bearing and distance, all on one land whose rays nobody has asked for yet."""
    lon, lat = at(situation, 90, 200)
    place = drawn(
        situation,
        feature("obstacle", Point(at(situation, 240, 120)), kind="trees", height_m=18),
        feature("obstacle", box(lon, lat, lon + 0.001, lat + 0.001), kind="building", height_m=9),
        feature("people", Point(at(situation, 0, 300))),
        terrain=made_terrain(situation, cone(30, 400, 150)),
    )

    def ask(n: int) -> list[tuple[str, str]]:
        s = changed(place, flight__bearing_deg=float(n * 7 % 360), flight__distance_m=float(40 + n % 30 * 10))
        return [(j.check.id, j.finding.sentence(METRIC)) for j in judge(s).judged]

    with ThreadPoolExecutor(8) as pool:
        together = list(pool.map(ask, range(480)))
    assert together == [ask(n) for n in range(480)]

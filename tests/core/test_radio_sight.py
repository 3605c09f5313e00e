"""Radio, sight, light and cloud against published values."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pandas as pd
import pytest
from pvlib.solarposition import sun_rise_set_transit_spa

from tests.make import changed
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import signal as checks_signal
from zealous_lark.core.light import light
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.radio import (
    Edges,
    deygout_db,
    diffraction_parameter,
    foliage_db,
    fresnel_radius_m,
    knife_edge_db,
    margin_on_db,
    path_loss_db,
    range_factor,
    signal,
)
from zealous_lark.core.sight import SightLimit, attitude_distance_m, sight
from zealous_lark.core.situation import RadioNoise, Situation
from zealous_lark.core.weather import cloud_base_m


def loss(rows: list[tuple[float, float, float, float]], distance: float, height: float) -> float:
    """Loss behind edges given as distance, solid top, tree top and depth; 2.4 GHz."""
    edges = Edges(*np.array(rows, dtype=float).T)
    return float(path_loss_db(edges, np.array([distance]), np.array([height]), 2.4)[0])


@pytest.mark.parametrize(("v", "published"), [(0, 6.03), (1, 13.9), (2.4, 20.5)])
def test_knife_edge(v: float, published: float) -> None:
    """Recommendation ITU-R P.526, single knife edge."""
    assert knife_edge_db(v) == pytest.approx(published, abs=0.05)


def test_knife_edge_well_below_the_line_costs_nothing() -> None:
    """P.526 gives the formula for ν > −0.78, where it comes to zero."""
    assert knife_edge_db(-0.78) == 0
    assert knife_edge_db(-0.77) == pytest.approx(0, abs=0.1)


@pytest.mark.parametrize(("depth", "published"), [(20, 9.93), (100, 25.6)])
def test_foliage(depth: float, published: float) -> None:
    """Weissberger 1982 (from memory), 2.4 GHz."""
    assert foliage_db(depth, 2.4) == pytest.approx(published, abs=0.05)


def test_foliage_forms_meet_and_the_published_range_ends() -> None:
    assert foliage_db(14, 2.4) == pytest.approx(foliage_db(14.001, 2.4), rel=0.02)
    assert foliage_db(900, 2.4) == foliage_db(400, 2.4)
    assert foliage_db(0, 2.4) == 0


def test_fresnel_zone_midway_at_one_kilometre() -> None:
    """17.32·√(d1·d2/(f·d)), km and GHz: 5.59 m."""
    assert fresnel_radius_m(500, 500, 2.4) == pytest.approx(5.59, abs=0.005)


def test_an_edge_at_the_fresnel_radius_has_v_of_root_two() -> None:
    """ν = √2·h/r, so the two formulas must agree."""
    assert diffraction_parameter(fresnel_radius_m(300, 700, 5.8), 300, 700, 5.8) == pytest.approx(2**0.5, rel=1e-3)


def test_seven_decibels_are_a_factor_of_2_24_in_range() -> None:
    assert range_factor(7) == pytest.approx(2.24, abs=0.005)


def test_open_ground_margin_is_zero_at_the_advertised_range(situation: Situation) -> None:
    bare = changed(situation, site__obstacles=(), flight__distance_m=6000.0, flight__height_m=1.5)
    assert signal(bare).margin_db == pytest.approx(0)
    assert signal(bare).range_m == pytest.approx(6000 / 10**0.5)


def test_trees_cost_the_lesser_of_over_and_through() -> None:
    thin, thick = (loss([(60, -np.inf, 18, d)], 260, 40) for d in (5, 400))
    assert thin == pytest.approx(foliage_db(5, 2.4))
    assert thick == loss([(60, 18, -np.inf, 0)], 260, 40)


def test_trees_without_a_depth_are_a_row_of_a_few_metres(situation: Situation) -> None:
    """Nothing jumps between a depth of nothing and of half a metre; bare trees cost half in dB."""

    def through(depth: float, bare: bool = False) -> float:
        row = Obstacle(ObstacleKind.TREES, 30, 60, 240, depth)
        return signal(changed(situation, site__obstacles=(row,), site__trees_bare=bare)).obstruction_db

    assert through(0) == through(0.5) == pytest.approx(foliage_db(5, 2.4))
    assert through(0, bare=True) == pytest.approx(through(0) / 2)


@pytest.mark.parametrize("edge", [(60, 30, -np.inf, 0), (60, -np.inf, 18, 12), (60, -np.inf, 30, 0), (60, 9, 18, 20)])
def test_the_short_way_for_one_edge_is_the_long_way(situation: Situation, edge: tuple[float, ...]) -> None:
    """One edge is reckoned without arrays; a second one out of the way makes it the other way."""
    _, solid, tree, depth = edge
    kind = ObstacleKind.TREES if tree > solid else ObstacleKind.BUILDING
    one = Obstacle(kind, max(solid, tree), 60, 240, depth)
    low = Obstacle(ObstacleKind.BUILDING, -500, 30, 240)
    alone, both = (signal(changed(situation, site__obstacles=o)).obstruction_db for o in ((one,), (one, low)))
    assert alone == pytest.approx(both, abs=1e-9)
    assert alone > 0


def test_two_woods_on_the_way_add_their_depth() -> None:
    """Weissberger's depth is that of all the leaves on the way (from memory)."""
    woods = [(60, -np.inf, 18, 10), (120, -np.inf, 25, 6)]
    assert loss(woods, 260, 40) == pytest.approx(foliage_db(16, 2.4))
    wall = (180, 30, -np.inf, 0)
    assert loss([*woods, wall], 260, 40) == pytest.approx(foliage_db(16, 2.4) + loss([wall], 260, 40))


def test_two_edges_by_deygouts_construction() -> None:
    """Deygout 1966 (from memory): the main edge over the whole way, the other one over its part of the way."""
    first, second = (300.0, 40.0), (800.0, 60.0)  # distance and top; hand and aircraft both at 1.5 m, 1000 m apart
    v_first = diffraction_parameter(38.5, 300, 700, 2.4)
    v_second = diffraction_parameter(58.5, 800, 200, 2.4)
    assert v_second > v_first  # so the second edge is the main one
    line_to_main = 1.5 + (60 - 1.5) * 300 / 800
    by_hand = knife_edge_db(v_second) + knife_edge_db(diffraction_parameter(40 - line_to_main, 300, 500, 2.4))
    tops = np.array([first[1], second[1]])
    found, main = deygout_db(np.array([first[0], second[0]]), tops, np.array([1000.0]), np.array([1.5]), 2.4)
    assert found[0] == pytest.approx(by_hand, abs=1e-9)
    assert main[0] == 1
    assert found[0] > knife_edge_db(v_second) + 10


def test_an_edge_under_the_line_to_the_main_one_costs_nothing_more() -> None:
    alone, _ = deygout_db(np.array([800.0]), np.array([60.0]), np.array([1000.0]), np.array([1.5]), 2.4)
    both, _ = deygout_db(np.array([300.0, 800.0]), np.array([10.0, 60.0]), np.array([1000.0]), np.array([1.5]), 2.4)
    assert both[0] == alone[0]


def test_only_what_stands_between_and_near_the_bearing_is_in_the_way(situation: Situation) -> None:
    def with_one(distance: float, bearing: float, kind: ObstacleKind = ObstacleKind.BUILDING) -> float:
        one = Obstacle(kind, 60, distance, bearing)
        return signal(changed(situation, site__obstacles=(one,))).obstruction_db

    full = with_one(100, 240)
    assert full > 6
    assert with_one(100, 245) == pytest.approx(full)
    assert with_one(100, 250) == pytest.approx(full / 2)
    assert with_one(100, 255) == 0
    assert with_one(260, 240) == 0
    assert with_one(0, 240) == 0
    assert with_one(100, 240, ObstacleKind.MAST) == with_one(100, 240, ObstacleKind.WIRES) == 0


@pytest.mark.parametrize(("noise", "lost", "higher"), [("quiet", 0, 3), ("suburban", 6, 4), ("urban", 12, 6)])
def test_noise_around(situation: Situation, noise: str, lost: float, higher: float) -> None:
    """Common practice, at 2.4 and at 5.8 GHz."""
    bare = changed(situation, site__obstacles=())
    there = changed(bare, site__radio_noise=RadioNoise(noise))
    assert signal(bare).margin_db - margin_on_db(there, 5.8) == pytest.approx(higher)
    quiet = signal(situation).margin_db
    assert quiet - signal(changed(situation, site__radio_noise=RadioNoise(noise))).margin_db == pytest.approx(lost)


def test_attitude_can_be_read_to_138_m() -> None:
    """European guidance on line of sight (from memory): 327 × 0.36 + 20."""
    assert attitude_distance_m(0.36) == pytest.approx(138, abs=0.5)
    assert sight(0.36, 10_000).limited_by is SightLimit.ATTITUDE


def test_bad_visibility_shortens_sight_and_good_one_stops_helping() -> None:
    assert sight(0.36, 300).limit_m == pytest.approx(90)
    assert sight(0.36, 300).limited_by is SightLimit.VISIBILITY
    assert sight(9, 50_000).limit_m == pytest.approx(1500)


@pytest.mark.parametrize("latitude", [-33.9, 0.0, 58.62])
@pytest.mark.parametrize("day", ["2026-06-21", "2026-12-21"])
def test_sunrise_and_sunset_against_pvlib(latitude: float, day: str) -> None:
    """pvlib's solar position algorithm (NREL SPA), to two minutes."""
    noon = datetime.fromisoformat(f"{day}T12:00:00+00:00")
    theirs = sun_rise_set_transit_spa(pd.DatetimeIndex([noon]), latitude, 0.0)
    ours = light(latitude, 0.0, noon)
    assert ours.sunrise is not None
    assert ours.sunset is not None
    for mine, column in ((ours.sunrise, "sunrise"), (ours.sunset, "sunset")):
        assert abs(mine - theirs[column].iloc[0].floor("s").to_pydatetime()) < timedelta(minutes=2)


def test_polar_day_and_night_have_no_sunrise() -> None:
    assert light(75, 20, datetime(2026, 6, 21, 12, tzinfo=UTC)).sunrise is None
    assert light(75, 20, datetime(2026, 12, 21, 12, tzinfo=UTC)).sunset is None


def test_cloud_base() -> None:
    """Espy's rule."""
    assert cloud_base_m(6, 4) == 250
    assert cloud_base_m(4, 6) == 0


@pytest.mark.parametrize(("more", "says"), [(0.4, "is no worse here"), (0.6, "is better here")])
def test_the_other_band_is_better_from_half_a_decibel_on(
    situation: Situation, monkeypatch: pytest.MonkeyPatch, more: float, says: str
) -> None:
    monkeypatch.setattr(checks_signal, "margin_on_db", lambda *_: 12.0 + more)
    assert says in checks_signal._other_band(Assessment(situation), 12.0)


def test_with_nothing_in_between_no_edge_is_the_main_one() -> None:
    nothing = np.empty(0)
    loss, main = deygout_db(nothing, nothing, np.array([100.0, 500.0]), np.array([40.0, 40.0]), 2.4)
    assert loss.tolist() == [0, 0]
    assert main.tolist() == [-1, -1]

"""Sections, and laws of the land as a whole."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon

from tests.core.test_laws import BASE
from tests.make import at, changed, drawn, feature, forecast, made_terrain, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import xy
from zealous_lark.core.moves import cost
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.power import power_model
from zealous_lark.core.radio import fresnel_radius_m, signal_contour_m
from zealous_lark.core.section import WIND_HEIGHTS_M, section
from zealous_lark.core.situation import Situation
from zealous_lark.core.survey import survey


def bare(situation: Situation) -> Situation:
    return changed(situation, site__obstacles=())


def test_the_line_and_its_fresnel_zone_end_at_the_aircraft(situation: Situation) -> None:
    """Hand at 1.5 m, aircraft at 40 m and 260 m: halfway 20.75 m high; the zone by P.526's formula."""
    cut = section(Assessment(drawn(bare(situation))), 240, 400)
    half = int(np.argmin(np.abs(cut.distance_m - 130)))
    assert cut.line_m[half] == pytest.approx(20.75)
    assert cut.fresnel_m[half] == pytest.approx(fresnel_radius_m(130, 130, 2.4))
    assert np.isnan(cut.line_m[cut.distance_m > 260]).all()
    assert cut.line_m[0] == 1.5


def test_winds_grow_with_height_and_are_those_of_the_checks(situation: Situation) -> None:
    a = Assessment(drawn(bare(situation)))
    winds = section(a, 240, 300).winds
    assert [w.height_m for w in winds] == list(WIND_HEIGHTS_M)
    assert [w.speed_ms for w in winds] == sorted(w.speed_ms for w in winds)
    assert a.wind is not None
    assert winds[1] == a.wind.at(30)


def test_what_stands_is_cut_where_it_stands(situation: Situation) -> None:
    """A wood from 60 to 90 m, ten metres wider for what a position may be off; a wire crossed at 200 m."""
    ring = [at(situation, b, d) for b, d in ((220, 60), (260, 60), (260, 90), (220, 90))]
    pines = feature("obstacle", Polygon(ring), kind="trees", height_m=18, name="pines")
    wires = feature(
        "obstacle", LineString([at(situation, 200, 261), at(situation, 280, 261)]), kind="wires", height_m=11
    )
    cut = section(Assessment(drawn(bare(situation), pines, wires)), 240, 300)
    wood, line = cut.standing
    assert (wood.kind, wood.name, wood.top_m) == (ObstacleKind.TREES, "pines", 18)
    assert (wood.from_m, wood.to_m) == (
        pytest.approx(60 * math.cos(math.radians(20)) - 10, abs=5),
        pytest.approx(95, abs=6),
    )
    assert (line.from_m + line.to_m) / 2 == pytest.approx(261 * math.cos(math.radians(40)), abs=3)
    assert line.top_m == 11


def test_a_wood_with_a_clearing_is_cut_twice(situation: Situation) -> None:
    outer = Polygon([at(situation, b, d) for b, d in ((225, 60), (255, 60), (250, 300), (230, 300))])
    gap = Polygon([at(situation, b, d) for b, d in ((200, 150), (280, 150), (275, 200), (205, 200))])
    forest = feature("obstacle", outer.difference(gap), kind="trees", height_m=15)
    assert len(section(Assessment(drawn(bare(situation), forest)), 240, 400).standing) == 2


def test_in_the_open_the_contour_is_the_range(situation: Situation) -> None:
    """6000 m of open range and 10 dB wanted: 1897 m of slant all round, found to a fortieth of how far is looked."""
    s = drawn(bare(situation))
    found = signal_contour_m(s, np.arange(0.0, 360, 30), 2400)
    assert np.all(np.abs(found - math.sqrt((6000 / 10**0.5) ** 2 - 38.5**2)) <= 60)


def test_a_survey_needs_a_place(situation: Situation) -> None:
    assert survey(Assessment(situation), 500) is None
    found = survey(Assessment(drawn(bare(situation))), 500)
    assert found is not None
    assert (found.subjects, found.ways_down, found.over_water) == ((), (), False)


def test_a_subject_below_the_pilot_is_seen_to_be(situation: Situation) -> None:
    fall = made_terrain(situation, lambda x, y: 42 + 0.1 * (x + y))
    pool = feature("subject", Point(at(situation, 225, 100)), name="pool")
    found = survey(Assessment(drawn(bare(situation), pool, terrain=fall)), 300)
    assert found is not None
    assert found.subjects[0].ground_m == pytest.approx(-0.1 * 2 * 100 * math.sin(math.radians(45)), abs=0.05)
    assert (found.subjects[0].bearing_deg, found.subjects[0].distance_m) == (
        pytest.approx(225, abs=1e-6),
        pytest.approx(100, abs=1e-6),
    )


@settings(max_examples=30)
@given(st.floats(0, 359), st.floats(30, 220), st.floats(5, 70), st.integers(1, 35).map(lambda n: n * 10.0))
def test_turning_the_place_the_flight_and_the_wind_together_changes_nothing(
    bearing: float, distance: float, height: float, turn: float
) -> None:
    def turned(by: float) -> Assessment:
        mast = feature("obstacle", Point(at(BASE, bearing + by, distance)), kind="mast", height_m=height)
        s = wind(bare(BASE), forecast(4, (240 + by) % 360, 7))
        return Assessment(changed(drawn(s, mast), flight__bearing_deg=(240 + by) % 360))

    one, other = turned(0), turned(turn)
    assert other.return_height.lowest_m == pytest.approx(one.return_height.lowest_m)
    assert one.reach_on_bearing is not None
    assert other.reach_on_bearing is not None
    assert other.reach_on_bearing.distance_m[0] == pytest.approx(one.reach_on_bearing.distance_m[0], abs=5.1)
    assert other.signal.margin_db == pytest.approx(one.signal.margin_db, abs=1.0)


@settings(max_examples=40)
@given(st.floats(0, 359), st.floats(1, 12), st.floats(0, 359), st.floats(0, 14))
def test_a_moves_time_is_its_length_and_still_air_has_no_direction(
    bearing: float, speed: float, other: float, wind_ms: float
) -> None:
    power = power_model(BASE.aircraft, 1.2)

    def straight(towards: float, air: tuple[float, float]) -> tuple[float, float]:
        x, y = xy(towards, np.linspace(0, 120, 25))
        return cost(x, y, np.full(25, 30.0), speed, power, air)

    seconds, wh = straight(bearing, (0.0, 0.0))
    assert seconds == pytest.approx(120 / speed)
    assert straight(other, (0.0, 0.0))[1] == pytest.approx(wh)
    # With the whole place turned, wind and all, it costs the same.
    assert straight(bearing, (wind_ms, other))[1] == pytest.approx(straight(bearing + 70, (wind_ms, other + 70))[1])
    # Drifting with the wind at its own speed is hovering.
    drifting = straight((other + 180) % 360, (speed, other))[1]
    assert drifting == pytest.approx(float(power.cruise_w(0.0)) * seconds / 3600)

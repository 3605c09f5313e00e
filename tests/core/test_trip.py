"""Legs, turn-back and reach."""

import numpy as np
import pytest

from tests.make import changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.motion import safe_return_time
from zealous_lark.core.situation import Site, Situation, SpeedMode
from zealous_lark.core.trip import Flyer, LegName, ReachLimit


def flyer(situation: Situation) -> Flyer:
    made = Assessment(situation).flyer
    assert made is not None
    return made


def test_legs_add_up(situation: Situation) -> None:
    trip = flyer(situation).fly()
    assert [leg.name for leg in trip.legs] == list(LegName)
    assert trip.spent_wh == pytest.approx(sum(leg.wh for leg in trip.legs))
    assert trip.landing_pct == pytest.approx(100 - 100 * sum(leg.wh for leg in trip.legs) / trip.usable_wh)


def test_holding_station_is_flying_at_the_winds_speed(situation: Situation) -> None:
    f = flyer(situation)
    station = next(leg for leg in f.fly().legs if leg.name is LegName.STATION)
    assert station.wh / station.seconds * 3600 == pytest.approx(float(f.power.cruise_w(4.902)), rel=1e-4)


def test_climbs_to_the_return_height_only_when_it_is_higher(situation: Situation) -> None:
    def climb_s(height: float) -> float:
        trip = flyer(changed(situation, settings__rth_altitude_m=height)).fly()
        return next(leg.seconds for leg in trip.legs if leg.name is LegName.RETURN_CLIMB)

    assert climb_s(60) == pytest.approx(20 / 4)
    assert climb_s(20) == 0


def test_turning_back_at_the_turn_back_charge_lands_with_the_reserve(situation: Situation) -> None:
    """The definition: leaving the far point with that charge leaves just the reserve on the ground."""
    trip = flyer(situation).fly()
    leaving = next(leg.charge_after_pct for leg in trip.legs if leg.name is LegName.STATION)
    assert trip.turn_back_pct is not None
    assert trip.landing_pct is not None
    assert trip.turn_back_pct - (leaving - trip.landing_pct) == pytest.approx(30)


def test_over_water_ten_points_more(situation: Situation) -> None:
    dry, wet = flyer(situation).fly(), flyer(changed(situation, site__over_water=True)).fly()
    assert dry.turn_back_pct is not None
    assert wet.turn_back_pct == pytest.approx(dry.turn_back_pct + 10)
    assert wet.landing_pct == pytest.approx(dry.landing_pct)


@pytest.mark.parametrize("bearing", [0.0, 60.0, 135.0, 240.0])
def test_flying_to_the_reach_lands_with_the_reserve(situation: Situation, bearing: float) -> None:
    reach = flyer(situation).reach(bearing)
    there = changed(situation, flight__bearing_deg=bearing, flight__distance_m=reach.distance_m[0])
    assert flyer(there).fly().landing_pct == pytest.approx(30, abs=1e-9)


def test_reach_is_the_point_of_safe_return_where_all_costs_are_cruise(situation: Situation) -> None:
    """Classic air navigation as the special case: no station, no height, one airspeed both ways."""
    s = changed(
        situation,
        flight__height_m=0.0,
        flight__station_min=0.0,
        flight__return_mode=SpeedMode.NORMAL,
        settings__rth_altitude_m=0.0,
    )
    f = flyer(s)
    out, home = float(f.speed_out_ms(240)), float(f.speed_home_ms(240))
    hover_wh = f.power.hover_w * 60 / 3600
    endurance_s = (0.7 * f.usable_wh - hover_wh) / float(f.power.cruise_w(10)) * 3600
    assert f.reach(240).distance_m[0] == pytest.approx(out * safe_return_time(endurance_s, out, home))


def test_reach_stays_what_the_charge_gives_where_the_way_home_is_slow(situation: Situation) -> None:
    reach = flyer(wind(situation, forecast(5.4))).reach([60, 240])
    faster = flyer(wind(changed(situation, minimums__return_speed_ms=1.0), forecast(5.4))).reach([60])
    assert reach.distance_m[0] == pytest.approx(faster.distance_m[0])
    assert reach.limited_by == (ReachLimit.WIND, ReachLimit.CHARGE)
    assert reach.distance_m[1] > 1000


def test_reach_is_zero_when_the_pack_does_not_cover_the_station(situation: Situation) -> None:
    reach = flyer(changed(situation, flight__station_min=60.0)).reach(0)
    assert reach.distance_m == (0,)
    assert reach.limited_by == (ReachLimit.CHARGE,)


def test_no_headway_out_ends_the_trip_there(situation: Situation) -> None:
    trip = flyer(wind(situation, forecast(12))).fly()
    assert trip.blocked is LegName.OUTBOUND
    assert trip.landing_pct is None
    assert trip.legs[-1].name is LegName.CLIMB


def test_no_headway_home_ends_the_trip_at_the_far_point(situation: Situation) -> None:
    trip = flyer(wind(changed(situation, flight__bearing_deg=60.0), forecast(9))).fly()
    assert trip.blocked is LegName.RETURN
    assert trip.legs[-1].name is LegName.RETURN_CLIMB
    assert trip.turn_back_pct is None


def test_a_crosswind_as_fast_as_the_aircraft_has_no_way_home(situation: Situation) -> None:
    trip = flyer(wind(changed(situation, flight__bearing_deg=150.0), forecast(12))).fly()
    assert np.isnan(trip.ground_speed_home_ms)
    assert trip.blocked is not None


def test_landing_charge_over_return_heights_agrees_with_the_legs(situation: Situation) -> None:
    heights = [20.0, 40.0, 80.0, 120.0]
    together = flyer(situation).landing_pct(heights)
    alone = [flyer(changed(situation, settings__rth_altitude_m=h)).fly().landing_pct for h in heights]
    assert together == pytest.approx(alone)


def test_indoors_the_air_is_still(situation: Situation) -> None:
    site: Site = changed(situation, site__indoors=True).site
    trip = flyer(changed(situation, site=site)).fly()
    assert trip.ground_speed_out_ms == 10
    assert trip.ground_speed_home_ms == 9

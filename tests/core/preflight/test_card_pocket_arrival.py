"""The settings card, the pocket card's table, the look-round and the measured wind."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from tests.make import changed, forecast, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.minimums import Minimums
from zealous_lark.core.preflight.arrival import differences, feels, look_round
from zealous_lark.core.preflight.pocket import (
    AGAINST_MS,
    ending_force,
    reach_by_bearing,
    turn_back_pct,
    turn_back_table,
)
from zealous_lark.core.preflight.settings_card import Dial, Setting, settings_card
from zealous_lark.core.situation import LostLink, Platform, PlatformKind, RadioNoise, Situation, SpeedMode
from zealous_lark.core.units import METRIC


def dial(situation: Situation, setting: Setting, **more: object) -> Dial:
    card = settings_card(Assessment(situation), **more)  # type: ignore[arg-type]
    return next(d for d in card if d.setting is setting)


def test_the_return_height_is_the_cores_recommendation(situation: Situation) -> None:
    found = dial(situation, Setting.RETURN_HEIGHT)
    assert found.value == Assessment(situation).return_height.recommended_m == 35
    assert found.planned == "40 m"
    assert dial(changed(situation, settings__rth_altitude_m=35.0), Setting.RETURN_HEIGHT).planned is None


def test_the_low_charge_warning_is_the_turn_back_charge_rounded_up(situation: Situation) -> None:
    trip = Assessment(situation).trip
    assert trip is not None
    assert trip.turn_back_pct is not None
    value = dial(situation, Setting.LOW_CHARGE).value
    assert value is not None
    assert trip.turn_back_pct <= value < trip.turn_back_pct + 5
    assert value % 5 == 0


def test_the_distance_limit_is_the_least_of_what_ends_a_flight(situation: Situation) -> None:
    a = Assessment(situation)
    value = dial(situation, Setting.DISTANCE).value
    assert value is not None
    assert a.reach_on_bearing is not None
    least = min(a.sight.limit_m, a.signal.range_m, a.reach_on_bearing.distance_m[0])
    assert least - 10 < value <= least
    near = changed(situation, site__over_water=True, minimums__water_distance_m=60.0)
    assert dial(near, Setting.DISTANCE).value == 60


def test_where_nothing_is_in_reach_no_distance_is_dialled_in(situation: Situation) -> None:
    found = dial(wind(situation, forecast(9.5, 60, 10.5)), Setting.DISTANCE)
    assert found.value is None
    assert "Change the plan" in found.why


def test_first_flights_stay_low_near_and_slow(situation: Situation) -> None:
    high = changed(situation, flight__height_m=100.0)
    assert dial(high, Setting.CEILING, first_flights=True).value == 90
    assert dial(situation, Setting.MODE, first_flights=True).shown == "slow"
    far = changed(situation, aircraft__size_m=2.0, site__obstacles=())
    assert (dial(far, Setting.DISTANCE, first_flights=True).value or 0) <= 300


def test_the_ceiling_is_never_over_the_legal_height(situation: Situation) -> None:
    found = dial(changed(situation, flight__height_m=118.0), Setting.CEILING)
    assert found.value == Minimums().legal_height_m


def test_the_lost_link_action_follows_the_place(situation: Situation) -> None:
    assert dial(situation, Setting.LOST_LINK).shown == LostLink.RETURN
    boat = dial(changed(situation, site__platform=Platform(PlatformKind.BOAT)), Setting.LOST_LINK)
    assert (boat.shown, boat.planned) == (LostLink.HOVER, LostLink.RETURN)


def test_indoors_there_is_no_height_and_no_return(situation: Situation) -> None:
    card = settings_card(Assessment(changed(situation, site__indoors=True)))
    names = {d.setting: d.shown for d in card}
    assert Setting.RETURN_HEIGHT not in names
    assert names[Setting.LOW_CHARGE] == "off"
    assert names[Setting.LOST_LINK] == "hover"


def test_what_was_set_last_time_shows_where_it_differs(situation: Situation) -> None:
    last = changed(situation, settings__rth_altitude_m=60.0, settings__max_altitude_m=120.0)
    assert dial(situation, Setting.RETURN_HEIGHT, last=last).last == "60 m"
    same = changed(situation, settings__rth_altitude_m=35.0)
    assert dial(situation, Setting.RETURN_HEIGHT, last=same).last is None


def test_the_band_is_the_higher_one_where_the_lower_is_full(situation: Situation) -> None:
    assert dial(situation, Setting.BAND).shown == "2.4 GHz"
    assert dial(changed(situation, site__radio_noise=RadioNoise.URBAN), Setting.BAND).shown == "5.8 GHz"


def test_the_pocket_table_cell_by_cell(situation: Situation) -> None:
    """Each cell against the whole trip of the core, flown straight into a wind of that speed on the way home."""
    flyer = Assessment(situation).flyer
    assert flyer is not None
    table = turn_back_table(flyer, 300)
    assert table.distance_m == (50, 100, 150, 200, 300)
    assert table.against_ms == AGAINST_MS
    for distance, row in zip(table.distance_m, table.charge_pct, strict=True):
        for against, cell in zip(AGAINST_MS, row, strict=True):
            # Out towards the north with the wind from the south is home against it; still air has no direction.
            level = measured(against, 180, against, height=flyer.situation.return_height_m)
            flown = changed(wind(situation, level), flight__bearing_deg=0.0, flight__distance_m=distance)
            here = Assessment(flown)
            assert here.flyer is not None
            assert float(here.flyer.wind_home[0]) == pytest.approx(against, abs=1e-6)
            trip = replace(here.flyer, usable_wh=flyer.usable_wh, power=flyer.power).fly()
            if cell is None:
                assert not trip.ground_speed_home_ms >= flyer.situation.minimums.return_speed_ms
            else:
                assert cell == pytest.approx(trip.turn_back_pct)


def test_no_way_home_is_said_as_such(situation: Situation) -> None:
    slow = changed(situation, flight__return_mode=SpeedMode.SLOW)
    flyer = Assessment(slow).flyer
    assert flyer is not None
    assert turn_back_pct(flyer, 100, 6.0) is None


def test_the_force_that_ends_the_flight_is_the_first_above_the_minimum(situation: Situation) -> None:
    # Half of 10.7 m/s is 5.35; force 4 stands for 6.7 m/s at 10 m, force 3 for 4.3 (WMO, v = 0.836·B^1.5).
    force = ending_force(Assessment(situation))
    assert force is not None
    assert force.force == 4
    assert ending_force(Assessment(changed(situation, aircraft__max_wind_ms=39.0, minimums__wind_fraction=1.0))) is None


def test_reach_on_eight_bearings_is_the_cores_rounded_down(situation: Situation) -> None:
    a = Assessment(situation)
    assert a.reach is not None
    whole = dict(zip(a.reach.bearing_deg, a.reach.distance_m, strict=True))
    found = reach_by_bearing(a)
    assert [b for b, _ in found] == [0, 45, 90, 135, 180, 225, 270, 315]
    assert all(whole[b] - 10 < d <= whole[b] for b, d in found)


def test_the_look_round_fits_the_place(situation: Situation) -> None:
    outdoors = {x.key for x in look_round(situation)}
    indoors = {x.key for x in look_round(changed(situation, site__indoors=True))}
    on_land = {"wires", "trees", "masts", "shelter", "people", "birds", "overhead", "ground", "emergency", "quiet"}
    assert on_land == outdoors
    water = {x.key for x in look_round(changed(situation, site__over_water=True))}
    assert water - on_land == {"boats", "poles", "waves", "shore_short"}
    afloat = {x.key for x in look_round(changed(situation, site__platform=Platform(PlatformKind.BOAT)))}
    assert afloat - on_land == {"ship_radar", "rigging", "swell"}
    assert not outdoors & indoors
    assert len(indoors) == 2


def test_the_measured_wind_is_held_against_the_forecast_at_its_height(situation: Situation) -> None:
    calm = wind(situation, forecast(4, 240, 6), measured(2.2, 250))
    (found,) = differences(calm)
    profile = Assessment(wind(situation, forecast(4, 240, 6))).wind
    assert profile is not None
    assert found.forecast_ms == pytest.approx(float(profile.speed_ms(2.0)))
    assert found.turn_deg == pytest.approx(10)
    assert "as forecast" in found.sentence
    (harder,) = differences(wind(situation, forecast(4, 240, 6), measured(5.5, 150)))
    assert harder.stronger
    assert "Stronger than forecast" in harder.sentence
    assert "90° off the forecast" in harder.sentence
    assert differences(wind(situation, forecast(4))) == ()
    assert differences(wind(situation, measured(4))) == ()


def test_what_the_wind_makes_of_the_cold_is_told_for_the_hands(situation: Situation) -> None:
    """The index at -10 °C and 30 km/h is -19.5 °C (US NWS and Environment Canada 2001); nothing where it is mild."""
    cold = changed(wind(situation, forecast(30 / 3.6)), weather__temperature_c=-10.0)
    told = feels(Assessment(cold), METRIC)
    assert told is not None
    assert re.match(r"[-−]10(\.0)? °C feels like [-−](19|20)", told), told
    assert feels(Assessment(changed(cold, weather__temperature_c=12.0)), METRIC) is None
    assert feels(Assessment(changed(cold, site__indoors=True)), METRIC) is None

"""Checks of the air, the light, the controller and the rules, at and around their limits."""

from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any

import pandas as pd
import pytest
from metpy.calc import dewpoint_from_relative_humidity
from metpy.units import units
from pvlib.solarposition import get_solarposition

from tests.make import changed, find, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Status
from zealous_lark.core.light import Sun, angle_from_sun_deg, sun
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.readings import Precipitation
from zealous_lark.core.situation import LostLink, Platform, PlatformKind, Situation
from zealous_lark.core.weather import BEAUFORT, beaufort_speed_ms, dew_point_c, wind_chill_c

PASS, CARE, FAIL, UNKNOWN = Status.PASS, Status.CARE, Status.FAIL, Status.UNKNOWN
AT_40 = 4.902013499950173 / 4


@pytest.mark.parametrize(("turn", "status"), [(0, PASS), (44.9, PASS), (45.1, CARE), (119, CARE)])
def test_wind_that_turns_with_height(situation: Situation, turn: float, status: Status) -> None:
    levels = (forecast(3, 240, height=10), forecast(3, (240 + turn) % 360, height=40))
    assert find(wind(situation, *levels), "wind.shear").status is status


@pytest.mark.parametrize(
    ("at_40", "off", "status"),
    [
        (1.99, 0, PASS),
        (2.01, 0, CARE),
        (3.2, 0, CARE),
        (3.22, 0, FAIL),
        (6.5, 60, FAIL),
        (6.3, 60, CARE),
        (3.9, 60, PASS),
        (5, 91, PASS),
    ],
)
def test_offshore_wind(situation: Situation, at_40: float, off: float, status: Status) -> None:
    """Limit 0.5 × 10.7 × 0.6 = 3.21 m/s, of the part that blows out along the way."""
    s = changed(situation, site__over_water=True, flight__bearing_deg=(60.0 + off) % 360)
    assert find(wind(s, forecast(at_40 / AT_40)), "wind.offshore").status is status


@pytest.mark.parametrize(
    ("air", "pack", "status"),
    [(20, 20, PASS), (5, 15, PASS), (4.9, 20, CARE), (10, 14.9, CARE), (-10, 20, CARE), (-10.1, 20, FAIL),
     (40.1, 30, FAIL), (20, 39, PASS), (20, 41, CARE), (20, 50, CARE), (20, 50.1, FAIL), (36, 30, CARE),
     (20, -10.1, FAIL), (16, None, PASS), (14, None, CARE)],
)  # fmt: skip
def test_cold_and_heat(situation: Situation, air: float, pack: float | None, status: Status) -> None:
    s = changed(situation, weather__temperature_c=float(air), pack__temperature_c=pack)
    assert find(s, "battery.temperature").status is status


@pytest.mark.parametrize(
    ("change", "action", "status"),
    [
        ({}, LostLink.RETURN, PASS),
        ({}, LostLink.LAND, CARE),
        ({"site__indoors": True}, LostLink.HOVER, PASS),
        ({"site__indoors": True}, LostLink.RETURN, FAIL),
        ({"site__platform": Platform(PlatformKind.BOAT)}, LostLink.RETURN, CARE),
        ({"site__obstacles": (Obstacle(ObstacleKind.MAST, 130, 50, 0),)}, LostLink.RETURN, FAIL),
        ({"site__obstacles": (Obstacle(ObstacleKind.MAST, 130, 50, 0),)}, LostLink.HOVER, PASS),
    ],
)
def test_lost_link(situation: Situation, change: dict[str, Any], action: LostLink, status: Status) -> None:
    assert find(changed(situation, settings__lost_link=action, **change), "return.lost_link").status is status


@pytest.mark.parametrize(("count", "status"), [(None, UNKNOWN), (6, FAIL), (7, CARE), (10, CARE), (11, PASS)])
def test_satellites(situation: Situation, count: int | None, status: Status) -> None:
    """Six or fewer: do not count on holding position (common practice)."""
    assert find(changed(situation, settings__satellites=count), "signal.satellites").status is status


@pytest.mark.parametrize(("confirmed", "status"), [(None, UNKNOWN), (False, FAIL), (True, PASS)])
def test_home_point(situation: Situation, confirmed: bool | None, status: Status) -> None:
    assert find(changed(situation, settings__home_point_set=confirmed), "signal.home_point").status is status


@pytest.mark.parametrize(
    ("kind", "accept", "status"),
    [("none", False, PASS), ("light", False, FAIL), ("light", True, CARE), ("heavy", True, FAIL), ("fog", True, FAIL)],
)
def test_precipitation(situation: Situation, kind: str, accept: bool, status: Status) -> None:
    s = changed(situation, weather__precipitation=Precipitation(kind), minimums__accept_light_rain=accept)
    assert find(s, "weather.precipitation").status is status


@pytest.mark.parametrize(
    ("dew", "status"), [(None, UNKNOWN), (6 - 0.719, FAIL), (6 - 0.721, CARE), (6 - 1.239, CARE), (6 - 1.241, PASS)]
)
def test_cloud_base(situation: Situation, dew: float | None, status: Status) -> None:
    """40 m and 50 m of room make 90 m, which is 0.72 °C of spread; care within a further 65 m, 1.24 °C."""
    assert find(changed(situation, weather__dew_point_c=dew), "weather.cloud_base").status is status


@pytest.mark.parametrize(
    ("air", "dew", "rain", "status"),
    [(2, 0, "none", FAIL), (2, -0.1, "none", CARE), (2, -2.1, "none", PASS),
     (2.1, 0.1, "none", CARE), (5, 3, "none", CARE),
     (5.1, 5, "none", PASS), (1, -9, "light", FAIL), (4, None, "none", UNKNOWN), (8, None, "none", PASS)],
)  # fmt: skip
def test_icing(situation: Situation, air: float, dew: float | None, rain: str, status: Status) -> None:
    s = changed(situation, weather__temperature_c=float(air), weather__dew_point_c=dew)
    assert find(changed(s, weather__precipitation=Precipitation(rain)), "weather.icing").status is status


@pytest.mark.parametrize(("kp", "status"), [(4.9, PASS), (5, CARE), (5.9, CARE), (6, FAIL), (9, FAIL)])
def test_geomagnetic(situation: Situation, kp: float, status: Status) -> None:
    """NOAA G-scale: Kp 5 and more is a storm."""
    assert find(changed(situation, weather__kp=float(kp)), "weather.geomagnetic").status is status


@pytest.mark.parametrize(
    ("mass", "payload", "status"),
    [
        (245, 0, PASS),
        (249, 0, PASS),
        (240, 9, PASS),
        (240, 10, CARE),
        (500, 50.1, CARE),
        (500, 100.1, FAIL),
        (250, 0, PASS),
        (720, 50, PASS),
    ],
)
def test_mass_step(situation: Situation, mass: float, payload: float, status: Status) -> None:
    s = changed(situation, aircraft__mass_g=float(mass), aircraft__payload_g=float(payload))
    assert find(s, "rules.mass").status is status


@pytest.mark.parametrize(("distance", "status"), [(160, PASS), (160.1, CARE), (200, CARE), (200.1, FAIL)])
def test_out_over_water(situation: Situation, distance: float, status: Status) -> None:
    s = changed(situation, site__over_water=True, flight__distance_m=distance)
    assert find(s, "water.distance").status is status


def at(situation: Situation, clock: str) -> Situation:
    return changed(situation, takeoff_at=datetime.fromisoformat(f"2026-09-27T{clock}:00+03:00"))


@pytest.mark.parametrize(
    ("clock", "status"),
    [("06:30", FAIL), ("06:50", CARE), ("07:20", PASS), ("18:50", PASS), ("19:10", CARE), ("19:40", FAIL)],
)
def test_daylight(situation: Situation, clock: str, status: Status) -> None:
    """Sun 07:15 to 19:05, civil twilight 06:39 to 19:41 at the bog that day; the flight takes eight minutes."""
    assert find(at(situation, clock), "sight.daylight").status is status


def test_glare_is_the_low_sun_behind_the_aircraft(situation: Situation) -> None:
    dawn = at(situation, "08:00")
    towards = sun(58.62, 25.08, dawn.takeoff_at).azimuth_deg
    assert find(changed(dawn, flight__bearing_deg=towards), "sight.glare").status is CARE
    assert find(changed(dawn, flight__bearing_deg=(towards + 45) % 360), "sight.glare").status is PASS
    assert find(changed(at(situation, "13:00"), flight__bearing_deg=180.0), "sight.glare").status is PASS
    assert find(changed(at(situation, "05:00"), flight__bearing_deg=90.0), "sight.glare").status is PASS


@pytest.mark.parametrize("latitude", [-33.9, 0.0, 58.62])
@pytest.mark.parametrize("when", ["2026-06-21T08:00:00+00:00", "2026-12-21T15:00:00+00:00"])
def test_sun_position_against_pvlib(latitude: float, when: str) -> None:
    """pvlib's solar position algorithm (NREL SPA), to a tenth of a degree."""
    moment = datetime.fromisoformat(when)
    theirs = get_solarposition(pd.DatetimeIndex([moment]), latitude, 10.0).iloc[0]
    ours = sun(latitude, 10.0, moment)
    assert ours.azimuth_deg == pytest.approx(theirs["azimuth"], abs=0.1)
    assert ours.elevation_deg == pytest.approx(theirs["apparent_elevation"], abs=0.1)


def test_angles_from_the_sun() -> None:
    low = Sun(90, 0)
    assert angle_from_sun_deg(low, 90, 30) == pytest.approx(30)
    assert angle_from_sun_deg(low, 120, 0) == pytest.approx(30)
    assert angle_from_sun_deg(low, 270, 0) == pytest.approx(180)


@pytest.mark.parametrize(
    ("air", "wind_kmh", "chill"),
    [(-10, 20, -17.9), (-10, 30, -19.5), (0, 40, -7.4), (5, 10, 2.7), (12, 40, 12), (10.5, 40, 10.5), (0, 3, 0)],
)
def test_wind_chill(air: float, wind_kmh: float, chill: float) -> None:
    """US NWS and Environment Canada 2001, cells of the published table; outside its range the air itself."""
    assert wind_chill_c(air, wind_kmh) == pytest.approx(chill, abs=0.06)


@pytest.mark.parametrize(("air", "humidity"), [(21, 45), (-5, 80), (30, 20), (0, 100)])
def test_dew_point_against_metpy(air: float, humidity: float) -> None:
    theirs = dewpoint_from_relative_humidity(air * units.degC, humidity * units.percent).to("degC").magnitude
    assert dew_point_c(air, humidity) == pytest.approx(theirs, abs=0.1)


def test_beaufort_table() -> None:
    """WMO Beaufort scale, mean speeds in m/s at 10 m to a tenth, and forces that adjoin."""
    assert [round(b.middle_ms, 1) for b in BEAUFORT[:9]] == [0.0, 0.8, 2.4, 4.3, 6.7, 9.3, 12.3, 15.5, 18.9]
    assert len(BEAUFORT) == 13
    for lower, upper in pairwise(BEAUFORT):
        assert lower.high_ms == upper.low_ms
    assert beaufort_speed_ms(12) == pytest.approx(34.8, abs=0.1)


def test_the_flight_takes_its_legs_time(situation: Situation) -> None:
    landing = Assessment(situation).landing_at
    assert timedelta(minutes=8) < landing - situation.takeoff_at < timedelta(minutes=9)


def test_weather_of_this_moment_is_of_no_age(situation: Situation) -> None:
    dated = changed(situation, weather__as_of=situation.takeoff_at, judged_at=situation.takeoff_at)
    assert find(dated, "weather.age").value == 0
    ahead = changed(dated, weather__as_of=situation.takeoff_at + timedelta(hours=2))
    assert find(ahead, "weather.age").value == 0


def test_a_wind_that_turns_round_is_a_fault_from_a_third_of_the_airspeed(situation: Situation) -> None:
    """Behind the take-off point below, against the way home above."""
    airspeed = situation.aircraft.airspeed_ms(situation.flight.return_mode)
    below = (situation.flight.bearing_deg) % 360
    above = (below + 180) % 360
    for share, status in ((0.30, Status.CARE), (0.36, Status.FAIL)):
        levels = (forecast(1.0, below, height=2), forecast(share * airspeed, above, height=situation.return_height_m))
        assert find(wind(situation, *levels), "wind.shear").status is status, share

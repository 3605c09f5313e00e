"""What a track says: known geometry, known wind, in its own interval."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.postflight.make_tracks import HOME, flown, there_and_back
from zealous_lark.core.geodesy import Frame
from zealous_lark.core.postflight.track import DRAWN_POINTS, WANDER_M, Track, cleaned, drawn, facts_of
from zealous_lark.core.postflight.wind_circle import CircleWind, NoWind, Pieces, wind_of

ROUND = np.arange(0.0, 360.0, 30.0)


def vector(speed: float, from_deg: float) -> np.ndarray:
    angle = np.radians(from_deg + 180)
    return speed * np.array([np.sin(angle), np.cos(angle)])


def test_a_flight_out_and_back() -> None:
    facts = facts_of(there_and_back())
    assert facts.farthest_m == pytest.approx(300, abs=0.1)
    assert facts.farthest_bearing_deg == pytest.approx(240, abs=0.1)
    assert facts.length_m == pytest.approx(600, abs=0.5)
    assert facts.highest_m == pytest.approx(50)
    assert facts.return_height_m == pytest.approx(50, abs=1)
    assert facts.fastest_ms == pytest.approx(10, abs=0.1)
    assert [leg.name for leg in facts.legs] == ["climb", "out", "station", "home", "descent"]
    _, out, station, home, _ = facts.legs
    assert (out.speed_ms, home.speed_ms) == (pytest.approx(5, abs=0.1), pytest.approx(10, abs=0.4))
    assert (out.length_m, home.length_m) == (pytest.approx(300, abs=6), pytest.approx(300, abs=6))
    assert (station.from_s, station.to_s) == (pytest.approx(70, abs=6), pytest.approx(135, abs=6))
    assert (facts.charge_from_pct, facts.charge_to_pct) == (98, 62)
    assert facts.pct_per_100m == pytest.approx(6, abs=0.01)
    assert isinstance(facts.wind, NoWind)  # there and back on one line says nothing of the wind across it


@given(st.floats(20, 900), st.floats(0.6, 1.0), st.integers(0, 2**32 - 1))
def test_a_long_look_is_part_of_no_way_wherever_it_stands(station_s: float, share: float, seed: int) -> None:
    """First to the farthest, then back to where the picture is, a long look there with a drifting position, home."""
    rng = np.random.default_rng(seed)
    far, look, back_s = 300.0, 300.0 * share, 300.0 * (1 - share) / 5
    knots = np.cumsum([0.0, 10.0, 60.0, back_s + 1, station_s, 5.0, look / 8, 20.0])
    time = np.arange(0.0, knots[-1] + 0.5, 1.0)
    away = np.interp(time, knots, [0.0, 0.0, far, look, look, look, 0.0, 0.0])
    height = np.interp(time, knots, [0.0, 40.0, 40.0, 40.0, 40.0, 62.0, 62.0, 0.0])
    lat, lon = Frame(*HOME).to_geographic(rng.normal(0, 0.4, len(time)), away + rng.normal(0, 0.4, len(time)))
    facts = facts_of(Track(time, lat, lon, height, np.full(len(time), np.nan)))
    legs = {leg.name: leg for leg in facts.legs}
    out, home = legs["out"], legs["home"]
    assert facts.return_height_m == pytest.approx(62, abs=0.5)
    assert out.to_s == pytest.approx(70, abs=10)
    # However long it stood there: the wandering of its position is no way flown.
    assert facts.length_m == pytest.approx(600, rel=0.06)
    # It set out for home about when it had climbed to the return height.
    assert home.from_s == pytest.approx(knots[5], abs=12)


def test_the_wind_is_in_its_own_interval_19_times_in_20() -> None:
    inside = told = 0
    for seed in range(100):
        rng = np.random.default_rng(seed)
        speed, come_from = rng.uniform(0, 7), rng.uniform(0, 360)
        headings = rng.permutation(ROUND)
        found = facts_of(flown(rng, speed, come_from, headings)).wind
        if isinstance(found, NoWind):
            # So little that it might be a ground speed held badly, or so much that it hardly went against it.
            assert speed < 1.0 or speed > 5.0
            continue
        told += 1
        off = vector(found.speed_ms, found.direction_deg) - vector(speed, come_from)
        inside += float(np.hypot(*off)) <= found.speed_pm_ms
    assert told >= 80
    assert inside >= 0.95 * told


def test_the_wind_and_the_airspeed_are_found_close_enough_to_use() -> None:
    found = facts_of(flown(np.random.default_rng(1), 5.0, 235.0, ROUND)).wind
    assert isinstance(found, CircleWind)
    assert found.speed_ms == pytest.approx(5.0, abs=0.3)
    assert found.direction_deg == pytest.approx(235, abs=4)
    assert found.airspeed_ms == pytest.approx(8.0, abs=0.3)
    assert found.speed_pm_ms < 0.6


def test_pieces_in_another_mode_do_not_pull_it_away() -> None:
    rng = np.random.default_rng(3)
    angle = np.radians(np.arange(0, 360, 10.0))
    wx, wy = vector(4.0, 270)
    radius = np.where(np.arange(36) % 9 == 0, 14.0, 8.0)
    east, north = radius * np.sin(angle) + wx + rng.normal(0, 0.1, 36), radius * np.cos(angle) + wy
    found = wind_of(Pieces(np.arange(36) * 10.0, east, north))
    assert isinstance(found, CircleWind)
    assert found.speed_ms == pytest.approx(4.0, abs=0.3)


@pytest.mark.parametrize(
    ("headings", "why"),
    [
        (np.array([60.0, 240.0] * 8), "gap"),
        (np.linspace(0, 150, 16), "gap"),
        (np.array([0.0, 90.0]), "steady pieces"),
    ],
)
def test_too_few_headings_say_nothing(headings: np.ndarray, why: str) -> None:
    found = facts_of(flown(np.random.default_rng(0), 5, 200, headings, piece_s=12)).wind
    assert isinstance(found, NoWind)
    assert why in found.why or "same heading" in found.why or "scatter" in found.why


@given(st.floats(0, 360), st.floats(20, 800))
def test_turning_a_track_turns_only_its_bearing(bearing: float, distance: float) -> None:
    facts, base = facts_of(there_and_back(bearing, distance)), facts_of(there_and_back(0, distance))
    assert facts.farthest_m == pytest.approx(base.farthest_m, abs=0.05)
    # A step just as long as a position may wander counts on one bearing and not on another, out and home.
    assert facts.length_m == pytest.approx(base.length_m, rel=1e-3, abs=2 * WANDER_M + 0.01)
    assert abs((facts.farthest_bearing_deg - bearing + 180) % 360 - 180) < 0.5


def test_what_is_drawn_is_few_points_with_the_farthest_and_highest() -> None:
    track = flown(np.random.default_rng(0), 3, 90, np.tile(ROUND, 20))
    track.height_m[1234] = 77.0
    facts, shown = facts_of(track), drawn(track)
    assert len(shown.time_s) <= DRAWN_POINTS + 2
    assert max(shown.distance_m) == pytest.approx(facts.farthest_m, abs=0.1)
    assert max(h for h in shown.height_m if h is not None) == 77.0


def test_what_is_drawn_stands_where_it_was_flown() -> None:
    track = there_and_back()
    shown = drawn(track)
    latitude, longitude = Frame(shown.latitude, shown.longitude).to_geographic(
        np.array(shown.east_m), np.array(shown.north_m)
    )
    at = np.searchsorted(track.time_s, shown.time_s)
    # Drawn to a tenth of a metre: a millionth of a degree of latitude is 0.11 m.
    assert latitude == pytest.approx(track.latitude[at], abs=2e-6)
    assert longitude == pytest.approx(track.longitude[at], abs=4e-6)


def test_a_track_without_heights_or_charge_says_so() -> None:
    track = there_and_back()
    track.height_m[:] = np.nan
    track.charge_pct[:] = np.nan
    facts = facts_of(track)
    assert facts.highest_m is facts.return_height_m is facts.pct_per_100m is None


def test_a_spike_a_wrong_beginning_and_a_wrong_first_height_are_found_and_said() -> None:
    good = there_and_back()
    lat, lon, height = good.latitude.copy(), good.longitude.copy(), good.height_m + 120.0
    lat[40], lon[41] = lat[40] + 0.05, lon[41] - 2
    lat[:3], lon[:3] = 0.0, 0.0
    height[:4] = 0.0  # no fix yet: everything after it would be 120 m too high
    height[60] = 900.0
    left, gone_s = cleaned(replace(good, latitude=lat, longitude=lon, height_m=height))
    assert gone_s == 3.0
    assert (left.positions_left_out, left.heights_left_out) == (5, 2)
    assert left.time_s[0] == 0
    facts, true = facts_of(left), facts_of(good)
    assert (facts.positions_left_out, facts.heights_left_out) == (5, 2)
    assert facts.farthest_m == pytest.approx(true.farthest_m, abs=0.5)
    # The first good height was 4 s into the climb, at 16 m.
    assert facts.highest_m == pytest.approx((true.highest_m or 0) - 16, abs=1)
    assert facts.fastest_ms == pytest.approx(true.fastest_ms, abs=0.5)


def test_nothing_is_taken_from_a_good_track() -> None:
    good = flown(np.random.default_rng(4), 6.0, 200, np.tile(ROUND, 4), airspeed_ms=20.0)
    left, gone_s = cleaned(good)
    assert (len(left.time_s), gone_s, left.positions_left_out, left.heights_left_out) == (len(good.time_s), 0, 0, 0)


def test_a_leg_is_as_fast_as_it_was_flown_not_as_long_as_it_took() -> None:
    """A minute over the pad, out at 14 m/s with a stop halfway, a look, home at 14 m/s, a minute over the pad."""
    knots = np.cumsum([0.0, 60.0, 10.0, 45.0, 10.0, 60.0, 20.0, 60.0])
    time = np.arange(0.0, knots[-1] + 0.5, 1.0)
    away = np.interp(time, knots, [0, 0, 140, 140, 280, 280, 0, 0])
    lat, lon = Frame(*HOME).to_geographic(np.zeros(len(time)), away)
    legs = {leg.name: leg for leg in facts_of(Track(time, lat, lon, time * 0 + 30, time * np.nan)).legs}
    assert legs["climb"].to_s == pytest.approx(60, abs=2)
    assert legs["out"].speed_ms == pytest.approx(14, abs=0.8)
    assert legs["home"].speed_ms == pytest.approx(14, abs=0.8)
    assert legs["descent"].to_s - legs["descent"].from_s == pytest.approx(60, abs=3)


def test_a_gap_is_no_flight() -> None:
    track = there_and_back()
    keep = (track.time_s < 80) | (track.time_s > 120)
    facts = facts_of(
        Track(track.time_s[keep], track.latitude[keep], track.longitude[keep], track.height_m[keep],
              track.charge_pct[keep])
    )  # fmt: skip
    assert facts.gap_s == pytest.approx(42)
    assert facts.seconds == pytest.approx(facts_of(track).seconds - 42)


def test_a_spike_every_few_seconds_is_found_too() -> None:
    good = flown(np.random.default_rng(4), 3.0, 90, np.tile(ROUND, 10))
    lat = good.latitude.copy()
    lat[5::5] += 0.05
    left, _ = cleaned(replace(good, latitude=lat))
    assert left.positions_left_out == len(lat[5::5]) > 400
    assert facts_of(left).farthest_m < 1.02 * facts_of(good).farthest_m

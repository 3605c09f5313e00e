"""The best way home: the height and mode that land with the most charge, and never the button from a deck."""

from __future__ import annotations

import pytest

from tests.make import changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.best_way_home import BestWayHome
from zealous_lark.core.checks import Status
from zealous_lark.core.fixes import fixes
from zealous_lark.core.minimums import StrongWindRule
from zealous_lark.core.situation import LostLink, Platform, PlatformKind, Situation, SpeedMode
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import judge


def ways(situation: Situation) -> BestWayHome:
    found = Assessment(situation).best_way_home
    assert found is not None
    return found


def test_the_best_is_the_one_with_most_charge_that_is_quick_enough(situation: Situation) -> None:
    found = ways(wind(situation, forecast(4, direction=60)))
    assert found.best is not None
    quick = [w for w in found.ways if w.ground_speed_ms >= 2 * situation.minimums.return_speed_ms]
    assert max(w.landing_pct for w in quick) - found.best.landing_pct < 0.1
    lowest = Assessment(situation).return_height.lowest_m
    assert all(w.height_m >= lowest for w in found.ways)


def test_where_the_wind_turns_with_height_it_goes_up_to_it(situation: Situation) -> None:
    """Against it at 40 m, with it at 100 m: up is the way home."""
    levels = (forecast(7, 60, height=40), forecast(7, 240, height=100))
    best = ways(wind(situation, *levels)).best
    assert best is not None
    assert best.height_m > 60


def test_from_a_deck_the_best_way_is_never_the_return_button(situation: Situation) -> None:
    for speed in (0.0, 1.0):
        afloat = changed(situation, site__platform=Platform(PlatformKind.BOAT, 60.0, speed), flight__station_min=2.0)
        found = ways(afloat)
        assert found.best is not None
        assert all(w.mode is not SpeedMode.RTH for w in (*found.ways, found.best, found.fastest) if w is not None)


def test_a_deck_that_comes_towards_the_aircraft_is_nearer(situation: Situation) -> None:
    still = changed(situation, site__platform=Platform(PlatformKind.BOAT, 240.0, 0.0), flight__station_min=2.0)
    comes = changed(still, site__platform=Platform(PlatformKind.BOAT, 240.0, 0.5))
    one, other = ways(still).best, ways(comes).best
    assert one is not None
    assert other is not None
    assert other.landing_pct > one.landing_pct


def test_from_a_deck_no_fix_and_no_school_says_automatic_return(situation: Situation) -> None:
    """Also where the deck hardly moves, so that no check fails for it."""
    slow = wind(
        changed(
            situation,
            site__platform=Platform(PlatformKind.BOAT, 60.0, 0.02),
            flight__bearing_deg=60.0,
            flight__return_mode=SpeedMode.SLOW,
            settings__lost_link=LostLink.HOVER,
            minimums__strong_wind=StrongWindRule.AUTOMATIC,
        ),
        forecast(3.6),
    )
    before = judge(slow)
    home = next(j for j in before.judged if j.check.id == "wind.return")
    assert home.finding.status is Status.FAIL
    assert "return to home" not in home.finding.sentence(METRIC)
    found = fixes(before, home.check)
    assert found
    assert all(value is not SpeedMode.RTH for fix in found for _, value in fix.changes)
    ashore = judge(changed(slow, site__platform=Platform()))
    assert "return to home" in next(j for j in ashore.judged if j.check.id == "wind.return").finding.sentence(METRIC)


@pytest.mark.parametrize(
    ("mode", "height"), [(SpeedMode.NORMAL, 60.0), (SpeedMode.FAST, 60.0), (SpeedMode.NORMAL, 40.0)]
)
def test_a_way_home_lands_with_what_the_trip_by_it_lands_with(
    situation: Situation, mode: SpeedMode, height: float
) -> None:
    flown = changed(situation, settings__rth_altitude_m=height, flight__return_mode=mode)
    trip = Assessment(flown).trip
    assert trip is not None
    found = ways(situation)
    way = next(w for w in found.ways if w.height_m == height)
    if way.mode is mode:
        assert way.landing_pct == pytest.approx(trip.landing_pct, abs=1e-6)
    else:
        assert way.landing_pct >= trip.landing_pct - 1e-6


def test_the_best_way_is_never_a_crawl(situation: Situation) -> None:
    least = 2 * situation.minimums.return_speed_ms
    bests = [ways(wind(situation, forecast(speed, direction=60))).best for speed in range(13)]
    told = [b for b in bests if b is not None]
    assert 3 < len(told) < 13
    assert min(b.ground_speed_ms for b in told) >= least

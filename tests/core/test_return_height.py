"""Return heights."""

import pytest

from tests.make import changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.return_height import CeilingLimit, lowest_return_height
from zealous_lark.core.situation import Situation


def building(height: float, distance: float = 50) -> Obstacle:
    return Obstacle(ObstacleKind.BUILDING, height, distance, 0)


def test_ten_metres_over_hundred_metre_buildings() -> None:
    """Common practice: highest plus 10 m; 100 m buildings ask for 110."""
    assert lowest_return_height([building(100)], 200, 10, 20) == (110, building(100))


def test_a_tenth_of_the_height_where_that_is_more() -> None:
    assert lowest_return_height([building(150)], 200, 10, 20)[0] == pytest.approx(165)


def test_what_stands_beyond_the_flight_does_not_count() -> None:
    assert lowest_return_height([building(60, 201)], 200, 10, 20) == (20, None)
    assert lowest_return_height([building(60, 200)], 200, 10, 20)[0] == 70


def test_recommended_is_rounded_up_to_five(situation: Situation) -> None:
    r = Assessment(situation).return_height
    assert (r.lowest_m, r.recommended_m, r.highest_m) == (34, 35, 120)
    assert r.limited_by is CeilingLimit.LEGAL


def test_already_round_stays(situation: Situation) -> None:
    r = Assessment(changed(situation, site__obstacles=(building(25),))).return_height
    assert r.recommended_m == 35


def test_rounding_never_goes_past_the_highest(situation: Situation) -> None:
    r = Assessment(changed(situation, site__obstacles=(building(26),), minimums__legal_height_m=38.0)).return_height
    assert (r.lowest_m, r.recommended_m, r.highest_m) == (36, 38, 38)


def test_wind_sets_the_highest(situation: Situation) -> None:
    """Home against the wind in slow mode: the height where 6 m/s less the wind falls under 3 m/s."""
    s = wind(changed(situation, flight__bearing_deg=60.0, flight__height_m=5.0), forecast(2.4))
    s = changed(s, flight__return_mode="slow", aircraft__slow_ms=6.0)
    a = Assessment(s)
    r = a.return_height
    assert r.limited_by is CeilingLimit.WIND
    assert r.highest_m is not None
    assert a.wind is not None
    assert a.wind.speed_ms(r.highest_m) <= 3
    assert a.wind.speed_ms(r.highest_m + 1) > 3


def test_charge_sets_the_highest(situation: Situation) -> None:
    s = changed(situation, pack__charge_pct=63.0)
    a = Assessment(s)
    r = a.return_height
    assert r.limited_by is CeilingLimit.CHARGE
    assert r.highest_m is not None
    assert a.flyer is not None
    keeps, empties = a.flyer.landing_pct([r.highest_m, r.highest_m + 1])
    assert keeps >= 30 > empties


def test_no_height_serves(situation: Situation) -> None:
    r = Assessment(changed(situation, site__obstacles=(building(130),))).return_height
    assert r.recommended_m is None
    assert r.lowest_m == 143


def test_without_wind_the_highest_is_not_known(situation: Situation) -> None:
    s = wind(changed(situation, site__sheltered=True), *())
    r = Assessment(s).return_height
    assert r.highest_m is None
    assert r.recommended_m == 35


def test_the_highest_by_charge_is_the_last_metre_that_still_lands_with_the_reserve(situation: Situation) -> None:
    """A legal height of just that many metres is then what limits; a metre more, and it is the charge again."""
    s = changed(situation, pack__charge_pct=63.0)
    by_charge = Assessment(s).return_height
    assert by_charge.limited_by is CeilingLimit.CHARGE
    assert by_charge.highest_m is not None
    for more, limit in ((0, CeilingLimit.LEGAL), (1, CeilingLimit.CHARGE)):
        at = changed(s, minimums__legal_height_m=by_charge.highest_m + more)
        found = Assessment(at).return_height
        assert (found.highest_m, found.limited_by) == (by_charge.highest_m, limit)

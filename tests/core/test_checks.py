"""Each check at, just under and just over its limit, and with what it needs missing."""

import math
from typing import Any

import pytest
from shapely.geometry import Point

from tests.make import at, changed, drawn, feature, find, forecast, measured, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks import Check, Status, all_checks, base
from zealous_lark.core.checks.base import MOST_USED, check, share_of_budget, share_of_ceiling, share_of_floor
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.return_height import CeilingLimit
from zealous_lark.core.situation import Move, MoveKind, Seen, Situation, SpeedMode
from zealous_lark.core.units import LengthUnit, SpeedUnit, Units

PASS, CARE, FAIL, UNKNOWN = Status.PASS, Status.CARE, Status.FAIL, Status.UNKNOWN
BIT = 1e-6

# Wind at 40 m over the example's ground for 1 m/s of forecast at 10 m.
AT_40 = 4.902013499950173 / 4
RATED = 10.7


def mast(height: float, distance: float = 100, bearing: float = 0) -> Obstacle:
    return Obstacle(ObstacleKind.MAST, height, distance, bearing)


@pytest.fixture
def bare(situation: Situation) -> Situation:
    """The example without obstacles."""
    return changed(situation, site__obstacles=())


@pytest.mark.parametrize(
    ("at_height", "status"),
    [
        (0.0, PASS),
        (0.8 * 5.35 - BIT, PASS),
        (0.8 * 5.35 + BIT, CARE),
        (5.35 - BIT, CARE),
        (5.35 + BIT, FAIL),
    ],
)
def test_steady_wind(situation: Situation, at_height: float, status: Status) -> None:
    found = find(wind(situation, forecast(at_height / AT_40)), "wind.steady")
    assert found.status is status
    assert found.used == pytest.approx(at_height / 5.35)


def test_steady_wind_counts_at_the_higher_of_the_two_heights(situation: Situation) -> None:
    high = changed(situation, settings__rth_altitude_m=100.0)
    assert (find(high, "wind.steady").value or 0) > (find(situation, "wind.steady").value or 0)
    low = changed(situation, settings__rth_altitude_m=20.0)
    assert find(low, "wind.steady").value == find(situation, "wind.steady").value


@pytest.mark.parametrize(
    ("gust", "status"),
    [(0.8 * RATED - BIT, PASS), (0.8 * RATED + BIT, CARE), (RATED - BIT, CARE), (RATED + BIT, FAIL)],
)
def test_gust(situation: Situation, gust: float, status: Status) -> None:
    calm = wind(situation, forecast(2, gust=2 + gust - 2 * AT_40))
    found = find(calm, "wind.gust")
    assert found.value == pytest.approx(gust)
    assert found.status is status


@pytest.mark.parametrize(
    ("airspeed_over_wind", "status"), [(3 - BIT, FAIL), (3 + BIT, CARE), (6 - BIT, CARE), (6 + BIT, PASS)]
)
def test_way_home(situation: Situation, airspeed_over_wind: float, status: Status) -> None:
    against = wind(changed(situation, flight__bearing_deg=60.0), forecast(2))
    against = changed(against, aircraft__rth_speed_ms=2 * AT_40 + airspeed_over_wind)
    found = find(against, "wind.return")
    assert found.value == pytest.approx(airspeed_over_wind)
    assert found.status is status


def test_way_home_when_blown_back_or_across(situation: Situation) -> None:
    back = find(wind(changed(situation, flight__bearing_deg=60.0), forecast(10)), "wind.return")
    assert back.status is FAIL
    assert back.used == MOST_USED
    assert "would carry it away" in back.sentence
    across = find(wind(changed(situation, flight__bearing_deg=150.0), forecast(10)), "wind.return")
    assert (across.status, across.value) == (FAIL, None)
    assert "can't hold" in across.sentence


@pytest.mark.parametrize(
    ("bearing", "share_of_third", "status"),
    [(151, 2, PASS), (149, 2, CARE), (60, 0.99, PASS), (60, 1.01, CARE), (240, 3, PASS)],
)
def test_first_leg(situation: Situation, bearing: float, share_of_third: float, status: Status) -> None:
    s = wind(changed(situation, flight__bearing_deg=bearing), forecast(share_of_third * 10 / 3 / AT_40))
    assert find(s, "wind.first_leg").status is status


@pytest.mark.parametrize(("charge", "status"), [(59.9, FAIL), (60, CARE), (94.9, CARE), (95, PASS), (100, PASS)])
def test_charge(situation: Situation, charge: float, status: Status) -> None:
    assert find(changed(situation, pack__charge_pct=charge), "battery.charge").status is status


def test_a_half_used_pack_stays_down(situation: Situation) -> None:
    """Common practice: never start a second flight on a half-used one."""
    assert find(changed(situation, pack__charge_pct=50.0), "battery.charge").status is FAIL


def test_full_charge_uses_none_of_the_room(situation: Situation) -> None:
    assert find(situation, "battery.charge").used == 0
    assert find(changed(situation, pack__charge_pct=95.0), "battery.charge").used == pytest.approx(1)
    asks_all = changed(situation, minimums__min_takeoff_pct=100.0)
    assert find(asks_all, "battery.charge").used == 0
    assert find(changed(asks_all, pack__charge_pct=99.0), "battery.charge").status is CARE


@pytest.mark.parametrize(
    ("reserve_below_landing", "status"), [(-0.01, FAIL), (0.01, CARE), (9.99, CARE), (10.01, PASS)]
)
def test_budget(situation: Situation, reserve_below_landing: float, status: Status) -> None:
    landing = 69.61043367903659
    s = changed(situation, minimums__reserve_pct=landing - reserve_below_landing)
    found = find(s, "battery.budget")
    assert found.value == pytest.approx(landing)
    assert found.status is status


def test_budget_names_the_leg_without_headway(situation: Situation) -> None:
    out = find(wind(situation, forecast(12)), "battery.budget")
    home = find(wind(changed(situation, flight__bearing_deg=60.0), forecast(9)), "battery.budget")
    assert (out.status, home.status) == (FAIL, FAIL)
    assert "flight out" in out.sentence
    assert "flight home" in home.sentence
    assert home.follows == "wind.return"


def test_budget_says_when_the_pack_is_empty_on_the_way(situation: Situation) -> None:
    assert "run out before" in find(changed(situation, flight__station_min=60.0), "battery.budget").sentence
    low = find(changed(situation, flight__station_min=23.0), "battery.budget")
    assert "land itself" in low.sentence


@pytest.mark.parametrize(("share", "status"), [(0.799, PASS), (0.801, CARE), (0.999, CARE), (1.001, FAIL)])
def test_reach(bare: Situation, share: float, status: Status) -> None:
    reach = find(bare, "battery.reach").limit
    assert reach is not None
    found = find(changed(bare, flight__distance_m=reach * share), "battery.reach")
    assert found.status is status
    assert found.used == pytest.approx(share)


@pytest.mark.parametrize(
    ("height", "status"), [(28.9, FAIL), (29, CARE), (33.9, CARE), (34, PASS), (65, PASS), (65.1, CARE)]
)
def test_return_clearance(situation: Situation, height: float, status: Status) -> None:
    assert find(changed(situation, settings__rth_altitude_m=height), "return.clearance").status is status


def test_return_height_under_the_trees_says_so(situation: Situation) -> None:
    found = find(changed(situation, settings__rth_altitude_m=15.0), "return.clearance")
    assert "is below the top of" in found.sentence
    assert "Set 35 m" in found.sentence


def test_no_return_height_says_what_would_open_it(bare: Situation) -> None:
    found = find(changed(bare, site__obstacles=(mast(130),)), "return.clearance")
    assert found.status is FAIL
    assert "change bearing or take-off point" in found.sentence


@pytest.mark.parametrize(("height", "status"), [(119.9, PASS), (120, PASS), (120.1, FAIL)])
def test_return_ceiling_at_the_legal_height(situation: Situation, height: float, status: Status) -> None:
    calm = wind(situation, forecast(1))
    assert find(changed(calm, settings__rth_altitude_m=height), "return.ceiling").status is status


def test_return_ceiling_in_wind_follows_from_the_way_home(situation: Situation) -> None:
    s = wind(changed(situation, flight__bearing_deg=60.0), forecast(6))
    found = find(s, "return.ceiling")
    assert (found.status, found.limit) == (PASS, 120)
    assert Assessment(s).return_height.limited_by is CeilingLimit.WIND
    assert find(s, "wind.return").status is FAIL


@pytest.mark.parametrize(("margin", "status"), [(2.9, FAIL), (3.1, CARE), (9.9, CARE), (10.1, PASS)])
def test_signal_margin(bare: Situation, margin: float, status: Status) -> None:
    slant = 6000 / 10 ** (margin / 20)
    s = changed(bare, flight__distance_m=slant, flight__height_m=1.5)
    found = find(s, "signal.margin")
    assert found.value == pytest.approx(margin)
    assert found.status is status


@pytest.mark.parametrize(("distance", "status"), [(137.7, PASS), (137.8, CARE), (275.4, CARE), (275.5, FAIL)])
def test_sight(situation: Situation, distance: float, status: Status) -> None:
    """The slant counts: 1.5 m up is the height of the hand."""
    level = changed(situation, flight__distance_m=distance, flight__height_m=1.5)
    assert find(level, "sight.distance").status is status
    assert find(changed(level, flight__height_m=60.0), "sight.distance").value == pytest.approx(
        math.hypot(distance, 58.5)
    )


@pytest.mark.parametrize(("height", "status"), [(108, PASS), (108.1, CARE), (120, CARE), (120.1, FAIL)])
@pytest.mark.parametrize("which", ["flight__height_m", "settings__rth_altitude_m"])
def test_legal_height(situation: Situation, which: str, height: float, status: Status) -> None:
    assert find(changed(situation, **{which: height}), "rules.height").status is status


NEEDS_WIND = [
    "wind.steady",
    "wind.gust",
    "wind.return",
    "wind.first_leg",
    "battery.budget",
    "battery.reach",
    "return.ceiling",
]


@pytest.mark.parametrize("check_id", NEEDS_WIND)
def test_a_sheltered_reading_leaves_it_unknown(situation: Situation, check_id: str) -> None:
    s = wind(changed(situation, site__sheltered=True), measured(1))
    found = find(s, check_id)
    assert found.status is UNKNOWN
    assert found.value is not None, "the figure is given"
    assert "shelter" in found.sentence
    assert find(wind(s, measured(1), forecast(3)), check_id).status is not UNKNOWN


def test_too_high_for_the_rules_fails_even_while_the_wind_is_unknown(situation: Situation) -> None:
    s = wind(changed(situation, site__sheltered=True, settings__rth_altitude_m=130.0), measured(1))
    assert find(s, "return.ceiling").status is FAIL


@pytest.mark.parametrize("check_id", [c.id for c in all_checks()])
@pytest.mark.parametrize(
    "change",
    [
        {},
        {"flight__distance_m": 0.0, "flight__height_m": 0.0, "flight__station_min": 0.0},
        {"settings__rth_altitude_m": 0.0},
        {"pack__charge_pct": 0.0},
        {"site__over_water": True, "flight__return_mode": SpeedMode.FAST},
    ],
)
def test_every_finding_can_be_shown(situation: Situation, check_id: str, change: dict[str, Any]) -> None:
    """A used share within its scale, a whole sentence, a working, and no bare nan or infinity in the words."""
    move = Move(MoveKind.ORBIT, situation.site.latitude, situation.site.longitude, 50, 20)
    wood = feature("obstacle", Point(at(situation, 240, 80)), kind="trees", height_m=18)
    people = feature("people", Point(at(situation, 60, 300)))
    known = changed(
        drawn(situation, wood, people),
        settings__compass_checked=True,
        site__seen=frozenset({Seen.BIRDS}),
        flight__moves=(move,),
        weather__as_of=situation.takeoff_at,
        judged_at=situation.takeoff_at,
    )
    found = find(changed(known, **change), check_id)
    assert found.used is not None
    assert 0 <= found.used <= MOST_USED
    assert found.sentence.endswith(".")
    assert found.working
    for line in (found.sentence, *found.working):
        assert "nan" not in line.split()
        assert "inf" not in line.split()


def test_sentences_are_written_in_the_pilots_units(situation: Situation) -> None:
    imperial = Units(SpeedUnit.MPH, LengthUnit.FT)
    assert "11.0 mph" in find(situation, "wind.steady", imperial).sentence
    assert "862 ft" in find(situation, "sight.distance", imperial).sentence


def test_a_check_name_is_taken_once() -> None:
    with pytest.raises(ValueError, match="already"):
        check("wind.gust", "Gusts again", "m/s", "nobody")(lambda _a, _u: find)  # type: ignore[arg-type,return-value]
    assert len({c.id for c in all_checks()}) == len(all_checks())


def test_reach_of_nothing_says_which_way_the_wind_ends(situation: Situation) -> None:
    out = find(wind(situation, forecast(14, direction=240)), "battery.reach")
    assert (out.status, out.follows) == (Status.FAIL, "wind.outbound")
    assert out.sentence == "Nothing towards 240° is in range: no headway against the wind on the flight out."
    home = find(wind(situation, forecast(14, direction=60)), "battery.reach")
    assert (home.status, home.follows) == (Status.FAIL, "wind.return")
    assert home.sentence == "Nothing towards 240° is in range: no headway against the wind on the flight home."


def test_over_water_the_reserve_says_why_it_is_greater(situation: Situation) -> None:
    wet = find(changed(situation, site__over_water=True, flight__station_min=14.0), "battery.budget")
    dry = find(changed(situation, flight__station_min=18.0), "battery.budget")
    assert "(10 points more over water)" in wet.sentence
    assert "over water" not in dry.sentence
    assert (wet.limit, dry.limit) == (40, 30)


def test_the_working_multiplies_what_the_battery_holds(situation: Situation) -> None:
    said = find(situation, "battery.budget").working[0]
    assert said == "Usable: 18.1 Wh × health 95% × cold 0.92 (mean of air at 6 °C and battery at 18 °C) = 15.75 Wh"


def test_the_share_of_a_budget_is_what_is_spent_of_what_may_be() -> None:
    assert share_of_budget(100.0, 60.0, 30.0) == pytest.approx(40 / 70)
    assert share_of_budget(100.0, 20.0, 30.0) > 1


def test_a_new_check_is_registered(monkeypatch: pytest.MonkeyPatch) -> None:
    kept: list[Check] = []
    monkeypatch.setattr(base, "_REGISTER", kept)
    for name in ("one.thing", "another.thing"):
        check(name, "Thing", "m/s", "nobody")(lambda _a, _u: find)  # type: ignore[arg-type,return-value]
    assert [c.id for c in kept] == ["one.thing", "another.thing"]


def test_shares_of_no_limit_are_none_used() -> None:
    assert share_of_floor(5, 0) == 0
    assert share_of_floor(0, 5) == share_of_floor(-1, 5) == MOST_USED
    assert share_of_ceiling(0, 5) == share_of_ceiling(-1, 5) == 0
    assert share_of_ceiling(5, 0) == MOST_USED


@pytest.mark.parametrize(
    ("rated", "air", "words"),
    [((5.0, 40.0), 9.0, "near an end"), ((5.0, 40.0), 11.0, "in the comfortable range"),
     ((-10.0, 30.0), 26.0, "near an end"), ((-10.0, 30.0), 24.0, "in the comfortable range")],
)  # fmt: skip
def test_air_near_an_end_of_what_it_is_rated_to(
    situation: Situation, rated: tuple[float, float], air: float, words: str
) -> None:
    s = changed(situation, aircraft__temperature_c=rated, weather__temperature_c=air, pack__temperature_c=20.0)
    assert words in find(changed(s, weather__dew_point_c=None), "battery.temperature").sentence


def test_the_wind_that_is_not_known_is_asked_for_once(situation: Situation) -> None:
    asked = {c.id: find(wind(situation), c.id) for c in all_checks() if c.id.startswith(("wind.", "battery."))}
    assert asked["wind.steady"].question == "What is the wind, by forecast or by a reading?"
    others = [f for name, f in asked.items() if name != "wind.steady" and f.status is UNKNOWN]
    assert len(others) > 4
    assert {f.follows for f in others} == {"wind.steady"}
    assert all(f.question is None for f in others)


@pytest.mark.parametrize(("off", "way"), [(60.0, "into the wind"), (60.6, "across the wind")])
def test_up_to_sixty_degrees_off_is_into_the_wind(situation: Situation, off: float, way: str) -> None:
    s = wind(changed(situation, flight__bearing_deg=240 + off), forecast(4))
    assert way in find(s, "wind.first_leg").sentence

"""Whether a drill may start: room, people, wind, and every check of the drill as a flight of its own."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from tests.make import changed, measured
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.assumed import Assumed
from zealous_lark.core.checks import Status
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.practice.drills import BY_KEY, DRILLS, Drill
from zealous_lark.core.practice.start import UNDER_M, Start, as_flown, start
from zealous_lark.core.situation import Platform, PlatformKind, Seen, Situation, SpeedMode
from zealous_lark.core.units import METRIC
from zealous_lark.core.verdict import Verdict, judge

FLOWN = tuple(d for d in DRILLS if d.height_m is not None)
NOSE_IN, NO_HOLD = BY_KEY["nose_in"], BY_KEY["no_hold"]


@pytest.fixture
def quiet(situation: Situation) -> Situation:
    """An open meadow with next to no wind, where somebody has looked for people."""
    site = replace(situation.site, obstacles=(), people_looked_at=date(2026, 9, 27))
    return changed(situation, site=site, weather__winds=(measured(1.0, height=10),), settings__satellites=15)


def status(found: Start, name: str) -> Status:
    return next(p.status for p in found.points if p.name == name)


def words(found: Start, name: str) -> str:
    return next(p.say(METRIC) for p in found.points if p.name == name)


@pytest.mark.parametrize("drill", DRILLS, ids=lambda d: d.key)
def test_on_a_quiet_meadow_every_drill_may_start(quiet: Situation, drill: Drill) -> None:
    found = start(quiet, drill)
    assert found.may, [p.say(METRIC) for p in found.points]


@pytest.mark.parametrize("drill", FLOWN, ids=lambda d: d.key)
def test_no_drill_starts_over_its_wind(quiet: Situation, drill: Drill) -> None:
    rated = quiet.aircraft.rated_wind_ms
    assert drill.height_m is not None
    # The reading is taken at the drill's own height, so that it is the wind there.
    under, over = (
        start(changed(quiet, weather__winds=(measured(f * drill.wind_share * rated, height=drill.height_m),)), drill)
        for f in (0.7, 1.01)
    )
    assert (status(under, "Wind at its height"), status(over, "Wind at its height")) == (Status.PASS, Status.FAIL)
    assert not over.may
    assert over.wind_ms == pytest.approx(drill.wind_share * rated)


def test_a_wind_that_nobody_said_or_read_in_shelter_starts_nothing(quiet: Situation) -> None:
    for doubtful in (
        replace(quiet, assumed=frozenset({Assumed.WINDS})),
        changed(quiet, weather__winds=()),
        changed(quiet, site__sheltered=True, weather__winds=(measured(1.0, height=1.5),)),
    ):
        found = start(doubtful, NOSE_IN)
        assert (status(found, "Wind at its height"), found.may) == (Status.UNKNOWN, False)


def test_what_nobody_said_is_asked_once_and_not_all_that_it_touches(quiet: Situation) -> None:
    unsaid = replace(quiet, assumed=frozenset({Assumed.WINDS, Assumed.CHARGE}))
    unknown = [p for p in start(unsaid, NOSE_IN).points if p.status is Status.UNKNOWN]
    assert [p.name for p in unknown] == ["Wind at its height", "Charge at take-off"]
    assert unknown[1].say(METRIC).startswith("What does the battery read?")


def test_people_that_nobody_looked_for_start_nothing_and_people_seen_stop_it(quiet: Situation) -> None:
    assert start(quiet, NOSE_IN).may
    nobody_looked = start(changed(quiet, site__people_looked_at=None), NOSE_IN)
    assert (status(nobody_looked, "People"), nobody_looked.may) == (Status.UNKNOWN, False)
    seen = start(changed(quiet, site__people_looked_at=None, site__seen=frozenset({Seen.PEOPLE})), NOSE_IN)
    assert seen.status is Status.FAIL


@pytest.mark.parametrize(
    ("away", "height", "expected"),
    [
        (NO_HOLD.room_m - 20, 30.0, Status.FAIL),
        (NO_HOLD.room_m + 5, 30.0, Status.UNKNOWN),  # paced out, it may stand nearer
        (NO_HOLD.room_m * 2, 30.0, Status.PASS),
        (NO_HOLD.room_m - 20, 15.0 - UNDER_M - 0.1, Status.PASS),  # well under the aircraft
        (NO_HOLD.room_m - 20, 15.0 - UNDER_M + 0.1, Status.FAIL),
    ],
)
def test_what_stands_in_the_room_is_named(quiet: Situation, away: float, height: float, expected: Status) -> None:
    # Across the flight, so that only the room is in its way.
    aside = (quiet.flight.bearing_deg + 180) % 360
    tree = Obstacle(ObstacleKind.TREES, height_m=height, distance_m=away, bearing_deg=aside)
    found = start(changed(quiet, site__obstacles=(tree,)), NO_HOLD)
    assert status(found, "Room") is expected
    assert ("trees" in words(found, "Room")) is (expected is not Status.PASS)


@pytest.mark.parametrize(
    "elsewhere",
    [
        {"site__indoors": True},
        {"site__over_water": True},
        {"site__platform": Platform(PlatformKind.BOAT)},
        {"site__platform": Platform(PlatformKind.CAR)},
    ],
    ids=["indoors", "water", "boat", "car"],
)
def test_drills_are_for_firm_ground_in_the_open(quiet: Situation, elsewhere: dict[str, object]) -> None:
    assert status(start(changed(quiet, **elsewhere), NOSE_IN), "Ground") is Status.FAIL


def test_what_keeps_any_flight_from_starting_keeps_a_drill(quiet: Situation) -> None:
    low = start(changed(quiet, pack__charge_pct=35.0), NOSE_IN)
    assert (low.status, low.may) == (Status.FAIL, False)
    night = start(replace(quiet, takeoff_at=quiet.takeoff_at.replace(hour=2)), NOSE_IN)
    assert night.status is Status.FAIL


def test_what_does_not_fly_starts_in_any_weather(situation: Situation) -> None:
    storm = changed(situation, weather__winds=(measured(20.0, height=10),))
    assert judge(storm).verdict is Verdict.STAY
    assert start(storm, BY_KEY["find_it"]).may


def test_a_drill_is_a_flight_of_its_own(situation: Situation) -> None:
    home = BY_KEY["automatic_return"]
    f = as_flown(situation, home).flight
    assert (f.distance_m, f.height_m, f.station_min, f.return_mode) == (50, 30, 4, SpeedMode.RTH)
    assert f.bearing_deg == situation.flight.bearing_deg
    # It is far shorter than the flight of the session, and costs less.
    far, near = Assessment(situation).trip, Assessment(as_flown(situation, home)).trip
    assert far is not None
    assert near is not None
    assert near.landing_pct > far.landing_pct


def test_the_cards_are_short_enough_for_a_phone_and_a_break() -> None:
    assert len(BY_KEY) == len(DRILLS)
    for drill in DRILLS:
        assert drill.minutes <= 5
        assert 3 <= len(drill.steps) <= 5
        assert all(step.endswith((".", "?")) for step in (*drill.steps, drill.why, drill.well, *drill.asks))
    assert any("eye protection" in ask for ask in BY_KEY["hand_landing"].asks)

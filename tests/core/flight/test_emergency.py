"""Emergency cards carry the numbers of the flight."""

from __future__ import annotations

from tests.make import changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.card import flight_card
from zealous_lark.core.flight.emergency import EmergencyCard, emergency_cards
from zealous_lark.core.situation import LostLink, Platform, PlatformKind, Situation
from zealous_lark.core.units import LengthUnit, Units

EVERY = set(
    "no_way_home charge picture control display bird drifting fog rain landing down pack".split()  # noqa: SIM905
)


def cards(situation: Situation, units: Units | None = None) -> dict[str, EmergencyCard]:
    made = emergency_cards(Assessment(situation), *([units] if units else []))
    return {c.key: c for c in made}


def test_all_of_them_with_steps_and_no_more_than_fit_a_screen(situation: Situation) -> None:
    found = cards(situation)
    assert set(found) == EVERY
    assert all(2 <= len(c.steps) <= 5 and len(c.numbers) <= 8 for c in found.values())


def test_the_way_home_against_the_wind_in_numbers(situation: Situation) -> None:
    windy = wind(situation, forecast(3, direction=60))
    against = cards(windy)["no_way_home"]
    assert "Bearing home from the far point: 060°." in against.numbers
    assert any("from 060°: against you" in n for n in against.numbers)
    behind = cards(wind(situation, forecast(6, direction=240)))["no_way_home"]
    assert any("from 240°: with you" in n for n in behind.numbers)
    a = Assessment(windy)
    card = flight_card(a)
    assert card is not None
    assert card.home is not None
    turn = card.reserve_pct + card.home.pct(situation.flight.distance_m)
    assert f"Turn back from the far point at {turn:.0f}%." in against.numbers
    assert f"Lowest clear height home: {a.return_height.lowest_m:.0f} m above take-off." in against.numbers


def test_lost_link_and_return_height_are_the_ones_that_are_set(situation: Situation) -> None:
    set_so = changed(situation, settings__rth_altitude_m=55.0)
    control = cards(set_so)["control"].numbers
    assert "Lost-link setting: return to home." in control
    assert "The return is set to 55 m." in control
    assert "The return is set to 180 ft." in cards(set_so, Units(length_unit=LengthUnit.FT))["control"].numbers


def test_indoors_nothing_of_wind_birds_or_weather(situation: Situation) -> None:
    found = cards(changed(situation, site__indoors=True))
    assert set(found) == EVERY - {"no_way_home", "bird", "fog", "rain"}
    assert not any("Wind" in n for c in found.values() for n in c.numbers)


def test_indoors_nothing_climbs_and_nobody_presses_return(situation: Situation) -> None:
    """It would go into the roof."""
    inside = changed(situation, site__indoors=True, settings__lost_link=LostLink.HOVER)
    words = " ".join(line for c in cards(inside).values() for line in (*c.steps, *c.numbers))
    assert "limb" not in words
    assert "return to home" not in words


def test_from_a_deck_nobody_presses_return(situation: Situation) -> None:
    """The home point stays where it was set: the aircraft would come down into the water."""
    afloat = changed(situation, site__platform=Platform(PlatformKind.BOAT, 90.0, 1.0))
    found = cards(afloat)
    for key in ("no_way_home", "picture", "control", "display"):
        assert any(step.startswith("No return to home: the boat") for step in found[key].steps), key
    words = " ".join(step for c in found.values() for step in c.steps)
    assert "press return to home" not in words


def test_the_best_way_home_stands_first_on_its_card(situation: Situation) -> None:
    a = Assessment(wind(situation, forecast(4, direction=60)))
    assert a.best_way_home is not None
    best = a.best_way_home.best
    assert best is not None
    first = cards(wind(situation, forecast(4, direction=60)))["no_way_home"].numbers[0]
    assert first.startswith(f"Best flight home: {best.height_m:.0f} m, {best.mode} mode")
    assert f"landing with {best.landing_pct:.0f}%" in first

"""How numbers are written."""

import doctest

import pytest

import zealous_lark.core.air
import zealous_lark.core.motion
import zealous_lark.core.sight
import zealous_lark.core.units
import zealous_lark.core.weather
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units, angle, decibels, percent


@pytest.mark.parametrize(
    "module",
    [
        zealous_lark.core.air,
        zealous_lark.core.motion,
        zealous_lark.core.sight,
        zealous_lark.core.units,
        zealous_lark.core.weather,
    ],
)
def test_the_examples_in_the_docstrings_run(module: object) -> None:
    result = doctest.testmod(module)  # type: ignore[arg-type]
    assert result.attempted > 0
    assert result.failed == 0


@pytest.mark.parametrize(
    ("unit", "text"), [("ms", "10.0 m/s"), ("kmh", "36.0 km/h"), ("mph", "22.4 mph"), ("kn", "19.4 kn")]
)
def test_speeds(unit: str, text: str) -> None:
    """1 mile is 1609.344 m, 1 nautical mile 1852 m, both exact by definition."""
    assert Units(SpeedUnit(unit)).speed(10) == text


def test_a_half_is_rounded_up_as_people_do() -> None:
    assert Units().speed(5.35) == "5.4 m/s"


def test_minus_and_zero() -> None:
    assert Units().temperature(-10) == "−10 °C"
    assert Units(temperature_unit=TemperatureUnit.F).temperature(-40) == "−40 °F"
    assert Units().temperature(-0.2) == "0 °C"
    assert percent(69.08) == "69%"
    assert decibels(-4.4) == "−4 dB"


def test_thousands_are_grouped() -> None:
    assert Units().length(2549) == "2,549 m"
    assert Units(length_unit=LengthUnit.FT).length(1000) == "3,281 ft"


def test_directions_have_three_digits() -> None:
    assert [angle(d) for d in (0, 7.4, 60, 359.7)] == ["000°", "007°", "060°", "000°"]

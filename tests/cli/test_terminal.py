"""The table of checks in a terminal."""

import json
from typing import Any

import pytest

from zealous_lark.cli.terminal import CAUTION, print_result, quantity
from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit, Units
from zealous_lark.plan import judge_plan, read_plan


def printed(plan: dict[str, Any], capsys: pytest.CaptureFixture[str], units: Units | None = None) -> str:
    document = read_plan(json.dumps(plan))
    units = units or Units()
    print_result(document, judge_plan(document, units, with_fixes=False), units)
    return capsys.readouterr().out


def rail(text: str, label: str) -> str:
    # The column is wider than any label, so that "Wind" is not "Wind shear".
    (line,) = (x for x in text.splitlines() if x.startswith(f"{label}  ") or x.strip() == label)
    return line


def test_a_bar_is_as_long_as_the_share_used(plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]) -> None:
    text = printed(plan_dict, capsys)
    assert rail(text, "Gusts").count("=") == round(20 * 7.902 / 10.7)
    assert rail(text, "First leg").count("=") == 0


def test_a_bar_breaks_through_the_wall(plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]) -> None:
    plan_dict["settings"]["rth_altitude_m"] = 20
    line = rail(printed(plan_dict, capsys), "Return height (min)")
    assert "|=>" in line
    assert "FAIL" in line


def test_what_is_not_known_has_no_bar(plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]) -> None:
    plan_dict["site"]["sheltered"] = True
    plan_dict["weather"]["winds"][0]["source"] = "measured"
    text = printed(plan_dict, capsys)
    assert "Not enough data" in text
    assert "shelter" in rail(text, "Wind")
    assert "=" not in rail(text, "Wind")


def test_the_caution_closes_every_table(plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]) -> None:
    assert " ".join(printed(plan_dict, capsys).split()).endswith(CAUTION)


def test_the_whole_table_is_in_one_set_of_units(plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]) -> None:
    text = printed(plan_dict, capsys, Units(SpeedUnit.KMH, LengthUnit.FT, TemperatureUnit.F))
    assert "km/h" in text
    assert " m/s" not in text
    assert "°C" not in text


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (None, "m", "not known"),
        (5.35, "m/s", "5.4 m/s"),
        (91.2, "°", "91°"),
        (30, "%", "30%"),
        (-7.2, "°C", "−7 °C"),
    ],
)
def test_quantities(value: float | None, unit: str, text: str) -> None:
    assert quantity(value, unit, Units()) == text


def test_checks_without_a_unit_show_their_own_words(
    plan_dict: dict[str, Any], capsys: pytest.CaptureFixture[str]
) -> None:
    plan_dict["settings"]["lost_link"] = "land"
    text = printed(plan_dict, capsys)
    assert "land (should be return)" in rail(text, "Lost-link action")
    assert "2 of 5" in rail(text, "Geomagnetic activity")
    assert "confirmed" in rail(text, "Home point")

"""The parts of the result beyond the published figures: fixes, chances, questions, words for the board."""

import json
from typing import Any

import pytest

from zealous_lark.core.checks import all_checks
from zealous_lark.plan import judge_plan, read_plan


def judged(plan: dict[str, Any], **options: Any) -> dict[str, Any]:
    loaded: dict[str, Any] = json.loads(
        judge_plan(read_plan(json.dumps(plan)), **options).model_dump_json(by_alias=True)
    )
    return loaded


def check(result: dict[str, Any], check_id: str) -> dict[str, Any]:
    found: dict[str, Any] = next(c for c in result["checks"] if c["id"] == check_id)
    return found


def apply(plan: dict[str, Any], changes: dict[str, Any]) -> dict[str, Any]:
    """A plan with a fix's changes, by the document's own keys."""
    copy: dict[str, Any] = json.loads(json.dumps(plan))
    for key, value in changes.items():
        *way, last = key.split(".")
        node = copy
        for step in way:
            node = node[step]
        node[last] = value
    return copy


def test_a_levers_keys_are_the_plan_documents_own(plan_dict: dict[str, Any]) -> None:
    """What a fix says to set can be set in the document as it is, and gives the verdict it promises."""
    plan_dict["settings"]["rth_altitude_m"] = 15
    plan_dict["pack"]["charge_pct"] = 80
    plan_dict["takeoff_at"] = "2026-09-27T06:45:00+03:00"
    levers = [(c["id"], fix) for c in judged(plan_dict)["checks"] for fix in c["levers"]]
    assert {key for _, fix in levers for key in fix["set"]} >= {
        "settings.rth_altitude_m",
        "pack.charge_pct",
    }
    for check_id, fix in levers:
        after = judged(apply(plan_dict, fix["set"]), with_fixes=False)
        assert after["verdict"] == fix["verdict"], fix
        assert check(after, check_id)["status"] == "pass", fix


def test_without_levers_all_else_is_the_same(plan_dict: dict[str, Any]) -> None:
    whole, quick = judged(plan_dict), judged(plan_dict, with_fixes=False)
    assert any(c["levers"] for c in whole["checks"])
    for c in whole["checks"]:
        c["levers"] = []
    assert whole == quick


def test_the_chance_and_its_bands_stand_on_the_legs(plan_dict: dict[str, Any]) -> None:
    plan_dict["pack"]["charge_pct"] = 64
    result = judged(plan_dict, with_fixes=False)
    chance, energy = result["chance"], result["energy"]
    assert 0 < chance["above_reserve"] < 1
    assert chance["above_forced"] >= chance["above_reserve"]
    assert [leg["name"] for leg in chance["legs"]] == [leg["name"] for leg in energy["legs"]]
    for band, leg in zip(chance["legs"], energy["legs"], strict=True):
        assert band["low_pct"] < leg["charge_after_pct"] < band["high_pct"]
    assert chance["legs"][-1]["low_pct"] == chance["landing_low_pct"]


@pytest.mark.parametrize("check_id", ["wind.steady", "wind.gust", "battery.budget"])
def test_the_spread_of_a_rail_lies_around_its_bar(plan_dict: dict[str, Any], check_id: str) -> None:
    found = check(judged(plan_dict, with_fixes=False), check_id)
    low, high = found["spread"]
    assert low < found["used"] < high


def test_what_is_certain_has_no_spread(plan_dict: dict[str, Any]) -> None:
    result = judged(plan_dict, with_fixes=False)
    assert check(result, "rules.height")["spread"] is None
    assert check(result, "sight.distance")["spread"] is None


def test_questions_name_their_check_and_whether_they_matter_yet(plan_dict: dict[str, Any]) -> None:
    plan_dict["settings"].update(satellites=None, home_point_set=None)
    del plan_dict["weather"]["dew_point_c"]
    questions = judged(plan_dict)["questions"]
    assert [(q["id"], q["matters"]) for q in questions] == [
        ("weather.cloud_base", True),
        ("rules.people", False),
        ("rules.zone", False),
        ("signal.compass", False),
        ("signal.home_point", False),
        ("signal.satellites", False),
    ]
    assert all("?" in q["question"] for q in questions)


def test_a_plan_with_nothing_open_asks_nothing(plan_dict: dict[str, Any]) -> None:
    plan_dict["settings"]["compass_checked"] = True
    plan_dict["site"].update(zones_looked_at="2026-09-20", people_looked_at="2026-09-26")
    assert judged(plan_dict)["questions"] == []


@pytest.mark.parametrize("check_id", [c.id for c in all_checks() if c.unit == ""])
def test_checks_without_a_unit_bring_their_own_words(plan_dict: dict[str, Any], check_id: str) -> None:
    plan_dict["settings"]["compass_checked"] = True
    plan_dict["place"] = {"name": "Bog", "zones_looked_at": "2026-09-20"}
    over = {"kind": "orbit", "latitude": 58.62, "longitude": 25.08, "height_m": 40}
    plan_dict["flight"]["moves"] = [over]
    plan_dict["site"]["seen"] = ["birds"]
    assert check(judged(plan_dict, with_fixes=False), check_id)["shown"]


def test_every_check_of_the_contract_is_there(plan_dict: dict[str, Any]) -> None:
    named = {
        "wind.steady", "wind.gust", "wind.return", "wind.first_leg", "wind.shear", "wind.offshore",
        "battery.charge", "battery.budget", "battery.reach", "battery.temperature",
        "return.clearance", "return.ceiling", "return.lost_link",
        "signal.margin", "signal.satellites", "signal.home_point",
        "sight.distance", "sight.daylight", "sight.glare",
        "weather.precipitation", "weather.cloud_base", "weather.icing", "weather.geomagnetic",
        "rules.height", "rules.mass", "water.distance",
        "signal.compass", "water.sensors", "wind.outbound", "rules.zone", "rules.people",
        "clear.takeoff", "clear.outbound", "clear.station", "clear.descent", "settings.limits", "aircraft.ceiling",
    }  # fmt: skip
    plan_dict["site"]["over_water"] = True
    assert {c["id"] for c in judged(plan_dict, with_fixes=False)["checks"]} == named

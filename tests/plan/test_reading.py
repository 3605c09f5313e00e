"""Plans read, and plans refused with every fault named."""

import json
from typing import Any

import pytest

from zealous_lark.plan import (
    MAX_PLAN_BYTES,
    PlanRefusedError,
    PlanTooLargeError,
    read_plan,
    read_whole_plan,
    situation_of,
)


def refusals(document: Any) -> dict[str, tuple[str, str]]:
    """Key to (given, allowed) of a document that must be refused."""
    raw = document if isinstance(document, (str, bytes)) else json.dumps(document)
    with pytest.raises(PlanRefusedError) as caught:
        read_plan(raw)
    return {r.key: (r.given, r.allowed) for r in caught.value.refusals}


def put(document: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    """The document with one place changed; numbers in the path are list places."""
    node: Any = document
    *way, last = path.split(".")
    for step in way:
        node = node[int(step)] if step.isdigit() else node[step]
    node[int(last) if last.isdigit() else last] = value
    return document


def test_the_example_is_read_whole(plan_dict: dict[str, Any]) -> None:
    plan = read_plan(json.dumps(plan_dict))
    again = json.loads(plan.model_dump_json(exclude_unset=True))
    again["takeoff_at"] = plan_dict["takeoff_at"]
    evidence = again.pop("evidence")
    assert {entry["how"] for entry in evidence.values()} == {"typed"}
    assert again.pop("version") == 2
    old, new = plan_dict["aircraft"].pop("speeds_ms"), again["aircraft"].pop("speeds_ms")
    assert new == {"slow": old["cine"], "normal": old["normal"], "fast": old["sport"]}
    del plan_dict["version"]
    assert again == plan_dict
    situation = situation_of(plan)
    assert situation.pack.temperature_c == 18
    assert situation.site.obstacles[1].height_m == 24
    assert situation.aircraft.max_tilt_deg == 35


def test_what_is_left_out_has_its_default(plan_dict: dict[str, Any]) -> None:
    del plan_dict["settings"]["max_altitude_m"], plan_dict["site"]["obstacles"], plan_dict["weather"]["kp"]
    del plan_dict["flight"]["outbound_mode"], plan_dict["pack"]["temperature_c"]
    plan_dict["minimums"] = {"reserve_pct": 40}
    s = situation_of(read_plan(json.dumps(plan_dict)))
    assert (s.settings.max_altitude_m, s.site.obstacles, s.weather.kp) == (120, (), 2)
    assert (s.flight.outbound_mode, s.pack.temperature_c) == ("normal", None)
    assert (s.minimums.reserve_pct, s.minimums.satellites) == (40, 11)


def test_a_bearing_of_360_is_north(plan_dict: dict[str, Any]) -> None:
    s = situation_of(read_plan(json.dumps(put(plan_dict, "flight.bearing_deg", 360))))
    assert s.flight.bearing_deg == 0


@pytest.mark.parametrize(
    ("path", "value", "given", "allowed"),
    [
        ("flight.bearing_deg", 400, "400", "from 0 to 360"),
        ("flight.distance_m", -5, "-5", "from 0 to 20,000"),
        ("flight.height_m", float("nan"), "NaN", "a number"),
        ("weather.temperature_c", float("inf"), "Infinity", "a number"),
        ("weather.winds.0.speed_ms", "4", '"4"', "a number from 0 to 75"),
        ("aircraft.rotor_count", 4.5, "4.5", "a whole number from 1 to 16"),
        ("aircraft.max_wind_ms", 0, "0", "more than 0 to 40"),
        ("aircraft.temperature_c", [40, -10], "[40, -10]", "the least rated temperature first"),
        ("site.surroundings", "jungle", '"jungle"', '"roughly_open"'),
        ("site.over_water", 1, "1", "true or false"),
        ("site.obstacles", {}, "{}", "a list"),
        ("site.obstacles.1.height_m", None, "null", "a number from 0 to 1,000"),
        ("weather.winds", [], "[]", "1 to 50 entries"),
        ("takeoff_at", "2026-09-27T07:40:00", '"2026-09-27T07:40:00"', "UTC offset"),
        ("takeoff_at", "tomorrow", '"tomorrow"', "UTC offset"),
        ("takeoff_at", "0001-01-01T00:00:00+00:00", '"0001-01-01T00:00:00+00:00"', "from 1990 to 2100"),
        ("settings.satellites", True, "true", "a whole number"),
        ("title", "  ", '"  "', "at least one letter"),
        ("title", "x" * 200, '"xxx', "1 to 120 letters"),
    ],
)
def test_a_bad_value_is_refused_by_name(
    plan_dict: dict[str, Any], path: str, value: Any, given: str, allowed: str
) -> None:
    found = refusals(put(plan_dict, path, value))
    parts = [f"[{p}]" if p.isdigit() else f".{p}" for p in path.split(".")]
    key = "".join(parts).removeprefix(".")
    assert list(found) == [key]
    assert found[key][0].startswith(given)
    assert allowed in found[key][1]


def test_a_gust_under_the_mean_is_refused(plan_dict: dict[str, Any]) -> None:
    found = refusals(put(plan_dict, "weather.winds.0.gust_ms", 3))
    assert "a gust is the mean speed or more" in found["weather.winds[0]"][1]


def test_unknown_keys_are_refused_with_the_known_ones(plan_dict: dict[str, Any]) -> None:
    put(plan_dict, "flight.hight_m", 40)
    plan_dict["weather"]["winds"][0]["from"] = 3
    plan_dict["spare"] = None
    found = refusals(plan_dict)
    assert "height_m" in found["flight.hight_m"][1]
    assert "direction_deg" in found["weather.winds[0].from"][1]
    assert "takeoff_at" in found["spare"][1]


def test_every_fault_is_named_at_once(plan_dict: dict[str, Any]) -> None:
    del plan_dict["pack"]
    put(plan_dict, "flight.bearing_deg", 400)
    put(plan_dict, "aircraft.mass_g", -1)
    del plan_dict["aircraft"]["link"]["range_m"]
    found = refusals(plan_dict)
    assert set(found) == {"pack", "flight.bearing_deg", "aircraft.mass_g", "aircraft.link.range_m"}
    assert found["pack"] == ("nothing", "an object with keys (this key is required)")


@pytest.mark.parametrize("junk", [b"", b"nonsense", b"\xff\xfe\x00", b"[" * 5000, b'{"a": 1', b"{'a': 1}"])
def test_what_is_not_json_is_refused(junk: bytes) -> None:
    assert refusals(junk)["(the document)"][0] == "text that is not JSON"


@pytest.mark.parametrize("document", [[], 3, None, "text"])
def test_what_is_not_an_object_is_refused(document: Any) -> None:
    assert "object" in refusals(json.dumps(document))["(the document)"][1]


def test_ten_megabytes_are_refused_unread() -> None:
    with pytest.raises(PlanTooLargeError, match="4,000,000 bytes at most"):
        read_plan(b"7" * 10_000_000)
    assert MAX_PLAN_BYTES == 4_000_000


def test_long_values_are_cut_in_the_message(plan_dict: dict[str, Any]) -> None:
    found = refusals(put(plan_dict, "site.surroundings", "x" * 5000))
    assert len(found["site.surroundings"][0]) <= 60


def test_a_plan_that_rests_on_somebodys_own_store_is_refused_where_it_must_stand_alone(
    plan_dict: dict[str, Any],
) -> None:
    read_whole_plan(json.dumps(plan_dict))
    for path, key in (("site.place", "site.place"), ("weather.report", "weather.report")):
        with pytest.raises(PlanRefusedError) as caught:
            read_whole_plan(json.dumps(put(json.loads(json.dumps(plan_dict)), path, 7)))
        (refusal,) = caught.value.refusals
        assert (refusal.key, refusal.given) == (key, "7")
        assert "export the plan" in refusal.allowed
        # In a Lark that has them, it is a plan like any other.
        read_plan(json.dumps(put(json.loads(json.dumps(plan_dict)), path, 7)))


def test_a_terrain_without_its_heights_does_not_travel(plan_dict: dict[str, Any]) -> None:
    terrain = {
        "name": "t.tif", "latitude": 58.62, "longitude": 25.08, "cell_m": 30.0, "west_m": -60.0, "north_m": 60.0,
        "columns": 4, "rows": 4, "base_m": 30.0, "sha256": "0" * 64,
    }  # fmt: skip
    plan_dict["place"] = {"name": "Bog", "features": [], "terrain": terrain}
    with pytest.raises(PlanRefusedError) as caught:
        read_whole_plan(json.dumps(plan_dict))
    assert [r.key for r in caught.value.refusals] == ["place.terrain.heights"]


def test_a_version_that_is_not_known_is_refused_by_name(plan_dict: dict[str, Any]) -> None:
    new = json.loads(read_plan(json.dumps(plan_dict)).model_dump_json())
    with pytest.raises(PlanRefusedError) as refused:
        read_plan(json.dumps({**new, "version": 3}))
    assert [(r.key, r.given, r.allowed) for r in refused.value.refusals] == [("version", "3", "2")]


def test_a_plan_of_version_1_is_brought_to_version_2_and_stays_there(plan_dict: dict[str, Any]) -> None:
    plan_dict["site"]["from_boat"] = True
    plan_dict["flight"]["return_mode"] = "sport"
    hover = {"height_m": 30, "speed_ms": 2, "direction_deg": 240, "source": "measured", "method": "hover"}
    plan_dict["weather"]["winds"].append(hover)
    plan = read_plan(json.dumps(plan_dict))
    assert plan.version == 2
    assert plan.site.platform.kind == "boat"
    assert plan.flight.return_mode == "fast"
    assert plan.weather.winds[1].source == "hover"
    assert plan.evidence["weather.winds.1"].how == "measured"
    assert read_plan(plan.model_dump_json()) == plan


def test_the_old_words_are_refused_in_version_2(plan_dict: dict[str, Any]) -> None:
    new = json.loads(read_plan(json.dumps(plan_dict)).model_dump_json())
    new["flight"]["outbound_mode"] = "sport"
    with pytest.raises(PlanRefusedError) as refused:
        read_plan(json.dumps(new))
    assert [r.key for r in refused.value.refusals] == ["flight.outbound_mode"]


def test_text_that_is_no_utf_8_is_refused_in_every_version(plan_dict: dict[str, Any]) -> None:
    raw = json.dumps(plan_dict).encode().replace(b"Dunlin", b"D\xffnlin")
    with pytest.raises(PlanRefusedError):
        read_plan(raw)

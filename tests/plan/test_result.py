"""The result document: the published figures, and its own schema."""

import json
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.make import EXAMPLES
from zealous_lark.core.units import LengthUnit, SpeedUnit, Units
from zealous_lark.plan import ResultDocument, judge_plan, read_plan, schema


def written(plan_text: str, units: Units | None = None) -> dict[str, Any]:
    result = judge_plan(read_plan(plan_text), units or Units())
    loaded: dict[str, Any] = json.loads(result.model_dump_json(by_alias=True))
    return loaded


def compare(ours: Any, published: Any, where: str = "") -> int:
    """Every published figure within 1 %; how many there were."""
    if isinstance(published, dict):
        return sum(compare(ours[key], published[key], f"{where}.{key}") for key in published)
    if isinstance(published, list):
        assert len(ours) == len(published), where
        return sum(compare(a, b, f"{where}[{i}]") for i, (a, b) in enumerate(zip(ours, published, strict=True)))
    if isinstance(published, str):
        assert ours == published, where
    else:
        assert ours == pytest.approx(published, rel=0.01), where
    return 1


def test_the_example_gives_the_published_figures(plan_text: str) -> None:
    published = json.loads((EXAMPLES / "example-figures.json").read_text())
    ours = written(plan_text)
    # The figures give every tenth degree, the result every fifth.
    ours["reach"] = {key: values[::2] for key, values in ours["reach"].items()}
    assert compare(ours, published) > 100


def test_contract_keys_and_order(plan_text: str) -> None:
    result = written(plan_text)
    assert (result["format"], result["version"]) == ("zealous-lark.result", 1)
    assert result["verdict"] == "care"
    assert result["tightest"] == result["checks"][0]["id"] == "sight.distance"
    assert len(result["reach"]["bearing_deg"]) == 72
    assert [leg["name"] for leg in result["energy"]["legs"]][:3] == ["hover_check", "climb", "outbound"]
    gust = next(c for c in result["checks"] if c["id"] == "wind.gust")
    assert (round(gust["value"], 1), gust["limit"], gust["unit"], round(gust["used"], 2)) == (7.9, 10.7, "m/s", 0.74)


def test_the_other_way_round_is_the_trip_on_the_opposite_bearing(plan_text: str) -> None:
    plan = json.loads(plan_text)
    plan["flight"]["bearing_deg"] = 60
    turned = written(json.dumps(plan))
    assert written(plan_text)["other_way"]["landing_pct"] == pytest.approx(turned["energy"]["landing_pct"])


def test_units_change_words_and_nothing_else(plan_text: str) -> None:
    def bare(result: dict[str, Any]) -> dict[str, Any]:
        for c in result["checks"]:
            del c["sentence"], c["working"]
            for fix in c["levers"]:
                del fix["sentence"]
        return result

    metric, knots = written(plan_text), written(plan_text, Units(SpeedUnit.KN, LengthUnit.FT))
    assert metric["checks"][0]["sentence"] != knots["checks"][0]["sentence"]
    assert bare(metric) == bare(knots)


@settings(deadline=None, max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    wind=st.floats(0, 75),
    direction=st.floats(0, 360),
    distance=st.floats(0, 20_000),
    height=st.floats(0, 1000),
    charge=st.floats(0, 100),
    sheltered=st.booleans(),
    indoors=st.booleans(),
)
def test_any_plan_in_range_gives_a_whole_result(
    plan_text: str, wind: float, direction: float, distance: float, height: float, charge: float,
    sheltered: bool, indoors: bool,
) -> None:  # fmt: skip
    """Finite numbers throughout, and a document that its own model reads back the same."""
    plan = json.loads(plan_text)
    plan["weather"]["winds"][0] = {
        "height_m": 2,
        "speed_ms": wind,
        "direction_deg": direction,
        "source": "measured",
    }
    plan["flight"].update(distance_m=distance, height_m=height)
    plan["pack"]["charge_pct"] = charge
    plan["site"].update(sheltered=sheltered, indoors=indoors)
    text = judge_plan(read_plan(json.dumps(plan))).model_dump_json(by_alias=True)
    json.loads(text, parse_constant=lambda name: pytest.fail(f"{name} in the result"))
    assert ResultDocument.model_validate_json(text).model_dump_json(by_alias=True) == text


def test_schemas_describe_the_documents() -> None:
    plan = schema("plan")
    assert plan["additionalProperties"] is False
    assert "minimums" not in plan["required"]
    assert plan["$defs"]["FlightPart"]["properties"]["bearing_deg"]["maximum"] == 360
    result = schema("result")
    assert {"return", "planned"} == set(result["$defs"]["WindsPart"]["properties"])

"""The documents of the outing and the kit: what they take, refuse, and become in the core."""

from __future__ import annotations

import json
from datetime import date
from typing import Any

import pytest
from pydantic import ValidationError

from tests.conftest import NOW
from tests.make import EXAMPLES
from zealous_lark.core.geodesy import destination
from zealous_lark.core.prepare.charging import ChargerMode, Takes
from zealous_lark.core.prepare.packs import PackState
from zealous_lark.core.prepare.upkeep import Work
from zealous_lark.demo import kit as demo_kit
from zealous_lark.plan import PlanRefusedError, read_plan, schema
from zealous_lark.plan.kit import SHEET, UpkeepPart, charger_of, entry_of, item_name, pack_of, read_item
from zealous_lark.plan.outing import OutingPart, ShotPart, outline_of, shots_of
from zealous_lark.plan.ranges import aircraft_range
from zealous_lark.plan.typical import CLASSES
from zealous_lark.plan.walkround import AnsweredPart, answered_text, read_answered

HERE = (58.62, 25.08)


def plan_with(outing: Any) -> str:
    plan = json.loads((EXAMPLES / "example-plan.json").read_text())
    return json.dumps({**plan, "outing": outing})


def shot(bearing: float = 90, distance: float = 150, **more: Any) -> dict[str, Any]:
    lat, lon = destination(*HERE, bearing, distance)
    return {"name": "S", "latitude": lat, "longitude": lon, "height_m": 40, "minutes": 4, **more}


def test_a_plan_without_an_outing_is_as_it_was() -> None:
    assert read_plan((EXAMPLES / "example-plan.json").read_text()).outing is None
    assert "outing" in schema("plan")["properties"]


def test_everything_of_an_outing_may_be_left_out() -> None:
    outing = read_plan(plan_with({})).outing
    assert outing == OutingPart()
    assert outline_of(outing).travel_min == 30


@pytest.mark.parametrize(
    ("outing", "key"),
    [
        ({"shots": [shot()] * 11}, "outing.shots"),
        ({"shots": [shot(minutes=0)]}, "outing.shots[0].minutes"),
        ({"shots": [shot(light="green")]}, "outing.shots[0].light"),
        ({"shots": [shot()], "flights": [{"pack": 1, "shots": [1]}]}, "outing"),
        ({"shots": [shot()], "flights": [{"pack": 1, "shots": []}]}, "outing.flights[0].shots"),
        ({"shots": [shot()], "flights": [{"pack": 1, "shots": [0]}, {"pack": 2, "shots": [0]}]}, "outing"),
        ({"travel_min": 5000}, "outing.travel_min"),
        ({"colour": "red"}, "outing.colour"),
    ],
)
def test_what_cannot_be_is_refused_by_its_key(outing: dict[str, Any], key: str) -> None:
    with pytest.raises(PlanRefusedError) as refused:
        read_plan(plan_with(outing))
    assert [r.key for r in refused.value.refusals] == [key]
    assert refused.value.refusals[0].allowed


def test_subjects_are_seen_from_the_take_off_point() -> None:
    part = OutingPart(shots=[ShotPart(**shot(240, 262))])
    (found,) = shots_of(part, *HERE)
    assert found.bearing_deg == pytest.approx(240, abs=1e-3)
    assert found.distance_m == pytest.approx(262, abs=1e-3)
    assert (found.height_m, found.minutes) == (40, 4)


def test_every_kind_of_item_goes_out_and_in() -> None:
    items = [
        *demo_kit.packs({"Dunlin": 1, "Plover": 2}, NOW),
        *demo_kit.the_rest(),
        *(demo_kit.aircraft_item(part) for _, part in CLASSES),
    ]
    assert {i.kind for i in items} == {"aircraft", "pack", "charger", "device", "bank", "own"}
    for item in items:
        assert read_item(item.model_dump_json()) == item
        assert item_name(item)


def test_packs_and_chargers_become_the_cores() -> None:
    first = demo_kit.packs({"Dunlin": 1, "Plover": 2}, NOW)[0]
    assert first.kind == "pack"
    pack = pack_of(first)
    assert (pack.label, pack.state, pack.health_pct) == ("A", PackState.FULL, 92)
    hub = next(i for i in demo_kit.the_rest() if i.kind == "charger")
    charger = charger_of(hub)
    assert (charger.power_w, charger.mode, charger.takes) == (45, ChargerMode.IN_TURN, Takes.PACKS)


def test_an_entry_has_a_whole_position_or_none() -> None:
    entry = UpkeepPart(day=date(2026, 9, 1), work=Work.COMPASS, latitude=58.6, longitude=25.0)
    assert entry_of(entry).position == (58.6, 25.0)
    with pytest.raises(ValidationError, match="latitude and longitude, or neither"):
        UpkeepPart.model_validate_json('{"day": "2026-09-01", "work": "compass", "latitude": 58.6}')


def test_the_sheet_covers_every_number_that_a_manual_has() -> None:
    keys = {f.key for f in SHEET}
    numbers = set()
    for name, value in CLASSES[0][1].model_dump().items():
        if isinstance(value, dict):
            numbers |= {f"{name}.{inner}" for inner in value}
        elif not isinstance(value, str):
            numbers.add(name)
    assert keys == numbers - {"payload_g", "consumption_factor", "attachments", "region_power_db", "kit"}


@pytest.mark.parametrize("key", [f.key for f in SHEET])
def test_every_class_to_start_from_is_within_the_sane_ranges(key: str) -> None:
    least, greatest = aircraft_range(key)
    assert least is not None
    assert greatest is not None
    for _, aircraft in CLASSES:
        node: Any = aircraft.model_dump()
        for step in key.split("."):
            node = node[step]
        for value in node if isinstance(node, list) else [] if node is None else [node]:
            assert least <= value <= greatest


def test_the_classes_are_what_they_say() -> None:
    light, middle, large = (part.mass_g for _, part in CLASSES)
    assert light < 250 <= middle <= 900 < large
    for _, part in CLASSES:
        assert part.speeds_ms.slow < part.speeds_ms.normal < part.speeds_ms.fast
        assert part.max_wind_ms < part.speeds_ms.fast


def test_answers_that_are_kept_come_back_the_same() -> None:
    said = [AnsweredPart(item="Lens clean", word="skip", value=None, note="„Nebel“ & more", said_at=NOW)]
    assert read_answered(answered_text(said)) == said
    assert read_answered("[]") == []

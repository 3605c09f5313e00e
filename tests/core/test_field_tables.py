"""Field tables: never better than the whole check, nearly always the same, and the same on the device."""

from __future__ import annotations

import json
import os
import random
from collections.abc import Iterator
from dataclasses import asdict, replace
from typing import Any

import pytest

from tests.conftest import NOW
from tests.make import ROOT, changed, forecast, share_of, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import SEVERITY, Status
from zealous_lark.core.field_lookup import Reading, look_up, worst
from zealous_lark.core.field_tables import (
    BEAUFORT_M,
    HAND_M,
    NEVER_SAID,
    ON_CHARGE,
    FieldTables,
    Key,
    Value,
    field_tables,
)
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.situation import PlatformKind, Situation
from zealous_lark.core.verdict import counts_as, judge_assessed
from zealous_lark.plan import situation_of
from zealous_lark.services import sessions, weather
from zealous_lark.store import Database

CASES = ROOT / "frontend" / "tests" / "fieldTables.cases.json"
READINGS = int(os.environ.get("LARK_READINGS", "50"))
"""How many readings are drawn for each table; `make soak` draws 3,000 for each, and of every kind."""

NONE, METER, LEAVES, HOVER = kinds = (
    (None, HAND_M), (WindSource.MEASURED, HAND_M), (WindSource.MEASURED, BEAUFORT_M), (WindSource.HOVER, None),
)  # fmt: skip
SHORT = {
    "Bog at first light": [METER], "Cranes, wind behind on the flight out": [HOVER], "Low along the pines": [NONE],
    "Tower in a gusty west wind": [LEAVES], "Jetty before the front": [HOVER, NONE], "Mill, ground floor": [NONE],
    "Reeds from the rowing boat": [NONE], "Along the quarry edge": [HOVER], "Frozen bog in January": [LEAVES],
}  # fmt: skip
"""In every run a kind or two of each of the demo's sessions."""


def put(s: Situation, key: Key, value: Value) -> Situation:
    return changed(s, **{key.replace(".", "__"): value})


def drawn(rng: random.Random, tables: FieldTables) -> Reading:
    """What may be read on site: any wind up to 8 m/s, a used battery, often a colder or warmer one, satellites; now and
    then a flight that is nearer, lower, or comes home at another height."""
    found: dict[Key, Value] = {Key.CHARGE: rng.uniform(60, 100)}
    if rng.random() < 0.5:
        found[Key.PACK_TEMPERATURE] = round(rng.uniform(0, 30), 1)
    if rng.random() < 0.5:
        found[Key.SATELLITES], found[Key.HOME_POINT] = rng.randint(5, 30), rng.random() < 0.8
    shaped = [key for key in (Key.DISTANCE, Key.HEIGHT, Key.RETURN_HEIGHT) if any(x.key is key for x in tables.shapes)]
    if shaped and rng.random() < 0.3:
        key = rng.choice(shaped)
        ends = [x.value for x in tables.shapes if x.key is key and x.value is not None]
        planned = tables.values[key]
        assert isinstance(planned, int | float)
        found[key] = rng.uniform(min(*ends, planned), max(*ends, planned))
    if tables.source is None:
        return Reading(changed=found)
    speed = rng.uniform(0, 8)
    gust = None if rng.random() < 0.1 else speed * rng.uniform(1.0, 1.8)
    return Reading(speed, rng.uniform(0, 360), gust, found)


def at(s: Situation, tables: FieldTables, reading: Reading) -> Situation:
    """The situation of a reading: added to the winds, and every other value put in."""
    if tables.source is not None:
        assert tables.height_m is not None
        level = WindLevel(
            tables.height_m, reading.speed_ms, reading.direction_deg, tables.source, reading.gust_ms, s.takeoff_at
        )
        s = wind(s, *s.weather.winds, level)
    for key, value in reading.changed.items():
        s = put(s, key, value)
    return s


def whole(assessment: Assessment) -> dict[str, int]:
    return {j.check.id: SEVERITY[counts_as(j.finding)] for j in judge_assessed(assessment).judged}


def demo_situations(db: Database) -> Iterator[tuple[str, Situation]]:
    for _, plan in sessions.plans_ahead(db, NOW):
        yield plan.title, situation_of(plan, weather.known(db, plan, NOW))


@pytest.mark.timeout(3_600)
@pytest.mark.parametrize("title", SHORT)
def test_looked_up_is_never_better_than_the_whole_check_and_mostly_the_same(demo: Database, title: str) -> None:
    situation = dict(demo_situations(demo))[title]
    chosen = SHORT[title] if READINGS < 1000 else kinds[:1] if situation.site.indoors else kinds
    s = replace(situation, assumed=situation.assumed - NEVER_SAID)
    for source, height in chosen:
        tables = field_tables(situation, source, situation.flight.height_m if height is None else height)
        base, rng = Assessment(s), random.Random(7)
        same = 0
        for _ in range(READINGS):
            reading = drawn(rng, tables)
            found = look_up(tables, reading)
            assert found is not None, reading
            full = whole(base.turned(at(s, tables, reading)))
            assert worst(found) >= worst(full), (reading, {c: v for c, v in full.items() if found.get(c, 0) < v})
            same += worst(found) == worst(full)
        # The law's nine in ten, with room for what so few draws may differ by.
        assert same >= (0.9 * READINGS if READINGS >= 1000 else share_of(0.9, READINGS)), (
            f"{source} {height}: {same} of {READINGS}"
        )


@pytest.mark.parametrize("source", [None, WindSource.HOVER])
def test_what_is_put_right_on_site_hides_nothing_else(situation: Situation, source: WindSource | None) -> None:
    """Planned with too few satellites, no home point, a wrong compass and a frozen battery: all of it fails."""
    spoilt = changed(
        situation, settings__satellites=4, settings__home_point_set=False, settings__compass_checked=False,
        pack__temperature_c=-18.0,
    )  # fmt: skip
    tables = field_tables(spoilt, source, situation.flight.height_m)
    s, rng, flies = replace(spoilt, assumed=spoilt.assumed - NEVER_SAID), random.Random(3), 0
    for _ in range(200):
        reading = drawn(rng, tables)
        right = {Key.SATELLITES: 14.0, Key.HOME_POINT: True, Key.COMPASS: True, Key.PACK_TEMPERATURE: 20.0}
        reading = replace(reading, changed={**reading.changed, **right})
        found = look_up(tables, reading)
        assert found is not None
        full = worst(whole(Assessment(at(s, tables, reading))))
        assert worst(found) >= full, reading
        flies += worst(found) < SEVERITY[Status.FAIL]
    assert flies > 20, "a frozen battery may be put right too"


def test_what_no_table_covers_is_not_known(situation: Situation) -> None:
    tables = field_tables(situation, None)
    planned = {key: tables.values[key] for key in Key}
    assert look_up(tables, Reading(changed=planned)) is not None
    far = situation.flight.distance_m
    for beyond in (
        {Key.DISTANCE: far * 1.1},
        {Key.DISTANCE: far * 0.8, Key.RETURN_HEIGHT: situation.settings.rth_altitude_m + 5},
        {Key.CHARGE: 20.0},
        {Key.PACK_TEMPERATURE: -30.0},
    ):
        assert look_up(tables, Reading(changed=beyond)) is None, beyond


def test_a_reading_over_all_that_the_tables_have_keeps_it_down(situation: Situation) -> None:
    tables = field_tables(changed(situation, site__platform=replace(situation.site.platform, kind=PlatformKind.BOAT)),
                          WindSource.MEASURED)  # fmt: skip
    top = tables.shapes[0].grid.speeds_ms[-1]
    found = look_up(tables, Reading(top * 1.2, 0.0, None))
    assert found is not None
    assert found["wind.steady"] == 3


def test_a_cold_battery_never_counts_for_more_than_the_planned_one(situation: Situation) -> None:
    tables = field_tables(changed(situation, pack__temperature_c=20.0), None)
    shares = dict(tables.usable)
    assert shares[20.0] == shares[40.0] == 1.0
    assert shares[-20.0] < shares[0.0] < 1.0


def test_the_gauge_alone_is_what_the_check_of_the_charge_reads(situation: Situation) -> None:
    """The checks that tables treat so: what they find is the same in a frozen battery."""
    for charge in (100.0, 90.0, 70.0, 50.0):
        warm, frozen = (
            {j.check.id: j.finding for j in judge_assessed(
                Assessment(changed(situation, pack__charge_pct=charge, pack__temperature_c=t))).judged}
            for t in (20.0, -15.0)
        )  # fmt: skip
        assert all(warm[check] == frozen[check] for check in ON_CHARGE)
        assert warm["battery.budget"] != frozen["battery.budget"]


def cases() -> dict[str, Any]:
    """Tables of three kinds and what is looked up in them, for the screens."""
    plan = json.loads((ROOT / "examples" / "example-plan.json").read_text())
    from zealous_lark.plan import read_plan

    situation = situation_of(read_plan(json.dumps(plan)))
    boat = changed(situation, site__platform=replace(situation.site.platform, kind=PlatformKind.BOAT))
    windy = wind(boat, forecast(4.0, 200, 6.0))
    made = [
        field_tables(situation, None),
        field_tables(boat, WindSource.MEASURED),
        field_tables(windy, WindSource.HOVER, 40.0),
    ]
    rng, found = random.Random(11), []
    for n, tables in enumerate(made):
        for _ in range(120):
            reading = drawn(rng, tables)
            found.append({"tables": n, "reading": asdict(reading), "statuses": look_up(tables, reading)})
        for odd in ({Key.CHARGE: 12.0}, {Key.COMPASS: False}, {Key.HOME_POINT: True}, {Key.DISTANCE: 1.0}):
            reading = Reading(1.0, 359.9, 1.0, odd)
            found.append({"tables": n, "reading": asdict(reading), "statuses": look_up(tables, reading)})
    return {"tables": [asdict(t) for t in made], "cases": found}


def test_the_cases_of_the_screens_are_those_of_the_core() -> None:
    """`python -m tests.core.test_field_tables` writes them."""
    assert json.loads(CASES.read_text()) == json.loads(json.dumps(cases()))


if __name__ == "__main__":
    CASES.write_text(json.dumps(cases()))

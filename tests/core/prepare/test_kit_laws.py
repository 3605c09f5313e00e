"""Laws of the kit that hold whatever the numbers are."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import changed, forecast, wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.prepare.charging import Charger, ChargerMode, Job, JobKind, plan_charging
from zealous_lark.core.prepare.filming import plan_filming
from zealous_lark.core.prepare.lists import warm_gain_min
from zealous_lark.core.prepare.packs import KitPack, charge_left_pct
from zealous_lark.core.prepare.subjects import Outing, Shot, ShotPack, costs, light_rows
from zealous_lark.core.situation import Pack, Situation, SpeedMode

NOW = datetime(2026, 9, 26, 18, tzinfo=UTC)


@given(st.lists(st.integers(0, 95), min_size=1, max_size=5), st.integers(10, 90), st.integers(2, 4))
def test_charging_together_and_in_turn_take_equally_long(charges: list[int], watts: int, slots: int) -> None:
    """The same energy through the same charger; only the order in which packs are full differs."""
    jobs = [Job(str(n), JobKind.PACK, 20, c, most_w=1e4) for n, c in enumerate(charges)]
    in_turn = plan_charging(jobs, [Charger("c", watts)])
    together = plan_charging(jobs, [Charger("c", watts, ChargerMode.TOGETHER, slots=slots)])
    assert together.seconds == pytest.approx(in_turn.seconds)
    assert together.charge_pct(jobs) == pytest.approx(in_turn.charge_pct(jobs))


@given(st.lists(st.integers(0, 95), min_size=1, max_size=5), st.floats(0, 7200), st.floats(0, 3600))
def test_more_time_never_has_fewer_ready(charges: list[int], first: float, more: float) -> None:
    jobs = [Job(str(n), JobKind.PACK, 20, c) for n, c in enumerate(charges)]
    hub = [Charger("c", 40)]

    def ready(available: float) -> int:
        return sum(pct > 99.999 for pct in plan_charging(jobs, hub, available).charge_pct(jobs))

    assert ready(first) <= ready(first + more)


@given(st.floats(0, 60), st.floats(0, 100))
def test_the_charge_is_what_it_was_until_it_lies(days: float, charge: float) -> None:
    pack = KitPack("A", 2, 2350, charge_pct=charge, charged_at=NOW)
    assert charge_left_pct(pack, NOW - timedelta(days=days)) == charge
    assert charge_left_pct(replace(pack, charged_at=None), NOW + timedelta(days=days)) == charge


def test_a_pack_of_another_size_is_more_or_less_of_the_aircrafts() -> None:
    pack = KitPack("A", 2, 4700, health_pct=90)
    assert pack.health_for(pack.energy_wh / 2) == pytest.approx(180)


def test_warm_gain_is_to_the_half_minute_and_never_rounded_up() -> None:
    assert warm_gain_min(600, 629) == 0
    assert warm_gain_min(600, 659) == 0.5
    assert warm_gain_min(600, 660) == 1


PACKS = (ShotPack("A", Pack(100, 95, 18)), ShotPack("B", Pack(100, 90, 18)))


def made(situation: Situation, *shots: Shot) -> Outing:
    return Outing(Assessment(situation), shots, PACKS, 7200, 240)


@pytest.mark.parametrize("bearing", range(0, 360, 30))
def test_more_wind_never_makes_the_way_out_and_home_shorter(situation: Situation, bearing: int) -> None:
    """With the same airspeed and height both ways, what the wind gives on one it takes more than back on the other."""
    even = changed(situation, flight__return_mode=SpeedMode.NORMAL, settings__rth_altitude_m=40.0)
    spent = []
    for speed in (0.5, 2.0, 3.5, 5.0):
        found = costs(made(wind(even, forecast(speed, 240, speed + 1)), Shot("s", bearing, 200, 40, 4)))
        assert found is not None
        spent.append(found.out_s[0] + found.home_s[0])
    assert spent == sorted(spent)
    assert spent[0] < spent[-1]


def test_a_subject_more_is_never_filmed_with_fewer_packs(situation: Situation) -> None:
    shots = [Shot(f"s{n}", 60.0 * n, 120, 40, 5) for n in range(5)]
    used = []
    for count in range(1, 6):
        plan = plan_filming(made(situation, *shots[:count]))
        assert plan is not None
        used.append(len(plan.flights))
    assert used == sorted(used)


def test_light_is_looked_at_every_five_minutes_of_the_session(situation: Situation) -> None:
    rows = light_rows(made(situation, Shot("any", 0, 100, 40, 5)))
    assert len(rows[0]) == 7200 // 300 + 1
    assert all(rows[0])

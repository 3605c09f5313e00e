"""Charging: a day worked out by hand, less time, exactness against brute force."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zealous_lark.core.kit.charging import (
    MOST_JOBS,
    Charger,
    ChargerMode,
    Job,
    JobKind,
    Takes,
    bank_recharges,
    charge_seconds,
    plan_charging,
)

HUB = Charger("Hub", 40.0, takes=Takes.PACKS)
PLUG = Charger("Plug", 20.0, ChargerMode.TOGETHER, Takes.DEVICES, slots=2)


def pack(name: str, wh: float, charge: float) -> Job:
    return Job(name, JobKind.PACK, wh, charge)


def device(name: str, wh: float, charge: float) -> Job:
    return Job(name, JobKind.DEVICE, wh, charge)


def test_a_hand_worked_evening() -> None:
    # Hub: 40 W × 0.9 = 36 W. A misses 9 Wh = 900 s, B 18 Wh = 1800 s: in turn, 45 min in all.
    # Plug: 20 W × 0.9 = 18 W shared by two. Controller misses 9 Wh and tablet 18 Wh: at 9 W each the controller is
    # full after 3600 s; the tablet then has 9 Wh to go at 18 W, 1800 s more: 90 min in all.
    jobs = [device("controller", 18, 50), device("tablet", 36, 50), pack("A", 18, 50), pack("B", 18, 0)]
    plan = plan_charging(jobs, [HUB, PLUG])
    by_name = {jobs[j.job].name: (j.begins_s, j.ends_s, j.charge_pct) for c in plan.chargers for j in c.jobs}
    assert by_name["A"] == pytest.approx((0, 900, 100))
    assert by_name["B"] == pytest.approx((900, 2700, 100))
    assert by_name["controller"] == pytest.approx((0, 3600, 100))
    assert by_name["tablet"] == pytest.approx((0, 5400, 100))
    assert plan.seconds == pytest.approx(5400)


def test_with_half_an_hour_the_first_pack_is_full_and_the_next_has_what_is_left() -> None:
    # 36 W for 1800 s are 18 Wh: 9 into A; the 9 left put B from 0 to 50 %.
    jobs = [pack("A", 18, 50), pack("B", 18, 0)]
    plan = plan_charging(jobs, [HUB], available_s=1800)
    assert plan.charge_pct(jobs) == pytest.approx([100, 50])
    assert plan.seconds == pytest.approx(1800)


def test_less_time_fills_as_many_as_it_can_even_where_they_come_later() -> None:
    # 1000 s at 36 W are 10 Wh: one pack of 18 Wh does not fit, two that miss 5 do.
    jobs = [pack("A", 18, 0), pack("B", 10, 50), pack("C", 10, 50)]
    assert plan_charging(jobs, [HUB], available_s=1000).charge_pct(jobs) == pytest.approx([0, 100, 100])


def test_devices_go_before_packs_when_time_is_short() -> None:
    jobs = [pack("A", 9, 0), device("controller", 9, 0)]
    plan = plan_charging(jobs, [Charger("Only one", 40.0)], available_s=900)
    assert plan.charge_pct(jobs) == pytest.approx([0, 100])


def test_what_no_charger_takes_is_named() -> None:
    jobs = [device("tablet", 30, 20), pack("A", 18, 50)]
    plan = plan_charging(jobs, [HUB])
    assert plan.nowhere == (0,)
    assert plan.charge_pct(jobs) == pytest.approx([20, 100])


def test_what_is_full_but_for_a_point_needs_no_charger() -> None:
    assert plan_charging([pack("A", 18, 99.2)], [HUB]).chargers == ()


def test_too_many_jobs_are_refused() -> None:
    with pytest.raises(ValueError, match=f"up to {MOST_JOBS}"):
        plan_charging([pack(str(n), 18, 50) for n in range(MOST_JOBS + 1)], [HUB])


_JOBS = st.lists(
    st.tuples(st.sampled_from(list(JobKind)), st.integers(5, 60), st.integers(0, 98)), min_size=1, max_size=5
)
_CHARGERS = st.lists(st.tuples(st.integers(10, 80), st.sampled_from(list(Takes))), min_size=1, max_size=3)


def _made(jobs: list[tuple[JobKind, int, int]], chargers: list[tuple[int, Takes]]) -> tuple[list[Job], list[Charger]]:
    return (
        [Job(f"j{n}", kind, wh, charge) for n, (kind, wh, charge) in enumerate(jobs)],
        [Charger(f"c{n}", w, takes=takes) for n, (w, takes) in enumerate(chargers)],
    )


def _ways(jobs: list[Job], chargers: list[Charger]) -> list[tuple[int | None, ...]]:
    fits = [[c for c, x in enumerate(chargers) if x.takes_job(job)] or [None] for job in jobs]
    return list(product(*fits))


@settings(max_examples=150, deadline=None)
@given(_JOBS, _CHARGERS)
def test_no_other_way_to_share_the_jobs_is_done_sooner(
    drawn: list[tuple[JobKind, int, int]], drawn_chargers: list[tuple[int, Takes]]
) -> None:
    jobs, chargers = _made(drawn, drawn_chargers)

    def makespan(way: tuple[int | None, ...]) -> float:
        loads = [0.0] * len(chargers)
        for job, c in zip(jobs, way, strict=True):
            if c is not None:
                loads[c] += charge_seconds(job.missing_wh, chargers[c])
        return max(loads)

    best = min(makespan(way) for way in _ways(jobs, chargers))
    assert plan_charging(jobs, chargers).seconds == pytest.approx(best)


@settings(max_examples=150, deadline=None)
@given(_JOBS, _CHARGERS, st.integers(0, 6_000))
def test_less_time_has_as_much_ready_as_any_way_has(
    drawn: list[tuple[JobKind, int, int]], drawn_chargers: list[tuple[int, Takes]], available: int
) -> None:
    jobs, chargers = _made(drawn, drawn_chargers)

    def ready(way: tuple[int | None, ...], chosen: tuple[bool, ...]) -> tuple[int, int]:
        loads = [0.0] * len(chargers)
        for job, c, on in zip(jobs, way, chosen, strict=True):
            if on and c is not None:
                loads[c] += charge_seconds(job.missing_wh, chargers[c])
        if any(load > available for load in loads):
            return (-1, -1)
        full = [job for job, c, on in zip(jobs, way, chosen, strict=True) if on and c is not None]
        return sum(j.kind is JobKind.DEVICE for j in full), len(full)

    choices = list(product([False, True], repeat=len(jobs)))
    best = max(ready(way, chosen) for way in _ways(jobs, chargers) for chosen in choices)
    plan = plan_charging(jobs, chargers, float(available))
    if plan.seconds > available + 1e-6:
        pytest.fail("it takes longer than there is")
    after = plan.charge_pct(jobs)
    full = [job for job, pct in zip(jobs, after, strict=True) if pct >= 99.999]
    assert (sum(j.kind is JobKind.DEVICE for j in full), len(full)) >= best


@given(st.lists(st.integers(1, 30), max_size=6), st.integers(1, 200))
def test_a_bank_gives_no_more_than_it_holds(missing: list[int], bank: int) -> None:
    count = bank_recharges(bank, missing)
    assert sum(missing[:count]) / 0.85 <= bank + 1e-9
    assert count == len(missing) or sum(missing[: count + 1]) / 0.85 > bank - 1e-9

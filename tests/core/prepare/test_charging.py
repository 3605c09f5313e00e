"""Charging: a day worked out by hand, less time, exactness against brute force."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zealous_lark.core.prepare.banks import Bank, recharges
from zealous_lark.core.prepare.cell_charging import Cells
from zealous_lark.core.prepare.charging import (
    MOST_JOBS,
    Charger,
    ChargerMode,
    Job,
    JobKind,
    Takes,
    charge_seconds,
    plan_charging,
)

HUB = Charger("Hub", 40.0, takes=Takes.PACKS)
PLUG = Charger("Plug", 20.0, ChargerMode.TOGETHER, Takes.DEVICES, slots=2)


def pack(name: str, wh: float, charge: float) -> Job:
    return Job(name, JobKind.PACK, wh, charge)


def device(name: str, wh: float, charge: float) -> Job:
    return Job(name, JobKind.DEVICE, wh, charge)


def quick(name: str, wh: float, charge: float) -> Job:
    """A battery that takes all that a charger gives, to the end."""
    return Job(name, JobKind.PACK, wh, charge, most_w=1e4)


def test_an_eighteen_watt_hour_pack_takes_about_an_hour_from_a_third() -> None:
    # 18 W at most: 8.4 Wh to the knee at 18 W x 0.9 are 31.1 min. From there the power falls to a fifth:
    # 18 Wh / (0.9 x 18 W) / 4 x ln 5 = 26.8 min.
    assert charge_seconds(pack("A", 18, 100 / 3), 45.0) / 60 == pytest.approx(31.11 + 26.83, abs=0.01)


def test_below_a_fifth_of_what_it_takes_the_charger_alone_counts() -> None:
    assert charge_seconds(Job("A", JobKind.PACK, 18, 0, most_w=90), 9.0) == pytest.approx(18 / 9 / 0.9 * 3600)


@given(st.floats(0, 0.99), st.floats(1, 90), st.floats(5, 200), st.floats(0, 7200), st.floats(0, 7200))
def test_charge_after_two_spans_is_charge_after_both(
    share: float, most: float, offered: float, first: float, more: float
) -> None:
    cells = Cells(18.0, most)
    after = cells.after(cells.after(share, first, offered), more, offered)
    assert after == pytest.approx(cells.after(share, first + more, offered), abs=1e-9)
    assert cells.after(share, cells.seconds(share, 1.0, offered), offered) == pytest.approx(1.0)


@given(st.floats(0, 0.9), st.floats(1, 90), st.floats(5, 200))
def test_time_is_the_sum_of_small_steps_at_the_power_it_takes(share: float, most: float, offered: float) -> None:
    cells, steps = Cells(18.0, most), 20_000
    width = (1 - share) / steps
    mids = [share + (n + 0.5) * width for n in range(steps)]
    summed = sum(width * 18.0 / (0.9 * cells.takes_w(s, offered)) * 3600 for s in mids)
    assert cells.seconds(share, 1.0, offered) == pytest.approx(summed, rel=1e-4)


def test_a_hand_worked_evening() -> None:
    # Hub: 40 W x 0.9 = 36 W. A misses 9 Wh = 900 s, B 18 Wh = 1800 s: in turn, 45 min in all.
    # Plug: 20 W x 0.9 = 18 W shared by two. Controller misses 9 Wh and tablet 18 Wh: at 9 W each the controller is
    # full after 3600 s; the tablet then has 9 Wh to go at 18 W, 1800 s more: 90 min in all.
    devices = [Job(n, JobKind.DEVICE, wh, 50, most_w=1e4) for n, wh in (("controller", 18), ("tablet", 36))]
    jobs = [*devices, quick("A", 18, 50), quick("B", 18, 0)]
    plan = plan_charging(jobs, [HUB, PLUG])
    by_name = {jobs[j.job].name: (j.begins_s, j.ends_s, j.charge_pct) for c in plan.chargers for j in c.jobs}
    assert by_name["A"] == pytest.approx((0, 900, 100))
    assert by_name["B"] == pytest.approx((900, 2700, 100))
    assert by_name["controller"] == pytest.approx((0, 3600, 100))
    assert by_name["tablet"] == pytest.approx((0, 5400, 100))
    assert plan.seconds == pytest.approx(5400)


def test_with_half_an_hour_the_first_pack_is_full_and_the_next_has_what_is_left() -> None:
    # 36 W for 1800 s are 18 Wh: 9 into A; the 9 left put B from 0 to 50 %.
    jobs = [quick("A", 18, 50), quick("B", 18, 0)]
    plan = plan_charging(jobs, [HUB], available_s=1800)
    assert plan.charge_pct(jobs) == pytest.approx([100, 50])
    assert plan.seconds == pytest.approx(1800)


def test_less_time_fills_as_many_as_it_can_even_where_they_come_later() -> None:
    # 1000 s at 36 W are 10 Wh: one pack of 18 Wh does not fit, two that miss 5 do.
    jobs = [quick("A", 18, 0), quick("B", 10, 50), quick("C", 10, 50)]
    assert plan_charging(jobs, [HUB], available_s=1000).charge_pct(jobs) == pytest.approx([0, 100, 100])


def test_what_cannot_be_full_takes_no_power_from_what_can() -> None:
    # Alone A has its 9 Wh after 900 s; beside B it would have half of the power and not be full.
    jobs = [quick("B", 30, 0), quick("A", 18, 50)]
    hub = [Charger("Hub", 40.0, ChargerMode.TOGETHER, slots=2)]
    assert plan_charging(jobs, hub, available_s=1000).charge_pct(jobs) == pytest.approx([100 * 1 / 30, 100])


def test_what_cannot_be_full_is_plugged_in_at_once_where_power_is_left() -> None:
    # 60 W for two slots: 30 W each, more than the 18 W that either takes.
    jobs = [pack("B", 18, 0), pack("A", 18, 90)]
    hub = [Charger("Hub", 60.0, ChargerMode.TOGETHER, slots=2)]
    # 18 W x 0.9 for 1800 s are 8.1 Wh.
    assert plan_charging(jobs, hub, available_s=1800).charge_pct(jobs) == pytest.approx([45, 100])


def test_devices_go_before_packs_when_time_is_short() -> None:
    jobs = [quick("A", 9, 0), Job("controller", JobKind.DEVICE, 9, 0, most_w=1e4)]
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
    st.tuples(
        st.sampled_from(list(JobKind)), st.integers(5, 60), st.integers(0, 98), st.sampled_from([None, 8, 25, 1_000])
    ),
    min_size=1, max_size=5,
)  # fmt: skip
_CHARGERS = st.lists(
    st.tuples(
        st.integers(10, 80), st.sampled_from(list(Takes)), st.sampled_from(list(ChargerMode)), st.integers(1, 3)
    ),
    min_size=1, max_size=3,
)  # fmt: skip
DrawnJobs = list[tuple[JobKind, int, int, int | None]]
DrawnChargers = list[tuple[int, Takes, ChargerMode, int]]


def _made(jobs: DrawnJobs, chargers: DrawnChargers) -> tuple[list[Job], list[Charger]]:
    return (
        [Job(f"j{n}", kind, wh, charge, most) for n, (kind, wh, charge, most) in enumerate(jobs)],
        [Charger(f"c{n}", w, mode, takes, slots) for n, (w, takes, mode, slots) in enumerate(chargers)],
    )


def _ways(jobs: list[Job], chargers: list[Charger]) -> list[tuple[int | None, ...]]:
    fits = [[c for c, x in enumerate(chargers) if x.takes_job(job)] or [None] for job in jobs]
    return list(product(*fits))


def _took(jobs: list[Job], charger: Charger) -> float:
    """Time in small steps [s]: every slot an equal part of the power, jobs in their order or the longest first."""

    def in_order(order: list[Job]) -> float:
        slots = charger.slots if charger.mode is ChargerMode.TOGETHER else 1
        waiting, clock = [[job, job.charge_pct / 100] for job in order], 0.0
        while waiting:
            on = waiting[:slots]
            left = [job.cells.seconds(share, 1.0, charger.power_w / len(on)) for job, share in on]
            clock += min(left)
            for entry, seconds in zip(on, left, strict=True):
                job, share = entry
                entry[1] = (
                    1.0 if seconds <= min(left) + 1e-6 else job.cells.after(share, min(left), charger.power_w / len(on))
                )
            waiting = [entry for entry in waiting if entry[1] < 1.0]
        return clock

    return min(in_order(jobs), in_order(sorted(jobs, key=lambda j: -charge_seconds(j, 1e9))))


def _makespan(jobs: list[Job], chargers: list[Charger], way: tuple[int | None, ...]) -> float:
    return max(
        _took([job for job, on in zip(jobs, way, strict=True) if on == c], charger)
        for c, charger in enumerate(chargers)
    )


@settings(max_examples=100, deadline=None)
@given(_JOBS, _CHARGERS)
def test_no_other_way_to_share_the_jobs_is_done_sooner(drawn: DrawnJobs, drawn_chargers: DrawnChargers) -> None:
    jobs, chargers = _made(drawn, drawn_chargers)
    best = min(_makespan(jobs, chargers, way) for way in _ways(jobs, chargers))
    assert plan_charging(jobs, chargers).seconds == pytest.approx(best, abs=1e-3)


@settings(max_examples=100, deadline=None)
@given(_JOBS, _CHARGERS, st.integers(0, 9_000))
def test_less_time_has_as_much_ready_as_any_way_has(
    drawn: DrawnJobs, drawn_chargers: DrawnChargers, available: int
) -> None:
    jobs, chargers = _made(drawn, drawn_chargers)

    def ready(chosen: tuple[bool, ...]) -> tuple[int, int]:
        on = [job for job, yes in zip(jobs, chosen, strict=True) if yes]
        if any(not any(c.takes_job(job) for c in chargers) for job in on):
            return (-1, -1)
        if min(_makespan(on, chargers, way) for way in _ways(on, chargers)) > available:
            return (-1, -1)
        return sum(j.kind is JobKind.DEVICE for j in on), len(on)

    best = max(ready(chosen) for chosen in product([False, True], repeat=len(jobs)))
    plan = plan_charging(jobs, chargers, float(available))
    assert plan.seconds <= available + 1e-6 or plan == plan_charging(jobs, chargers)
    after = plan.charge_pct(jobs)
    full = [job for job, pct in zip(jobs, after, strict=True) if pct >= 99.999]
    assert (sum(j.kind is JobKind.DEVICE for j in full), len(full)) >= best


def test_twelve_jobs_on_three_chargers_are_planned() -> None:
    jobs = [pack(str(n), 20 + n, 7 * n) for n in range(MOST_JOBS)]
    chargers = [HUB, Charger("Bay", 60, ChargerMode.TOGETHER, slots=3), Charger("Car", 30)]
    plan = plan_charging(jobs, chargers)
    assert sorted(done.job for row in plan.chargers for done in row.jobs) == list(range(MOST_JOBS))
    short = plan_charging(jobs, chargers, plan.seconds / 2)
    assert 0 < sum(pct == 100 for pct in short.charge_pct(jobs)) < MOST_JOBS


def test_a_five_volt_bank_charges_no_pack_of_three_cells() -> None:
    three = (Job("A", JobKind.PACK, 40, 0), 3 * 4.35)
    told = recharges(Bank("Old bank", 74, volts=5, amps=2), [three])
    assert (told.fills, told.seconds, told.needs_volts) == (0, None, pytest.approx(13.05))


def test_a_bank_is_as_slow_as_its_own_power() -> None:
    one = (Job("A", JobKind.PACK, 18, 0, most_w=1_000), 8.7)
    told = recharges(Bank("Bank", 74, volts=9, amps=2), [one])
    assert told.seconds == pytest.approx(18 / 18 / 0.9 * 3600)
    assert recharges(Bank("Bank", 74), [one]).seconds is None


@given(st.lists(st.integers(1, 30), max_size=6), st.integers(1, 200))
def test_a_bank_gives_no_more_than_it_holds(missing: list[int], energy: int) -> None:
    packs = [(pack(str(n), wh, 0), 8.7) for n, wh in enumerate(missing)]
    count = recharges(Bank("Bank", energy), packs).fills
    assert sum(missing[:count]) / 0.85 <= energy + 1e-9
    assert count == len(missing) or sum(missing[: count + 1]) / 0.85 > energy - 1e-9

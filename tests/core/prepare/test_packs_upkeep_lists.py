"""Packs that lie about, what is due on an aircraft, the kit list, the countdown."""

from __future__ import annotations

import itertools
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta, timezone
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zealous_lark.core.prepare.countdown import Moment, Outline, countdown
from zealous_lark.core.prepare.lists import Context, Group, When, kit_list
from zealous_lark.core.prepare.packs import Care, Chemistry, KitPack, PackState, advice, charge_left_pct, worn
from zealous_lark.core.prepare.upkeep import Entry, Work, due, hours_flown

NOW = datetime(2026, 9, 26, 18, tzinfo=UTC)
FULL = KitPack("A", 2, 2350, state=PackState.FULL, charge_pct=100, charged_at=NOW)


@pytest.mark.parametrize("days", [5, 6, 7])
def test_charged_packs_left_for_five_to_seven_days_drop_to_50_to_60_percent(days: int) -> None:
    """Common practice: after a week they are there, and not before the fifth day."""
    left = charge_left_pct(FULL, NOW + timedelta(days=days))
    assert (left > 95) if days == 5 else (50 <= left <= 60) if days == 7 else (60 < left < 95)


@given(st.floats(0, 100), st.floats(0, 200), st.floats(0, 200), st.floats(-20, 40))
def test_a_pack_that_lies_never_gains(charge: float, first: float, more: float, storage: float) -> None:
    pack = replace(FULL, charge_pct=charge, storage_c=storage)
    earlier = charge_left_pct(pack, NOW + timedelta(days=first))
    assert 0 <= charge_left_pct(pack, NOW + timedelta(days=first + more)) <= earlier <= charge + 1e-9


def test_warm_storage_costs_twice_as_much_for_every_ten_degrees() -> None:
    month = NOW + timedelta(days=30)
    lost = [50 - charge_left_pct(replace(FULL, charge_pct=50, storage_c=c), month) for c in (20, 30)]
    assert lost == pytest.approx([2, 4])


def test_energy_by_chemistry() -> None:
    """Nominal cell voltages that are printed on packs: 3.7, 3.85 and 3.6 V."""
    energies = [replace(FULL, capacity_mah=1000, chemistry=c).energy_wh for c in Chemistry]
    assert energies == pytest.approx([7.4, 7.7, 7.2])
    assert FULL.storage_v == pytest.approx(7.6)


def told(pack: KitPack, takeoff_in: timedelta | None) -> Care:
    return advice(pack, NOW, None if takeoff_in is None else NOW + takeoff_in, 95).care


def test_advice_for_a_session_and_without_one() -> None:
    storage = replace(FULL, state=PackState.STORAGE, charge_pct=50)
    assert told(FULL, timedelta(hours=14)) is Care.READY
    assert told(storage, timedelta(hours=14)) is Care.CHARGE
    assert told(replace(FULL, charge_pct=88), timedelta(hours=14)) is Care.TOP_UP
    assert told(storage, timedelta(days=30)) is Care.LEAVE
    assert told(FULL, timedelta(days=30)) is Care.STORE
    assert told(FULL, None) is Care.STORE
    assert told(replace(FULL, charge_pct=12), None) is Care.RAISE


@pytest.mark.parametrize("state", [PackState.SWOLLEN, PackState.WET, PackState.RETIRED])
def test_what_is_put_aside_is_never_charged(state: PackState) -> None:
    assert told(replace(FULL, state=state), timedelta(hours=14)) is Care.PUT_ASIDE


def test_old_and_weak_packs_get_a_word() -> None:
    assert worn(FULL) is None
    assert "Health 70%" in str(worn(replace(FULL, health_pct=70)))
    assert "210 cycles" in str(worn(replace(FULL, cycles=210)))


DAY = date(2026, 9, 26)
CLEAN = [Entry(DAY, w) for w in (Work.COMPASS, Work.SENSORS, Work.GIMBAL, Work.FIRMWARE_SEEN)]


def works(entries: list[Entry], position: tuple[float, float] | None = None) -> set[Work]:
    return {d.work for d in due(entries, DAY, position)}


def test_nothing_written_down_means_that_compass_and_firmware_are_due() -> None:
    assert works([]) == {Work.COMPASS, Work.FIRMWARE_SEEN}
    assert works(CLEAN) == set()


def test_a_knock_asks_for_calibrations_and_a_look_at_the_blades() -> None:
    knocked = [*CLEAN, Entry(DAY, Work.KNOCK)]
    assert works(knocked) == {Work.COMPASS, Work.SENSORS, Work.GIMBAL, Work.PROPELLERS}
    mended = [*knocked, *CLEAN, Entry(DAY, Work.PROPELLERS)]
    assert works(mended) == set()


def test_new_firmware_asks_for_the_compass() -> None:
    assert works([*CLEAN, Entry(DAY, Work.FIRMWARE)]) == {Work.COMPASS}


def test_a_compass_is_due_more_than_50_km_from_where_it_was_calibrated() -> None:
    there = [replace(CLEAN[0], position=(58.62, 25.08)), *CLEAN[1:]]
    assert works(there, (58.62, 25.50)) == set()  # 24 km
    assert works(there, (58.62, 26.08)) == {Work.COMPASS}  # 58 km


def test_hours_count_from_the_last_look() -> None:
    flown = [Entry(DAY - timedelta(days=9), Work.FLOWN, hours=6), Entry(DAY - timedelta(days=2), Work.FLOWN, hours=6)]
    assert hours_flown(flown) == 12
    assert works([*CLEAN, *flown]) == {Work.SCREWS}
    looked = Entry(DAY - timedelta(days=5), Work.SCREWS)
    assert works([*CLEAN, *flown, looked]) == set()


def test_firmware_is_looked_at_every_two_months() -> None:
    old = replace(CLEAN[3], day=DAY - timedelta(days=61))
    assert works([*CLEAN[:3], old]) == {Work.FIRMWARE_SEEN}


def items(**context: bool | int) -> dict[str, int]:
    return {i.key: i.count for i in kit_list(Context(**{"packs": 3, "rotor_count": 4, **context}))}  # type: ignore[arg-type]


def test_the_list_depends_on_the_session() -> None:
    plain = items()
    assert plain["propellers"] == 2
    assert plain["sticks"] == 2
    assert plain["cards"] == 1
    assert plain["packs"] == 3
    assert not {"warmers", "lifejacket", "guards", "gloves", "lamp", "bank"} & set(plain)
    assert items(cold=True)["warmers"] == 3
    assert items(risky=True)["cards"] == 2
    assert {"lifejacket", "towel"} <= set(items(water=True))
    assert {"gloves", "floats", "helper", "lifejacket"} <= set(items(boat=True))
    assert "pad" not in items(boat=True)
    assert {"guards", "glasses"} <= set(items(indoors=True))
    assert not {"pad", "meter"} & set(items(indoors=True))
    assert items(first_flights=True)["propellers"] == 4
    assert "helper" in items(first_flights=True)
    assert items(far=True)["bank"] == 1
    assert items(far=True)["cable"] == 2
    assert "lamp" in items(dark=True)
    assert {"filters", "hood"} <= set(items(bright=True))


def test_what_is_done_at_home_has_a_day_and_nothing_else_has() -> None:
    for item in kit_list(Context(packs=2, rotor_count=4)):
        assert (item.days_before is not None) == (item.group is Group.AT_HOME), item.key


def test_own_lines_go_with_their_kind_of_session() -> None:
    cold = Context(packs=1, rotor_count=4, cold=True)
    assert cold.has(When.COLD)
    assert cold.has(When.ALWAYS)
    assert not cold.has(When.BOAT)


EAST = timezone(timedelta(hours=3))
OUTLINE = Outline(travel_min=45, setup_min=20, bag_min=20, on_site_min=120)


def test_the_countdown_of_a_dawn_flight_begins_the_evening_before() -> None:
    # 07:40 less 20, 45 and 20 min is 06:15; 77 min of charging before it is in the night.
    steps = {s.what: s for s in countdown(datetime(2026, 9, 27, 7, 40, tzinfo=EAST), OUTLINE, 77 * 60)}
    assert steps[Moment.LEAVE].at == datetime(2026, 9, 27, 6, 35, tzinfo=EAST)
    assert steps[Moment.BAG].at == datetime(2026, 9, 27, 6, 15, tzinfo=EAST)
    assert steps[Moment.CHARGE].at == datetime(2026, 9, 26, 19, 0, tzinfo=EAST)
    assert steps[Moment.CHARGE].latest == datetime(2026, 9, 27, 4, 58, tzinfo=EAST)
    assert steps[Moment.HOME].at == datetime(2026, 9, 27, 10, 25, tzinfo=EAST)


def test_an_afternoon_flight_is_charged_for_just_before() -> None:
    steps = {s.what: s for s in countdown(datetime(2026, 9, 27, 15, 0, tzinfo=EAST), OUTLINE, 60 * 60)}
    assert steps[Moment.CHARGE].at == steps[Moment.CHARGE].latest == datetime(2026, 9, 27, 12, 35, tzinfo=EAST)


def test_with_nothing_to_charge_the_bag_comes_first() -> None:
    steps = countdown(datetime(2026, 9, 27, 15, 0, tzinfo=EAST), OUTLINE, 0)
    assert [s.what for s in steps] == [Moment.BAG, Moment.LEAVE, Moment.ARRIVE, Moment.TAKE_OFF, Moment.HOME]
    assert all(a.at <= b.at for a, b in itertools.pairwise(steps))


@given(st.integers(0, 23), st.integers(0, 600), st.integers(0, 240))
def test_charging_is_never_begun_too_late(hour: int, charging_min: int, travel: int) -> None:
    outline = replace(OUTLINE, travel_min=travel)
    for step in countdown(datetime(2026, 9, 27, hour, 10, tzinfo=EAST), outline, charging_min * 60):
        assert step.at <= step.latest


def test_the_evening_before_is_by_the_clock_on_the_wall_across_a_clock_change() -> None:
    """The clocks go back in the night: charging begins at 19:00 all the same, with an hour more until the take-off."""
    zone = ZoneInfo("Europe/Tallinn")
    outline = Outline(travel_min=60, setup_min=20, bag_min=20, on_site_min=60)
    for day, hours_before in ((25, 14), (24, 13)):
        takeoff = datetime(2026, 10, day, 8, 0, tzinfo=zone)
        steps = {s.what: s for s in countdown(takeoff, outline, 4 * 3600)}
        charge = steps[Moment.CHARGE]
        assert (charge.at.hour, charge.at.day) == (19, day - 1)
        assert takeoff.astimezone(UTC) - charge.at.astimezone(UTC) == timedelta(hours=hours_before)
        spent = timedelta(minutes=100) + timedelta(hours=4)
        assert takeoff.astimezone(UTC) - charge.latest.astimezone(UTC) == spent

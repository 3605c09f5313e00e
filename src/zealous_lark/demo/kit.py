"""The demo pilot's kit: two aircraft, their packs, what charges them, and their upkeep."""

from __future__ import annotations

from datetime import date, datetime, timedelta

from zealous_lark.core.prepare.charging import ChargerMode, Takes
from zealous_lark.core.prepare.lists import Group, When
from zealous_lark.core.prepare.packs import PackState
from zealous_lark.core.prepare.upkeep import Work
from zealous_lark.demo.places import BOG_AT
from zealous_lark.plan.document import AircraftPart
from zealous_lark.plan.kit import (
    AircraftItem,
    BankItem,
    ChargerItem,
    DeviceItem,
    KitItem,
    OwnItem,
    PackItem,
    UpkeepPart,
)
from zealous_lark.plan.typical import DUNLIN, PLOVER


def aircraft(today: date) -> list[tuple[AircraftPart, list[UpkeepPart]]]:
    """The aircraft with their upkeep entries."""

    def entry(days: int, work: Work, **more: object) -> UpkeepPart:
        return UpkeepPart.model_validate({"day": today - timedelta(days=days), "work": work, **more})

    at_bog = {"latitude": BOG_AT[0], "longitude": BOG_AT[1]}
    return [
        (
            DUNLIN,
            [
                entry(190, Work.FIRMWARE, note="Version as bought."),
                entry(188, Work.COMPASS, note="At the bog.", **at_bog),
                entry(120, Work.PROPELLERS, note="All four pairs looked at, one changed."),
                entry(90, Work.FLOWN, hours=7.5),
                entry(40, Work.FLOWN, hours=4),
                entry(18, Work.KNOCK, note="Touched a birch twig on landing. No nick seen."),
                entry(17, Work.GIMBAL, note="Calibrated on the table."),
            ],
        ),
        (
            PLOVER,
            [
                entry(64, Work.FIRMWARE, note="Updated at home."),
                entry(60, Work.COMPASS, note="At the bog, after the update.", **at_bog),
                entry(30, Work.SCREWS),
                entry(29, Work.FLOWN, hours=3.2),
            ],
        ),
    ]


def packs(numbers: dict[str, int], now: datetime) -> list[KitItem]:
    """The packs; numbers: of the aircraft by name."""

    def pack(label: str, craft: AircraftPart, health: float, cycles: int, bought: int, days: float, charge: float,
             state: PackState, note: str = "") -> PackItem:  # fmt: skip
        cells, capacity = (2, 2350.0) if craft is DUNLIN else (3, 3775.0)
        return PackItem(
            kind="pack", label=label, aircraft=numbers[craft.name], cells=cells, capacity_mah=capacity,
            bought=now.date() - timedelta(days=bought), cycles=cycles, health_pct=health, state=state,
            charge_pct=charge,
            charged_at=now - timedelta(days=days), storage_c=19, note=note,
        )  # fmt: skip

    return [
        pack("A", DUNLIN, 92, 84, 610, 9, 100, PackState.FULL),
        pack("B", DUNLIN, 90, 96, 610, 3, 62, PackState.PARTLY),
        pack("C", DUNLIN, 95, 41, 300, 12, 52, PackState.STORAGE),
        pack("D", DUNLIN, 71, 212, 980, 40, 34, PackState.SWOLLEN, "Lid no longer closes flat."),
        pack("1", PLOVER, 99, 22, 190, 1, 100, PackState.FULL),
        pack("2", PLOVER, 97, 30, 190, 14, 50, PackState.STORAGE),
        pack("3", PLOVER, 96, 28, 190, 25, 60, PackState.WET, "Went into the lake with the landing net."),
    ]


def the_rest() -> list[KitItem]:
    """Chargers, devices, a power bank, and a line of the pilot's own."""
    return [
        ChargerItem(kind="charger", name="Battery hub", power_w=45, mode=ChargerMode.IN_TURN,
                    takes=Takes.PACKS, slots=3),
        ChargerItem(kind="charger", name="Two-port wall plug", power_w=24, mode=ChargerMode.TOGETHER,
                    takes=Takes.DEVICES, slots=2),
        DeviceItem(kind="device", name="Controller", battery_wh=18.7, charge_pct=55),
        DeviceItem(kind="device", name="Tablet", battery_wh=32.4, charge_pct=40),
        BankItem(kind="bank", name="Power bank", energy_wh=74, volts=20, amps=3),
        OwnItem(kind="own", name="Thermos of soup", when=When.COLD, group=Group.SELF),
        OwnItem(kind="own", name="Ask the warden about the cranes", group=Group.AT_HOME, days_before=3),
    ]  # fmt: skip


def aircraft_item(part: AircraftPart) -> AircraftItem:
    """An aircraft as an item of the kit."""
    return AircraftItem(kind="aircraft", aircraft=part)

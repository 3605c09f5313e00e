"""The documents of the kit: aircraft, packs, chargers, devices, power banks, own list items, upkeep entries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, TypeAdapter, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.core.prepare.banks import Bank
from zealous_lark.core.prepare.charging import Charger, ChargerMode, Takes
from zealous_lark.core.prepare.lists import Group, When
from zealous_lark.core.prepare.packs import Chemistry, KitPack, PackState
from zealous_lark.core.prepare.upkeep import Entry, Work
from zealous_lark.plan.base import Day, Latitude, Longitude, Moment, Name, Number, Part, Percent, Temperature
from zealous_lark.plan.document import AircraftPart
from zealous_lark.plan.versions import upgraded_text

Note = Annotated[str, Field(max_length=2_000)]
PowerW = Annotated[float, Field(ge=1, le=2_000)]
EnergyWh = Annotated[float, Field(ge=0.5, le=3_000)]


class AircraftItem(Part):
    """An aircraft by its spec sheet."""

    kind: Literal["aircraft"]
    aircraft: AircraftPart
    note: Note = ""


class PackItem(Part):
    """A flight pack. aircraft: the number of the aircraft it fits; charge_pct: at `charged_at`."""

    kind: Literal["pack"]
    label: Annotated[str, Field(min_length=1, max_length=60)]
    aircraft: Number | None = None
    chemistry: Chemistry = Chemistry.LIPO_HV
    cells: Annotated[int, Field(ge=1, le=14)]
    capacity_mah: Annotated[float, Field(ge=100, le=60_000)]
    bought: Day | None = None
    cycles: Annotated[int, Field(ge=0, le=5_000)] = 0
    health_pct: Annotated[float, Field(ge=1, le=110)] = 100
    tested_pct: Annotated[float, Field(ge=1, le=110)] | None = Field(
        None, description="Health by a capacity test, or as the battery or a meter itself tells it [%]."
    )
    state: PackState = PackState.STORAGE
    charge_pct: Percent = 50
    charged_at: Moment | None = Field(None, description="When it was last charged, or its charge was read.")
    storage_c: Temperature = 20
    note: Note = ""


class ChargerItem(Part):
    kind: Literal["charger"]
    name: Name
    power_w: PowerW
    mode: ChargerMode = ChargerMode.IN_TURN
    takes: Takes = Takes.BOTH
    slots: Annotated[int, Field(ge=1, le=12)] = 3


class DeviceItem(Part):
    """A controller or a display: it must be charged too."""

    kind: Literal["device"]
    name: Name
    battery_wh: EnergyWh
    charge_pct: Percent = 50


class BankItem(Part):
    kind: Literal["bank"]
    name: Name
    energy_wh: EnergyWh
    volts: Annotated[float, Field(ge=3, le=60)] | None = Field(None, description="Greatest voltage that it gives.")
    amps: Annotated[float, Field(ge=0.5, le=20)] | None = Field(None, description="Current that it gives with it.")


class OwnItem(Part):
    """A line of the pilot's own on the kit list; days_before: for what is done at home."""

    kind: Literal["own"]
    name: Name
    count: Annotated[int, Field(ge=1, le=50)] = 1
    when: When = When.ALWAYS
    group: Group = Group.SELF
    days_before: Annotated[int, Field(ge=0, le=60)] | None = None

    @model_validator(mode="after")
    def _at_home(self) -> OwnItem:
        if (self.group is Group.AT_HOME) != (self.days_before is not None):
            raise PydanticCustomError("at_home", "days_before for what is done at home, and only for that")
        return self


KitItem = Annotated[
    AircraftItem | PackItem | ChargerItem | DeviceItem | BankItem | OwnItem, Field(discriminator="kind")
]
_ITEM: TypeAdapter[KitItem] = TypeAdapter(KitItem)


def read_item(text: str) -> KitItem:
    """An item that was kept."""
    return _ITEM.validate_json(upgraded_text(text))


def item_name(item: KitItem) -> str:
    """What an item is called."""
    match item:
        case AircraftItem():
            return item.aircraft.name
        case PackItem():
            return item.label
        case _:
            return item.name


def pack_of(item: PackItem) -> KitPack:
    """The core's pack."""
    values = item.model_dump(include=set(KitPack.__slots__))
    return KitPack(**values)


def charger_of(item: ChargerItem) -> Charger:
    """The core's charger."""
    return Charger(item.name, item.power_w, item.mode, item.takes, item.slots)


def bank_of(item: BankItem) -> Bank:
    """The core's power bank."""
    return Bank(item.name, item.energy_wh, item.volts, item.amps)


class UpkeepPart(Part):
    """A dated entry about an aircraft. hours: in the air, for what was flown; the position of a compass calibration."""

    day: Day
    work: Work
    hours: Annotated[float, Field(ge=0, le=500)] = 0
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    note: Note = ""

    @model_validator(mode="after")
    def _both(self) -> UpkeepPart:
        if (self.latitude is None) != (self.longitude is None):
            raise PydanticCustomError("position", "latitude and longitude, or neither")
        return self


def entry_of(part: UpkeepPart) -> Entry:
    """The core's entry."""
    position = None if part.latitude is None or part.longitude is None else (part.latitude, part.longitude)
    return Entry(part.day, part.work, part.hours, position, part.note)


@dataclass(frozen=True, slots=True)
class SheetField:
    """A number of a spec sheet: its key, label, unit, and where in a manual it usually stands."""

    key: str
    label: str
    unit: str
    where: str


SHEET = tuple(SheetField(*row) for row in (
    ("mass_g", "Take-off weight", "g", "Specifications, “weight” or “take-off weight”, with battery and blades"),
    ("size_m", "Size, tip to tip", "m", "Specifications, “dimensions”, the longest one unfolded with propellers"),
    ("rotor_count", "Rotors", "", "Count them"),
    ("rotor_diameter_m", "Rotor diameter", "m", "Propeller chapter or printed on the blade, often in inches"),
    ("max_tilt_deg", "Maximum tilt", "°", "Specifications, “max tilt angle”, fastest mode; 35° when not given"),
    ("battery_wh", "Battery energy", "Wh", "Printed on the battery, or volts × amp-hours"),
    ("hover_time_min", "Hover time", "min", "Specifications, “max hovering time”, no wind; not the flight time"),
    ("speeds_ms.slow", "Slow mode", "m/s", "Specifications, “max speed”, the slowest mode"),
    ("speeds_ms.normal", "Normal mode", "m/s", "Specifications, “max speed”, the usual mode"),
    ("speeds_ms.fast", "Fast mode", "m/s", "Specifications, “max speed”, the fastest mode"),
    ("rth_speed_ms", "Return to home", "m/s", "Chapter on the return to home; the normal mode when not given"),
    ("ascent_ms", "Up", "m/s", "Specifications, “max ascent speed”, normal mode"),
    ("descent_ms", "Down", "m/s", "Specifications, “max descent speed”, normal mode"),
    ("max_wind_ms", "Wind rating", "m/s", "Specifications, “max wind speed resistance”"),
    ("max_takeoff_g", "Greatest take-off weight", "g", "Specifications, “max take-off weight”; open when not given"),
    ("ceiling_m", "Ceiling above the sea", "m", "Specifications, “max service ceiling”; open when not given"),
    ("charge_power_w", "Charging power", "W", "Battery or charger chapter, “max charging power”; open when not given"),
    ("temperature_c", "Rated temperature", "°C", "Specifications, “operating temperature”, least and greatest"),
    ("link.band_ghz", "Radio band", "GHz", "Specifications of the link, “operating frequency”"),
    ("link.range_m", "Open range", "m", "Specifications of the link, “max transmission distance”, your region"),
))  # fmt: skip
"""The spec sheet in the order in which manuals tend to give it; common practice."""

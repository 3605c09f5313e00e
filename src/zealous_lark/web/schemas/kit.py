"""What the routes of the kit take and give."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from zealous_lark.core.prepare.packs import Care
from zealous_lark.core.prepare.upkeep import Work
from zealous_lark.plan.base import Number
from zealous_lark.plan.document import AircraftPart
from zealous_lark.plan.kit import KitItem, UpkeepPart
from zealous_lark.web.schemas.common import In, Out


class AddItem(In):
    item: KitItem


class SaveItem(In):
    """A changed item, with the revision that it was made from."""

    revision: Number
    item: KitItem


class AdviceOut(Out):
    """What to do with a pack; `by`: until when, where there is a day for it."""

    care: Care
    sentence: str
    by: datetime | None


class PackNowOut(Out):
    """What is estimated of a pack now, and a word on its age where there is one."""

    charge_pct: float
    energy_wh: float
    storage_v: float
    advice: AdviceOut
    worn: str | None
    worn_below_pct: float = Field(description="Health under which a battery is old.")
    old_from_cycles: int
    choosable: bool


class DueOut(Out):
    work: Work
    why: str


class ItemOut(Out):
    """An item of the kit. pack: estimates, for a pack; due: what is due, for an aircraft."""

    id: int
    revision: int
    name: str
    item: KitItem
    pack: PackNowOut | None = None
    due: list[DueOut] | None = None
    hours: float | None = None


class KitOut(Out):
    items: list[ItemOut]


class SheetFieldOut(Out):
    key: str
    label: str
    unit: str
    where: str
    least: float | None
    greatest: float | None


class ClassOut(Out):
    label: str
    aircraft: AircraftPart


class SheetOut(Out):
    """A spec sheet's fields with where in a manual each usually stands, and typical classes to start from."""

    fields: list[SheetFieldOut]
    classes: list[ClassOut]


class EntryOut(Out):
    id: int
    entry: UpkeepPart


class UpkeepOut(Out):
    """An aircraft's upkeep: entries, latest day first, hours in the air, what is due."""

    name: str
    entries: list[EntryOut]
    hours: float
    due: list[DueOut]
    today: date


class AddEntry(In):
    entry: UpkeepPart

"""What the routes of the Pack stage take and give."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from zealous_lark.core.prepare.charging import ChargerMode, JobKind
from zealous_lark.core.prepare.countdown import Moment
from zealous_lark.core.prepare.lists import Group
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan.document import PlanDocument
from zealous_lark.plan.outing import OutingPart
from zealous_lark.web.schemas.common import In, Out
from zealous_lark.web.schemas.kit import AdviceOut, DueOut


class OutingIn(In):
    plan: PlanDocument


class PackOut(Out):
    """A pack for the session: charge now, at take-off if left as it is, and as it comes after charging [%]."""

    id: int
    label: str
    fits: bool
    choosable: bool
    chosen: bool
    why_not: str | None
    health_pct: float
    energy_wh: float
    charge_now_pct: float
    charge_then_pct: float
    charged_pct: float
    advice: AdviceOut
    worn: str | None


class StepOut(Out):
    what: Moment
    at: datetime
    latest: datetime
    why: str


class JobOut(Out):
    """Something to charge: from a charge to a charge [%], from a time to a time."""

    name: str
    kind: JobKind
    from_pct: float
    to_pct: float
    begins_at: datetime
    ends_at: datetime


class ChargerOut(Out):
    """What a charger does, in order; start_by: the last moment to switch it on."""

    name: str
    mode: ChargerMode
    power_w: float
    start_by: datetime
    jobs: list[JobOut]


class NotChargedOut(Out):
    name: str
    charge_pct: float


class BankOut(Out):
    name: str
    fills: int = Field(description="How many of the batteries that are taken it fills from empty.")
    each_min: float | None = Field(description="The longest that one of those takes; null: volts or amps not known.")
    volts: float | None = Field(description="Greatest voltage that it gives; null: not known.")
    needs_volts: float | None = Field(description="Voltage that a battery asks for and it does not give; null: none.")


class ScheduleOut(Out):
    """Charging that ends when the bag is packed, or before. available_min: when there is less time than it takes."""

    takes_min: float
    available_min: float | None
    begins_at: datetime
    ends_at: datetime
    chargers: list[ChargerOut]
    untouched: list[NotChargedOut]
    no_charger: list[str]
    banks: list[BankOut]


class WarmOut(Out):
    air_c: float
    pack_c: float
    cold_min: float
    warm_min: float
    gain_min: float


class FlightStepOut(Out):
    what: str
    shot: int | None
    seconds: float
    wh: float
    charge_after_pct: float


class AtSubjectOut(Out):
    """What is found at a subject of a flight. helps: what would bring it within the limits."""

    shot: int
    verdict: Verdict
    label: str
    sentence: str
    helps: str | None


class FilmedOut(Out):
    pack: int
    label: str
    shots: list[int]
    begins_at: datetime
    lands_at: datetime
    charge_pct: float
    landing_pct: float
    downwind: bool
    steps: list[FlightStepOut]
    faults: list[str]
    verdict: Verdict | None = Field(description="Of the whole flight; null for one that is not the plan in force.")
    subjects: list[AtSubjectOut]


class LeftOutOut(Out):
    shot: int
    why: str
    ways: list[str]


class FilmingOut(Out):
    flights: list[FilmedOut]
    left_out: list[LeftOutOut]
    reserve_pct: float
    by_hand: bool
    holds: bool


class ListItemOut(Out):
    key: str
    name: str
    count: int
    why: str
    group: Group
    on: date | None = Field(description="For what is done at home: the day for it.")


class OutingOut(Out):
    """Everything that the Pack stage shows. filming: null without subjects; wind_known: false where it cannot be."""

    outing: OutingPart
    aircraft: int | None
    due: list[DueOut] = Field(description="Of the aircraft, at this place.")
    packs: list[PackOut]
    steps: list[StepOut]
    schedule: ScheduleOut
    warm: WarmOut | None
    filming: FilmingOut | None
    best: FilmingOut | None
    wind_known: bool
    items: list[ListItemOut]

"""What the routes of the Site and Walkround stages take and give."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from zealous_lark.core.field_tables import FieldTables
from zealous_lark.core.preflight.arrival import Effect
from zealous_lark.core.preflight.gates import Value
from zealous_lark.core.preflight.settings_card import Setting
from zealous_lark.formats.pocket_pdf import Paper
from zealous_lark.plan.document import PlanDocument
from zealous_lark.services.field_tables import ReadingKind
from zealous_lark.web.answers import AnswerOut
from zealous_lark.web.schemas.common import In, Out, UnitsQuery


class PaperQuery(UnitsQuery):
    """Units, and the size of the paper."""

    paper: Paper = Paper.A6


class TablesQuery(BaseModel):
    """For which kind of reading."""

    reading: ReadingKind = ReadingKind.NONE


class FieldTablesOut(Out):
    """Tables to look up in without the server, and the plan they were made for; null: there is nothing to read."""

    plan: PlanDocument
    tables: FieldTables | None


class OnSiteIn(In):
    plan: PlanDocument


class LookOut(Out):
    key: str
    question: str
    how: str
    then: str
    effect: Effect
    answer: AnswerOut | None


class DifferenceOut(Out):
    height_m: float
    measured_ms: float
    forecast_ms: float
    turn_deg: float
    sentence: str
    stronger: bool


class ValueOut(Out):
    """A value that an item takes; now: null while it is not entered."""

    kind: Value
    now: float | bool | None
    wanted: str
    status: Literal["pass", "care", "fail", "unknown"]
    sentence: str


class GateItemOut(Out):
    key: str
    text: str
    why: str
    how: list[str]
    fault: str
    value: ValueOut | None
    answer: AnswerOut | None


class GateOut(Out):
    name: str
    items: list[GateItemOut]
    open: int
    stopped: bool


class DialOut(Out):
    """A line of the settings card. planned: the plan's own where it is another; last: last time's where it differs."""

    setting: Setting
    label: str
    value: float | None
    shown: str
    why: str
    planned: str | None
    last: str | None


class OnSiteOut(Out):
    looks: list[LookOut]
    differences: list[DifferenceOut]
    gates: list[GateOut]
    card: list[DialOut]
    feels: str | None = Field(description="What the wind makes of the cold; null: nothing to say.")
    session_is: list[str] = Field(description="What the session is: winter, new_place and so on.")

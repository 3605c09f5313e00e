"""What goes over the wire besides the plan and the result."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from zealous_lark.core.units import LengthUnit, SpeedUnit, TemperatureUnit
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan import PlanDocument, ResultDocument
from zealous_lark.plan.base import Moment, Name, Number
from zealous_lark.plan.document import MinimumsPart
from zealous_lark.plan.walkround import AnsweredPart
from zealous_lark.services.decisions import OpenWord
from zealous_lark.services.minimums import PilotSettings
from zealous_lark.services.session_list import Tightest
from zealous_lark.services.starters import Surrounding
from zealous_lark.store import PilotsWord

MONTH_S = 30 * 86_400.0
"""How long a device keeps what it could not send [s]."""


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


class Out(BaseModel):
    model_config = ConfigDict(extra="forbid")


class UnitsQuery(BaseModel):
    """Units in which sentences and workings are written; values stay in the result's own units."""

    speed: SpeedUnit = SpeedUnit.MS
    length: LengthUnit = LengthUnit.M
    temperature: TemperatureUnit = TemperatureUnit.C


class SessionsQuery(UnitsQuery):
    """Words that title, place, aircraft or battery must have; the page, counted from 1."""

    find: Annotated[str, Field(max_length=200)] = ""
    page: Annotated[int, Field(ge=1, le=100_000)] = 1


class CheckQuery(UnitsQuery):
    """How a plan is judged: with fixes unless they are not wanted, which is quicker."""

    levers: bool = True


class NewPlace(In):
    """Where a session over an open field takes place."""

    name: Name
    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]


class NewSession(In):
    """A session to begin: like another one (`start_from`), or over an open field (`place`); at a drawn place or not."""

    title: Name
    takeoff_at: Moment
    start_from: Number | None = None
    place: NewPlace | None = None
    at_place: Number | None = Field(None, description="The drawn place it is at; its first take-off point is taken.")
    setting: Surrounding | None = Field(None, description="What kind of place it is; null: as it starts.")
    aircraft: Number | None = Field(None, description="The aircraft of the kit that flies; null: as it starts.")
    pack: Number | None = Field(None, description="The battery of the kit that flies first; null: not said yet.")


class SaveSession(In):
    """A changed plan, with the revision that it was made from."""

    revision: Number
    plan: PlanDocument


class MadeAway(In):
    """What a decision rests on that was made without the server: plan and result as the device had them.

    ago_s: how long ago it was made. asked: what was not checked, by the keys of `said`. tables_of: when the field
    tables were taken along that the result was looked up in; null: it is the check's, as it was taken along.
    """

    ago_s: Annotated[float, Field(ge=0, le=MONTH_S)]
    plan: PlanDocument
    result: ResultDocument
    asked: Annotated[dict[Name, Annotated[str, Field(max_length=2000)]], Field(max_length=60)] = {}
    tables_of: AwareDatetime | None = None


class NewDecision(In):
    """The pilot's word on a session as it is saved; `away`: on what the device had instead."""

    word: PilotsWord
    note: Annotated[str, Field(max_length=4000)] = ""
    revision: Number
    said: dict[str, OpenWord] = Field(
        default={}, description="By the check that asks: the word on what is not checked. A launch needs one on each."
    )
    away: MadeAway | None = None


class UseOut(Out):
    id: int
    title: str


class UsesOut(Out):
    """The sessions that something is used in."""

    sessions: list[UseOut]


def uses_out(found: list[tuple[int, str]]) -> UsesOut:
    """Sessions by number and title, as they are answered."""
    return UsesOut(sessions=[UseOut(id=number, title=title) for number, title in found])


class SessionSummary(Out):
    id: int
    title: str
    place: str
    aircraft: str
    pack: str
    latitude: float
    longitude: float
    takeoff_at: AwareDatetime = Field(description="By the clock at the place.")
    revision: int
    changed_at: AwareDatetime
    verdict: Verdict
    tightest: Tightest
    word: PilotsWord | None
    changes: int = Field(description="Changes of its forecasts that were found and not seen yet.")


class SessionList(Out):
    sessions: list[SessionSummary]
    page: int
    pages: int
    total: int = Field(description="How many sessions there are that have the words.")


class SessionOut(Out):
    id: int
    revision: int
    created_at: AwareDatetime
    changed_at: AwareDatetime
    plan: PlanDocument
    result: ResultDocument


class DecisionSummary(Out):
    id: int
    session_id: int
    decided_at: AwareDatetime
    word: PilotsWord
    note: str
    verdict: Verdict


class DecisionOut(DecisionSummary):
    plan: PlanDocument
    result: ResultDocument
    walkround: list[AnsweredPart] = Field(description="What was said on the preflight up to then.")


class DecisionList(Out):
    decisions: list[DecisionSummary]


class CheckAbout(Out):
    id: str
    label: str
    unit: str
    decides: str = Field(description="What is held against what.")
    source: str


class CheckCatalogue(Out):
    checks: list[CheckAbout]


class ForceOut(Out):
    """A Beaufort force: the range and middle of the wind at 10 m, and what is seen."""

    force: int
    low_ms: float
    middle_ms: float
    high_ms: float
    land: str
    water: str


class BeaufortOut(Out):
    forces: list[ForceOut]


class PositionQuery(BaseModel):
    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]


class TimeZoneOut(Out):
    name: str = Field(description="As in the IANA time zone database; UTC at sea.")


class LeanQuery(BaseModel):
    """An aircraft that holds still in the wind: its lean, and what its manual says."""

    tilt_deg: Annotated[float, Field(ge=0, le=80)]
    max_tilt_deg: Annotated[float, Field(ge=5, le=80)]
    fastest_ms: Annotated[float, Field(gt=0, le=60)]
    loading: Annotated[float, Field(ge=1, le=3)] = 1
    elevation_m: Annotated[float, Field(ge=-500, le=9_000)] = 0
    temperature_c: Annotated[float, Field(ge=-60, le=60)] = 15


class LeanOut(Out):
    speed_ms: float


class MinimumsQuery(BaseModel):
    """The session whose verdict is shown under each school; the next one ahead when left out."""

    session: Number | None = None


class MinimumsChangeQuery(MinimumsQuery):
    """by_word: that first flights end by the pilot's word, though their course is not done."""

    by_word: bool = False


class SchoolOut(Out):
    """One answer to a question; the verdict is that of the session that is looked at."""

    name: str
    sets: dict[str, float | bool | str | None]
    adjusts: str | None = Field(description="The minimum whose number the pilot sets freely.")
    chosen: bool
    verdict: Verdict | None


class QuestionOut(Out):
    id: str
    question: str
    why: str
    schools: list[SchoolOut]


class RuleSetOut(Out):
    id: str
    name: str
    authority: str
    checked: str
    source: str
    height_m: float
    mass_steps_g: list[float]
    people_m: float | None
    people_from_g: float | None
    airfield_m: float | None
    airfield_from_g: float | None
    night: str
    depends: str | None
    notes: list[str]


class DatedSettings(Out):
    changed_at: AwareDatetime | None = Field(description="Null for the defaults, which always were.")
    settings: PilotSettings


class MinimumsOut(Out):
    settings: PilotSettings
    in_force: MinimumsPart = Field(description="The stricter of the pilot's own, the rules' and first flights'.")
    looked_at: str | None = Field(description="Title of the session whose verdict is shown.")
    questions: list[QuestionOut]
    rule_sets: list[RuleSetOut]
    history: list[DatedSettings] = Field(description="What was in force, the latest first.")


class HealthOut(Out):
    status: Literal["ok"]
    version: str


class RefusalOut(Out):
    key: str
    given: str
    allowed: str


class ProblemOut(Out):
    """What went wrong, and every fault of the input if that was it."""

    message: str
    refusals: list[RefusalOut] = Field(default_factory=list)

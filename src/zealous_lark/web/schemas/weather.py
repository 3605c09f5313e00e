"""What the routes of weather and windows take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, RootModel

from zealous_lark.core.light import Glow
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan.base import Latitude, Longitude, Moment, Number
from zealous_lark.plan.document import PlanDocument, WeatherPart
from zealous_lark.plan.forecast import ForecastPart
from zealous_lark.web.schemas.common import In, Out


class SourceOut(Out):
    key: str
    name: str
    simulated: bool
    control: str | None = Field(description="Where a simulated source is told what to make up.")


class SourceList(Out):
    sources: list[SourceOut]


class ReportOut(Out):
    """A forecast or observation that is kept here."""

    id: int
    source: str = Field(description="Key of the source it came from, or how it was read.")
    name: str
    issued_at: AwareDatetime
    fetched_at: AwareDatetime
    begin: AwareDatetime
    end: AwareDatetime
    hours: int
    away_m: float | None = Field(description="How far the point is that it was worked out for; null: not said.")
    raw: str


class ReportList(Out):
    reports: list[ReportOut]


class ReportWhole(ReportOut):
    forecast: ForecastPart


class NearQuery(In):
    """Where reports are wanted for."""

    model_config = In.model_config | {"strict": False}

    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]


class FetchIn(In):
    """What to fetch from a source for a plan's place and time."""

    source: str
    plan: PlanDocument


class ReadIn(In):
    """A report as text: a METAR, a TAF, or a table of comma-separated values."""

    kind: Literal["metar", "taf", "csv"]
    text: Annotated[str, Field(max_length=2_000_000)]
    name: Annotated[str, Field(max_length=100)] = ""
    plan: PlanDocument


class ForecastFileQuery(BaseModel):
    """The place, the file's name, and for a table which column is which: a JSON object from columns to their kinds."""

    model_config = ConfigDict(extra="forbid")

    latitude: Latitude
    longitude: Longitude
    name: Annotated[str, Field(max_length=100)] = "forecast"
    columns: Annotated[str, Field(max_length=5_000, description="JSON; left out: the columns' names say it.")] = ""
    height_m: Annotated[float, Field(ge=0.5, le=1_000)] | None = None


class ForecastColumns(RootModel[Annotated[dict[str, str], Field(max_length=40)]]):
    """What each column of a table is, by the columns' names."""


class ForecastHeadOut(Out):
    """The columns of a forecast's table, its first rows and a guess; known: nobody needs to be asked.

    Of other files everything is empty, and known.
    """

    columns: list[str]
    rows: list[list[str]]
    guess: dict[str, str]
    height_m: float | None
    known: bool
    kinds: list[str] = Field(description="What a column may be.")


class FillIn(In):
    """A plan to take the weather of a time into, from a kept report; the plan's own take-off when left out."""

    report: Number
    takeoff_at: Moment | None = None
    plan: PlanDocument


class FillOut(Out):
    takeoff_at: datetime
    weather: WeatherPart


class LookIn(In):
    """A plan whose windows are wanted; in the plan's own forecast, or the latest near, unless one is named."""

    report: Number | None = None
    plan: PlanDocument


class ToldOut(Out):
    bearing_deg: float
    verdict: Verdict
    check: str
    label: str
    sentence: str
    used: float | None
    clear: bool = Field(description="Nothing asks for care but what does so on every flight with this aircraft.")


class SlotOut(Out):
    """A half hour; null verdicts where the forecast says nothing. Sun in degrees."""

    at: datetime
    planned: ToldOut | None
    best: ToldOut | None
    sun_elevation_deg: float
    sun_azimuth_deg: float
    glow: Glow
    glare_towards: list[str]


class WindowOut(Out):
    """A window to the minute, both minutes in it.

    first: what its first minute says. opens, closes: what keeps the aircraft down in the minute before and after; null
    at the edge of what was looked at.
    """

    begin: datetime
    end: datetime
    first: ToldOut | None
    opens: ToldOut | None
    closes: ToldOut | None
    clear: bool


class CurtainOut(Out):
    """Wind over the site, time by time and height by height; nulls where it is not known.

    used: the greater of the shares of the steady and of the gust limit. rain_mmh and the rest: at the times.
    """

    height_m: list[float]
    speed_ms: list[list[float | None]]
    gust_ms: list[list[float | None]]
    direction_deg: list[list[float | None]]
    used: list[list[float | None]]
    rain_mmh: list[float | None]
    falls: list[str | None]
    temperature_c: list[float | None]
    visibility_m: list[float | None]


class WindowsOut(Out):
    report: ReportOut | None
    slots: list[SlotOut]
    planned: list[WindowOut]
    best: list[WindowOut]
    curtain: CurtainOut
    working_height_m: float
    return_height_m: float
    steady_limit_ms: float
    gust_limit_ms: float

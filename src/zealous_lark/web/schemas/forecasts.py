"""What the routes of several forecasts, and of the watch over sessions ahead, take and give."""

from __future__ import annotations

from pydantic import AwareDatetime, Field

from zealous_lark.core.readings import Precipitation
from zealous_lark.core.verdict import Verdict
from zealous_lark.plan.document import PlanDocument
from zealous_lark.services.session_list import Tightest
from zealous_lark.services.watch import Found
from zealous_lark.web.schemas.common import In, Out
from zealous_lark.web.schemas.weather import ReportOut


class OfAPlan(In):
    plan: PlanDocument


class HomeWindOut(Out):
    """The wind at the height of the way home."""

    speed_ms: float
    gust_ms: float
    direction_deg: float


class SaidOut(Out):
    """What one forecast says about a take-off."""

    report: ReportOut
    fresh: bool = Field(description="By the hour, and younger than the pilot's minimums accept.")
    plans: bool = Field(description="Whether the plan stands on it now.")
    strictest: bool = Field(description="Of the fresh ones the one with the strictest verdict.")
    wind: HomeWindOut | None
    temperature_c: float | None
    falls: Precipitation | None
    verdict: Verdict
    tightest: Tightest


class ForecastSpreadOut(Out):
    """How far the fresh forecasts differ in the wind of the way home; share: one standard deviation over the mean."""

    count: int
    mean_ms: float
    least_ms: float
    most_ms: float
    share: float


class ComparisonOut(Out):
    said: list[SaidOut]
    spread: ForecastSpreadOut | None = Field(description="Null for fewer than two.")
    height_m: float = Field(description="Height of the way home over the take-off point.")
    against: list[str] = Field(
        description="What the flight fails by in every fresh forecast, while it flies as it is planned; else empty."
    )


class HeardOfOut(Out):
    """What came of asking a source; both null: nothing new."""

    key: str
    name: str
    report: ReportOut | None
    why: str | None


class AskedOut(Out):
    asked: list[HeardOfOut]


class WatchedOut(Out):
    """What was found of a session at a time."""

    session_id: int
    at: AwareDatetime
    seen: bool
    found: Found


class WatchHistory(Out):
    """The latest first."""

    watched: list[WatchedOut]


class NewsOut(Out):
    title: str
    takeoff_at: AwareDatetime
    change: WatchedOut


class NewsList(Out):
    news: list[NewsOut] = Field(description="Of each session ahead the latest change that was not seen.")


class LookedOut(Out):
    """What came of a look at the sessions ahead."""

    changes: list[WatchedOut]
    asked: list[HeardOfOut]

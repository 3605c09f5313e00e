"""The result document, version 1, as pydantic models."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from zealous_lark.core.checks import Bound, Status
from zealous_lark.core.return_height import CeilingLimit
from zealous_lark.core.sight import SightLimit
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.trip import LegName, ReachLimit
from zealous_lark.core.verdict import Verdict


class Part(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class FixPart(Part):
    """A change that would clear a check, proven by judging the changed plan."""

    set: dict[str, Any]
    sentence: str
    verdict: Verdict


class CheckPart(Part):
    """One check. Values are in `unit` whatever units the sentences are written in."""

    id: str
    label: str
    status: Status
    value: float | None
    limit: float | None
    unit: str
    bound: Bound
    used: float | None = Field(description="Share of the limit that is used, 1 at the limit, at most 9.99.")
    sentence: str
    working: list[str]
    source: str
    shown: str | None = Field(description="Words for a board where value and limit are no numbers with a unit.")
    spread: list[float] | None = Field(description="Share used at the low and high end of what is uncertain.")
    follows: str | None = Field(description="The check whose fault this one only repeats.")
    levers: list[FixPart]


class WindFoundPart(Part):
    height_m: float
    speed_ms: float
    gust_ms: float
    direction_deg: float


class WindsPart(Part):
    """`return` is at the higher of planned and return height."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True)

    planned: WindFoundPart
    return_: WindFoundPart = Field(alias="return")


class LegPart(Part):
    name: LegName
    seconds: float
    wh: float
    charge_after_pct: float


class EnergyPart(Part):
    """The trip. Null where a leg makes no headway, which `blocked` names; a null ground speed holds no course."""

    usable_wh: float
    spent_wh: float | None
    landing_pct: float | None
    ground_speed_out_ms: float | None
    ground_speed_home_ms: float | None
    blocked: LegName | None
    legs: list[LegPart]


class TurnBackPart(Part):
    """Charge at which to turn back from the farthest point, the reserve included."""

    charge_pct: float


class RthPart(Part):
    lowest_m: float
    highest_m: float | None
    recommended_m: float | None
    limited_by: CeilingLimit | None


class ReachPart(Part):
    bearing_deg: list[float]
    distance_m: list[float]
    limited_by: list[ReachLimit]


class SignalPart(Part):
    margin_db: float
    range_m: float
    obstruction_db: float
    noise_db: float


class SightPart(Part):
    limit_m: float
    limited_by: SightLimit


class LegBandPart(Part):
    name: LegName
    low_pct: float
    high_pct: float


class ChancePart(Part):
    """Chances from 0 to 1; the bands hold nine draws in ten. The verdict does not use them."""

    above_reserve: float
    above_forced: float
    landing_low_pct: float
    landing_high_pct: float
    legs: list[LegBandPart]


class WayHomePart(Part):
    """A way home from the far end: height above the take-off point, mode, ground speed, charge on the ground."""

    height_m: float
    mode: SpeedMode
    ground_speed_ms: float
    landing_pct: float


class BestWayHomePart(Part):
    best: WayHomePart | None = Field(
        description="Lands with the most charge at no less than twice the least ground speed; null: none does."
    )
    fastest: WayHomePart | None = Field(description="The one with the greatest ground speed; null: none makes headway.")
    ways: list[WayHomePart] = Field(description="The best mode of each height.")


class QuestionPart(Part):
    """Something not known that can be asked. What only the powered aircraft can tell does not matter yet."""

    id: str
    question: str
    matters: bool
    key: str | None = Field(
        None, description="Key path of the plan's value that nobody has said and that one touch can confirm."
    )


class LightPart(Part):
    """Null where the sun does not rise or set on that day."""

    sunrise: AwareDatetime | None
    sunset: AwareDatetime | None


class ResultDocument(Part):
    """What the numbers say about one plan. Never a statement that a flight is allowed."""

    model_config = ConfigDict(title="Zealous Lark result")

    format: Literal["zealous-lark.result"] = "zealous-lark.result"
    version: Literal[1] = 1
    verdict: Verdict
    tightest: str = Field(description="Name of the check to watch.")
    checks: list[CheckPart] = Field(description="Every check that applies, the tightest first.")
    wind: WindsPart | None = Field(description="Null indoors and while the wind above is not known.")
    energy: EnergyPart | None
    other_way: EnergyPart | None = Field(description="The same trip flown on the opposite bearing.")
    turn_back: TurnBackPart | None
    rth: RthPart
    reach: ReachPart | None
    signal: SignalPart
    sight: SightPart
    light: LightPart
    chance: ChancePart | None
    best_way_home: BestWayHomePart | None = None
    questions: list[QuestionPart] = Field(description="What is not known, in the order of the work.")
    cloud_base_m: float | None
    forced_landing_pct: float = Field(description="Charge at which it lands where it is; common practice.")
    reserve_pct: float = Field(description="Charge to be on the ground with, the extra over water included.")

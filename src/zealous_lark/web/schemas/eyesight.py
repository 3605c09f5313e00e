"""What goes over the wire of the eye."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from zealous_lark.core.practice.eye import TRIALS, Way
from zealous_lark.plan.base import Name
from zealous_lark.plan.flight import Uid
from zealous_lark.services.eyesight import Background
from zealous_lark.web.schemas.common import MONTH_S, In, Out


class EyeAircraft(Out):
    """An aircraft to look for, and how far its attitude can be read by the formula. own: whether it is the pilot's."""

    name: str
    size_m: float
    formula_m: float
    own: bool


class EyeFound(Out):
    """A look and what came of it. own_m: what may be taken for a line of sight; null where it was not timed."""

    uid: str
    looked_at: datetime
    aircraft: str
    size_m: float
    background: Background
    timed: bool
    seen_m: float
    low_m: float
    high_m: float
    formula_m: float
    own_m: float | None


class EyeOut(Out):
    """What the eye's page needs, and all looks, the latest first. trials: answers of a whole look."""

    aircraft: list[EyeAircraft]
    trials: int
    looks: list[EyeFound]


class EyeSaid(In):
    distance_m: Annotated[float, Field(ge=1, le=20_000)]
    way: Way
    said: Way


class EyeIn(In):
    """A whole look: every answer in order. timed: shown for two seconds each. ago_s: how long ago it ended [s]."""

    uid: Uid
    aircraft: Name
    background: Background
    timed: bool
    said: Annotated[list[EyeSaid], Field(min_length=TRIALS, max_length=TRIALS)]
    ago_s: Annotated[float, Field(ge=0, le=MONTH_S)] = 0

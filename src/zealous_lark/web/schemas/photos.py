"""What goes over the wire of photos."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from zealous_lark.plan.base import Moment, Number
from zealous_lark.plan.flight import Uid
from zealous_lark.web.schemas.common import Out


class PhotoQuery(BaseModel):
    """A photo's number, when it was taken, and the flight or the place that it is of."""

    uid: Uid
    taken_at: Moment
    flight: Uid | None = None
    place: Number | None = None


class PhotoOut(Out):
    uid: str
    taken_at: datetime


class PhotoList(Out):
    photos: list[PhotoOut]

"""What one pilot gives to another: a session's plan or a place, with a head that says what it is."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.plan.base import Moment, Part
from zealous_lark.plan.document import PlanDocument
from zealous_lark.plan.place import PlacePart

SHARE_VERSION = 1
LeftOut = Literal["terrain", "surface", "picture", "forecast"]


class SharePart(Part):
    """A shared document. plan or place: exactly one of them; left_out: what it had besides."""

    lark: Literal["share"]
    version: Annotated[int, Field(ge=1)]
    made_at: Moment
    plan: PlanDocument | None = None
    place: PlacePart | None = None
    left_out: Annotated[list[LeftOut], Field(max_length=4)] = Field(default=[])

    @model_validator(mode="after")
    def _one_of_them(self) -> SharePart:
        if (self.plan is None) is (self.place is None):
            raise PydanticCustomError("share", "a plan or a place, one of them")
        return self

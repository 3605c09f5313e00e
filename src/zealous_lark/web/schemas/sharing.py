"""What goes over the wire of giving a session or a place to another pilot."""

from __future__ import annotations

from datetime import datetime

from zealous_lark.plan import PlanDocument
from zealous_lark.plan.document import MinimumsPart
from zealous_lark.plan.place import PlacePart
from zealous_lark.plan.share import LeftOut
from zealous_lark.web.schemas.common import Out


class CodePicture(Out):
    """A code: its text, and its picture as an SVG in a data address."""

    text: str
    picture: str


class GivenOut(Out):
    """What is given. bytes: of the file. codes: none where it is too large for them.

    left_out: what the file does not hold; left_out_of_codes: what the codes do not.
    """

    bytes: int
    left_out: list[LeftOut]
    codes: list[CodePicture]
    left_out_of_codes: list[LeftOut]


class SharedOut(Out):
    """What was given. missing: numbers of the codes, of so many, that are still to be read; else plan or place.

    own: the pilot's own minimums for the plan. made_at: null for a plan that was exported.
    """

    missing: list[int]
    of: int
    made_at: datetime | None
    plan: PlanDocument | None
    place: PlacePart | None
    left_out: list[LeftOut]
    own: MinimumsPart | None

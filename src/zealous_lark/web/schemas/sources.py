"""What the routes of forecast services take and give."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zealous_lark.plan.base import Number
from zealous_lark.plan.source import AccessPart, SourcePart
from zealous_lark.web.schemas.common import In, Out


class TryIn(In):
    """A service to try. of: the number of one that is kept, whose key is used where none is given."""

    access: AccessPart
    of: Number | None = None


class CollectionOut(Out):
    id: str
    title: str
    parameters: list[str]


class TriedOut(Out):
    collections: list[CollectionOut]


class SourceIn(In):
    source: SourcePart


class OwnSourceOut(Out):
    """A service that the pilot added; its key is never given back."""

    id: int
    key: str = Field(description="The key of the source, as in the list of all that are connected.")
    name: str
    url: str
    collection: str
    header: str
    has_key: bool
    wants_key: bool = Field(description="It had a key that is not here, as after an archive was restored.")
    own_network: bool


class OwnSourceList(Out):
    sources: list[OwnSourceOut]


class OrderIn(In):
    """The numbers of all of them, in the order in which they are to be asked."""

    order: Annotated[list[Number], Field(max_length=100)]

"""What goes over the wire of pairing and signing in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from zealous_lark.web.schemas.common import In, Out

Name = Annotated[str, Field(max_length=80)]
Phrase = Annotated[str, Field(min_length=1, max_length=200)]


class AccessOut(Out):
    """How this device stands: whether it is Lark's own computer, and let in. device: its name, where it is paired."""

    here: bool
    signed_in: bool
    device: str | None
    phrase_set: bool


class SignIn(In):
    phrase: Phrase
    name: Name = ""


class Pair(In):
    code: Annotated[str, Field(min_length=1, max_length=40)]
    name: Name = ""


class NewPhrase(In):
    """Another pass phrase; every device that was paired has to come in again."""

    phrase: Phrase


class PairedOut(Out):
    id: int
    name: str
    paired_at: datetime
    seen_at: datetime
    this: bool


class DeviceList(Out):
    devices: list[PairedOut]


class CodeOut(Out):
    """A code for one device, and the addresses to open with it, each with its picture for a camera (SVG)."""

    code: str
    expires_at: datetime
    addresses: list[AddressOut]


class AddressOut(Out):
    address: str
    picture: str


class PageOf(BaseModel):
    """page: the path of one of Lark's screens."""

    page: Annotated[str, Field(max_length=80, pattern=r"^(/[a-z0-9]+)+$")]


class AddressList(Out):
    addresses: list[AddressOut]


class FieldOut(Out):
    """Whether Lark listens on the local network. possible: whether it can be started from here."""

    possible: bool
    listening: bool
    addresses: list[str]
    fingerprint: str


class FieldWish(In):
    listening: bool

"""The document of a forecast service that the pilot added: where it is, which of its collections, and a key for it."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import urlsplit

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from zealous_lark.plan.base import Name, Part


def _address(text: str) -> str:
    """The address of a service's landing page, without what stands behind it."""
    plain = text.strip().split("?")[0].split("#")[0].rstrip("/")
    plain = plain.split("/collections")[0].rstrip("/")
    try:
        parts = urlsplit(plain)
        good = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port or 1) > 0
    except ValueError:
        good = False
    if not good or not plain.isascii() or any(c.isspace() for c in plain) or parts.username or parts.password:
        raise PydanticCustomError("address", "an address that begins with http:// or https://, without a password")
    return plain


Address = Annotated[str, Field(min_length=1, max_length=500), AfterValidator(_address)]
Header = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,60}$")]
Secret = Annotated[str, Field(max_length=400, pattern=r"^[\x21-\x7e]*$")]


class AccessPart(Part):
    """How a service is reached. header: the name under which its key is sent; key: empty for a service without."""

    url: Address
    header: Header = "X-Api-Key"
    key: Secret = ""

    @property
    def headers(self) -> dict[str, str]:
        """What is sent with each request."""
        return {self.header: self.key} if self.key else {}


class SourcePart(AccessPart):
    """A collection of a service, under a name for people."""

    name: Name
    collection: Annotated[str, Field(pattern=r"^[A-Za-z0-9._~:@-]{1,120}$")]

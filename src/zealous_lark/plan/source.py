"""The document of a forecast service that the pilot added: where it is, which of its collections, and a key for it."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import urlsplit

from pydantic import AfterValidator, Field, ValidationInfo, field_validator
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
_NO_KEY = frozenset({
    "host", "cookie", "set-cookie", "content-length", "connection", "keep-alive", "proxy-authenticate",
    "proxy-authorization", "proxy-connection", "te", "trailer", "transfer-encoding", "upgrade", "expect",
})  # fmt: skip
"""Headers that say where a request goes, how it travels, or who is signed in: none of them carries a key."""


def _for_a_key(name: str) -> str:
    if name.lower() in _NO_KEY:
        raise PydanticCustomError("address", "the name of a header that carries a key, like X-Api-Key or Authorization")
    return name


Header = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,60}$"), AfterValidator(_for_a_key)]
Secret = Annotated[str, Field(max_length=400, pattern=r"^[\x21-\x7e]*$")]


class AccessPart(Part):
    """How a service is reached. header: the name under which its key is sent; key: empty for a service without.

    own_network: it is on the pilot's own network, or on this computer; else only public addresses are asked.
    """

    url: Address
    header: Header = "X-Api-Key"
    key: Secret = ""
    own_network: bool = False

    @field_validator("key")
    @classmethod
    def _not_in_clear(cls, key: str, info: ValidationInfo) -> str:
        parts = urlsplit(info.data.get("url", ""))
        if key and parts.scheme == "http" and parts.hostname not in ("localhost", "127.0.0.1", "::1"):
            raise PydanticCustomError("address", "no key for an address with http://: use https://, or no key")
        return key

    @property
    def headers(self) -> dict[str, str]:
        """What is sent with each request."""
        return {self.header: self.key} if self.key else {}


class SourcePart(AccessPart):
    """A collection of a service, under a name for people."""

    name: Name
    collection: Annotated[str, Field(pattern=r"^[A-Za-z0-9_~:@-][A-Za-z0-9._~:@-]{0,119}$")]


class KeptSourcePart(SourcePart):
    """The same as it is kept: without its key. wants_key: it has one, which is elsewhere."""

    wants_key: bool = False

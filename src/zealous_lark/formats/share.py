"""What one pilot gives to another: a document, as a file and as codes that a camera reads.

The file is gzip (RFC 1952) around a JSON object. A code is text of the QR code's alphanumeric set, "LARK1:", eight
digits of what the whole is (SHA-256), the code's number and how many there are, and its part of the object, packed by
zlib (RFC 1950), in Base45 (RFC 9285).
"""

from __future__ import annotations

import gzip
import hashlib
import re
import zlib
from collections.abc import Sequence
from dataclasses import dataclass

import base45

from zealous_lark.formats.errors import BadFileError, telling
from zealous_lark.plan import MAX_PLAN_BYTES

MOST_BYTES = MAX_PLAN_BYTES
"""Of a document, unpacked."""
CODE_CHARACTERS = 900
"""A code of so many has 85 squares a side (version 17 of 40, for a clean screen), which a phone's camera reads."""
MOST_CODES = 6
_HEAD = "LARK1:"
_CODE = re.compile(r"LARK1:([0-9A-F]{8}):(\d{1,2})/(\d{1,2}):([0-9A-Z $%*+\-./:]+)")
_ALLOWED = "a file or codes that a Lark made"


def packed(document: bytes) -> bytes:
    """A document as a file; the same bytes for the same document."""
    return gzip.compress(document, 9, mtime=0)


def unpacked(data: bytes) -> bytes:
    """The document in a file. Raises BadFileError, before it takes more room than a document may."""
    with telling("packed data", _ALLOWED):
        stream = zlib.decompressobj(wbits=31)
        found = stream.decompress(data, MOST_BYTES + 1)
        if len(found) > MOST_BYTES:
            raise BadFileError(f"more than {MOST_BYTES:,} bytes in it", _ALLOWED)
        if not stream.eof:
            raise BadFileError("an end that is missing", _ALLOWED)
        return found


def codes(document: bytes) -> list[str]:
    """A document as the texts of codes; none where it takes more than a pilot would hold a phone to."""
    data = zlib.compress(document, 9)
    text = base45.b45encode(data).decode()
    whole = hashlib.sha256(data).hexdigest()[:8].upper()
    count = -(-len(text) // CODE_CHARACTERS)
    if count > MOST_CODES:
        return []
    size = -(-len(text) // count)
    return [f"{_HEAD}{whole}:{n + 1}/{count}:{text[n * size : (n + 1) * size]}" for n in range(count)]


@dataclass(frozen=True, slots=True)
class Joined:
    """What codes came to. document: None while some are missing; missing: their numbers, from 1."""

    document: bytes | None
    missing: tuple[int, ...]
    of: int


def joined(texts: Sequence[str]) -> Joined:
    """The document in codes, in any order, each as often as it was read. Raises BadFileError."""
    parts: dict[int, str] = {}
    wholes, counts = set(), set()
    for text in texts:
        found = _CODE.fullmatch(text.strip("\r\n"))
        if found is None:
            raise BadFileError("a code that is none of Lark's", _ALLOWED)
        whole, number, count = found[1], int(found[2]), int(found[3])
        if not 1 <= number <= count <= MOST_CODES:
            raise BadFileError(f"a code {number} of {count}", _ALLOWED)
        wholes.add(whole)
        counts.add(count)
        parts[number] = found[4]
    if len(wholes) != 1 or len(counts) != 1:
        raise BadFileError("codes of several documents", "codes of one")
    count = counts.pop()
    missing = tuple(n for n in range(1, count + 1) if n not in parts)
    if missing:
        return Joined(None, missing, count)
    with telling("codes", _ALLOWED):
        data = base45.b45decode("".join(parts[n] for n in range(1, count + 1)))
        if hashlib.sha256(data).hexdigest()[:8].upper() != wholes.pop():
            raise BadFileError("codes that do not fit together", _ALLOWED)
        stream = zlib.decompressobj()
        document = stream.decompress(data, MOST_BYTES + 1)
        if len(document) > MOST_BYTES or not stream.eof:
            raise BadFileError("more in it than a document has", _ALLOWED)
    return Joined(document, (), count)


def is_packed(data: bytes) -> bool:
    """Whether bytes are a file of this kind, by how they begin."""
    return data[:2] == b"\x1f\x8b"


def are_codes(data: bytes) -> bool:
    """Whether bytes are the texts of codes, a line each."""
    return data.lstrip().startswith(_HEAD.encode())

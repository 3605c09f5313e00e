"""What no text of a document may hold: it would spoil a file, a terminal or a page that shows it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

UNFIT = re.compile(
    "[\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\x7f-\\x9f\\u202a-\\u202e\\u2066-\\u2069\\ud800-\\udfff\\ufffe\\uffff]"
)
"""Control characters but tab and line ends, marks that turn the direction of all that follows, halves of characters,
and the two that are none."""
_PERHAPS = re.compile(
    r"\\[bf]|\\u(?:00[0189]|007f|202[a-e]|206[6-9]|d[89a-f]|fff[ef])|[\x7f-\x9f\u202a-\u202e\u2066-\u2069\ufffe\uffff]",
    re.IGNORECASE,
)

Location = tuple[int | str, ...]


def unfit_texts(raw: bytes | str) -> list[tuple[Location, str]]:
    """Where in a JSON document a text holds what none may, and which character (as U+0000).

    Nothing for a document that is no JSON: that is said elsewhere. The document is read only if it may hold some.

    >>> unfit_texts('{"title": "bell \\\\u0007"}')
    [(('title',), 'U+0007')]
    """
    text = raw.decode("utf-8", "replace") if isinstance(raw, bytes) else raw
    if not _PERHAPS.search(text):
        return []
    try:
        return list(_within(json.loads(text), ()))
    except (ValueError, RecursionError):
        return []


def _within(value: Any, at: Location) -> Iterator[tuple[Location, str]]:
    if isinstance(value, str):
        if met := UNFIT.search(value):
            yield at, f"U+{ord(met[0]):04X}"
    elif isinstance(value, dict):
        for key, part in value.items():
            yield from _within(key, at)
            yield from _within(part, (*at, key))
    elif isinstance(value, list):
        for number, part in enumerate(value):
            yield from _within(part, (*at, number))

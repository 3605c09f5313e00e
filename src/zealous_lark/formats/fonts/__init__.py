"""Fonts for paper: one that has most scripts, those of East Asia that PDF viewers know, and names for the rest.

DejaVu Sans ships with Lark (its licence lies beside it).
"""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from functools import cache, wraps
from pathlib import Path
from threading import Lock
from typing import ParamSpec, TypeVar
from xml.sax.saxutils import escape

from reportlab.lib.fonts import addMapping
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.cidfonts import UnicodeCIDFont
from reportlab.pdfbase.ttfonts import TTFont

PLAIN, BOLD = "DejaVuSans", "DejaVuSans-Bold"
P = ParamSpec("P")
T = TypeVar("T")
_ONE_DOCUMENT = Lock()
"""A font notes in itself which of its characters a document uses; its library promises nothing of two threads."""
_EAST = {"HANGUL": "HYSMyeongJo-Medium", "HIRAGANA": "HeiseiMin-W3", "KATAKANA": "HeiseiMin-W3", "CJK": "STSong-Light"}


@cache
def _registered() -> frozenset[int]:
    """Register the fonts; the characters that the plain one has."""
    folder = Path(__file__).parent
    for name in (PLAIN, BOLD):
        pdfmetrics.registerFont(TTFont(name, folder / f"{name}.ttf"))
    for bold in (0, 1):
        addMapping(PLAIN, bold, 0, BOLD if bold else PLAIN)
    for name in set(_EAST.values()):
        pdfmetrics.registerFont(UnicodeCIDFont(name))
    return frozenset(pdfmetrics.getFont(PLAIN).face.charToGlyph)


def use_fonts() -> None:
    """Make PLAIN and BOLD known to who writes a PDF."""
    _registered()


def with_fonts(write: Callable[P, T]) -> Callable[P, T]:
    """Let a function write its PDF with PLAIN and BOLD, and no other thread meanwhile."""

    @wraps(write)
    def alone(*args: P.args, **kwargs: P.kwargs) -> T:
        with _ONE_DOCUMENT:
            use_fonts()
            return write(*args, **kwargs)

    return alone


def marked_up(words: str) -> str:
    """Words as a paragraph's markup, each character in a font that has it, or by its name; markup in them is none.

    >>> marked_up("a < b")
    'a &lt; b'
    >>> marked_up("\\N{GRINNING FACE}")
    '[grinning face]'
    """
    return "".join(_one(character) for character in words)


def _one(character: str) -> str:
    if ord(character) in _registered() or character in "\n\t":
        return escape(character)
    name = unicodedata.name(character, "")
    east = next((font for start, font in _EAST.items() if name.startswith(start)), None)
    if east:
        return f'<font name="{east}">{escape(character)}</font>'
    plain = unicodedata.normalize("NFKC", character)
    if plain != character and all(ord(c) in _registered() for c in plain):
        return escape(plain)
    if unicodedata.category(character) in ("Mn", "Me", "Cf"):
        return ""  # what only changes its neighbour
    return f"[{name.lower()}]" if name else f"[U+{ord(character):04X}]"

"""Paragraphs for paper, in every script: those that are written from right to left are joined up and put in order."""

from __future__ import annotations

import unicodedata

from arabic_reshaper import reshape
from bidi import get_display
from reportlab.lib.enums import TA_LEFT, TA_RIGHT
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.utils import simpleSplit
from reportlab.platypus import Paragraph

from zealous_lark.formats.fonts import marked_up

_FROM_THE_RIGHT = ("R", "AL")


def _strong(words: str) -> str | None:
    """The direction of the first letter that has one, which is that of the paragraph (Unicode annex 9, rule P2)."""
    return next((d for d in map(unicodedata.bidirectional, words) if d in ("L", *_FROM_THE_RIGHT)), None)


def lines_shown(words: str, font: str, size: float, width: float) -> list[str]:
    """Words broken into lines of a width, in points of a letter size, each in the order in which it is seen.

    Lines are broken in the order in which the words are read: after reordering, the last would stand first.
    """
    base = "R" if _strong(words) in _FROM_THE_RIGHT else "L"
    return [
        str(get_display(line, base_dir=base))
        for paragraph in reshape(words).split("\n")
        for line in simpleSplit(paragraph, font, size, width) or [""]
    ]


class _Turned(Paragraph):  # type: ignore[misc]  # reportlab has no types
    """A paragraph with words from right to left: it is put in order when its width is known."""

    words: str | None = None

    def wrap(self, width: float, height: float) -> tuple[float, float]:
        """Width and height that it takes [points] in the width that it may have."""
        style = self.style
        if self.words is not None:  # else half of one that was cut at the end of a page
            lines = lines_shown(
                self.words, style.fontName, style.fontSize, width - style.leftIndent - style.rightIndent
            )
            self._setup("<br/>".join(map(marked_up, lines)), style, None, None, lambda text: text)
        taken: tuple[float, float] = super().wrap(width, height)
        return taken


def paragraph(words: str, style: ParagraphStyle, head: str = "") -> Paragraph:
    """Plain words as a paragraph; what looks like markup in them is none. head: what it begins with, bold."""
    whole = f"{head}. {words}" if head else words
    if not any(unicodedata.bidirectional(c) in _FROM_THE_RIGHT for c in whole):
        return Paragraph(f"<b>{marked_up(head)}.</b> {marked_up(words)}" if head else marked_up(words), style)
    side = TA_RIGHT if _strong(whole) in _FROM_THE_RIGHT else TA_LEFT
    turned = _Turned(marked_up(whole), ParagraphStyle("turned", parent=style, alignment=side))
    turned.words = whole
    return turned

"""The pocket card as a PDF of A6 or A4: black on white, to be read at arm's length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from io import BytesIO
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, A6
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, SimpleDocTemplate, Spacer, Table, TableStyle

from zealous_lark.formats.fonts import BOLD, PLAIN, with_fonts
from zealous_lark.formats.paragraphs import paragraph


class Paper(StrEnum):
    A6 = "a6"
    A4 = "a4"


_SIZES = {Paper.A6: (A6, 7.5, 6), Paper.A4: (A4, 12.0, 15)}
"""Page, letter size [pt], margin [mm]."""


@dataclass(frozen=True, slots=True)
class Pocket:
    """What stands on the card, in words. table: its head, then rows of cells."""

    title: str
    about: str
    verdict: str
    settings: tuple[tuple[str, str], ...]
    table_title: str
    table: tuple[tuple[str, ...], ...]
    reach_title: str
    reach: tuple[tuple[str, str], ...]
    ends: tuple[str, ...]
    emergencies: tuple[tuple[str, str], ...]
    authority: str


@with_fonts
def write_pocket(card: Pocket, paper: Paper) -> bytes:
    """The card as a PDF file."""
    size, letter, margin = _SIZES[paper]
    out = BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=size, leftMargin=margin * mm, rightMargin=margin * mm, topMargin=margin * mm,
        bottomMargin=margin * mm, title=card.title, author="Zealous Lark", invariant=1,
    )  # fmt: skip
    plain = ParagraphStyle("plain", fontName=PLAIN, fontSize=letter, leading=letter * 1.22)
    small = ParagraphStyle("small", parent=plain, fontSize=letter * 0.9, leading=letter * 1.1)
    head = ParagraphStyle("head", parent=plain, fontName=BOLD, spaceBefore=letter * 0.5)
    first = ParagraphStyle("first", parent=head, fontSize=letter * 1.5, leading=letter * 1.8)
    width = size[0] - 2 * margin * mm

    def grid(rows: Sequence[Sequence[str]], widths: Sequence[float], *, ruled: bool) -> Table:
        table = Table([[paragraph(c, plain) for c in row] for row in rows], colWidths=[w * width for w in widths])
        style: list[Any] = [
            ("VALIGN", (0, 0), (-1, -1), "MIDDLE"), ("TOPPADDING", (0, 0), (-1, -1), 0.8),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 0.8), ("LEFTPADDING", (0, 0), (-1, -1), 2),
            ("RIGHTPADDING", (0, 0), (-1, -1), 2), ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.black),
        ]  # fmt: skip
        if ruled:
            style += [("BOX", (0, 0), (-1, -1), 0.8, colors.black), ("INNERGRID", (0, 0), (-1, -1), 0.4, colors.black)]
        table.setStyle(TableStyle(style))
        return table

    story: list[Any] = [paragraph(card.title, first), paragraph(card.about, plain), paragraph(card.verdict, head)]
    story += [Spacer(1, letter * 0.3), grid(card.settings, (0.55, 0.45), ruled=False)]
    columns = len(card.table[0])
    widths = [0.24, *[0.76 / (columns - 1)] * (columns - 1)]
    story.append(KeepTogether([paragraph(card.table_title, head), grid(card.table, widths, ruled=True)]))
    if card.reach:
        half = [(*card.reach[i], *card.reach[i + 1]) for i in range(0, len(card.reach), 2)]
        story.append(KeepTogether([paragraph(card.reach_title, head), grid(half, (0.2, 0.3, 0.2, 0.3), ruled=True)]))
    story.append(
        KeepTogether([paragraph("End the flight if", head), *[paragraph(f"• {line}", plain) for line in card.ends]])
    )
    story.append(paragraph("In an emergency", head))
    for name, what in card.emergencies:
        story.append(paragraph(what, small, head=name))
    story += [Spacer(1, letter * 0.5), paragraph(card.authority, small)]
    document.build(story)
    return out.getvalue()

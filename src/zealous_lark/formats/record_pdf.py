"""A record on paper: a title, lines, a table, sections; A4."""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import SimpleDocTemplate, Spacer, Table, TableStyle

from zealous_lark.formats.fonts import BOLD, PLAIN, with_fonts
from zealous_lark.formats.paragraphs import paragraph

_MARGIN = 18 * mm


@dataclass(frozen=True, slots=True)
class Record:
    """What stands on it, in words. table: its head, then rows of three cells."""

    title: str
    lines: tuple[str, ...]
    table: tuple[tuple[str, str, str], ...]
    sections: tuple[tuple[str, tuple[str, ...]], ...]
    ending: str


@with_fonts
def write_record(record: Record) -> bytes:
    """The record as a PDF file."""
    out = BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=A4, leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=_MARGIN, bottomMargin=_MARGIN,
        title=record.title, author="Zealous Lark", invariant=1,
    )  # fmt: skip
    plain = ParagraphStyle("plain", fontName=PLAIN, fontSize=10, leading=12.5)
    head = ParagraphStyle("head", parent=plain, fontName=BOLD, fontSize=12, leading=16, spaceBefore=8)
    first = ParagraphStyle("first", parent=head, fontSize=16, leading=20)
    width = A4[0] - 2 * _MARGIN
    table = Table(
        [[paragraph(c, plain) for c in row] for row in record.table], colWidths=[w * width for w in (0.24, 0.12, 0.64)],
        repeatRows=1,
    )  # fmt: skip
    table.setStyle(
        TableStyle([("VALIGN", (0, 0), (-1, -1), "TOP"), ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.black)])
    )
    story: list[Any] = [paragraph(record.title, first), *(paragraph(line, plain) for line in record.lines)]
    story += [Spacer(1, 8), table]
    for name, lines in record.sections:
        story += [paragraph(name, head), *(paragraph(line, plain) for line in lines)]
    story += [Spacer(1, 10), paragraph(record.ending, plain)]
    document.build(story)
    return out.getvalue()

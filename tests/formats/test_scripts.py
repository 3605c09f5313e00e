"""Texts of every script and what looks like instructions, carried well-formed into all that goes out."""

from __future__ import annotations

import csv
import io
import json
from xml.etree import ElementTree

import icalendar
import pytest
from flask.testing import FlaskClient
from pypdf import PdfReader
from reportlab.lib.pagesizes import A6
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import SimpleDocTemplate

from zealous_lark.formats.fonts import PLAIN, marked_up, use_fonts
from zealous_lark.formats.paragraphs import lines_shown, paragraph

TITLES = {
    "Cyrillic and Greek": "Болото на рассвете, λίμνη",
    "Arabic and Hebrew": "بحيرة, אגם",
    "East Asia": "湖畔 ゆうがた 호수",
    "emoji": "Heron 🐦 at 🌅",
    "combined": "Vo\u0308gel e\u0301te\u0301 👨\u200d👩\u200d👧",
    "markup": "<b>&amp; [red]x[/bold] %s {0}",
    "wide": "W" * 120,
}


@pytest.mark.parametrize("what", TITLES)
def test_a_title_of_any_script_goes_out_whole(demo_client: FlaskClient, what: str) -> None:
    title = TITLES[what]
    opened = demo_client.get("/api/sessions/1").json
    body = {"plan": {**opened["plan"], "title": title}, "revision": opened["revision"]}
    assert demo_client.put("/api/sessions/1", json=body).status_code == 200
    assert json.loads(demo_client.get("/api/sessions/1/plan.json").data)["title"] == title
    for form in ("kml", "gpx"):
        root = ElementTree.fromstring(demo_client.get(f"/api/sessions/1/export.{form}").data)
        assert any(title in (e.text or "") for e in root.iter()), form
    assert json.loads(demo_client.get("/api/sessions/1/export.geojson").data)["name"] == title
    calendar = icalendar.Calendar.from_ical(demo_client.get("/api/sessions/1/calendar.ics").data)
    assert any(title in str(e.get("SUMMARY", "")) + str(e.get("DESCRIPTION", "")) for e in calendar.walk("VEVENT"))
    text = pdf_text(demo_client.get("/api/sessions/1/pocket.pdf?paper=a4").data)
    assert "■" not in text
    for word in {"Cyrillic and Greek": ["Болото", "λίμνη"], "emoji": ["[bird]", "[sunrise]"], "markup": [title]}.get(
        what, []
    ):
        assert word in text


def pdf_text(data: bytes) -> str:
    return " ".join(" ".join(p.extract_text().split()) for p in PdfReader(io.BytesIO(data)).pages)


def test_what_no_font_has_is_named() -> None:
    use_fonts()
    assert marked_up("🐦") == "[bird]"
    assert marked_up("\U000f0000") == "[U+F0000]"
    assert marked_up("Ａ") == "A"
    assert '<font name="STSong-Light">湖</font>' in marked_up("湖畔")


@pytest.mark.parametrize("note", ["=1+1", "  =1+1", "\n@x", "a;=cmd", "a\n+1", "＝1", "\t-2"])
def test_no_cell_of_a_table_runs_in_a_table_program(demo_client: FlaskClient, note: str) -> None:
    flight = demo_client.get("/api/flights").json["flights"][0]
    body = {"entry": {**flight["entry"], "note": note}, "revision": flight["revision"]}
    answer = demo_client.put(f"/api/flights/{flight['uid']}", json=body)
    assert answer.status_code == 200, answer.json
    rows = list(csv.DictReader(io.StringIO(demo_client.get("/api/logbook/export/csv").text, newline="")))
    kept = next(row["note"] for row in rows if note.strip() in row["note"])
    assert kept.startswith("'")


def test_words_from_right_to_left_are_joined_up_and_each_line_is_put_in_order() -> None:
    use_fonts()
    assert lines_shown("שלום עולם 12 m", PLAIN, 10, 500) == ["m 12 םלוע םולש"]
    assert lines_shown("Heron at אגם", PLAIN, 10, 500) == ["Heron at םגא"]
    # Three letters of one word, drawn as beginning, middle and end.
    assert lines_shown("بيت", PLAIN, 10, 500) == ["\ufe96\ufef4\ufe91"]
    first, second = lines_shown("ראשון שני שלישי רביעי", PLAIN, 10, 60)
    assert "ןושאר" in first, "what is read first stands in the first line"
    assert "יעיבר" in second


def test_a_long_note_from_right_to_left_goes_on_over_the_page() -> None:
    use_fonts()
    out = io.BytesIO()
    note = paragraph("הבית הגדול על האגם " * 400, ParagraphStyle("plain", fontName=PLAIN, fontSize=12, leading=15))
    SimpleDocTemplate(out, pagesize=A6).build([note])
    pages = PdfReader(out).pages
    assert len(pages) > 2
    assert sum(page.extract_text().count("לודגה") + page.extract_text().count("הגדול") for page in pages) == 400

"""Texts that would spoil a file, a terminal or a page are refused by name; all others go through."""

from __future__ import annotations

import json
import unicodedata
from typing import Any

import pytest
from flask.testing import FlaskClient
from hypothesis import given
from hypothesis import strategies as st

from tests.cli.test_judging import lark
from zealous_lark import cli
from zealous_lark.plan.texts import unfit_texts

UNFIT = ["a\x00b", "bell \x07", "\x1b[31mred", "turned \u202e round", "held \u2066 apart", "none \ufffe", "half \ud800"]
FIT = [
    "",
    "two\nlines\tand a tab",
    "Łęg, Ōsaka, Дубрава",
    "עמק",
    "heart \u2764\ufe0f",
    "family \U0001f468\u200d\U0001f469",
    "x" * 120,
]


@pytest.mark.parametrize("text", UNFIT, ids=ascii)
def test_an_unfit_text_is_found_wherever_it_stands(text: str) -> None:
    sign = f"U+{max(ord(c) for c in text if not c.isprintable()):04X}"
    for document, at in (({"title": text}, ("title",)), ({"a": [1, {"b": text}]}, ("a", 1, "b")), ({text: 1}, ())):
        assert unfit_texts(json.dumps(document)) == [(at, sign)]
    if text.isprintable() or "\ud800" in text or text < " ":
        return
    if not any(ord(c) < 0x20 for c in text):
        assert unfit_texts(json.dumps({"title": text}, ensure_ascii=False).encode()) == [(("title",), sign)]


@pytest.mark.parametrize("text", FIT, ids=ascii)
def test_a_fit_text_goes_through(text: str) -> None:
    for plain in (True, False):
        assert unfit_texts(json.dumps({"title": text}, ensure_ascii=plain)) == []


@pytest.mark.parametrize("sign", ["\b", "\f"], ids=ascii)
def test_a_short_escape_hides_nothing(sign: str) -> None:
    assert unfit_texts(json.dumps({"title": f"a{sign}"})) == [(("title",), f"U+{ord(sign):04X}")]


@given(st.recursive(st.text() | st.integers(), lambda x: st.lists(x) | st.dictionaries(st.text(), x)))
def test_found_exactly_where_there_is_one(document: Any) -> None:
    unfit = {"Cc", "Cs"}

    def any_unfit(value: Any) -> bool:
        if isinstance(value, str):
            return any(
                (unicodedata.category(c) in unfit and c not in "\t\n\r")
                or c in "\ufffe\uffff\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"
                for c in value
            )
        if isinstance(value, dict):
            return any(any_unfit(k) or any_unfit(v) for k, v in value.items())
        return isinstance(value, list) and any(map(any_unfit, value))

    assert bool(unfit_texts(json.dumps(document))) == any_unfit(document)


@pytest.mark.parametrize("text", UNFIT, ids=ascii)
def test_it_is_refused_by_name_at_every_door(client: FlaskClient, plan_dict: dict[str, Any], text: str) -> None:
    plan_dict["title"] = text
    for address in ("/api/check", "/api/sessions/import"):
        refused = client.post(address, data=json.dumps(plan_dict), content_type="application/json")
        assert refused.status_code == 422
        assert [r["key"] for r in refused.json["refusals"]] == ["title"]
        assert "U+" in refused.json["refusals"][0]["given"]
    assert client.get("/api/sessions").json["total"] == 0
    done = lark("check", "-", given=json.dumps(plan_dict))
    assert done.returncode == 64
    assert "title: a text with U+" in done.stderr


def test_a_title_that_looks_like_markup_is_a_title(plan_dict: dict[str, Any]) -> None:
    """It once ended with the status that means caution, and no verdict."""
    plan_dict["title"] = "[red]x[/bold] [link=http://a]"
    done = lark("check", "-", given=json.dumps(plan_dict))
    assert done.returncode == 1
    assert done.stdout.startswith("[red]x[/bold] [link=http://a]")
    assert "\x1b" not in done.stdout


def test_a_fault_of_larks_own_is_no_verdict(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:

    def broken(**_: object) -> None:
        raise RuntimeError("a nut came loose")

    monkeypatch.setattr(cli, "lark", broken)
    with pytest.raises(SystemExit) as end:
        cli.main()
    assert end.value.code == 70
    assert "a nut came loose" in capsys.readouterr().err

"""Files and codes from one pilot to another: the same out as in, in any order, and nothing that is not one."""

from __future__ import annotations

import gzip
import random
import zlib

import pytest
import segno
from hypothesis import given
from hypothesis import strategies as st

from zealous_lark.formats import share
from zealous_lark.formats.errors import BadFileError


@given(st.binary(max_size=4_000))
def test_out_as_it_went_in(document: bytes) -> None:
    assert share.unpacked(share.packed(document)) == document
    assert share.packed(document) == share.packed(document), "the same file for the same document"
    texts = share.codes(document)
    if texts:
        assert share.joined(texts) == share.Joined(document, (), len(texts))


def noise(size: int) -> bytes:
    return random.Random(3).randbytes(size)


def test_codes_in_any_order_each_as_often_as_it_was_read() -> None:
    document = noise(2_000)
    texts = share.codes(document)
    assert len(texts) == 4
    assert share.joined([texts[2], texts[0]]) == share.Joined(None, (2, 4), 4)
    assert share.joined([*reversed(texts), texts[1]]).document == document


def test_each_code_is_one_that_a_camera_reads_off_a_screen() -> None:
    for text in share.codes(noise(2_500)):
        made = segno.make(text, error="l", boost_error=False)
        assert made.mode == "alphanumeric"
        assert made.version <= 17


def test_too_much_for_codes_makes_none() -> None:
    assert share.codes(noise(6_000)) == []


@pytest.mark.parametrize(
    ("texts", "given_"),
    [
        (["LARK1:0123ABCD:1/1:A*B"], "do not fit together"),
        (["https://example.org"], "none of Lark's"),
        (["LARK1:0123ABCD:3/2:AAA"], "a code 3 of 2"),
        (["LARK1:0123ABCD:1/99:AAA"], "a code 1 of 99"),
        (["LARK1:0123ABCD:1/2:AAA", "LARK1:89ABCDEF:2/2:AAA"], "several documents"),
        (["LARK1:0123ABCD:1/1:::::"], "cannot be read"),
    ],
)
def test_codes_that_are_refused(texts: list[str], given_: str) -> None:
    with pytest.raises(BadFileError, match=given_):
        share.joined(texts)


def test_a_code_that_was_damaged_on_its_way_is_told() -> None:
    (text,) = share.codes(b"a wind of 4 m/s")
    other = text[:-1] + ("A" if text[-1] != "A" else "B")
    with pytest.raises(BadFileError):
        share.joined([other])


def test_a_file_that_would_fill_the_memory_is_refused_before_it_does() -> None:
    bomb = gzip.compress(b"\0" * (share.MOST_BYTES + 2))
    with pytest.raises(BadFileError, match="more than 4,000,000 bytes"):
        share.unpacked(bomb)
    packed = share.packed(noise(500))
    with pytest.raises(BadFileError, match="an end that is missing"):
        share.unpacked(packed[:-9])
    with pytest.raises(BadFileError):
        share.unpacked(b"\x1f\x8b" + zlib.compress(b"{}"))

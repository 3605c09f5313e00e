"""The page of licences names what ships."""

from __future__ import annotations

from tests.licences import PAGE, page


def test_the_page_of_licences_is_todays() -> None:
    assert PAGE.read_text() == page(), "stale: run python -m tests.licences"

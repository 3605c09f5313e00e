"""Every check finds of many whole plans what is written down."""

from __future__ import annotations

import pytest

from tests.plans.written import FOLDER, WRITTEN


@pytest.mark.parametrize("name", WRITTEN)
def test_what_is_found_is_what_is_written_down(name: str) -> None:
    now = "".join(WRITTEN[name]()).splitlines()
    written = (FOLDER / name).read_text().splitlines()
    different = [
        f"{line}: was {a!r}, is {b!r}" for line, (a, b) in enumerate(zip(written, now, strict=False), 1) if a != b
    ]
    assert not different, "\n".join([*different[:10], "If so meant: python -m tests.plans.written"])
    assert len(now) == len(written)

"""The reading of a hand wind meter."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zealous_lark.core.meter import Sample, reading_of

samples = st.lists(st.builds(Sample, st.floats(0, 40), st.floats(0, 359.9)), min_size=1, max_size=30)


def test_across_north_the_mean_is_north() -> None:
    found = reading_of([Sample(4, 350), Sample(6, 350), Sample(4, 10), Sample(6, 10)])
    assert found is not None
    assert (found.speed_ms, found.gust_ms, found.samples) == (5, 6, 4)
    assert found.direction_deg == pytest.approx(0, abs=1e-6)


def test_nothing_said_is_no_reading_and_calm_keeps_the_last_direction() -> None:
    assert reading_of([]) is None
    calm = reading_of([Sample(0, 90), Sample(0, 200)])
    assert calm is not None
    assert calm.direction_deg == 200
    against = reading_of([Sample(3, 90), Sample(3, 270)])
    assert against is not None
    assert against.speed_ms == 3
    assert against.direction_deg == 270


@given(samples)
def test_the_mean_lies_under_the_gust(found: list[Sample]) -> None:
    reading = reading_of(found)
    assert reading is not None
    assert reading.speed_ms <= reading.gust_ms + 1e-9
    assert 0 <= reading.direction_deg < 360


@given(samples, st.floats(0, 360))
def test_turning_everything_turns_the_direction(found: list[Sample], turn: float) -> None:
    a = reading_of(found)
    b = reading_of([Sample(s.speed_ms, (s.direction_deg + turn) % 360) for s in found])
    assert a is not None
    assert b is not None
    assert b.speed_ms == pytest.approx(a.speed_ms)
    if a.speed_ms > 0.1 and len({round(s.direction_deg) for s in found}) == 1:
        assert abs((b.direction_deg - a.direction_deg - turn + 180) % 360 - 180) < 1e-6

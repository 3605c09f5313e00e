"""Forecasts as tables."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_csv import read_forecast_csv

NOW = datetime(2026, 9, 26, 18, tzinfo=UTC)


def test_rows_become_hours_with_levels() -> None:
    read = read_forecast_csv(
        b"time,height_m,speed_kmh,gust_kmh,direction_deg,temperature_f,visibility_km,rain_mmh,kp\n"
        b"2026-09-27T07:00+03:00,100,36,54,250,,,,\n"
        b"2026-09-27T06:00+03:00,10,18,36,240,41,5,0.2,3\n"
        b"\n"
        b"2026-09-27T06:00+03:00,100,28.8,,245,,,,\n",
        "mine.csv",
        NOW,
    )
    assert (read.source, read.issued_at) == ("Table mine.csv", NOW)
    first, second = read.hours
    assert first.at == datetime(2026, 9, 27, 3, tzinfo=UTC)
    low, high = first.winds
    assert (low.height_m, low.direction_deg) == (10, 240)
    assert (low.speed_ms, low.gust_ms) == (pytest.approx(5), pytest.approx(10))
    assert (high.height_m, high.speed_ms, high.gust_ms) == (100, pytest.approx(8), None)
    assert first.temperature_c == pytest.approx(5)
    assert (first.visibility_m, first.rain_mmh, first.kp) == (5000, 0.2, 3)
    assert [w.height_m for w in second.winds] == [100]


def test_semicolons_with_decimal_commas() -> None:
    read = read_forecast_csv("time;temperature_c\n2026-09-27T06:00Z;6,5\n".encode("utf-8-sig"), "x", NOW)
    assert read.hours[0].temperature_c == 6.5


HEAD = b"time,height_m,speed_ms,gust_ms,direction_deg\n"


@pytest.mark.parametrize(
    ("data", "given"),
    [
        (b"time,speed\n", "row 1, column 2: speed"),
        (b"time,time\n", "row 1: time twice"),
        (b"height_m\n10\n", "no column time"),
        (HEAD, "no rows"),
        (HEAD + b"2026-09-27T06:00,10,3,,240\n", "row 2, time: 2026-09-27T06:00"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,240\n2026-09-27T07:00Z,10,abc,,240\n", "row 3, speed_ms: abc"),
        (HEAD + b"2026-09-27T06:00Z,10,-3,,240\n", "row 2, speed_ms: -3"),
        (HEAD + b"2026-09-27T06:00Z,10,nan,,240\n", "row 2, speed_ms: nan"),
        (HEAD + b"2026-09-27T06:00Z,10,3,2,240\n", "row 2: a gust under the mean speed"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,\n", "row 2: a wind speed without direction_deg"),
        (HEAD + b"2026-09-27T06:00Z,10,3,,240,7\n", "row 2: 6 values"),
        (b"\xff\xfe", "bytes after row 0 that are not UTF-8"),
    ],
)
def test_a_fault_is_named_by_row_and_column(data: bytes, given: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read_forecast_csv(data, "x", NOW)
    assert refused.value.given == given

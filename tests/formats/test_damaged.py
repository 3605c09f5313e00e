"""Files as they come from strangers: damaged anywhere, a reader takes them or refuses them by name."""

from __future__ import annotations

import random
from collections.abc import Callable, Generator
from typing import Any

import pytest

from tests.conftest import NOW
from tests.core.postflight.make_tracks import there_and_back
from tests.formats.hostile import COLUMNS, FORECAST, SEEDS, TAF, WAYPOINT, damaged
from tests.formats.test_track_files import as_csv, as_gpx
from tests.make import EXAMPLES, SOME_FILES
from zealous_lark.core.postflight.track import facts_of
from zealous_lark.core.units import METRIC
from zealous_lark.formats import bounded
from zealous_lark.formats.aerodrome import read_taf
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_csv import read_forecast_csv
from zealous_lark.formats.gpx import read_gpx
from zealous_lark.formats.track_files import LONGEST_H, FlownTrack, read_gpx_track, read_table_track
from zealous_lark.plan import PlanRefusedError, judge_plan, read_plan


def whole(reading: Generator[float, None, FlownTrack]) -> FlownTrack:
    """What a reading ends with."""
    while True:
        try:
            next(reading)
        except StopIteration as end:
            found: FlownTrack = end.value
            return found


def track(data: bytes) -> Any:
    return facts_of(whole(read_gpx_track(data)).track)


def forecast(data: bytes) -> Any:
    return read_forecast_csv(data, "a.csv", NOW)


def taf(data: bytes) -> Any:
    return read_taf(data.decode("utf-8", "replace"), NOW)


def table(data: bytes) -> Any:
    return facts_of(whole(read_table_track(data, {name: name for name in COLUMNS})).track)


@pytest.mark.parametrize("what", SEEDS)
def test_damage_is_taken_or_refused_by_name(what: str, caplog: pytest.LogCaptureFixture) -> None:
    """In the reader's own process, as the application reads: a reader that breaks on a file says so in the log."""
    data, reader = SEEDS[what]
    read, given = reader(data)
    bounded.read(bounded.OF_A_FLIGHT, read, *given)
    rng = random.Random(f"{what} {SOME_FILES}")
    refused = 0
    for _ in range(SOME_FILES):
        read, given = reader(damaged(data, rng))
        try:
            taken = bounded.read(bounded.OF_A_FLIGHT, read, *given)
            if isinstance(taken, FlownTrack):
                facts_of(taken.track)
        except BadFileError as error:
            refused += 1
            said = f"{error.given}|{error.allowed}"
            if len(said) < 4 or "|" not in said.strip("|"):
                pytest.fail(f"a refusal that says nothing: {said}")
    # What another thread of this process has to say is not about the file.
    assert [r.getMessage() for r in caplog.records if r.name.startswith("zealous_lark")] == []
    assert refused > 0


def test_a_damaged_plan_is_judged_or_refused_by_name() -> None:
    data = (EXAMPLES / "example-plan.json").read_bytes()
    rng = random.Random("plan")
    refused = 0
    for _ in range(60):
        try:
            judge_plan(read_plan(damaged(data, rng)), METRIC)
        except PlanRefusedError as error:
            refused += 1
            if not all(r.key and r.allowed for r in error.refusals):
                pytest.fail(f"a refusal that says nothing: {error.refusals}")
    assert refused > 20


def test_a_time_long_ago_among_the_points_is_named_and_fills_no_memory() -> None:
    """A receiver without a fix begins at a day of its own; the years between must not be walked through."""
    data = as_gpx(there_and_back(), NOW)
    first = data.index(b"<time>") + len(b"<time>")
    old = data[:first] + b"1980-01-06" + data[first + 10 :]
    with pytest.raises(BadFileError) as refused:
        whole(read_gpx_track(old))
    assert "hours" in refused.value.given
    assert f"{LONGEST_H:.0f} hours at most" in refused.value.allowed

    rows = as_csv(there_and_back(), COLUMNS).split(b"\n")
    rows[-2] = b"1e15," + rows[-2].split(b",", 1)[1]
    with pytest.raises(BadFileError, match=r"hours|the time"):
        table(b"\n".join(rows))


@pytest.mark.parametrize(
    ("data", "read", "says"),
    [
        (WAYPOINT.replace(b'"1.0"?>', b'"1.0" encoding="WTF-8"?>'), read_gpx, "cannot be read"),
        (b'<?xml version="1.0" encoding="WTF-8"?><gpx></gpx>', track, "cannot be read"),
        (b"time,latitude,longitude,height,charge\n1,58.6,\x0025,3,90\n", table, "row 2"),
        (b"time,latitude,longitude,height,charge\n1,58.6," + b"9" * 200_000, table, "row"),
        (FORECAST.replace(b"10,3,240", b'10,"' + b"3" * 140_000), forecast, "row"),
        (TAF.replace(b"BECMG 2612/2614", b"BECMG"), taf, "without its hours"),
    ],
)
def test_each_oddity_that_once_broke_a_reader(data: bytes, read: Callable[[bytes], Any], says: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read(data)
    assert says in refused.value.given


def test_a_table_with_the_line_ends_of_another_age_is_read() -> None:
    data = as_csv(there_and_back(), COLUMNS)
    assert table(data.replace(b"\n", b"\r\n")) == table(data)

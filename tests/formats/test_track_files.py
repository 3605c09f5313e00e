"""Tracks from GPX and tables: round trips, what is refused with its place, and tricks."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import gpxpy
import gpxpy.gpx
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.postflight.make_tracks import there_and_back
from zealous_lark.core.postflight.track import Track
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.track_files import (
    FlownTrack,
    read_gpx_track,
    read_table_head,
    read_table_track,
    whole,
)

BEGUN = datetime(2026, 9, 27, 4, 40, tzinfo=UTC)
NAMES = ("time", "latitude", "longitude", "height", "charge")


def as_gpx(track: Track, begun: datetime = BEGUN) -> bytes:
    """A track as the independent library writes it, with Lark's charge beside it."""
    document = gpxpy.gpx.GPX()
    segment = gpxpy.gpx.GPXTrackSegment()
    for t, lat, lon, h in zip(track.time_s, track.latitude, track.longitude, track.height_m, strict=True):
        when = begun + timedelta(seconds=float(t))
        segment.points.append(gpxpy.gpx.GPXTrackPoint(lat, lon, elevation=None if np.isnan(h) else 42 + h, time=when))
    document.tracks.append(gpxpy.gpx.GPXTrack(name="evening"))
    document.tracks[0].segments.append(segment)
    return document.to_xml(version="1.1").encode()


def as_csv(track: Track, names: tuple[str, ...] = NAMES, mark: str = ",") -> bytes:
    columns = (track.time_s, track.latitude, track.longitude, track.height_m, track.charge_pct)
    rows = [mark.join(names)]
    rows += [mark.join(f"{v:.7f}" for v in row) for row in zip(*columns, strict=True)]
    return "\n".join(rows).encode()


def same(found: FlownTrack, track: Track) -> None:
    np.testing.assert_allclose(found.track.time_s, track.time_s, atol=1e-3)
    np.testing.assert_allclose(found.track.latitude, track.latitude, atol=1e-6)
    np.testing.assert_allclose(found.track.longitude, track.longitude, atol=1e-6)
    np.testing.assert_allclose(found.track.height_m, track.height_m, atol=1e-6)


def test_gpx_as_an_independent_library_writes_it() -> None:
    seen: list[float] = []
    found = whole(read_gpx_track(as_gpx(there_and_back())), seen.append)
    same(found, there_and_back())
    assert found.started_at == BEGUN
    assert found.name == "evening"
    assert seen == sorted(seen)
    assert seen[-1] == 1


def test_a_charge_in_the_extensions_and_points_out_of_order() -> None:
    points = [
        f'<trkpt lat="58.62" lon="25.00{80 + i}"><time>2026-09-27T06:00:{i:02d}Z</time>'
        f"<extensions><charge_pct>{98 - i}</charge_pct></extensions></trkpt>"
        for i in (*range(11, -1, -1), 3)
    ]
    text = '<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>'
    found = whole(read_gpx_track((text + "".join(points) + "</trkseg></trk></gpx>").encode()))
    assert found.track.time_s.tolist() == list(range(12))
    assert found.track.charge_pct.tolist() == [98 - i for i in range(12)]


@pytest.mark.parametrize("mark", [",", ";", "\t"])
def test_a_table(mark: str) -> None:
    data = as_csv(there_and_back(), mark=mark)
    head = read_table_head(data)
    assert head.guess == {n: n for n in NAMES}
    found = whole(read_table_track(data, head.guess))
    same(found, there_and_back())
    assert found.started_at is None
    np.testing.assert_allclose(found.track.charge_pct, there_and_back().charge_pct, atol=1e-6)


def test_times_of_day_milliseconds_and_feet() -> None:
    rows = ["time_ms,lat,lon,altitude_ft"]
    rows += [f"{int((BEGUN.timestamp() + i) * 1000)},58.62,25.00{80 + i},{i / 0.3048:.4f}" for i in range(12)]
    data = "\n".join(rows).encode()
    found = whole(read_table_track(data, read_table_head(data).guess))
    assert found.started_at == BEGUN
    np.testing.assert_allclose(found.track.height_m, np.arange(12), atol=1e-3)
    rows = ["datetime,lat,lon"] + [f"2026-09-27T07:40:{i:02d}+03:00,58.62,25.00{80 + i}" for i in range(12)]
    data = "\n".join(rows).encode()
    assert whole(read_table_track(data, read_table_head(data).guess)).started_at == BEGUN


GOOD = as_csv(there_and_back()).decode().splitlines()


@pytest.mark.parametrize(
    ("data", "given"),
    [
        ("\n".join([*GOOD[:20], "20,north,25.08,3,90"]), "row 21, latitude: 'north'"),
        ("\n".join([*GOOD[:20], "20,158.6,25.08,3,90"]), "row 21 at 158.6"),
        ("\n".join([*GOOD[:20], "20,58.6"]), "row 21 with 2 columns"),
        ("\n".join([*GOOD[:20], "20,58.6,25.08,3,190"]), "a charge of 190"),
        ("\n".join(GOOD[:5]), "4 points with a time"),
        ("\n".join([GOOD[0], *[GOOD[5]] * 20]), "all have the same time"),
        ("time,time,lat,lon\n1,2,3,4", "two columns of the same name"),
        ("time,lat\n1,2", "a table of 2 columns"),
    ],
)
def test_what_is_wrong_with_a_table_is_named(data: str, given: str) -> None:
    columns = {n: n for n in NAMES}
    with pytest.raises(BadFileError) as refused:
        whole(read_table_track(data.encode(), columns))
    assert given in refused.value.given


@pytest.mark.parametrize(
    ("data", "given"),
    [
        (b"<gpx><trk>", "cannot be read"),
        (b"<kml></kml>", "begins with <kml>"),
        (b"<gpx></gpx>", "0 points"),
        (b'<gpx><trk><trkseg><trkpt lat="x" lon="2"/></trkseg></trk></gpx>', "without lat and lon"),
        (b'<gpx><trk><trkseg><trkpt lat="95" lon="2"/></trkseg></trk></gpx>', "at (95.0, 2.0)"),
        (b'<gpx><trk><trkseg><trkpt lat="5" lon="2"><time>noon</time></trkpt></trkseg></trk></gpx>', "'noon'"),
        (b'<gpx><trk><trkseg><trkpt lat="5" lon="2"/></trkseg></trk></gpx>', "1 points without a time"),
        (b'<!DOCTYPE gpx [<!ENTITY a "b">]><gpx>&a;</gpx>', "document type"),
        (b'<!DOCTYPE gpx SYSTEM "file:///etc/passwd"><gpx/>', "document type"),
    ],
)
def test_what_is_wrong_with_gpx_is_named(data: bytes, given: str) -> None:
    with pytest.raises(BadFileError) as refused:
        whole(read_gpx_track(data))
    assert given in refused.value.given


WHOLE = as_gpx(there_and_back())


@given(st.integers(0, len(WHOLE) - 1), st.integers(0, 255))
def test_a_damaged_file_is_read_or_refused_and_nothing_else(at: int, byte: int) -> None:
    spoiled = WHOLE[:at] + bytes([byte]) + WHOLE[at + 1 :]
    for data in (spoiled, WHOLE[:at]):
        try:
            found = whole(read_gpx_track(data))
        except BadFileError:
            continue
        assert len(found.track.time_s) >= 10

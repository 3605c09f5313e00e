"""Files as they come from strangers: damaged anywhere, a reader takes them or refuses them by name."""

from __future__ import annotations

import random
from collections.abc import Callable, Generator
from typing import Any

import pytest

from tests.conftest import NOW
from tests.core.postflight.make_tracks import there_and_back
from tests.formats.test_track_files import as_csv, as_gpx
from tests.make import EXAMPLES
from zealous_lark.core.postflight.track import facts_of
from zealous_lark.core.units import METRIC
from zealous_lark.formats.aerodrome import read_metar, read_taf
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.forecast_csv import read_forecast_csv
from zealous_lark.formats.geojson import read_features
from zealous_lark.formats.gpx import read_gpx
from zealous_lark.formats.track_files import LONGEST_H, FlownTrack, read_gpx_track, read_table_track
from zealous_lark.formats.zones import read_zones
from zealous_lark.plan import PlanRefusedError, judge_plan, read_plan

COLUMNS = ("time", "latitude", "longitude", "height", "charge")
METAR = b"METAR ZZZZ 260450Z 24006G12MPS 200V280 9999 -RADZ BKN012 OVC030CB M06/M08 Q1018 BECMG 27010KT TEMPO 2000 SN"
TAF = (
    b"TAF AMD ZZZZ 260430Z 2605/2614 24012G22KT 9999 BKN025 FM260900 27015G28KT "
    b"PROB30 TEMPO 2609/2611 1500 +SHRA BECMG 2612/2614 18005KT"
)
FORECAST = (
    b"time,height_m,speed_ms,direction_deg,gust_ms,temperature_c\n"
    b"2026-09-27T05:00Z,10,3,240,5,6\n2026-09-27T06:00Z,10,4,250,6,7\n2026-09-27T06:00Z,80,6,250,9,7\n"
)
FEATURES = (
    b'{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"name":"a","height_m":3},'
    b'"geometry":{"type":"Polygon","coordinates":[[[25,58],[25.1,58],[25.1,58.1],[25,58]]]}}]}'
)
WAYPOINT = (
    b'<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">'
    b'<wpt lat="58.6" lon="25.0"><name>a</name></wpt></gpx>'
)


def whole(reading: Generator[float, None, FlownTrack]) -> FlownTrack:
    """What a reading ends with."""
    while True:
        try:
            next(reading)
        except StopIteration as end:
            found: FlownTrack = end.value
            return found


def shortened(data: bytes, upto: int, after: bytes, tail: bytes) -> bytes:
    return data[:upto].rsplit(after, 1)[0] + tail


def track(data: bytes) -> Any:
    return facts_of(whole(read_gpx_track(data)).track)


def table(data: bytes) -> Any:
    return facts_of(whole(read_table_track(data, {name: name for name in COLUMNS})).track)


READERS: dict[str, tuple[bytes, Callable[[bytes], Any]]] = {
    "metar": (METAR, lambda data: read_metar(data.decode("utf-8", "replace"), NOW)),
    "taf": (TAF, lambda data: read_taf(data.decode("utf-8", "replace"), NOW)),
    "forecast": (FORECAST, lambda data: read_forecast_csv(data, "a.csv", NOW)),
    "gpx track": (shortened(as_gpx(there_and_back(), NOW), 9_000, b"<trkpt", b"</trkseg></trk></gpx>"), track),
    "table": (shortened(as_csv(there_and_back(), COLUMNS), 4_000, b"\n", b""), table),
    "zones": ((EXAMPLES / "sarvik-zones.json").read_bytes(), lambda data: read_zones(data, "z.json")),
    "features": (FEATURES, read_features),
    "waypoints": (WAYPOINT, read_gpx),
    "plan": ((EXAMPLES / "example-plan.json").read_bytes(), lambda data: judge_plan(read_plan(data), METRIC)),
}
ODD = (
    b"", b"0", b"-", b"9999999", b"1e400", b"NaN", b"null", b"\x00", b"/", b",", b"\xff", b" ", b"{}", b"[]", b'""',
    b"T", b"Z", b"KT", b"\r", b"\n",
)  # fmt: skip


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Turned bits, bytes lost, odd ones put in, pieces doubled."""
    raw = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 4))):
        at, kind = rng.randrange(len(raw)), rng.random()
        if kind < 0.35:
            raw[at] ^= 1 << rng.randrange(8)
        elif kind < 0.6:
            del raw[at : at + rng.randrange(1, 9)]
        elif kind < 0.9:
            raw[at : at + rng.randrange(6)] = rng.choice(ODD)
        else:
            raw[at:at] = raw[at : at + rng.randrange(1, 40)]
    return bytes(raw)


@pytest.mark.parametrize("what", READERS)
def test_damage_is_taken_or_refused_by_name(what: str) -> None:
    data, read = READERS[what]
    read(data)
    rng = random.Random(what)
    refused = 0
    for _ in range(60 if what == "plan" else 400):
        try:
            read(damaged(data, rng))
        except BadFileError as error:
            refused += 1
            said = f"{error.given}|{error.allowed}"
            if len(said) < 4 or "|" not in said.strip("|"):
                pytest.fail(f"a refusal that says nothing: {said}")
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
    with pytest.raises(BadFileError, match="hours"):
        table(b"\n".join(rows))


@pytest.mark.parametrize(
    ("data", "read", "says"),
    [
        (WAYPOINT.replace(b'"1.0"?>', b'"1.0" encoding="WTF-8"?>'), read_gpx, "cannot be read"),
        (b'<?xml version="1.0" encoding="WTF-8"?><gpx></gpx>', track, "cannot be read"),
        (b"time,latitude,longitude,height,charge\n1,58.6,\x0025,3,90\n", table, "row 2"),
        (b"time,latitude,longitude,height,charge\n1,58.6," + b"9" * 200_000, table, "row"),
        (FORECAST.replace(b"10,3,240", b'10,"' + b"3" * 140_000), READERS["forecast"][1], "row"),
        (TAF.replace(b"BECMG 2612/2614", b"BECMG"), READERS["taf"][1], "without its hours"),
    ],
)
def test_each_oddity_that_once_broke_a_reader(data: bytes, read: Callable[[bytes], Any], says: str) -> None:
    with pytest.raises(BadFileError) as refused:
        read(data)
    assert says in refused.value.given


def test_a_table_with_the_line_ends_of_another_age_is_read() -> None:
    data = as_csv(there_and_back(), COLUMNS)
    assert table(data.replace(b"\n", b"\r\n")) == table(data)

"""Tracks going out: heights above sea level, charge, times with zones, and the antimeridian, read by others."""

from __future__ import annotations

import json
import math
from datetime import UTC, datetime, timedelta, timezone
from itertools import pairwise
from typing import Any
from xml.etree import ElementTree

import gpxpy
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import shape

from tests.core.postflight.make_tracks import there_and_back
from zealous_lark.formats.features import Exported, FlownLine, Item, cut
from zealous_lark.formats.geojson import write_geojson
from zealous_lark.formats.gpx import write_gpx
from zealous_lark.formats.kml import write_kml
from zealous_lark.formats.track_files import read_gpx_track, whole

BEGUN = datetime(2026, 9, 27, 7, 40, tzinfo=timezone(timedelta(hours=3)))
KML = "{http://www.opengis.net/kml/2.2}"
NAN = math.nan


def exported(line: list[list[float]], elevation_m: float | None, **known: Any) -> Exported:
    n = len(line)
    times = tuple(BEGUN + timedelta(seconds=i) for i in range(n))
    flown = FlownLine(
        times, known.get("height_m", (40.0,) * n), known.get("charge_pct", (NAN,) * n), elevation_m
    )  # fmt: skip
    return Exported("Logbook", (Item("evening", "LineString", line, {"lark_type": "track"}, flown=flown),))


def of_track(elevation_m: float | None) -> Exported:
    track = there_and_back()
    line = [[lon, lat] for lat, lon in zip(track.latitude.tolist(), track.longitude.tolist(), strict=True)]
    return exported(
        line, elevation_m, height_m=tuple(track.height_m.tolist()), charge_pct=tuple(track.charge_pct.tolist())
    )


@pytest.mark.parametrize("elevation", [None, 42.0, -3.0])
def test_a_track_comes_back_through_gpx_with_its_charge(elevation: float | None) -> None:
    data = write_gpx(of_track(elevation))
    found, true = whole(read_gpx_track(data)), there_and_back()
    assert found.track.height_m == pytest.approx(true.height_m, abs=0.06)
    assert found.track.charge_pct == pytest.approx(true.charge_pct, abs=0.06)
    assert found.track.latitude == pytest.approx(true.latitude, abs=1e-7)
    assert found.started_at == BEGUN
    read = gpxpy.parse(data.decode()).tracks[0].segments[0].points
    heights = [p.elevation for p in read]
    assert heights == ([None] * len(read) if elevation is None else pytest.approx(true.height_m + elevation, abs=0.06))
    assert read[0].time == BEGUN.astimezone(UTC)


@pytest.mark.parametrize(("elevation", "mode", "height"), [(42.0, "absolute", 82), (None, "relativeToGround", 40)])
def test_kml_says_what_its_heights_are_above_and_from_when_to_when(
    elevation: float | None, mode: str, height: float
) -> None:
    root = ElementTree.fromstring(write_kml(exported([[25.0, 58.0], [25.1, 58.0]], elevation)))
    assert root.findtext(f".//{KML}LineString/{KML}altitudeMode") == mode
    assert root.findtext(f".//{KML}coordinates") == f"25.0,58.0,{height:.1f} 25.1,58.0,{height:.1f}"
    begin, end = (root.findtext(f".//{KML}TimeSpan/{KML}{part}") or "" for part in ("begin", "end"))
    assert (begin, end) == ("2026-09-27T07:40:00+03:00", "2026-09-27T07:40:01+03:00")


def test_geojson_has_heights_above_sea_level_times_and_charge() -> None:
    document = json.loads(write_geojson(of_track(42.0)))
    (feature,) = document["features"]
    points, known = feature["geometry"]["coordinates"], feature["properties"]
    true = there_and_back()
    assert [p[2] for p in points] == pytest.approx(true.height_m + 42, abs=0.06)
    assert known["times"][0] == "2026-09-27T07:40:00+03:00"
    assert known["charge_pct"] == pytest.approx(true.charge_pct, abs=0.06)
    assert document["bbox"] == pytest.approx(shape(feature["geometry"]).bounds, abs=1e-9)
    (unknown,) = json.loads(write_geojson(of_track(None)))["features"]
    assert {len(p) for p in unknown["geometry"]["coordinates"]} == {2}
    assert unknown["properties"]["heights_above_takeoff_m"] == pytest.approx(true.height_m, abs=0.06)


@pytest.mark.parametrize("write", [write_geojson, write_kml, write_gpx])
def test_a_line_over_the_antimeridian_goes_nowhere_round_the_world(write: Any) -> None:
    line = [[179.998, -17.0], [179.9995, -17.001], [-179.9995, -17.002], [-179.998, -17.003]]
    data = write(exported(line, 5.0))
    if write is write_geojson:
        document = json.loads(data)
        pieces = document["features"][0]["geometry"]["coordinates"]
        assert document["bbox"] == pytest.approx([179.998, -17.003, -179.998, -17.0])
    elif write is write_kml:
        pieces = [
            [[float(n) for n in p.split(",")] for p in (e.text or "").split()]
            for e in ElementTree.fromstring(data).iter(f"{KML}coordinates")
        ]
    else:
        # A row of points is cut by whoever draws it: all four are there, and come back.
        track = gpxpy.parse(data.decode()).tracks[0].segments[0].points
        assert [[p.longitude, p.latitude] for p in track] == line
        return
    assert [len(p) for p in pieces] == [3, 3]
    assert pieces[0][-1][:2] == pytest.approx([180.0, -17.0015])
    assert pieces[1][0][:2] == pytest.approx([-180.0, -17.0015])


@given(st.lists(st.floats(-0.01, 0.01), min_size=2, max_size=12), st.floats(-180, 180))
def test_no_piece_of_a_cut_line_is_long(steps: list[float], begin: float) -> None:
    line, lon = [], begin
    for step in steps:
        lon = (lon + step + 180) % 360 - 180
        line.append([lon, 10.0])
    pieces = cut(line)
    assert all(abs(b[0] - a[0]) <= 0.011 for _, p in pieces for a, b in pairwise(p))
    assert [p for _, piece in pieces for p in piece if abs(p[0]) < 180] == [p for p in line if abs(p[0]) < 180]

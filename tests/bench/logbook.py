"""A logbook of ten thousand flights, and a track of a hundred thousand points."""

from __future__ import annotations

import statistics
import sys
import tempfile
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import gpxpy
import numpy as np

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.postflight.track import drawn, facts_of
from zealous_lark.formats.track_files import read_gpx_track, whole
from zealous_lark.plan.flight import FlightEntry
from zealous_lark.services import logbook
from zealous_lark.services.flights import Flight, listed, stored_flight
from zealous_lark.store import Database, flights
from zealous_lark.store.flights import Filter

Timed = Callable[[Callable[[], object]], float]
FLIGHTS, POINTS = 10_000, 100_000
NOW = datetime(2026, 9, 26, 18, 0, tzinfo=UTC)


def _fill(db: Database) -> None:
    rng = np.random.default_rng(3)
    with db.transaction() as s:
        for n in range(FLIGHTS):
            left = float(round(rng.uniform(30, 60)))
            entry = FlightEntry(
                started_at=NOW - timedelta(hours=4 * n),
                place=f"Place {n % 40}",
                aircraft=("Dunlin", "Plover")[n % 2],
                pack="ABCD"[n % 4],
                seconds=float(round(rng.uniform(500, 1100))),
                charge_from_pct=100.0,
                charge_to_pct=left,
                predicted_to_pct=left + 3,
                wind_predicted_ms=round(rng.uniform(0, 8), 1),
                note="heron" if n % 97 == 0 else "",
            )
            flights.add(
                s, stored_flight(Flight(f"f{n}", None, None, True, None, entry, None, None, 1)), listed(entry), NOW
            )


def _gpx() -> bytes:
    angle = np.arange(POINTS) / 500
    lat, lon = Frame(58.62, 25.08).to_geographic(300 * np.sin(angle), 200 * np.cos(angle))
    rows = [
        f'<trkpt lat="{a:.7f}" lon="{o:.7f}"><ele>{40 + n % 30}</ele>'
        f"<time>{(NOW + timedelta(milliseconds=100 * n)).isoformat()}</time></trkpt>"
        for n, (a, o) in enumerate(zip(lat, lon, strict=True))
    ]
    head = '<gpx version="1.1" creator="bench" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>'
    return (head + "".join(rows) + "</trkseg></trk></gpx>").encode()


def figures(timed: Timed) -> None:
    """Print the figures."""
    out = sys.stdout.write
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        _fill(db)
        work: dict[str, Callable[[], object]] = {
            "first page of 10,000 flights, with totals": lambda: logbook.page(db, Filter()),
            "page 150 of them": lambda: logbook.page(db, Filter(), 150),
            "words looked for in all of them": lambda: logbook.page(db, Filter(text="heron")),
            "sums by month and pack, 2,000 points for charts": lambda: logbook.summary(db, Filter(), NOW),
        }
        medians = {}
        for name, one in work.items():
            one()
            medians[name] = statistics.median([timed(one) for _ in range(15)])
            out(f"{name:<58} median {medians[name]:7.2f} ms\n")

        def one_by_one() -> object:
            """The whole logbook read and summed in Python, as without sums in the database."""
            with db.transaction() as s:
                found = [FlightEntry.model_validate_json(f.document) for f in flights.search(s, Filter(), size=None)]
            return sum(e.seconds or 0 for e in found), found[:50]

        plain = statistics.median([timed(one_by_one) for _ in range(5)])
        out(f"{'all of them read, summed in Python':<58} median {plain:7.2f} ms\n")
        out(f"all in Python over the first page {plain / medians['first page of 10,000 flights, with totals']:.0f}\n")
        db.close()
    data = _gpx()

    def ours() -> object:
        track = whole(read_gpx_track(data)).track
        return facts_of(track), drawn(track)

    pairs = [(timed(ours), timed(lambda: gpxpy.parse(data.decode()))) for _ in range(3)]
    one, other = (statistics.median(column) for column in zip(*pairs, strict=True))
    out(f"{'track of 100,000 points: read, judged, thinned':<58} median {one:7.0f} ms\n")
    out(f"{'the same file, gpxpy.parse alone':<58} median {other:7.0f} ms\n")
    out(f"gpxpy over Lark {other / one:.1f}\n")

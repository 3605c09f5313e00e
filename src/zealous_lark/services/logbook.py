"""The logbook: what was flown, looked for, summed, corrected with its history, and out as files."""

from __future__ import annotations

import csv
import io
import re
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.flight.clock import band_of
from zealous_lark.core.practice.drills import BY_KEY
from zealous_lark.formats.features import Exported, FlownLine, Item
from zealous_lark.formats.geojson import write_geojson
from zealous_lark.formats.gpx import write_gpx
from zealous_lark.formats.kml import write_kml
from zealous_lark.plan.flight import EventPart, FlightEntry
from zealous_lark.services import drilling, kit, minimums
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.flights import Flight, events_of, flight_of, listed, open_flight, stored_flight
from zealous_lark.services.local_time import local
from zealous_lark.services.tracks import points_of
from zealous_lark.store import Database, flights, tracks
from zealous_lark.store.flights import Filter, Point, Sum

CHART_POINTS = 2_000
MANUAL_RETURN = BY_KEY["manual_return"]
RUSTY_AFTER = timedelta(days=30)


@dataclass(frozen=True, slots=True)
class Page:
    """A page of the logbook, with what the whole of it comes to."""

    flights: tuple[Flight, ...]
    with_track: frozenset[str]
    page: int
    pages: int
    total: Sum


@dataclass(frozen=True, slots=True)
class Currency:
    """When the last flight was, and the last that came home by hand; in words what follows from it."""

    last_flight: datetime | None
    last_manual_return: datetime | None
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Summary:
    """Sums by month and pack, points for the charts, names to filter by, currency.

    band: of spent against planned charge that nine flights in ten lie in by the pilot's own spreads, as
    planned, least and most spent [points].
    """

    months: tuple[Sum, ...]
    packs: tuple[Sum, ...]
    points: tuple[Point, ...]
    names: dict[str, list[str]]
    currency: Currency
    band: tuple[tuple[float, float, float], ...]


@dataclass(frozen=True, slots=True)
class Past:
    """What an entry said before it was changed."""

    edited_at: datetime
    before: FlightEntry


@dataclass(frozen=True, slots=True)
class Opened:
    """A flight with everything that is known of it."""

    flight: Flight
    events: tuple[EventPart, ...]
    history: tuple[Past, ...]


def page(db: Database, f: Filter, number: int = 1) -> Page:
    """A page of what a filter lets through, the latest first."""
    with db.transaction() as s:
        total = flights.total(s, f)
        found = [flight_of(x) for x in flights.search(s, f, number)]
        drawn = tracks.of_flights(s, [x.uid for x in found])
    pages = max(-(-total.flights // flights.PAGE), 1)
    return Page(tuple(found), frozenset(drawn), number, pages, total)


def summary(db: Database, f: Filter, now: datetime) -> Summary:
    """Sums and points of what a filter lets through; names and currency of the whole logbook."""
    m = minimums.current(db).minimums
    by_hand = max((d.at for d in drilling.done(db) if d.drill == MANUAL_RETURN.key and d.well), default=None)
    with db.transaction() as s:
        last = flights.latest(s)
        return Summary(
            months=tuple(flights.by_month(s, f)),
            packs=tuple(flights.by_pack(s, f)),
            points=tuple(flights.points(s, f, CHART_POINTS)),
            names=flights.names(s),
            currency=Currency(last, by_hand, _words(last, by_hand, now)),
            band=tuple(
                (planned, *band_of(planned, m.consumption_spread_pct / 100, m.charge_spread_points))
                for planned in range(0, 101, 5)
            ),
        )


def _words(last: datetime | None, by_hand: datetime | None, now: datetime) -> tuple[str, ...]:
    if last is None:
        return ()
    found = []
    if now - last > RUSTY_AFTER:
        found.append(f"Last flight {(now - last).days} days ago: start with something easy, low and close.")
    if by_hand is None:
        found.append("No manual return in the logbook yet: practise one while the return to home works.")
    elif by_hand + timedelta(days=MANUAL_RETURN.every_days) < now:
        found.append(f"The last manual return was {(now - by_hand).days} days ago: time to practise one.")
    return tuple(found)


def opened(db: Database, uid: str) -> Opened:
    """A flight with its events and its history. Raises NotHereError."""
    flight = open_flight(db, uid)
    with db.transaction() as s:
        past = tuple(Past(e.edited_at, FlightEntry.model_validate_json(e.before)) for e in flights.edits(s, uid))
    e = flight.entry
    events = (x.model_copy(update={"at": local(x.at, e.latitude, e.longitude)}) for x in events_of(db, uid))
    return Opened(flight, tuple(events), past)


def add(db: Database, entry: FlightEntry, now: datetime) -> Flight:
    """A flight that was flown without Lark, entered by hand. Raises NotAllowedError for one that is still to come."""
    if entry.started_at > now + timedelta(minutes=5):
        raise NotAllowedError("entry.started_at", entry.started_at.isoformat(), "a time that is not in the future")
    entry = _of_the_kit(db, entry, None)
    made = Flight(str(uuid.uuid4()), None, None, True, None, entry, None, None, 1)
    with db.transaction() as s:
        return flight_of(flights.add(s, stored_flight(made), listed(entry), now))


def _of_the_kit(db: Database, entry: FlightEntry, before: FlightEntry | None) -> FlightEntry:
    """An entry with the kit's numbers of what it names: those it had while the names stay, else by the names."""
    aircraft, pack = kit.numbers_of(db, entry.aircraft, entry.pack)
    if before is not None and entry.aircraft == before.aircraft:
        aircraft = before.aircraft_kit
    if before is not None and entry.pack == before.pack:
        pack = before.pack_kit
    return entry.model_copy(update={"aircraft_kit": aircraft, "pack_kit": pack})


def edit(db: Database, uid: str, entry: FlightEntry, revision: int, now: datetime) -> Flight:
    """Correct an entry; what it said is kept. Raises NotHereError, RevisionConflictError."""
    with db.transaction() as s:
        entry = _of_the_kit(db, entry, open_flight(db, uid).entry)
        done = flights.edit(s, uid, entry.model_dump_json(), listed(entry), revision, now)
    if done is None:
        raise NotHereError(f"there is no flight {uid}; it may have been deleted")
    return flight_of(done)


def set_deleted(db: Database, uid: str, when: datetime | None) -> None:
    """Take a flight off the logbook, or bring it back with None. Raises NotHereError."""
    with db.transaction() as s:
        if not flights.set_deleted(s, uid, when):
            raise NotHereError(f"there is no such flight {uid} to {'bring back' if when is None else 'delete'}")


CSV_COLUMNS = (
    "started_at", "place", "aircraft", "pack", "latitude", "longitude", "seconds", "charge_from_pct", "charge_to_pct",
    "predicted_to_pct", "wind_predicted_ms", "wind_met_ms", "distance_m", "height_m", "verdict", "word",
    "manual_return", "wet", "note",
)  # fmt: skip
MEDIA = {
    "csv": "text/csv",
    "gpx": "application/gpx+xml",
    "kml": "application/vnd.google-earth.kml+xml",
    "geojson": "application/geo+json",
}


def exported(db: Database, f: Filter, form: str) -> bytes:
    """What a filter lets through as CSV, GPX, KML or GeoJSON. Raises NotAllowedError for another form."""
    if form not in MEDIA:
        raise NotAllowedError("form", form, ", ".join(MEDIA))
    with db.transaction() as s:
        found = [flight_of(x) for x in flights.search(s, f, size=None)]
        drawn = tracks.of_flights(s, [x.uid for x in found])
    if form == "csv":
        return _csv(found)
    items = [item for flight in found for item in _items(db, flight, flight.uid in drawn)]
    whole = Exported("Logbook", tuple(items), "A pilot's own record; nothing in it is a clearance.")
    write = {"gpx": write_gpx, "kml": write_kml, "geojson": write_geojson}[form]
    return write(whole)


def _csv(found: Sequence[Flight]) -> bytes:
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(CSV_COLUMNS)
    for flight in found:
        values = flight.entry.model_dump(mode="json", include=set(CSV_COLUMNS))
        rows.writerow(["" if values[c] is None else _meant(c, values[c]) for c in CSV_COLUMNS])
    return out.getvalue().encode()


_RUNS = re.compile(r"(?:^|[\n\r;])\s*[=+\-@＝＋－＠]|^[\t\r]")
_DIGITS = {
    "latitude": 6, "longitude": 6, "seconds": 0, "charge_from_pct": 0, "charge_to_pct": 0, "predicted_to_pct": 0,
    "wind_predicted_ms": 1, "wind_met_ms": 1, "distance_m": 0, "height_m": 0,
}  # fmt: skip
"""Digits after the point that are meant: a tenth of a metre of position, whole seconds, percent and metres."""


def _meant(column: str, value: object) -> object:
    """A value as it goes into a table."""
    if column in _DIGITS and isinstance(value, int | float):
        rounded = round(value, _DIGITS[column])
        return rounded if _DIGITS[column] else int(rounded)
    return _harmless(value)


def _harmless(value: object) -> object:
    # A table program must not run what a note begins with; some look behind blanks, and part cells at line ends and
    # semicolons of their own.
    return f"'{value}" if isinstance(value, str) and _RUNS.search(value) else value


def _elevation(flight: Flight) -> float | None:
    """Height of the take-off point above sea level [m]; None where the plan has the 0 that nobody said."""
    if flight.plan is None:
        return None
    said = flight.plan.site.elevation_m != 0 or "site.elevation_m" in flight.plan.evidence
    return flight.plan.site.elevation_m if said else None


def _items(db: Database, flight: Flight, with_track: bool) -> list[Item]:
    e = flight.entry
    if e.latitude is None or e.longitude is None:
        return []
    name = f"{e.started_at:%Y-%m-%d %H:%M} {e.aircraft}"
    own = {"lark_type": "flight", **e.model_dump(mode="json", exclude={"latitude", "longitude"}, exclude_none=True)}
    found = [Item(name, "Point", [e.longitude, e.latitude], own, at=e.started_at)]
    if with_track:
        flown = points_of(db, flight.uid)
        track = flown.track
        begun = local(flown.started_at or e.started_at, e.latitude, e.longitude)
        line = [
            [round(lon, 7), round(lat, 7)]
            for lat, lon in zip(track.latitude.tolist(), track.longitude.tolist(), strict=True)
        ]
        known = FlownLine(
            times=tuple(begun + timedelta(seconds=t) for t in track.time_s.tolist()),
            height_m=tuple(track.height_m.tolist()),
            charge_pct=tuple(track.charge_pct.tolist()),
            elevation_m=_elevation(flight),
        )
        found.append(Item(name, "LineString", line, {"lark_type": "track"}, flown=known))
    return found

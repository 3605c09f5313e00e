"""Tracks: read from files with progress, kept with a flight, and what they change in its entry."""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime

import numpy as np
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.postflight.track import DrawnTrack, Track, TrackFacts, drawn, facts_of
from zealous_lark.core.postflight.wind_circle import CircleWind
from zealous_lark.core.power import PowerModel, power_model
from zealous_lark.formats import bounded, readers
from zealous_lark.formats.errors import BadFileError
from zealous_lark.formats.track_files import MAX_POINTS, FlownTrack, TableHead, is_gpx
from zealous_lark.plan import situation_of
from zealous_lark.plan.flight import FlightEntry
from zealous_lark.plan.track import MEASURED, TrackPart, read_track_part
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.flights import Flight, flight_of, listed, open_flight
from zealous_lark.store import Database, flights, tracks
from zealous_lark.store.tracks import StoredTrack

MAX_TRACK_BYTES = 60_000_000
FAR_M = 5_000.0
"""A track that begins further from the flight's take-off point is another flight's."""


@dataclass(frozen=True, slots=True)
class KeptTrack:
    """A track that a flight has."""

    name: str
    facts: TrackFacts
    drawn: DrawnTrack


@dataclass(frozen=True, slots=True)
class Progress:
    """How far reading a file is: a share from 0 to 1, and with the last of them the track that is now kept."""

    done: float
    kept: KeptTrack | None = None


def head(data: bytes) -> TableHead | None:
    """The columns of a table; None for GPX, which needs no choosing. Raises BadFileError."""
    return None if is_gpx(data) else bounded.read(bounded.OF_A_FLIGHT, readers.read_table_head, data)


def attach(
    db: Database, uid: str, data: bytes, columns: dict[str, str], name: str, now: datetime
) -> Iterator[Progress]:
    """Read a file and keep it as a flight's track, a step at a time; who stops asking has changed nothing.

    The entry gets the distance, height, times and wind that the track shows; what it said is kept in its history.
    Raises NotHereError, BadFileError, NotAllowedError.
    """
    flight = open_flight(db, uid)
    reading = bounded.read_on(
        bounded.OF_A_FLIGHT,
        *((readers.read_gpx_track, data) if is_gpx(data) else (readers.read_table_track, data, columns)),
    )
    while True:
        try:
            yield Progress(0.8 * next(reading))
        except StopIteration as end:
            flown: FlownTrack = end.value
            break
    entry, track = flight.entry, flown.track
    if entry.latitude is not None and entry.longitude is not None:
        first = float(track.latitude[0]), float(track.longitude[0])
        away = bearing_and_distance(entry.latitude, entry.longitude, *first)[1]
        if away > FAR_M:
            raise NotAllowedError(
                "file", f"a track that starts {away / 1000:.0f} km from this flight's place", "the track of this flight"
            )
    facts = facts_of(track, _power_of(flight))
    yield Progress(0.9)
    kept = KeptTrack(name[:120], facts, drawn(track))
    yield Progress(0.95)
    with db.writing() as s:
        _keep(s, uid, kept, _packed(flown), now)
    yield Progress(1.0, kept)


def _keep(s: OrmSession, uid: str, kept: KeptTrack, points: bytes, now: datetime) -> None:
    """Keep a track with its flight, in place of one that was there, and say in the entry what it shows."""
    latest = flights.find(s, uid)  # reading took a while: what the entry says is asked for again
    if latest is None:
        raise NotHereError(f"there is no flight {uid}; it may have been deleted")
    replaced = tracks.find(s, uid)
    part = TrackPart(measured=MEASURED, facts=kept.facts, drawn=kept.drawn)
    tracks.put(s, uid, StoredTrack(kept.name, part.model_dump_json(), points), now)
    before = flight_of(latest).entry
    changed = _with_facts(_without_wind_of(before, replaced), kept.facts)
    if changed != before:
        flights.edit(s, uid, changed.model_dump_json(), listed(changed), latest.revision, now)


def measure_anew(db: Database, now: datetime) -> int:
    """Measure what was kept in an earlier way once more, from its points; how many there were.

    The wind that such a track had put into its entry goes, or becomes the one that it tells now. What cannot be
    measured stays as it is.
    """
    with db.transaction() as s:
        uids = tracks.measured_before(s, MEASURED)
    done = 0
    for uid in uids:
        # Lark starts with this: whatever is wrong with one track keeps neither it nor the others from it.
        with suppress(Exception), db.writing() as s:
            found = tracks.find(s, uid)
            if found is not None:
                track = unpacked(found.points).track
                facts = facts_of(track, _power_of(open_flight(db, uid)))
                _keep(s, uid, KeptTrack(found.name, facts, drawn(track)), found.points, now)
                done += 1
    return done


def _power_of(flight: Flight) -> PowerModel | None:
    """The power of the aircraft in the air of its flight; None for a flight that no plan was kept of."""
    if flight.plan is None:
        return None
    assessed = Assessment(situation_of(flight.plan))
    return power_model(assessed.situation.aircraft, assessed.density_kgm3)


def _without_wind_of(entry: FlightEntry, replaced: StoredTrack | None) -> FlightEntry:
    """An entry without the wind that an earlier track had put into it."""
    wind = None if replaced is None else read_track_part(replaced.document).facts.wind
    if not isinstance(wind, CircleWind) or entry.wind_met_ms != round(wind.speed_ms, 2):
        return entry
    return entry.model_copy(update={"wind_met_ms": None})


def _with_facts(entry: FlightEntry, facts: TrackFacts) -> FlightEntry:
    """An entry with what a track shows; time and charge only where nothing is known of them."""
    update: dict[str, object] = {"distance_m": round(facts.farthest_m, 1)}
    if facts.highest_m is not None:
        update["height_m"] = round(max(facts.highest_m, 0.0), 1)
    if isinstance(facts.wind, CircleWind):
        update["wind_met_ms"] = round(facts.wind.speed_ms, 2)
    if entry.seconds is None:
        update["seconds"] = round(facts.seconds, 1)
    if entry.charge_from_pct is None and entry.charge_to_pct is None:
        update |= {"charge_from_pct": facts.charge_from_pct, "charge_to_pct": facts.charge_to_pct}
    return FlightEntry.model_validate({**entry.model_dump(), **update})


def _packed(flown: FlownTrack) -> bytes:
    out = io.BytesIO()
    t = flown.track
    begun = np.nan if flown.started_at is None else flown.started_at.timestamp()
    tilt = np.empty(0) if t.tilt_deg is None else t.tilt_deg
    np.savez_compressed(
        out, time_s=t.time_s, latitude=t.latitude, longitude=t.longitude, height_m=t.height_m.astype(np.float32),
        charge_pct=t.charge_pct.astype(np.float32), tilt_deg=tilt.astype(np.float32), started=np.array(begun),
    )  # fmt: skip
    return out.getvalue()


def unpacked(points: bytes) -> FlownTrack:
    """The points that were kept. Raises BadFileError for bytes that are none."""
    try:
        with zipfile.ZipFile(io.BytesIO(points)) as packed:
            # A million points take 8 MB each of what is known of them; a file that unpacks to more is none of ours.
            if any(i.file_size > MAX_POINTS * 8 + 1_000 for i in packed.infolist()):
                raise ValueError("too many of them")
        with np.load(io.BytesIO(points), allow_pickle=False) as arrays:
            names = ("time_s", "latitude", "longitude", "height_m", "charge_pct")
            time, latitude, longitude, height, charge = (arrays[name].astype(float) for name in names)
            # Points that were kept before the tilt was read have none.
            tilt = arrays["tilt_deg"].astype(float) if "tilt_deg" in arrays else np.empty(0)
            track = Track(time, latitude, longitude, height, charge, tilt if tilt.size else None)
            begun = float(arrays["started"])
    except (ValueError, KeyError, OSError, EOFError, MemoryError, zipfile.BadZipFile, zlib.error) as error:
        raise BadFileError(
            f"points that cannot be read ({error})", "the points of a track as Lark keeps them"
        ) from None
    return FlownTrack(track, None if np.isnan(begun) else datetime.fromtimestamp(begun, UTC))


def points_of(db: Database, uid: str) -> FlownTrack:
    """The points of a flight's track. Raises NotHereError."""
    with db.transaction() as s:
        found = tracks.find(s, uid)
    if found is None:
        raise NotHereError(f"flight {uid} has no track")
    return unpacked(found.points)


def track_of(db: Database, uid: str) -> KeptTrack | None:
    """The track of a flight, or None. Raises NotHereError."""
    open_flight(db, uid)
    with db.transaction() as s:
        found = tracks.find(s, uid)
    if found is None:
        return None
    part = read_track_part(found.document)
    return KeptTrack(found.name, part.facts, part.drawn)


def remove(db: Database, uid: str) -> None:
    """Take a flight's track away. Raises NotHereError."""
    with db.transaction() as s:
        if not tracks.delete(s, uid):
            raise NotHereError(f"flight {uid} has no track")

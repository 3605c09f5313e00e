"""The API of the logbook: flights, tracks, learning, everything as files."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.formats.errors import BadFileError
from zealous_lark.services import archive, held, learning, logbook, tracks
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.tracks import KeptTrack, Progress
from zealous_lark.web.context import connected, database, json_answer, now
from zealous_lark.web.http import afterwards, body, fault_of, file, query, reads_first, writes_nothing
from zealous_lark.web.once import once_at_a_time
from zealous_lark.web.schemas import flights as b

api = APIBlueprint("logbook", __name__, url_prefix="/api", tag="Logbook")
MAX_ARCHIVE_BYTES = 1_000_000_000
_SAVE = {404: "Not here", 409: "Saved elsewhere since", 422: "Refused"}


@api.get("/flights")
@api.output(b.LogbookOut)
@api.doc(summary="A page of the logbook, the latest first, and what all of it comes to", responses={422: "Refused"})
@query(api, b.PageQuery)
def list_flights(asked: b.PageQuery) -> Response:
    """The logbook."""
    found = logbook.page(database(), asked.filter(), asked.page)
    return json_answer(
        b.LogbookOut(
            flights=[b.flight_out(f, f.uid in found.with_track) for f in found.flights],
            page=found.page,
            pages=found.pages,
            total=found.total,
        )
    )


@api.post("/flights")
@api.output(b.FlightOut, status_code=201)
@api.doc(summary="A flight that was flown without Lark", responses={422: "Refused"})
@body(api, b.NewFlight)
def add_flight(document: b.NewFlight) -> Response:
    """Enter a flight by hand."""
    return json_answer(b.flight_out(logbook.add(database(), document.entry, now())), 201)


@api.get("/logbook/summary")
@api.output(b.SummaryOut)
@api.doc(summary="Sums by month and battery, points for charts, currency", responses={422: "Refused"})
@query(api, b.FilterQuery)
def summary(asked: b.FilterQuery) -> Response:
    """What the logbook comes to."""
    found = logbook.summary(database(), asked.filter(), now())
    return json_answer(
        b.SummaryOut(
            months=list(found.months),
            packs=list(found.packs),
            points=list(found.points),
            names=found.names,
            last_flight=found.currency.last_flight,
            last_manual_return=found.currency.last_manual_return,
            words=list(found.currency.words),
            band=[list(b) for b in found.band],
        )
    )


_EXPORTED: dict[int | str, dict[str, str | dict[str, dict[str, Any]]]] = {
    200: {"description": "The file", "content": {kind: {} for kind in logbook.MEDIA.values()}},
    422: {"description": "Refused"},
}


@api.get("/logbook/export/<string:form>")
@api.doc(summary="The logbook as csv, gpx, kml or geojson", responses=_EXPORTED)
@query(api, b.FilterQuery)
def export(form: str, asked: b.FilterQuery) -> Response:
    """The logbook as a file."""
    response = Response(logbook.exported(database(), asked.filter(), form), mimetype=logbook.MEDIA[form])
    response.headers["Content-Disposition"] = f'attachment; filename="lark-logbook.{form}"'
    return response


@api.get("/flights/<string:uid>")
@api.output(b.OpenedFlight)
@api.doc(summary="A flight with its events and history", responses={404: "Not here"})
def open_flight(uid: str) -> Response:
    """One flight."""
    found = logbook.opened(database(), uid)
    return json_answer(
        b.OpenedFlight(
            flight=b.flight_out(found.flight, tracks.track_of(database(), uid) is not None),
            plan=found.flight.plan,
            events=list(found.events),
            history=[b.PastOut(edited_at=p.edited_at, before=p.before) for p in found.history],
        )
    )


@api.put("/flights/<string:uid>")
@api.output(b.FlightOut)
@api.doc(summary="Edit an entry; what it said is kept", responses=_SAVE)
@body(api, b.SaveFlight)
def save_flight(document: b.SaveFlight, uid: str) -> Response:
    """Change an entry."""
    done = logbook.edit(database(), uid, document.entry, document.revision, now())
    return json_answer(b.flight_out(done, tracks.track_of(database(), uid) is not None))


@api.delete("/flights/<string:uid>")
@api.output({}, status_code=204)
@api.doc(summary="Take a flight off the logbook; it can be brought back", responses={404: "Not here"})
def delete_flight(uid: str) -> tuple[str, int]:
    """Delete a flight."""
    logbook.set_deleted(database(), uid, now())
    return "", 204


@api.post("/flights/<string:uid>/restore")
@api.output({}, status_code=204)
@api.doc(summary="Bring a deleted flight back", responses={404: "Not here"})
def restore_flight(uid: str) -> tuple[str, int]:
    """Undo a deletion."""
    logbook.set_deleted(database(), uid, None)
    return "", 204


def _track(kept: KeptTrack) -> b.TrackOut:
    return b.TrackOut(name=kept.name, facts=kept.facts, drawn=kept.drawn)


_FILE = {404: "Not here", 413: "Too large", 415: "Not bytes", 422: "Refused"}


@api.post("/tracks/head")
@api.output(b.TableOut)
@api.doc(summary="The columns of a track in a table", responses=_FILE)
@file(api, tracks.MAX_TRACK_BYTES)
@writes_nothing
def track_head(data: bytes) -> Response:
    """What a table has, so that the pilot can say which column is which."""
    head = tracks.head(data)
    if head is None:
        return json_answer(b.TableOut(columns=[], rows=[], guess={}))
    return json_answer(b.TableOut(columns=list(head.columns), rows=[list(r) for r in head.rows], guess=head.guess))


@api.post("/flights/<string:uid>/track")
@api.output(b.TrackOut)
@api.doc(
    summary="Keep the track of a flight, from GPX 1.1 or a table",
    description="With progress, the answer is application/x-ndjson, a TrackLine each; hanging up changes nothing.",
    responses=_FILE,
)
@query(api, b.TrackQuery)
@file(api, tracks.MAX_TRACK_BYTES)
@reads_first
def put_track(data: bytes, asked: b.TrackQuery, uid: str) -> Response:
    """Bring a track in."""
    steps = tracks.attach(database(), uid, data, asked.columns(), asked.name, now())
    first = next(steps)  # what is wrong from the beginning is answered as such
    if asked.progress:
        return Response(_lines(first, steps), mimetype="application/x-ndjson")
    *_, last = steps
    assert last.kept is not None
    return json_answer(_track(last.kept))


def _lines(first: Progress, steps: Iterator[Progress]) -> Iterator[str]:
    """Progress, a line each; a fault that comes late is the last line."""
    yield b.TrackLine(done=first.done).model_dump_json() + "\n"
    try:
        for step in steps:
            track = None if step.kept is None else _track(step.kept)
            yield b.TrackLine(done=step.done, track=track).model_dump_json() + "\n"
    except (BadFileError, NotAllowedError) as error:
        line = b.TrackLine(done=0, message="The file was not accepted.", refusals=[fault_of(error)])
        yield line.model_dump_json() + "\n"


@api.get("/flights/<string:uid>/track")
@api.output(b.TrackOut)
@api.doc(summary="What the track of a flight says, and its line", responses={404: "Not here"})
def get_track(uid: str) -> Response:
    """A track."""
    kept = tracks.track_of(database(), uid)
    if kept is None:
        raise NotHereError("this flight has no track")
    return json_answer(_track(kept))


@api.delete("/flights/<string:uid>/track")
@api.output({}, status_code=204)
@api.doc(summary="Take the track of a flight away", responses={404: "Not here"})
def delete_track(uid: str) -> tuple[str, int]:
    """Remove a track."""
    tracks.remove(database(), uid)
    return "", 204


@api.get("/learning")
@api.output(b.OffersOut)
@api.doc(summary="What the logbook teaches, and what was taken of it")
@once_at_a_time
def offers() -> Response:
    """Offers with their evidence and effects."""
    return json_answer(b.OffersOut(offers=list(learning.offers(database(), now())), taken=learning.taken(database())))


@api.post("/learning")
@api.output(b.OffersOut)
@api.doc(summary="Take an offer", responses={422: "Refused"})
@body(api, b.TakeIn)
def take_offer(document: b.TakeIn) -> Response:
    """The pilot's word."""
    learning.take(database(), document.kind, document.target, document.source, now())
    return afterwards(offers)


@api.delete("/learning/<int:learned_id>")
@api.output(b.OffersOut)
@api.doc(summary="Undo something that was taken", responses={404: "Not here", 422: "Refused"})
def undo_offer(learned_id: int) -> Response:
    """Put back what was before."""
    learning.undo(database(), learned_id, now())
    return afterwards(offers)


@api.get("/archive")
@api.output({}, content_type="application/zip")
@api.doc(summary="Everything as one archive")
def get_archive() -> Response:
    """The archive."""
    response = Response(archive.write(database(), now()), mimetype="application/zip")
    response.headers["Content-Disposition"] = f'attachment; filename="lark-{now():%Y-%m-%d}.zip"'
    return response


@api.post("/archive")
@api.output({}, status_code=204)
@api.doc(summary="Restore an archive into an empty Lark", responses=_FILE)
@file(api, MAX_ARCHIVE_BYTES)
@writes_nothing  # It puts a whole database in place of this one, by a way of its own.
def put_archive(data: bytes) -> tuple[str, int]:
    """Take an archive in."""
    archive.restore(database(), data, now())
    return "", 204


def _names() -> dict[str, str]:
    return {source.key: source.name for source in connected()}


@api.get("/flights/<uid>/forecasts")
@api.output(b.HeldList)
@api.doc(summary="What forecasts said a day, half a day and three hours before a flight", responses={404: "Not here"})
def forecasts_of_flight(uid: str) -> Response:
    """Each beside the wind that was met."""
    flight = logbook.opened(database(), uid).flight
    found = held.of_flight(database(), flight, _names())
    return json_answer(b.HeldList(met_ms=flight.entry.wind_met_ms, held=[b.HeldOut(**asdict(h)) for h in found]))


@api.get("/logbook/forecasts")
@api.output(b.HeldOverList)
@api.doc(summary="How far each forecast is off at each place, over the latest flights")
def forecasts_over_logbook() -> Response:
    """Said less met."""
    return json_answer(
        b.HeldOverList(held=[b.HeldOverOut(**asdict(h)) for h in held.over_logbook(database(), _names())])
    )

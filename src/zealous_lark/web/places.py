"""The API of places, and of looking at the land around a plan."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import asdict

import numpy as np
from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.heights import height_by_angle_m, height_by_shadow_m
from zealous_lark.core.light import sun
from zealous_lark.core.units import Units
from zealous_lark.plan import PlanDocument
from zealous_lark.plan.place import PlacePart
from zealous_lark.plan.result import WindFoundPart
from zealous_lark.services import land, places
from zealous_lark.services.errors import NotAllowedError
from zealous_lark.services.places import OpenedPlace
from zealous_lark.services.sketches import sketch
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body, query, units, writes_nothing
from zealous_lark.web.schemas import places as b
from zealous_lark.web.schemas.common import UsesOut, uses_out

api = APIBlueprint("places", __name__, url_prefix="/api", tag="Places")


def _none(values: Iterable[float]) -> list[float | None]:
    return [None if math.isnan(v) else float(v) for v in values]


def _finite(value: float) -> float | None:
    return None if math.isnan(value) else value


def place_out(opened: OpenedPlace) -> b.PlaceOut:
    s, part = opened.stored, opened.place
    terrain = None
    kept = places.terrain_of(database(), part)
    if kept is not None and part.terrain is not None and part.terrain.sha256 is not None:
        south, west, north, east = kept.corners()
        known = kept.heights[~np.isnan(kept.heights)]
        terrain = b.TerrainOut(
            sha256=part.terrain.sha256,
            south=south,
            west=west,
            north=north,
            east=east,
            void_share=kept.void_share,
            lowest_m=float(known.min()) if known.size else None,
            highest_m=float(known.max()) if known.size else None,
        )
    return b.PlaceOut(
        id=s.id, revision=s.revision, created_at=s.created_at, changed_at=s.changed_at, place=part, terrain=terrain
    )


def _summary(opened: OpenedPlace) -> b.PlaceSummary:
    at = places.centre(opened.place)
    return b.PlaceSummary(
        id=opened.stored.id,
        name=opened.stored.name,
        changed_at=opened.stored.changed_at,
        drawn=len(opened.place.features),
        zones=len(opened.place.zones),
        terrain=opened.place.terrain is not None,
        latitude=None if at is None else at[0],
        longitude=None if at is None else at[1],
        sketch=[
            b.SketchedOut(role=s.role, shape=s.shape, points=[list(p) for p in s.points]) for s in sketch(opened.place)
        ],
    )


@api.get("/places")
@api.output(b.PlaceList)
@api.doc(summary="All places by name")
def list_places() -> Response:
    """The list of places."""
    return json_answer(b.PlaceList(places=[_summary(p) for p in places.list_places(database())]))


@api.post("/places")
@api.output(b.PlaceOut, status_code=201)
@api.doc(summary="A new place, drawn or from a place document", responses={422: "Refused", 413: "Too large"})
@body(api, PlacePart)
def add_place(document: PlacePart) -> Response:
    """Keep a place."""
    return json_answer(place_out(places.add_place(database(), document, now())), 201)


@api.get("/places/<int:place_id>")
@api.output(b.PlaceOut)
@api.doc(summary="One place", responses={404: "Not here"})
@query(api, b.PlaceQuery)
def open_place(place_id: int, asked: b.PlaceQuery) -> Response:
    """A place with all that is drawn there."""
    return json_answer(place_out(places.open_place(database(), place_id, also_deleted=asked.also_deleted)))


@api.put("/places/<int:place_id>")
@api.output(b.PlaceOut)
@api.doc(summary="Save a changed place", responses={404: "Not here", 409: "Saved elsewhere since", 422: "Refused"})
@body(api, b.SavePlace)
def save_place(document: b.SavePlace, place_id: int) -> Response:
    """Save what is drawn."""
    return json_answer(place_out(places.save_place(database(), place_id, document.place, document.revision, now())))


@api.get("/places/<int:place_id>/uses")
@api.output(UsesOut)
@api.doc(summary="The sessions that are at a place, the latest first", responses={404: "Not here"})
def uses(place_id: int) -> Response:
    """Where a place is used, to be asked before it is deleted."""
    return json_answer(uses_out(places.uses(database(), place_id)))


@api.delete("/places/<int:place_id>")
@api.output({}, status_code=204)
@api.doc(summary="Delete a place; it can be brought back, and sessions there keep it", responses={404: "Not here"})
def delete_place(place_id: int) -> tuple[str, int]:
    """Take a place off the list."""
    places.delete_place(database(), place_id, now())
    return "", 204


@api.post("/places/<int:place_id>/restore")
@api.output({}, status_code=204)
@api.doc(summary="Bring a deleted place back", responses={404: "Not here"})
def restore_place(place_id: int) -> tuple[str, int]:
    """Undo a deletion."""
    places.restore_place(database(), place_id)
    return "", 204


def download(made: tuple[bytes, str, str]) -> Response:
    data, media, name = made
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(data, mimetype=media, headers=headers)


@api.get("/places/<int:place_id>/export.<form>")
@api.doc(summary="A place as geojson, kml, gpx or json", responses={404: "Not here"})
def export_place(place_id: int, form: str) -> Response:
    """A place going out."""
    return download(land.export_place(database(), place_id, form))


@api.get("/sessions/<int:session_id>/export.<form>")
@api.doc(summary="A session's take-off, leg, reach and place as geojson, kml or gpx", responses={404: "Not here"})
def export_session(session_id: int, form: str) -> Response:
    """A session going out."""
    return download(land.export_session(database(), session_id, form, now()))


@api.post("/section")
@api.output(b.SectionOut)
@api.doc(summary="A cut through a plan's place along a bearing", responses={422: "Refused"})
@query(api, b.SectionQuery)
@body(api, PlanDocument)
@writes_nothing
def cut(document: PlanDocument, asked: b.SectionQuery) -> Response:
    """A section."""
    s = land.cut(database(), document, now(), asked.bearing_deg, asked.upto_m)
    return json_answer(
        b.SectionOut(
            bearing_deg=s.bearing_deg,
            distance_m=s.distance_m.tolist(),
            ground_m=_none(s.ground_m),
            surface_m=_none(s.surface_m),
            legal_m=_none(s.legal_m),
            line_m=_none(s.line_m),
            fresnel_m=_none(s.fresnel_m),
            standing=[b.StandingOut(**asdict(x)) for x in s.standing],
            winds=[
                WindFoundPart(
                    height_m=w.height_m, speed_ms=w.speed_ms, gust_ms=w.gust_ms, direction_deg=w.direction_deg
                )
                for w in s.winds
            ],
        )
    )


@api.post("/survey")
@api.output(b.SurveyOut)
@api.doc(summary="Signal all round, light on subjects, ways down and planned moves", responses={422: "Refused"})
@body(api, PlanDocument)
@writes_nothing
def surveyed(document: PlanDocument) -> Response:
    """What the plan view shows beside the verdict."""
    a, s = land.surveyed(database(), document, now())
    here = a.situation.land
    assert here is not None
    usable = None if a.trip is None else a.trip.usable_wh
    moves = []
    for m in s.moves:
        xs, ys = zip(*land.outline(m.shape), strict=True)
        lat, lon = here.frame.to_geographic(xs, ys)
        along = np.hypot(m.x, m.y)
        moves.append(
            b.SweptOut(
                name=m.move.name or str(m.move.kind).replace("_", "-"),
                outline=[[float(x), float(y)] for x, y in zip(lon, lat, strict=True)],
                seconds=m.seconds,
                wh=m.wh,
                share_pct=100 * m.wh / usable if usable else 0.0,
                gap_m=_finite(m.gap_m),
                meets=m.meets,
                from_m=float(along.min()),
                to_m=float(along.max()),
                lowest_m=float(m.z.min()),
                highest_m=float(m.z.max()),
            )
        )
    return json_answer(
        b.SurveyOut(
            bearing_deg=[float(x) for x in range(0, 360, 5)],
            signal_m=s.signal_m.tolist(),
            subjects=[
                b.SubjectOut(
                    id=x.feature.id,
                    name=x.feature.name,
                    bearing_deg=x.bearing_deg,
                    distance_m=x.distance_m,
                    light=x.light,
                    ground_m=_finite(x.ground_m),
                )
                for x in s.subjects
            ],
            ways_down=[
                b.WayDownOut(id=x.feature.id, name=x.feature.name, distance_m=x.distance_m, charge_pct=x.charge_pct)
                for x in s.ways_down
            ],
            moves=moves,
            over_water=s.over_water,
            takeoff_elevation_m=here.takeoff_elevation_m if here.has_terrain else None,
            lowest_ground_m=s.lowest_ground_m,
        )
    )


@api.post("/takeoffs")
@api.output(b.SuggestionList)
@api.doc(summary="Take-off points for a plan's far point, best first", responses={422: "Refused"})
@units(api)
@body(api, PlanDocument)
@writes_nothing
def takeoffs(document: PlanDocument, units: Units) -> Response:
    """Suggestions, not decisions."""
    found = [
        b.SuggestionOut(
            latitude=s.latitude,
            longitude=s.longitude,
            elevation_m=s.situation.site.elevation_m,
            bearing_deg=s.situation.flight.bearing_deg,
            distance_m=s.situation.flight.distance_m,
            verdict=s.verdict,
            reasons=list(s.reasons),
        )
        for s in land.suggested(database(), document, now(), units)
    ]
    return json_answer(b.SuggestionList(suggestions=found))


@api.get("/height/angle")
@api.output(b.HeightOut)
@api.doc(summary="How high something is, by its distance and angle", responses={422: "Refused"})
@query(api, b.AngleQuery)
def height_by_angle(asked: b.AngleQuery) -> Response:
    """Height by angle."""
    height = height_by_angle_m(asked.distance_m, asked.angle_deg)
    return json_answer(b.HeightOut(height_m=height, sun_elevation_deg=None))


@api.get("/height/shadow")
@api.output(b.HeightOut)
@api.doc(summary="How high something is, by its shadow and the sun", responses={422: "Refused"})
@query(api, b.ShadowQuery)
def height_by_shadow(asked: b.ShadowQuery) -> Response:
    """Height by shadow."""
    up = sun(asked.latitude, asked.longitude, asked.at).elevation_deg
    if not 3 <= up <= 89:
        raise NotAllowedError("at", f"a sun {up:.0f}° high", "a time with the sun from 3° to 89° high")
    return json_answer(b.HeightOut(height_m=height_by_shadow_m(asked.shadow_m, up), sun_elevation_deg=up))

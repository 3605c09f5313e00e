"""The API of what a place is made of out of files: terrain, surface model, picture, zones, drawings, map data."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.formats.picture import Pin
from zealous_lark.services import map_data, places
from zealous_lark.services.errors import NotHereError
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import file, query, reads_first, writes_nothing
from zealous_lark.web.places import download, place_out
from zealous_lark.web.schemas import places as b

api = APIBlueprint("place_files", __name__, url_prefix="/api")

MAX_TERRAIN_BYTES = 96_000_000
MAX_FEATURES_BYTES = 16_000_000

_IMPORT = {404: "Not here", 409: "Saved elsewhere since", 413: "Too large", 415: "Not bytes", 422: "Refused"}


@api.post("/places/<int:place_id>/terrain")
@api.output(b.PlaceOut)
@api.doc(summary="Cut a terrain out of a GeoTIFF, ASCII grid or .hgt", responses=_IMPORT)
@query(api, b.ImportQuery)
@file(api, MAX_TERRAIN_BYTES)
@reads_first
def import_terrain(data: bytes, asked: b.ImportQuery, place_id: int) -> Response:
    """Bring a terrain in."""
    opened = places.import_terrain(database(), place_id, data, asked.name, asked.crs, asked.revision, now())
    return json_answer(place_out(opened))


@api.post("/places/<int:place_id>/surface")
@api.output(b.PlaceOut)
@api.doc(summary="Cut a surface model, with tree tops and roofs, out of a GeoTIFF or ASCII grid", responses=_IMPORT)
@query(api, b.ImportQuery)
@file(api, MAX_TERRAIN_BYTES)
@reads_first
def import_surface(data: bytes, asked: b.ImportQuery, place_id: int) -> Response:
    """Bring a surface model in."""
    opened = places.import_surface(database(), place_id, data, asked.name, asked.crs, asked.revision, now())
    return json_answer(place_out(opened))


@api.post("/places/<int:place_id>/picture")
@api.output(b.PlaceOut)
@api.doc(summary="Cut a picture from above out of a GeoTIFF", responses=_IMPORT)
@query(api, b.ImportQuery)
@file(api, MAX_TERRAIN_BYTES)
@reads_first
def import_picture(data: bytes, asked: b.ImportQuery, place_id: int) -> Response:
    """Lay a picture under the drawing."""
    opened = places.import_picture(database(), place_id, data, asked.name, asked.crs, asked.revision, now())
    return json_answer(place_out(opened))


@api.post("/places/<int:place_id>/scan")
@api.output(b.PlaceOut)
@api.doc(summary="Lay a scan without coordinates under a place, held by two points of it", responses=_IMPORT)
@query(api, b.ScanQuery)
@file(api, MAX_TERRAIN_BYTES)
@reads_first
def import_scan(data: bytes, asked: b.ScanQuery, place_id: int) -> Response:
    """Pin a scan."""
    pins = Pin(*asked.pin("first")), Pin(*asked.pin("second"))
    opened = places.import_scan(database(), place_id, data, asked.name, pins, asked.revision, now())
    return json_answer(place_out(opened))


@api.get("/pictures/<digest>.jpg")
@api.doc(summary="A picture from above", responses={404: "Not here"})
def picture(digest: str) -> Response:
    """A picture that never changes, named by what it shows."""
    found = places.picture_file(database(), digest)
    if found is None:
        raise NotHereError(f"there is no picture {digest[:12]}")
    headers = {"Cache-Control": "public, max-age=31536000, immutable"}
    return Response(found, mimetype="image/jpeg", headers=headers)


@api.get("/places/<int:place_id>/measured")
@api.output(b.MeasuredHeights)
@api.doc(summary="Heights of what is drawn after the surface model; nothing is changed", responses={404: "Not here"})
def measured_heights(place_id: int) -> Response:
    """Each wood, building and mast that the surface model shows."""
    found = places.measured_heights(database(), place_id)
    return json_answer(b.MeasuredHeights(measured=[b.MeasuredHeight(**asdict(m)) for m in found]))


@api.post("/places/<int:place_id>/zones")
@api.output(b.PlaceOut)
@api.doc(summary="Import zones from GeoJSON, KML or ED-269", responses=_IMPORT)
@query(api, b.ImportQuery)
@file(api, MAX_FEATURES_BYTES)
@reads_first
def import_zones(data: bytes, asked: b.ImportQuery, place_id: int) -> Response:
    """Bring zones in."""
    return json_answer(place_out(places.import_zones(database(), place_id, data, asked.name, asked.revision, now())))


@api.post("/places/<int:place_id>/features")
@api.output(b.PlaceOut)
@api.doc(summary="Import what was drawn elsewhere, from GeoJSON, KML or GPX", responses=_IMPORT)
@query(api, b.ImportQuery)
@file(api, MAX_FEATURES_BYTES)
@reads_first
def import_features(data: bytes, asked: b.ImportQuery, place_id: int) -> Response:
    """Bring features in."""
    return json_answer(place_out(places.import_features(database(), place_id, data, asked.revision, now())))


@api.post("/places/<int:place_id>/map-data")
@api.output(b.MapDataOut)
@api.doc(summary="What an OpenStreetMap extract has around a place; nothing is kept", responses=_IMPORT)
@query(api, b.MapDataQuery)
@file(api, MAX_TERRAIN_BYTES)
@writes_nothing
def look_at_map_data(data: bytes, asked: b.MapDataQuery, place_id: int) -> Response:
    """Review map data."""
    found = map_data.review(database(), place_id, data, asked.radius_m)
    things = [
        b.MapThingOut(
            feature=t.found.feature, group=t.found.group, state=t.state, distance_m=round(t.found.distance_m, 1)
        )
        for t in found.things
    ]
    return json_answer(
        b.MapDataOut(
            attribution=found.attribution,
            things=things,
            too_many=found.too_many,
            left_out_first=sorted(map_data.LEFT_OUT_FIRST),
        )
    )


@api.get("/terrains/<digest>/hillshade.png")
@api.doc(summary="The shade of a terrain", responses={404: "Not here"})
def hillshade(digest: str) -> Response:
    """A picture that never changes, named by what it shows."""
    headers = {"Cache-Control": "public, max-age=31536000, immutable"}
    return Response(places.hillshade(database(), digest), mimetype="image/png", headers=headers)


@api.get("/terrains/<digest>/terrain.tif")
@api.doc(summary="A terrain as GeoTIFF", responses={404: "Not here"})
def terrain_file(digest: str) -> Response:
    """A terrain going out."""
    return download((places.terrain_file(database(), digest), "image/tiff", "lark-terrain.tif"))

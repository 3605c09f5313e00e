"""Looking at the land around a plan: sections, surveys, take-off points; places and sessions going out."""

from __future__ import annotations

from datetime import datetime

from shapely.geometry import LineString, MultiPolygon, Polygon

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import destination
from zealous_lark.core.section import Section, section
from zealous_lark.core.survey import Survey, survey
from zealous_lark.core.takeoffs import Suggestion, suggest
from zealous_lark.core.units import Units
from zealous_lark.formats.features import Exported, Item, items_of
from zealous_lark.formats.geojson import write_geojson
from zealous_lark.formats.gpx import write_gpx
from zealous_lark.formats.kml import write_kml
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.places import open_place, travelling
from zealous_lark.services.sessions import open_session
from zealous_lark.services.weather import known
from zealous_lark.store import Database

WRITERS = {
    "geojson": (write_geojson, "application/geo+json"),
    "kml": (write_kml, "application/vnd.google-earth.kml+xml"),
    "gpx": (write_gpx, "application/gpx+xml"),
}
_SURVEY_M = 1_500.0


def _assessed(db: Database, plan: PlanDocument, now: datetime) -> Assessment:
    return Assessment(situation_of(plan, known(db, plan, now)))


def cut(db: Database, plan: PlanDocument, now: datetime, bearing_deg: float, upto_m: float) -> Section:
    """The section of a plan's place along a bearing [°] up to a distance [m]."""
    return section(_assessed(db, plan, now), bearing_deg % 360, upto_m)


def surveyed(db: Database, plan: PlanDocument, now: datetime) -> tuple[Assessment, Survey]:
    """The survey of a plan's place. Raises NotAllowedError for a plan without one."""
    a = _assessed(db, plan, now)
    found = survey(a, max(_SURVEY_M, min(2 * a.situation.flight.distance_m, 5_000.0)))
    if found is None:
        raise NotAllowedError("site.place", "null", "the number of a place that is kept here")
    return a, found


def suggested(db: Database, plan: PlanDocument, now: datetime, units: Units) -> tuple[Suggestion, ...]:
    """Take-off points for the plan's far end, best first. Raises NotAllowedError for a plan without a place."""
    a = _assessed(db, plan, now)
    if a.situation.land is None:
        raise NotAllowedError("site.place", "null", "the number of a place that is kept here")
    return suggest(a.situation, units)


def export_place(db: Database, place_id: int, form: str) -> tuple[bytes, str, str]:
    """A place in an open format: bytes, media type and name. Raises NotHereError."""
    opened = open_place(db, place_id)
    name = f"lark-place-{place_id}.{form}"
    if form == "json":
        return travelling(db, opened.place).model_dump_json(indent=1).encode(), "application/json", name
    if form not in WRITERS:
        raise NotHereError(f"there is no format {form}; there are {', '.join([*WRITERS, 'json'])}")
    write, media = WRITERS[form]
    return write(Exported(opened.place.name, items_of(opened.place))), media, name


def export_session(db: Database, session_id: int, form: str, now: datetime) -> tuple[bytes, str, str]:
    """A session's take-off, leg, reach and place in an open format. Raises NotHereError."""
    opened = open_session(db, session_id, now)
    if form not in WRITERS:
        raise NotHereError(f"there is no format {form}; there are {', '.join(WRITERS)}")
    plan, result = opened.plan, opened.result
    at, f = plan.site, plan.flight
    lat, lon = destination(at.latitude, at.longitude, f.bearing_deg, f.distance_m)
    here, far = [at.longitude, at.latitude], [lon, lat]
    items = [
        Item("Take-off", "Point", here, {"lark_type": "takeoff", "elevation_m": at.elevation_m}),
        Item("Far point", "Point", far, {"lark_type": "far_end", "height_m": f.height_m}),
        Item("Leg", "LineString", [here, far], {"lark_type": "leg", "bearing_deg": f.bearing_deg,
             "distance_m": f.distance_m, "height_m": f.height_m, "return_height_m": plan.settings.rth_altitude_m}),
    ]  # fmt: skip
    if result.reach is not None and max(result.reach.distance_m) > 0:
        curve = [
            destination(at.latitude, at.longitude, b, d)
            for b, d in zip(result.reach.bearing_deg, result.reach.distance_m, strict=True)
        ]
        ring = [[x, y] for y, x in curve]
        properties = {"lark_type": "reach", "verdict": result.verdict.value, "tightest": result.tightest}
        items.append(Item("Reach", "Polygon", [[*ring, ring[0]]], properties))
    if at.place is not None:
        items += items_of(open_place(db, at.place, also_deleted=True).place)
    write, media = WRITERS[form]
    return write(Exported(plan.title, tuple(items))), media, f"lark-session-{session_id}.{form}"


def outline(shape: Polygon | MultiPolygon | LineString) -> list[tuple[float, float]]:
    """The outer edge of a shape, east and north [m]."""
    hull = shape if isinstance(shape, Polygon) else shape.convex_hull
    return [(float(x), float(y)) for x, y in hull.exterior.coords]

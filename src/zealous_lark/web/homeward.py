"""The API of flights to bring home."""

from __future__ import annotations

import math
from datetime import timedelta

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.homeward.sheet import AIRSPEED_STEP_MS, HEIGHT_STEP_M, WAY_STEP_M, Sheet, far_end
from zealous_lark.core.situation import SpeedMode
from zealous_lark.core.units import Units
from zealous_lark.services import homeward
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body, units
from zealous_lark.web.schemas import homeward as b

api = APIBlueprint("homeward", __name__, url_prefix="/api")


@api.get("/practice/home")
@api.output(b.HomeNow)
@api.doc(summary="How flights to bring home go, and which is next")
def homing() -> Response:
    """By what goes wrong."""
    found = homeward.homing(database(), now())
    kinds = [
        b.HomeKind(kind=k.kind, ends=list(k.ends), due=None if k.standing is None else k.standing.due)
        for k in found.kinds
    ]
    return json_answer(b.HomeNow(kinds=kinds, seed=found.seed, due=found.due))


@api.get("/practice/home/<int:seed>")
@api.output(b.HomeFlight)
@api.doc(
    summary="A flight to bring home, with all that it takes to fly it",
    description="The same for a seed, and the pilot's own aircraft and minimums.",
    responses={404: "Not here"},
)
@units(api)
def pose(seed: int, units: Units) -> Response:
    """Flown on the device."""
    return json_answer(flight_out(homeward.pose(database(), seed, units)))


def flight_out(posed: homeward.Posed) -> b.HomeFlight:
    """A flight as it is sent to a device."""
    scene = posed.scene
    sheet, s = scene.sheet, scene.sheet.situation
    wind_ms, wind_from_deg = sheet.forecast(s.flight.height_m)
    return b.HomeFlight(
        seed=scene.seed,
        aircraft=s.aircraft.name,
        own=posed.own,
        site=scene.plan.site.name or "",
        place=scene.place,
        plan=scene.plan,
        sheet=_sheet(sheet),
        reserve_pct=s.reserve_pct,
        turn_back_pct=sheet.trip.turn_back_pct,
        wind_ms=wind_ms,
        wind_from_deg=wind_from_deg,
        begins_s=scene.begins_s,
        turn_s=scene.turn_s,
        mishap=scene.mishap,
        normals=[round(1000 * x) for three in scene.normals for x in three],
        card=posed.card,
    )


def _sheet(sheet: Sheet) -> b.HomeSheet:
    s = sheet.situation
    far_x, far_y = far_end(s)
    return b.HomeSheet(
        height_step_m=HEIGHT_STEP_M,
        airspeed_step_ms=AIRSPEED_STEP_MS,
        way_step_m=WAY_STEP_M,
        east_ms=sheet.east_ms.tolist(),
        north_ms=sheet.north_ms.tolist(),
        sigma_ms=sheet.sigma_ms.tolist(),
        power_w=sheet.power_w.tolist(),
        loss_db=sheet.loss_db.tolist(),
        margin_1m_db=sheet.margin_1m_db,
        hover_w=sheet.power.hover_w,
        lift_w=sheet.power.climb_w(1.0) - sheet.power.hover_w,
        usable_wh=sheet.trip.usable_wh,
        charge_pct=s.pack.charge_pct,
        modes_ms={mode: s.aircraft.airspeed_ms(mode) for mode in SpeedMode},
        ascent_ms=s.aircraft.ascent_ms,
        descent_ms=s.aircraft.descent_ms,
        outbound_mode=s.flight.outbound_mode,
        return_mode=s.flight.return_mode,
        lost_link=s.settings.lost_link,
        far_x=far_x,
        far_y=far_y,
        height_m=s.flight.height_m,
        return_height_m=s.settings.rth_altitude_m,
        max_altitude_m=s.settings.max_altitude_m,
        stands=[b.HomeStands(ends=[list(end) for end in x.ends], top_m=x.top_m) for x in sheet.stands],
        bands=[
            b.HomeBand(from_m=x.from_m, to_m=None if math.isinf(x.to_m) else x.to_m, ground=x.ground)
            for x in sheet.bands
        ],
    )


@api.post("/practice/home/<int:seed>")
@api.output(b.HomeLanded)
@api.doc(
    summary="Keep a flight that was flown: what its pilot did, and when",
    responses={404: "Not here", 422: "Refused"},
)
@body(api, b.HomeAnswer)
def answer(document: b.HomeAnswer, seed: int) -> Response:
    """It is flown again here. Sent again, it is there once."""
    acts = sorted(((x.at_s, x.act) for x in document.acts), key=lambda x: x[0])
    found = homeward.answer(database(), document.uid, seed, acts, now() - timedelta(seconds=document.ago_s))
    e = found.ended
    return json_answer(
        b.HomeLanded(
            end=e.end, at_s=e.at_s, charge_pct=e.charge_pct, from_home_m=e.from_home_m, grade=found.grade, due=found.due
        )
    )

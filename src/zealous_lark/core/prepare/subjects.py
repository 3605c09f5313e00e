"""Subjects to film, packs to film them with, and what filming costs.

The weather is that of the session's take-off throughout. A subject's light must last from lift-off to landing: a
flight is short against the way the light moves. The greatest reserve that any subject asks for holds for all.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import LEAST_TAKEOFF_PCT, usable_wh
from zealous_lark.core.geodesy import polar, xy
from zealous_lark.core.leg_costs import Cost
from zealous_lark.core.light import Glow, Sun, glow, sun
from zealous_lark.core.motion import ground_speed_ms
from zealous_lark.core.prepare.assignment import LIGHT_STEP_S, Costs
from zealous_lark.core.situation import Pack, Situation
from zealous_lark.core.survey import LightSide, light_side
from zealous_lark.core.trip import Flyer, LegName


class WantedLight(StrEnum):
    ANY = "any"
    FRONT = "front"
    SIDE = "side"
    BACK = "back"
    GOLDEN = "golden"


LIGHT_WORDS = {
    WantedLight.ANY: "any light",
    WantedLight.FRONT: "sun behind the camera",
    WantedLight.SIDE: "light from the side",
    WantedLight.BACK: "backlit",
    WantedLight.GOLDEN: "golden hour",
}


@dataclass(frozen=True, slots=True)
class Shot:
    """A subject to film: from the take-off point [°, m], height [m], time there [min], the light it wants."""

    name: str
    bearing_deg: float
    distance_m: float
    height_m: float
    minutes: float
    light: WantedLight = WantedLight.ANY


@dataclass(frozen=True, slots=True)
class ShotPack:
    """A pack that can be taken."""

    label: str
    pack: Pack


@dataclass(frozen=True)
class Outing:
    """What filming is planned in: the assessed session, its subjects and packs.

    session_s: from the take-off to the last landing [s]. changeover_s: from a landing to the next lift-off [s].
    """

    assessment: Assessment
    shots: tuple[Shot, ...]
    packs: tuple[ShotPack, ...]
    session_s: float
    changeover_s: float

    @property
    def situation(self) -> Situation:
        return self.assessment.situation

    @property
    def reserve_pct(self) -> float:
        """The greatest reserve that any subject asks for [%]."""
        asked = [to_subject(self.situation, s).reserve_pct for s in self.shots]
        return max(asked, default=self.situation.reserve_pct)

    def usable_wh(self, pack: int) -> float:
        """Energy of a full pack in this air [Wh]."""
        return usable_wh(self.situation.aircraft, self.packs[pack].pack, self.situation.weather.temperature_c)

    def budget_wh(self, pack: int) -> float:
        """What a pack can spend above the reserve [Wh]; a part-used one starts no flight."""
        charge = self.packs[pack].pack.charge_pct
        if charge < LEAST_TAKEOFF_PCT:
            return 0.0
        return max(charge - self.reserve_pct, 0.0) / 100 * self.usable_wh(pack)


def to_subject(situation: Situation, shot: Shot) -> Situation:
    """A session's flight as one to a single subject."""
    flight = replace(
        situation.flight, bearing_deg=shot.bearing_deg, distance_m=shot.distance_m, height_m=shot.height_m,
        station_min=shot.minutes, moves=(),
    )  # fmt: skip
    return replace(situation, flight=flight)


_OUT = (LegName.HOVER_CHECK, LegName.CLIMB, LegName.OUTBOUND)


_NOTHING, _NEVER = Cost(0.0, 0.0), Cost(math.inf, math.inf)


def _hop(flyer: Flyer, here: Shot, there: Shot) -> Cost[float]:
    """From one subject to another: up first, across at the greater height, then down."""
    s = flyer.situation
    (x1, y1), (x2, y2) = (xy(p.bearing_deg, p.distance_m) for p in (here, there))
    course, distance = (float(v) for v in polar(x2 - x1, y2 - y1))
    top = max(here.height_m, there.height_m)
    mode = s.flight.outbound_mode
    speed = float(ground_speed_ms(s.aircraft.airspeed_ms(mode), *flyer.wind_at(top), course))
    if distance > 0 and not speed >= s.minimums.return_speed_ms:
        return _NEVER
    across = flyer.costs.level(mode, distance, speed) if distance > 0 else _NOTHING
    return flyer.costs.climb(top - here.height_m) + across + flyer.costs.descend(top - there.height_m)


def light_rows(outing: Outing) -> tuple[tuple[bool, ...], ...]:
    """For each subject whether its light is there, on every `LIGHT_STEP_S` from the take-off to the session's end."""
    s = outing.situation
    steps = int(outing.session_s // LIGHT_STEP_S) + 1
    suns = [_sun(s, s.takeoff_at + timedelta(seconds=n * LIGHT_STEP_S)) for n in range(steps)]
    return tuple(tuple(_lit(shot, position) for position in suns) for shot in outing.shots)


def _sun(s: Situation, at: datetime) -> Sun:
    return sun(s.site.latitude, s.site.longitude, at)


def _lit(shot: Shot, position: Sun) -> bool:
    if shot.light is WantedLight.ANY:
        return True
    if shot.light is WantedLight.GOLDEN:
        return glow(position.elevation_deg) is Glow.GOLDEN
    return light_side(position, shot.bearing_deg) is LightSide(shot.light.value)


def costs(outing: Outing) -> Costs | None:
    """What filming costs; None while the wind is not known."""
    if outing.assessment.flyer is None or not outing.assessment.wind_counts:
        return None
    flyers = [replace(outing.assessment.flyer, situation=to_subject(outing.situation, s)) for s in outing.shots]
    out, stay, home = [], [], []
    for flyer in flyers:
        trip = flyer.fly()
        slow = not trip.ground_speed_home_ms >= flyer.situation.minimums.return_speed_ms
        if trip.blocked is not None or slow:
            out.append(_NEVER)
            stay.append(_NOTHING)
            home.append(_NEVER)
            continue
        legs = {leg.name: Cost(leg.seconds, leg.wh) for leg in trip.legs}
        stay.append(legs.pop(LegName.STATION))
        out.append(sum((legs.pop(name) for name in _OUT), _NOTHING))
        home.append(sum(legs.values(), _NOTHING))
    hops = [
        [
            _NEVER if way_home is _NEVER else _hop(f, here, there)
            for there, way_home in zip(outing.shots, home, strict=True)
        ]
        for f, here in zip(flyers, outing.shots, strict=True)
    ]
    return Costs(
        out_wh=tuple(c.wh for c in out),
        out_s=tuple(c.seconds for c in out),
        stay_wh=tuple(c.wh for c in stay),
        stay_s=tuple(c.seconds for c in stay),
        hop_wh=tuple(tuple(c.wh for c in row) for row in hops),
        hop_s=tuple(tuple(c.seconds for c in row) for row in hops),
        home_wh=tuple(c.wh for c in home),
        home_s=tuple(c.seconds for c in home),
        downwind=tuple(f.starts_with_wind for f in flyers),
        light=light_rows(outing),
        ends_s=outing.session_s,
    )

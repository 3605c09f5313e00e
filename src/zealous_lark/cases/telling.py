"""A case as the pilot would find it: what is forecast, seen, read and left set, and nothing of what it comes to."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from zealous_lark.cases.drawing import Case
from zealous_lark.core.light import light, sun
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import LostLink, PlatformKind, RadioNoise
from zealous_lark.core.units import Units, angle, decibels, percent
from zealous_lark.core.weather import BEAUFORT
from zealous_lark.plan import PlanDocument
from zealous_lark.plan.document import ObstaclePart, WindPart


@dataclass(frozen=True, slots=True)
class Found:
    """A group of what is found: its name, and a line for each thing."""

    name: str
    lines: tuple[str, ...]


_KINDS = {
    ObstacleKind.TREES: "Trees",
    ObstacleKind.BUILDING: "A building",
    ObstacleKind.MAST: "A mast",
    ObstacleKind.WIRES: "Wires",
    ObstacleKind.TERRAIN: "A rise of the ground",
}
_LINKS = {
    LostLink.RETURN: "Return to home",
    LostLink.HOVER: "Hover",
    LostLink.LAND: "Land",
}
_NOISE = {RadioNoise.SUBURBAN: "Houses around: some radio noise.", RadioNoise.URBAN: "A town: much radio noise."}


def told(case: Case, units: Units) -> tuple[Found, ...]:
    """What the pilot finds, in the pilot's units, in the order in which a look around goes."""
    plan = case.plan
    groups = (
        ("The place", (case.place, *_place(plan, units))),
        ("The flight", tuple(_flight(plan, units))),
        ("Forecast", tuple(_forecast(plan, units))),
        ("On site", tuple(_on_site(plan, units))),
        ("Aircraft and battery", tuple(_aircraft(plan, units))),
        ("Controller, as left last time", tuple(_settings(plan, units))),
    )
    return tuple(Found(name, lines) for name, lines in groups if lines)


def _place(plan: PlanDocument, units: Units) -> Iterator[str]:
    site = plan.site
    at = plan.takeoff_at
    day = light(site.latitude, site.longitude, at)
    yield f"{at:%H:%M} on {at.day} {at:%B}."
    if day.sunrise is not None and day.sunset is not None and not site.indoors:
        stands = sun(site.latitude, site.longitude, at)
        where = f", and stands towards {angle(stands.azimuth_deg)}" if stands.elevation_deg > 0 else ""
        yield f"The sun rises at {day.sunrise:%H:%M} and sets at {day.sunset:%H:%M}{where}."
    if site.landform is not None and site.landform.height_m > 0:
        height, half = units.length(site.landform.height_m), units.length(site.landform.half_length_m)
        yield f"You stand {height} above the land around; it falls by half of that within {half}."
    for o in site.obstacles:
        yield _obstacle(o, units)
    if site.over_water:
        waves = "" if site.wave_height_m is None else f", waves of {100 * site.wave_height_m:.0f} cm"
        yield f"The way out is over water{waves}."
    if site.platform.kind is PlatformKind.BOAT:
        speed = site.platform.speed_ms
        moves = (
            "lies still" if speed == 0 else f"moves at {units.speed(speed)} towards {angle(site.platform.course_deg)}"
        )
        yield f"You stand in a boat that {moves}."
    if site.radio_noise in _NOISE:
        yield _NOISE[site.radio_noise]
    if site.radio_loss_db:
        yield f"Last time here the picture was {decibels(site.radio_loss_db)} weaker than it should have been."


def _obstacle(o: ObstaclePart, units: Units) -> str:
    return (
        f"{_KINDS[o.kind]}, {units.length(o.height_m)} high, {units.length(o.distance_m)} away "
        f"towards {angle(o.bearing_deg)}."
    )


def _flight(plan: PlanDocument, units: Units) -> Iterator[str]:
    f = plan.flight
    yield (
        f"{units.length(f.distance_m)} out towards {angle(f.bearing_deg)} at {units.length(f.height_m)}, "
        f"{f.station_min:g} min of filming there."
    )
    back = {"rth": "by return to home", "normal": "by hand", "slow": "by hand, slowly", "fast": "by hand, in fast mode"}
    yield f"Back {back[f.return_mode]}."


def _wind(w: WindPart, units: Units) -> str:
    gusts = "" if w.gust_ms is None else f", gusts {units.speed(w.gust_ms)}"
    return f"Wind at {units.length(w.height_m)}: {units.speed(w.speed_ms)} from {angle(w.direction_deg)}{gusts}."


def _forecast(plan: PlanDocument, units: Units) -> Iterator[str]:
    w = plan.weather
    yield from (_wind(x, units) for x in w.winds if x.source is WindSource.FORECAST)
    if not any(x.source is WindSource.FORECAST for x in w.winds):
        yield "No wind in it: you looked too late to fetch one."
    dew = "" if w.dew_point_c is None else f", dew point {units.temperature(w.dew_point_c)}"
    seen = units.length(w.visibility_m)
    yield f"Air {units.temperature(w.temperature_c)}{dew}, seen as far as {seen}, dry, Kp {w.kp:g}."


def _on_site(plan: PlanDocument, units: Units) -> Iterator[str]:
    if plan.site.indoors:
        return
    read = [x for x in plan.weather.winds if x.source is WindSource.MEASURED]
    for x in read:
        where = ", in the lee of the trees" if plan.site.sheltered else ""
        yield f"By the hand meter{where}: {_wind(x, units)[0].lower()}{_wind(x, units)[1:]}"
    if not read:
        # What leaves do at the ground is what the forecast's lowest wind does.
        low = min(plan.weather.winds, key=lambda x: x.height_m)
        force = next((b for b in BEAUFORT if b.low_ms <= low.speed_ms < b.high_ms), BEAUFORT[0])
        yield f"Looking round: {force.land[0].lower()}{force.land[1:].rstrip('.')}."
    yield "Nobody under the way, no zones."


def _aircraft(plan: PlanDocument, units: Units) -> Iterator[str]:
    a, pack = plan.aircraft, plan.pack
    rated, normal = units.speed(a.max_wind_ms), units.speed(a.speeds_ms.normal)
    yield f"{a.name}: up to {rated} of wind by its sheet, {normal} in normal mode."
    warm = "" if pack.temperature_c is None else f" at {units.temperature(pack.temperature_c)}"
    yield f"Battery at {percent(pack.charge_pct)}{warm}, {percent(pack.health_pct)} of its health."
    if a.region_power_db:
        yield f"Its radio may send {decibels(-a.region_power_db)} less here than its sheet’s range is for."


def _settings(plan: PlanDocument, units: Units) -> Iterator[str]:
    s = plan.settings
    yield f"Return height {units.length(s.rth_altitude_m)}, height limit {units.length(s.max_altitude_m)}."
    yield f"When the link is lost: {_LINKS[s.lost_link].lower()}."
    if s.satellites is not None:
        yield f"{s.satellites} satellites, home point set, compass in order."

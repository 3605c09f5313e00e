"""The place itself: zones, people, planned moves."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date

from shapely.geometry import Point
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    SEVERITY,
    Bound,
    Finding,
    Status,
    check,
    share_of_ceiling,
    share_of_floor,
)
from zealous_lark.core.land import LATERAL_M, Land
from zealous_lark.core.moves import Swept
from zealous_lark.core.place import HeightReference, Restriction, Role, Zone
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import Units, day_of

LEAST_GAP_M = 3.0
"""Heights read are a few metres off: closer than this counts as hitting [m]; common practice."""
NEAR_ZONE_M = 500.0
"""A zone's edge this close asks for care [m]; common practice."""


def _lower_m(zone: Zone, land: Land, fall: float) -> float:
    """Lower limit above the take-off point [m].

    fall: how far the ground along the way lies below the take-off point [m]: a limit over the ground lies lower there.
    """
    return zone.lower_m - (land.takeoff_elevation_m if zone.lower_from is HeightReference.SEA_LEVEL else fall)


def _band(zone: Zone, u: Units) -> str:
    """Between which heights it lies, in words."""

    def words(height: float, reference: HeightReference) -> str:
        return f"{u.length(height)} above {'the ground' if reference is HeightReference.GROUND else 'sea level'}"

    on_ground = zone.lower_m <= 0 and zone.lower_from is HeightReference.GROUND
    low = "the ground" if on_ground else words(zone.lower_m, zone.lower_from)
    if zone.upper_m is None:
        return f"from {low} up to a limit that is not known"
    return f"from {low} to {words(zone.upper_m, zone.upper_from)}"


def _flown(a: Assessment, land: Land) -> BaseGeometry:
    """All that is flown over: the leg, widened, and every planned move."""
    f = a.situation.flight
    leg = land.leg(f.bearing_deg, f.distance_m) if f.distance_m > 0 else Point(0, 0)
    shape = leg.buffer(LATERAL_M)
    for swept in a.moves:
        shape = shape.union(swept.shape)
    return shape


def _worse(one: Finding | None, other: Finding | None) -> Finding | None:
    """The more severe of two findings, then the one that uses more of its limit."""
    known = [x for x in (one, other) if x is not None]
    return max(known, key=lambda x: (SEVERITY[x.status], x.used or 0), default=None)


_STAY = {Restriction.PROHIBITED: "Flying prohibited in", Restriction.AUTHORISATION: "An authorisation is needed in"}


def _zone_finding(a: Assessment, land: Land, flown: BaseGeometry, highest: float) -> Finding | None:
    """The worst that the zones say; None when none is within half a kilometre."""
    begin, end = a.situation.takeoff_at, a.landing_at
    f = a.situation.flight
    fall = -land.lowest_ground_on(f.bearing_deg, f.distance_m)
    worst: Finding | None = None
    for zone, shape in land.zones:
        distance = float(shape.distance(flown))
        if distance > NEAR_ZONE_M or not zone.in_force(begin, end):
            continue
        inside = distance <= 0 and highest >= _lower_m(zone, land, fall)
        over = distance <= 0 and (inside or zone.upper_m is None)
        if inside and zone.restriction in _STAY:
            status, used = Status.FAIL, 2.0
        elif inside and zone.restriction is Restriction.CONDITIONAL:
            status, used = Status.FAIL, 1.5
        elif over:
            status, used = Status.CARE, 1.0
        elif zone.restriction is Restriction.INFORMATION:
            continue
        else:
            status, used = Status.CARE, min(1 - distance / NEAR_ZONE_M / 2, 1.0)
        say, work = _zone_words(zone, distance, highest, inside=inside, over=over)
        found = Finding(status, distance, NEAR_ZONE_M, used, say, work, shown=zone.name)
        worst = _worse(worst, found)
    return worst


def _zone_words(
    zone: Zone, distance: float, highest: float, *, inside: bool, over: bool
) -> tuple[Callable[[Units], str], Callable[[Units], tuple[str, ...]]]:
    """What a zone means for a flight that comes so near [m] and goes so high [m]: its sentence and its working."""

    def say(u: Units) -> str:
        band, name = _band(zone, u), zone.name
        by = f" {zone.authority}." if zone.authority else ""
        says = f"{by} It says: {zone.message}" if zone.message else by
        if inside and zone.restriction in _STAY:
            return f"{_STAY[zone.restriction]} {name}, {band}.{says}"
        if inside and zone.restriction is Restriction.CONDITIONAL:
            return f"{name} allows flying only under conditions, {band}: meet them or stay out.{says}"
        if over:
            return f"{name} lies over the flight{'' if inside else f', {band}'}.{says}"
        where = f"{u.length(distance)} away" if distance > 0 else f"over you, {band}"
        return f"{name} is {where}. Keep out, and allow for drift in the wind.{by}"

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"{zone.name} ({zone.restriction}), {_band(zone, u)}; the flight comes within {u.length(distance)} "
            f"and up to {u.length(highest)}",
        )

    return say, work


def _airfield_finding(a: Assessment, land: Land, flown: BaseGeometry) -> Finding | None:
    """The worst that the airfields say."""
    worst: Finding | None = None
    for drawn in land.of(Role.AIRFIELD):
        radius = drawn.feature.radius_m or a.situation.minimums.airfield_m
        if radius is None:
            continue
        distance = float(drawn.shape.distance(flown))
        if distance < radius + NEAR_ZONE_M:
            worst = _worse(worst, _near_airfield(drawn.feature.name or "an airfield", distance, radius))
    return worst


def _near_airfield(name: str, distance: float, radius: float) -> Finding:
    used = share_of_floor(distance, radius)

    def say(u: Units) -> str:
        if distance < radius:
            return f"{u.length(distance)} from {name}; your rules say {u.length(radius)}. Ask the airfield first."
        return f"{u.length(distance)} from {name}, where {u.length(radius)} are wanted: little room."

    def work(u: Units) -> tuple[str, ...]:
        return (f"{name}: {u.length(distance)} from the flight; wanted {u.length(radius)}",)

    if distance < radius:
        return Finding(Status.FAIL, distance, radius, max(used, 1.01), say, work, shown=name)
    return Finding(Status.CARE, distance, radius, used, say, work, shown=name)


ZONES_QUESTION = "Are there zones or airfields here? Look at your authority's map."
PEOPLE_QUESTION = "Are there people under the way, or beside it?"


def _not_looked(sentence: str, question: str) -> Finding:
    """Not known, and asked; it does not by itself keep a plan from a launch, it is counted as not checked."""
    return Finding(Status.UNKNOWN, None, None, None, sentence, (), question=question, matters=False)


def _looked(what: str, on: date) -> Finding:
    """The pilot's own word counts, with its date."""
    said = f"{day_of(on)} {on:%Y}"
    return Finding(Status.PASS, None, None, 0.0, f"You looked for {what} on {said} and found none.",
                   (f"Said by the pilot, {said}",), shown="you looked")  # fmt: skip


@check(
    "rules.zone",
    "Zones and airfields",
    "",
    "Zones as imported and drawn; within 500 m care: common practice. The authority's own map decides.",
    indoors=False,
)
def zone(a: Assessment) -> Finding:
    """The flight and its moves against the zones and airfields of the place."""
    s = a.situation
    looked = s.site.zones_looked_at
    if s.land is None:
        if looked is not None:
            return _looked("zones", looked)
        return _not_looked("No zones are known here: no place is drawn and none are loaded.", ZONES_QUESTION)
    flown = _flown(a, s.land)
    highest = max([a.working_height_m, *(float(x.z.max()) for x in a.moves)])
    worst = _worse(_zone_finding(a, s.land, flown, highest), _airfield_finding(a, s.land, flown))
    if worst is not None:
        return worst
    dates = [x for x in (looked, s.land.place.zones_looked_at) if x is not None]
    looked = max(dates, default=None)
    if not s.land.place.zones:
        if looked is None:
            return _not_looked("No zones are known for this place.", ZONES_QUESTION)
        return _looked("zones", looked)
    count = len(s.land.place.zones)
    dated = f", looked up on {day_of(looked)} {looked:%Y}" if looked else ""
    known = f"{count} zone{'s' if count != 1 else ''} known{dated}"
    return Finding(
        Status.PASS,
        None,
        None,
        0.0,
        lambda u: f"No zone in force within {u.length(NEAR_ZONE_M)}{dated}.",
        lambda u: (f"{known}; none in force within {u.length(NEAR_ZONE_M)}",),
        shown="none near",
    )


PEOPLE_CARE_M = 30.0
PEOPLE_BAND = 1.2
"""A distance that the rules ask for wants a fifth more, as positions are off; common practice."""


@check(
    "rules.people",
    "People",
    "m",
    "Distance of your rules where they name one; the height flown at otherwise: common practice, no published source.",
    bound=Bound.AT_LEAST,
    indoors=False,
)
def people(a: Assessment) -> Finding:
    """Distance of the flight and its moves from areas where people are."""
    s = a.situation
    areas = () if s.land is None else s.land.of(Role.PEOPLE)
    if s.land is None or not areas:
        if s.site.people_looked_at is not None:
            return _looked("people", s.site.people_looked_at)
        return _not_looked("No people are drawn here, and nobody has looked.", PEOPLE_QUESTION)
    flown = _flown(a, s.land)
    distance, name = min((float(d.shape.distance(flown)), d.feature.name or "people") for d in areas)
    by_rule = s.minimums.people_m
    limit = by_rule if by_rule is not None else max(PEOPLE_CARE_M, a.working_height_m)
    used = share_of_floor(distance, limit)
    basis = "your rules" if by_rule is not None else "at least as far away as the aircraft is high"
    near = distance < limit * (1 if by_rule is None else PEOPLE_BAND)

    def say(u: Units) -> str:
        if distance <= 0:
            return f"The flight passes over {name}. Never fly over people: go around, or fly another day."
        away, wanted = f"{u.length(distance)} from {name}", u.length(limit)
        if not near:
            return f"{away}."
        if distance >= limit:
            return f"{away}, little more than the {wanted} wanted ({basis})."
        return f"{away}; wanted are {wanted} ({basis})."

    def work(u: Units) -> tuple[str, ...]:
        return (f"{name}: {u.length(distance)} from the flight; wanted {u.length(limit)}, {basis}",)

    if distance <= 0:
        return Finding(Status.FAIL, distance, limit, max(used, 2.0), say, work)
    if near:
        status = Status.FAIL if by_rule is not None and distance < limit else Status.CARE
        used = used if by_rule is not None else max(used, 1.01)
        return Finding(status, distance, limit, used, say, work)
    return Finding(Status.PASS, distance, limit, used, say, work)


def _has_moves(situation: Situation) -> bool:
    return situation.land is not None and bool(situation.flight.moves)


Row = tuple[Status, float, Callable[[Units], str]]


def _rank(row: Row) -> tuple[int, float]:
    return SEVERITY[row[0]], row[1]


def fault_of(a: Assessment, swept: Swept) -> Row:
    """The worst of one move: status, share of the limit, and what is wrong or how much room it has."""
    s = a.situation
    margin, name = s.minimums.rth_margin_m, swept.move.name or str(swept.move.kind).replace("_", "-")
    ceiling = min(s.minimums.legal_height_m, s.settings.max_altitude_m)
    people = s.minimums.people_m or PEOPLE_CARE_M
    sight = a.sight.limit_m
    rows: list[Row] = []
    if math.isnan(swept.gap_m):
        rows.append((Status.UNKNOWN, 1.0, lambda _: f"The {name} goes over ground that is not known."))
    else:
        used = share_of_floor(swept.gap_m, margin)
        hits = swept.gap_m < LEAST_GAP_M
        status = Status.FAIL if hits else Status.CARE if swept.gap_m < margin else Status.PASS
        rows.append((status, max(used, 1.01) if hits else used, lambda u: _gap_words(name, swept, margin, u)))
    if swept.highest_agl_m > ceiling:
        rows.append((Status.FAIL, share_of_ceiling(swept.highest_agl_m, ceiling),
                     lambda u: f"The {name} reaches {u.length(swept.highest_agl_m)} above ground; {u.length(ceiling)} "
                     "is the most."))  # fmt: skip
    if swept.nearest_people_m < people:
        status = Status.FAIL if swept.nearest_people_m <= 0 else Status.CARE
        rows.append((status, share_of_floor(swept.nearest_people_m, people),
                     lambda u: f"The {name} comes within {u.length(swept.nearest_people_m)} of people."))  # fmt: skip
    if swept.farthest_m > sight:
        status = Status.FAIL if swept.farthest_m > 2 * sight else Status.CARE
        rows.append((status, share_of_ceiling(swept.farthest_m, sight),
                     lambda u: f"The {name} goes {u.length(swept.farthest_m)} out; sight ends at "
                     f"{u.length(sight)}."))  # fmt: skip
    return max(rows, key=_rank)


def _gap_words(name: str, swept: Swept, margin: float, u: Units) -> str:
    gap = u.length(swept.gap_m)
    if swept.gap_m < LEAST_GAP_M:
        return f"The {name} goes {'into' if swept.gap_m < 0 else f'within {gap} of'} {swept.meets}."
    return f"The {name} clears {swept.meets} by {'only ' if swept.gap_m < margin else ''}{gap}."


@check(
    "land.moves",
    "Camera moves",
    "",
    "The swept shape against what is drawn, 10 m wider: common practice, no published source.",
    only=_has_moves,
)
def moves(a: Assessment) -> Finding:
    """Every planned move against obstacles, ground, people, sight and ceiling; all against the station time."""
    rows = [fault_of(a, swept) for swept in a.moves]
    if not rows:
        return Finding(Status.UNKNOWN, None, None, None, "Can't tell what the camera moves use: wind unknown.", (),
                       "wind.steady")  # fmt: skip
    seconds, station = sum(x.seconds for x in a.moves), a.situation.flight.station_min * 60
    each = tuple(zip(a.moves, rows, strict=True))

    def work(u: Units) -> tuple[str, ...]:
        return tuple(
            f"{(x.move.name or str(x.move.kind)).capitalize()}: {x.seconds:.0f} s, {x.wh:.2f} Wh. {row[2](u)}"
            for x, row in each
        )

    if seconds > station:
        rows.append((Status.CARE, share_of_ceiling(seconds, station),
                     lambda _: f"The moves take {seconds / 60:.1f} min, and {station / 60:.1f} min filming are "
                     "planned: only those are counted in the charge."))  # fmt: skip
    status, used, say = max(rows, key=_rank)
    question = "How high is the ground under the moves?" if status is Status.UNKNOWN else None
    return Finding(status, None, None, used if status is not Status.UNKNOWN else None, say, work,
                   shown=f"{len(a.moves)} planned", question=question)  # fmt: skip

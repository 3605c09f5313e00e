"""Charge against the way home."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import FORCED_LANDING_PCT, LEAST_TAKEOFF_PCT, cold_factor, effective_temperature_c
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    Words,
    check,
    share_of_budget,
    share_of_ceiling,
    wind_not_known,
)
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import LegName, ReachLimit, Trip
from zealous_lark.core.units import Units, angle, percent

FIXED_TURN_BACKS_PCT = (60.0, 50.0)
"""Charges at which other schools always turn back [%]; common practice."""

_POWER_SOURCE = "Power model: Zeng, Xu and Zhang 2019. Cold factors: common practice. "

LEG_LABEL: dict[LegName, str] = {
    LegName.HOVER_CHECK: "hover check",
    LegName.CLIMB: "climb",
    LegName.OUTBOUND: "outbound",
    LegName.STATION: "filming",
    LegName.RETURN_CLIMB: "climb to the return height",
    LegName.RETURN: "home",
    LegName.DESCENT: "descent",
    LegName.LANDING: "landing",
}


def _pack_working(a: Assessment, u: Units) -> str:
    s = a.situation
    air, pack = s.weather.temperature_c, s.pack.temperature_c
    effective = effective_temperature_c(s.pack, air)
    basis = (
        f"air at {u.temperature(air)}, the battery's own temperature is not known"
        if pack is None
        else f"mean of air at {u.temperature(air)} and battery at {u.temperature(pack)}"
    )
    factor = cold_factor(effective)
    usable = s.aircraft.battery_wh * s.pack.health_pct / 100 * factor
    return (
        f"Usable: {s.aircraft.battery_wh:g} Wh × health {percent(s.pack.health_pct)} × cold {factor:.2f} "
        f"({basis}) = {usable:.2f} Wh"
    )


@check("battery.charge", "Charge at take-off", "%", "Least charge: " + OWN_MINIMUM, bound=Bound.AT_LEAST)
def charge(a: Assessment) -> Finding:
    """Charge against the least to lift off with."""
    s = a.situation
    value, limit = s.pack.charge_pct, s.minimums.min_takeoff_pct
    status = Status.FAIL if value < LEAST_TAKEOFF_PCT else Status.CARE if value < limit else Status.PASS

    def say(_: Units) -> str:
        at = f"The battery is at {percent(value)}"
        return {
            Status.FAIL: f"{at}. A part-used battery's percentage can fall suddenly: change it.",
            Status.CARE: f"{at}; you want {percent(limit)} to take off.",
            Status.PASS: f"{at}; you want {percent(limit)} or more.",
        }[status]

    # Counted from full, since a full pack is all that anybody can have.
    used = share_of_ceiling(100 - value, 100 - limit) if limit < 100 else float(value < 100) * 1.01
    work = (
        f"Charge {value:g}%, wanted {limit:g}%, never under {LEAST_TAKEOFF_PCT:g}%",
        "Share used: what is missing from full against what may be missing",
    )
    return Finding(status, value, limit, used, say, work)


@check(
    "battery.budget",
    "Charge on landing",
    "%",
    _POWER_SOURCE + "Reserve: " + OWN_MINIMUM,
    bound=Bound.AT_LEAST,
    above=True,
)
def budget(a: Assessment) -> Finding:
    """Charge on landing against the reserve."""
    s, reserve = a.situation, a.situation.reserve_pct
    if a.trip is None:
        return wind_not_known(reserve)
    trip = a.trip
    if trip.landing_pct is None:
        out = trip.blocked is LegName.OUTBOUND
        sentence = f"No headway against the wind on the flight {'out' if out else 'home'}, whatever the charge."
        follows = "wind.outbound" if out else "wind.return"
        used = share_of_ceiling(1, 0)
        return Finding(Status.FAIL, None, reserve, used, sentence, lambda u: _legs_working(a, trip, u), follows)
    left = trip.landing_pct
    used = share_of_budget(s.pack.charge_pct, left, reserve)
    status = Status.FAIL if left < reserve else Status.CARE if left <= reserve + 10 else Status.PASS

    def say(_: Units) -> str:
        over = " (10 points more over water)" if s.over_water else ""
        lands = f"You'd land with {percent(left)}"
        if left < 0:
            return "The battery would run out before the aircraft gets home."
        if status is Status.CARE:
            return f"{lands}, only just above your {percent(reserve)} reserve{over}."
        itself = " The aircraft may land itself before it gets home." if left < min(reserve, FORCED_LANDING_PCT) else ""
        return f"{lands}; your reserve is {percent(reserve)}{over}.{itself}"

    return Finding(status, left, reserve, used, say, lambda u: _legs_working(a, trip, u))


def _legs_working(a: Assessment, trip: Trip, u: Units) -> tuple[str, ...]:
    """What the battery holds, what each leg takes of it, and what turning back by a fixed rule would leave."""
    legs = tuple(
        f"{LEG_LABEL[leg.name].capitalize()}: {leg.seconds:.0f} s, {leg.wh:.2f} Wh, {leg.charge_after_pct:.0f}% left"
        for leg in trip.legs
        if leg.seconds > 0
    )
    working = (_pack_working(a, u), *legs)
    if trip.landing_pct is None or trip.turn_back_pct is None:
        return working
    way_home = trip.turn_back_pct - a.situation.reserve_pct
    fixed = ", ".join(f"at {percent(x)} it lands with {percent(x - way_home)}" for x in FIXED_TURN_BACKS_PCT)
    return (*working, f"Turn back by {percent(trip.turn_back_pct)}; by a fixed rule: {fixed}")


@check(
    "battery.reach",
    "Battery range",
    "m",
    _POWER_SOURCE + "The point of safe return of air navigation, with this flight's own costs.",
    indoors=False,
    above=True,
)
def reach(a: Assessment) -> Finding:
    """Distance against the reach on the planned bearing."""
    s = a.situation
    if a.reach_on_bearing is None or a.trip is None:
        return wind_not_known(None)
    blocked = a.trip.blocked
    distance, limit = s.flight.distance_m, a.reach_on_bearing.distance_m[0]
    wind_ends = a.reach_on_bearing.limited_by[0] is ReachLimit.WIND
    used = share_of_ceiling(distance, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS
    follows = None
    if limit <= 0 and blocked is not None:
        follows = "wind.return" if blocked is LegName.RETURN else "wind.outbound"
    elif limit <= 0:
        follows = "battery.budget"
    elif wind_ends:
        follows = "wind.return"

    def say(u: Units) -> str:
        towards, out, most = angle(s.flight.bearing_deg), u.length(distance), u.length(limit)
        if limit <= 0 and blocked is not None:
            way = "home" if blocked is LegName.RETURN else "out"
            return f"Nothing towards {towards} is in range: no headway against the wind on the flight {way}."
        if limit <= 0:
            return "The battery can't cover take-off, filming and landing, even without flying anywhere."
        sentence = {
            Status.FAIL: f"{out} is too far: the battery range towards {towards} is {most}.",
            Status.CARE: f"{out} is most of the {most} that the battery allows towards {towards}.",
            Status.PASS: f"{out} of the {most} that the battery allows towards {towards}.",
        }[status]
        return sentence + (" The wind ends it sooner: the flight home is too slow." if wind_ends else "")

    def work(u: Units) -> tuple[str, ...]:
        return (
            _pack_working(a, u),
            f"Out, {s.flight.station_min:g} min filming and home just leave {percent(s.reserve_pct)} "
            f"from {u.length(limit)}",
        )

    return Finding(status, distance, limit, used, say, work, follows if status is Status.FAIL else None)


def _turns_by_rule(situation: Situation) -> bool:
    return situation.minimums.turn_back_pct is not None


@check(
    "battery.turn_back",
    "Turn-back rule",
    "%",
    "A fixed charge to turn back at: common practice. Beside it the computed one, of the power model.",
    bound=Bound.AT_LEAST,
    only=_turns_by_rule,
)
def turn_back(a: Assessment) -> Finding:
    """Charge when leaving the far point against the pilot's fixed turn-back charge, and what that would land with."""
    s = a.situation
    limit = s.minimums.turn_back_pct or 0.0
    if a.trip is None:
        return wind_not_known(limit)
    trip = a.trip
    if trip.turn_back_pct is None:
        sentence = "No turn-back charge is enough: one leg makes no headway against the wind."
        return Finding(Status.FAIL, None, limit, share_of_ceiling(1, 0), sentence, (), "battery.budget")
    leaving = next(leg.charge_after_pct for leg in trip.legs if leg.name is LegName.STATION)
    lands = limit - (trip.turn_back_pct - s.reserve_pct)
    used = share_of_budget(s.pack.charge_pct, leaving, limit)
    working = (
        f"Turning back at {percent(limit)} from the far point lands with {percent(lands)}",
        f"Computed from wind and distance: turn back by {percent(trip.turn_back_pct)}",
        f"The plan leaves the far point with {percent(leaving)}",
    )
    if limit < trip.turn_back_pct:
        sentence = (
            f"Turning back at your fixed {percent(limit)} is too late here: you'd land with {percent(lands)}. "
            f"Turn back at {percent(trip.turn_back_pct)} or above."
        )
        return Finding(Status.FAIL if lands < FORCED_LANDING_PCT else Status.CARE, leaving, limit, max(used, 1.01),
                       sentence, working)  # fmt: skip
    if leaving < limit:
        sentence = f"You would leave the far point with {percent(leaving)}; you turn back at {percent(limit)}."
        return Finding(Status.CARE, leaving, limit, used, sentence, working)
    sentence = f"You leave the far point with {percent(leaving)}; you turn back at {percent(limit)}."
    return Finding(Status.PASS, leaving, limit, used, sentence, working)


WARM_PACK_C, COLD_AIR_C, _COMFORT_C = 15.0, 5.0, 20.0
HOT_PACK_C, TOO_HOT_PACK_C, HOT_AIR_C = 40.0, 50.0, 35.0
NEAR_END_C = 5.0
"""So near to an end of the rated range asks for care [°C]; common practice."""


@check(
    "battery.temperature",
    "Temperature",
    "°C",
    "Rated range: the aircraft's own. Battery under 15 or over 40 °C, air under 5 or over 35 °C, too hot to hold from "
    "50 °C: common practice.",
    bound=Bound.AT_LEAST,
)
def temperature(a: Assessment) -> Finding:
    """Air and pack against the rated range; a pack whose temperature is not known is taken as the air's."""
    s = a.situation
    low, high = s.aircraft.temperature_c
    air, given = s.weather.temperature_c, s.pack.temperature_c
    pack = air if given is None else given

    def share(value: float, top: float) -> float:
        if value < _COMFORT_C:
            return share_of_ceiling(_COMFORT_C - value, _COMFORT_C - low)
        return share_of_ceiling(value - _COMFORT_C, top - _COMFORT_C)

    by_air, by_pack = share(air, high), share(pack, TOO_HOT_PACK_C if given is not None else high)
    used = max(by_air, by_pack)

    def work(u: Units) -> tuple[str, ...]:
        own = f"battery {u.temperature(pack)}" if given is not None else "battery unknown, assumed the same as the air"
        return (
            f"Rated {u.temperature(low)} to {u.temperature(high)}; air {u.temperature(air)}, {own}",
            _pack_working(a, u),
        )

    of_air = by_air >= by_pack
    worst = air if of_air else pack
    limit = low if worst < _COMFORT_C else high if of_air else TOO_HOT_PACK_C
    faults: list[tuple[bool, Status, Words]] = [
        (not low <= air <= high, Status.FAIL,
         lambda u: f"The air is outside the aircraft's rated {u.temperature(low)} to {u.temperature(high)}."),
        (pack < low, Status.FAIL, lambda u: f"The battery is under the {u.temperature(low)} it is rated to."),
        (given is not None and pack > TOO_HOT_PACK_C, Status.FAIL,
         lambda u: f"Battery at {u.temperature(pack)}, too hot to hold: let it cool before you fly or charge it."),
        (pack < WARM_PACK_C, Status.CARE,
         lambda u: f"Battery at {u.temperature(pack)}: cold batteries sag early. Keep it in a pocket until you fly."),
        (given is not None and pack > HOT_PACK_C, Status.CARE,
         lambda u: f"Battery at {u.temperature(pack)}: let it cool in the shade first."),
        (air < COLD_AIR_C, Status.CARE,
         lambda u: f"Air at {u.temperature(air)}: the battery cools in flight and gives less. Fly gently."),
        (air > HOT_AIR_C, Status.CARE,
         lambda u: f"Air at {u.temperature(air)}: battery and motors run hot. Land early."),
        (air < low + NEAR_END_C or air > high - NEAR_END_C, Status.CARE,
         lambda u: f"Air at {u.temperature(air)} is near an end of the rated {u.temperature(low)} to "
         f"{u.temperature(high)}."),
        (True, Status.PASS,
         lambda u: f"Air {u.temperature(air)} and battery {u.temperature(pack)} are in the comfortable range."
         + (" The battery is warm." if pack > 35 else "")),
    ]  # fmt: skip
    status, say = next((status, say) for met, status, say in faults if met)
    least = 1.01 if status is Status.FAIL else 0.0
    return Finding(status, worst, limit, max(used, least), say, work, shown=lambda u: u.temperature(worst))

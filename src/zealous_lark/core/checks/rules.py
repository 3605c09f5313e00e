"""Limits that the rules set, as far as they can be computed."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import Finding, Status, check, share_of_ceiling
from zealous_lark.core.units import Units


@check(
    "rules.height",
    "Height limit",
    "m",
    "120 m / 400 ft in many countries' rules, from memory; check with your authority.",
)
def height(a: Assessment) -> Finding:
    """The higher of planned and return height against the legal height."""
    s = a.situation
    limit, fall = s.minimums.legal_height_m, 0.0
    if s.land is not None:
        fall = -s.land.lowest_ground_on(s.flight.bearing_deg, s.flight.distance_m)
    value = max(s.flight.height_m, s.settings.rth_altitude_m) + fall
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.9 else Status.PASS

    def say(u: Units) -> str:
        high, most = u.length(value), u.length(limit)
        return {
            Status.FAIL: f"{high} is above the {most} height limit you set.",
            Status.CARE: f"{high} is close to the {most} height limit you set: heights read from the aircraft are a "
            "few metres off.",
            Status.PASS: f"{high}; your height limit is {most}.",
        }[status]

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Planned {u.length(s.flight.height_m)}, return {u.length(s.settings.rth_altitude_m)}, "
            "both above the take-off point",
            f"The ground falls {u.length(fall)} below the take-off point along the way: that much more above it"
            if s.land is not None and s.land.has_terrain
            else "Ground that falls away along the way is not counted: no terrain is known",
        )

    return Finding(status, value, limit, used, say, work)


HEAVY_CARE, HEAVY_FAIL = 0.10, 0.20
"""Shares of the own mass that may be added where the sheet gives no greatest mass; common practice."""


@check(
    "rules.mass",
    "Weight",
    "",
    "Greatest take-off weight: spec sheet; without one 20% over its own weight, common practice. 250 g in many "
    "countries' rules, from memory; check with your authority.",
)
def mass(a: Assessment) -> Finding:
    """Take-off mass against the greatest it flies with, and the mass steps of the rules that it is carried past."""
    aircraft, steps = a.situation.aircraft, a.situation.minimums.mass_steps_g
    own, total = aircraft.mass_g, aircraft.mass_g + aircraft.added_g
    most = aircraft.max_takeoff_g
    limit = most if most is not None else own * (1 + HEAVY_FAIL)
    what = (
        "its greatest take-off weight" if most is not None else "20% over its own weight; the sheet gives no greatest"
    )

    def work(_: Units) -> tuple[str, ...]:
        return (
            f"{own:g} g and {aircraft.added_g:g} g added = {total:g} g; at most {limit:.0f} g, {what}",
            f"Other rules apply from {', '.join(f'{step:g} g' for step in steps)}",
        )

    # What it weighs by itself is a fact, so only what is added uses room.
    used = share_of_ceiling(total - own, limit - own) if aircraft.added_g > 0 else 0.0
    shown = f"{total:g} g"
    passed = [x for x in steps if own < x <= total]
    if total > limit:
        sentence = f"{total:g} g is over the {limit:.0f} g it is to fly with ({what}). Take something off."
        return Finding(Status.FAIL, total, limit, max(used, 1.01), sentence, work, shown=shown)
    if passed:
        sentence = (
            f"What is added carries it to {total:g} g: other rules apply from {passed[-1]:g} g, on where you may fly, "
            "on registration and on distances. Look them up with your authority."
        )
        return Finding(Status.CARE, total, passed[-1], max(used, 1.01), sentence, work, shown=shown, standing=True)
    if most is None and aircraft.added_g > HEAVY_CARE * own:
        sentence = f"{total:g} g is over a tenth more than its own {own:g} g, and the sheet gives no greatest weight."
        return Finding(Status.CARE, total, limit, used, sentence, work, shown=shown, standing=True)
    next_step = next((x for x in steps if x > total), None)
    if next_step is None:
        sentence = f"{total:g} g: the rules for aircraft of {max(steps, default=0):g} g and more apply."
    else:
        sentence = f"{total:g} g is under {next_step:g} g. Anything added counts."
    return Finding(Status.PASS, total, limit, used, sentence, work, shown=shown, standing=True)

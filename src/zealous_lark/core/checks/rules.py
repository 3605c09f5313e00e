"""Limits that the rules set, as far as they can be computed."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import Finding, Status, check, share_of_ceiling
from zealous_lark.core.units import Units


@check(
    "rules.height",
    "Height and rules",
    "m",
    "120 m / 400 ft in many countries' rules, from memory; check with your authority.",
)
def height(a: Assessment, u: Units) -> Finding:
    """The higher of planned and return height against the legal height."""
    s = a.situation
    limit, fall = s.minimums.legal_height_m, 0.0
    if s.land is not None:
        fall = -s.land.lowest_ground_on(s.flight.bearing_deg, s.flight.distance_m)
    value = max(s.flight.height_m, s.settings.rth_altitude_m) + fall
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.9 else Status.PASS
    sentence = {
        Status.FAIL: f"{u.length(value)} is above the {u.length(limit)} that you set as the legal height.",
        Status.CARE: f"{u.length(value)} leaves little under the {u.length(limit)} you set as the legal height: "
        "heights read from the aircraft are a few metres off.",
        Status.PASS: f"{u.length(value)} is well under the {u.length(limit)} you set as the legal height.",
    }[status]
    working = (
        f"Planned {u.length(s.flight.height_m)}, return {u.length(s.settings.rth_altitude_m)}, "
        "both above the take-off point",
        f"The ground falls {u.length(fall)} below the take-off point along the way: that much more above it"
        if s.land is not None and s.land.has_terrain
        else "Ground that falls away along the way is not counted: no terrain is known",
    )
    return Finding(status, value, limit, used, sentence, working)


NEAR_G = 5.0


@check("rules.mass", "Mass step", "", "250 g in many countries' rules, from memory; check with your authority.")
def mass(a: Assessment, u: Units) -> Finding:  # noqa: ARG001 - grams everywhere
    """Mass with payload against the next mass from which other rules apply, 250 g unless your rules say more."""
    aircraft, steps = a.situation.aircraft, a.situation.minimums.mass_steps_g
    total = aircraft.mass_g + aircraft.payload_g
    working = (
        f"{aircraft.mass_g:g} g and {aircraft.payload_g:g} g of payload = {total:g} g",
        f"Other rules apply from {', '.join(f'{step:g} g' for step in steps)}",
    )
    step = next((x for x in steps if x > aircraft.mass_g), None)
    if step is None:
        sentence = f"{total:g} g: the rules for aircraft of {max(steps, default=0):g} g and more apply."
        limit = max(steps, default=None)
        return Finding(Status.PASS, total, limit, 0.0, sentence, working, shown=f"{total:g} g", standing=True)
    used, status = share_of_ceiling(total, step), Status.CARE
    if total >= step:
        used = max(used, 1.01)
        sentence = f"The payload carries it to {total:g} g: other rules apply from {step:g} g."
    elif total > step - NEAR_G:
        sentence = f"{total:g} g is just under {step:g} g: anything added brings other rules. Weigh it."
    else:
        status, sentence = Status.PASS, f"{total:g} g is under {step:g} g."
    return Finding(status, total, step, used, sentence, working, shown=f"{total:g} of {step:g} g", standing=True)

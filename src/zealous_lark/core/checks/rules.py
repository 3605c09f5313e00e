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
    value, limit = max(s.flight.height_m, s.settings.rth_altitude_m), s.minimums.legal_height_m
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
        "both above the take-off point; ground that falls away along the way is not counted",
    )
    return Finding(status, value, limit, used, sentence, working)


MASS_STEP_G, NEAR_G = 250.0, 5.0


@check("rules.mass", "Mass step", "", "250 g in many countries' rules, from memory; check with your authority.")
def mass(a: Assessment, u: Units) -> Finding:  # noqa: ARG001 - grams everywhere
    """Mass with payload against 250 g."""
    aircraft = a.situation.aircraft
    total = aircraft.mass_g + aircraft.payload_g
    working = (f"{aircraft.mass_g:g} g and {aircraft.payload_g:g} g of payload = {total:g} g",)
    shown = f"{total:g} of {MASS_STEP_G:g} g"
    if aircraft.mass_g >= MASS_STEP_G:
        sentence = f"{total:g} g: the rules for aircraft of 250 g and more apply."
        return Finding(Status.PASS, total, MASS_STEP_G, 0.0, sentence, working, shown=f"{total:g} g")
    used = share_of_ceiling(total, MASS_STEP_G)
    if total >= MASS_STEP_G:
        sentence = f"The payload carries it to {total:g} g: other rules apply from {MASS_STEP_G:g} g."
        return Finding(Status.CARE, total, MASS_STEP_G, max(used, 1.01), sentence, working, shown=shown, standing=True)
    if total > MASS_STEP_G - NEAR_G:
        sentence = f"{total:g} g is just under {MASS_STEP_G:g} g: anything added brings other rules. Weigh it."
        return Finding(Status.CARE, total, MASS_STEP_G, used, sentence, working, shown=shown, standing=True)
    return Finding(Status.PASS, total, MASS_STEP_G, used, f"{total:g} g is under {MASS_STEP_G:g} g.", working,
                   shown=shown)  # fmt: skip

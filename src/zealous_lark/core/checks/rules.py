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

"""What the aircraft itself can do."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import Finding, Status, check, share_of_ceiling
from zealous_lark.core.units import Units

ASSUMED_CEILING_M = 3_000.0
"""Ceiling above sea level of an aircraft whose sheet gives none [m]; common practice."""
NEAR_CEILING = 0.7


@check(
    "aircraft.ceiling",
    "Height above the sea",
    "m",
    "Ceiling by the spec sheet; 3,000 m assumed without one, care from 70%: common practice.",
)
def ceiling(a: Assessment, u: Units) -> Finding:
    """Greatest height above sea level against the aircraft's own ceiling."""
    s = a.situation
    given = s.aircraft.ceiling_m
    limit = ASSUMED_CEILING_M if given is None else given
    value = s.site.elevation_m + a.working_height_m
    used = share_of_ceiling(value, limit)
    whose = "the aircraft's ceiling" if given is not None else "assumed, as its sheet gives no ceiling"
    working = (
        f"Place {u.length(s.site.elevation_m)} above the sea and {u.length(a.working_height_m)} over it: "
        f"{u.length(value)} of {u.length(limit)}, {whose}",
    )
    if used > 1 and given is not None:
        sentence = f"{u.length(value)} above the sea is over the aircraft's ceiling of {u.length(limit)}."
        return Finding(Status.FAIL, value, limit, used, sentence, working)
    if used > NEAR_CEILING:
        sentence = (
            f"{u.length(value)} above the sea is near its ceiling of {u.length(limit)} ({whose}): thin air leaves "
            "little to climb and to fight wind with."
        )
        return Finding(Status.CARE, value, limit, used, sentence, working)
    return Finding(Status.PASS, value, limit, used, f"{u.length(value)} above the sea, of {u.length(limit)} ({whose}).",
                   working)  # fmt: skip

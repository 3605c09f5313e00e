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
def ceiling(a: Assessment) -> Finding:
    """Greatest height above sea level against the aircraft's own ceiling."""
    s = a.situation
    given = s.aircraft.ceiling_m
    limit = ASSUMED_CEILING_M if given is None else given
    value = s.site.elevation_m + a.working_height_m
    used = share_of_ceiling(value, limit)
    whose = "the aircraft's ceiling" if given is not None else "assumed, as its sheet gives no ceiling"

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Place {u.length(s.site.elevation_m)} above the sea and {u.length(a.working_height_m)} over it: "
            f"{u.length(value)} of {u.length(limit)}, {whose}",
        )

    def say(u: Units) -> str:
        here, most = f"{u.length(value)} above the sea", u.length(limit)
        return {
            Status.FAIL: f"{here} is over the aircraft's ceiling of {most}.",
            Status.CARE: f"{here} is near its ceiling of {most} ({whose}): thin air leaves little to climb and to "
            "fight wind with.",
            Status.PASS: f"{here}, of {most} ({whose}).",
        }[status]

    over = used > 1 and given is not None
    status = Status.FAIL if over else Status.CARE if used > NEAR_CEILING else Status.PASS
    return Finding(status, value, limit, used, say, work)

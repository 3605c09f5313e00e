"""Over water."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import OWN_MINIMUM, Finding, Status, check, over_water, share_of_ceiling
from zealous_lark.core.units import Units


@check(
    "water.distance",
    "Out over water",
    "m",
    "Not further out than a couple of hundred metres. " + OWN_MINIMUM,
    only=over_water,
)
def distance(a: Assessment, u: Units) -> Finding:
    """Distance over water against the farthest that the minimums allow."""
    value, limit = a.situation.flight.distance_m, a.situation.minimums.water_distance_m
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS
    sentence = {
        Status.FAIL: f"{u.length(value)} out over water is more than the {u.length(limit)} you allow yourself. "
        "A forced landing there is a loss.",
        Status.CARE: f"{u.length(value)} out over water is most of the {u.length(limit)} you allow yourself.",
        Status.PASS: f"{u.length(value)} out over water, of {u.length(limit)} you allow yourself.",
    }[status]
    return Finding(status, value, limit, used, sentence, (f"{u.length(value)} of {u.length(limit)}",))

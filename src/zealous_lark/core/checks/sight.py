"""Line of sight."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import Finding, Status, check, share_of_ceiling
from zealous_lark.core.sight import SightLimit
from zealous_lark.core.units import Units


@check(
    "sight.distance",
    "Sight",
    "m",
    "European guidance on line-of-sight distances for multirotors, from memory.",
)
def distance(a: Assessment, u: Units) -> Finding:
    """Distance against how far the aircraft's attitude can be read."""
    s, sight = a.situation, a.sight
    value, limit = s.flight.distance_m, sight.limit_m
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 2 else Status.CARE if used > 1 else Status.PASS
    can = "read its attitude" if sight.limited_by is SightLimit.ATTITUDE else "make it out in this visibility"
    sentence = {
        Status.FAIL: f"At {u.length(value)} it is more than twice as far as you can {can} ({u.length(limit)}).",
        Status.CARE: f"At {u.length(value)} you cannot {can}: that ends at {u.length(limit)}.",
        Status.PASS: f"At {u.length(value)} you can {can}, up to {u.length(limit)}.",
    }[status]
    working = (
        f"Attitude: 327 × {s.aircraft.size_m:g} m + 20 m = {u.length(sight.attitude_m)}",
        f"Detection: 0.3 × visibility {u.length(s.weather.visibility_m)} (at most {u.length(5000)} of it) = "
        f"{u.length(sight.detection_m)}",
        f"The slant from hand to aircraft is {u.length(a.signal.slant_m)}",
    )
    return Finding(status, value, limit, used, sentence, working)

"""Over water."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    check,
    over_water,
    share_of_ceiling,
    share_of_floor,
)
from zealous_lark.core.units import Units


@check(
    "water.distance",
    "Distance over water",
    "m",
    "Not further out than a couple of hundred metres. " + OWN_MINIMUM,
    only=over_water,
)
def distance(a: Assessment) -> Finding:
    """How far out over water against the farthest that the minimums allow.

    Where the water is drawn, only the way over it counts; else the whole way out does.
    """
    s = a.situation
    f, limit = s.flight, s.minimums.water_distance_m
    value = f.distance_m if s.land is None else s.land.water_m(f.bearing_deg, f.distance_m) or f.distance_m
    # Seen from a deck that moves on, all of it is water.
    value = max(value, a.farthest_m) if s.site.from_boat else value
    used = share_of_ceiling(value, limit)
    status = Status.FAIL if used > 1 else Status.CARE if used > 0.8 else Status.PASS

    def say(u: Units) -> str:
        out, most = f"{u.length(value)} over water", u.length(limit)
        return {
            Status.FAIL: f"{out}; your limit is {most}. A forced landing there loses the aircraft.",
            Status.CARE: f"{out}: close to your {most} limit.",
            Status.PASS: f"{out}; your limit is {most}.",
        }[status]

    return Finding(status, value, limit, used, say, lambda u: (f"{u.length(value)} of {u.length(limit)}",))


WAVES_BETWEEN = 2.0
"""So many of the waves' heights between them and the aircraft; common practice."""
TRUSTED_FROM_M, LANDS_UNDER_M = 3.0, 0.5
"""Heights over water [m] under which sensors are not trusted, and may take the water for ground; common practice."""


@check(
    "water.sensors",
    "Low over water",
    "m",
    "Downward sensors read half a metre and more wrong over water, and may land under 0.5 m: common practice.",
    bound=Bound.AT_LEAST,
    only=over_water,
)
def sensors(a: Assessment) -> Finding:
    """Height over water against the least at which the pilot trusts the sensors that look down."""
    s = a.situation
    trusting = s.minimums.trust_water_sensors
    waves = s.site.wave_height_m or 0.0
    # Twice the waves' height between, counted from their crests, which stand half of it over the mean.
    over_waves = (WAVES_BETWEEN + 0.5) * waves
    value, limit = s.flight.height_m, max(LANDS_UNDER_M if trusting else TRUSTED_FROM_M, over_waves)
    used = share_of_floor(value, limit)

    def work(u: Units) -> tuple[str, ...]:
        between = f"; twice the waves of {u.length(waves)} between them asks for {u.length(over_waves)}"
        return (
            f"{u.length(value)} planned; trusted from {u.length(limit)}"
            + (" in a slow hover over calm water" if trusting else "")
            + (between if waves else ""),
        )

    def say(u: Units) -> str:
        here, high = f"At {u.length(value)}", u.length(waves)
        if value < LANDS_UNDER_M:
            return f"{here} it may mistake the water for ground and land on it."
        if value < waves:
            return f"{here} it flies into waves of {high}."
        if value < over_waves:
            return f"{here} waves of {high} and their spray come near: {u.length(limit)} or more."
        if value < limit:
            return f"{here} the sensors that look down are not to be trusted over water."
        return f"{u.length(value)} is high enough over the water."

    hits = value < max(LANDS_UNDER_M, waves)
    status = Status.FAIL if hits else Status.CARE if value < max(over_waves, limit) else Status.PASS
    return Finding(status, value, limit, used, say, work)

"""What is dialled in on the controller, against the plan."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import Finding, Status, check, share_of_ceiling
from zealous_lark.core.units import Units


@check("settings.limits", "Limits as set", "", "The aircraft stops at the limits that are dialled in: common practice.",
       indoors=False)  # fmt: skip
def limits(a: Assessment) -> Finding:
    """Ceiling and distance limit as set, against the plan and the return height."""
    s = a.situation
    f, c = s.flight, s.settings
    ceiling, farthest = c.max_altitude_m, c.max_distance_m

    def work(u: Units) -> tuple[str, ...]:
        planned = f"{u.length(f.distance_m)} planned"
        return (
            f"Height limit {u.length(ceiling)}; flight {u.length(f.height_m)}, return {u.length(c.rth_altitude_m)}",
            "No distance limit" if farthest is None else f"Distance limit {u.length(farthest)}; {planned}",
        )

    def say(u: Units) -> str:
        most = f"The height limit of {u.length(ceiling)}"
        faults = []
        if f.height_m > ceiling:
            faults.append(f"{most} stops it under the {u.length(f.height_m)} you plan.")
        if c.rth_altitude_m > ceiling:
            faults.append(f"{most} stops the return under its height of {u.length(c.rth_altitude_m)}.")
        if farthest is not None and f.distance_m > farthest:
            faults.append(f"The distance limit of {u.length(farthest)} stops it before the {u.length(f.distance_m)}.")
        return " ".join(faults)

    used = max(
        share_of_ceiling(max(f.height_m, c.rth_altitude_m), ceiling),
        0.0 if farthest is None else share_of_ceiling(f.distance_m, farthest),
    )
    if max(f.height_m, c.rth_altitude_m) > ceiling or (farthest is not None and f.distance_m > farthest):
        return Finding(Status.CARE, None, None, max(used, 1.01), say, work, shown="stops it")
    # Set no lower than what is flown is all that is asked: equal is no less right than far above.
    return Finding(Status.PASS, None, None, min(used, 1.0) * 0.5, "The limits as set let the flight through.", work,
                   shown="let it through")  # fmt: skip

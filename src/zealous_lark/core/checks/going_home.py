"""The return height against obstacles, the wind above and the legal limit."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import (
    OWN_MINIMUM,
    Bound,
    Finding,
    Status,
    check,
    share_of_ceiling,
    share_of_floor,
    wind_not_known,
)
from zealous_lark.core.minimums import LostLinkRule
from zealous_lark.core.return_clearance import clearance_m
from zealous_lark.core.return_height import CeilingLimit
from zealous_lark.core.situation import LostLink
from zealous_lark.core.units import Units, angle, percent

WASTEFUL_M = 30.0
"""This much above the recommended height costs charge and meets more wind [m]; common practice."""


def _nothing_serves(a: Assessment, u: Units) -> str:
    r = a.return_height
    return (
        f"No return height serves: {u.length(r.lowest_m)} is needed to clear and {u.length(r.highest_m or 0)} is the "
        "highest that works. Fly nearer, on another bearing or from another take-off point, or set lost link "
        "to hover with a way to walk there."
    )


def _fixed_height(a: Assessment, u: Units, fixed: float) -> str:
    """What the pilot's one return height for every place means here."""
    r = a.return_height
    if fixed < r.lowest_m:
        return f"The {u.length(fixed)} you always use are too low here."
    if r.highest_m is not None and fixed > r.highest_m:
        return f"The {u.length(fixed)} you always use are more than the {u.length(r.highest_m)} that still comes home."
    if a.flyer is None:
        return f"The {u.length(fixed)} you always use would clear."
    lowest, high = (float(x) for x in a.flyer.landing_pct([r.lowest_m, fixed]))
    return f"The {u.length(fixed)} you always use cost {lowest - high:.0f} points over the lowest that clears."


@check("return.clearance", "Return height clears", "m", "Clearance: " + OWN_MINIMUM, bound=Bound.AT_LEAST)
def clearance(a: Assessment, u: Units) -> Finding:
    """Return height as set against the lowest that clears the obstacles."""
    s, r = a.situation, a.return_height
    value = s.settings.rth_altitude_m
    used = share_of_floor(value, r.lowest_m)
    question = None
    o = r.governing
    working: tuple[str, ...]
    if o is None:
        floor = u.length(s.minimums.rth_floor_m)
        working = (f"Nothing within {u.length(s.flight.distance_m)} asks for more than your floor of {floor}",)
    else:
        working = (
            f"Highest within {u.length(s.flight.distance_m)}: {o.called} {u.length(o.height_m)} at "
            f"{u.length(o.distance_m)} towards {angle(o.bearing_deg)}",
            f"Clearance {u.length(float(clearance_m(o.height_m, s.minimums.rth_margin_m)))} "
            f"(the more of {u.length(s.minimums.rth_margin_m)} and a tenth of the height): {u.length(r.lowest_m)}",
        )
    if value < r.lowest_m:
        status = Status.FAIL
        over = f"the {o.called}" if o is not None else "your floor"
        sentence = f"Return height {u.length(value)} is too low: {over} needs {u.length(r.lowest_m)}."
        if o is not None and value <= o.height_m:
            sentence = (
                f"Return height {u.length(value)} is not even above the {o.called} ({u.length(o.height_m)}): "
                f"it needs {u.length(r.lowest_m)}."
            )
        if r.recommended_m is not None:
            sentence += f" Set {u.length(r.recommended_m)}."
        else:
            sentence += " " + _nothing_serves(a, u)
    elif r.recommended_m is not None and value > r.recommended_m + WASTEFUL_M:
        status = Status.CARE
        sentence = (
            f"Return height {u.length(value)} is far above the {u.length(r.recommended_m)} that would do: "
            "the climb costs charge, and the wind is stronger up there."
        )
    else:
        status = Status.PASS
        sentence = f"Return height {u.length(value)} clears what stands around; {u.length(r.lowest_m)} is needed."
    fixed = s.minimums.rth_fixed_m
    if fixed is not None:
        sentence += " " + _fixed_height(a, u, fixed)
    hole = 0.0 if s.land is None else s.land.unknown_share(s.flight.distance_m)
    if hole > 0:
        working = (*working, f"{percent(100 * hole)} of the ground within {u.length(s.flight.distance_m)} is not known")
        if status is not Status.FAIL:
            status = Status.UNKNOWN
            sentence = (
                f"The terrain does not know {percent(100 * hole)} of the ground within "
                f"{u.length(s.flight.distance_m)}; what is known needs {u.length(r.lowest_m)}."
            )
            question = "How high is the ground where the terrain has holes? Draw it, or import a terrain without them."
    if s.site.indoors:
        sentence += " Indoors an automatic return meets the roof: set lost link to hover."
    return Finding(status, value, r.lowest_m, used, sentence, working, question=question)


@check(
    "return.ceiling",
    "Highest return",
    "m",
    "Wind triangle, power model and legal height of your rules.",
)
def ceiling(a: Assessment, u: Units) -> Finding:
    """Return height as set against the highest that still comes home, and the legal height."""
    s, r = a.situation, a.return_height
    value, legal = s.settings.rth_altitude_m, s.minimums.legal_height_m
    if r.highest_m is None and value <= legal:
        return wind_not_known(legal)
    limit = legal if r.highest_m is None else min(r.highest_m, legal)
    used = share_of_ceiling(value, limit)
    above_all = max(value, s.flight.height_m)
    reason = {
        None: f"your rules stop at {u.length(legal)}",
        CeilingLimit.LEGAL: f"your rules stop at {u.length(legal)}",
        CeilingLimit.WIND: f"higher up the wind leaves less than {u.speed(s.minimums.return_speed_ms)} home",
        CeilingLimit.CHARGE: "higher up the pack does not keep your reserve",
    }[r.limited_by]
    follows = None
    if value <= limit:
        status = Status.PASS
        sentence = f"Return height {u.length(value)} is under the highest that works, {u.length(limit)}."
    elif limit <= 0:
        status = Status.FAIL
        follows = "wind.return" if r.limited_by is CeilingLimit.WIND else "battery.budget"
        sentence = f"No return height comes home from there: {reason.replace('higher up ', '')}."
    else:
        status = Status.FAIL
        sentence = (
            f"Return height {u.length(value)} is too high: {reason}. {u.length(limit)} is the highest that works."
        )
        if r.recommended_m is None:
            sentence = _nothing_serves(a, u)
    working = (
        f"Highest that works {u.length(limit)}: {reason}",
        f"Flown home at {u.length(above_all)}, the higher of planned and return height",
    )
    return Finding(status, value, limit, used, sentence, working, follows)


def wanted_action(a: Assessment) -> tuple[LostLink, str]:
    """The lost-link action that the site asks for, and why."""
    s = a.situation
    if s.site.indoors:
        return LostLink.HOVER, "indoors a climb meets the roof"
    if s.site.from_boat:
        return LostLink.HOVER, "the home point stays behind while the boat moves"
    rule = s.minimums.lost_link
    if rule is not LostLinkRule.BY_SITE:
        return LostLink(rule.value), "you always do so"
    if a.return_height.recommended_m is None:
        return LostLink.HOVER, "no return height serves here"
    return LostLink.RETURN, "a return height clears and comes home"


@check("return.lost_link", "When the link is lost", "", "Decided from the site: common practice, no published source.")
def lost_link(a: Assessment, u: Units) -> Finding:  # noqa: ARG001 - has no unit
    """Lost-link action against what the site asks for."""
    given = a.situation.settings.lost_link
    wanted, why = wanted_action(a)
    working = (f"Set to {given}; the site asks for {wanted}: {why}",)
    if given is wanted:
        return Finding(Status.PASS, None, None, 0.0, f"Lost link is set to {given}: {why}.", working, shown=str(given))
    status = Status.FAIL if a.situation.site.indoors else Status.CARE
    sentence = f"Lost link is set to {given}. Set it to {wanted}: {why}."
    return Finding(status, None, None, 1.25, sentence, working, shown=f"{given}, wants {wanted}")

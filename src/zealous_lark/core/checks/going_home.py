"""The return height against obstacles, the wind above and the legal limit."""

from __future__ import annotations

from collections.abc import Callable

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
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.return_clearance import clearance_m
from zealous_lark.core.return_height import CeilingLimit
from zealous_lark.core.situation import LostLink, Situation, SpeedMode
from zealous_lark.core.units import Units, angle, percent

WASTEFUL_M = 30.0
"""This much above the recommended height costs charge and meets more wind [m]; common practice."""


def _nothing_serves(a: Assessment, u: Units) -> str:
    r = a.return_height
    return (
        f"No return height works here: clearing obstacles takes {u.length(r.lowest_m)}, but it can get home only from "
        f"{u.length(r.highest_m or 0)} or lower. Fly nearer, change bearing or take-off point, or set lost link to "
        "hover and be ready to walk to it."
    )


def _fixed_height(a: Assessment, u: Units, fixed: float) -> str:
    """What the pilot's one return height for every place means here."""
    r = a.return_height
    if fixed < r.lowest_m:
        return f"Your fixed {u.length(fixed)} is too low here."
    if r.highest_m is not None and fixed > r.highest_m:
        return f"Your fixed {u.length(fixed)} is above {u.length(r.highest_m)}, the highest from which it can get home."
    if a.flyer is None:
        return f"Your fixed {u.length(fixed)} would clear."
    lowest, high = (float(x) for x in a.flyer.landing_pct([r.lowest_m, fixed]))
    return f"Your fixed {u.length(fixed)} costs {lowest - high:.0f} points more than the lowest that clears."


BARE_CARE_M = 5.0
"""How far under the bare floor still is care, not worse [m]; common practice."""


@check(
    "return.clearance",
    "Return height (min)",
    "m",
    "Clearance: " + OWN_MINIMUM + " What stands a fifth further out, at least 20 m, counts as care: common practice.",
    bound=Bound.AT_LEAST,
    indoors=False,
)
def clearance(a: Assessment) -> Finding:
    """Return height as set against the lowest that clears the obstacles."""
    s, r = a.situation, a.return_height
    value, o = s.settings.rth_altitude_m, r.governing
    used = share_of_floor(value, r.lowest_m)
    band = BARE_CARE_M if o is None else float(clearance_m(o.height_m, s.minimums.rth_margin_m)) / 2
    say: Callable[[Units], str]
    if value < r.lowest_m:
        stays_put = r.recommended_m is None and s.settings.lost_link is LostLink.HOVER
        status = Status.CARE if value >= r.lowest_m - band or stays_put else Status.FAIL
        bare = status is Status.CARE and not stays_put

        def say(u: Units) -> str:
            return _too_low(a, u, bare=bare, stays_put=stays_put)
    elif value < r.beyond_m:
        status = Status.CARE

        def say(u: Units) -> str:
            called = r.beyond.called if r.beyond is not None else "ground"
            return (
                f"Return height {u.length(value)} clears up to the far point, but the {called} a little beyond it "
                f"needs {u.length(r.beyond_m)}."
            )
    elif r.recommended_m is not None and value > max(r.recommended_m, r.beyond_m) + WASTEFUL_M:
        status, needed = Status.CARE, r.recommended_m

        def say(u: Units) -> str:
            return (
                f"Return height {u.length(value)} is well above the {u.length(needed)} needed: "
                "the climb uses charge and the wind is stronger up there."
            )
    else:
        status = Status.PASS

        def say(u: Units) -> str:
            return f"Return height {u.length(value)} clears everything around; the minimum is {u.length(r.lowest_m)}."

    hole = 0.0 if s.land is None else s.land.unknown_share(s.flight.distance_m)
    if hole > 0 and status is not Status.FAIL:
        return Finding(
            Status.UNKNOWN,
            value,
            r.lowest_m,
            used,
            lambda u: (
                f"Ground height is unknown for {percent(100 * hole)} of the area within "
                f"{u.length(s.flight.distance_m)}; the known part needs {u.length(r.lowest_m)}."
            ),
            lambda u: _clearance_working(a, hole, u),
            question="How high is the ground where the terrain has holes? Draw it, or import a terrain without them.",
        )
    fixed = s.minimums.rth_fixed_m
    return Finding(
        status,
        value,
        r.lowest_m,
        used,
        say if fixed is None else lambda u: f"{say(u)} {_fixed_height(a, u, fixed)}",
        lambda u: _clearance_working(a, hole, u),
    )


def _too_low(a: Assessment, u: Units, *, bare: bool, stays_put: bool) -> str:
    """What a return height under the lowest that clears means here. bare: it clears, by less than the margin."""
    s, r = a.situation, a.return_height
    value, o = s.settings.rth_altitude_m, r.governing
    set_to = f"Return height {u.length(value)}"
    if o is not None and value <= o.height_m:
        sentence = f"{set_to} is below the top of the {o.called} ({u.length(o.height_m)}). "
        sentence += f"It needs {u.length(r.lowest_m)}."
    elif bare and o is not None:
        sentence = f"{set_to} clears the {o.called} by less than your margin."
    else:
        over = f"the {o.called}" if o is not None else "your minimum"
        sentence = f"{set_to} is too low: {over} needs {u.length(r.lowest_m)}."
    if r.recommended_m is not None:
        return f"{sentence} Set {u.length(r.recommended_m)}."
    if stays_put:
        return f"{sentence} No height works here, so hover is right: know how you walk there, and never press return."
    return f"{sentence} {_nothing_serves(a, u)}"


def _clearance_working(a: Assessment, hole: float, u: Units) -> tuple[str, ...]:
    s, r = a.situation, a.return_height
    o, margin, within = r.governing, s.minimums.rth_margin_m, u.length(s.flight.distance_m)
    unknown = (f"{percent(100 * hole)} of the ground within {within} is not known",) if hole > 0 else ()
    if o is None:
        return (f"Nothing within {within} needs more than your {u.length(s.minimums.rth_floor_m)} minimum", *unknown)
    return (
        f"Highest within {within}: {o.called} {u.length(o.height_m)} at {u.length(o.distance_m)} towards "
        f"{angle(o.bearing_deg)}",
        f"Clearance {u.length(float(clearance_m(o.height_m, margin)))} "
        f"(the more of {u.length(margin)} and a tenth of the height): {u.length(r.lowest_m)}",
        *unknown,
    )


@check(
    "return.ceiling",
    "Return height (max)",
    "m",
    "Wind triangle, power model and legal height of your rules.",
    indoors=False,
    above=True,
)
def ceiling(a: Assessment) -> Finding:
    """Return height as set against the highest that still comes home, and the legal height."""
    s, r = a.situation, a.return_height
    value, legal = s.settings.rth_altitude_m, s.minimums.legal_height_m
    if r.highest_m is None and value <= legal:
        return wind_not_known(legal)
    limit = legal if r.highest_m is None else min(r.highest_m, legal)
    used = share_of_ceiling(value, limit)
    above_all = max(value, s.flight.height_m)
    status = Status.PASS if value <= limit else Status.FAIL
    nowhere = status is Status.FAIL and limit <= 0

    def reason(u: Units) -> str:
        if r.limited_by is CeilingLimit.WIND:
            return f"the wind leaves less than {u.speed(s.minimums.return_speed_ms)} home"
        if r.limited_by is CeilingLimit.CHARGE:
            return "higher up the battery does not keep your reserve"
        return f"your rules stop at {u.length(legal)}"

    def say(u: Units) -> str:
        if nowhere:
            return f"No return height gets it home from there: {reason(u).replace('higher up ', '')}."
        if status is Status.FAIL and r.recommended_m is None:
            return _nothing_serves(a, u)
        if status is Status.FAIL:
            return f"Return height {u.length(value)} is too high: {reason(u)}. The maximum here is {u.length(limit)}."
        return f"Return height {u.length(value)}; the maximum here is {u.length(limit)}."

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Highest that works {u.length(limit)}: {reason(u)}",
            f"Flown home at {u.length(above_all)}, the higher of planned and return height",
        )

    return Finding(status, value, limit, used, say, work, "battery.budget" if nowhere else None)


def accepted_actions(a: Assessment) -> tuple[tuple[LostLink, ...], str]:
    """The lost-link actions that the site accepts, the one it asks for first, and why."""
    s = a.situation
    if s.site.indoors:
        return (LostLink.HOVER,), "indoors a climb meets the roof"
    if s.site.from_deck:
        return (LostLink.HOVER,), f"the home point stays behind while the {s.site.platform.kind} moves"
    rule = s.minimums.lost_link
    if rule is not LostLinkRule.BY_SITE:
        return (LostLink(rule.value),), "you always do so"
    if a.return_height.recommended_m is None:
        return (LostLink.HOVER,), "no return height works here; know how you walk there"
    if _walled_in(a):
        return (LostLink.RETURN, LostLink.HOVER), "a return height clears, and among walls it may as well stay"
    return (LostLink.RETURN,), "a return height clears and comes home"


def wanted_action(a: Assessment) -> tuple[LostLink, str]:
    """The lost-link action that the site asks for, and why."""
    actions, why = accepted_actions(a)
    return actions[0], why


WALLS_NEAR_M = 50.0
"""Walls this far beyond the flight still stand around it [m]; common practice."""
_WALLS = frozenset({ObstacleKind.BUILDING, ObstacleKind.TERRAIN})


def _walled_in(a: Assessment) -> bool:
    """Whether walls that are higher than the flight stand around it."""
    f = a.situation.flight
    near = a.world.around(f.distance_m + WALLS_NEAR_M)
    return any(o.kind in _WALLS and o.height_m > f.height_m for o in near)


@check("return.lost_link", "Lost-link action", "", "Decided from the site: common practice, no published source.")
def lost_link(a: Assessment) -> Finding:
    """Lost-link action against what the site asks for."""
    s = a.situation
    given = s.settings.lost_link
    actions, why = accepted_actions(a)
    working = (f"Set to {given}; the site accepts {' or '.join(actions)}: {why}",)
    no_way = not s.site.indoors and given is LostLink.RETURN and a.return_height.recommended_m is None
    in_water = given is LostLink.LAND and s.over_water
    if in_water or (no_way and not s.site.from_deck):
        sentence = (
            "Lost link is set to land, over water: it would land in it."
            if in_water
            else f"Lost link is set to return, and no return height clears. Set it to {actions[0]}: {why}."
        )
        return Finding(Status.FAIL, None, None, 1.5, sentence, working, shown=f"{given} (should be {actions[0]})")
    if given in actions:
        return Finding(Status.PASS, None, None, 0.0, f"Lost link is set to {given}: {why}.", working, shown=str(given))
    status = Status.FAIL if s.site.indoors else Status.CARE
    sentence = f"Lost link is set to {given}. Set it to {actions[0]}: {why}."
    return Finding(status, None, None, 1.25, sentence, working, shown=f"{given} (should be {actions[0]})")


DRIFT_CARE_M, DRIFT_FAIL_M = 10.0, 50.0


def _from_deck(situation: Situation) -> bool:
    return situation.site.from_deck


@check(
    "return.home_drift",
    "Home point left behind",
    "m",
    "The home point stays where it was set. Over 50 m from the deck return to home loses the aircraft: common "
    "practice, no published source.",
    only=_from_deck,
    indoors=False,
)
def home_drift(a: Assessment) -> Finding:
    """How far the deck will be from where the home point was set, by the landing."""
    s, platform = a.situation, a.situation.site.platform
    minutes = (a.landing_at - s.takeoff_at).total_seconds() / 60
    drift = platform.speed_ms * minutes * 60
    used = share_of_ceiling(drift, DRIFT_FAIL_M)
    by_button = s.flight.return_mode is SpeedMode.RTH

    def work(u: Units) -> tuple[str, ...]:
        return (
            f"Deck at {u.speed(platform.speed_ms)} towards {angle(platform.course_deg)} for {minutes:.1f} min: "
            f"{u.length(drift)}",
        )

    def say(u: Units) -> str:
        if drift <= DRIFT_CARE_M:
            return f"The {platform.kind} moves {u.length(drift)} while it flies. Two people to launch and catch."
        return (
            f"By the landing the home point lies {u.length(drift)} behind the {platform.kind}. Never press return to "
            "home: fly manually to the deck, and set the home point again there."
        )

    if drift > DRIFT_FAIL_M and by_button:
        return Finding(Status.FAIL, drift, DRIFT_FAIL_M, max(used, 1.01), say, work)
    return Finding(Status.CARE if drift > DRIFT_CARE_M else Status.PASS, drift, DRIFT_FAIL_M, used, say, work)

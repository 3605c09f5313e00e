"""Radio range against trees, hills and noise."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import OWN_MINIMUM, Bound, Finding, Status, check, share_of_floor
from zealous_lark.core.minimums import CompassRule
from zealous_lark.core.radio import BANDS_GHZ, margin_on_db, open_range_m
from zealous_lark.core.situation import LostLink, Situation
from zealous_lark.core.units import Units, angle, decibels

CONTROL_AT_RISK_DB = 3.0


@check(
    "signal.margin",
    "Video link",
    "dB",
    "Free-space loss; knife edge ITU-R P.526; foliage Weissberger 1982, from memory. "
    "Noise and control at risk under 3 dB: common practice. Margin wanted: " + OWN_MINIMUM,
    bound=Bound.AT_LEAST,
)
def margin(a: Assessment) -> Finding:
    """Signal margin at the farthest point against the margin wanted."""
    s, found = a.situation, a.signal
    value, limit = found.margin_db, s.minimums.link_margin_db
    status = Status.FAIL if value < CONTROL_AT_RISK_DB else Status.CARE if value < limit else Status.PASS

    def say(_: Units) -> str:
        behind = f" behind the {found.obstacle.called}" if found.obstacle is not None else ""
        at, least = f"at the far point{behind}", decibels(limit)
        return {
            Status.FAIL: f"You could lose control: only {decibels(value)} of signal margin {at}.",
            Status.CARE: f"The video may break up: {decibels(value)} of margin {at}; your minimum is {least}.",
            Status.PASS: f"{decibels(value)} of signal margin {at}; your minimum is {least}.",
        }[status]

    return Finding(status, value, limit, share_of_floor(value, limit), say, lambda u: _margin_working(a, u))


def _margin_working(a: Assessment, u: Units) -> tuple[str, ...]:
    s, found = a.situation, a.signal
    value = found.margin_db
    allowed = s.aircraft.region_power_db
    power = f" with {allowed:+.0f} dB of power here" if allowed else ""
    working = [
        f"Open range {u.length(open_range_m(s))}{power} against {u.length(found.slant_m)} from hand to aircraft: "
        f"{value + found.obstruction_db + found.noise_db:.1f} dB"
    ]
    if found.obstacle is not None:
        o = found.obstacle
        working.append(
            f"{o.called.capitalize()} {u.length(o.height_m)} at {u.length(o.distance_m)} towards "
            f"{angle(o.bearing_deg)}: −{found.obstruction_db:.1f} dB"
        )
    if found.noise_db > s.site.radio_loss_db:
        noise = found.noise_db - s.site.radio_loss_db
        working.append(f"{s.site.radio_noise.capitalize()} radio noise: −{noise:.0f} dB")
    if s.site.radio_loss_db:
        working.append(f"What earlier flights lost here beyond the model: −{s.site.radio_loss_db:.0f} dB")
    working.append(_other_band(a, value))
    limit = s.minimums.link_margin_db
    working.append(f"Margin {value:.1f} dB; it falls to {limit:g} dB at {u.length(found.range_m)} behind the same")
    return tuple(working)


def _other_band(a: Assessment, value: float) -> str:
    """What the other of the usual bands would leave, and which is better here."""
    here = a.situation.aircraft.link.band_ghz
    other = max(BANDS_GHZ, key=lambda band: abs(band - here))
    there = margin_on_db(a.situation, other, a.slant_m)
    better = (
        f"{other:g} GHz is better here, if yours has it" if there > value + 0.5 else f"{here:g} GHz is no worse here"
    )
    return f"At {other:g} GHz {there:.1f} dB would be left: {better}"


TOO_FEW_SATELLITES = 6


@check(
    "signal.satellites",
    "Satellites",
    "",
    "Older school 7, newer school 11 or more: common practice. " + OWN_MINIMUM,
    bound=Bound.AT_LEAST,
    indoors=False,
)
def satellites(a: Assessment) -> Finding:
    """Satellites against the minimum to lift off with."""
    value, limit = a.situation.settings.satellites, a.situation.minimums.satellites
    if value is None:
        return Finding(Status.UNKNOWN, None, limit, None, "Not read from the aircraft yet.",
                       question="How many satellites does the aircraft show, after 30 to 45 seconds?",
                       matters=False)  # fmt: skip
    status = Status.FAIL if value <= TOO_FEW_SATELLITES else Status.CARE if value < limit else Status.PASS
    sentence = {
        Status.FAIL: f"Only {value} satellites: it may not hold position.",
        Status.CARE: f"{value} satellites; your minimum is {limit}. Wait half a minute, away from walls and trees.",
        Status.PASS: f"{value} satellites; your minimum is {limit}.",
    }[status]
    working = (f"{value} read, {limit} wanted, never {TOO_FEW_SATELLITES} or fewer",)
    return Finding(status, value, limit, share_of_floor(value, limit), sentence, working,
                   shown=f"{value} (min {limit})")  # fmt: skip


def _comes_home(situation: Situation) -> bool:
    return not (situation.site.indoors and situation.settings.lost_link is LostLink.HOVER)


@check(
    "signal.home_point",
    "Home point",
    "",
    "The home point must be confirmed before leaving the ground: common practice.",
    only=_comes_home,
)
def home_point(a: Assessment) -> Finding:
    """Whether the home point is confirmed."""
    confirmed = a.situation.settings.home_point_set
    if confirmed is None:
        return Finding(Status.UNKNOWN, None, None, None, "Not confirmed by the aircraft yet.",
                       question="Has the aircraft confirmed its home point where you are now?",
                       matters=False)  # fmt: skip
    moving = " It stays where it was set: set it again as your deck moves." if a.situation.site.from_deck else ""
    if confirmed:
        return Finding(Status.PASS, None, None, 0.0, f"The home point is confirmed.{moving}", ("Confirmed",),
                       shown="confirmed")  # fmt: skip
    sentence = "No home point: the aircraft would return to the wrong place, or not at all."
    return Finding(Status.FAIL, None, None, 2.0, sentence, ("Not confirmed",), shown="not set")


def _asks_for_compass(situation: Situation) -> bool:
    return situation.minimums.compass is not CompassRule.WHEN_ASKED


@check(
    "signal.compass",
    "Compass",
    "",
    "Where it is new, over 50 km from the last place, after an impact or firmware: common practice. " + OWN_MINIMUM,
    only=_asks_for_compass,
    indoors=False,
)
def compass(a: Assessment) -> Finding:
    """Whether the compass is in order, by the pilot's own rule."""
    checked, site = a.situation.settings.compass_checked, a.situation.site
    boat = " Never calibrate on a boat: do it ashore." if site.from_boat else ""
    if checked is None:
        question = (
            "Have you calibrated the compass here, as you always do?"
            if a.situation.minimums.compass is CompassRule.ALWAYS
            else "Have you calibrated the compass if it needs it: over 50 km away, after an impact or firmware?"
        )
        return Finding(Status.UNKNOWN, None, None, None, f"Not confirmed yet.{boat}", question=question + boat,
                       matters=False)  # fmt: skip
    if checked:
        return Finding(Status.PASS, None, None, 0.0, "The compass is in order.", ("Said by the pilot",),
                       shown="in order")  # fmt: skip
    return Finding(Status.CARE, None, None, 1.25, f"A compass calibration is due.{boat}", ("Said by the pilot",),
                   shown="due")  # fmt: skip

"""Emergency cards: what to do first, with the numbers of this flight in it. Common practice."""

from __future__ import annotations

from dataclasses import dataclass

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.over_ground import mode_name
from zealous_lark.core.flight.card import FlightCard, flight_card
from zealous_lark.core.units import METRIC, Units, angle, percent

WORTH_COMING_DOWN_MS = 0.5
"""So much more ground speed is worth being told [m/s]."""


@dataclass(frozen=True, slots=True)
class EmergencyCard:
    """One screen: what it is about, what to do in order, and this flight's numbers."""

    key: str
    title: str
    steps: tuple[str, ...]
    numbers: tuple[str, ...]


def _way_home(a: Assessment, u: Units) -> list[str]:
    s = a.situation
    home = (s.flight.bearing_deg + 180) % 360
    lines = [f"Bearing home from the far point: {angle(home)}."]
    if a.wind_return is None:
        return lines
    wind = a.wind_return
    off = abs((wind.direction_deg - home + 180) % 360 - 180)
    against = "against you" if off < 60 else "from the side" if off < 120 else "with you"
    lines.append(f"Wind at the return height {u.speed(wind.speed_ms)} from {angle(wind.direction_deg)}: {against}.")
    if a.flyer is not None:
        at_height = {h: float(a.flyer.speed_home_ms(s.flight.bearing_deg, h)) for h in (s.return_height_m, _clear(a))}
        speed, lower = at_height[s.return_height_m], at_height[_clear(a)]
        if speed > 0:
            lines.append(f"Ground speed home: {u.speed(speed)}.")
        if lower > max(speed, 0) + WORTH_COMING_DOWN_MS or (lower > 0 and not speed > 0):
            lines.append(f"At {u.length(_clear(a))}: {u.speed(lower)}.")
    return lines


def _best_way(a: Assessment, u: Units) -> list[str]:
    """By which height and mode it comes home best, in this flight's numbers."""
    ways = a.best_way_home
    if ways is None:
        return []
    if ways.best is not None:
        w = ways.best
        return [
            f"Best flight home: {u.length(w.height_m)}, {mode_name(w.mode)}, {u.speed(w.ground_speed_ms)} ground "
            f"speed, landing with {percent(w.landing_pct)}."
        ]
    if ways.fastest is not None:
        w = ways.fastest
        return [f"Quickest home: {u.length(w.height_m)}, {mode_name(w.mode)}, only {u.speed(w.ground_speed_ms)}."]
    return ["By the forecast it can't get home at any clear height: land while you can."]


def _clear(a: Assessment) -> float:
    """The lowest height that still clears everything on the way home [m]."""
    return a.return_height.lowest_m


def _height(a: Assessment, u: Units) -> str:
    return f"Lowest clear height home: {u.length(_clear(a))} above take-off."


def _charge(a: Assessment, card: FlightCard | None) -> list[str]:
    s = a.situation
    lines = [f"Land with at least {percent(s.reserve_pct)}."]
    if card is not None and card.home is not None:
        far = s.flight.distance_m
        lines.append(f"Turn back from the far point at {percent(card.reserve_pct + card.home.pct(far))}.")
        lines.append(f"At {percent(card.forced_pct)} it lands itself, wherever it is.")
    return lines


def emergency_cards(a: Assessment, u: Units = METRIC) -> tuple[EmergencyCard, ...]:
    """All cards of a flight, in the order of how soon they must be read."""
    s = a.situation
    card = flight_card(a)
    way, height, charge = _way_home(a, u), _height(a, u), _charge(a, card)
    indoors, deck = s.site.indoors, s.site.from_deck
    lost = {"return": "return to home", "hover": "hover", "land": "land where it is"}
    lost_link = f"Lost-link setting: {lost[s.settings.lost_link.value]}."
    returns_at = f"The return is set to {u.length(s.settings.rth_altitude_m)}."
    moves = f"No return to home: the {s.site.platform.kind} is no longer where the home point is."
    by_sight = (
        "Home by sight, at arm's length, or land." if indoors
        else "Home by sight, to where you stand now." if deck
        else "Fly home by eye, or press return to home."
    )  # fmt: skip
    up = () if indoors else ("Climb a little.",)
    shown_height = [] if indoors else [returns_at, height]
    cancel = (
        () if indoors or deck else ("Never cancel a low-charge return; when it is over you, take the sticks back.",)
    )
    stop = "Stop the propellers from the sticks only if it is about to hurt somebody."
    rows: tuple[tuple[str, str, tuple[str, ...], list[str]], ...] = (
        (
            "no_way_home", "Can't get home against the wind",
            ("Fast mode, nose towards you.", "Go to the best height below, up or down: the wind changes with it.",
             moves if deck else "No return to home: it climbs into more wind and is slower.",
             "Still not getting closer? Land in the open while you can. Note where."),
            [*_best_way(a, u), *way, height, *charge],
        ),
        (
            "charge", "Battery draining fast",
            ("Down now, gently." if indoors else "Come home now, low and gently.",
             "Still draining fast? Land, clear of people.",
             "Find out why on the ground.", *cancel),
            charge if indoors else [*charge, *way[:1]],
        ),
        (
            "picture", "Picture frozen",
            ("It's still flying. Let go of the sticks.", "Look up, find it.",
             "Antennas to it." if indoors else "Step into the open. Point the antennas at it.",
             *up, by_sight, *((moves,) if deck else ())),
            [] if indoors else [*way[:1], *shown_height],
        ),
        (
            "control", "Control lost",
            ("Wait 5 to 10 seconds; keep the controller on.", "The aircraft now follows its lost-link setting.",
             "Walk closer, antennas to it." if indoors else "Walk into the open, antennas to it.",
             "Keep people away from under it." if indoors else "Watch where it goes; keep people away from the pad.",
             *((moves,) if deck else ())),
            [lost_link, *shown_height],
        ),
        (
            "display", "Display dead",
            ("The aircraft still flies. Look at it.", "Let go of the sticks, then land it manually.") if indoors
            else ("The aircraft still flies. Look up.", "Climb if it is near anything.",
                  "Fly home manually, to where you stand now." if deck
                  else "Fly home manually, or press return to home.",
                  *((moves,) if deck else ())),
            [] if indoors else [*way[:1], returns_at],
        ),
        (
            "bird", "Bird attacks",
            ("Keep moving; do not stop.", "Climb: most birds dive.", "Leave, and land well away from them."),
            [f"Ceiling here: {u.length(s.minimums.legal_height_m)} above the ground."],
        ),
        (
            "drifting", "Drifting, spinning, can't see which way it's pointing",
            ("Let go of the sticks. Breathe.", "Turn until you see its tail.",
             "Small moves, tail towards you, down." if indoors else "Tail to you. Small movements. Fly home.", stop),
            [] if indoors else way[:2],
        ),
        (
            "fog", "Fog or low cloud below it",
            ("Stop going out.", "Straight down in sight, slowly.",
             "Never enter cloud: sensors fail and propellers ice up.",
             "Land by sight: fog and snowflakes fool the sensors that look down."),
            [height] if a.cloud_base_m is None else [f"Cloud base about {u.length(a.cloud_base_m)}.", height],
        ),
        (
            "rain", "Rain or snow begins",
            ("Home and down now.", "Battery out, wipe it, dry it before the next flight."),
            [*way[:1], *charge[:1]],
        ),
        (
            "landing", "Landing place not clear",
            ("Hover above head height, away from people.", "Call out; wait while the charge allows.",
             "Otherwise land at your alternate spot."),
            charge[:1],
        ),
        (
            "down", "Aircraft down",
            ("Line it up with a landmark. Note the bearing.", "People first. Then note where it is.",
             "Power off and battery out before you touch it.", "Report it where your rules ask for it."),
            [] if indoors else
            [f"Planned point: {angle(s.flight.bearing_deg)}, {u.length(s.flight.distance_m)} out.", *way[1:2]],
        ),
        (
            "pack", "Battery swollen, hot or wet",
            ("Set it down outside, on sand or stone, away from everything that burns.",
             "Keep people away. On fire? Get away and call for help.", "Do not charge, carry inside or fly it again."),
            [],
        ),
    )  # fmt: skip
    skip = {"no_way_home", "bird", "fog", "rain"} if indoors else set()
    return tuple(EmergencyCard(key, title, steps, tuple(n)) for key, title, steps, n in rows if key not in skip)

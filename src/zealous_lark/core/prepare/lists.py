"""The kit list: what a session asks for, how much of it, and why. All of it is common practice."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum


class Group(StrEnum):
    AT_HOME = "at_home"
    AIRCRAFT = "aircraft"
    POWER = "power"
    CAMERA = "camera"
    SITE = "site"
    SELF = "self"


class When(StrEnum):
    """Sessions that an item of the pilot's own goes on the list of."""

    ALWAYS = "always"
    COLD = "cold"
    WATER = "water"
    BOAT = "boat"
    INDOORS = "indoors"
    FIRST_FLIGHTS = "first_flights"
    FAR = "far"
    RISKY = "risky"
    DARK = "dark"


@dataclass(frozen=True, slots=True)
class Context:
    """What the list depends on.

    packs: how many are taken; dark: some of it before sunrise or
    after sunset; bright: sun over 10° high; far: more than an hour away. feels_c: wind chill at the pilot's
    height [°C], None where it is no colder than the air.
    """

    packs: int
    rotor_count: int
    cold: bool = False
    water: bool = False
    boat: bool = False
    indoors: bool = False
    first_flights: bool = False
    far: bool = False
    risky: bool = False
    dark: bool = False
    bright: bool = False
    feels_c: float | None = None

    def has(self, when: When) -> bool:
        """Whether the session is of a kind."""
        return when is When.ALWAYS or bool(getattr(self, when.value))


@dataclass(frozen=True, slots=True)
class Item:
    """An entry of the list: its own key, name, how many, why it is on this list, group.

    days_before: for what is done at home, how many days before the session.
    """

    key: str
    name: str
    count: int
    why: str
    group: Group
    days_before: int | None = None


_Rule = tuple[str, str, Group, Callable[[Context], tuple[int, str] | None], int | None]


def _always(count: int, why: str) -> Callable[[Context], tuple[int, str] | None]:
    return lambda _: (count, why)


def _when(flag: str, why: str, count: int = 1) -> Callable[[Context], tuple[int, str] | None]:
    return lambda c: (count, why) if getattr(c, flag) else None


def _propeller_pairs(c: Context) -> tuple[int, str]:
    # Both blades of a motor are changed together, and each handedness has its own: a pair of each.
    pairs = 2 if not (c.far or c.first_flights) else max(2, c.rotor_count)
    more = ", more because it is far" if c.far else ", more for first flights" if c.first_flights else ""
    return pairs, f"A pair of each handedness; both blades of a motor are changed{more}."


def _cards(c: Context) -> tuple[int, str]:
    if c.risky:
        return 2, "One in the aircraft, one to swap in before the risky shot: what is filmed stays with you."
    return 1, "A spare one, besides the one in the aircraft."


def _warmers(c: Context) -> tuple[int, str] | None:
    return (c.packs, "One for each battery: a warm battery flies longer.") if c.cold and c.packs else None


def _fingers(c: Context) -> str:
    """Why the fingers want warmth; how long they last is not said, as there is no source for it."""
    felt = f" It feels like {c.feels_c:.0f} °C in the wind." if c.feels_c is not None else ""
    return f"Half an hour of standing still slows the fingers.{felt}"


def _pad(c: Context) -> tuple[int, str] | None:
    if c.boat or c.indoors:
        return None
    return 1, "Flat, clean and dry to start from, and a mark for where home is."


_RULES: tuple[_Rule, ...] = (
    ("firmware", "Check for firmware updates, on a good connection", Group.AT_HOME,
     _always(1, "An update that starts in the field costs the session."), 2),
    ("backup", "Empty the card and back up", Group.AT_HOME, _always(1, "Room for this session."), 1),
    ("format", "Format the card in the aircraft", Group.AT_HOME,
     _always(1, "Cards formatted in the aircraft give fewer write errors."), 1),
    ("charge", "Everything on charge", Group.AT_HOME, _always(1, "Batteries, controller and display."), 1),
    ("rules", "Look up the rules and zones of the place", Group.AT_HOME,
     _always(1, "They change; the authority's word counts."), 1),
    ("aircraft", "Aircraft, gimbal cover on", Group.AIRCRAFT, _always(1, "It travels with its cover on."), None),
    ("propellers", "Pairs of spare propellers", Group.AIRCRAFT, lambda c: _propeller_pairs(c), None),
    ("screwdriver", "Screwdriver for the propellers", Group.AIRCRAFT, _always(1, "To change them on site."), None),
    ("guards", "Propeller guards", Group.AIRCRAFT, _when("indoors", "Indoors only."), None),
    ("packs", "Flight batteries", Group.POWER, lambda c: (c.packs, "All that you chose.") if c.packs else None, None),
    ("controller", "Controller", Group.POWER, _always(1, "Charged."), None),
    ("sticks", "Spare control sticks", Group.POWER, _always(2, "They come off in the bag, and get lost."), None),
    ("display", "Phone or tablet, charged", Group.POWER, _always(1, "With its own radio off when flying."), None),
    ("cable", "Display cables", Group.POWER,
     lambda c: (2, "The one that is needed, and a spare far from home.") if c.far else (1, "The one that fits."), None),
    ("bank", "Power bank", Group.POWER,
     _when("far", "Far from a socket. It must give the volts and amps that the batteries' charger asks for: a common "
           "one of 5 V and 2 A charges no battery of three cells."), None),
    ("warmers", "Hand warmers for the batteries", Group.POWER, lambda c: _warmers(c), None),
    ("pouch", "Insulated pouch for the batteries", Group.POWER, _when("cold", "Warm until they fly."), None),
    ("cards", "Memory cards, spare", Group.CAMERA, lambda c: _cards(c), None),
    ("cloth", "Lens cloth", Group.CAMERA, _always(1, "Dew, spray and fingers."), None),
    ("filters", "Neutral-density filters", Group.CAMERA, _when("bright", "The sun is high; put on at home."), None),
    ("hood", "Display hood or shade", Group.CAMERA, _when("bright", "To see the picture in the sun."), None),
    ("pad", "Landing pad", Group.SITE, lambda c: _pad(c), None),
    ("meter", "Wind meter", Group.SITE,
     lambda c: None if c.indoors else (1, "To check the wind against the forecast."), None),
    ("vest", "Bright vest", Group.SITE, lambda c: None if c.indoors else (1, "So that people see who flies."), None),
    ("papers", "Registration, insurance, certificate", Group.SITE, _always(1, "As your authority asks."), None),
    ("towel", "Towel and dry bag", Group.SITE,
     lambda c: (1, "For spray, and what falls in.") if c.water or c.boat else None, None),
    ("floats", "Line and float for the landing net", Group.SITE, _when("boat", "A catch can go over the side."), None),
    ("gloves", "Catching gloves", Group.SITE, _when("boat", "It is caught by hand on a boat."), None),
    ("helper", "A second person", Group.SITE,
     lambda c: (1, "Launching and catching from a boat takes two.") if c.boat
     else (1, "To watch the aircraft on first flights.") if c.first_flights else None, None),
    ("lifejacket", "Life jacket", Group.SELF,
     lambda c: (1, "You look at the screen, not at the edge.") if c.boat or c.water else None, None),
    ("glasses", "Eye protection", Group.SELF, _when("indoors", "Indoors it flies close."), None),
    ("lamp", "Head torch", Group.SELF, _when("dark", "It is dark when you set up or pack up."), None),
    ("warm", "Thin gloves, hat, something hot", Group.SELF,
     lambda c: (1, _fingers(c)) if c.cold else None, None),
    ("closed_bag", "Bag that closes, for the way home", Group.SELF,
     _when("cold", "Cold gear warms up inside it, or it gets wet."), None),
)  # fmt: skip


def kit_list(context: Context) -> tuple[Item, ...]:
    """The items that a session asks for, by group, each once."""
    found = []
    for key, name, group, rule, days in _RULES:
        asked = rule(context)
        if asked is not None:
            count, why = asked
            found.append(Item(key, name, count, why, group, days))
    return tuple(found)


COLD_C = 5.0
"""Air under this makes a cold session [°C]; common practice."""


def warm_gain_min(seconds_cold: float, seconds_warm: float) -> float:
    """Minutes in the air that a warm pack gives over a cold one [min], to the half minute."""
    return math.floor((seconds_warm - seconds_cold) / 30) / 2

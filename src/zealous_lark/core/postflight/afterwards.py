"""What is left to do after landing, fitted to the flight. Common practice."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Aftercare:
    """What the flight was like: cold outside, wet (rain, snow, spray), over water, a shot worth a card of its own."""

    cold: bool = False
    wet: bool = False
    water: bool = False
    risky: bool = False
    near_miss: bool = False


@dataclass(frozen=True, slots=True)
class Chore:
    """Something to do, and why in a line."""

    key: str
    text: str
    why: str


def chores(after: Aftercare) -> tuple[Chore, ...]:
    """In the order of the hands: at the pad, on the way, at home."""
    rows = (
        (True, "off", "Power off, battery out, gimbal cover on", "Carry it powered off, with the gimbal covered."),
        (True, "look", "Look at propellers, motors and arms", "Find a nick now, not on the next flight."),
        (after.near_miss, "knock", "Log the impact or near miss under maintenance", "It decides what is due next."),
        (after.wet or after.water, "wipe", "Wipe it dry, battery bay too", "Water creeps into motors and contacts."),
        (after.cold, "bag", "Close the bag before you go indoors", "Cold gear in a warm room gets wet inside."),
        (
            True,
            "card",
            "Change the card; keep the flown one apart",
            "If you then lose the aircraft, you lose only one flight's footage.",
        ),
        (True, "copy", "Copy the pictures to two places", "A card is not a place to keep them."),
        (True, "cool", "Batteries to room temperature before charging", "Hot or cold cells age when charged."),
        (True, "storage", "Batteries to storage charge, about half", "Left full or empty for days, batteries swell."),
        (
            after.risky,
            "thanks",
            "Tell anyone who should know that you've landed",
            "The observer, the land owner, the tower.",
        ),
    )
    return tuple(Chore(key, text, why) for wanted, key, text, why in rows if wanted)

"""What goes wrong on a flight, in numbers: from when, how fast it grows, and what it does to air, charge and radio.

What it does beyond the wind is common practice or Lark's own, no published source: each says so where it stands.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum


class Kind(StrEnum):
    """What goes wrong, or nothing."""

    NONE = "none"
    HEADWIND = "headwind"
    DRAIN = "drain"
    PICTURE = "picture"
    LINK = "link"
    FOG = "fog"
    BIRD = "bird"
    PAD = "pad"
    BOAT = "boat"


@dataclass(frozen=True, slots=True)
class Mishap:
    """What goes wrong from `at_s` on, fully so `grows_s` later [s].

    wind_factor, wind_turn_deg: what the wind has grown to by then, and turned by. drain: what the battery drains over
    what it should; drop_points: what falls off its charge at once. noise_db: what the link loses where the pilot
    stands. picture_lost: the picture freezes, whatever the link. fog_rise_ms: how fast fog rises from the ground.
    bird: one attacks. pad_for_s: so long somebody stands where it is to land. The deck's drift [m/s east and north]
    begins then too.
    """

    kind: Kind
    at_s: float = 0.0
    grows_s: float = 0.0
    wind_factor: float = 1.0
    wind_turn_deg: float = 0.0
    drain: float = 1.0
    drop_points: float = 0.0
    noise_db: float = 0.0
    picture_lost: bool = False
    fog_rise_ms: float = 0.0
    bird: bool = False
    pad_for_s: float = 0.0
    deck_ms: tuple[float, float] = (0.0, 0.0)

    def grown(self, at_s: float) -> float:
        """How much of it is there at a moment [s], 0 to 1."""
        if at_s < self.at_s:
            return 0.0
        return 1.0 if self.grows_s <= 0 else min((at_s - self.at_s) / self.grows_s, 1.0)

    def wind(self, at_s: float) -> tuple[float, float, float]:
        """Factor on the wind then, and cosine and sine of how far it has turned clockwise."""
        share = self.grown(at_s)
        turn = math.radians(self.wind_turn_deg * share)
        return 1 + (self.wind_factor - 1) * share, math.cos(turn), math.sin(turn)

    def fog_top_m(self, at_s: float) -> float:
        """Height up to which fog stands then [m]."""
        return max(at_s - self.at_s, 0.0) * self.fog_rise_ms

    def pad_taken(self, at_s: float) -> bool:
        """Whether somebody stands where it is to land."""
        return self.at_s <= at_s < self.at_s + self.pad_for_s

    def deck(self, at_s: float) -> tuple[float, float]:
        """Where the pilot is then [m east and north of the home point]."""
        adrift = max(at_s - self.at_s, 0.0)
        return self.deck_ms[0] * adrift, self.deck_ms[1] * adrift

    @property
    def drifts(self) -> bool:
        """Whether the pilot leaves the home point behind."""
        return self.deck_ms != (0.0, 0.0)

"""Rule sets, reduced to what can be computed. From memory; the authority decides."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class RuleSet:
    """One set of rules as far as Lark can reckon with it.

    height_m: greatest height above the ground [m].
    mass_steps_g: masses from which other rules apply [g].
    people_m: least distance from uninvolved people [m], None where it is not one number.
    airfield_m: least distance from an airfield [m], None where it depends.
    night: what the rules say of flying at night.
    checked: the day on which the values were written down. source: where they come from.
    """

    id: str
    name: str
    authority: str
    checked: str
    source: str
    height_m: float
    mass_steps_g: tuple[float, ...]
    people_m: float | None
    airfield_m: float | None
    night: str
    notes: tuple[str, ...]

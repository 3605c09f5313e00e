"""Rule sets, reduced to what can be computed. From memory; the authority decides."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class RuleSet:
    """One set of rules as far as Lark can take them into account.

    height_m: greatest height above the ground [m].
    mass_steps_g: masses from which other rules apply [g].
    people_m: least distance from uninvolved people [m], None where it is not one number.
    airfield_m: least distance from an airfield [m], None where it depends.
    people_from_g, airfield_from_g: take-off mass from which that distance is asked [g], None: of every mass.
    depends: what else a distance or step depends on and Lark does not know, None for nothing.
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
    people_from_g: float | None = None
    airfield_from_g: float | None = None
    depends: str | None = None

    def people_for(self, mass_g: float) -> float | None:
        """Least distance from uninvolved people for a take-off mass [m]; None where none is asked."""
        return None if self.people_from_g is not None and mass_g < self.people_from_g else self.people_m

    def airfield_for(self, mass_g: float) -> float | None:
        """Least distance from an airfield for a take-off mass [m]; None where none is asked."""
        return None if self.airfield_from_g is not None and mass_g < self.airfield_from_g else self.airfield_m

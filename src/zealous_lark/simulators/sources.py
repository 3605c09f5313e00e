"""The simulated weather service as sources that Lark is connected to."""

from __future__ import annotations

from zealous_lark.sources import EdrSource
from zealous_lark.sources.edr import LONGEST_S

NAMES = {
    "forecast": ("fine", "Simulated forecast service"),
    "coarse": ("coarse", "Simulated coarse forecast"),
    "station": ("station", "Simulated weather station"),
}


def simulated_sources(url: str, longest_s: float = LONGEST_S) -> tuple[EdrSource, ...]:
    """One for each collection of the service under an address."""
    return tuple(
        EdrSource(
            url, collection, key, name, simulated=True, control=f"{url}/control", longest_s=longest_s, own_network=True
        )
        for key, (collection, name) in NAMES.items()
    )

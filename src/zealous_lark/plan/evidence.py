"""How the values of a plan are known, and which of them nobody has said."""

from __future__ import annotations

from zealous_lark.core.assumed import Assumed
from zealous_lark.plan.document import EvidencePart, How, PlanDocument

_UNSAID = (How.DEFAULT, How.COPIED)


def how_known(plan: PlanDocument, key: str) -> EvidencePart | None:
    """The evidence of a key path: its own, or of what it is part of; None where there is none."""
    steps = key.split(".")
    for n in range(len(steps), 0, -1):
        found = plan.evidence.get(".".join(steps[:n]))
        if found is not None:
            return found
    return None


def _unsaid(plan: PlanDocument, key: str) -> bool:
    found = how_known(plan, key)
    return found is None or found.how in _UNSAID


def assumed(plan: PlanDocument) -> frozenset[str]:
    """Keys of the weather and the battery whose values nobody has said.

    A figure that names the forecast or the reading that it came from is said. The winds are said as soon as one of
    them is.
    """
    weather, pack = plan.weather, plan.pack
    stated = {f"weather.{p.figure.value}" for p in weather.provenance}
    values = {
        Assumed.WINDS: all(_unsaid(plan, f"weather.winds.{n}") for n in range(len(weather.winds))),
        Assumed.TEMPERATURE: _unsaid(plan, Assumed.TEMPERATURE),
        Assumed.DEW_POINT: weather.dew_point_c is not None and _unsaid(plan, Assumed.DEW_POINT),
        Assumed.VISIBILITY: _unsaid(plan, Assumed.VISIBILITY),
        Assumed.PRECIPITATION: _unsaid(plan, Assumed.PRECIPITATION),
        Assumed.KP: _unsaid(plan, Assumed.KP),
        Assumed.CHARGE: _unsaid(plan, Assumed.CHARGE),
        Assumed.PACK_TEMPERATURE: pack.temperature_c is not None and _unsaid(plan, Assumed.PACK_TEMPERATURE),
    }
    return frozenset(key.value for key, unsaid in values.items() if unsaid and key.value not in stated)

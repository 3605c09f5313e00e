"""Learned values in force, put into plans that begin."""

from __future__ import annotations

from zealous_lark.plan import PlanDocument
from zealous_lark.plan.kit import AircraftItem, PackItem, read_item
from zealous_lark.store import Database, learned
from zealous_lark.store import kit as stored_kit

CONSUMPTION, HEALTH, RADIO = "consumption", "health", "radio"


def up_to_date(db: Database, plan: PlanDocument) -> PlanDocument:
    """A plan with what the kit now has of its aircraft's consumption and its pack's health, and the place's loss.

    What is no longer in the kit stays as the plan has it, without a number.
    """
    aircraft, pack, site = plan.aircraft, plan.pack, plan.site
    with db.transaction() as s:
        kit = {row.id: read_item(row.document) for row in stored_kit.every(s)}
        flies, with_pack = kit.get(aircraft.kit or 0), kit.get(pack.kit or 0)
        if isinstance(flies, AircraftItem):
            drawn = flies.aircraft.consumption_factor
            aircraft = aircraft.model_copy(update={"name": flies.aircraft.name, "consumption_factor": drawn})
        else:
            aircraft = aircraft.model_copy(update={"kit": None})
        if isinstance(with_pack, PackItem):
            pack = pack.model_copy(update={"label": with_pack.label, "health_pct": with_pack.health_pct})
        else:
            pack = pack.model_copy(update={"kit": None})
        loss = None if site.place is None else learned.in_force(s, RADIO, site.place)
    if loss is not None:
        site = site.model_copy(update={"radio_loss_db": loss})
    return plan.model_copy(update={"aircraft": aircraft, "pack": pack, "site": site})

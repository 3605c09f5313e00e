"""Learned values in force, put into plans that begin."""

from __future__ import annotations

from zealous_lark.plan import PlanDocument
from zealous_lark.plan.kit import AircraftItem, PackItem, read_item
from zealous_lark.store import Database, learned
from zealous_lark.store import kit as stored_kit

CONSUMPTION, HEALTH, RADIO = "consumption", "health", "radio"


def up_to_date(db: Database, plan: PlanDocument) -> PlanDocument:
    """A plan with what the kit now has of its aircraft's consumption and its pack's health, and the place's loss."""
    aircraft, pack, site = plan.aircraft, plan.pack, plan.site
    with db.transaction() as s:
        for row in stored_kit.every(s):
            item = read_item(row.document)
            if isinstance(item, AircraftItem) and item.aircraft.name == aircraft.name:
                aircraft = aircraft.model_copy(update={"consumption_factor": item.aircraft.consumption_factor})
            if isinstance(item, PackItem) and pack.label and item.label == pack.label:
                pack = pack.model_copy(update={"health_pct": item.health_pct})
        loss = None if site.place is None else learned.in_force(s, RADIO, site.place)
    if loss is not None:
        site = site.model_copy(update={"radio_loss_db": loss})
    return plan.model_copy(update={"aircraft": aircraft, "pack": pack, "site": site})

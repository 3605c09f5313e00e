"""Learned values in force, put into plans that begin."""

from __future__ import annotations

from zealous_lark.plan import PlanDocument
from zealous_lark.plan.kit import AircraftItem, PackItem, pack_of, read_item
from zealous_lark.store import Database, learned
from zealous_lark.store import kit as stored_kit

CONSUMPTION, HEALTH, RADIO, FORECAST = "consumption", "health", "radio", "forecast"


def health_in_plan(battery: PackItem, battery_wh: float) -> float:
    """A battery's health as a plan has it [%]: against the aircraft's own battery of so many Wh."""
    return min(max(round(pack_of(battery).health_for(battery_wh), 1), 1.0), 110.0)


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
            pack = pack.model_copy(
                update={"label": with_pack.label, "health_pct": health_in_plan(with_pack, aircraft.battery_wh)}
            )
        else:
            pack = pack.model_copy(update={"kit": None})
        loss = None if site.place is None else learned.in_force(s, RADIO, site.place)
    if loss is not None:
        site = site.model_copy(update={"radio_loss_db": loss})
    return plan.model_copy(update={"aircraft": aircraft, "pack": pack, "site": site})


def more_wind_of(db: Database, place: int | None) -> dict[str, float]:
    """What the forecasts are raised by at a place [m/s], by the keys of their sources; none without a place."""
    if place is None:
        return {}
    with db.transaction() as s:
        return learned.in_force_by_source(s, FORECAST, place)

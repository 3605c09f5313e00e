"""Plans that leave this Lark, and plans that come in: what they name by number here travels inside them."""

from __future__ import annotations

from datetime import datetime

from zealous_lark.plan import PlanDocument
from zealous_lark.plan.forecast import ForecastPart
from zealous_lark.services import kit, places, weather
from zealous_lark.store import Database


def carried(db: Database, plan: PlanDocument, *, heights: bool) -> PlanDocument:
    """The plan with its place and its forecast in it, without the numbers of the kit; heights: see `places.carried`."""
    plan = places.carried(db, plan, heights=heights)
    plan = plan.model_copy(
        update={
            "aircraft": plan.aircraft.model_copy(update={"kit": None}),
            "pack": plan.pack.model_copy(update={"kit": None}),
        }
    )
    if plan.outing is not None:
        plan = plan.model_copy(update={"outing": plan.outing.model_copy(update={"packs": None, "flights": None})})
    report = weather.stored_report(db, plan)
    if report is None:
        return plan
    changed = plan.weather.model_copy(update={"report": None})
    forecast = ForecastPart.model_validate_json(report.document)
    return plan.model_copy(update={"weather": changed, "forecast": forecast})


def of_this_kit(db: Database, plan: PlanDocument) -> PlanDocument:
    """A plan whose numbers are those of things in the kit: as it has them where they are, else by name."""
    known = {k.id: k.item.kind for k in kit.items(db)}
    aircraft, pack = kit.numbers_of(db, plan.aircraft.name, plan.pack.label or "")
    if known.get(plan.aircraft.kit or 0) == "aircraft":
        aircraft = plan.aircraft.kit
    if known.get(plan.pack.kit or 0) == "pack":
        pack = plan.pack.kit
    return plan.model_copy(
        update={
            "aircraft": plan.aircraft.model_copy(update={"kit": aircraft}),
            "pack": plan.pack.model_copy(update={"kit": pack}),
        }
    )


def taken_in(db: Database, plan: PlanDocument, now: datetime) -> PlanDocument:
    """The plan with the place and the forecast that it carries kept here, and named. Raises NotAllowedError.

    Its aircraft and pack are those of the kit that have the same names, if there are.
    """
    plan = of_this_kit(db, plan)
    if plan.place is not None:
        kept = places.add_place(db, plan.place, now).stored
        plan = plan.model_copy(update={"place": None, "site": plan.site.model_copy(update={"place": kept.id})})
    weather.stored_report(db, plan)
    if plan.forecast is None:
        return plan
    report = weather.keep(db, "plan", plan.site.latitude, plan.site.longitude, plan.forecast, "", now)
    changed = plan.weather.model_copy(update={"report": report.id})
    return plan.model_copy(update={"weather": changed, "forecast": None})

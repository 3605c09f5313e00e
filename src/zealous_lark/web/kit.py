"""The API of the kit and its upkeep."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.prepare.packs import OLD_CYCLES, PUT_ASIDE, WORN_PCT
from zealous_lark.plan.kit import SHEET, AircraftItem, PackItem
from zealous_lark.plan.ranges import aircraft_range
from zealous_lark.plan.typical import CLASSES
from zealous_lark.services import kit, minimums
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body
from zealous_lark.web.schemas import kit as b
from zealous_lark.web.schemas.common import UsesOut, uses_out

api = APIBlueprint("kit", __name__, url_prefix="/api")


def _pack(item: PackItem) -> b.PackNowOut:
    least = minimums.current(database()).minimums.min_takeoff_pct
    found = kit.pack_now(item, now(), least)
    return b.PackNowOut(
        charge_pct=found.charge_pct,
        energy_wh=found.energy_wh,
        storage_v=found.storage_v,
        advice=b.AdviceOut(care=found.advice.care, sentence=found.advice.sentence, by=found.advice.by),
        worn=found.worn,
        worn_below_pct=WORN_PCT,
        old_from_cycles=OLD_CYCLES,
        choosable=item.state not in PUT_ASIDE,
    )


def _item(kept: kit.Kept) -> b.ItemOut:
    out = b.ItemOut(id=kept.id, revision=kept.revision, name=kept.name, item=kept.item)
    if isinstance(kept.item, PackItem):
        out.pack = _pack(kept.item)
    if isinstance(kept.item, AircraftItem):
        record = kit.record(database(), kept.id, now())
        out.due = [b.DueOut(work=d.work, why=d.why) for d in record.due]
        out.hours = record.hours
    return out


@api.get("/kit")
@api.output(b.KitOut)
@api.doc(summary="The whole kit, with what is estimated and due")
def list_kit() -> Response:
    """The kit."""
    return json_answer(b.KitOut(items=[_item(k) for k in kit.items(database())]))


@api.get("/kit/sheet")
@api.output(b.SheetOut)
@api.doc(summary="The fields of an aircraft's spec sheet, and classes to start from")
def sheet() -> Response:
    """Where in a manual each number stands."""
    fields = []
    for f in SHEET:
        least, greatest = aircraft_range(f.key)
        fields.append(b.SheetFieldOut(key=f.key, label=f.label, unit=f.unit, where=f.where, least=least,
                                      greatest=greatest))  # fmt: skip
    classes = [b.ClassOut(label=label, aircraft=part) for label, part in CLASSES]
    return json_answer(b.SheetOut(fields=fields, classes=classes))


@api.post("/kit")
@api.output(b.ItemOut, status_code=201)
@api.doc(summary="A new item of the kit", responses={422: "Refused"})
@body(api, b.AddItem)
def add_item(document: b.AddItem) -> Response:
    """Keep an item."""
    return json_answer(_item(kit.add(database(), document.item, now())), 201)


@api.put("/kit/<int:item_id>")
@api.output(b.ItemOut)
@api.doc(summary="Save a changed item", responses={404: "Not here", 409: "Saved elsewhere since", 422: "Refused"})
@body(api, b.SaveItem)
def save_item(document: b.SaveItem, item_id: int) -> Response:
    """Save an item."""
    return json_answer(_item(kit.save(database(), item_id, document.item, document.revision, now())))


@api.get("/kit/<int:item_id>/uses")
@api.output(UsesOut)
@api.doc(summary="The sessions that fly with an item, the latest first", responses={404: "Not here"})
def uses(item_id: int) -> Response:
    """Where an item is used, to be asked before it is deleted."""
    return json_answer(uses_out(kit.uses(database(), item_id)))


@api.delete("/kit/<int:item_id>")
@api.output({}, status_code=204)
@api.doc(summary="Take an item out of the kit; it can be brought back", responses={404: "Not here"})
def delete_item(item_id: int) -> tuple[str, int]:
    """Take it out."""
    kit.delete(database(), item_id, now())
    return "", 204


@api.post("/kit/<int:item_id>/restore")
@api.output({}, status_code=204)
@api.doc(summary="Bring a deleted item back", responses={404: "Not here"})
def restore_item(item_id: int) -> tuple[str, int]:
    """Undo a deletion."""
    kit.restore(database(), item_id)
    return "", 204


def _record(record: kit.Record) -> b.UpkeepOut:
    return b.UpkeepOut(
        name=record.kept.name,
        entries=[b.EntryOut(id=e.id, entry=e.entry) for e in record.entries],
        hours=record.hours,
        due=[b.DueOut(work=d.work, why=d.why) for d in record.due],
        today=now().date(),
    )


@api.get("/kit/<int:item_id>/upkeep")
@api.output(b.UpkeepOut)
@api.doc(summary="An aircraft's maintenance, and what is due", responses={404: "Not here"})
def upkeep(item_id: int) -> Response:
    """The record."""
    return json_answer(_record(kit.record(database(), item_id, now())))


@api.post("/kit/<int:item_id>/upkeep")
@api.output(b.UpkeepOut, status_code=201)
@api.doc(summary="A new maintenance entry", responses={404: "Not here", 422: "Refused"})
@body(api, b.AddEntry)
def add_entry(document: b.AddEntry, item_id: int) -> Response:
    """Write down what was done."""
    return json_answer(_record(kit.add_entry(database(), item_id, document.entry, now())), 201)


@api.delete("/kit/<int:item_id>/upkeep/<int:entry_id>")
@api.output(b.UpkeepOut)
@api.doc(summary="Withdraw a maintenance entry; it can be brought back", responses={404: "Not here"})
def withdraw_entry(item_id: int, entry_id: int) -> Response:
    """Take an entry back."""
    return json_answer(_record(kit.set_entry_withdrawn(database(), item_id, entry_id, True, now())))


@api.post("/kit/<int:item_id>/upkeep/<int:entry_id>/restore")
@api.output(b.UpkeepOut)
@api.doc(summary="Bring a withdrawn entry back", responses={404: "Not here"})
def restore_entry(item_id: int, entry_id: int) -> Response:
    """Undo a withdrawal."""
    return json_answer(_record(kit.set_entry_withdrawn(database(), item_id, entry_id, False, now())))

"""The API of the pilot's own forecast services."""

from __future__ import annotations

from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.services import sources
from zealous_lark.web.context import database, json_answer
from zealous_lark.web.http import body, writes_nothing
from zealous_lark.web.schemas import sources as b

api = APIBlueprint("sources", __name__, url_prefix="/api/sources")


def _own(found: sources.OwnSource) -> b.OwnSourceOut:
    s = found.source
    return b.OwnSourceOut(
        id=found.id, key=f"own-{found.id}", name=s.name, url=s.url, collection=s.collection, header=s.header,
        has_key=bool(s.key), wants_key=s.wants_key and not s.key, own_network=s.own_network,
    )  # fmt: skip


def _list(found: list[sources.OwnSource]) -> Response:
    return json_answer(b.OwnSourceList(sources=[_own(one) for one in found]))


@api.get("")
@api.output(b.OwnSourceList)
@api.doc(summary="The pilot's own forecast services, in the order in which they are asked")
def list_own() -> Response:
    """Without their keys."""
    return _list(sources.own(database()))


@api.post("/try")
@api.output(b.TriedOut)
@api.doc(
    summary="What a service offers for positions (OGC API – EDR)",
    responses={404: "Not here", 422: "Refused", 502: "It gave nothing usable"},
)
@body(api, b.TryIn)
@writes_nothing
def try_one(document: b.TryIn) -> Response:
    """Its collections; nothing is kept."""
    found = sources.tried(database(), document.access, document.of)
    return json_answer(b.TriedOut(collections=[b.CollectionOut(**_listed(asdict(c))) for c in found]))


def _listed(collection: dict[str, object]) -> dict[str, object]:
    return {**collection, "parameters": list(collection["parameters"])}  # type: ignore[call-overload]


@api.post("")
@api.output(b.OwnSourceOut, status_code=201)
@api.doc(summary="Add a forecast service", responses={422: "Refused"})
@body(api, b.SourceIn)
def add(document: b.SourceIn) -> Response:
    """It is asked last."""
    return json_answer(_own(sources.add(database(), document.source)), 201)


@api.put("/<int:source_id>")
@api.output(b.OwnSourceOut)
@api.doc(summary="Change a forecast service; an empty key stays as it was", responses={404: "Not here", 422: "Refused"})
@body(api, b.SourceIn)
def change(document: b.SourceIn, source_id: int) -> Response:
    """Other settings."""
    return json_answer(_own(sources.change(database(), source_id, document.source)))


@api.put("/order")
@api.output(b.OwnSourceList)
@api.doc(summary="Put the forecast services in another order", responses={422: "Refused"})
@body(api, b.OrderIn)
def order(document: b.OrderIn) -> Response:
    """All of them."""
    return _list(sources.order(database(), document.order))


@api.delete("/<int:source_id>")
@api.output({}, status_code=204)
@api.doc(summary="Remove a forecast service; what it said stays", responses={404: "Not here"})
def remove(source_id: int) -> tuple[str, int]:
    """It is not asked any more."""
    sources.remove(database(), source_id)
    return "", 204

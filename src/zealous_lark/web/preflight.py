"""The API of the Site and Walkround stages."""

from __future__ import annotations

import hashlib
from base64 import b64encode
from dataclasses import asdict

from apiflask import APIBlueprint
from flask import Response, g

from zealous_lark.core.units import Units
from zealous_lark.formats.pocket_pdf import Paper
from zealous_lark.services import field_tables, pocket, preflight
from zealous_lark.web.answers import answer_out
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body, query, units, writes_nothing
from zealous_lark.web.once import once_at_a_time
from zealous_lark.web.schemas import preflight as b

api = APIBlueprint("preflight", __name__, url_prefix="/api")
_STYLE_DIGEST = "sha256-" + b64encode(hashlib.sha256(pocket.STYLE.encode()).digest()).decode()


def _item(asked: preflight.Asked) -> b.GateItemOut:
    item, value = asked.item, asked.value
    return b.GateItemOut(
        key=item.key,
        text=item.text,
        why=item.why,
        how=list(item.how),
        fault=item.fault,
        value=None if value is None or item.value is None else b.ValueOut(kind=item.value, **asdict(value)),
        answer=answer_out(asked.answer),
    )


@api.post("/sessions/<int:session_id>/on-site")
@api.output(b.OnSiteOut)
@api.doc(
    summary="A session on site: site survey, measured against forecast, gates, settings card",
    description="Checked on the plan that is sent; nothing is kept.",
    responses={404: "Not here", 422: "Refused"},
)
@units(api)
@body(api, b.OnSiteIn)
@writes_nothing
def on_site(document: b.OnSiteIn, session_id: int, units: Units) -> Response:
    """The Site and Walkround stages."""
    found = preflight.on_site(database(), session_id, document.plan, now(), units)
    return json_answer(
        b.OnSiteOut(
            looks=[b.LookOut(**asdict(x), answer=answer_out(found.looked.get(x.key))) for x in found.looks],
            differences=[b.DifferenceOut(**asdict(d)) for d in found.differences],
            gates=[
                b.GateOut(name=g.gate.name, items=[_item(i) for i in g.items], open=g.open, stopped=g.stopped)
                for g in found.gates
            ],
            card=[b.DialOut(**asdict(d)) for d in found.card],
            feels=found.feels,
            session_is=[name for name, is_so in asdict(found.context).items() if is_so],
        )
    )


@api.get("/sessions/<int:session_id>/field-tables")
@api.output(b.FieldTablesOut)
@api.doc(
    summary="The checks of a session at other readings, to look up without the server",
    description="Takes some seconds. For one kind of reading: none, by meter, by leaves and waves, in the hover.",
    responses={404: "Not here", 422: "Refused"},
)
@query(api, b.TablesQuery)
@once_at_a_time
def get_field_tables(asked: b.TablesQuery, session_id: int) -> Response:
    """Lattices of the checks' statuses."""
    found = field_tables.made(database(), session_id, asked.reading, now())
    return json_answer(b.FieldTablesOut(plan=found.plan, tables=found.tables))


@api.get("/sessions/<int:session_id>/pocket.pdf")
@api.output({}, content_type="application/pdf")
@api.doc(summary="The pocket card as a PDF of A6 or A4", responses={404: "Not here", 422: "Refused"})
@units(api, b.PaperQuery)
def pocket_pdf(session_id: int, units: Units, paper: Paper) -> Response:
    """The card on paper."""
    response = Response(pocket.pocket_pdf(database(), session_id, paper, now(), units), mimetype="application/pdf")
    response.headers["Content-Disposition"] = f'attachment; filename="pocket-card-{paper}.pdf"'
    return response


@api.get("/sessions/<int:session_id>/pocket.html")
@api.output({}, content_type="text/html")
@api.doc(summary="The pocket card as one page that needs no server", responses={404: "Not here", 422: "Refused"})
@units(api)
def pocket_page(session_id: int, units: Units) -> Response:
    """The card on the phone."""
    g.style = _STYLE_DIGEST
    return Response(pocket.pocket_page(database(), session_id, now(), units), mimetype="text/html")

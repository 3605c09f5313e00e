"""The pocket card of a session: out as PDF, and as a page that needs no server."""

from __future__ import annotations

from datetime import datetime
from html import escape

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.flight.emergency import emergency_cards
from zealous_lark.core.preflight.pocket import (
    ending_force,
    reach_by_bearing,
    turn_back_table,
)
from zealous_lark.core.units import METRIC, Units, angle, percent
from zealous_lark.core.verdict import CAUTION, VERDICT_WORDS
from zealous_lark.formats.pocket_pdf import Paper, Pocket, write_pocket
from zealous_lark.plan import situation_of
from zealous_lark.services import sessions, weather
from zealous_lark.services.preflight import on_site
from zealous_lark.store import Database

FIRST_STEPS = 3


def pocket_card(db: Database, session_id: int, now: datetime, units: Units = METRIC) -> Pocket:
    """The card of a session as it is saved. Raises NotHereError."""
    opened = sessions.open_session(db, session_id, now, units)
    plan, u = opened.plan, units
    a = Assessment(situation_of(plan, weather.known(db, plan, now)))
    tightest = next(c for c in opened.result.checks if c.id == opened.result.tightest)
    card = on_site(db, session_id, plan, now, units).card
    table: tuple[tuple[str, ...], ...] = (("wind not known", ""),)
    if a.flyer is not None:
        farthest = max(plan.flight.distance_m * 1.3, 100.0)
        found = turn_back_table(a.flyer, farthest)
        head = ("out", *("calm" if w == 0 else u.speed(w) for w in found.against_ms))
        rows = [
            (u.length(d), *("can't return" if c is None else percent(c) for c in row))
            for d, row in zip(found.distance_m, found.charge_pct, strict=True)
        ]
        table = (head, *rows)
    force = ending_force(a)
    ends = ["The picture freezes, or the charge falls faster than it should.", "People come under the way."]
    if force is not None and not plan.site.indoors:
        seen = force.water if a.situation.over_water else force.land
        ends.insert(0, f"{seen}: force {force.force}, about {u.speed(force.middle_ms)}.")
    at = plan.takeoff_at
    return Pocket(
        title=plan.title,
        about=f"{plan.site.name or 'Unnamed place'}, {at:%a} {at.day} {at:%b %Y %H:%M}. {plan.aircraft.name}"
        + (f", battery {plan.pack.label}." if plan.pack.label else "."),
        verdict=f"{VERDICT_WORDS[opened.result.verdict]}. {tightest.label}: {tightest.sentence}",
        settings=tuple((d.label, d.shown) for d in card),
        table_title="Turn-back charge, by distance out and headwind home",
        table=table,
        reach_title="Battery range by bearing, with planned filming time",
        reach=tuple((angle(b), u.length(d)) for b, d in reach_by_bearing(a)),
        ends=tuple(ends),
        # The first things to do, as the cards in the flight say them; the rest stands there.
        emergencies=tuple((c.title, " ".join(c.steps[:FIRST_STEPS])) for c in emergency_cards(a, u)),
        authority=CAUTION,
    )


def pocket_pdf(db: Database, session_id: int, paper: Paper, now: datetime, units: Units = METRIC) -> bytes:
    """The card as a PDF file. Raises NotHereError."""
    return write_pocket(pocket_card(db, session_id, now, units), paper)


STYLE = (
    "body{font:18px/1.35 sans-serif;margin:12px;color:#000;background:#fff;max-width:34em}"
    "h1{font-size:1.4em;margin:0}h2{font-size:1.1em;margin:1em 0 .3em}"
    "table{border-collapse:collapse;width:100%}"
    "td:first-child{white-space:nowrap}td,th{border:1px solid #000;padding:.25em .4em;text-align:left}"
    "li{margin:.3em 0}"
)


def pocket_page(db: Database, session_id: int, now: datetime, units: Units = METRIC) -> str:
    """The card as one page that holds all it needs: kept on the phone, it opens without the server."""
    card = pocket_card(db, session_id, now, units)

    def rows(cells: tuple[tuple[str, ...], ...], head: bool) -> str:
        out = []
        for n, row in enumerate(cells):
            tag = "th" if head and n == 0 else "td"
            out.append("<tr>" + "".join(f"<{tag}>{escape(c)}</{tag}>" for c in row) + "</tr>")
        return "<table>" + "".join(out) + "</table>"

    parts = [
        f"<h1>{escape(card.title)}</h1><p>{escape(card.about)}</p><p><b>{escape(card.verdict)}</b></p>",
        rows(card.settings, False),
        f"<h2>{escape(card.table_title)}</h2>{rows(card.table, True)}",
        f"<h2>{escape(card.reach_title)}</h2>{rows(card.reach, False)}" if card.reach else "",
        "<h2>End the flight if</h2><ul>" + "".join(f"<li>{escape(e)}</li>" for e in card.ends) + "</ul>",
        "<h2>If</h2><ul>" + "".join(f"<li><b>{escape(n)}.</b> {escape(w)}</li>" for n, w in card.emergencies) + "</ul>",
        f"<p>{escape(card.authority)}</p>",
    ]
    head = '<meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">'
    title = f"<title>{escape(card.title)}, pocket card</title><style>{STYLE}</style>"
    return f'<!doctype html><html lang="en"><head>{head}{title}</head><body>{"".join(parts)}</body></html>'

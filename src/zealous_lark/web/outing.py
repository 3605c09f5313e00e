"""The API of the Pack stage: preparation, calendar."""

from __future__ import annotations

import re
from dataclasses import asdict
from datetime import timedelta

from apiflask import APIBlueprint
from flask import Response

from zealous_lark.core.prepare.filming import FilmingPlan
from zealous_lark.core.prepare.flight_verdicts import FlightVerdict
from zealous_lark.core.units import Units
from zealous_lark.plan.kit import PackItem
from zealous_lark.services import outing
from zealous_lark.web.context import database, json_answer, now
from zealous_lark.web.http import body, units, writes_nothing
from zealous_lark.web.schemas import outing as b
from zealous_lark.web.schemas.kit import AdviceOut, DueOut

api = APIBlueprint("outing", __name__, url_prefix="/api")


def _pack(choice: outing.PackChoice) -> b.PackOut:
    item = choice.kept.item
    assert isinstance(item, PackItem)
    told = choice.now.advice
    return b.PackOut(
        id=choice.kept.id,
        label=choice.kept.name,
        fits=choice.fits,
        choosable=choice.choosable,
        chosen=choice.chosen,
        why_not=choice.why_not,
        health_pct=item.health_pct,
        energy_wh=choice.now.energy_wh,
        charge_now_pct=choice.now.charge_pct,
        charge_then_pct=choice.charge_then_pct,
        charged_pct=choice.charged_pct,
        advice=AdviceOut(care=told.care, sentence=told.sentence, by=told.by),
        worn=choice.now.worn,
    )


def _schedule(s: outing.Schedule) -> b.ScheduleOut:
    after = s.plan.charge_pct(s.jobs)
    chargers, touched = [], set(s.plan.nowhere)
    for row in s.plan.chargers:
        start = s.begins_at
        touched |= {j.job for j in row.jobs}
        chargers.append(
            b.ChargerOut(
                name=s.chargers[row.charger].name,
                mode=s.chargers[row.charger].mode,
                power_w=s.chargers[row.charger].power_w,
                start_by=s.ends_at - timedelta(seconds=row.seconds),
                jobs=[
                    b.JobOut(
                        name=s.jobs[j.job].name, kind=s.jobs[j.job].kind, from_pct=s.jobs[j.job].charge_pct,
                        to_pct=j.charge_pct, begins_at=start + timedelta(seconds=j.begins_s),
                        ends_at=start + timedelta(seconds=j.ends_s),
                    )
                    for j in row.jobs
                ],
            )
        )  # fmt: skip
    left = [n for n, job in enumerate(s.jobs) if n not in touched and not job.is_full]
    return b.ScheduleOut(
        takes_min=s.full.seconds / 60,
        available_min=None if s.available_s is None else s.available_s / 60,
        begins_at=s.begins_at,
        ends_at=s.ends_at,
        chargers=chargers,
        untouched=[b.NotChargedOut(name=s.jobs[n].name, charge_pct=after[n]) for n in left],
        no_charger=[s.jobs[n].name for n in s.plan.nowhere],
        banks=[
            b.BankOut(
                name=r.bank.name,
                fills=r.fills,
                each_min=None if r.seconds is None else r.seconds / 60,
                volts=r.bank.volts,
                needs_volts=r.needs_volts,
            )
            for r in s.banks
        ],
    )


def _filming(
    plan: FilmingPlan | None,
    taken: tuple[outing.PackChoice, ...],
    verdicts: tuple[FlightVerdict, ...] = (),
    *,
    by_hand: bool,
) -> b.FilmingOut | None:
    if plan is None:
        return None
    judged: list[FlightVerdict | None] = [*verdicts] or [None] * len(plan.flights)
    return b.FilmingOut(
        flights=[
            b.FilmedOut(
                pack=taken[f.pack].kept.id,
                label=taken[f.pack].kept.name,
                shots=list(f.order),
                begins_at=f.begins_at,
                lands_at=f.lands_at,
                charge_pct=taken[f.pack].charged_pct,
                landing_pct=f.landing_pct,
                downwind=f.downwind,
                steps=[
                    b.FlightStepOut(what=s.what, shot=s.shot, seconds=s.seconds, wh=s.wh,
                                    charge_after_pct=s.charge_after_pct)
                    for s in f.steps
                ],
                faults=list(f.faults),
                verdict=None if j is None else j.verdict,
                subjects=[] if j is None else [b.AtSubjectOut(**asdict(x)) for x in j.subjects],
            )
            for f, j in zip(plan.flights, judged, strict=True)
        ],
        left_out=[b.LeftOutOut(shot=x.shot, why=x.why, ways=list(x.ways)) for x in plan.left_out],
        reserve_pct=plan.reserve_pct,
        by_hand=by_hand,
        holds=plan.holds,
    )  # fmt: skip


@api.post("/outing")
@api.output(b.OutingOut)
@api.doc(
    summary="What happens before leaving: countdown, charging, flights per battery, packing list",
    description="Nothing is kept.",
    responses={422: "Refused"},
)
@units(api)
@body(api, b.OutingIn)
@writes_nothing
def prepare(document: b.OutingIn, units: Units) -> Response:
    """The Pack stage of a plan."""
    ready = outing.prepare(database(), document.plan, now(), units)
    by_hand = ready.outing.flights is not None
    day = document.plan.takeoff_at.date()
    out = b.OutingOut(
        outing=ready.outing,
        aircraft=None if ready.aircraft is None else ready.aircraft.id,
        due=[DueOut(work=d.work, why=d.why) for d in ready.due],
        packs=[_pack(c) for c in ready.packs],
        steps=[b.StepOut(what=s.what, at=s.at, latest=s.latest, why=s.why) for s in ready.steps],
        schedule=_schedule(ready.schedule),
        warm=None if ready.warm is None else b.WarmOut(**{f: getattr(ready.warm, f) for f in b.WarmOut.model_fields}),
        filming=_filming(ready.filming, ready.taken, ready.verdicts, by_hand=by_hand),
        best=_filming(ready.best, ready.taken, by_hand=False),
        wind_known=ready.wind_known,
        items=[
            b.ListItemOut(
                key=i.key, name=i.name, count=i.count, why=i.why, group=i.group,
                on=None if i.days_before is None else day - timedelta(days=i.days_before),
            )
            for i in ready.items
        ],
    )  # fmt: skip
    return json_answer(out)


@api.get("/sessions/<int:session_id>/calendar.ics")
@api.output({}, content_type="text/calendar")
@api.doc(summary="A session's countdown as a calendar file with alarms", responses={404: "Not here"})
def calendar(session_id: int) -> Response:
    """The calendar."""
    title, data = outing.calendar(database(), session_id, now())
    name = re.sub(r"[^A-Za-z0-9]+", "-", title).strip("-").lower() or "session"
    response = Response(data, mimetype="text/calendar")
    response.headers["Content-Disposition"] = f'attachment; filename="{name}.ics"'
    return response

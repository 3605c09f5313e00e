"""Weather reports: added, read, never changed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import ReportRow


@dataclass(frozen=True, slots=True)
class Report:
    """A forecast document as JSON text, the key of its source, where it is for [°], when it was taken in.

    raw: the text it was read from; empty where the document itself was fetched.
    """

    id: int
    source: str
    latitude: float
    longitude: float
    fetched_at: datetime
    document: str
    raw: str


def _report(row: ReportRow) -> Report:
    return Report(row.id, row.source, row.latitude, row.longitude, row.fetched_at, row.document, row.raw)


def add(
    s: OrmSession, source: str, latitude: float, longitude: float, document: str, raw: str, now: datetime
) -> Report:
    """A new report."""
    row = ReportRow(source=source, latitude=latitude, longitude=longitude, fetched_at=now, document=document, raw=raw)
    s.add(row)
    s.flush()
    return _report(row)


def numbers(s: OrmSession) -> list[int]:
    """The numbers of all reports."""
    return list(s.scalars(select(ReportRow.id)))


def find(s: OrmSession, report_id: int) -> Report | None:
    """A report by its number, or None."""
    row = s.get(ReportRow, report_id)
    return None if row is None else _report(row)


def around(
    s: OrmSession,
    south: float,
    north: float,
    since: datetime | None = None,
    until: datetime | None = None,
    most: int = 200,
) -> list[Report]:
    """Reports between two latitudes [°], the last to come first; of those taken between two times, by their times.

    since, until: aware; None for all.
    """
    asked = select(ReportRow).where(ReportRow.latitude.between(south, north))
    if since is not None:
        asked = asked.where(ReportRow.fetched_at >= since)
    if until is not None:
        asked = asked.where(ReportRow.fetched_at <= until)
    by_time = [] if since is None and until is None else [ReportRow.fetched_at.desc()]
    rows = s.scalars(asked.order_by(*by_time, ReportRow.id.desc()).limit(most))
    return [_report(row) for row in rows]

"""Tables. Documents are kept as the JSON text that was accepted, so that nothing is lost on the way."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    DateTime,
    ForeignKey,
    Index,
    LargeBinary,
    MetaData,
    String,
    Text,
    TypeDecorator,
    text,
)
from sqlalchemy.engine import Dialect
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class UtcDateTime(TypeDecorator[datetime]):
    """Aware datetimes; SQLite keeps no offset, so all are stored in UTC."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> Any:  # noqa: ARG002
        """To naive UTC. Raises ValueError for a time without offset."""
        if value is None:
            return None
        if value.tzinfo is None:
            raise ValueError("a time to be stored needs its UTC offset")
        return value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """From naive UTC."""
        return None if value is None else value.replace(tzinfo=UTC)


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_label)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: UtcDateTime}  # noqa: RUF012 - SQLAlchemy's own way


class SessionRow(Base):
    """A session; title, place, aircraft, pack and their numbers are the plan's own, kept as columns for lists."""

    __tablename__ = "sessions"
    __table_args__ = (Index("ix_sessions_listed", "deleted_at", "takeoff_at"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    title: Mapped[str] = mapped_column(String(120))
    place: Mapped[str] = mapped_column(String(120))
    aircraft: Mapped[str] = mapped_column(String(120))
    pack: Mapped[str] = mapped_column(String(60))
    takeoff_at: Mapped[datetime] = mapped_column(index=True)
    place_id: Mapped[int | None]
    aircraft_kit: Mapped[int | None]
    pack_kit: Mapped[int | None]
    latitude: Mapped[float] = mapped_column(server_default="0")
    longitude: Mapped[float] = mapped_column(server_default="0")
    plan: Mapped[str] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class VerdictRow(Base):
    """The verdict of a session with the check that decides it (JSON), under a digest of all that it rests on."""

    __tablename__ = "verdicts"

    session_id: Mapped[int] = mapped_column(ForeignKey("sessions.id", ondelete="CASCADE"), primary_key=True)
    rests_on: Mapped[str] = mapped_column(String(200))
    verdict: Mapped[str] = mapped_column(String(20))
    tightest: Mapped[str] = mapped_column(Text)


class LaunchRow(Base):
    """What is asked of a decision to launch later: when, where and with what. day: of take-off, where it was."""

    __tablename__ = "launches"

    decision_id: Mapped[int] = mapped_column(ForeignKey("decisions.id", ondelete="CASCADE"), primary_key=True)
    session_id: Mapped[int] = mapped_column(ForeignKey("sessions.id", ondelete="CASCADE"), index=True)
    day: Mapped[str] = mapped_column(String(10), index=True)
    latitude: Mapped[float] = mapped_column(index=True)
    longitude: Mapped[float]
    aircraft: Mapped[str] = mapped_column(String(120), index=True)
    aircraft_kit: Mapped[int | None]
    pack: Mapped[str] = mapped_column(String(60))
    pack_kit: Mapped[int | None]


class RequestRow(Base):
    """A request that its sender may repeat, and what it was answered: doing it twice does it once."""

    __tablename__ = "requests"

    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    digest: Mapped[str] = mapped_column(String(64))
    status: Mapped[int]
    body: Mapped[str] = mapped_column(Text)
    answered_at: Mapped[datetime] = mapped_column(index=True)
    order: Mapped[int] = mapped_column(BigInteger, server_default="0", index=True)


class DecisionRow(Base):
    """A launch decision. Triggers in the database refuse every change and deletion."""

    __tablename__ = "decisions"
    __table_args__ = (CheckConstraint("word IN ('launch', 'wait', 'stand_down')", name="word"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    session_id: Mapped[int] = mapped_column(ForeignKey("sessions.id", ondelete="RESTRICT"), index=True)
    decided_at: Mapped[datetime]
    word: Mapped[str] = mapped_column(String(20))
    note: Mapped[str] = mapped_column(Text)
    verdict: Mapped[str] = mapped_column(String(20))
    plan: Mapped[str] = mapped_column(Text)
    result: Mapped[str] = mapped_column(Text)
    walkround: Mapped[str] = mapped_column(Text, server_default="[]")


class MinimumsRow(Base):
    """Personal minimums as they stood from a day on; the latest row is in force."""

    __tablename__ = "minimums"

    id: Mapped[int] = mapped_column(primary_key=True)
    changed_at: Mapped[datetime]
    settings: Mapped[str] = mapped_column(Text)


class PlaceRow(Base):
    """A place: what is drawn and imported there."""

    __tablename__ = "places"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    document: Mapped[str] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class TerrainRow(Base):
    """A terrain under the digest of its header and heights; never changed."""

    __tablename__ = "terrains"

    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    header: Mapped[str] = mapped_column(Text)
    grid: Mapped[bytes] = mapped_column(LargeBinary)


class PictureRow(Base):
    """A picture from above (JPEG) under its digest; never changed."""

    __tablename__ = "pictures"

    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class ReportRow(Base):
    """A forecast or observation as it was taken in; never changed. raw: the text it was read from."""

    __tablename__ = "reports"

    id: Mapped[int] = mapped_column(primary_key=True)
    source: Mapped[str] = mapped_column(String(40))
    latitude: Mapped[float] = mapped_column(index=True)
    longitude: Mapped[float]
    fetched_at: Mapped[datetime]
    document: Mapped[str] = mapped_column(Text)
    raw: Mapped[str] = mapped_column(Text)


class KitRow(Base):
    """An item of the kit; its kind is the document's own."""

    __tablename__ = "kit"

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    document: Mapped[str] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class UpkeepRow(Base):
    """A dated entry about an aircraft; one that was withdrawn is kept."""

    __tablename__ = "upkeep"

    id: Mapped[int] = mapped_column(primary_key=True)
    kit_id: Mapped[int] = mapped_column(ForeignKey("kit.id", ondelete="RESTRICT"), index=True)
    document: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class AnswerRow(Base):
    """What was said to an item of a list: done, skipped with a reason, or a fault; a value where there is one.

    order: when it was said, by `store/order.py`; said_at is for people.
    """

    __tablename__ = "answers"

    session_id: Mapped[int] = mapped_column(ForeignKey("sessions.id", ondelete="CASCADE"), primary_key=True)
    list: Mapped[str] = mapped_column(String(20), primary_key=True)
    item: Mapped[str] = mapped_column(String(80), primary_key=True)
    word: Mapped[str] = mapped_column(String(10))
    value: Mapped[float | None]
    note: Mapped[str] = mapped_column(Text)
    said_at: Mapped[datetime]
    order: Mapped[int] = mapped_column(BigInteger, server_default="0")


class FlightRow(Base):
    """A flight, born on the device that flew it under a number of its own; columns for search and sums.

    document: what the pilot may change, and more of it than the columns. plan, card: as it was flown; none for one
    that was entered by hand. planned_pct: points that the plan had for what was flown.
    """

    __tablename__ = "flights"
    __table_args__ = (Index("ix_flights_listed", "deleted_at", "started_at"),)

    uid: Mapped[str] = mapped_column(String(40), primary_key=True)
    session_id: Mapped[int | None] = mapped_column(ForeignKey("sessions.id", ondelete="RESTRICT"), index=True)
    decision_id: Mapped[int | None] = mapped_column(ForeignKey("decisions.id", ondelete="RESTRICT"))
    started_at: Mapped[datetime] = mapped_column(index=True)
    landed: Mapped[bool] = mapped_column(default=False)
    place: Mapped[str] = mapped_column(String(120), index=True)
    aircraft: Mapped[str] = mapped_column(String(120), index=True)
    pack: Mapped[str] = mapped_column(String(60), index=True)
    aircraft_kit: Mapped[int | None]
    pack_kit: Mapped[int | None]
    latitude: Mapped[float | None]
    longitude: Mapped[float | None]
    seconds: Mapped[float | None]
    charge_from_pct: Mapped[float | None]
    charge_to_pct: Mapped[float | None]
    predicted_to_pct: Mapped[float | None]
    planned_pct: Mapped[float | None]
    wind_predicted_ms: Mapped[float | None]
    wind_met_ms: Mapped[float | None]
    distance_m: Mapped[float | None]
    height_m: Mapped[float | None]
    verdict: Mapped[str] = mapped_column(String(20))
    word: Mapped[str] = mapped_column(String(20))
    document: Mapped[str] = mapped_column(Text)
    plan: Mapped[str | None] = mapped_column(Text)
    card: Mapped[str | None] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class FlightEventRow(Base):
    """Something that happened in a flight, under a number from the device: a replay finds it there already."""

    __tablename__ = "flight_events"

    uid: Mapped[str] = mapped_column(String(40), primary_key=True)
    flight_uid: Mapped[str] = mapped_column(ForeignKey("flights.uid", ondelete="CASCADE"), index=True)
    kind: Mapped[str] = mapped_column(String(20))
    at_s: Mapped[float]
    at: Mapped[datetime]
    value: Mapped[float | None]
    bearing_deg: Mapped[float | None]
    text: Mapped[str] = mapped_column(Text)
    happened_at: Mapped[datetime | None]


class PhotoRow(Base):
    """A photo (JPEG) of a flight or of a place, under a number from the device that took it."""

    __tablename__ = "photos"
    __table_args__ = (CheckConstraint("(flight_uid IS NULL) <> (place_id IS NULL)", name="of_one_thing"),)

    uid: Mapped[str] = mapped_column(String(40), primary_key=True)
    flight_uid: Mapped[str | None] = mapped_column(ForeignKey("flights.uid", ondelete="CASCADE"), index=True)
    place_id: Mapped[int | None] = mapped_column(ForeignKey("places.id", ondelete="CASCADE"), index=True)
    taken_at: Mapped[datetime]
    data: Mapped[bytes] = mapped_column(LargeBinary)


class PracticeRow(Base):
    """An answer to a practice case, under a number from the device; document: the answer and its marks as JSON."""

    __tablename__ = "practice"

    uid: Mapped[str] = mapped_column(String(40), primary_key=True)
    family: Mapped[str] = mapped_column(String(40), index=True)
    seed: Mapped[int]
    answered_at: Mapped[datetime] = mapped_column(index=True)
    grade: Mapped[str] = mapped_column(String(10))
    cost: Mapped[float]
    document: Mapped[str] = mapped_column(Text)


class EyeRow(Base):
    """What was found of the pilot's eye, under a number from the device; document: how, and every answer, as JSON."""

    __tablename__ = "eye"

    uid: Mapped[str] = mapped_column(String(40), primary_key=True)
    looked_at: Mapped[datetime] = mapped_column(index=True)
    aircraft: Mapped[str] = mapped_column(String(120))
    size_m: Mapped[float]
    seen_m: Mapped[float]
    low_m: Mapped[float]
    high_m: Mapped[float]
    document: Mapped[str] = mapped_column(Text)


class FlightEditRow(Base):
    """What an entry of the logbook said before it was changed."""

    __tablename__ = "flight_edits"

    id: Mapped[int] = mapped_column(primary_key=True)
    flight_uid: Mapped[str] = mapped_column(ForeignKey("flights.uid", ondelete="CASCADE"), index=True)
    edited_at: Mapped[datetime]
    before: Mapped[str] = mapped_column(Text)


class TrackRow(Base):
    """The track of a flight: what it says, what is drawn of it, its points as arrays of numbers."""

    __tablename__ = "tracks"

    flight_uid: Mapped[str] = mapped_column(ForeignKey("flights.uid", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    document: Mapped[str] = mapped_column(Text)
    points: Mapped[bytes] = mapped_column(LargeBinary)
    created_at: Mapped[datetime]


class LearnedRow(Base):
    """Something that the logbook taught and the pilot took; one that was undone is kept."""

    __tablename__ = "learned"

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(20))
    target: Mapped[int]
    source: Mapped[str] = mapped_column(String(120), server_default=text("''"))
    name: Mapped[str] = mapped_column(String(120))
    before: Mapped[float]
    after: Mapped[float]
    pm: Mapped[float]
    flights: Mapped[int]
    taken_at: Mapped[datetime]
    undone_at: Mapped[datetime | None]


class SourceRow(Base):
    """A forecast service of the pilot's own; place: where it stands among them."""

    __tablename__ = "sources"

    id: Mapped[int] = mapped_column(primary_key=True)
    place: Mapped[int]
    document: Mapped[str] = mapped_column(Text)


class WatchedRow(Base):
    """What was found of a session that is ahead, kept when it differs from what was found before."""

    __tablename__ = "watched"

    id: Mapped[int] = mapped_column(primary_key=True)
    session_id: Mapped[int] = mapped_column(ForeignKey("sessions.id", ondelete="CASCADE"), index=True)
    at: Mapped[datetime]
    seen: Mapped[bool]
    document: Mapped[str] = mapped_column(Text)


class FactRow(Base):
    """Things the application remembers about itself."""

    __tablename__ = "facts"

    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    value: Mapped[str] = mapped_column(Text)

"""Tables. Documents are kept as the JSON text that was accepted, so that nothing is lost on the way."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import CheckConstraint, DateTime, ForeignKey, LargeBinary, MetaData, String, Text, TypeDecorator
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
    """A session; title, place, aircraft and pack are the plan's own, kept as columns for lists."""

    __tablename__ = "sessions"

    id: Mapped[int] = mapped_column(primary_key=True)
    title: Mapped[str] = mapped_column(String(120))
    place: Mapped[str] = mapped_column(String(120))
    aircraft: Mapped[str] = mapped_column(String(120))
    pack: Mapped[str] = mapped_column(String(60))
    takeoff_at: Mapped[datetime] = mapped_column(index=True)
    plan: Mapped[str] = mapped_column(Text)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


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


class FactRow(Base):
    """Things the application remembers about itself."""

    __tablename__ = "facts"

    name: Mapped[str] = mapped_column(String(60), primary_key=True)
    value: Mapped[str] = mapped_column(Text)

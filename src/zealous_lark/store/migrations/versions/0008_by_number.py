"""Aircraft, packs and places by their number; verdicts and launches to be asked quickly; requests that may be repeated.

What was joined by a name until now is given the number of the one thing in the kit that has that name.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"

KITS = ("aircraft_kit", "pack_kit")


def upgrade() -> None:
    """Add the columns and tables, and fill them from the documents."""
    for table, names in (("sessions", ("place_id", *KITS)), ("flights", KITS)):
        for name in names:
            op.add_column(table, sa.Column(name, sa.Integer(), nullable=True))
    for name in ("latitude", "longitude"):
        op.add_column("sessions", sa.Column(name, sa.Double(), nullable=False, server_default="0"))
    op.create_index("ix_sessions_listed", "sessions", ["deleted_at", "takeoff_at"])
    op.create_table(
        "verdicts",
        sa.Column("session_id", sa.Integer(), nullable=False),
        sa.Column("rests_on", sa.String(200), nullable=False),
        sa.Column("verdict", sa.String(20), nullable=False),
        sa.Column("tightest", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(["session_id"], ["sessions.id"], name="fk_verdicts_session_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("session_id", name="pk_verdicts"),
    )
    op.create_table(
        "launches",
        sa.Column("decision_id", sa.Integer(), nullable=False),
        sa.Column("session_id", sa.Integer(), nullable=False),
        sa.Column("day", sa.String(10), nullable=False),
        sa.Column("latitude", sa.Double(), nullable=False),
        sa.Column("longitude", sa.Double(), nullable=False),
        sa.Column("aircraft", sa.String(120), nullable=False),
        sa.Column("aircraft_kit", sa.Integer(), nullable=True),
        sa.Column("pack", sa.String(60), nullable=False),
        sa.Column("pack_kit", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(["decision_id"], ["decisions.id"], name="fk_launches_decision_id", ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["session_id"], ["sessions.id"], name="fk_launches_session_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("decision_id", name="pk_launches"),
    )
    for column in ("session_id", "day", "latitude", "aircraft"):
        op.create_index(f"ix_launches_{column}", "launches", [column])
    op.create_table(
        "requests",
        sa.Column("key", sa.String(80), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.Column("status", sa.Integer(), nullable=False),
        sa.Column("body", sa.Text(), nullable=False),
        sa.Column("answered_at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("key", name="pk_requests"),
    )
    op.create_index("ix_requests_answered_at", "requests", ["answered_at"])
    connection = op.get_bind()
    numbers = _numbers(connection)
    _sessions(connection, numbers)
    _flights(connection, numbers)
    _launches(connection, numbers)


def _numbers(connection: sa.Connection) -> dict[tuple[str, str], int]:
    """Numbers of aircraft and packs by kind and name; of two of a name, the one that is not deleted and is newer."""
    rows = connection.execute(sa.text("SELECT id, kind, document FROM kit ORDER BY deleted_at IS NULL, id"))
    found = {}
    for number, kind, document in rows:
        item = json.loads(document)
        if kind in ("aircraft", "pack"):
            found[kind, item["aircraft"]["name"] if kind == "aircraft" else item["label"]] = number
    return found


def _kits(plan: dict[str, Any], numbers: dict[tuple[str, str], int]) -> dict[str, int | None]:
    return {
        "aircraft_kit": numbers.get(("aircraft", plan["aircraft"]["name"])),
        "pack_kit": numbers.get(("pack", plan["pack"].get("label") or "")),
    }


def _sessions(connection: sa.Connection, numbers: dict[tuple[str, str], int]) -> None:
    put = sa.text(
        "UPDATE sessions SET plan = :plan, place_id = :place, latitude = :latitude, longitude = :longitude, "
        "aircraft_kit = :aircraft_kit, pack_kit = :pack_kit WHERE id = :id"
    )
    for number, text in connection.execute(sa.text("SELECT id, plan FROM sessions")).all():
        plan = json.loads(text)
        kits = _kits(plan, numbers)
        plan["aircraft"]["kit"], plan["pack"]["kit"] = kits["aircraft_kit"], kits["pack_kit"]
        site = plan["site"]
        where = {"place": site.get("place"), "latitude": site["latitude"], "longitude": site["longitude"]}
        connection.execute(put, {"id": number, "plan": json.dumps(plan), **where, **kits})


def _flights(connection: sa.Connection, numbers: dict[tuple[str, str], int]) -> None:
    put = sa.text(
        "UPDATE flights SET document = :document, aircraft_kit = :aircraft_kit, pack_kit = :pack_kit WHERE uid = :uid"
    )
    for uid, text in connection.execute(sa.text("SELECT uid, document FROM flights")).all():
        entry = json.loads(text)
        kits = _kits({"aircraft": {"name": entry["aircraft"]}, "pack": {"label": entry.get("pack")}}, numbers)
        connection.execute(put, {"uid": uid, "document": json.dumps({**entry, **kits}), **kits})


def _launches(connection: sa.Connection, numbers: dict[tuple[str, str], int]) -> None:
    put = sa.text(
        "INSERT INTO launches VALUES (:id, :session, :day, :latitude, :longitude, :aircraft, :aircraft_kit, :pack, "
        ":pack_kit)"
    )
    asked = sa.text("SELECT id, session_id, plan FROM decisions WHERE word = 'launch'")
    for number, session, text in connection.execute(asked).all():
        plan = json.loads(text)
        given = {
            "id": number,
            "session": session,
            "day": plan["takeoff_at"][:10],
            "latitude": plan["site"]["latitude"],
            "longitude": plan["site"]["longitude"],
            "aircraft": plan["aircraft"]["name"],
            "pack": plan["pack"].get("label") or "",
        }
        connection.execute(put, given | _kits(plan, numbers))

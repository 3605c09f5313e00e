"""Flights with their events, edits and tracks; what was learned of them."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"

_COLUMNS = (
    "latitude", "longitude", "seconds", "charge_from_pct", "charge_to_pct", "predicted_to_pct", "planned_pct",
    "wind_predicted_ms", "wind_met_ms", "distance_m", "height_m",
)  # fmt: skip


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "flights",
        sa.Column("uid", sa.String(length=40), nullable=False),
        sa.Column("session_id", sa.Integer(), nullable=True),
        sa.Column("decision_id", sa.Integer(), nullable=True),
        sa.Column("started_at", sa.DateTime(), nullable=False),
        sa.Column("landed", sa.Boolean(), nullable=False),
        sa.Column("place", sa.String(length=120), nullable=False),
        sa.Column("aircraft", sa.String(length=120), nullable=False),
        sa.Column("pack", sa.String(length=60), nullable=False),
        *(sa.Column(name, sa.Double(), nullable=True) for name in _COLUMNS),
        sa.Column("verdict", sa.String(length=20), nullable=False),
        sa.Column("word", sa.String(length=20), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("plan", sa.Text(), nullable=True),
        sa.Column("card", sa.Text(), nullable=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.ForeignKeyConstraint(
            ["session_id"], ["sessions.id"], name=op.f("fk_flights_session_id"), ondelete="RESTRICT"
        ),
        sa.ForeignKeyConstraint(
            ["decision_id"], ["decisions.id"], name=op.f("fk_flights_decision_id"), ondelete="RESTRICT"
        ),
        sa.PrimaryKeyConstraint("uid", name=op.f("pk_flights")),
    )
    for column in ("session_id", "started_at", "place", "aircraft", "pack"):
        op.create_index(op.f(f"ix_flights_{column}"), "flights", [column])
    op.create_index("ix_flights_listed", "flights", ["deleted_at", "started_at"])
    op.create_table(
        "flight_events",
        sa.Column("uid", sa.String(length=40), nullable=False),
        sa.Column("flight_uid", sa.String(length=40), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("at_s", sa.Double(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("value", sa.Double(), nullable=True),
        sa.Column("bearing_deg", sa.Double(), nullable=True),
        sa.Column("text", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["flight_uid"], ["flights.uid"], name=op.f("fk_flight_events_flight_uid"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("uid", name=op.f("pk_flight_events")),
    )
    op.create_index(op.f("ix_flight_events_flight_uid"), "flight_events", ["flight_uid"])
    op.create_table(
        "flight_edits",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("flight_uid", sa.String(length=40), nullable=False),
        sa.Column("edited_at", sa.DateTime(), nullable=False),
        sa.Column("before", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["flight_uid"], ["flights.uid"], name=op.f("fk_flight_edits_flight_uid"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_flight_edits")),
    )
    op.create_index(op.f("ix_flight_edits_flight_uid"), "flight_edits", ["flight_uid"])
    op.create_table(
        "tracks",
        sa.Column("flight_uid", sa.String(length=40), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("points", sa.LargeBinary(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["flight_uid"], ["flights.uid"], name=op.f("fk_tracks_flight_uid"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("flight_uid", name=op.f("pk_tracks")),
    )
    op.create_table(
        "learned",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("target", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("before", sa.Double(), nullable=False),
        sa.Column("after", sa.Double(), nullable=False),
        sa.Column("pm", sa.Double(), nullable=False),
        sa.Column("flights", sa.Integer(), nullable=False),
        sa.Column("taken_at", sa.DateTime(), nullable=False),
        sa.Column("undone_at", sa.DateTime(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_learned")),
    )

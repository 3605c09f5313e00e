"""Forecast services of the pilot's own; what was found of sessions ahead as their forecasts were renewed."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    """Add both tables."""
    op.create_table(
        "sources",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sources"),
    )
    op.create_table(
        "watched",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("session_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("seen", sa.Boolean(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(["session_id"], ["sessions.id"], name="fk_watched_session_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_watched"),
    )
    op.create_index("ix_watched_session_id", "watched", ["session_id"])

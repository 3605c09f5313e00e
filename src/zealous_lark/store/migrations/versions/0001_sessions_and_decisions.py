"""Sessions, launch decisions and facts."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    """Make the tables, and the triggers that keep decisions as they were made."""
    op.create_table(
        "sessions",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(120), nullable=False),
        sa.Column("place", sa.String(120), nullable=False),
        sa.Column("aircraft", sa.String(120), nullable=False),
        sa.Column("pack", sa.String(60), nullable=False),
        sa.Column("takeoff_at", sa.DateTime(), nullable=False),
        sa.Column("plan", sa.Text(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_sessions"),
    )
    op.create_index("ix_sessions_takeoff_at", "sessions", ["takeoff_at"])
    op.create_table(
        "decisions",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("session_id", sa.Integer(), nullable=False),
        sa.Column("decided_at", sa.DateTime(), nullable=False),
        sa.Column("word", sa.String(20), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("verdict", sa.String(20), nullable=False),
        sa.Column("plan", sa.Text(), nullable=False),
        sa.Column("result", sa.Text(), nullable=False),
        sa.CheckConstraint("word IN ('launch', 'wait', 'stand_down')", name="ck_decisions_word"),
        sa.ForeignKeyConstraint(["session_id"], ["sessions.id"], name="fk_decisions_session_id", ondelete="RESTRICT"),
        sa.PrimaryKeyConstraint("id", name="pk_decisions"),
    )
    op.create_index("ix_decisions_session_id", "decisions", ["session_id"])
    op.create_table(
        "facts",
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("value", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("name", name="pk_facts"),
    )
    for verb in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER decisions_no_{verb.lower()} BEFORE {verb} ON decisions "
            "BEGIN SELECT RAISE(ABORT, 'a launch decision is kept as it was made'); END"
        )

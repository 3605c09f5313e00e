"""Kit, upkeep and what was said to the items of lists."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    """Make the tables."""
    op.add_column("decisions", sa.Column("walkround", sa.Text(), nullable=False, server_default="[]"))
    op.create_table(
        "kit",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_kit")),
    )
    op.create_table(
        "upkeep",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kit_id", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.ForeignKeyConstraint(["kit_id"], ["kit.id"], name=op.f("fk_upkeep_kit_id"), ondelete="RESTRICT"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_upkeep")),
    )
    op.create_index(op.f("ix_upkeep_kit_id"), "upkeep", ["kit_id"])
    op.create_table(
        "answers",
        sa.Column("session_id", sa.Integer(), nullable=False),
        sa.Column("list", sa.String(length=20), nullable=False),
        sa.Column("item", sa.String(length=80), nullable=False),
        sa.Column("word", sa.String(length=10), nullable=False),
        sa.Column("value", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("said_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(
            ["session_id"], ["sessions.id"], name=op.f("fk_answers_session_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("session_id", "list", "item", name=op.f("pk_answers")),
    )

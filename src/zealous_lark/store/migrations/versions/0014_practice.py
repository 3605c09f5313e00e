"""Answers to practice cases."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "practice",
        sa.Column("uid", sa.String(40), nullable=False),
        sa.Column("family", sa.String(40), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        sa.Column("answered_at", sa.DateTime(), nullable=False),
        sa.Column("grade", sa.String(10), nullable=False),
        sa.Column("cost", sa.Double(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("uid", name="pk_practice"),
    )
    op.create_index("ix_practice_family", "practice", ["family"])
    op.create_index("ix_practice_answered_at", "practice", ["answered_at"])

"""Personal minimums, dated."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "minimums",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("settings", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_minimums"),
    )

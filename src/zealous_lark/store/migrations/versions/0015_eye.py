"""What was found of the pilot's eye."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "eye",
        sa.Column("uid", sa.String(40), nullable=False),
        sa.Column("looked_at", sa.DateTime(), nullable=False),
        sa.Column("aircraft", sa.String(120), nullable=False),
        sa.Column("size_m", sa.Double(), nullable=False),
        sa.Column("seen_m", sa.Double(), nullable=False),
        sa.Column("low_m", sa.Double(), nullable=False),
        sa.Column("high_m", sa.Double(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("uid", name="pk_eye"),
    )
    op.create_index("ix_eye_looked_at", "eye", ["looked_at"])

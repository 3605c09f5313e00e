"""Places and their terrains."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "places",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_places"),
    )
    op.create_table(
        "terrains",
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("header", sa.Text(), nullable=False),
        sa.Column("grid", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("sha256", name="pk_terrains"),
    )

"""Photos of flights and places."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "photos",
        sa.Column("uid", sa.String(40), nullable=False),
        sa.Column("flight_uid", sa.String(40), nullable=True),
        sa.Column("place_id", sa.Integer(), nullable=True),
        sa.Column("taken_at", sa.DateTime(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.CheckConstraint("(flight_uid IS NULL) <> (place_id IS NULL)", name="ck_photos_of_one_thing"),
        sa.ForeignKeyConstraint(["flight_uid"], ["flights.uid"], name="fk_photos_flight_uid", ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["place_id"], ["places.id"], name="fk_photos_place_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("uid", name="pk_photos"),
    )
    op.create_index("ix_photos_flight_uid", "photos", ["flight_uid"])
    op.create_index("ix_photos_place_id", "photos", ["place_id"])

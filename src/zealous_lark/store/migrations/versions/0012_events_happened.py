"""When an event of a flight happened, by the clock of Lark's own computer."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    """Add the column."""
    with op.batch_alter_table("flight_events") as table:
        table.add_column(sa.Column("happened_at", sa.DateTime(), nullable=True))

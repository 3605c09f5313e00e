"""What was learned of a forecast says of which source."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    """Add the column."""
    with op.batch_alter_table("learned") as table:
        table.add_column(sa.Column("source", sa.String(120), nullable=False, server_default=""))

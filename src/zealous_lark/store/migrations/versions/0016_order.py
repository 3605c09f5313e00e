"""Answers and repeatable requests have a place in one order that no wall clock moves."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"

_MICROSECONDS = "CAST(ROUND((julianday({column}) - 2440587.5) * 86400000000.0) AS INTEGER)"


def upgrade() -> None:
    """Add the columns; what is there keeps the order of its times."""
    for table, column in (("answers", "said_at"), ("requests", "answered_at")):
        op.add_column(table, sa.Column("order", sa.BigInteger(), nullable=False, server_default="0"))
        op.execute(f'UPDATE {table} SET "order" = {_MICROSECONDS.format(column=column)}')
    op.create_index("ix_requests_order", "requests", ["order"])

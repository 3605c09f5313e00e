"""Plans of sessions and aircraft of the kit, brought to version 2 of the plan document.

Decisions and flights stay as they were made; they are read in every version.
"""

import sqlalchemy as sa
from alembic import op

from zealous_lark.plan.versions import upgraded_text

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    """Write the documents again where they are of an older version."""
    connection = op.get_bind()
    for table, column in (("sessions", "plan"), ("kit", "document")):
        rows = connection.execute(sa.text(f"SELECT id, {column} FROM {table}")).all()
        for number, document in rows:
            newer = upgraded_text(document)
            if newer != document:
                connection.execute(
                    sa.text(f"UPDATE {table} SET {column} = :newer WHERE id = :number"),
                    {"newer": newer, "number": number},
                )

"""Runs the migrations on the connection that the database hands over."""

from alembic import context

from zealous_lark.store.models import Base

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=Base.metadata,
    # SQLite cannot alter most columns in place; batch mode copies the table instead.
    render_as_batch=True,
)
with context.begin_transaction():
    context.run_migrations()

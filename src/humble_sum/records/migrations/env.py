"""Runs migrations on the connection that `database.migrate` hands over."""

from alembic import context

from humble_sum.records.tables import Base

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Base.metadata, render_as_batch=True
)
context.run_migrations()

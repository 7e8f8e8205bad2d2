"""Run by Alembic. The connection is handed in by `shop_file`; there is no configuration file to keep in step."""

from alembic import context

from yellow_abacus.store.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()

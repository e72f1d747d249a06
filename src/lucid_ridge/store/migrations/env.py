"""Alembic's environment: the address comes from the caller, never from a file."""

from alembic import context
from sqlalchemy import NullPool, create_engine

from lucid_ridge.store.tables import Base

with create_engine(context.config.attributes["database_url"], poolclass=NullPool).connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()

"""Alembic's environment: the address or the connection comes from the caller, never from a file."""

from contextlib import nullcontext

from alembic import context
from sqlalchemy import NullPool, create_engine

from lucid_ridge.store.tables import Base

given = context.config.attributes.get("connection")
with (
    nullcontext(given)
    if given is not None
    else create_engine(context.config.attributes["database_url"], poolclass=NullPool).connect()
) as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()

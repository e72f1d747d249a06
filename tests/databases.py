"""Making and dropping databases on the server that the tests share."""

import contextlib
from collections.abc import Iterator

from sqlalchemy import create_engine, text
from sqlalchemy.exc import OperationalError


def administer(server_url: str, statement: str, tries: int = 3) -> None:
    """Carry out a statement on the server that the tests share. A connection may be cut while a database is dropped by force."""
    engine = create_engine(server_url, isolation_level="AUTOCOMMIT")
    try:
        with engine.connect() as connection:
            connection.execute(text(statement))
    except OperationalError:
        if tries == 1:
            raise
        administer(server_url, statement, tries - 1)
    finally:
        engine.dispose()


@contextlib.contextmanager
def held(server_url: str) -> Iterator[None]:
    """Let one process of tests through at a time."""
    engine = create_engine(server_url, isolation_level="AUTOCOMMIT")
    try:
        with engine.connect() as connection:
            connection.execute(text("select pg_advisory_lock(1)"))
            yield
    finally:
        engine.dispose()


def exists(server_url: str, name: str) -> bool:
    engine = create_engine(server_url)
    try:
        with engine.connect() as connection:
            return connection.scalar(text("select true from pg_database where datname = :name"), {"name": name}) is True
    finally:
        engine.dispose()

"""Making and dropping databases on the server that the tests share."""

import contextlib
from collections.abc import Callable, Iterator

from sqlalchemy import create_engine, make_url, text
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


def made_once(server_url: str, name: str, fill: Callable[[str], None]) -> str:
    """Have a database to copy from, made by the process of tests that wants it first. fill: given its address."""
    with _held(server_url):
        if not _exists(server_url, name):
            made = f"{name}_being_made"
            administer(server_url, f'drop database if exists "{made}"')
            administer(server_url, f'create database "{made}"')
            fill(make_url(server_url).set(database=made).render_as_string(hide_password=False))
            administer(server_url, f'alter database "{made}" rename to "{name}"')
    return name


@contextlib.contextmanager
def _held(server_url: str) -> Iterator[None]:
    """Let one process of tests through at a time."""
    engine = create_engine(server_url, isolation_level="AUTOCOMMIT")
    try:
        with engine.connect() as connection:
            connection.execute(text("select pg_advisory_lock(1)"))
            yield
    finally:
        engine.dispose()


def _exists(server_url: str, name: str) -> bool:
    engine = create_engine(server_url)
    try:
        with engine.connect() as connection:
            return connection.scalar(text("select true from pg_database where datname = :name"), {"name": name}) is True
    finally:
        engine.dispose()

"""Making and dropping databases on the server that the tests share."""

import contextlib
import uuid
from collections.abc import Callable, Iterator

import psycopg
from sqlalchemy import create_engine, make_url, text


def administer(server_url: str, statement: str, tries: int = 3) -> None:
    """Carry out a statement on the server that the tests share.

    A connection may be cut while a database is dropped by force.
    """
    # Without an engine, which asks the server about itself first: this is done before and after most tests.
    address = make_url(server_url).set(drivername="postgresql").render_as_string(hide_password=False)
    try:
        with psycopg.connect(address, autocommit=True) as connection:
            connection.execute(statement.encode())
    except psycopg.OperationalError:
        if tries == 1:
            raise
        administer(server_url, statement, tries - 1)


@contextlib.contextmanager
def own_database(server_url: str, template: str | None = None) -> Iterator[str]:
    """Have a database for a while, copied from a template or empty; gives its address."""
    name = f"own_{uuid.uuid4().hex[:12]}"
    administer(server_url, f'create database "{name}"' + (f' template "{template}"' if template else ""))
    try:
        yield address_of(server_url, name)
    finally:
        administer(server_url, f'drop database if exists "{name}" with (force)')


def address_of(server_url: str, name: str) -> str:
    """Return the address of a database on a server."""
    return make_url(server_url).set(database=name).render_as_string(hide_password=False)


def made_once(server_url: str, name: str, fill: Callable[[str], None]) -> str:
    """Have a database to copy from, made by the process of tests that wants it first. fill: given its address."""
    with _held(server_url):
        if not _exists(server_url, name):
            made = f"{name}_being_made"
            administer(server_url, f'drop database if exists "{made}"')
            administer(server_url, f'create database "{made}"')
            fill(address_of(server_url, made))
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

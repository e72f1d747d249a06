"""Fixtures: a throw-away PostgreSQL server (started by ./test), a migrated template, a database or a roll-back per
test.
"""

from __future__ import annotations

import gc
import os
from collections.abc import Iterator
from datetime import date

import pytest
from databases import made_once, own_database
from hypothesis import settings
from sqlalchemy import Engine, create_engine

# The same examples in every run; a slow machine is no failure.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.load_profile("steady")


def pytest_collection_finish() -> None:
    """What is there by now stays until the end: it need not be looked through again and again for what could go."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)


# The demo's dates are laid out from this day, so that no test depends on the clock.
DEMO_DAY = date(2026, 11, 24)


@pytest.fixture(scope="session")
def server_url() -> str:
    url = os.environ.get("LUCID_RIDGE_TEST_SERVER_URL")
    if not url:
        pytest.fail("This test needs PostgreSQL: run it with ./test, which starts one.")
    return url


@pytest.fixture(scope="session")
def template(server_url: str) -> str:
    """A migrated database with the demo in it and its notebook planned, to copy from."""
    return made_once(server_url, "template_demo", _fill_with_demo)


def _fill_with_demo(url: str) -> None:
    from lucid_ridge.demo.load import load_demo
    from lucid_ridge.store.database import make_engine, make_sessions, migrate
    from lucid_ridge.work import plan_notebook

    migrate(url)
    engine = make_engine(url)
    sessions = make_sessions(engine)
    with sessions() as session, session.begin():
        load_demo(session, DEMO_DAY)
    plan_notebook(sessions)
    engine.dispose()


@pytest.fixture(scope="session")
def migrated(server_url: str) -> str:
    """A migrated database with nothing in it, to copy from."""
    from lucid_ridge.store.database import migrate

    return made_once(server_url, "template_migrated", migrate)


@pytest.fixture
def migrated_database(server_url: str, migrated: str) -> Iterator[str]:
    """The address of a new database with all tables, and nothing in them."""
    with own_database(server_url, migrated) as address:
        yield address


@pytest.fixture
def demo_database(server_url: str, template: str) -> Iterator[str]:
    """The address of a copy of the demo."""
    with own_database(server_url, template) as address:
        yield address


@pytest.fixture
def empty_database(server_url: str) -> Iterator[str]:
    """The address of a new database without any table."""
    with own_database(server_url) as address:
        yield address


@pytest.fixture(scope="session")
def demo_engine(server_url: str, template: str) -> Iterator[Engine]:
    """An engine on one copy of the demo, shared by tests that roll back."""
    with own_database(server_url, template) as address:
        engine = create_engine(address)
        yield engine
        engine.dispose()

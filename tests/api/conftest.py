"""A client on the demo whose every commit is rolled back after the test."""

from __future__ import annotations

import gc

import pytest
from api_client import Api
from sqlalchemy.orm import sessionmaker

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.standins.forecast_service import ForecastService
from lucid_ridge.store.database import make_engine, make_sessions
from lucid_ridge.work import make_worker


@pytest.fixture(scope="session")
def made_app():
    """One application for all tests of a process, as it is made of nothing but its configuration."""
    return create_app(Configuration(database_url=""), sessions=sessionmaker())


@pytest.fixture
def clean_app(made_app):
    """The application that all tests share, as none of them has used it; it is left as it was found."""
    config, extensions = dict(made_app.config), dict(made_app.extensions)
    made_app.config["TESTING"] = True
    yield made_app
    for kept, now in ((config, made_app.config), (extensions, made_app.extensions)):
        now.clear()
        now.update(kept)


@pytest.fixture
def app(demo_engine, clean_app):
    with demo_engine.connect() as connection:
        transaction = connection.begin()
        sessions = sessionmaker(connection, join_transaction_mode="create_savepoint", expire_on_commit=False)
        clean_app.extensions["sessions"] = clean_app.extensions["test_sessions"] = sessions
        yield clean_app
        transaction.rollback()


@pytest.fixture
def api(app):
    return Api(app.test_client())


@pytest.fixture
def own_api(demo_database, clean_app):
    """A client on a database of its own, for work that goes on in other threads."""
    engine = make_engine(demo_database)
    clean_app.extensions["sessions"] = make_sessions(engine)
    worker = make_worker(clean_app.extensions["sessions"])
    worker.start()
    yield Api(clean_app.test_client())
    worker.stop()
    # Connections that a test left to the garbage end while their database is there: cut later, in the middle of
    # anything, they would disturb it.
    gc.collect()
    engine.dispose()


@pytest.fixture
def service(app):
    running = ForecastService()
    app.extensions["forecast_url"] = running.url
    yield running
    running.stop()

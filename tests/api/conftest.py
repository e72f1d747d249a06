"""A client on the demo whose every commit is rolled back after the test."""

from __future__ import annotations

import gc
import uuid

import pytest
from api_client import Api
from sqlalchemy import create_engine, make_url, text
from sqlalchemy.orm import sessionmaker

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.standins.forecast_service import ForecastService
from lucid_ridge.work import make_worker


@pytest.fixture(scope="session")
def made_app():
    """One application for all tests of a process, as it is made of nothing but its configuration."""
    return create_app(Configuration(database_url=""), sessions=sessionmaker())


@pytest.fixture
def app(demo_engine, made_app):
    config, extensions = dict(made_app.config), dict(made_app.extensions)
    with demo_engine.connect() as connection:
        transaction = connection.begin()
        sessions = sessionmaker(connection, join_transaction_mode="create_savepoint", expire_on_commit=False)
        made_app.config["TESTING"] = True
        made_app.extensions["sessions"] = made_app.extensions["test_sessions"] = sessions
        yield made_app
        transaction.rollback()
    # What a test has set goes with it.
    for kept, now in ((config, made_app.config), (extensions, made_app.extensions)):
        now.clear()
        now.update(kept)


@pytest.fixture
def api(app):
    return Api(app.test_client())


@pytest.fixture
def own_api(server_url, template):
    """A client on a database of its own, for work that goes on in other threads."""
    name = f"own_{uuid.uuid4().hex[:10]}"
    server = create_engine(server_url, isolation_level="AUTOCOMMIT")
    with server.connect() as connection:
        connection.execute(text(f'create database "{name}" template "{template}"'))
    application = create_app(Configuration(database_url=make_url(server_url).set(database=name).render_as_string(hide_password=False)))
    application.config["TESTING"] = True
    worker = make_worker(application.extensions["sessions"])
    worker.start()
    yield Api(application.test_client())
    worker.stop()
    # Connections that a test left to the garbage end while their database is there: cut later, in the middle of anything, they would disturb it.
    gc.collect()
    application.extensions["sessions"].kw["bind"].dispose()
    with server.connect() as connection:
        connection.execute(text(f'drop database "{name}" with (force)'))
    server.dispose()


@pytest.fixture
def service(app):
    running = ForecastService()
    app.extensions["forecast_url"] = running.url
    yield running
    running.stop()

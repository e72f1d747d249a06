"""A client on the demo whose every commit is rolled back after the test."""

from __future__ import annotations

import gc
import uuid

import pytest
from sqlalchemy import create_engine, make_url, text
from sqlalchemy.orm import sessionmaker
from wire import field_on_the_wire, on_the_wire

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.standins.forecast_service import ForecastService
from lucid_ridge.work import make_worker


class Api:
    """The test client with JSON in and out, and rows of the demo by name."""

    def __init__(self, client):
        self.client = client

    def call(self, method, path, body=None, expect=200, headers=None):
        answer = self.client.open(f"/api{path}", method=method, json=body, headers=headers)
        assert answer.status_code == expect, answer.get_data(as_text=True)
        return answer.get_json(silent=True)

    def get(self, path, expect=200):
        return self.call("GET", path, None, expect)

    def post(self, path, body, expect=201):
        return self.call("POST", path, body, expect)

    def put(self, path, body, expect=200):
        return self.call("PUT", path, body, expect)

    def patch(self, path, body, expect=200):
        return self.call("PATCH", path, on_the_wire(path, body), expect)

    def delete(self, path, expect=204):
        return self.call("DELETE", path, None, expect)

    def shot_id(self, name):
        return next(shot["id"] for shot in self.get("/notebook")["shots"] if shot["name"] == name)

    def refusal(self, method, path, body, field=None, status=422):
        """Make a call that must be refused; return the error, checked to name the field."""
        error = self.call(method, path, on_the_wire(path, body), status)["error"]
        assert set(error) == {"kind", "message", "fields"}
        if field is not None:
            field = field_on_the_wire(path, field)
            assert field in [item["field"] for item in error["fields"]], error
        return error


@pytest.fixture
def app(demo_engine):
    with demo_engine.connect() as connection:
        transaction = connection.begin()
        sessions = sessionmaker(connection, join_transaction_mode="create_savepoint", expire_on_commit=False)
        application = create_app(Configuration(database_url=""), sessions)
        application.config["TESTING"] = True
        application.extensions["test_sessions"] = sessions
        yield application
        transaction.rollback()


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

"""The web server as it is really run: many idle connections, and what health says when the database is away."""

import contextlib
import json
import socket
import threading
import urllib.error
import urllib.request

import pytest
import waitress

from lucid_ridge.app import create_app
from lucid_ridge.cli import server_options
from lucid_ridge.configuration import Configuration


@contextlib.contextmanager
def _served(app):
    server = waitress.create_server(app, host="127.0.0.1", port=0, **server_options(1_000_000))

    def serve():
        with contextlib.suppress(OSError):
            server.run()

    threading.Thread(target=serve, daemon=True).start()
    try:
        yield server.effective_port
    finally:
        server.close()


def _ask(port, path="/api/health"):
    with urllib.request.urlopen(f"http://127.0.0.1:{port}{path}", timeout=10) as answer:
        return answer.status, json.load(answer)


def test_idle_connections_do_not_keep_others_out(own_api):
    with _served(own_api.client.application) as port:
        idle = [socket.create_connection(("127.0.0.1", port)) for _ in range(250)]
        try:
            assert _ask(port) == (200, {"status": "ok"})
        finally:
            for connection in idle:
                connection.close()


def test_health_says_that_the_database_is_away():
    app = create_app(Configuration(database_url="postgresql+psycopg://nobody@127.0.0.1:1/nowhere"))
    with _served(app) as port, pytest.raises(urllib.error.HTTPError) as refused:
        _ask(port)
    assert refused.value.code == 503
    assert "database does not answer" in json.load(refused.value)["error"]["message"]

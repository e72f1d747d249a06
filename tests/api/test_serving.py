"""The web server as it is really run: many idle connections, and what health says when the database is away."""

import contextlib
import errno
import json
import socket
import threading
import urllib.error
import urllib.request

import psycopg
import pytest
import waitress
from sqlalchemy import event
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from lucid_ridge.api.platform.files import largest_file
from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration
from lucid_ridge.formats import archive, camera_files, elevation
from lucid_ridge.serving import loopback_options


@contextlib.contextmanager
def _served(app):
    server = waitress.create_server(app, host="127.0.0.1", port=0, **loopback_options(1_000_000))

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


@pytest.mark.parametrize(
    "full", [psycopg.errors.DiskFull("could not extend file"), OSError(errno.ENOSPC, "No space left on device")]
)
def test_a_full_disk_is_called_a_full_disk(app, api, full):
    shot = api.shot_id("Posts at the ebb")
    before = api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"]
    app.config["TESTING"] = False
    app.config["PROPAGATE_EXCEPTIONS"] = False

    def fail(_session, _context, _instances):
        raise OperationalError("update", {}, full) if isinstance(full, psycopg.Error) else full

    event.listen(Session, "before_flush", fail)
    try:
        answer = api.client.patch(f"/api/shots/{shot}", json={"frame": {"pitch_deg": 3.5}})
    finally:
        event.remove(Session, "before_flush", fail)
    assert answer.status_code == 507
    assert "disk is full" in answer.get_json()["error"]["message"]
    # With room again it goes on.
    assert api.get(f"/shots/{shot}")["facts"]["frame"]["pitch_deg"] == before
    api.patch(f"/shots/{shot}", {"pitch_deg": 3.5})


def test_clients_that_send_slowly_hold_nobody_up(app):
    """More than there are threads, some within their request's head and some within its body, and none ever done."""
    head = b"GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: "
    body = b"PATCH /api/shots/1 HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{"
    with _served(app) as port, contextlib.ExitStack() as stack:
        slow = [stack.enter_context(socket.create_connection(("127.0.0.1", port))) for _ in range(80)]
        for turn in range(3):
            for number, client in enumerate(slow):
                client.sendall((body if number % 2 else head) if turn == 0 else b" ")
            answers = [_ask(port) for _ in range(5)]
            assert [status for status, _ in answers] == [200] * 5


def test_every_answer_is_guarded(api):
    for path in ("/", "/api/notebook", "/api/nothing", "/assets/none.js", "/api/shots/999999"):
        answer = api.client.get(path)
        policy = dict(part.split(" ", 1) for part in answer.headers["Content-Security-Policy"].split("; "))
        assert policy["script-src"] == policy["default-src"] == policy["form-action"] == "'self'"
        # Of styles but one element without text: what the interface's library writes goes in by script.
        assert policy["style-src"] == "'self' 'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"
        assert policy["base-uri"] == policy["object-src"] == policy["frame-ancestors"] == "'none'"
        assert answer.headers["X-Content-Type-Options"] == "nosniff"
        assert answer.headers["X-Frame-Options"] == "DENY"
        assert answer.headers["Cross-Origin-Resource-Policy"] == "same-origin"
        assert answer.headers["Referrer-Policy"] == "no-referrer"
        assert "Traceback" not in answer.get_data(as_text=True)


def test_the_server_lets_the_largest_file_through_that_an_address_takes(app):
    assert largest_file(app) == max(archive.LARGEST_BYTES, camera_files.LARGEST_BYTES, elevation.LARGEST_BYTES)
    assert loopback_options(largest_file(app))["max_request_body_size"] >= camera_files.LARGEST_BYTES

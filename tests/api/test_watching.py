"""What a server is watched by: figures and lines for each request, which tell operations and no person."""

import json
import logging
import re
import subprocess
import sys
import urllib.request

import pytest
from prometheus_client import CollectorRegistry, generate_latest
from sqlalchemy.orm import sessionmaker

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Configuration, from_environment


@pytest.fixture
def figures():
    return CollectorRegistry()


@pytest.fixture
def watched(demo_engine, figures, monkeypatch):
    """A client of an application that is measured and writes its requests down."""
    monkeypatch.setattr("prometheus_client.REGISTRY", figures)
    with demo_engine.connect() as connection:
        transaction = connection.begin()
        sessions = sessionmaker(connection, join_transaction_mode="create_savepoint", expire_on_commit=False)
        app = create_app(Configuration(database_url="", metrics_port=9, log_json=True), sessions)
        yield app.test_client()
        transaction.rollback()


def _counted(figures):
    return {
        (found["operation"], found["status"]): float(number)
        for labels, number in re.findall(
            r"^lucid_ridge_request_seconds_count{(.+)} (\S+)$", generate_latest(figures).decode(), re.M
        )
        for found in [dict(re.findall(r'(\w+)="([^"]*)"', labels))]
    }


def test_requests_are_counted_by_operation_and_status(watched, figures):
    shot = watched.get("/api/notebook").get_json()["shots"][0]["id"]
    for _ in range(3):
        assert watched.get(f"/api/shots/{shot}").status_code == 200
    assert watched.patch(f"/api/shots/{shot}", json={"name": "", "colour": 3}).status_code == 422
    assert watched.get("/api/shots/999999").status_code == 404
    counted = _counted(figures)
    assert counted["GET /api/shots/<int:shot_id>", "200"] == 3
    assert counted["PATCH /api/shots/<int:shot_id>", "422"] == 1
    assert counted["GET /api/shots/<int:shot_id>", "404"] == 1


def test_a_line_tells_the_operation_and_neither_number_nor_content(watched, caplog):
    caplog.set_level(logging.INFO, "lucid_ridge.requests")
    shot = watched.get("/api/notebook").get_json()["shots"][0]["id"]
    watched.patch(f"/api/shots/{shot}", json={"name": "Nobody's business"})
    record = next(item for item in caplog.records if getattr(item, "operation", "").startswith("PATCH"))
    assert (record.operation, record.status) == ("PATCH /api/shots/<int:shot_id>", 200)
    assert 0 < record.took_ms < 60_000
    assert not [item for item in caplog.records if "business" in str(item.__dict__)]


def test_what_is_logged_is_json():
    script = (
        "import logging\nfrom lucid_ridge.watching import log_as_json\nlog_as_json()\n"
        "logging.getLogger('lucid_ridge.requests').info('answered', extra={'operation': 'GET /api/kit', "
        "'status': 200, 'took_ms': 1.5})\n"
        "try:\n    1 / 0\nexcept ZeroDivisionError:\n    logging.getLogger('x').exception('two\\nlines')\n"
    )
    found = subprocess.run(
        [sys.executable, "-c", script], capture_output=True, text=True, check=True
    ).stderr.splitlines()
    first, second = map(json.loads, found)
    assert {name: first[name] for name in ("level", "of", "message", "operation", "status", "took_ms")} == {
        "level": "INFO",
        "of": "lucid_ridge.requests",
        "message": "answered",
        "operation": "GET /api/kit",
        "status": 200,
        "took_ms": 1.5,
    }
    assert second["message"] == "two\nlines"
    assert "ZeroDivisionError" in second["exc_info"]


def test_what_a_statement_carried_is_in_no_error(demo_engine, server_url):
    from sqlalchemy import text
    from sqlalchemy.exc import DBAPIError

    from lucid_ridge.store.database import make_engine

    engine = make_engine(server_url)
    with engine.connect() as connection, pytest.raises(DBAPIError) as caught:
        connection.execute(
            text("select no_such_column from pg_class where relname = :name"), {"name": "a secret place"}
        )
    engine.dispose()
    assert "no_such_column" in str(caught.value)
    assert "a secret place" not in str(caught.value)


def test_figures_of_several_processes_are_served_together(tmp_path):
    script = (
        "import os, sys, subprocess\n"
        "from lucid_ridge import watching\n"
        "watching.share_figures()\n"
        "count = \"from prometheus_client import Counter; Counter('seen', 'Seen.').inc(2)\"\n"
        "for _ in range(2):\n    subprocess.run([sys.executable, '-c', count], check=True)\n"
        "import socket\n"
        "with socket.socket() as free:\n    free.bind(('127.0.0.1', 0)); port = free.getsockname()[1]\n"
        "watching.serve_figures(port)\n"
        "print(port, flush=True)\nsys.stdin.read()\n"
    )
    with subprocess.Popen(
        [sys.executable, "-c", script], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    ) as process:
        port = int(process.stdout.readline())
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/metrics", timeout=10) as answer:
            told = answer.read().decode()
        process.stdin.close()
    assert re.search(r"^seen_total 4\.0$", told, re.M)


@pytest.mark.parametrize("said", ["0", "70000", "nine", "-1"])
def test_a_port_that_cannot_be_is_refused(monkeypatch, said):
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", "postgresql+psycopg://")
    monkeypatch.setenv("LUCID_RIDGE_METRICS_PORT", said)
    with pytest.raises(SystemExit, match="1 to 65535"):
        from_environment()


def test_another_kind_of_log_is_refused(monkeypatch):
    monkeypatch.setenv("LUCID_RIDGE_DATABASE_URL", "postgresql+psycopg://")
    monkeypatch.setenv("LUCID_RIDGE_LOG", "xml")
    with pytest.raises(SystemExit, match="must be json"):
        from_environment()
    for said, wanted in (("json", True), ("", False)):
        monkeypatch.setenv("LUCID_RIDGE_LOG", said)
        assert from_environment().log_json is wanted

"""The set-up commands: ports, stale pid files, arguments."""

import os
import socket

import pytest
from console import SetupError
from postgres import Cluster
from start import USUAL_PORT, _parse, _port


@pytest.fixture
def cluster(tmp_path):
    # Another user must be able to pass through pytest's private folder when we are root.
    for folder in (tmp_path, *list(tmp_path.parents)[:3]):
        if folder.stat().st_uid == os.geteuid() and folder != folder.parent:
            folder.chmod(folder.stat().st_mode | 0o011)
    made = Cluster(tmp_path / "with a space" / "data", durable=False)
    made.data.parent.mkdir(mode=0o755)
    yield made
    made.stop()


def test_a_server_starts_twice_and_survives_a_crash(cluster):
    cluster.create()
    cluster.create()
    assert cluster.start() is True
    assert cluster.start() is False
    cluster.create_database("kept")
    # A crash: the server is killed, its pid file stays.
    pid = cluster._server_pid()
    os.kill(pid, 9)
    deadline = 200
    while cluster._running() and deadline:
        deadline -= 1
        os.sched_yield()
    assert (cluster.data / "postmaster.pid").exists()
    assert cluster.start() is True
    assert cluster.has_database("kept")
    cluster.drop_database("kept")
    assert not cluster.has_database("kept")


def test_a_pid_file_of_another_process_is_not_our_server(cluster):
    cluster.create()
    (cluster.data / "postmaster.pid").write_text(f"{os.getpid()}\n")
    assert cluster._running() is False
    assert cluster.start() is True


def test_a_taken_port_is_said_or_avoided():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        number = taken.getsockname()[1]
        with pytest.raises(SetupError, match=str(number)):
            _port(number)
    assert _port(None) > 0


def test_arguments():
    assert _parse([]).port is None
    assert _parse(["--port", "8000", "--fresh", "--no-demo"]).fresh is True
    with pytest.raises(SystemExit):
        _parse(["--port", "70000"])
    assert 1024 < USUAL_PORT < 65536

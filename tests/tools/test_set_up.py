"""The set-up commands: ports, stale pid files, arguments."""

import os
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time

import pytest
import start
import users
from console import SetupError
from start import USUAL_PORT, _parse, _port

LASTING = [sys.executable, "-c", "import time; time.sleep(60)"]


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
    while cluster._alive() and deadline:
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
    assert cluster.answers() is False
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


def test_a_server_that_lost_its_socket_is_started_anew_and_keeps_its_pid_file(cluster):
    cluster.create()
    cluster.start()
    cluster.create_database("kept")
    before = cluster._server_pid()
    shutil.rmtree(cluster.socket_dir)
    assert not cluster.answers() and cluster._alive()
    assert cluster.start() is True
    assert cluster._server_pid() != before
    assert cluster.has_database("kept")
    # The pid file is the running server's own: without it PostgreSQL ends itself within a minute.
    assert cluster._alive() and cluster.answers()


def test_a_backup_is_whole_private_and_under_its_name_only_when_done(cluster, tmp_path):
    cluster.create()
    cluster.start()
    cluster.create_database("notebook")
    cluster._sql("select 1")
    target = tmp_path / "backups" / "one.sql"
    cluster.dump("notebook", target)
    assert target.stat().st_mode & 0o777 == 0o600
    assert b"database dump complete" in target.read_bytes()
    assert [path.name for path in target.parent.iterdir()] == ["one.sql"]
    with pytest.raises(SetupError, match="nothing was changed"):
        cluster.dump("missing", tmp_path / "backups" / "two.sql")
    assert not (tmp_path / "backups" / "two.sql").exists()


def test_nobody_replaces_a_notebook_that_is_being_served(tmp_path, monkeypatch):
    monkeypatch.setattr("builtins.input", lambda _: "n")
    monkeypatch.setattr(users, "_is_ours", lambda _: True)
    users.make_way(tmp_path, may_ask=False)  # nobody is there
    serving = users.join(tmp_path)
    serving.at(8123)
    with pytest.raises(SetupError, match="being served"):
        users.make_way(tmp_path, may_ask=False)
    with pytest.raises(SetupError, match="Nothing was changed"):
        users.make_way(tmp_path, may_ask=True)
    assert serving.leave() is True
    serving._lock.close()
    users.make_way(tmp_path, may_ask=False)


def test_the_last_to_leave_stops_the_database(tmp_path):
    one, two = users.join(tmp_path), users.join(tmp_path)
    assert one.leave() is False
    one._lock.close()
    assert two.leave() is True


def test_a_server_ends_with_the_command_that_started_it():
    # The command is killed; the processes it started are ended, so that no server is left without its database.
    script = (
        "import subprocess, sys, time, users\n"
        "child = subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(60)'], "
        "preexec_fn=users.end_with_parent)\n"
        "print(child.pid, flush=True)\n"
        "time.sleep(60)\n"
    )
    parent = subprocess.Popen(
        [sys.executable, "-c", script],
        stdout=subprocess.PIPE,
        text=True,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
    )
    child = int(parent.stdout.readline())
    parent.kill()
    parent.wait()
    parent.stdout.close()
    until = time.monotonic() + 10
    while _lives(child) and time.monotonic() < until:
        time.sleep(0.02)
    assert not _lives(child)


def _lives(pid):
    try:
        with open(f"/proc/{pid}/stat") as file:
            return file.read().rsplit(")", 1)[1].split()[0] not in "ZX"
    except OSError:
        return False


def test_a_database_that_dies_is_started_again(cluster, monkeypatch, capsys):
    monkeypatch.setattr(start, "WATCH_S", 0.1)
    cluster.create()
    cluster.start()
    cluster.create_database("kept")
    server = start.Server(LASTING, dict(os.environ))
    codes = []
    watching = threading.Thread(target=lambda: codes.append(start.watch(server, cluster)))
    watching.start()
    before = cluster._server_pid()
    os.kill(before, signal.SIGKILL)
    until = time.monotonic() + 30
    while (not cluster.answers() or cluster._server_pid() == before) and time.monotonic() < until:
        time.sleep(0.05)
    assert _asked_until_it_answers(cluster)
    server.end()
    watching.join(10)
    assert codes == [-signal.SIGTERM]
    assert "runs again" in capsys.readouterr().out


def test_a_server_that_is_killed_is_begun_again_but_not_for_ever(capsys, monkeypatch):
    monkeypatch.setattr(start, "KILLED_MOST", 2)
    server = start.Server(LASTING, dict(os.environ))
    seen = set()
    for _ in range(2):
        seen.add(server.process.pid)
        server.process.kill()
        assert server.ended(10) is None
        assert server.poll() is None
    assert server.process.pid not in seen
    assert capsys.readouterr().out.count("runs again") == 2
    server.process.kill()
    assert server.ended(10) == -signal.SIGKILL


def test_a_server_that_gives_up_is_not_begun_again():
    server = start.Server([sys.executable, "-c", "raise SystemExit(3)"], dict(os.environ))
    assert server.ended(10) == 3


def _asked_until_it_answers(cluster):
    """A database recovering from a crash takes connections a moment after its socket is there."""
    for _ in range(100):
        try:
            return cluster.has_database("kept")
        except SetupError:
            time.sleep(0.1)
    return False

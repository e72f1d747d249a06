"""./start: set everything up, serve on loopback, stop cleanly."""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from datetime import datetime
from typing import IO

from console import LOCAL, ROOT, SetupError, main_guard, run, say
from environment import PYTHON, application_environment, ensure_python, ensure_web
from packages import ensure
from postgres import Cluster, alone, application_data

DATABASE = "lucid_ridge"
USUAL_PORT = 8710


def main(argv: list[str]) -> int:
    options = _parse(argv)
    ensure()
    with alone():
        ensure_python()
        ensure_web()
        cluster = Cluster(application_data())
        cluster.create()
        cluster.start()
        users = _use_database()
        _prepare(cluster, options)
    try:
        return _serve(cluster, options)
    finally:
        with alone():
            _leave_database(cluster, users)


def _parse(argv: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Set up Lucid Ridge and serve it on this machine.")
    parser.add_argument("--port", type=int, help=f"port on 127.0.0.1 (default: {USUAL_PORT}, or a free one if that is taken)")
    parser.add_argument("--fresh", action="store_true", help="put the database aside as a backup and rebuild the demo")
    parser.add_argument("--no-demo", action="store_true", help="start with an empty notebook instead of the demo")
    options = parser.parse_args(argv)
    if options.port is not None and not 1 <= options.port <= 65535:
        parser.error(f"--port must lie from 1 to 65535, not {options.port}")
    return options


def _prepare(cluster: Cluster, options: argparse.Namespace) -> None:
    if options.fresh and cluster.has_database(DATABASE):
        backup = LOCAL / "backups" / f"{datetime.now():%Y-%m-%d-%H%M%S}.sql"
        cluster.dump(DATABASE, backup)
        say(f"The old notebook is kept in {backup.relative_to(ROOT)}.")
        cluster.drop_database(DATABASE)
    if not cluster.has_database(DATABASE):
        cluster.create_database(DATABASE)
    command = [PYTHON, "-m", "lucid_ridge", "prepare"] + (["--no-demo"] if options.no_demo else [])
    run(command, cwd=ROOT, env=application_environment(cluster.url(DATABASE)))


def _serve(cluster: Cluster, options: argparse.Namespace) -> int:
    port = _port(options.port)
    server = subprocess.Popen(
        [str(PYTHON), "-m", "lucid_ridge", "serve", "--port", str(port)], cwd=ROOT, env=application_environment(cluster.url(DATABASE))
    )
    for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(number, lambda *_: server.terminate())
    address = f"http://127.0.0.1:{port}/"
    if answers(address, server):
        say(f"\nLucid Ridge is at {address}\nStop it with Ctrl+C.")
    code = server.wait()
    return 0 if code in (0, -signal.SIGTERM) else code


def _port(wanted: int | None) -> int:
    for candidate in (wanted,) if wanted else (USUAL_PORT, 0):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", candidate))
            except OSError:
                continue
            if candidate == 0:
                say(f"Port {USUAL_PORT} is taken; using a free one.")
            return int(probe.getsockname()[1])
    raise SetupError(f"Port {wanted} is taken. Choose another with --port, or leave it out to get a free one.")


def free_port() -> int:
    """Return a port on loopback that nobody listens on now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def answers(address: str, server: subprocess.Popen[bytes]) -> bool:
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    for _ in range(300):
        if server.poll() is not None:
            return False
        with contextlib.suppress(OSError):
            opener.open(address + "api/health", timeout=2).close()
            return True
        time.sleep(0.1)
    return False


def _use_database() -> IO[str]:
    handle = open(LOCAL / "users.lock", "w")  # noqa: SIM115 (held open for as long as this start runs)
    fcntl.flock(handle, fcntl.LOCK_SH)
    return handle


def _leave_database(cluster: Cluster, users: IO[str]) -> None:
    """Stop the database when no other start uses it."""
    try:
        fcntl.flock(users, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return
    cluster.stop()


if __name__ == "__main__":
    os.chdir(ROOT)
    sys.stdout.reconfigure(line_buffering=True)  # type: ignore[union-attr]
    main_guard(main)

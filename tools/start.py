"""./start: set everything up, serve on loopback, stop cleanly."""

from __future__ import annotations

import argparse
import contextlib
import io
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from datetime import datetime

import users
from console import LOCAL, ROOT, SetupError, main_guard, run, say
from environment import PYTHON, application_environment, ensure_python, ensure_web
from packages import ensure
from postgres import Cluster, alone, application_data

DATABASE = "lucid_ridge"
USUAL_PORT = 8710
WATCH_S = 1.0


def main(argv: list[str]) -> int:
    options = _parse(argv)
    ensure()
    with alone():
        ensure_python()
        ensure_web()
        cluster = Cluster(application_data())
        cluster.create()
        if options.fresh:
            users.make_way(LOCAL, may_ask=sys.stdin.isatty())
        cluster.start()
        serving = users.join(LOCAL)
        _prepare(cluster, options)
    try:
        return _serve(cluster, options, serving)
    finally:
        with alone():
            if serving.leave():
                cluster.stop()


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


def _serve(cluster: Cluster, options: argparse.Namespace, serving: users.Serving) -> int:
    port = _port(options.port)
    # The server ends with this command, however that ends, and until then counts as one that uses the database.
    server = subprocess.Popen(
        [str(PYTHON), "-m", "lucid_ridge", "serve", "--port", str(port)], cwd=ROOT, env=application_environment(cluster.url(DATABASE)),
        pass_fds=(serving.fileno,), preexec_fn=users.end_with_parent,
    )  # fmt: skip
    serving.at(port)
    for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(number, lambda *_: server.terminate())
    address = f"http://127.0.0.1:{port}/"
    if answers(address, server):
        say(f"\nLucid Ridge is at {address}\nStop it with Ctrl+C.")
    code = _watch(server, cluster)
    return 0 if code in (0, -signal.SIGTERM) else code


def _watch(server: subprocess.Popen[bytes], cluster: Cluster) -> int:
    """Wait for the server to end; a database that dies meanwhile is started again."""
    complained = False
    while True:
        with contextlib.suppress(subprocess.TimeoutExpired):
            return server.wait(timeout=WATCH_S)
        if cluster.answers():
            complained = False
            continue
        try:
            with alone():
                if cluster.start():
                    say("The database had stopped; it runs again. Nothing that was saved is lost.")
        except SetupError as error:
            if not complained:
                say(f"The database has stopped and does not start again; it is tried on.\n{error}")
            complained = True


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


if __name__ == "__main__":
    os.chdir(ROOT)
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(line_buffering=True)
    main_guard(main)

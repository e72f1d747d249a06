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
from collections.abc import Callable
from pathlib import Path

import backups
import doors
import notebook
import users
from console import LOCAL, ROOT, SetupError, main_guard, say
from environment import PYTHON, ensure_python, ensure_web
from packages import ensure
from postgres import Cluster, alone, application_data

USUAL_PORT = 8710
WATCH_S = 1.0
# A file is named from where the command was called.
CALLED_FROM = ROOT
# How often it is seen whether the day's backup is due.
BACKUP_LOOK_S = 600.0
# A server that is killed so often within so long is not begun again.
KILLED_MOST, KILLED_WITHIN_S = 5, 60.0
# While the server loads, its silence is explained this often.
SAY_EVERY_S = 15.0


def main(argv: list[str]) -> int:
    options = _parse(argv)
    if options.backups:
        say(f"Backups, the newest first:\n{backups.words(backups.listed())}")
        return 0
    if options.listen:
        doors.check(options)
    ensure()
    with alone():
        ensure_python()
        ensure_web()
        cluster = Cluster(application_data())
        if cluster.stranded:
            notebook.leave_behind(cluster, options.restore)
        cluster.create()
        if options.fresh or options.restore or options.archive:
            users.make_way(LOCAL, may_ask=sys.stdin.isatty())
        cluster.start()
        serving = users.join(LOCAL)
    try:
        with alone():
            notebook.prepare(cluster, options)
        if options.invite or options.recover:
            return doors.invite(cluster, options, options.port or USUAL_PORT)
        if options.check:
            return notebook.command(cluster, "check")
        for way, file in (("out", options.save), ("in", options.merge)):
            if file:
                return notebook.command(cluster, "archive", way, str(file))
        return _serve(cluster, options, serving)
    finally:
        with alone():
            if serving.leave():
                cluster.stop()


def _parse(argv: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Set up Lucid Ridge and serve it on this machine.")
    parser.add_argument(
        "--port", type=int, help=f"port on 127.0.0.1 (default: {USUAL_PORT}, or a free one if that is taken)"
    )
    parser.add_argument("--fresh", action="store_true", help="put the database aside as a backup and rebuild the demo")
    parser.add_argument("--no-demo", action="store_true", help="start with an empty notebook instead of the demo")
    parser.add_argument("--backup", action="store_true", help="make a backup of the notebook now, then go on")
    parser.add_argument("--backups", action="store_true", help="list the backups there are, and do nothing else")
    parser.add_argument(
        "--restore",
        metavar="FILE",
        type=Path,
        help="put a backup in the notebook's place; what stood there is kept as a backup",
    )
    parser.add_argument(
        "--save",
        metavar="FILE",
        type=Path,
        help="write the whole notebook into an archive that is readable without us, and do nothing else",
    )
    parser.add_argument(
        "--archive",
        metavar="FILE",
        type=Path,
        help="put an archive in the notebook's place; what stood there is kept as a backup",
    )
    parser.add_argument(
        "--merge",
        metavar="FILE",
        type=Path,
        help="add what an archive holds and the notebook lacks, and do nothing else; a backup is made before",
    )
    parser.add_argument(
        "--new-key",
        action="store_true",
        help="make another key for this notebook: every browser must open the printed address again",
    )
    beyond = parser.add_argument_group("beyond this machine, with accounts")
    beyond.add_argument(
        "--listen",
        metavar="ADDRESS",
        help="serve at this address of the network, encrypted, to anyone who has an account",
    )
    beyond.add_argument("--name", metavar="HOST", help="the name, or address, under which browsers open it")
    beyond.add_argument(
        "--certificate", metavar="FILE", type=Path, help="the certificate for that name, with its chain"
    )
    beyond.add_argument("--private-key", metavar="FILE", type=Path, help="the certificate's key")
    beyond.add_argument(
        "--behind-proxy",
        action="store_true",
        help="a proxy on this machine encrypts, and says where requests come from",
    )
    beyond.add_argument(
        "--invite", action="store_true", help="print a link by which somebody makes an account, and do nothing else"
    )
    beyond.add_argument(
        "--own", action="store_true", help="with --invite: give the account the notebook that is here now"
    )
    beyond.add_argument(
        "--recover", metavar="ACCOUNT", help="print a link that sets an account's password again, and do nothing else"
    )
    parser.add_argument(
        "--check", action="store_true", help="look through the whole notebook for what is broken, and do nothing else"
    )
    options = parser.parse_args(argv)
    for name in ("restore", "save", "archive", "merge", "certificate", "private_key"):
        said = getattr(options, name)
        if said is not None:
            setattr(options, name, CALLED_FROM / said.expanduser())
    if sum(map(bool, (options.restore, options.fresh, options.archive))) > 1:
        parser.error(
            "--restore puts a backup in the notebook's place, --archive an archive, --fresh the demo: choose "
            "one of them"
        )
    if options.merge and (options.restore or options.fresh or options.archive or options.save):
        parser.error("--merge adds to the notebook that is here, and goes with nothing that puts another in its place")
    options.name = options.name.lower() if options.name else None
    if options.own and not options.invite:
        parser.error("--own goes with --invite")
    if not options.listen and (options.certificate or options.private_key or options.behind_proxy):
        parser.error("--certificate, --private-key and --behind-proxy go with --listen")
    if options.port is not None and not 1 <= options.port <= 65535:
        parser.error(f"--port must lie from 1 to 65535, not {options.port}")
    return options


def _serve(cluster: Cluster, options: argparse.Namespace, serving: users.Serving) -> int:
    port = _port(options.port, options.listen or "127.0.0.1")
    door = doors.beyond(cluster, options, port) if options.listen else doors.on_loopback(port, LOCAL, options.new_key)
    command = [str(PYTHON), "-m", "lucid_ridge", "serve", *door.arguments]
    server = Server(command, notebook.environment(cluster) | door.environment, serving.fileno)
    serving.at(port)
    for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(number, lambda *_: server.end())
    if (options.listen and connects(options.listen, port, server)) or (
        not options.listen and answers(door.address, server)
    ):
        say(f"\nLucid Ridge is at {door.way_in}")
        if options.listen:
            doors.as_code(door.address)
        else:
            say(
                "It belongs to you alone: the address holds the key, and a browser that has opened it once is "
                "known from then on."
            )
        say("Stop it with Ctrl+C.")
    code = watch(server, cluster)
    return 0 if code in (0, -signal.SIGTERM) else code


class Server:
    """The application's process.

    It ends with this command, however that ends, and until then counts as one that uses the database.
    """

    def __init__(self, command: list[str], environment: dict[str, str], kept_open: int | None = None) -> None:
        self._command, self._environment = command, environment
        self._kept_open = () if kept_open is None else (kept_open,)
        self._ending, self._killed_at = False, list[float]()
        self.process = self._begin()

    def _begin(self) -> subprocess.Popen[bytes]:
        return subprocess.Popen(
            self._command, cwd=ROOT, env=self._environment, pass_fds=self._kept_open, preexec_fn=users.end_with_parent
        )

    def poll(self) -> int | None:
        """Return how it ended; None while it runs."""
        return self.process.poll()

    def end(self) -> None:
        """Have it end by itself."""
        self._ending = True
        self.process.terminate()

    def ended(self, within_s: float) -> int | None:
        """Wait for its end and return how it ended, None while it runs.

        One that somebody killed is begun again, unless that happens all the time.
        """
        try:
            code = self.process.wait(timeout=within_s)
        except subprocess.TimeoutExpired:
            return None
        now = time.monotonic()
        self._killed_at = [at for at in self._killed_at if now - at < KILLED_WITHIN_S] + [now]
        if self._ending or code >= 0 or len(self._killed_at) > KILLED_MOST:
            return code
        say("The server was killed; it runs again. Nothing that was saved is lost.")
        self.process = self._begin()
        return None


def watch(server: Server, cluster: Cluster) -> int:
    """Wait for the server to end; a database that dies meanwhile is started again, and so is the server."""
    complained, looked = False, time.monotonic()
    while True:
        code = server.ended(WATCH_S)
        if code is not None:
            return code
        if cluster.answers():
            complained = False
            if time.monotonic() - looked > BACKUP_LOOK_S:
                looked = time.monotonic()
                notebook.daily(cluster)
            continue
        try:
            with alone():
                if cluster.start():
                    say("The database had stopped; it runs again. Nothing that was saved is lost.")
        except SetupError as error:
            if not complained:
                say(f"The database has stopped and does not start again; it is tried on.\n{error}")
            complained = True


def _port(wanted: int | None, address: str = "127.0.0.1") -> int:
    try:
        family = socket.getaddrinfo(address, None, type=socket.SOCK_STREAM)[0][0]
    except socket.gaierror as error:
        raise SetupError(f"{address} is no address of this machine: {error.strerror}.") from error
    for candidate in (wanted,) if wanted else (USUAL_PORT, 0):
        with socket.socket(family) as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((address, candidate))
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


def connects(address: str, port: int, server: Server) -> bool:
    """Return whether the server takes connections, encrypted or not.

    Wait as long as it runs; False once it has ended.
    """

    def connect() -> None:
        socket.create_connection((address, port), timeout=2).close()

    return _until(connect, server)


def answers(address: str, server: Server | subprocess.Popen[bytes]) -> bool:
    """Return whether the server answers requests. Wait as long as it runs; False once it has ended."""
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    return _until(lambda: opener.open(address + "api/health", timeout=2).close(), server)


def _until(attempt: Callable[[], None], server: Server | subprocess.Popen[bytes]) -> bool:
    began, said_s = time.monotonic(), 0.0
    while server.poll() is None:
        with contextlib.suppress(OSError):
            attempt()
            return True
        waited_s = time.monotonic() - began
        if waited_s - said_s >= SAY_EVERY_S:
            said_s = waited_s
            say(
                f"The server is loading and has not answered for {waited_s:.0f} s; its address is printed as "
                "soon as it does."
            )
        time.sleep(0.1)
    return False


if __name__ == "__main__":
    CALLED_FROM = Path.cwd()
    os.chdir(ROOT)
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(line_buffering=True)
    main_guard(main)

"""A PostgreSQL server of our own, reachable only through a socket in a private folder: no port to collide with.

As root the server runs as an unprivileged user, since PostgreSQL refuses root.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import pwd
import shutil
import stat
import subprocess
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.parse import quote

from console import LOCAL, SetupError, run, say
from packages import postgres_bin

ROLE = "lucid_ridge"
PORT = 5432


class Cluster:
    """One data folder and its server. durable=False (tests) trades safety against crashes for speed."""

    def __init__(self, data: Path, durable: bool = True) -> None:
        self.data = data
        self.durable = durable
        self.account = _account()
        token = hashlib.sha256(f"{data}:{os.geteuid()}".encode()).hexdigest()[:12]
        self.socket_dir = Path(tempfile.gettempdir()) / f"lucid-ridge-{token}"

    def url(self, database: str) -> str:
        return f"postgresql+psycopg://{ROLE}@/{quote(database)}?host={quote(str(self.socket_dir), safe='')}&port={PORT}"

    def create(self) -> None:
        """Run initdb unless it has been done. A half-made folder from an interrupted run is made again."""
        if self.major is not None:
            return
        fresh = self.data.with_name(self.data.name + ".new")
        shutil.rmtree(fresh, ignore_errors=True)
        fresh.mkdir(parents=True, mode=0o700)
        self._give(fresh)
        self._as_account(
            [
                self._program("initdb"),
                "-D",
                fresh,
                "-U",
                ROLE,
                "--auth-local=trust",
                "--auth-host=reject",
                "-E",
                "UTF8",
                "--locale=C.UTF-8",
                "--data-checksums",
            ]
            + ([] if self.durable else ["--no-sync"])
        )
        fresh.rename(self.data)

    @property
    def major(self) -> int | None:
        """Which version of PostgreSQL the data folder is of; None while there is none."""
        try:
            return int((self.data / "PG_VERSION").read_text().strip())
        except (OSError, ValueError):
            return None

    @property
    def stranded(self) -> bool:
        """Whether the data folder is of a version whose programs this machine does not have."""
        return self.major is not None and postgres_bin(self.major) is None

    def set_aside(self) -> Path:
        """Move the data folder aside, so that a new one can be made; nothing of it is changed.

        Return where it is now.
        """
        target = self.data.with_name(f"{self.data.name}.{self.major}")
        number = 1
        while target.exists():
            number += 1
            target = self.data.with_name(f"{self.data.name}.{self.major}-{number}")
        self.data.rename(target)
        return target

    def start(self) -> bool:
        """Start the server; return False where it was running already.

        One that has lost its socket is started again.
        """
        if self.answers():
            return False
        if self._alive():
            # It runs, but nobody can reach it any more: anyone who cleaned up the temporary files took the socket
            # along.
            say("The database had lost its socket; it is started again.")
            self._halt()
        self._clear_remains()
        self._make_socket_dir()
        settings = f"-k {self.socket_dir} -c listen_addresses='' -c port={PORT} -c max_connections=40"
        if not self.durable:
            settings += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
        command = [
            self._program("pg_ctl"),
            "-D",
            self.data,
            "-l",
            self.data / "server.log",
            "-o",
            settings,
            "-w",
            "-t",
            "30",
            "start",
        ]
        for attempt in range(10):
            try:
                # pg_ctl's child inherits its output; a pipe would never close.
                self._as_account(command, quiet=True)
                return True
            except SetupError:
                # Backends of a killed server may hold its shared memory a few seconds longer.
                if attempt == 9 or "shared memory" not in self._log_tail():
                    raise SetupError(f"The database did not start. Its log ends:\n{self._log_tail()}") from None
                time.sleep(1)
        return True

    def stop(self) -> None:
        if self._alive():
            self._halt()
        shutil.rmtree(self.socket_dir, ignore_errors=True)

    def answers(self) -> bool:
        """Whether this folder's server runs and can be reached."""
        return self._alive() and (self.socket_dir / f".s.PGSQL.{PORT}").exists()

    def has_database(self, name: str) -> bool:
        return self._sql(f"select 1 from pg_database where datname = '{name}'").strip() == "1"

    def create_database(self, name: str, template: str | None = None) -> None:
        self._sql(f'create database "{name}"' + (f' template "{template}"' if template else ""))

    def drop_database(self, name: str) -> None:
        self._sql(f'drop database if exists "{name}" with (force)')

    def rename_database(self, name: str, new: str) -> None:
        self._sql(f"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}'")
        self._sql(f'alter database "{name}" rename to "{new}"')

    def read_in(self, name: str, backup: Path) -> None:
        """Read a plain SQL backup into an empty database, all of it or nothing.

        Raises SetupError with the first thing that was wrong.
        """
        self._psql(name, "--single-transaction", "-f", backup)

    def sql_in(self, name: str, statement: str) -> str:
        """Carry out a statement in a database."""
        return self._psql(name, "-c", statement)

    def dump(self, name: str, target: Path) -> None:
        """Write a plain SQL backup of a database: whole and on disk under its name, or not at all.

        Only its owner can read it.
        """
        target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        aside = target.with_name(target.name + ".part")
        command = [self._program("pg_dump"), "-h", self.socket_dir, "-p", str(PORT), "-U", ROLE, name]
        with os.fdopen(os.open(aside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
            found = subprocess.run(
                [str(part) for part in command],
                stdout=file,
                stderr=subprocess.PIPE,
                env=_clean_environment(),
                check=False,
            )
            file.flush()
            os.fsync(file.fileno())
        if found.returncode or not ends_as_a_backup(aside):
            raise SetupError(
                f"The backup could not be made; nothing was changed.\n{found.stderr.decode(errors='replace').strip()}"
            )
        aside.rename(target)
        folder = os.open(target.parent, os.O_RDONLY)
        os.fsync(folder)
        os.close(folder)

    def _sql(self, statement: str) -> str:
        return self._psql("postgres", "-c", statement)

    def _psql(self, database: str, *arguments: str | Path) -> str:
        reached = ["-h", self.socket_dir, "-p", str(PORT), "-U", ROLE, "-d", database]
        return run(
            [self._program("psql"), *reached, "-XAtq", "-v", "ON_ERROR_STOP=1", *arguments], env=_clean_environment()
        ).stdout

    def _program(self, name: str) -> Path:
        folder = postgres_bin(self.major)
        if folder is None:
            raise SetupError(f"PostgreSQL {self.major or '15 or newer'} is not installed.")
        return folder / name

    def _server_pid(self) -> int | None:
        try:
            return int((self.data / "postmaster.pid").read_text().splitlines()[0])
        except (OSError, ValueError, IndexError):
            return None

    def _halt(self) -> None:
        self._as_account([self._program("pg_ctl"), "-D", self.data, "-m", "fast", "-w", "stop"], quiet=True)

    def _alive(self) -> bool:
        """Whether the pid file's process really is this folder's server, and not a zombie or a later process."""
        pid = self._server_pid()
        if pid is None:
            return False
        try:
            process = Path("/proc") / str(pid)
            same_folder = (process / "cwd").readlink().resolve() == self.data.resolve()
            return same_folder and (process / "exe").readlink().name == "postgres"
        except OSError:
            return False

    def _clear_remains(self) -> None:
        for leftover in (
            self.data / "postmaster.pid",
            self.socket_dir / f".s.PGSQL.{PORT}",
            self.socket_dir / f".s.PGSQL.{PORT}.lock",
        ):
            leftover.unlink(missing_ok=True)

    def _make_socket_dir(self) -> None:
        self.socket_dir.mkdir(mode=0o700, exist_ok=True)
        self._give(self.socket_dir)
        owner = self.socket_dir.lstat()
        expected = self.account.pw_uid if self.account else os.geteuid()
        if owner.st_uid != expected or not stat.S_ISDIR(owner.st_mode) or owner.st_mode & 0o077:
            raise SetupError(f"{self.socket_dir} belongs to someone else; remove it and run this again.")

    def _give(self, folder: Path) -> None:
        if self.account:
            os.chown(folder, self.account.pw_uid, self.account.pw_gid, follow_symlinks=False)

    def _as_account(self, command: list[Any], quiet: bool = False) -> None:
        options: dict[str, Any] = {"cwd": "/", "env": _clean_environment()}
        if self.account:
            options |= {"user": self.account.pw_uid, "group": self.account.pw_gid, "extra_groups": []}
        if quiet:
            code = subprocess.run(
                [str(part) for part in command],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                check=False,
                **options,
            ).returncode
            if code:
                raise SetupError(f"{Path(command[0]).name} failed ({code}).")
        else:
            run(command, **options)

    def _log_tail(self) -> str:
        try:
            return "\n".join((self.data / "server.log").read_text(errors="replace").splitlines()[-12:])
        except OSError:
            return "(no log)"


def ends_as_a_backup(path: Path) -> bool:
    """Whether a dump was written to its last line."""
    with open(path, "rb") as file:
        file.seek(max(0, path.stat().st_size - 400))
        return b"PostgreSQL database dump complete" in file.read()


def application_data() -> Path:
    """Return the data folder: .local/postgres, or one outside where the server's user cannot reach the checkout."""
    LOCAL.mkdir(exist_ok=True)
    account = _account()
    if account is None or _reachable(LOCAL, account):
        return LOCAL / "postgres"
    token = hashlib.sha256(str(LOCAL).encode()).hexdigest()[:12]
    outside = Path("/var/lib/lucid-ridge") / token / "postgres"
    outside.parent.mkdir(parents=True, exist_ok=True)
    say(f"The user “{account.pw_name}” cannot reach this folder; the database is kept in {outside}.")
    return outside


@contextlib.contextmanager
def alone(name: str = "setup") -> Iterator[None]:
    """Hold a lock so that two commands never set up at once."""
    LOCAL.mkdir(exist_ok=True)
    with open(LOCAL / f"{name}.lock", "w") as handle:
        fcntl.flock(handle, fcntl.LOCK_EX)
        yield


def _account() -> pwd.struct_passwd | None:
    """Return the unprivileged user to run the server as when we are root, else None."""
    if os.geteuid() != 0:
        return None
    for name in ("postgres", "nobody"):
        with contextlib.suppress(KeyError):
            return pwd.getpwnam(name)
    raise SetupError("Running as root, but there is no user “postgres” or “nobody” to run the database as.")


def _reachable(folder: Path, account: pwd.struct_passwd) -> bool:
    probe = subprocess.run(
        ["test", "-x", str(folder)], cwd="/", user=account.pw_uid, group=account.pw_gid, extra_groups=[], check=False
    )
    return probe.returncode == 0


def _clean_environment() -> dict[str, str]:
    return {name: value for name, value in os.environ.items() if not name.startswith("PG")}

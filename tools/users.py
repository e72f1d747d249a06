"""Who uses the database now: it is stopped with the last of them, and nobody replaces it under another."""

from __future__ import annotations

import contextlib
import ctypes
import fcntl
import os
import signal
import time
from pathlib import Path
from typing import IO

from console import SetupError, say

_PR_SET_PDEATHSIG = 1
_GIVE_WAY_S = 20.0


class Serving:
    """One that serves from the database; the lock it shares ends with the last process that holds it."""

    def __init__(self, local: Path) -> None:
        self._folder = local / "serving"
        self._folder.mkdir(exist_ok=True)
        self._lock = _open(local)
        fcntl.flock(self._lock, fcntl.LOCK_SH)
        self._note = self._folder / str(os.getpid())
        self._note.write_text("")

    @property
    def fileno(self) -> int:
        return self._lock.fileno()

    def at(self, port: int) -> None:
        """Note the port served at."""
        self._note.write_text(str(port))

    def leave(self) -> bool:
        """Leave; return whether nobody else uses the database, so that it may be stopped."""
        self._note.unlink(missing_ok=True)
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
        return True


def join(local: Path) -> Serving:
    """Count as one that uses the database from now on."""
    return Serving(local)


def make_way(local: Path, may_ask: bool) -> None:
    """Raise SetupError while somebody else uses the database, or, asked and allowed, stop them first."""
    with _open(local) as lock:
        if _taken(lock, 0.0):
            others = _others(local)
            where = (
                " and ".join(f"at http://127.0.0.1:{port}/" if port else f"as process {pid}" for pid, port in others)
                or "from this folder"
            )
            told = (
                f"Lucid Ridge is being served {where}. Replacing its notebook now would lose what is being "
                "written: stop it first (Ctrl+C there)."
            )
            if not may_ask or not others:
                raise SetupError(told)
            if input(f"{told}\nStop it now and go on? [y/N] ").strip().lower() not in ("y", "yes"):
                raise SetupError("Nothing was changed.")
            for pid, _ in others:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(pid, signal.SIGTERM)
            if _taken(lock, _GIVE_WAY_S):
                raise SetupError("It did not stop. Nothing was changed.")
            say("It has stopped.")


def end_with_parent() -> None:
    """Let this process be told to end when its parent does, however that ends (Linux)."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None, use_errno=True).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM, 0, 0, 0)


def _others(local: Path) -> list[tuple[int, int | None]]:
    """Return process and port of those that serve; notes of processes that are gone are cleared away."""
    found: list[tuple[int, int | None]] = []
    for note in (local / "serving").glob("*"):
        if not note.name.isdigit() or not _is_ours(int(note.name)):
            note.unlink(missing_ok=True)
            continue
        text = note.read_text()
        found.append((int(note.name), int(text) if text.isdigit() else None))
    return found


def _is_ours(pid: int) -> bool:
    """Whether a process is a start command, and not a later one with the same number."""
    try:
        return b"start.py" in Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return False


def _open(local: Path) -> IO[str]:
    return open(local / "users.lock", "w")


def _taken(lock: IO[str], patience_s: float) -> bool:
    until = time.monotonic() + patience_s
    while True:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            if time.monotonic() >= until:
                return True
            time.sleep(0.1)
        else:
            fcntl.flock(lock, fcntl.LOCK_UN)
            return False

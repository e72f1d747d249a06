"""The virtual environment and the built front end, each made again only when what it comes from has changed."""

from __future__ import annotations

import contextlib
import hashlib
import os
import shutil
import sys
import tempfile
from collections.abc import Iterable
from pathlib import Path

from console import ROOT, SetupError, run, say

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
DIST = WEB / "dist"


def ensure_python(development: bool = False) -> None:
    """Make .venv with exactly the locked packages, their files checked; with development those of the tests as well."""
    runtime, full = ROOT / "requirements.lock", ROOT / "requirements-dev.lock"
    wanted = _digest([full if development else runtime], sys.version, str(VENV))
    runtime_stamp, full_stamp = VENV / ".stamp-runtime", VENV / ".stamp-development"
    stamp = full_stamp if development else runtime_stamp
    if _read(stamp) == wanted and PYTHON.exists():
        return
    if not PYTHON.exists() or _read(VENV / ".made-for") != _digest([], sys.version, str(VENV)):
        say("Making the Python environment …")
        run([sys.executable, "-m", "venv", "--clear", VENV])
        (VENV / ".made-for").write_text(_digest([], sys.version, str(VENV)))
    _install(full if development else runtime)
    stamp.write_text(wanted)
    if development:
        runtime_stamp.write_text(_digest([runtime], sys.version, str(VENV)))


def _install(lock: Path) -> None:
    """Install locked packages by uv, which takes seconds, or by pip itself where uv cannot be had or does not find the
    packages.
    """
    pip: list[str | Path] = [
        PYTHON,
        "-m",
        "pip",
        "install",
        "--quiet",
        "--disable-pip-version-check",
        "--require-hashes",
    ]
    say("Installing Python packages …")
    # Only pip knows the index that it is set up for.
    if not _index_of_its_own():
        with tempfile.TemporaryDirectory(prefix="lucid-ridge-uv-") as aside, contextlib.suppress(SetupError):
            run([*pip, "--target", aside, "-r", ROOT / "requirements-installer.lock"], cwd=ROOT)
            uv = [
                Path(aside) / "bin" / "uv",
                "pip",
                "install",
                "--quiet",
                "--no-cache",
                "--link-mode",
                "copy",
                "--python",
                PYTHON,
            ]
            run([*uv, "--require-hashes", "-r", lock], cwd=ROOT)
            return
        say("The quick way did not work; now by pip, which takes about two minutes …")
    run([*pip, "-r", lock], cwd=ROOT)


def _index_of_its_own() -> bool:
    """Return whether pip is configured with an index to use instead of the usual one."""
    said = run([PYTHON, "-m", "pip", "config", "list"]).stdout
    return any(line.partition("=")[0].endswith(".index-url") for line in said.splitlines())


def ensure_web_packages() -> None:
    """Install the front end's packages from the lock file."""
    wanted = _digest([WEB / "package.json", WEB / "package-lock.json"])
    stamp = WEB / "node_modules" / ".stamp"
    if _read(stamp) != wanted:
        say("Installing front-end packages (about a minute) …")
        command = [_npm(), "ci", "--no-audit", "--no-fund"]
        try:
            run(command, cwd=WEB)
        except SetupError:
            # What an interrupted or doubled run has left there may stand in its way.
            left = WEB / "node_modules"
            if not left.exists():
                raise
            say("The packages lie there half made; they are installed again …")
            aside = WEB / f".node_modules-{os.getpid()}"
            left.rename(aside)
            shutil.rmtree(aside, ignore_errors=True)
            run(command, cwd=WEB)
        stamp.write_text(wanted)


def ensure_web() -> None:
    """Build the front end into web/dist when any of its sources has changed."""
    sources = [path for path in sorted((WEB / "src").rglob("*")) if path.is_file()]
    sources += [path for path in sorted((WEB / "public").rglob("*")) if path.is_file()]
    names = (
        "index.html",
        "takealong/index.html",
        "vite.config.ts",
        "vite.takealong.config.ts",
        "tsconfig.json",
        "package-lock.json",
    )
    sources += [WEB / name for name in names]
    wanted = _digest(sources)
    stamp = DIST / ".stamp"
    if _read(stamp) == wanted:
        return
    ensure_web_packages()
    say("Building the front end …")
    run([_npm(), "run", "build"], cwd=WEB)
    stamp.write_text(wanted)


def application_environment(database_url: str = "") -> dict[str, str]:
    """Return the environment in which the application runs, free of libpq's own variables."""
    environment = {name: value for name, value in os.environ.items() if not name.startswith("PG")}
    # Beside a notebook of this machine no files lie elsewhere: its backups hold everything.
    environment.pop("LUCID_RIDGE_FILES", None)
    # What is compiled is kept: each of our processes would spend seconds on it again.
    environment.pop("PYTHONDONTWRITEBYTECODE", None)
    # Tests run beside each other, and a server answers several at once: more threads of arithmetic for each would
    # wait for each other.
    environment.setdefault("OPENBLAS_NUM_THREADS", "1")
    # A measurement may run another checkout's application.
    environment["PYTHONPATH"] = os.environ.get("LUCID_RIDGE_SOURCE", str(ROOT / "src"))
    if database_url:
        environment["LUCID_RIDGE_DATABASE_URL"] = database_url
    return environment


def _npm() -> str:
    return shutil.which("npm") or "npm"


def _digest(files: Iterable[Path], *more: str) -> str:
    summary = hashlib.sha256()
    for path in files:
        summary.update(str(path.relative_to(ROOT)).encode() + b"\0" + path.read_bytes() + b"\0")
    for text in more:
        summary.update(text.encode() + b"\0")
    return summary.hexdigest()


def _read(path: Path) -> str:
    return path.read_text() if path.exists() else ""

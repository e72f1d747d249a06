"""./test: linters, types, front-end checks, and pytest against a throw-away PostgreSQL."""

from __future__ import annotations

import io
import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path
from typing import TypeVar

from console import ROOT, main_guard, say
from environment import PYTHON, WEB, application_environment, ensure_python, ensure_web, ensure_web_packages
from packages import browser, browser_shell, ensure
from postgres import Cluster, alone

T = TypeVar("T")
PYTEST_PARTS = ("core", "formats", "store", "api", "browser", "tools")
# Each has a server, a database and a browser of its own beside it: with more of them than processors each takes longer than is won.
_MOST_PROCESSES = 6
PARTS = ("lint", "types", "web", *PYTEST_PARTS)


def main(argv: list[str]) -> int:
    chosen = [part for part in argv if part in PARTS]
    extra = [argument for argument in argv if argument not in PARTS]
    parts = chosen or list(PARTS)
    # Arguments for pytest alone mean: only pytest.
    if extra and not chosen:
        parts = list(PYTEST_PARTS)
    ensure(need_browser="browser" in parts)
    with alone():
        _beside(lambda: ensure_python(development=True), lambda: _front_end(parts))
    failed = [name for found in _beside(*_checks(parts), at_once=2) for name in found]
    wanted = [part for part in PYTEST_PARTS if part in parts]
    if wanted:
        failed += _pytest(wanted, extra)
    say(f"\nFailed: {', '.join(failed)}" if failed else "\nEverything passed.")
    return 1 if failed else 0


def _beside(*works: Callable[[], T], at_once: int | None = None) -> list[T]:
    """Do things beside each other, the first ones first: none of them takes more than one processor. Raises what the first of them raises."""
    with ThreadPoolExecutor(at_once) as pool:
        return [under_way.result() for under_way in [pool.submit(work) for work in works]]


def _front_end(parts: list[str]) -> None:
    if "web" in parts:
        ensure_web_packages()
    if "browser" in parts or "api" in parts:
        ensure_web()


def _checks(parts: list[str]) -> list[Callable[[], list[str]]]:
    """Return what is checked before the tests, what takes longest first."""
    checks: list[Callable[[], list[str]]] = []
    if "types" in parts:
        checks.append(partial(_step, "mypy", [PYTHON, "-m", "mypy"]))
    # Have all tests compiled beside the slower checks: each of the processes that run them would do it for itself.
    if set(parts) == set(PARTS):
        checks.append(partial(_step, "tests found", [PYTHON, "-m", "pytest", "--collect-only", "-q"], quiet=True))
    if "web" in parts:
        for name, script in (("tests", "test"), ("types", "types"), ("lint", "lint")):
            checks.append(partial(_step, f"front-end {name}", ["npm", "run", "--silent", script], WEB))
    if "lint" in parts:
        checks.append(partial(_step, "ruff", [PYTHON, "-m", "ruff", "check", "."]))
        checks.append(partial(_step, "ruff format", [PYTHON, "-m", "ruff", "format", "--check", "."]))
    return checks


def _step(name: str, command: list[object], folder: Path = ROOT, quiet: bool = False) -> list[str]:
    """Run a check. quiet: what it says is told only where it failed."""
    began = time.monotonic()
    done = subprocess.run(
        [str(part) for part in command], cwd=folder, env=application_environment(), check=False, capture_output=True, text=True
    )
    code = done.returncode
    # What two say at once is told one after the other.
    said = "" if quiet and code == 0 else f"{done.stdout}{done.stderr}"
    say(f"{said}— {name}: {'ok' if code == 0 else 'FAILED'} ({time.monotonic() - began:.1f} s)")
    return [name] if code else []


def _pytest(parts: list[str], extra: list[str]) -> list[str]:
    # Another user (PostgreSQL's) must be able to pass through; the data folder inside stays private.
    scratch = Path(tempfile.mkdtemp(prefix="lucid-ridge-test-"))
    scratch.chmod(0o711)
    cluster = Cluster(scratch / "data", durable=False)
    environment = application_environment()
    try:
        if set(parts) & {"store", "api", "browser"}:
            cluster.create()
            cluster.start()
            environment["LUCID_RIDGE_TEST_SERVER_URL"] = cluster.url("postgres")
        if found := browser():
            environment["LUCID_RIDGE_CHROMIUM"], environment["LUCID_RIDGE_CHROMEDRIVER"] = found
        if shell := browser_shell():
            environment["LUCID_RIDGE_CHROMIUM_SHELL"] = shell
        paths = [argument for argument in extra if Path(argument.split("::")[0]).exists()]
        targets = [] if paths else [f"tests/{part}" for part in parts]
        command = [str(PYTHON), "-m", "pytest", *_side_by_side(extra), *targets, *extra]
        return ["pytest"] if subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode else []
    finally:
        cluster.stop()
        shutil.rmtree(scratch, ignore_errors=True)


def _side_by_side(extra: list[str]) -> list[str]:
    """Return how many tests are run at once: with tests picked by hand one, so that they are seen as they run."""
    processes = min(os.cpu_count() or 1, _MOST_PROCESSES)
    return [] if extra or processes < 2 else ["-n", str(processes), "--dist", "worksteal"]


if __name__ == "__main__":
    os.chdir(ROOT)
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(line_buffering=True)
    main_guard(main)

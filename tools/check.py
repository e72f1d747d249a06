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
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from console import ROOT, main_guard, say
from environment import PYTHON, WEB, application_environment, ensure_python, ensure_web, ensure_web_packages
from packages import browser, browser_shell, ensure
from postgres import Cluster, alone

PYTEST_PARTS = ("core", "formats", "store", "api", "browser", "tools")
# Each has a server, a database and a browser of its own beside it: with more of them than processors each takes
# longer than is won.
_MOST_PROCESSES = 6
# One fills what tests leave free while they wait; alone, each takes a processor.
_CHECKS_BESIDE_TESTS, _CHECKS_AT_ONCE = 1, 2
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
    tested = [part for part in PYTEST_PARTS if part in parts]
    with ThreadPoolExecutor(_CHECKS_BESIDE_TESTS if tested else _CHECKS_AT_ONCE) as pool:
        under_way = [pool.submit(check) for check in _checks(parts)]
        failed = _pytest(tested, extra) if tested else []
        checked = [check.result() for check in under_way]
    for check in checked:
        check.tell()
    failed = [check.name for check in checked if check.failed] + failed
    say(f"\nFailed: {', '.join(failed)}" if failed else "\nEverything passed.")
    return 1 if failed else 0


def _beside(*works: Callable[[], None]) -> None:
    """Do things beside each other: none of them takes more than one processor. Raises what the first of them raises."""
    with ThreadPoolExecutor() as pool:
        for under_way in [pool.submit(work) for work in works]:
            under_way.result()


def _front_end(parts: list[str]) -> None:
    if "web" in parts:
        ensure_web_packages()
    if "browser" in parts or "api" in parts:
        ensure_web()


def _checks(parts: list[str]) -> list[Callable[[], Checked]]:
    """Return the checks that run beside the tests, the longest first."""
    checks: list[Callable[[], Checked]] = []
    if "types" in parts:
        checks.append(partial(_checked, "mypy", [PYTHON, "-m", "mypy"]))
    if "web" in parts:
        for name, script in (("tests", "test"), ("types", "types"), ("lint", "lint")):
            checks.append(partial(_checked, f"front-end {name}", ["npm", "run", "--silent", script], WEB))
    if "lint" in parts:
        checks.append(partial(_checked, "ruff", [PYTHON, "-m", "ruff", "check", "."]))
        checks.append(partial(_checked, "style", [PYTHON, ROOT / "tools" / "check_style.py"]))
        checks.append(partial(_checked, "ruff format", [PYTHON, "-m", "ruff", "format", "--check", "."]))
    return checks


@dataclass(frozen=True)
class Checked:
    """What a check has found."""

    name: str
    said: str
    failed: bool
    took_s: float

    def tell(self) -> None:
        say(f"{self.said}— {self.name}: {'FAILED' if self.failed else 'ok'} ({self.took_s:.1f} s)")


def _checked(name: str, command: list[object], folder: Path = ROOT) -> Checked:
    """Run a check. A failure is printed at once, and again with the others."""
    began = time.monotonic()
    done = subprocess.run(
        [str(part) for part in command],
        cwd=folder,
        env=application_environment(),
        check=False,
        capture_output=True,
        text=True,
    )
    found = Checked(name, f"{done.stdout}{done.stderr}", done.returncode != 0, time.monotonic() - began)
    if found.failed:
        found.tell()
    return found


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

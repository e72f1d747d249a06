"""Debian packages: found, installed where we may, asked for where we may not."""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
import sys
from pathlib import Path

from console import SetupError, run, say


def postgres_bin(major: int | None = None) -> Path | None:
    """Return the folder of a PostgreSQL server's programs: of that version, else of the newest from 15 on; None where
    there are none.
    """
    found = [path.parent for path in Path("/usr/lib/postgresql").glob("*/bin/initdb") if path.parts[-3].isdigit()]
    fitting = [path for path in found if (int(path.parts[-2]) >= 15 if major is None else int(path.parts[-2]) == major)]
    return max(fitting, key=lambda path: int(path.parts[-2]), default=None)


def browser() -> tuple[str, str] | None:
    """Return the paths of Chromium and ChromeDriver."""
    chromium, driver = shutil.which("chromium"), shutil.which("chromedriver")
    return (chromium, driver) if chromium and driver else None


def browser_shell() -> str | None:
    """Return the path of Chromium without a window around its page, which takes a third less work.

    Debian's command is a script that stays before the program: anyone who ends it leaves the program running. It is
    called itself, then.
    """
    command = shutil.which("chromium-headless-shell")
    program = Path("/usr/lib/chromium/chromium-headless-shell")
    return str(program) if command and os.access(program, os.X_OK) else command


def ensure(need_browser: bool = False) -> None:
    """Install what is missing, or say exactly what to type."""
    missing = []
    if postgres_bin() is None:
        missing.append("postgresql")
    try:
        import ensurepip  # noqa: F401
        import venv  # noqa: F401
    except ImportError:
        missing.append(f"python3.{sys.version_info.minor}-venv")
    if need_browser and browser() is None:
        missing += ["chromium", "chromium-driver"]
    if missing:
        _install(missing)
    if need_browser and browser_shell() is None:
        # Without it all goes as well, only slower.
        with contextlib.suppress(SetupError):
            _install(["chromium-headless-shell"])
    node = shutil.which("node")
    version = run([node, "--version"]).stdout.strip() if node else "none"
    if not node or int(version.lstrip("v").split(".")[0]) < 20 or not shutil.which("npm"):
        raise SetupError(f"Node 20 or newer with npm is needed (found: {version}).\nInstall it, then run this again.")


def _install(packages: list[str]) -> None:
    words = " ".join(packages)
    by_hand = f"Please run:\n\n    sudo apt-get update && sudo apt-get install -y {words}\n\nand then this again."
    if not shutil.which("apt-get"):
        raise SetupError(f"Missing: {words}. This machine has no apt-get; install the like of them and run this again.")
    if os.geteuid() == 0:
        prefix = []
    elif (
        shutil.which("sudo")
        and subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0
    ):
        prefix = ["sudo", "-n"]
    else:
        raise SetupError(f"Missing Debian packages: {words}.\n{by_hand}")
    say(f"Installing Debian packages: {words} …")
    environment = ["env", "DEBIAN_FRONTEND=noninteractive"]
    try:
        # What an earlier installation left half done when it was interrupted; nothing otherwise.
        run([*prefix, *environment, "dpkg", "--configure", "-a"])
        run([*prefix, *environment, "apt-get", "update"])
        run([*prefix, *environment, "apt-get", "install", "-y", "--no-install-recommends", *packages])
    except SetupError as error:
        raise SetupError(f"{error}\n\n{by_hand}") from error

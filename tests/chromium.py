"""Starting headless Chromium so that it stays on this machine."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

FLAGS = [
    "--headless=new",
    "--disable-gpu",
    # WebGL is drawn by software where there is no graphics card.
    "--enable-unsafe-swiftshader",
    "--disable-dev-shm-usage",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
    "--hide-scrollbars",
    "--force-color-profile=srgb",
]


def start_chromium(*more: str, whole: bool = False) -> webdriver.Chrome:
    """Return a browser made of the programs that ./test and the tools have found.

    more: flags beside the usual ones.

    whole: the browser that people have, not the shell of it that draws pages and nothing around them, for a third less
    work.
    """
    options = webdriver.ChromeOptions()
    found = os.environ["LUCID_RIDGE_CHROMIUM"]
    options.binary_location = found if whole else os.environ.get("LUCID_RIDGE_CHROMIUM_SHELL", found)
    for flag in [*FLAGS, *more, *(["--no-sandbox"] if os.geteuid() == 0 else [])]:
        options.add_argument(flag)
    options.add_argument("--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    return webdriver.Chrome(options=options, service=Service(os.environ["LUCID_RIDGE_CHROMEDRIVER"]))


def _driver_of(browser: webdriver.Chrome) -> subprocess.Popen[bytes]:
    process = browser.service.process
    assert process is not None
    return process


def processes_of(browser: webdriver.Chrome) -> list[int]:
    """Return the ids of a browser's driver and of all that it has begun."""
    pids = [_driver_of(browser).pid]
    for pid in pids:
        for entry in Path("/proc").iterdir():
            if entry.name.isdigit():
                with contextlib.suppress(OSError):
                    if int((entry / "stat").read_text().rpartition(")")[2].split()[1]) == pid:
                        pids.append(int(entry.name))
    return pids


def kill(browser: webdriver.Chrome) -> None:
    """End a browser with its driver as a crash would: at once, and without asking."""
    for pid in processes_of(browser):
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
    # The driver is this test's own child.
    _driver_of(browser).wait()

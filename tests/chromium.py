"""Starting headless Chromium so that it stays on this machine."""

from __future__ import annotations

import os

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


def start_chromium() -> webdriver.Chrome:
    """Return a browser made of the programs that ./test and the tools have found."""
    options = webdriver.ChromeOptions()
    options.binary_location = os.environ["LUCID_RIDGE_CHROMIUM"]
    for flag in FLAGS + (["--no-sandbox"] if os.geteuid() == 0 else []):
        options.add_argument(flag)
    options.add_argument("--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    return webdriver.Chrome(options=options, service=Service(os.environ["LUCID_RIDGE_CHROMEDRIVER"]))

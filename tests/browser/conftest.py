"""The real interface in headless Chromium against the real server and a copy of the demo."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Iterator

import pytest
from chromium import start_chromium
from screen import Screen, fresh_screen
from selenium import webdriver
from served import Door

from lucid_ridge.standins.forecast_service import ForecastService

# One that has shown hundreds of pages grows slow.
_TESTS_TO_A_BROWSER = 40
# A page after another is shown by one process: less work than a process for each.
_ONE_PROCESS = (
    "--disable-features=BackForwardCache,PaintHolding",
    "--renderer-process-limit=1",
    "--num-raster-threads=1",
)
# The worker keeps every file of the application again for each test; where it is what is tried, whole_screen lets it.
_NO_SERVICE_WORKER = (
    "if (navigator.serviceWorker) navigator.serviceWorker.register = () => new Promise(() => undefined);"
)


# Somebody who has opened every section; what a newcomer sees is tried in test_less_at_once.py.
_ALL_OPENED = (
    "try { if (!localStorage.getItem('opened')) localStorage.setItem('opened', '{\"*\":\"open\"}'); } catch {}"
)


class Browsers:
    """The browser that the tests of this process share, now and then a new one."""

    def __init__(self) -> None:
        self._running: webdriver.Chrome | None = None
        self._tests = 0
        self._prepared: set[str] = set()

    def prepare(self, tab: str) -> None:
        """Have every page of the tab at hand begin as tests want it: what is set for a tab goes with it."""
        if self._running is not None and tab not in self._prepared:
            self._running.execute_cdp_cmd(
                "Page.addScriptToEvaluateOnNewDocument", {"source": _NO_SERVICE_WORKER + _ALL_OPENED}
            )
            self._prepared.add(tab)

    def next(self) -> webdriver.Chrome:
        self._tests += 1
        if self._running is None or self._tests > _TESTS_TO_A_BROWSER:
            self.close()
            self._running, self._tests = start_chromium(*_ONE_PROCESS), 1
            self._prepared.clear()
        return self._running

    def close(self) -> None:
        if self._running is not None:
            self._running.quit()
            self._running = None


@pytest.fixture(scope="session")
def browsers() -> Iterator[Browsers]:
    if not os.environ.get("LUCID_RIDGE_CHROMIUM"):
        pytest.fail("This test needs Chromium and ChromeDriver: run it with ./test, which finds them.")
    made = Browsers()
    yield made
    made.close()


@pytest.fixture
def browser(browsers: Browsers) -> webdriver.Chrome:
    """A browser with one empty tab."""
    found = browsers.next()
    first, *others = found.window_handles
    for handle in others:
        found.switch_to.window(handle)
        found.close()
    found.switch_to.window(first)
    browsers.prepare(first)
    return found


@pytest.fixture(scope="session")
def door() -> Iterator[Door]:
    made = Door()
    yield made
    made.close()


@pytest.fixture
def forecasts() -> Iterator[ForecastService]:
    """The simulated forecast service that the server under test asks; its mode can be changed."""
    service = ForecastService()
    yield service
    service.stop()


@pytest.fixture
def address(demo_database: str, door: Door, forecasts: ForecastService) -> Iterator[str]:
    """A server on loopback with its own copy of the demo."""
    with door.onto(demo_database, forecasts.url) as found:
        yield found


@pytest.fixture
def screen(browser: webdriver.Chrome, address: str) -> Iterator[Screen]:
    """A window of 1280 x 800 on the demo; a test fails when the console showed an error."""
    with _watched(fresh_screen(browser, address)) as made:
        yield made


@pytest.fixture
def whole_screen(address: str) -> Iterator[Screen]:
    """The like in the browser that people have: the shell prints pages of its own size."""
    browser = start_chromium(whole=True)
    with _watched(fresh_screen(browser, address)) as made:
        yield made
    browser.quit()


@contextlib.contextmanager
def _watched(screen: Screen) -> Iterator[Screen]:
    yield screen
    screen.network()
    try:
        screen.check_console()
    finally:
        # The page stops asking before its server goes.
        screen.browser.get(f"{screen.address}/api/health")

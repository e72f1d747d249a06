"""The real interface in headless Chromium against the real server and a copy of the demo."""

from __future__ import annotations

import os
import uuid
from collections.abc import Iterator

import pytest
from chromium import start_chromium
from screen import Screen
from selenium import webdriver
from served import served
from sqlalchemy import create_engine, make_url, text

from lucid_ridge.standins.forecast_service import ForecastService


@pytest.fixture(scope="module")
def browser() -> Iterator[webdriver.Chrome]:
    """A new browser for each file: one that has shown hundreds of pages grows slow."""
    if not os.environ.get("LUCID_RIDGE_CHROMIUM"):
        pytest.fail("This test needs Chromium and ChromeDriver: run it with ./test, which finds them.")
    running = start_chromium()
    yield running
    running.quit()


@pytest.fixture
def forecasts() -> Iterator[ForecastService]:
    """The simulated forecast service that the server under test asks; its mode can be changed."""
    service = ForecastService()
    yield service
    service.stop()


@pytest.fixture
def address(server_url: str, template: str, forecasts: ForecastService) -> Iterator[str]:
    """A server on loopback with its own copy of the demo."""
    name = f"browser_{uuid.uuid4().hex[:10]}"
    admin = create_engine(server_url, isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text(f'create database "{name}" template "{template}"'))
    with served(make_url(server_url).set(database=name).render_as_string(hide_password=False), forecasts.url) as found:
        yield found
    with admin.connect() as connection:
        connection.execute(text(f'drop database if exists "{name}" with (force)'))
    admin.dispose()


@pytest.fixture
def screen(browser: webdriver.Chrome, address: str) -> Iterator[Screen]:
    """A window of 1280 x 800 on the demo; a test fails when the console showed an error."""
    made = Screen(browser, address)
    made.size(1280, 800)
    browser.get(address + "/api/health")
    browser.execute_script("localStorage.clear()")
    browser.get_log("browser")
    yield made
    made.network()
    errors = [entry["message"] for entry in browser.get_log("browser") if entry["level"] == "SEVERE"]
    # The page stops asking before its server goes.
    browser.get("about:blank")
    assert [message for message in errors if not made.expects(message)] == []

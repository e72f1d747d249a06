"""Settings from the environment."""

from __future__ import annotations

import os
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path

MAX_REQUEST_BYTES = 1_000_000
# How long an invitation is valid.
INVITED_DAYS = 7
WEB_DIST = Path(__file__).resolve().parents[2] / "web" / "dist"


class Access(StrEnum):
    """Who may use the server.

    open: anyone, for tests and tools. key: browsers with this notebook's key, as its one photographer. accounts:
    signed-in accounts.
    """

    OPEN = "open"
    KEY = "key"
    ACCOUNTS = "accounts"


@dataclass(frozen=True)
class Configuration:
    """Settings. database_url: of the notebook. web_dist: the built front end. forecast_url: of a forecast service;
    None for none.

    key: that a browser must enter, if access is by key. hosts: further names it answers to. behind_proxy: a proxy
    tells where a request comes from and whether it was encrypted. metrics_port: for Prometheus, on loopback; None for
    none. log_json: whether every request is logged as a line of JSON. files_address: where large files are stored
    (store/file_store.py); empty: in the database.
    """

    database_url: str
    web_dist: Path = WEB_DIST
    max_request_bytes: int = MAX_REQUEST_BYTES
    forecast_url: str | None = None
    forecast_simulated: bool = False
    access: Access = Access.OPEN
    key: str = ""
    hosts: frozenset[str] = frozenset()
    behind_proxy: bool = False
    metrics_port: int | None = None
    log_json: bool = False
    files_address: str = ""


def from_environment() -> Configuration:
    """Return the settings of this process; LUCID_RIDGE_DATABASE_URL must be set (./start does it)."""
    url = os.environ.get("LUCID_RIDGE_DATABASE_URL")
    if not url:
        raise SystemExit("LUCID_RIDGE_DATABASE_URL is not set. Start the application with ./start.")
    return Configuration(
        database_url=url,
        forecast_url=os.environ.get("LUCID_RIDGE_FORECAST_URL"),
        access=Access(os.environ.get("LUCID_RIDGE_ACCESS", Access.OPEN)),
        key=os.environ.get("LUCID_RIDGE_KEY", ""),
        hosts=frozenset(os.environ.get("LUCID_RIDGE_HOSTS", "").lower().split()),
        behind_proxy=bool(os.environ.get("LUCID_RIDGE_BEHIND_PROXY")),
        metrics_port=_port(os.environ.get("LUCID_RIDGE_METRICS_PORT")),
        log_json=_log_json(os.environ.get("LUCID_RIDGE_LOG")),
        files_address=_files(os.environ.get("LUCID_RIDGE_FILES", "")),
    )


def _log_json(said: str | None) -> bool:
    if said not in (None, "", "json"):
        raise SystemExit(f"LUCID_RIDGE_LOG must be json, or not be set, not {said}.")
    return said == "json"


def _files(said: str) -> str:
    if said:
        from .store.file_store import refuse_address

        try:
            refuse_address(said)
        except ValueError as error:
            raise SystemExit(f"LUCID_RIDGE_FILES: {error}") from error
    return said


def _port(said: str | None) -> int | None:
    if not said:
        return None
    if not said.isdigit() or not 1 <= int(said) <= 65535:
        raise SystemExit(f"LUCID_RIDGE_METRICS_PORT must be a port from 1 to 65535, not {said}.")
    return int(said)

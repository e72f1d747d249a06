"""What the application is told from outside."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

MAX_REQUEST_BYTES = 1_000_000
WEB_DIST = Path(__file__).resolve().parents[2] / "web" / "dist"


@dataclass(frozen=True)
class Configuration:
    """database_url: where the notebook is kept. web_dist: the built front end. forecast_url: of a forecast service; None for none."""

    database_url: str
    web_dist: Path = WEB_DIST
    max_request_bytes: int = MAX_REQUEST_BYTES
    forecast_url: str | None = None


def from_environment() -> Configuration:
    """Return the settings of this process; LUCID_RIDGE_DATABASE_URL must be set (./start does it)."""
    url = os.environ.get("LUCID_RIDGE_DATABASE_URL")
    if not url:
        raise SystemExit("LUCID_RIDGE_DATABASE_URL is not set. Start the application with ./start.")
    return Configuration(database_url=url, forecast_url=os.environ.get("LUCID_RIDGE_FORECAST_URL"))

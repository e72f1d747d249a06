"""Monitoring: metrics for Prometheus, and a line of JSON for each request.

Neither reveals who asked or for what: operations appear by their pattern, without the numbers in an address, and
bodies not at all.
"""

from __future__ import annotations

import atexit
import logging
import os
import shutil
import tempfile
import time
from collections.abc import Callable
from typing import Any

from flask import Flask, Response, g, request

_LOG = logging.getLogger("lucid_ridge.requests")
# Where several processes combine their metrics; prometheus_client reads it when imported.
_SHARED = "PROMETHEUS_MULTIPROC_DIR"
_SECONDS = (0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0, 30.0)


def share_figures() -> None:
    """Let this process and its children combine their metrics. Call before anything is measured."""
    folder, mine = tempfile.mkdtemp(prefix="lucid-ridge-metrics-"), os.getpid()
    os.environ[_SHARED] = folder

    def clear() -> None:
        # Child processes inherit the setting.
        if os.getpid() == mine:
            shutil.rmtree(folder, ignore_errors=True)

    atexit.register(clear)


def serve_figures(port: int) -> None:
    """Serve all metrics on loopback, for a Prometheus on this machine."""
    from prometheus_client import REGISTRY, CollectorRegistry, start_http_server
    from prometheus_client.multiprocess import MultiProcessCollector

    registry = REGISTRY
    if _SHARED in os.environ:
        registry = CollectorRegistry()
        MultiProcessCollector(registry)
    start_http_server(port, addr="127.0.0.1", registry=registry)


def watch(app: Flask, figures: bool, lines: bool) -> None:
    """Count an application's requests and their durations (figures), and log a line for each API request (lines)."""
    tell = [_counted()] if figures else []
    tell += [_written] if lines else []

    def begin() -> None:
        g.began = time.perf_counter()

    def end(response: Response) -> Response:
        for told in tell:
            told(response.status_code, time.perf_counter() - g.began)
        return response

    if tell:
        app.before_request(begin)
        app.after_request(end)


def _counted() -> Callable[[int, float], None]:
    from prometheus_client import REGISTRY, Histogram

    lasted = Histogram(
        "lucid_ridge_request_seconds",
        "How long requests took.",
        ["operation", "status"],
        buckets=_SECONDS,
        registry=REGISTRY,
    )
    return lambda status, seconds: lasted.labels(operation(), str(status)).observe(seconds)


def _written(status: int, seconds: float) -> None:
    if request.path.startswith("/api/"):
        _LOG.info("answered", extra={"operation": operation(), "status": status, "took_ms": round(1000 * seconds, 1)})


def operation() -> str:
    """Return the operation of the current request, without numbers of its address."""
    return f"{request.method} {request.url_rule.rule if request.url_rule else 'nothing there'}"


def log_as_json() -> None:
    """Log everything as lines of JSON to standard error."""
    from pythonjsonlogger.json import JsonFormatter

    handler = logging.StreamHandler()
    kept: dict[str, Any] = {"rename_fields": {"levelname": "level", "name": "of", "asctime": "at"}}
    handler.setFormatter(JsonFormatter("%(asctime)s %(levelname)s %(name)s %(message)s", **kept))
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)

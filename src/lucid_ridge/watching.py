"""What whoever keeps a server watches it by: figures for Prometheus, and a line of JSON for each request.

Neither knows who asked or for what: operations stand there by their pattern, without the numbers in an address, and
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
# Where several processes put their figures together, as prometheus_client has it; it is read when that is imported.
_SHARED = "PROMETHEUS_MULTIPROC_DIR"
_SECONDS = (0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0, 30.0)


def share_figures() -> None:
    """Let this process and those that it starts put their figures together. Called before anything is measured."""
    folder, mine = tempfile.mkdtemp(prefix="lucid-ridge-metrics-"), os.getpid()
    os.environ[_SHARED] = folder

    def clear() -> None:
        # Those that were started from this one leave what they share.
        if os.getpid() == mine:
            shutil.rmtree(folder, ignore_errors=True)

    atexit.register(clear)


def serve_figures(port: int) -> None:
    """Serve all figures on loopback alone, for a Prometheus on this machine."""
    from prometheus_client import REGISTRY, CollectorRegistry, start_http_server
    from prometheus_client.multiprocess import MultiProcessCollector

    registry = REGISTRY
    if _SHARED in os.environ:
        registry = CollectorRegistry()
        MultiProcessCollector(registry)
    start_http_server(port, addr="127.0.0.1", registry=registry)


def watch(app: Flask, figures: bool, lines: bool) -> None:
    """Have an application count its requests and how long each took (figures), and write a line for each of its
    interface for programs (lines).

    """
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
    """Return what the present request asks for, without any number of its address."""
    return f"{request.method} {request.url_rule.rule if request.url_rule else 'nothing there'}"


def log_as_json() -> None:
    """Write everything that is logged as lines of JSON, to standard error."""
    from pythonjsonlogger.json import JsonFormatter

    handler = logging.StreamHandler()
    kept: dict[str, Any] = {"rename_fields": {"levelname": "level", "name": "of", "asctime": "at"}}
    handler.setFormatter(JsonFormatter("%(asctime)s %(levelname)s %(name)s %(message)s", **kept))
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)

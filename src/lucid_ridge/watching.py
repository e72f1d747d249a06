"""What whoever keeps a server watches it by: figures for Prometheus, and a line of JSON for each request.

Neither knows who asked or for what: operations stand there by their pattern, without the numbers in an address, and bodies not at all.
"""

from __future__ import annotations

import atexit
import logging
import os
import shutil
import tempfile
import time
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


def forget_process(pid: int) -> None:
    """Let a process go that has ended: what it had under way is under way no more; what it counted stays."""
    from prometheus_client.multiprocess import mark_process_dead

    mark_process_dead(pid)


def measure(app: Flask) -> None:
    """Have an application count its requests, and how long each took, by operation and status."""
    from prometheus_client import REGISTRY, CollectorRegistry, Gauge, Histogram

    # Each application has its own in tests; in a process that serves there is one.
    registry: CollectorRegistry = app.config.get("METRICS_REGISTRY") or REGISTRY
    lasted = Histogram(
        "lucid_ridge_request_seconds", "How long requests took.", ["operation", "status"], buckets=_SECONDS, registry=registry
    )
    under_way = Gauge("lucid_ridge_requests_under_way", "Requests that are being answered.", multiprocess_mode="livesum", registry=registry)

    def begin() -> None:
        g.began = time.perf_counter()
        under_way.inc()

    def end(response: Response) -> Response:
        lasted.labels(operation(), str(response.status_code)).observe(time.perf_counter() - g.began)
        return response

    def settled(_error: BaseException | None) -> None:
        if "began" in g:
            under_way.dec()

    app.before_request(begin)
    app.after_request(end)
    app.teardown_request(settled)


def write_requests(app: Flask) -> None:
    """Have an application write a line for each request of its interface for programs."""

    def begin() -> None:
        g.heard = time.perf_counter()

    def end(response: Response) -> Response:
        if request.path.startswith("/api/"):
            took_ms = round(1000 * (time.perf_counter() - g.heard), 1)
            _LOG.info("answered", extra={"operation": operation(), "status": response.status_code, "took_ms": took_ms})
        return response

    app.before_request(begin)
    app.after_request(end)


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

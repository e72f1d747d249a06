"""Serving: on loopback in one process of threads, behind a proxy in several, with a certificate in one."""

from __future__ import annotations

import contextlib
import ctypes
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from apiflask import APIFlask

from .api.platform.files import largest_file
from .watching import serve_figures
from .work import make_worker

_THREADS = 6
# As in malloc.h.
_M_ARENA_MAX = -8
# How much longer than the largest file a body may be.
_BESIDE_A_FILE = 1_000_000


@dataclass(frozen=True)
class Wire:
    """How it is served beyond loopback.

    certificate, private_key: files; None if a proxy encrypts. processes: behind a proxy. metrics_port: on loopback;
    None for none.
    """

    address: str
    port: int
    certificate: Path | None = None
    private_key: Path | None = None
    processes: int = 2
    metrics_port: int | None = None


def loopback_options(largest_body_bytes: int) -> dict[str, Any]:
    """Return the options of the loopback server: many connections may be idle for a while, since browsers keep them
    open.
    """
    return {
        "threads": _THREADS,
        "ident": None,
        "max_request_body_size": largest_body_bytes,
        "connection_limit": 2000,
        "channel_timeout": 60,
        "asyncore_use_poll": True,
    }


def share_memory() -> None:
    """Let all threads allocate from one or two heaps instead of several each (glibc), so that memory freed by one is
    used by another. Elsewhere it does nothing.
    """
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).mallopt(_M_ARENA_MAX, 2)


def serve_on_loopback(app: APIFlask, port: int) -> None:
    """Serve until the process ends, with a worker for jobs."""
    import waitress

    share_memory()
    make_worker(app.extensions["sessions"]).start()
    waitress.serve(app, host="127.0.0.1", port=port, **loopback_options(largest_file(app) + _BESIDE_A_FILE))


def serve_beyond(make_app: Any, wire: Wire) -> None:
    """Serve at a network address until the process ends. make_app: called once in each process, with its own
    connections.

    A request longer than the timeout ends its process, not the others.
    """
    if wire.certificate is not None and wire.private_key is not None:
        _serve_with_certificate(make_app(), wire, wire.certificate, wire.private_key)
        return
    from gunicorn.app.base import BaseApplication

    class Served(BaseApplication):  # type: ignore[misc]
        def load_config(self) -> None:
            for name, value in gunicorn_options(wire).items():
                self.cfg.set(name, value)
            self.cfg.set("post_worker_init", _with_worker)
            if wire.metrics_port is not None:
                port = wire.metrics_port
                self.cfg.set("when_ready", lambda _master: serve_figures(port))

        def load(self) -> Any:
            share_memory()
            return make_app()

    Served().run()


def _serve_with_certificate(app: APIFlask, wire: Wire, certificate: Path, private_key: Path) -> None:
    from .encrypted import serve_encrypted

    share_memory()
    if wire.metrics_port is not None:
        serve_figures(wire.metrics_port)
    make_worker(app.extensions["sessions"]).start()
    serve_encrypted(app, wire.address, wire.port, certificate, private_key, largest_file(app) + _BESIDE_A_FILE)


def gunicorn_options(wire: Wire) -> dict[str, Any]:
    """Return how the processes behind a proxy are set.

    A request that takes longer than the timeout ends its process, not the others.
    """
    return {
        "bind": f"[{wire.address}]:{wire.port}" if ":" in wire.address else f"{wire.address}:{wire.port}",
        "workers": wire.processes,
        "worker_class": "gthread",
        "threads": _THREADS,
        "timeout": 120,
        "graceful_timeout": 20,
        "keepalive": 15,
        "proc_name": "lucid-ridge",
        # No more of a request line and headers is read than the application can use.
        "limit_request_line": 4000,
        "limit_request_fields": 60,
        # The proxy logs requests; here only sign-ins are recorded.
        "accesslog": None,
        "loglevel": "warning",
        "control_socket_disable": True,
        # Whether a request was encrypted is taken from the named proxy only.
        "forwarded_allow_ips": "127.0.0.1,::1",
    }


def _with_worker(process: Any) -> None:
    """Run jobs in every process; each job is held by one."""
    make_worker(process.app.wsgi().extensions["sessions"]).start()

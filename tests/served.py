"""The application on loopback, in a thread of the test."""

from __future__ import annotations

import contextlib
import logging
import threading
from collections.abc import Iterator

import waitress
from flask import Response, request

from lucid_ridge.app import create_app
from lucid_ridge.configuration import Access, Configuration
from lucid_ridge.serving import loopback_options
from lucid_ridge.store.database import make_engine, make_sessions
from lucid_ridge.work import make_worker

_LOG = logging.getLogger("served")


def _log_refusal(response: Response) -> Response:
    """What was refused, and why, stands beside a test that fails by it."""
    if response.status_code >= 400 and request.path.startswith("/api/"):
        _LOG.warning(
            "%s %s %s: %s", request.method, request.path, request.get_data(as_text=True)[:500], response.get_data(as_text=True)[:500]
        )
    return response


@contextlib.contextmanager
def served(database_url: str, forecast_url: str | None = None, access: Access = Access.OPEN, key: str = "") -> Iterator[str]:
    """Serve a database's notebook; gives the address."""
    engine = make_engine(database_url)
    settings = Configuration(database_url="", forecast_url=forecast_url, access=access, key=key)
    app = create_app(settings, make_sessions(engine))
    app.after_request(_log_refusal)
    server = waitress.create_server(app, host="127.0.0.1", port=0, **loopback_options(200_000_000))

    def serve() -> None:
        # Closing the server under its loop ends the loop this way.
        with contextlib.suppress(OSError):
            server.run()

    threading.Thread(target=serve, daemon=True).start()
    worker = make_worker(app.extensions["sessions"])
    worker.start()
    try:
        yield f"http://127.0.0.1:{server.effective_port}"
    finally:
        # What is under way is answered first: a task that finds its server gone fails in a thread of its own.
        server.task_dispatcher.shutdown()
        server.close()
        worker.stop()
        engine.dispose()

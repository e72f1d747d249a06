"""The application on loopback, in threads of the test."""

from __future__ import annotations

import contextlib
import logging
import threading
from collections.abc import Callable, Iterable, Iterator
from typing import Any

import waitress
from apiflask import APIFlask
from flask import Response, request
from sqlalchemy.orm import Session, sessionmaker
from werkzeug.wsgi import ClosingIterator

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
            "%s %s %s: %s",
            request.method,
            request.path,
            request.get_data(as_text=True)[:500],
            response.get_data(as_text=True)[:500],
        )
    return response


class Door:
    """One address on loopback with one database after another behind it: what a browser has kept of the application's
    files is right for all.
    """

    def __init__(self) -> None:
        self._app = _application(sessionmaker())
        self._under_way, self._change = 0, threading.Condition()
        self._server = _serving(self)
        self.address = f"http://127.0.0.1:{self._server.effective_port}"

    def __call__(self, environ: dict[str, object], start_response: Callable[..., object]) -> Iterable[bytes]:
        with self._change:
            self._under_way += 1
        return ClosingIterator(self._app(environ, start_response), self._answered)

    def _answered(self) -> None:
        with self._change:
            self._under_way -= 1
            self._change.notify_all()

    @contextlib.contextmanager
    def onto(self, database_url: str, forecast_url: str | None = None) -> Iterator[str]:
        """Show a database's notebook behind the door; gives the address."""
        engine = make_engine(database_url)
        with _as_before(self._app):
            self._app.extensions.update(sessions=make_sessions(engine), forecast_url=forecast_url)
            with _working(self._app):
                yield self.address
                # What is under way is answered before its database goes.
                with self._change:
                    self._change.wait_for(lambda: self._under_way == 0, timeout=30)
        engine.dispose()

    def close(self) -> None:
        _close(self._server)


@contextlib.contextmanager
def served(database_url: str, access: Access = Access.OPEN, key: str = "") -> Iterator[str]:
    """Serve a database's notebook at an address of its own; gives the address."""
    engine = make_engine(database_url)
    app = _application(make_sessions(engine), access, key)
    server = _serving(app)
    try:
        with _working(app):
            yield f"http://127.0.0.1:{server.effective_port}"
    finally:
        _close(server)
        engine.dispose()


def _application(sessions: sessionmaker[Session], access: Access = Access.OPEN, key: str = "") -> APIFlask:
    app = create_app(Configuration(database_url="", access=access, key=key), sessions)
    app.after_request(_log_refusal)
    return app


@contextlib.contextmanager
def _as_before(app: APIFlask) -> Iterator[None]:
    """Leave an application as it was found."""
    kept = dict(app.extensions)
    try:
        yield
    finally:
        app.extensions.clear()
        app.extensions.update(kept)


@contextlib.contextmanager
def _working(app: APIFlask) -> Iterator[None]:
    """Have an application's long work done."""
    worker = make_worker(app.extensions["sessions"])
    worker.start()
    try:
        yield
    finally:
        worker.stop()


def _serving(app: object) -> Any:
    """Return a server that runs in a thread."""
    server = waitress.create_server(app, host="127.0.0.1", port=0, **loopback_options(200_000_000))

    def serve() -> None:
        # Closing the server under its loop ends the loop this way.
        with contextlib.suppress(OSError):
            server.run()

    threading.Thread(target=serve, daemon=True).start()
    return server


def _close(server: Any) -> None:
    # What is under way is answered first: a task that finds its server gone fails in a thread of its own.
    server.task_dispatcher.shutdown()
    server.close()

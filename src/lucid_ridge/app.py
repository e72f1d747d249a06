"""Builds the application. Commands migrate and fill the database, not the application."""

from __future__ import annotations

import mimetypes
from base64 import b64encode
from hashlib import sha256
from typing import Any
from urllib.parse import urlsplit

from apiflask import APIFlask
from flask import Response, current_app, request
from sqlalchemy.exc import OperationalError
from werkzeug.middleware.proxy_fix import ProxyFix

from . import __version__
from .api.accounts.routes import accounts
from .api.kit.routes import kit
from .api.light.routes import light
from .api.log.field_routes import field
from .api.log.practice_routes import practice
from .api.log.routes import log
from .api.notebook.routes import general
from .api.now.routes import now
from .api.outings.routes import outings
from .api.places.exchange_routes import exchange
from .api.places.routes import places
from .api.platform.answers import AnswerProvider
from .api.platform.context import close, settle, start_anew, tell_revision
from .api.platform.errors import error_response, in_the_way, register_errors
from .api.platform.files import MEDIA_TYPE, file_limit
from .api.platform.front_end import front_end
from .api.platform.openapi import tidy_spec
from .api.platform.visitors import refuse_unknown
from .api.sharing.routes import shares
from .api.shots.bench_routes import frames
from .api.shots.routes import shots
from .api.shots.sequence_routes import sequences
from .api.shots.solution_routes import solutions
from .api.shots.starting_routes import starting
from .configuration import Access, Configuration
from .operations.accounts.accounts import nobodys_password
from .store.database import open_store
from .watching import watch

LOOPBACK = {"127.0.0.1", "localhost", "::1"}


_WITH_BODY = ("POST", "PATCH", "PUT", "DELETE")
# How often a request is tried when transactions conflict.
_TRIES = 3


class LucidRidge(APIFlask):
    """The application; a request is committed where database errors still get the common error shape."""

    def dispatch_request(self) -> Response:
        """Run the view and commit; try again if two transactions conflict."""
        for last in [False] * (_TRIES - 1) + [True]:
            try:
                response = self.make_response(super().dispatch_request())
                settle(response)
                return response
            except OperationalError as error:
                if last or not in_the_way(error):
                    raise
                start_anew()
        raise AssertionError("not reached")


def create_app(settings: Configuration, sessions: Any = None) -> APIFlask:
    """Return the WSGI application. sessions: a session factory in place of one for settings.database_url."""
    app = LucidRidge(
        __name__,
        title="Lucid Ridge",
        version=__version__,
        spec_path="/api/openapi.json",
        docs_path=None,
        static_folder=None,  # type: ignore[arg-type]
    )
    app.config.update(
        MAX_CONTENT_LENGTH=settings.max_request_bytes,
        WEB_DIST=settings.web_dist,
        ACCESS=settings.access,
        KEY=settings.key,
        HOSTS=LOOPBACK | settings.hosts,
        OPENAPI_VERSION="3.1.0",
        AUTO_404_RESPONSE=False,
        VALIDATION_ERROR_DESCRIPTION="A value cannot be accepted.",
    )
    app.json = AnswerProvider(app)
    app.extensions["sessions"] = sessions or open_store(settings.database_url, settings.files_address)
    app.extensions["mimetypes"] = mimetypes
    app.extensions["forecast_url"] = settings.forecast_url
    app.extensions["forecast_simulated"] = settings.forecast_simulated
    if settings.behind_proxy:
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=1, x_proto=1, x_host=1)  # type: ignore[method-assign]
    register_errors(app)
    watch(app, figures=settings.metrics_port is not None, lines=settings.log_json)
    # In this order, so that nothing is read from an unknown visitor.
    app.before_request(_refuse_other_sites)
    app.before_request(refuse_unknown)
    app.before_request(_refuse_odd_bodies)
    app.after_request(tell_revision)
    app.after_request(_headers)
    app.teardown_request(close)
    blueprints = (
        general,
        now,
        accounts,
        places,
        exchange,
        light,
        kit,
        shots,
        frames,
        sequences,
        solutions,
        starting,
        outings,
        field,
        log,
        practice,
        shares,
    )
    for blueprint in blueprints:
        app.register_blueprint(blueprint)
    app.register_blueprint(front_end)
    app.spec_processor(tidy_spec)  # type: ignore[arg-type]
    if settings.access == Access.ACCOUNTS:
        # Computed now, so that the first wrong name takes no longer to refuse than others.
        nobodys_password()
    return app


def _refuse_other_sites() -> Any:
    """Answer only under our own host names, and refuse writes from other sites' pages."""
    if _host_of(f"//{request.host}") not in current_app.config["HOSTS"]:
        return error_response(400, "Lucid Ridge answers under its own names only.")
    return (
        None
        if request.method not in _WITH_BODY or _from_own_page()
        else error_response(403, "Requests from other sites are refused.")
    )


def _from_own_page() -> bool:
    """Return whether a request comes from one of our pages.

    A program need not say so where cookies of accounts are not used.
    """
    origin = request.headers.get("Origin")
    if origin:
        return _netloc_of(origin) == request.host
    return current_app.config["ACCESS"] is not Access.ACCOUNTS or request.headers.get("Sec-Fetch-Site") == "same-origin"


def _refuse_odd_bodies() -> Any:
    """Accept bodies only as JSON or as files: pages of other sites can send neither."""
    if request.method not in _WITH_BODY:
        return None
    limit = file_limit()
    if limit is not None:
        request.max_content_length = limit
        return None if request.mimetype == MEDIA_TYPE else error_response(415, f"Send the file as {MEDIA_TYPE}.")
    if not request.content_length:
        return None
    return _refuse_odd_json() if request.is_json else error_response(415, "Send application/json.")


def _refuse_odd_json() -> Any:
    """Parse the body once, here, where every parse error is answered."""
    try:
        body = request.get_json()
    except (RecursionError, ValueError):
        return error_response(400, "The request could not be read as JSON.")
    return None if isinstance(body, dict) else error_response(422, 'A JSON object is needed, such as {"name": "Weir"}.')


def _host_of(address: str) -> str | None:
    try:
        return urlsplit(address).hostname
    except ValueError:
        return None


def _netloc_of(address: str) -> str | None:
    try:
        return urlsplit(address).netloc
    except ValueError:
        return None


# The digest of an empty style element, which the UI library fills by script.
_NO_TEXT = f"sha256-{b64encode(sha256(b'').digest()).decode()}"
# Nothing is loaded from elsewhere, no inline script or style is allowed, and no other site may frame, embed or post.
_GUARDS = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Permissions-Policy": "geolocation=(), microphone=(), payment=(), usb=(), screen-wake-lock=(self)",
    "Content-Security-Policy": "; ".join(
        (
            "default-src 'self'",
            "script-src 'self'",
            f"style-src 'self' '{_NO_TEXT}'",
            "img-src 'self' data: blob:",
            "object-src 'none'",
            "base-uri 'none'",
            "form-action 'self'",
            "frame-ancestors 'none'",
        )
    ),
}


def _headers(response: Response) -> Response:
    response.headers.update(_GUARDS)
    if request.is_secure:
        response.headers["Strict-Transport-Security"] = "max-age=31536000"
    if request.path.startswith("/api/"):
        response.headers["Cache-Control"] = "no-store"
    return response

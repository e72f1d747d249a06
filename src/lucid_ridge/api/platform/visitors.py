"""Identifies who asks: the one photographer of this machine, a browser with the key, or an account."""

from __future__ import annotations

import hmac
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any, TypeVar

from flask import Response, current_app, g, request

from ...configuration import Access
from ...operations.accounts.accounts import LONGEST, From, signed_in
from ...store.accounts import SignIn
from .request_session import request_session

View = TypeVar("View", bound=Callable[..., Any])
_LONG_S = 400 * 24 * 3600


class SignInNeeded(Exception):
    """Nobody is signed in, or the key is missing."""

    def __init__(self) -> None:
        super().__init__()
        by_key = access() is Access.KEY
        self.message = (
            "This notebook opens by the address that ./start has printed: it holds the key."
            if by_key
            else "Sign in to open your notebook."
        )


def access() -> Access:
    """Return how this application lets anybody in."""
    found: Access = current_app.config["ACCESS"]
    return found


def open_to_all(view: View) -> View:
    """Mark a view that answers without signing in."""
    view.__dict__["open_to_all"] = True
    return view


def refuse_unknown() -> None:
    """Raise SignInNeeded for an unknown visitor, before a body is read."""
    view = current_app.view_functions.get(request.endpoint or "")
    if access() is not Access.OPEN and request.path.startswith("/api/") and not getattr(view, "open_to_all", False):
        owner_who_asks()


def owner_who_asks() -> int | None:
    """Return the owner of this request's notebook; None for the local photographer. Raises SignInNeeded."""
    if access() is Access.OPEN:
        return None
    if access() is Access.KEY:
        if not has_shown_key():
            raise SignInNeeded
        return None
    here = visitor()
    if here is None:
        raise SignInNeeded
    return here.account.owner_id


def has_key(said: str) -> bool:
    """Return whether this is the key of this notebook."""
    key: str = current_app.config["KEY"]
    return bool(key) and hmac.compare_digest(said.encode(), key.encode())


def has_shown_key() -> bool:
    """Return whether this browser has entered the key before."""
    return has_key(request.cookies.get(cookie_name(), ""))


def visitor() -> SignIn | None:
    """Return the browser's session of an account, if it is signed in."""
    if "visitor" not in g:
        token = request.cookies.get(cookie_name(), "")
        g.visitor = signed_in(request_session(), token, datetime.now(UTC)) if token else None
    found: SignIn | None = g.visitor
    return found


def came_from() -> From:
    """Return where this request comes from."""
    return From(request.remote_addr or "", request.headers.get("User-Agent", ""))


def cookie_name() -> str:
    """Return the cookie's name: with encryption, one that no other site or unencrypted page can set; on loopback one
    for each port, which cookies do not distinguish.
    """
    return "__Host-lucid-ridge" if request.is_secure else f"lucid-ridge-{request.host.rpartition(':')[2]}"


def let_in(response: Response, token: str) -> Response:
    """Set the browser's cookie."""
    seconds = int(LONGEST.total_seconds()) if access() is Access.ACCOUNTS else _LONG_S
    response.set_cookie(
        cookie_name(), token, max_age=seconds, path="/", secure=request.is_secure, httponly=True, samesite="Strict"
    )
    return response


def let_out(response: Response) -> Response:
    """Delete the browser's cookie."""
    response.delete_cookie(cookie_name(), path="/", secure=request.is_secure, httponly=True, samesite="Strict")
    return response

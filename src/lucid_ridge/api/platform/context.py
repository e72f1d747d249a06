"""The request's database session and owner: opened on first use, committed once after a successful response."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

from flask import Response, current_app, g, request
from sqlalchemy.orm import Session

from ...core.units.spelling import METRIC, spell
from ...operations.accounts.photographers import owner_and_notebook
from ...operations.platform.shot_context import use_context_token
from ...operations.platform.write_lock import acquire_write_lock, release_write_lock
from .errors import OtherNotebook
from .request_session import request_session
from .visitors import owner_who_asks

View = TypeVar("View", bound=Callable[..., Any])

# Headers of a page: its client id, and the notebook it was opened on. If-Match holds the revision it has read.
CLIENT_HEADER, NOTEBOOK_HEADER = "Lucid-Ridge-Hand", "Lucid-Ridge-Notebook"
# Set if the revision in the response was made by this very request.
WROTE_HEADER = "Lucid-Ridge-Wrote"
_WRITING = ("POST", "PATCH", "PUT", "DELETE")


@dataclass(frozen=True)
class Context:
    session: Session
    owner_id: int


def changes_nothing(view: View) -> View:
    """Mark a view that computes only, or starts a job, so that it does not take the write lock."""
    view.__dict__["changes_nothing"] = True
    return view


def context(keeps_context: bool = False) -> Context:
    """Return this request's session and owner. A writing request waits here for the write lock.

    keeps_context: only choices of one shot will be written.
    """
    found: Context | None = g.get("context")
    if found is None:
        session = request_session()
        owner, g.notebook = owner_and_notebook(session, owner_who_asks())
        # Stored, so that the session does not query it again.
        g.owner = owner
        spell(owner.spelling)
        g.revision = owner.revision
        use_context_token(session, owner.context_token)
        said = request.headers.get(NOTEBOOK_HEADER)
        if said is not None and said != g.notebook:
            raise OtherNotebook
        if _writes():
            writer = acquire_write_lock(
                session, owner.id, request.headers.get(CLIENT_HEADER, "")[:100], _seen(), keeps_context
            )
            g.revision = writer.revision
        found = g.context = Context(session, owner.id)
    return found


def settle(response: Response) -> None:
    """Commit after a successful response, roll back otherwise. Raises database errors."""
    session: Session | None = g.get("session")
    if session is None:
        return
    if response.status_code < 400:
        session.commit()
    else:
        session.rollback()
    release_write_lock(session)


def start_anew() -> None:
    """Roll back and discard the session, so that the view can run again."""
    close(None)
    g.pop("context", None)
    g.pop("visitor", None)


def tell_revision(response: Response) -> Response:
    """Add the notebook and its revision to the response headers, and whether this request made it."""
    if "notebook" in g:
        response.headers[NOTEBOOK_HEADER] = g.notebook
        if response.status_code < 400:
            response.headers["ETag"] = f'"{g.revision}"'
            if _writes():
                response.headers[WROTE_HEADER] = "1"
    return response


def close(_error: BaseException | None) -> None:
    """Close the session; uncommitted changes are rolled back. The thread's next request may be another user's."""
    spell(METRIC)
    session: Session | None = g.pop("session", None)
    if session is not None:
        session.close()


def _writes() -> bool:
    view = current_app.view_functions.get(request.endpoint or "")
    return request.method in _WRITING and not getattr(view, "changes_nothing", False)


def _seen() -> int | None:
    text = (request.headers.get("If-Match") or "").strip().removeprefix("W/").strip('"')
    return int(text) if text.isascii() and text.isdigit() and len(text) < 19 else None

"""The request's database session and owner: opened on first use, committed once when the answer is good."""

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

# What a page says of itself: which page it is, which notebook it was opened on. If-Match holds the revision that it
# had read.
CLIENT_HEADER, NOTEBOOK_HEADER = "Lucid-Ridge-Hand", "Lucid-Ridge-Notebook"
# Set where the revision named is one that this very request has made.
WROTE_HEADER = "Lucid-Ridge-Wrote"
_WRITING = ("POST", "PATCH", "PUT", "DELETE")


@dataclass(frozen=True)
class Context:
    session: Session
    owner_id: int


def changes_nothing(view: View) -> View:
    """Mark a view that computes, or starts work of its own, so that it need not wait for other hands."""
    view.__dict__["changes_nothing"] = True
    return view


def context(keeps_context: bool = False) -> Context:
    """Return this request's session and owner. A request that writes waits here until it is the only one to do so.

    keeps_context: it writes nothing but the choices of one shot.
    """
    found: Context | None = g.get("context")
    if found is None:
        session = request_session()
        owner, g.notebook = owner_and_notebook(session, owner_who_asks())
        # Kept, so that the session does not ask for it again.
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
    """Commit after an answer that is no error, roll back otherwise. Raises what the database says to that."""
    session: Session | None = g.get("session")
    if session is None:
        return
    if response.status_code < 400:
        session.commit()
    else:
        session.rollback()
    release_write_lock(session)


def start_anew() -> None:
    """Roll back and forget the session, so that the view can be run once more."""
    close(None)
    g.pop("context", None)
    g.pop("visitor", None)


def tell_revision(response: Response) -> Response:
    """Name the notebook and its revision in the answer, and whether this request made it."""
    if "notebook" in g:
        response.headers[NOTEBOOK_HEADER] = g.notebook
        if response.status_code < 400:
            response.headers["ETag"] = f'"{g.revision}"'
            if _writes():
                response.headers[WROTE_HEADER] = "1"
    return response


def close(_error: BaseException | None) -> None:
    """Give the connection back; what was not committed is gone. The thread's next request may be another's."""
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

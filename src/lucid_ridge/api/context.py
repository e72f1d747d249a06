"""The request's database session and owner: opened on first use, committed once when the answer is good."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Response, current_app, g
from sqlalchemy.orm import Session, sessionmaker

from ..operations.photographers import local_photographer


@dataclass(frozen=True)
class Context:
    session: Session
    owner_id: int


def context() -> Context:
    """Return this request's session and owner."""
    found: Context | None = g.get("context")
    if found is None:
        sessions: sessionmaker[Session] = current_app.extensions["sessions"]
        session = sessions()
        g.session = session
        found = g.context = Context(session, local_photographer(session).id)
    return found


def finish(response: Response) -> Response:
    """Commit after an answer that is no error, roll back otherwise."""
    session: Session | None = g.get("session")
    if session is not None:
        if response.status_code < 400:
            session.commit()
        else:
            session.rollback()
    return response


def close(_error: BaseException | None) -> None:
    """Give the connection back; what was not committed is gone."""
    session: Session | None = g.pop("session", None)
    if session is not None:
        session.close()

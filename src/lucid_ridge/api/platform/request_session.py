"""The database session of a request."""

from __future__ import annotations

from flask import current_app, g
from sqlalchemy.orm import Session, sessionmaker


def request_session() -> Session:
    """Return this request's database session, opened on first use, without finding the owner."""
    found: Session | None = g.get("session")
    if found is None:
        sessions: sessionmaker[Session] = current_app.extensions["sessions"]
        found = g.session = sessions()
    return found

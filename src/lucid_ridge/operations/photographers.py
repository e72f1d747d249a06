"""The one local photographer."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..store.photographer import Photographer


def local_photographer(session: Session) -> Photographer:
    """Return the local photographer, making the row the first time."""
    found = session.scalars(select(Photographer).order_by(Photographer.id).limit(1)).first()
    if found is None:
        found = Photographer(name="Local photographer")
        session.add(found)
        session.flush()
    return found


def set_theme(session: Session, owner_id: int, theme: str) -> Photographer:
    """Remember the theme the photographer works in."""
    owner = session.get_one(Photographer, owner_id)
    owner.theme = theme
    session.flush()
    return owner
